"""Between the plan and the earth: a site's location is that of the plan's point (0, 0)."""

import math
import re
from collections.abc import Iterable
from typing import TYPE_CHECKING, Annotated

from pydantic import BeforeValidator, Field

from ulmatic.core.survey.shapes.base import XY, wrong
from ulmatic.core.units.parsing import LONGEST_ENTRY

if TYPE_CHECKING:
    from pyproj import Transformer

_NUMBER = re.compile(r"[-+]?\d+(?:\.\d+)?")


def _read(value: object) -> object:
    if isinstance(value, str):
        if not value.strip():
            return None
        parts = _NUMBER.findall(value) if len(value) <= 2 * LONGEST_ENTRY else []
        if len(parts) != 2:
            raise wrong("Type latitude and longitude in degrees, like 51.0543, -3.1227, or leave it empty.", "")
        value = (float(parts[0]), float(parts[1]))
    pair = (
        isinstance(value, list | tuple) and len(value) == 2 and all(isinstance(number, int | float) for number in value)
    )
    if isinstance(value, list | tuple) and pair and not (abs(value[0]) <= 85 and abs(value[1]) <= 180):
        raise wrong("Latitude lies between -85 and 85, longitude between -180 and 180. Is the order right?", "")
    return value


Location = Annotated[
    tuple[Annotated[float, Field(allow_inf_nan=False)], Annotated[float, Field(allow_inf_nan=False)]] | None,
    BeforeValidator(_read, json_schema_input_type=str | list[float] | None),
]
"""Latitude and longitude in degrees, WGS 84; may be left open."""


def _projection(location: tuple[float, float]) -> str:
    return f"+proj=aeqd +lat_0={location[0]} +lon_0={location[1]} +datum=WGS84 +units=m"


def _turned(points: Iterable[XY], degrees: float) -> list[XY]:
    turn = math.radians(degrees)
    return [(x * math.cos(turn) - y * math.sin(turn), x * math.sin(turn) + y * math.cos(turn)) for x, y in points]


def _transformer(source: str, target: str) -> "Transformer":
    from pyproj import Transformer

    return Transformer.from_crs(source, target, always_xy=True)


def to_earth(points: Iterable[XY], location: tuple[float, float], north_deg: float) -> list[XY]:
    """Return plan points (m) as (longitude, latitude); north lies `north_deg` clockwise from the plan's up.

    Parameters
    ----------
    points : iterable of XY
        x and y, m.
    location : tuple[float, float]
        Latitude and longitude of the plan's (0, 0), °.
    north_deg : float
        ° clockwise.

    Returns
    -------
    list of XY
        Degrees.
    """
    transformer = _transformer(_projection(location), "EPSG:4326")
    return [transformer.transform(x, y) for x, y in _turned(points, north_deg)]


def to_plan(points: Iterable[XY], location: tuple[float, float], north_deg: float) -> list[XY]:
    """Return (longitude, latitude) points as plan points in metres; the reverse of `to_earth`.

    Parameters
    ----------
    points : iterable of XY
        Longitude and latitude, °.
    location : tuple[float, float]
        Latitude and longitude of the plan's (0, 0), °.
    north_deg : float
        ° clockwise.

    Returns
    -------
    list of XY
        Metres.
    """
    projection = _transformer("EPSG:4326", _projection(location))
    return _turned([projection.transform(x, y) for x, y in points], -north_deg)
