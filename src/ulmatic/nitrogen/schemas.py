"""What the nitrogen routes take and answer."""

from datetime import date
from typing import Annotated
from uuid import UUID

from pydantic import BaseModel, Field

from ulmatic.core.nitrogen import Advised, Dose, GrowingSeason
from ulmatic.core.planning import Now
from ulmatic.core.planning.nitrogen import AccountMark, SchoolSays

Signed = Annotated[str, Field(description="Base 64 of little-endian signed 16-bit integers, hundredths of g N/m²")]


class LayerShare(BaseModel):
    """A layer's part of the account: name, when laid, N it brought, and the most it borrows, g/m²."""

    name: str
    on: date
    planned: bool
    brought: float
    most_owed: float
    cn: float


class NitrogenSheet(BaseModel):
    """The account of a plot, weekly from `first`; below 0 owed, above paid back.

    `low` and `high` follow from the range of the layers' C:N.
    """

    now: Now
    plot_id: UUID
    first: date
    today: date
    weeks: int
    balance: Signed
    low: Signed
    high: Signed
    paid_in: Signed
    washed_out_g_m2: float
    growing: list[int]
    contact_mm: float
    dug_in: bool
    marks: list[AccountMark]
    layers: list[LayerShare]
    seasons: list[GrowingSeason]
    advised: list[Advised]
    dose: Dose | None
    overdone: str
    schools: list[SchoolSays]
    area_m2: float
    to_water_m: float | None


class PlotBalance(BaseModel):
    """A plot's account for the plan."""

    plot_id: UUID
    balance: Signed


class SiteNitrogen(BaseModel):
    """All plots' accounts, weekly from `first`."""

    now: Now
    first: date
    today: date
    weeks: int
    plots: list[PlotBalance]
