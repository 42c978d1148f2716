"""Ground measured along a line: offsets from a baseline, and paths with turns."""

import math
import re
from typing import Annotated, Literal, Self

from pydantic import BeforeValidator, Field, model_validator
from shapely.geometry import LineString
from shapely.geometry import Polygon as Drawn
from shapely.geometry.base import BaseGeometry
from typing_extensions import override

from ulmatic.core.figures import Figure, entered, formula
from ulmatic.core.survey.shapes.base import GEOMETRY, MEASURED_SEGMENTS, XY, BaseShape, Dimension, metres, wrong
from ulmatic.core.units import LENGTH, OFFSET, Length, Offset, several
from ulmatic.core.units.parsing import LONGEST_ENTRY

_BETWEEN = r"\s*(?:\+|;|,(?=\s)|\band\b|\n)\s*"
_PER_INTERVAL = 8
SHARPEST_TURN = 150
ALIKE = 1e-6
"""By so much of itself an area may differ from its formula: what binary fractions leave over."""


def as_drawn(plain: Figure, drawn_m2: float, why: str) -> Figure:
    """Return an area by its formula, or with what sets what is drawn apart from it.

    Parameters
    ----------
    plain : Figure
        By the formula, m².
    drawn_m2 : float
        Of the geometry, which is what counts.
    why : str
        What the difference is.

    Returns
    -------
    Figure
        m².
    """
    difference_m2 = drawn_m2 - plain.value
    if abs(difference_m2) <= ALIKE * max(plain.value, drawn_m2):
        return plain
    part = entered(why, abs(difference_m2), "m2").model_copy(update={"source": GEOMETRY})
    return formula("S + C" if difference_m2 > 0 else "S - C").work(
        "Area", "m2", {"S": plain, "C": part}, source=GEOMETRY
    )


class Offsets(BaseShape):
    """An irregular bed by offsets from a straight baseline at equal distances, the first and the last included.

    With a curved edge and an even number of intervals the area is Simpson's, else the trapezoidal.
    """

    kind: Literal["offsets"] = "offsets"
    spacing_m: Length
    offsets_m: Annotated[tuple[Offset, ...], several(OFFSET, _BETWEEN), Field(min_length=2, max_length=200)]
    edge: Literal["curved", "straight"] = "curved"

    @model_validator(mode="after")
    def _has_ground(self) -> Self:
        if sum(self.offsets_m) <= 0:
            raise wrong("All offsets are 0, so there is no ground between edge and baseline.", "offsets_m")
        return self

    @property
    def simpson(self) -> bool:
        """Whether Simpson's rule applies."""
        return self.edge == "curved" and len(self.offsets_m) % 2 == 1 and len(self.offsets_m) > 2

    def area(self) -> Figure:
        """Area in m².

        Returns
        -------
        Figure
            m².
        """
        ends = {f"y{index}": metres(f"Offset {index + 1}", value) for index, value in enumerate(self.offsets_m)}
        last = len(self.offsets_m) - 1
        inner = range(1, last)
        if self.simpson:
            weighted = " + ".join(["y0", *(f"{4 if index % 2 else 2} * y{index}" for index in inner), f"y{last}"])
            text, note = f"h / 3 * ({weighted})", "Simpson’s rule: the edge is taken as a smooth curve."
        else:
            weighted = " + ".join([f"(y0 + y{last}) / 2", *(f"y{index}" for index in inner)])
            text, note = f"h * ({weighted})", "Trapezoidal rule: the edge is taken as straight between offsets."
            if self.edge == "curved" and last > 1:
                note += " One offset more makes the intervals even in number; then Simpson’s rule follows the curve."
        terms = {"h": metres("Distance between offsets", self.spacing_m), **ends}
        plain = formula(text).work("Area", "m2", terms, note=note, source=GEOMETRY)
        return as_drawn(plain, self.geometry().area, "Where the curve would run below the baseline")

    def _edge(self) -> list[XY]:
        corners = [(index * self.spacing_m, value) for index, value in enumerate(self.offsets_m)]
        if not self.simpson:
            return corners
        curve: list[XY] = []
        for index in range(0, len(corners) - 2, 2):
            curve += self._parabola(*corners[index : index + 3])
        return [*curve, corners[-1]]

    def _parabola(self, first: XY, second: XY, third: XY) -> list[XY]:
        """Return points on the parabola through three offsets, the last left out.

        Chords cut corners: the points between the ends are moved out by as much as makes the area that of the curve.

        Returns
        -------
        list of XY
            Metres.
        """
        (x0, y0), (_, y1), (_, y2) = first, second, third
        parts = [step / _PER_INTERVAL for step in range(2 * _PER_INTERVAL + 1)]
        heights = [y0 * (t - 1) * (t - 2) / 2 - y1 * t * (t - 2) + y2 * t * (t - 1) / 2 for t in parts]
        chords = (sum(heights) - (y0 + y2) / 2) / _PER_INTERVAL
        out = ((y0 + 4 * y1 + y2) / 3 - chords) * _PER_INTERVAL / (2 * _PER_INTERVAL - 1)
        heights[1:-1] = [max(0.0, height + out) for height in heights[1:-1]]
        return [(x0 + t * self.spacing_m, height) for t, height in zip(parts[:-1], heights[:-1], strict=True)]

    @override
    def geometry(self, segments: int = MEASURED_SEGMENTS) -> BaseGeometry:
        """Return the ground between baseline and edge.

        Returns
        -------
        BaseGeometry
            Metres.
        """
        length = self.spacing_m * (len(self.offsets_m) - 1)
        return Drawn([(length, 0.0), (0.0, 0.0), *self._edge()]).buffer(0)

    def dimensions(self) -> tuple[Dimension, ...]:
        """Each offset, and the first distance between two.

        Returns
        -------
        tuple of Dimension
        """
        lines = [
            Dimension(
                field=f"offsets_m.{index}",
                value_m=value,
                points=((index * self.spacing_m, 0), (index * self.spacing_m, value)),
                outward=0,
            )
            for index, value in enumerate(self.offsets_m)
            if value > 0
        ]
        first = Dimension(field="spacing_m", value_m=self.spacing_m, points=((0, 0), (self.spacing_m, 0)), outward=-1)
        return (first, *lines)


_TURN = re.compile(r"^(?:(left|l|right|r)\s*)?(-?\d+(?:\.\d+)?)\s*(?:°|deg|degrees)?\s*(left|l|right|r)?$")


def _read_turns(value: object) -> object:
    if not isinstance(value, str):
        return value
    turns = []
    for piece in (part.strip().lower() for part in re.split(r"[;,+\n]", value)):
        if not piece:
            continue
        turn = _TURN.match(piece) if len(piece) <= LONGEST_ENTRY else None
        if not turn or (turn[1] and turn[3]):
            raise wrong(f"“{piece[:30]}” is not a turn. Type turns like 90 right, 45 left.", "")
        side = (turn[1] or turn[3] or "r")[0]
        turns.append(float(turn[2]) * (-1 if side == "l" else 1))
    return turns


class Path(BaseShape):
    """A path by its legs along the middle, the turns between them and one width.

    Legs may be typed as ``12 + 8 + 3.5 m`` and turns as ``90 right, 45 left``; without turns it is drawn straight.
    """

    kind: Literal["path"] = "path"
    legs_m: Annotated[tuple[Length, ...], several(LENGTH, _BETWEEN), Field(min_length=1, max_length=60)]
    turns_deg: Annotated[
        tuple[Annotated[float, Field(ge=-180, le=180)], ...],
        BeforeValidator(_read_turns, json_schema_input_type=str | list[float]),
    ] = ()
    width_m: Length

    @model_validator(mode="after")
    def _bends(self) -> Self:
        if self.turns_deg and len(self.turns_deg) != len(self.legs_m) - 1:
            fits = len(self.legs_m) - 1
            raise wrong(
                f"Between {len(self.legs_m)} legs there are {fits} turns; {len(self.turns_deg)} are written.",
                "turns_deg",
            )
        if any(abs(turn) > SHARPEST_TURN for turn in self.turns_deg):
            raise wrong(f"A path turns by {SHARPEST_TURN}° at most; start a second path instead.", "turns_deg")
        return self

    def _middle(self) -> list[XY]:
        x, y, heading = 0.0, 0.0, 0.0
        points: list[XY] = [(x, y)]
        for leg, turn in zip(self.legs_m, (*self.turns_deg, *([0.0] * len(self.legs_m))), strict=False):
            x, y = x + leg * math.cos(heading), y + leg * math.sin(heading)
            heading -= math.radians(turn)
            points.append((x, y))
        return points

    def area(self) -> Figure:
        """Area in m²; where the path crosses itself, that ground is counted once.

        Returns
        -------
        Figure
            m².
        """
        legs = {f"l{number}": metres(f"Leg {number}", leg) for number, leg in enumerate(self.legs_m, 1)}
        total = " + ".join(legs)
        width = {"b": metres("Width", self.width_m)}
        plain = formula(f"({total}) * b" if len(legs) > 1 else f"{total} * b").work(
            "Area",
            "m2",
            {**legs, **width},
            note="Legs measured along the middle: with mitred corners each corner is then counted once."
            if len(legs) > 1
            else "",
            source=GEOMETRY,
        )
        drawn = self.geometry().area
        if drawn < plain.value:
            return as_drawn(plain, drawn, "Counted twice where the path meets itself")
        return as_drawn(plain, drawn, "Outer corners that stand out beyond a short leg")

    @override
    def geometry(self, segments: int = MEASURED_SEGMENTS) -> BaseGeometry:
        """Return the strip along the legs with mitred corners.

        Returns
        -------
        BaseGeometry
            Metres.
        """
        return LineString(self._middle()).buffer(self.width_m / 2, cap_style="flat", join_style="mitre", mitre_limit=8)

    def dimensions(self) -> tuple[Dimension, ...]:
        """Each leg along the middle, and the width at the start.

        Returns
        -------
        tuple of Dimension
        """
        points = self._middle()
        half = self.width_m / 2
        legs = [
            Dimension(field=f"legs_m.{index}", value_m=leg, points=(points[index], points[index + 1]), outward=0)
            for index, leg in enumerate(self.legs_m)
        ]
        return (*legs, Dimension(field="width_m", value_m=self.width_m, points=((0, -half), (0, half))))
