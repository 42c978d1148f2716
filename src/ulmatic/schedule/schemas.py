"""What the routes of seasons and years take and answer."""

from dataclasses import dataclass
from datetime import date, datetime
from typing import Annotated
from uuid import UUID

from pydantic import BaseModel, Field

from ulmatic.core.materials import Stage
from ulmatic.core.planning import Now
from ulmatic.core.planning.outlook import PileFuture, SeasonDemand, SoilMade, YearDemand
from ulmatic.core.planning.plots import Gap
from ulmatic.core.planning.several import SeasonOfSites
from ulmatic.core.schedule import Overrides, PlaceYear, Rule, Window
from ulmatic.platform.typed import OF_A_KIND, TypedEntry
from ulmatic.site.ledger_schemas import LogEntryOut

Packed = Annotated[str, Field(description="Base 64 of little-endian 16-bit integers, tenths of the unit")]


class RuleEntry(TypedEntry):
    """The rule of a plot; None takes the proposed one."""

    rule: Annotated[Rule, OF_A_KIND] | None


@dataclass(frozen=True)
class LayingOut:
    """Something to be laid: settled depth, loose m³ with spare, the humus dug out before, the quarter of a ring.

    `wanted_on` is when the rule wants it: earlier than `on` where it waits for chips.
    """

    on: date
    wanted_on: date
    season: str
    settled_mm: float
    ordered_m3: float
    reason: str
    humus_m3: float
    quarter: int | None


class LayerOut(BaseModel):
    """One layer through time, for the cut: chips by week, packed in mm, as a mean over the plot.

    `planned` where it is yet to be laid; `quarter` 0 to 3 where it covers one quarter of a ring.
    """

    name: str
    stage: Stage
    on: date
    planned: bool
    quarter: int | None
    chips: Packed


class PlotFuture(BaseModel):
    """What becomes of a plot: by week of the sheet packed in mm; `low` and `high` every fourth week.

    `waits_since` is the day since when it waits for chips that do not come in these years.
    """

    plot_id: UUID
    rule: Rule
    proposed: bool
    material: str
    target_mm: float
    least_mm: float
    held: Packed
    humus: Packed
    low: Packed
    high: Packed
    layings: list[LayingOut]
    next_step: str
    gap: Gap | None
    waits_since: date | None
    closes_in: int | None
    humus_kg_m2: list[float] = Field(description="At the end of each year ahead")


class Weather(BaseModel):
    """What is known of the weather: observed days, when the service was last heard, what is wrong if it was not."""

    observed_from: date | None
    observed_to: date | None
    days: int
    heard_at: datetime | None
    simulated: bool
    outlook_rain_mm: float | None
    outlook_coldest_c: float | None
    climate_known: bool
    extrapolated: str | None


class SeasonOut(BaseModel):
    """A season with its days, both included."""

    key: str
    name: str
    window: str
    opens: date
    closes: date


class SeasonsSheet(BaseModel):
    """A site through its seasons: weekly from `first`, `today` among them."""

    now: Now
    first: date
    today: date
    weeks: int
    place_year: PlaceYear
    windows: list[Window]
    seasons: list[SeasonOut]
    overridden: Overrides
    waits: bool
    temperatures_c: list[float]
    rain_mm: list[float]
    weather: Weather
    plots: list[PlotFuture]
    piles: list[PileFuture]
    log: list[LogEntryOut]
    soil: list[SoilMade]


class YearsSheet(BaseModel):
    """The seasons and years ahead of a site in numbers."""

    now: Now
    seasons: list[SeasonDemand]
    years: list[YearDemand]
    breaks_in: int | None
    currency: str


class SiteYears(BaseModel):
    """What a site wants in each year ahead, m³ with spare, the first year first; its season that runs."""

    site_id: UUID
    name: str
    now: Now
    volumes_m3: list[float]


class AllSites(BaseModel):
    """What all sites want by year and season, and what can be counted on to come to them all in a year."""

    years: list[int]
    sites: list[SiteYears]
    total_m3: list[float]
    supply_m3: float
    breaks_in: int | None
    seasons: list[SeasonOfSites]


class LayersSheet(BaseModel):
    """The layers of one plot through time.

    `shipped` is its depth by week, packed, as it would be forecast had its readings taught nothing; null where they
    have not.
    """

    layers: list[LayerOut]
    shipped: Packed | None = None


class WeatherImport(BaseModel):
    """How many days were kept."""

    days: int
    first: date
    last: date
