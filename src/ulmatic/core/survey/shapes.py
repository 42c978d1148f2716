"""The shapes ground is measured as, each with its area and the working behind it.

Every shape is a frozen value in metres. Its measured fields also take typed text, read in the units of
`ulmatic.core.units.bare_numbers_in`.
"""

import math
from typing import Annotated, Any, Literal, Self

from pydantic import BaseModel, ConfigDict, Field, model_validator
from pydantic_core import PydanticCustomError

from ulmatic.core.units import (
    LENGTH,
    Gap,
    Girth,
    Length,
    MeasureError,
    parse_several,
    reading_system,
    several,
)
from ulmatic.core.working import Figure, Mark, Source, entered, formula

_GEOMETRY = Source(mark=Mark.DEFINITION, text="Plane geometry.")
_BETWEEN_SIDES = r"\s*(?:x|\*|by)\s*"
_BETWEEN_LEGS = r"\s*(?:\+|;|,(?=\s)|\band\b|\n)\s*"

MOST_TREES = 5_000
"""Trees in one plot of rings."""


class _Shape(BaseModel):
    model_config = ConfigDict(frozen=True)


class Rectangle(_Shape):
    """A rectangle; its length may be typed as ``12 x 3.5 m`` with the width left empty."""

    kind: Literal["rectangle"] = "rectangle"
    length_m: Length
    width_m: Length

    @model_validator(mode="before")
    @classmethod
    def _split_both_sides(cls, data: Any) -> Any:
        if not isinstance(data, dict) or not isinstance(data.get("length_m"), str):
            return data
        width = data.get("width_m")
        if width not in (None, "") and width is not data["length_m"]:
            return data
        try:
            sides = parse_several(data["length_m"], LENGTH, reading_system(), _BETWEEN_SIDES)
        except MeasureError:
            return data
        return {**data, "length_m": sides[0], "width_m": sides[1]} if len(sides) == 2 else data

    def area(self) -> Figure:
        """Area in m²."""
        sides = {"l": entered("Length", self.length_m, "m"), "b": entered("Width", self.width_m, "m")}
        return formula("l * b").work("Area", "m2", sides, source=_GEOMETRY)


class Path(_Shape):
    """A path measured leg by leg with one width; legs may be typed as ``12 + 8 + 3.5 m``."""

    kind: Literal["path"] = "path"
    legs_m: Annotated[tuple[Length, ...], several(LENGTH, _BETWEEN_LEGS), Field(min_length=1, max_length=60)]
    width_m: Length

    def area(self) -> Figure:
        """Area in m²."""
        legs = {f"l{number}": entered(f"Leg {number}", leg, "m") for number, leg in enumerate(self.legs_m, 1)}
        total = " + ".join(legs)
        return formula(f"({total}) * b" if len(legs) > 1 else f"{total} * b").work(
            "Area",
            "m2",
            {**legs, "b": entered("Width", self.width_m, "m")},
            note="Measure legs so that each corner is walked once." if len(legs) > 1 else "",
            source=_GEOMETRY,
        )


class Ring(_Shape):
    """Ground round a tree, from a gap outside the trunk to a reach beyond the drip line, for `trees` alike."""

    kind: Literal["ring"] = "ring"
    canopy_m: Length = Field(description="Canopy spread, edge to edge through the trunk")
    trunk_m: Girth = Field(description="Girth or diameter of the trunk, as `trunk_as` says")
    trunk_as: Literal["girth", "diameter"] = "girth"
    gap_m: Gap = Field(description="Kept clear between bark and mulch")
    reach_m: Gap = Field(default=0.0, description="Mulched beyond the drip line")
    trees: int = Field(default=1, ge=1, le=MOST_TREES)

    @property
    def trunk_radius_m(self) -> float:
        """Radius of the trunk in metres."""
        return self.trunk_m / (2 * math.pi) if self.trunk_as == "girth" else self.trunk_m / 2

    @property
    def inner_radius_m(self) -> float:
        """Radius of the ground kept clear, trunk included, in metres."""
        return self.trunk_radius_m + self.gap_m

    @property
    def outer_radius_m(self) -> float:
        """Radius of the mulched ground in metres."""
        return self.canopy_m / 2 + self.reach_m

    @model_validator(mode="after")
    def _has_ground(self) -> Self:
        if self.inner_radius_m >= self.outer_radius_m:
            raise PydanticCustomError(
                "measure",
                "{sentence}",
                {
                    "sentence": "Trunk and gap reach beyond the canopy: no ground is left. Check all three.",
                    "field": "canopy_m",
                },
            )
        return self

    def area(self) -> Figure:
        """Area of all rings in m²."""
        measured = entered(f"Trunk {self.trunk_as}", self.trunk_m, "m")
        trunk = formula("g / (2 * pi)" if self.trunk_as == "girth" else "g / 2").work(
            "Trunk radius", "m", {"g": measured}, source=_GEOMETRY
        )
        inner = formula("rt + gap").work(
            "Inner radius", "m", {"rt": trunk, "gap": entered("Gap at the trunk", self.gap_m, "m")}, source=_GEOMETRY
        )
        canopy = entered("Canopy spread", self.canopy_m, "m")
        outer = formula("k / 2 + reach").work(
            "Outer radius",
            "m",
            {"k": canopy, "reach": entered("Beyond the drip line", self.reach_m, "m")},
            source=_GEOMETRY,
        )
        radii = {"R": outer, "r": inner}
        if self.trees == 1:
            return formula("pi * (R**2 - r**2)").work("Area", "m2", radii, source=_GEOMETRY)
        count = entered("Trees", self.trees, "trees")
        return formula("n * pi * (R**2 - r**2)").work("Area", "m2", {"n": count, **radii}, source=_GEOMETRY)


Shape = Annotated[Rectangle | Path | Ring, Field(discriminator="kind")]
