"""What was found on the ground, as far as a decision uses it."""

import math
from enum import StrEnum
from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field

from ulmatic.core.figures import Figure, Mark, Source, Term, Working, entered
from ulmatic.core.units import DEPTH, Depth, Gap, Length, Offset, Share, several


class Cover(StrEnum):
    """What covers the ground now."""

    BARE = "bare"
    ANNUAL_WEEDS = "annual_weeds"
    RUNNING_GRASS = "running_grass"
    LAWN = "lawn"
    OLD_FABRIC = "old_fabric"
    OLD_MULCH = "old_mulch"

    @property
    def living(self) -> bool:
        """Whether it grows on through thin mulch, so that cardboard beneath is worth considering."""
        return self in (Cover.RUNNING_GRASS, Cover.LAWN)


class Found(BaseModel):
    """What was noted of a plot; everything may be left open (None)."""

    model_config = ConfigDict(frozen=True, extra="forbid")
    cover: Cover | None = Field(default=None, description="Decides preparation, cardboard and the least depth")
    readings_mm: Annotated[
        tuple[Depth, ...], several(DEPTH, r"\s*(?:;|\+|\band\b|\n|,(?=\s)|,(?=\d))\s*"), Field(max_length=60)
    ] = Field(default=(), description="Depth at several points; their mean is what lies there")
    soil: Literal["sand", "loam", "clay"] | None = Field(
        default=None, description="Decides nitrogen supply and depth on clay"
    )
    compacted: bool | None = Field(default=None, description="Decides whether to loosen or build up before planting")
    sun: Literal["full", "part", "shade"] | None = Field(default=None, description="Decides drying and decay")
    irrigated: bool | None = Field(default=None, description="Counts as rain in decay")
    to_building_m: Offset | None = Field(default=None, description="Decides fire and termite cautions")
    to_water_m: Offset | None = Field(default=None, description="Decides where nitrogen may be given")
    pets: bool | None = Field(default=None, description="Decides whether cocoa shell is refused")
    children: bool | None = Field(default=None, description="Decides play and spore cautions")
    way_width_m: Length | None = Field(default=None, description="Decides which barrow, cart or loader fits")
    lain_months: Annotated[int, Field(ge=0, le=120)] | None = Field(
        default=None, description="How long what lies there has lain, at a guess; decides how fast it goes on sinking"
    )
    soil_gives_n: Annotated[float, Field(ge=0, le=60, allow_inf_nan=False)] | None = Field(
        default=None, description="What a soil test says the soil gives in a year, g N/m²; goes before the usual figure"
    )
    organic_matter: Annotated[Share, Field(le=0.6)] | None = Field(
        default=None, description="Of the soil, by weight; decides what it gives of nitrogen, before its type does"
    )
    growth_m: Gap | None = Field(
        default=None, description="By how much canopies widen in a year; goes before the usual figure"
    )
    walk_m: Offset | None = Field(default=None, description="Decides labour; from the tip, one way")
    climb_m: Gap | None = Field(default=None, description="Decides labour; from the tip up to the plot")


def existing_depth(given_mm: float, found: Found) -> Figure:
    """Return the settled depth that lies there: the readings' mean with its standard error, else what was given."""
    readings = found.readings_mm
    if not readings:
        return entered("Existing settled depth", given_mm, "mm")
    count = len(readings)
    mean = sum(readings) / count
    spread = math.sqrt(sum((one - mean) ** 2 for one in readings) / (count - 1)) if count > 1 else 0.0
    error = spread / math.sqrt(count)
    return Figure(
        name="Existing settled depth",
        value=mean,
        unit="mm",
        low=max(0.0, mean - error) if count > 1 else None,
        high=mean + error if count > 1 else None,
        source=Source(mark=Mark.COMPUTED, text="Mean of the readings; the range is one standard error of the mean."),
        working=Working(
            formula=("Σ readings ÷ n",),
            terms=tuple(
                Term(symbol=f"z{number}", figure=entered(f"Reading {number}", one, "mm"))
                for number, one in enumerate(readings, 1)
            ),
            note=f"{count} readings; they differ by {spread:.0f} mm (standard deviation)."
            if count > 1
            else "One reading.",
        ),
    )
