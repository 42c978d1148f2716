"""Opened rows on the ground of a plot: where they lie, how much ground they take, and the chips that lie aside."""

import math
from functools import lru_cache

import shapely
from shapely import MultiPolygon, Polygon, affinity
from shapely.geometry.base import BaseGeometry

from ulmatic.core.figures import Figure, entered, formula
from ulmatic.core.log import Opened
from ulmatic.core.survey import Outline
from ulmatic.core.survey.shapes.base import XY
from ulmatic.core.value import Value


class RowsDrawn(Value):
    """Opened ground as it is drawn, in metres about the plot's middle, and its area, cut to the plot's ground.

    Attributes
    ----------
    rings : tuple of rings of (x, y)
    length_m : float
        Of all rows together, within the plot.
    """

    rings: tuple[tuple[XY, ...], ...]
    area_m2: float
    length_m: float


@lru_cache(maxsize=2048)
def drawn_rows(outline: Outline, opened: Opened) -> RowsDrawn:
    """Return where opened ground lies: along the plot's long side, spread evenly where nothing else is said.

    The area is that of what is drawn, within the plot.

    Parameters
    ----------
    outline : Outline
        Of the plot.
    opened : Opened

    Returns
    -------
    RowsDrawn
    """
    ground = _ground(outline)
    corner, cross_axis, row_axis, length_m, width_m = _long_side(ground)
    count = 1 if opened.form == "patch" else opened.count
    spacing_m = opened.apart_m or width_m / count
    first = opened.in_m if opened.in_m is not None else (width_m - spacing_m * (count - 1)) / 2
    begins = opened.along_m if opened.along_m is not None else (length_m - opened.length_m) / 2
    pieces: list[Polygon] = []
    for number in range(count):
        middle = first + spacing_m * number
        corners = [
            (begins, middle - opened.width_m / 2),
            (begins + opened.length_m, middle - opened.width_m / 2),
            (begins + opened.length_m, middle + opened.width_m / 2),
            (begins, middle + opened.width_m / 2),
        ]
        row = Polygon(
            [
                (corner[0] + cross_axis[0] * x + row_axis[0] * y, corner[1] + cross_axis[1] * x + row_axis[1] * y)
                for x, y in corners
            ]
        )
        pieces += _polygons(row.intersection(ground))
    opened_area = shapely.unary_union(pieces)
    rings = tuple(
        tuple((float(x), float(y)) for x, y in ring.coords)
        for piece in _polygons(opened_area)
        for ring in (piece.exterior, *piece.interiors)
    )
    return RowsDrawn(rings=rings, area_m2=float(opened_area.area), length_m=float(opened_area.area) / opened.width_m)


def _ground(outline: Outline) -> BaseGeometry:
    """Return the ground of a plot: its rings are filled even-odd, and cut-outs taken out.

    Returns
    -------
    BaseGeometry
    """
    ground: BaseGeometry = Polygon()
    for dx, dy in outline.copies:
        piece: BaseGeometry = Polygon()
        for ring in outline.rings:
            piece = piece.symmetric_difference(Polygon(ring))
        ground = ground.union(affinity.translate(piece, dx, dy))
    for ring in outline.cuts:
        ground = ground.difference(Polygon(ring))
    return ground


def _long_side(ground: BaseGeometry) -> tuple[XY, XY, XY, float, float]:
    """Return a corner of the narrowest box round some ground, its directions along and across, its length and width.

    Returns
    -------
    (XY, XY, XY, float, float)
        Metres; directions have length 1.
    """
    box = shapely.minimum_rotated_rectangle(ground)
    corners = list(box.exterior.coords)[:4] if isinstance(box, Polygon) else [(0.0, 0.0), (1.0, 0.0), (1.0, 1.0)]
    sides = [math.dist(corners[index], corners[index + 1]) for index in range(2)]
    index = 0 if sides[0] >= sides[1] else 1
    begin, end = corners[index], corners[index + 1]
    other = corners[(index + 2) % 4]
    length_m, width_m = sides[index], sides[1 - index]
    long_axis = ((end[0] - begin[0]) / length_m, (end[1] - begin[1]) / length_m)
    short_axis = ((other[0] - end[0]) / width_m, (other[1] - end[1]) / width_m)
    return (float(begin[0]), float(begin[1])), long_axis, short_axis, length_m, width_m


def _polygons(geometry: BaseGeometry) -> list[Polygon]:
    if isinstance(geometry, Polygon):
        return [] if geometry.is_empty else [geometry]
    if isinstance(geometry, MultiPolygon):
        return list(geometry.geoms)
    return [piece for part in getattr(geometry, "geoms", ()) for piece in _polygons(part)]


def pulled_aside(area_m2: float, depth_mm: float, settling: float) -> Figure:
    """Return the loose m³ that lie aside when ground is opened: they stay on the plot, and are not ordered again.

    Parameters
    ----------
    area_m2 : float
        Opened.
    depth_mm : float
        Of the mulch there, settled.
    settling : float
        Share of the loose depth that is lost.

    Returns
    -------
    Figure

    Examples
    --------
    >>> round(pulled_aside(2.4, 75, 0.25).value, 2)
    0.24
    """
    terms = {
        "A": entered("Opened ground", area_m2, "m2"),
        "d": entered("Depth there, settled", depth_mm, "mm"),
        "s": entered("Settling", settling, "1"),
    }
    return formula("A * d / (1 - s)").work("Chips pulled aside", "m3", terms)


def put_back(area_m2: float, depth_mm: float, growing_mm: float, settling: float) -> Figure:
    """Return the loose m³ that are put back when plants are up: to the depth for growing plants, of what lies aside.

    Parameters
    ----------
    area_m2 : float
    depth_mm : float
        Of the mulch that was pulled aside, settled.
    growing_mm : float
        Depth for growing plants, settled.
    settling : float
        Share of the loose depth that is lost.

    Returns
    -------
    Figure

    Examples
    --------
    >>> round(put_back(2.4, 75, 30, 0.25).value, 2)
    0.1
    """
    terms = {
        "A": entered("Opened ground", area_m2, "m2"),
        "d": entered("Depth there, settled", depth_mm, "mm"),
        "g": entered("Depth round growing plants, settled", growing_mm, "mm"),
        "s": entered("Settling", settling, "1"),
    }
    return formula("A * min(d, g) / (1 - s)").work("Chips put back", "m3", terms)
