"""What was found on the ground, as far as a decision uses it."""

from enum import StrEnum
from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field

from ulmatic.core.units import Gap, Length, Offset, Share


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
    soil: Literal["sand", "loam", "clay", "dead"] | None = Field(
        default=None, description="Decides nitrogen supply, and whether it is built up first"
    )
    build_up: bool | None = Field(default=None, description="Decides whether poor ground is built up before planting")
    compacted: bool | None = Field(default=None, description="Decides whether to loosen or build up before planting")
    sun: Literal["full", "part", "shade"] | None = Field(
        default=None, description="Decides whether to soak before laying"
    )
    irrigated: bool | None = Field(default=None, description="Counts as rain in decay")
    to_building_m: Offset | None = Field(default=None, description="Decides fire and termite cautions")
    to_water_m: Offset | None = Field(default=None, description="Decides where nitrogen may be given")
    pets: bool | None = Field(default=None, description="Decides whether cocoa shell is refused")
    children: bool | None = Field(default=None, description="Decides cautions on what a load may hold")
    way_width_m: Length | None = Field(default=None, description="Decides which barrow, cart or loader fits")
    soil_gives_n: Annotated[float, Field(ge=0, le=60, allow_inf_nan=False)] | None = Field(
        default=None, description="What a soil test says the soil gives in a year, g N/m²; goes before the usual figure"
    )
    organic_matter: Annotated[Share, Field(le=0.6)] | None = Field(
        default=None, description="Of the soil, by weight; decides what it gives of nitrogen, before its type does"
    )
    guarded: bool | None = Field(
        default=None, description="Trunks have guards already; decides whether some are listed"
    )
    growth_m: Gap | None = Field(
        default=None, description="By how much canopies widen in a year; goes before the usual figure"
    )
    walk_m: Offset | None = Field(default=None, description="Decides labour; from the tip, one way")
    climb_m: Gap | None = Field(default=None, description="Decides labour; from the tip up to the plot")
