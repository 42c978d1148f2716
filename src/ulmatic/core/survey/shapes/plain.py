"""Rectangle, triangle, circle or ellipse, and polygon."""

import math
from typing import Annotated, Any, Literal, Self

from pydantic import BeforeValidator, Field, model_validator
from shapely import affinity
from shapely.geometry import Polygon as Drawn
from shapely.geometry import box
from shapely.geometry.base import BaseGeometry
from shapely.validation import explain_validity
from typing_extensions import override

from ulmatic.core.figures import Figure, Working, formula
from ulmatic.core.survey.shapes.base import GEOMETRY, MEASURED_SEGMENTS, XY, BaseShape, Dimension, disc, metres, wrong
from ulmatic.core.units import (
    LENGTH,
    OFFSET,
    Length,
    MeasureError,
    parse_several,
    parse_signed,
    reading_system,
)

BETWEEN_SIDES = r"\s*(?:x|\*|by)\s*"
MOST_CORNERS = 2_000


class Rectangle(BaseShape):
    """A rectangle; its length may be typed as ``12 x 3.5 m`` with the width left empty."""

    kind: Literal["rectangle"] = "rectangle"
    length_m: Length
    width_m: Length

    @model_validator(mode="before")
    @classmethod
    def _split_both_sides(cls, data: Any) -> Any:
        if not isinstance(data, dict) or not isinstance(data.get("length_m"), str):
            return data
        if data.get("width_m") not in (None, ""):
            return data
        try:
            sides = parse_several(data["length_m"], LENGTH, reading_system(), BETWEEN_SIDES)
        except MeasureError:
            return data
        return {**data, "length_m": sides[0], "width_m": sides[1]} if len(sides) == 2 else data

    def area(self) -> Figure:
        """Area in m².

        Returns
        -------
        Figure
            m².
        """
        sides = {"l": metres("Length", self.length_m), "b": metres("Width", self.width_m)}
        return formula("l * b").work("Area", "m2", sides, source=GEOMETRY)

    @override
    def geometry(self, segments: int = MEASURED_SEGMENTS) -> BaseGeometry:
        """Return the rectangle, its length to the east.

        Returns
        -------
        BaseGeometry
            Metres.
        """
        return box(0, 0, self.length_m, self.width_m)

    def dimensions(self) -> tuple[Dimension, ...]:
        """Length below, width to the left.

        Returns
        -------
        tuple of Dimension
        """
        length, width = self.length_m, self.width_m
        return (
            Dimension(field="length_m", value_m=length, points=((0, 0), (length, 0)), outward=-1),
            Dimension(field="width_m", value_m=width, points=((0, 0), (0, width))),
        )


class Triangle(BaseShape):
    """A three-sided corner, by its sides."""

    kind: Literal["triangle"] = "triangle"
    a_m: Length
    b_m: Length
    c_m: Length

    @model_validator(mode="after")
    def _closes(self) -> Self:
        sides = {"a_m": self.a_m, "b_m": self.b_m, "c_m": self.c_m}
        longest = max(sides, key=lambda side: sides[side])
        if sides[longest] >= sum(sides.values()) - sides[longest]:
            raise wrong("This side is longer than the other two together. Measure it again.", longest)
        return self

    def area(self) -> Figure:
        """Area in m² by Heron's formula.

        Returns
        -------
        Figure
            m².
        """
        sides = {"a": metres("Side a", self.a_m), "b": metres("Side b", self.b_m), "c": metres("Side c", self.c_m)}
        half = formula("(a + b + c) / 2").work("Half the way round", "m", sides, source=GEOMETRY)
        return formula("sqrt(p * (p - a) * (p - b) * (p - c))").work(
            "Area", "m2", {"p": half, **sides}, note="Heron’s formula.", source=GEOMETRY
        )

    def _corners(self) -> tuple[XY, XY, XY]:
        x = (self.a_m**2 + self.c_m**2 - self.b_m**2) / (2 * self.a_m)
        return (0, 0), (self.a_m, 0), (x, math.sqrt(max(0.0, self.c_m**2 - x**2)))

    @override
    def geometry(self, segments: int = MEASURED_SEGMENTS) -> BaseGeometry:
        """Return the triangle on side a.

        Returns
        -------
        BaseGeometry
            Metres.
        """
        return Drawn(self._corners())

    def dimensions(self) -> tuple[Dimension, ...]:
        """One along each side.

        Returns
        -------
        tuple of Dimension
        """
        first, second, third = self._corners()
        return (
            Dimension(field="a_m", value_m=self.a_m, points=(first, second), outward=-1),
            Dimension(field="b_m", value_m=self.b_m, points=(second, third), outward=-1),
            Dimension(field="c_m", value_m=self.c_m, points=(third, first), outward=-1),
        )


class Ellipse(BaseShape):
    """A circle by its diameter, or an ellipse by its two diameters."""

    kind: Literal["ellipse"] = "ellipse"
    across_m: Length
    other_m: Length | None = None

    @model_validator(mode="before")
    @classmethod
    def _empty_is_a_circle(cls, data: Any) -> Any:
        return {**data, "other_m": None} if isinstance(data, dict) and data.get("other_m") == "" else data

    @property
    def _second(self) -> float:
        return self.across_m if self.other_m is None else self.other_m

    def area(self) -> Figure:
        """Area in m².

        Returns
        -------
        Figure
            m².
        """
        first = metres("Across", self.across_m)
        if self.other_m is None:
            return formula("pi * (D / 2)**2").work("Area", "m2", {"D": first}, source=GEOMETRY)
        both = {"D1": first, "D2": metres("Across the other way", self.other_m)}
        return formula("pi * D1 * D2 / 4").work("Area", "m2", both, source=GEOMETRY)

    @override
    def geometry(self, segments: int = MEASURED_SEGMENTS) -> BaseGeometry:
        """Return the ellipse, its first diameter to the east.

        Returns
        -------
        BaseGeometry
            Metres.
        """
        return affinity.scale(disc(0.5, segments), self.across_m, self._second, origin=(0, 0))

    def dimensions(self) -> tuple[Dimension, ...]:
        """Both diameters.

        Returns
        -------
        tuple of Dimension
        """
        half, other = self.across_m / 2, self._second / 2
        lines = [Dimension(field="across_m", value_m=self.across_m, points=((-half, 0), (half, 0)), outward=0)]
        if self.other_m is not None:
            lines.append(Dimension(field="other_m", value_m=self.other_m, points=((0, -other), (0, other)), outward=0))
        return tuple(lines)


def read_corners(value: object) -> object:
    """Read points typed one to a line, each so far along and so far across.

    Parameters
    ----------
    value : object

    Returns
    -------
    object
        As it came where it is no text.

    Raises
    ------
    PydanticCustomError
        Where there are too many points, or one cannot be read.
    """
    if not isinstance(value, str):
        return value
    system = reading_system()
    rows = [row for row in value.replace(";", "\n").splitlines() if row.strip()]
    if len(rows) > MOST_CORNERS:
        raise wrong(f"More than {MOST_CORNERS:,} points; use fewer points.", "")
    corners = []
    for number, row in enumerate(rows, 1):
        pair = row.replace(",", " , ", 1).split(" , ") if "," in row else row.split()
        try:
            if len(pair) != 2:
                raise MeasureError(
                    f"needs two numbers, along and across, like {'4.5, 3' if system == 'metric' else '15, 10'}."
                )
            corners.append(tuple(parse_signed(text, OFFSET, system) for text in pair))
        except MeasureError as error:
            raise wrong(f"Point {number}: {error}", "") from None
    return corners


class Polygon(BaseShape):
    """A polygon by its corners, each so far along and so far across from one point."""

    kind: Literal["polygon"] = "polygon"
    corners_m: Annotated[
        tuple[XY, ...],
        BeforeValidator(read_corners, json_schema_input_type=str | list[XY]),
        Field(max_length=MOST_CORNERS),
    ]

    @model_validator(mode="after")
    def _is_simple(self) -> Self:
        if len(self.corners_m) < 3:
            raise wrong("A polygon needs at least three corners, one per line.", "corners_m")
        if any(not math.isfinite(part) or abs(part) > LENGTH.most for corner in self.corners_m for part in corner):
            raise wrong("A corner is too far away. Is the unit right?", "corners_m")
        drawn = Drawn(self.corners_m)
        if not drawn.is_valid or drawn.area <= 0:
            crossing = "Self-intersection" in explain_validity(drawn)
            raise wrong(
                "The sides cross each other. Type the corners in the order round the bed."
                if crossing
                else "These corners do not enclose an area.",
                "corners_m",
            )
        return self

    def area(self) -> Figure:
        """Area in m² by the shoelace formula.

        Returns
        -------
        Figure
            m².
        """
        value = Drawn(self.corners_m).area
        working = Working(
            formula=("½ × |Σ (x × y′ − x′ × y)|",),
            terms=(),
            note=f"Shoelace formula over {len(self.corners_m)} corners; x′ and y′ are those of the next corner.",
        )
        return Figure(name="Area", value=value, unit="m2", source=GEOMETRY, working=working)

    @override
    def geometry(self, segments: int = MEASURED_SEGMENTS) -> BaseGeometry:
        """Return the polygon.

        Returns
        -------
        BaseGeometry
            Metres.
        """
        return Drawn(self.corners_m)
