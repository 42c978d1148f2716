"""A boundary walked with a receiver, as latitudes and longitudes."""

import math
import re
from functools import lru_cache
from typing import TYPE_CHECKING, Annotated, Literal, Self

import numpy as np
from pydantic import BeforeValidator, Field, model_validator
from shapely.geometry import Polygon as Drawn
from shapely.validation import explain_validity
from typing_extensions import override

from ulmatic.core.figures import Figure, Mark, Source, Term, Working, entered
from ulmatic.core.survey.shapes.base import MEASURED_SEGMENTS, XY, BaseShape, wrong
from ulmatic.core.units import Gap

if TYPE_CHECKING:
    from pyproj import Transformer

MOST_POINTS = 5_000
LARGEST_M = 10_000
NEAR = 20
"""Parts of a degree in which boundaries share a projection."""
_NUMBER = re.compile(r"[-+]?\d+(?:\.\d+)?")


def turned(degrees: float) -> float:
    """Return an angle between −180° and 180°.

    Parameters
    ----------
    degrees : float

    Returns
    -------
    float
        Degrees.
    """
    return (degrees + 180.0) % 360.0 - 180.0


def _read_points(value: object) -> object:
    if not isinstance(value, str):
        return value
    points = []
    for number, row in enumerate((row for row in re.split(r"[;\n]", value) if row.strip()), 1):
        parts = _NUMBER.findall(row)
        if len(parts) != 2 or number > MOST_POINTS:
            raise wrong(f"Point {number} needs a latitude and a longitude in degrees, like 51.0543, -3.1227.", "")
        points.append((float(parts[0]), float(parts[1])))
    return points


@lru_cache(maxsize=256)
def _projection(latitude: float, longitude: float) -> "Transformer":
    """Return the equal-area projection about a point near by: areas are the same about any.

    Returns
    -------
    Transformer
    """
    projection = f"+proj=laea +lat_0={latitude} +lon_0={longitude} +datum=WGS84 +units=m"
    from pyproj import Transformer

    return Transformer.from_crs("EPSG:4326", projection, always_xy=True)


class Walked(BaseShape):
    """A walked boundary: (latitude, longitude) in degrees, WGS 84, and how far off a point may be."""

    kind: Literal["walked"] = "walked"
    points_deg: Annotated[
        tuple[tuple[Annotated[float, Field(ge=-90, le=90)], Annotated[float, Field(ge=-180, le=180)]], ...],
        BeforeValidator(_read_points, json_schema_input_type=str | list[XY]),
        Field(max_length=MOST_POINTS),
    ]
    accuracy_m: Gap = 3.0

    @property
    def taped(self) -> bool:
        """A receiver gives plan positions, never lengths along a slope."""
        return False

    @model_validator(mode="after")
    def _encloses(self) -> Self:
        if len(set(self.points_deg)) < 3:
            raise wrong("A walked boundary needs at least three different points.", "points_deg")
        drawn = self.geometry()
        west, south, east, north = drawn.bounds
        if max(east - west, north - south) > LARGEST_M:
            raise wrong(
                "This boundary is more than 10 km across. Are latitude and longitude in the right order?", "points_deg"
            )
        if not drawn.is_valid and "Self-intersection" in explain_validity(drawn):
            raise wrong("The boundary crosses itself. Remove the points where you walked back or aside.", "points_deg")
        if drawn.area <= 0:
            raise wrong("These points do not enclose an area.", "points_deg")
        return self

    def middle_deg(self) -> tuple[float, float]:
        """Return the mean latitude and longitude, also where the boundary runs across the 180th meridian.

        Returns
        -------
        (float, float)
            Degrees.
        """
        first, count = self.points_deg[0][1], len(self.points_deg)
        east = sum(turned(longitude - first) for _, longitude in self.points_deg) / count
        return sum(latitude for latitude, _ in self.points_deg) / count, turned(first + east)

    @override
    def geometry(self, segments: int = MEASURED_SEGMENTS) -> Drawn:
        """Return the boundary in metres east and north of its middle (Lambert azimuthal equal-area).

        Returns
        -------
        Drawn
            With the corners, in metres.
        """
        latitude, longitude = self.middle_deg()
        local = _projection(round(latitude * NEAR) / NEAR, round(longitude * NEAR) / NEAR)
        latitudes, longitudes = np.array([*self.points_deg, (latitude, longitude)]).T
        east, north = local.transform(longitudes, latitudes)
        return Drawn(np.column_stack([east[:-1] - east[-1], north[:-1] - north[-1]]))

    def area(self) -> Figure:
        """Area in m² on the ellipsoid, with one standard error either way from the receiver's accuracy.

        Returns
        -------
        Figure
            m².
        """
        drawn = self.geometry()
        value, corners = drawn.area, list(drawn.exterior.coords)[:-1]
        diagonals = [
            math.dist(corners[index - 1], corners[(index + 1) % len(corners)]) for index in range(len(corners))
        ]
        error = self.accuracy_m / 2 * math.sqrt(sum(width**2 for width in diagonals))
        working = Working(
            formula=("area within the boundary, as drawn",),
            terms=(Term(symbol="σ", figure=entered("A point may be off by", self.accuracy_m, "m")),),
            note=f"{len(corners)} points. Range: one standard error, σ ÷ 2 × √Σ(distance of each point’s neighbours)²,"
            " for errors independent of each other. A drift shared by all points shifts the boundary, not its area.",
        )
        return Figure(
            name="Area",
            value=value,
            unit="m2",
            low=max(0.0, value - error),
            high=value + error,
            source=Source(
                mark=Mark.PUBLISHED, text="Lambert azimuthal equal-area projection of the WGS 84 ellipsoid, by PROJ."
            ),
            working=working,
        )
