"""What was found on the ground, as far as a decision uses it."""

from enum import StrEnum
from typing import Annotated, Literal

from pydantic import ConfigDict, Field

from ulmatic.core.units import Gap, Length, Offset, Share
from ulmatic.core.value import Value


class ExistingCover(StrEnum):
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
        return self in (ExistingCover.RUNNING_GRASS, ExistingCover.LAWN)


class SiteConditions(Value):
    """What was noted of a plot; everything may be left open (None)."""

    model_config = ConfigDict(extra="forbid")
    cover: ExistingCover | None = Field(default=None, description="For preparation, cardboard and least depth")
    soil: Literal["sand", "loam", "clay", "dead"] | None = Field(
        default=None, description="For nitrogen supply and building up"
    )
    build_up: bool | None = Field(default=None, description="For building up poor ground before planting")
    compacted: bool | None = Field(default=None, description="For loosening or building up before planting")
    sun: Literal["full", "part", "shade"] | None = Field(default=None, description="For soaking before laying")
    irrigated: bool | None = Field(default=None, description="Counts as rain in decay")
    to_building_m: Offset | None = Field(default=None, description="For fire and termite cautions")
    to_water_m: Offset | None = Field(default=None, description="For limits on nitrogen")
    pets: bool | None = Field(default=None, description="Excludes cocoa shell")
    children: bool | None = Field(default=None, description="For cautions about loads")
    way_width_m: Length | None = Field(default=None, description="Limits which barrow, cart or loader fits")
    soil_gives_n: Annotated[float, Field(ge=0, le=60, allow_inf_nan=False)] | None = Field(
        default=None, description="Nitrogen supply by soil test, g N/m² a year; used instead of the usual figure"
    )
    organic_matter: Annotated[Share, Field(le=0.6)] | None = Field(
        default=None, description="Of the soil, by weight; sets its nitrogen supply instead of its type"
    )
    guarded: bool | None = Field(default=None, description="Trunk guards in place; for the list of guards")
    growth_m: Gap | None = Field(default=None, description="Canopy growth per year; used instead of the usual figure")
    walk_m: Offset | None = Field(default=None, description="For hours of work; from the tip, one way")
    climb_m: Gap | None = Field(default=None, description="For hours of work; from the tip up to the plot")
