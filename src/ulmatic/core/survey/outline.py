"""The drawn outline of a shape, in metres about its own middle, and the automatic placing of plots on the plan."""

import itertools
import math
from collections.abc import Iterator, Mapping
from functools import lru_cache
from typing import TypeVar

import shapely
from shapely.geometry import Point
from shapely.geometry.base import BaseGeometry

from ulmatic.core.survey.ground import CutOut, PlantGaps, at_place, centred
from ulmatic.core.survey.place import Place
from ulmatic.core.survey.shapes import Dimension, Shape, disc
from ulmatic.core.survey.shapes.base import DRAWN_SEGMENTS, XY
from ulmatic.core.value import Value

Key = TypeVar("Key")


class Outline(Value):
    """What is drawn of a plot, in metres about its middle, y to the north.

    Attributes
    ----------
    rings : tuple of rings of (x, y)
        The edges of one piece, outsides and holes alike (to be filled even-odd).
    copies : tuple of (x, y)
        Where the piece is repeated; one (0, 0) for a single piece.
    trunks : tuple of (x, y)
        Within one piece, each of `trunk_radius_m`.
    gap_m : float or None
        Kept clear at the trunks.
    cuts : tuple of rings of (x, y)
        Cut-outs, drawn over everything.
    label : (x, y)
        Where its name stands best: the middle, or a point on the ground where the middle is not.
    dimensions : tuple of Dimension
        In the same coordinates as the rings, of the first copy.
    width_m, height_m : float
        Of the box round everything.
    """

    rings: tuple[tuple[XY, ...], ...]
    copies: tuple[XY, ...] = ((0.0, 0.0),)
    trunks: tuple[XY, ...] = ()
    trunk_radius_m: float | None = None
    gap_m: float | None = None
    cuts: tuple[tuple[XY, ...], ...] = ()
    label: XY = (0.0, 0.0)
    dimensions: tuple[Dimension, ...] = ()
    width_m: float
    height_m: float

    def middle_at(self, place: Place) -> XY:
        """Return where its label point lies on the plan when it is put at `place`.

        Returns
        -------
        XY
            Metres.
        """
        return place.put(self.label)

    def edges_at(self, place: Place) -> tuple[tuple[XY, ...], ...]:
        """Return the rings of all its pieces, outsides and holes alike, where they lie when it is put at `place`.

        Returns
        -------
        tuple of tuple of XY
            Metres.
        """
        return tuple(
            tuple(place.put((x + dx, y + dy)) for x, y in ring) for dx, dy in self.copies for ring in self.rings
        )


@lru_cache(maxsize=4096)
def outline(shape: Shape, cut_outs: tuple[CutOut, ...] = ()) -> Outline:
    """Return what is drawn of `shape` with its cut-outs.

    Parameters
    ----------
    shape : Shape
    cut_outs : tuple[CutOut, ...]

    Returns
    -------
    Outline
    """
    piece, copies = shape.pieces()
    west, south, east, north = piece.bounds
    west, east = west + min(x for x, _ in copies), east + max(x for x, _ in copies)
    south, north = south + min(y for _, y in copies), north + max(y for _, y in copies)
    middle_x, middle_y = (west + east) / 2, (south + north) / 2
    first_x, first_y = copies[0]

    def shift(point: XY) -> XY:
        return round(point[0] + first_x - middle_x, 3), round(point[1] + first_y - middle_y, 3)

    return Outline(
        rings=tuple(tuple(shift(point) for point in ring) for ring in _rings(piece)),
        copies=tuple((round(x - first_x, 3), round(y - first_y, 3)) for x, y in copies),
        trunks=tuple(shift(point) for point in shape.trunks()),
        trunk_radius_m=getattr(shape, "trunk_radius_m", None),
        gap_m=getattr(shape, "gap_m", None),
        cuts=tuple(_cuts(shape, cut_outs)),
        label=_label(piece, (middle_x, middle_y)) if len(copies) == 1 and not shape.trunks() else (0.0, 0.0),
        dimensions=tuple(
            line.model_copy(update={"points": (shift(line.points[0]), shift(line.points[1]))})
            for line in shape.dimensions()
        ),
        width_m=east - west,
        height_m=north - south,
    )


def _label(piece: BaseGeometry, middle: XY) -> XY:
    if piece.contains(Point(middle)):
        return 0.0, 0.0
    spot = piece.representative_point()
    return round(spot.x - middle[0], 3), round(spot.y - middle[1], 3)


def _rings(geometry: BaseGeometry) -> Iterator[list[XY]]:
    for part in getattr(geometry, "geoms", [geometry]):
        for edge in [part.exterior, *part.interiors]:
            yield [(x, y) for x, y in edge.coords[:-1]]


MOST_PLANTS_DRAWN = 300


def _cuts(shape: Shape, cut_outs: tuple[CutOut, ...]) -> Iterator[tuple[XY, ...]]:
    """Yield cut-outs where they were put; those without a place are spread over the plot.

    Yields
    ------
    tuple of XY
        Metres about the middle of the plot.
    """
    if not cut_outs:
        return
    body = centred(shape.geometry(DRAWN_SEGMENTS))
    shapely.prepare(body)
    spots = _spread(body)
    for cut_out in cut_outs:
        if isinstance(cut_out, PlantGaps):
            for _ in range(min(cut_out.plants, MOST_PLANTS_DRAWN)):
                x, y = next(spots)
                yield from _rounded(_rings(disc(max(cut_out.gap_m, 0.01), 3, x, y)))
        else:
            x, y = next(spots) if cut_out.place is None else (0.0, 0.0)
            place = cut_out.place or Place(x_m=round(x, 3), y_m=round(y, 3))
            yield from _rounded(_rings(at_place(centred(cut_out.shape.geometry(DRAWN_SEGMENTS)), place)))


def _rounded(rings: Iterator[list[XY]]) -> Iterator[tuple[XY, ...]]:
    for ring in rings:
        yield tuple((round(x, 3), round(y, 3)) for x, y in ring)


def _spread(ground: BaseGeometry) -> Iterator[XY]:
    """Yield points inside, evenly spread (Halton's sequence in the box, those outside left out).

    Yields
    ------
    XY
        Without an end.
    """
    west, south, east, north = ground.bounds
    count = 0
    for number in itertools.count(1):
        x = west + _halton(number, 2) * (east - west)
        y = south + _halton(number, 3) * (north - south)
        if ground.contains(Point(x, y)) or number > 40 * (count + 50):
            count += 1
            yield x, y


def _halton(number: int, base: int) -> float:
    share, value = 1.0, 0.0
    while number > 0:
        share /= base
        value += share * (number % base)
        number //= base
    return value


def footprint(outline: Outline, place: Place) -> tuple[float, float, float, float]:
    """Return the box (west, south, east, north) in metres that a placed outline keeps within.

    Parameters
    ----------
    outline : Outline
    place : Place

    Returns
    -------
    (float, float, float, float)
    """
    turn = math.radians(place.turn_deg)
    half_width = (abs(math.cos(turn)) * outline.width_m + abs(math.sin(turn)) * outline.height_m) / 2
    half_height = (abs(math.sin(turn)) * outline.width_m + abs(math.cos(turn)) * outline.height_m) / 2
    return (place.x_m - half_width, place.y_m - half_height, place.x_m + half_width, place.y_m + half_height)


def arrange(outlines: Mapping[Key, Outline], fixed: Mapping[Key, Place]) -> dict[Key, Place]:
    """Place every outline that has no place yet, so that none of those overlaps another plot.

    Fixed plots stay where they are. The others are set on shelves from west to east, the shelves stacked
    southwards below everything fixed.

    Parameters
    ----------
    outlines : mapping of key to Outline
        All plots, in the order in which they are to be set.
    fixed : mapping of key to Place
        Those that were placed by hand.

    Returns
    -------
    dict of key to Place
        One for each outline.
    """
    places = {key: place for key, place in fixed.items() if key in outlines}
    loose = [key for key in outlines if key not in places]
    if not loose:
        return places
    boxes = [footprint(outlines[key], place) for key, place in places.items()]
    west = min((box[0] for box in boxes), default=0.0)
    fixed_width = max((box[2] for box in boxes), default=0.0) - west
    shelf_top = min((box[1] for box in boxes), default=0.0)
    sizes = [(outlines[key].width_m, outlines[key].height_m) for key in loose]
    aisle = max(0.4, 0.06 * math.sqrt(sum(w * h for w, h in sizes) / len(sizes)))
    widest = max(w for w, _ in sizes)
    shelf_width = max(widest, fixed_width, 1.25 * math.sqrt(sum((w + aisle) * (h + aisle) for w, h in sizes)))
    width_m, tallest = 0.0, 0.0
    shelf_top -= aisle if boxes else 0.0
    for key, (width, height) in zip(loose, sizes, strict=True):
        if width_m > 0 and width_m + width > shelf_width:
            shelf_top, width_m, tallest = shelf_top - tallest - aisle, 0.0, 0.0
        places[key] = Place(
            x_m=round(west + width_m + width / 2, 3), y_m=round(shelf_top - height / 2, 3), turn_deg=0.0
        )
        width_m, tallest = width_m + width + aisle, max(tallest, height)
    return places
