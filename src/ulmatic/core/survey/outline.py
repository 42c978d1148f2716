"""The drawn outline of a shape, in metres about its own middle, and the automatic placing of plots on the plan."""

import math
from collections.abc import Mapping
from typing import TypeVar, assert_never

from pydantic import BaseModel, ConfigDict, Field
from shapely.geometry import Point, Polygon, box

from ulmatic.core.survey.shapes import Path, Rectangle, Ring, Shape

Key = TypeVar("Key")

_QUARTER_SEGMENTS = 16
_APART = 1.08
"""Distance of drawn rings in outer diameters; where the trees really stand is not known."""


class Place(BaseModel):
    """Where a plot lies on the plan: its middle in metres east and north, turned counter-clockwise in degrees."""

    model_config = ConfigDict(frozen=True)
    x_m: float = Field(ge=-100_000, le=100_000, allow_inf_nan=False)
    y_m: float = Field(ge=-100_000, le=100_000, allow_inf_nan=False)
    turn_deg: float = Field(default=0.0, ge=-360, le=360, allow_inf_nan=False)


class Outline(BaseModel):
    """What is drawn of a plot.

    Attributes
    ----------
    rings : tuple of rings of (x, y)
        Metres about the middle, y to the north: the outside, then holes.
    copies : tuple of (x, y)
        Where the rings are repeated; one (0, 0) for a single piece.
    trunk_radius_m : float or None
        Of the trunk drawn in the middle of each copy.
    width_m, height_m : float
        Of the box round everything.
    """

    model_config = ConfigDict(frozen=True)
    rings: tuple[tuple[tuple[float, float], ...], ...]
    copies: tuple[tuple[float, float], ...] = ((0.0, 0.0),)
    trunk_radius_m: float | None = None
    width_m: float
    height_m: float


def piece(shape: Shape) -> Polygon:
    """Return one piece of `shape` as a polygon about its middle, in metres (one ring of a plot of rings)."""
    match shape:
        case Rectangle(length_m=length, width_m=width):
            return box(-length / 2, -width / 2, length / 2, width / 2)
        case Path(legs_m=legs, width_m=width):
            return box(-sum(legs) / 2, -width / 2, sum(legs) / 2, width / 2)
        case Ring():
            hole = [Point(0, 0).buffer(shape.inner_radius_m, quad_segs=_QUARTER_SEGMENTS).exterior.coords]
            disc = Point(0, 0).buffer(shape.outer_radius_m, quad_segs=_QUARTER_SEGMENTS)
            return Polygon(disc.exterior.coords, hole if shape.inner_radius_m > 0 else None)
        case _:
            assert_never(shape)


def outline(shape: Shape) -> Outline:
    """Return what is drawn of `shape`."""
    polygon = piece(shape)
    if not isinstance(shape, Ring):
        west, south, east, north = polygon.bounds
        return Outline(rings=_rings(polygon), width_m=east - west, height_m=north - south)
    pitch = 2 * shape.outer_radius_m * _APART
    columns = math.ceil(math.sqrt(shape.trees * 1.6))
    rows = math.ceil(shape.trees / columns)
    columns = min(columns, shape.trees)
    copies = tuple(
        (
            round((index % columns - (columns - 1) / 2) * pitch, 3),
            round(((rows - 1) / 2 - index // columns) * pitch, 3),
        )
        for index in range(shape.trees)
    )
    return Outline(
        rings=_rings(polygon),
        copies=copies,
        trunk_radius_m=shape.trunk_radius_m,
        width_m=(columns - 1) * pitch + 2 * shape.outer_radius_m,
        height_m=(rows - 1) * pitch + 2 * shape.outer_radius_m,
    )


def _rings(polygon: Polygon) -> tuple[tuple[tuple[float, float], ...], ...]:
    edges = [polygon.exterior, *polygon.interiors]
    return tuple(tuple((round(x, 3), round(y, 3)) for x, y in edge.coords[:-1]) for edge in edges)


def footprint(drawn: Outline, place: Place) -> tuple[float, float, float, float]:
    """Return the box (west, south, east, north) in metres that a placed outline keeps within."""
    turn = math.radians(place.turn_deg)
    half_width = (abs(math.cos(turn)) * drawn.width_m + abs(math.sin(turn)) * drawn.height_m) / 2
    half_height = (abs(math.sin(turn)) * drawn.width_m + abs(math.cos(turn)) * drawn.height_m) / 2
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
    west = min((one[0] for one in boxes), default=0.0)
    fixed_width = max((one[2] for one in boxes), default=0.0) - west
    shelf_top = min((one[1] for one in boxes), default=0.0)
    sizes = [(outlines[key].width_m, outlines[key].height_m) for key in loose]
    aisle = max(0.4, 0.06 * math.sqrt(sum(w * h for w, h in sizes) / len(sizes)))
    widest = max(w for w, _ in sizes)
    shelf_width = max(widest, fixed_width, 1.25 * math.sqrt(sum((w + aisle) * (h + aisle) for w, h in sizes)))
    across, tallest = 0.0, 0.0
    shelf_top -= aisle if boxes else 0.0
    for key, (width, height) in zip(loose, sizes, strict=True):
        if across > 0 and across + width > shelf_width:
            shelf_top, across, tallest = shelf_top - tallest - aisle, 0.0, 0.0
        places[key] = Place(x_m=round(west + across + width / 2, 3), y_m=round(shelf_top - height / 2, 3), turn_deg=0.0)
        across, tallest = across + width + aisle, max(tallest, height)
    return places
