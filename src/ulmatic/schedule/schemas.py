"""What the seasons routes take and answer."""

from dataclasses import dataclass
from datetime import date, datetime
from typing import Annotated, Literal
from uuid import UUID

from pydantic import BaseModel, Field

from ulmatic.core.materials import Stage
from ulmatic.core.renewal import Overrides, Rule, Seasons
from ulmatic.log.schemas import EventOut
from ulmatic.platform.typed import TypedEntry

Half = Literal["spring", "autumn"]
Packed = Annotated[str, Field(description="Base 64 of little-endian 16-bit integers, tenths of the unit")]


class RuleEntry(TypedEntry):
    """The rule of a plot; None takes the proposed one."""

    rule: Rule | None


@dataclass(frozen=True)
class TopUpOut:
    """Something to be laid: settled depth, loose m³ in all, the crumb dug out before, and the quarter of a ring.

    `wanted` is when the rule wants it: earlier than `on` where it waits for chips.
    """

    on: date
    wanted: date
    settled_mm: float
    volume_m3: float
    crumb_m3: float
    quarter: int | None


class LayerTrack(BaseModel):
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
    least_mm: float | None
    held: Packed
    mould: Packed
    low: Packed
    high: Packed
    top_ups: list[TopUpOut]
    next_step: str
    falls_below: date | None
    waits_since: date | None
    closes_in: int | None
    crumb_kg_m2: list[float] = Field(description="At the end of each year ahead")


class PileFuture(BaseModel):
    """What becomes of a pile: m³ left in half a year and a year, and when it is ripe to sift."""

    pile: str
    volume_m3: float
    in_half_a_year_m3: float
    in_a_year_m3: float
    ripe_on: date | None


class Weather(BaseModel):
    """What is known of the weather: observed days, when the service was last heard, what is wrong if it was not."""

    observed_from: date | None
    observed_to: date | None
    days: int
    heard_at: datetime | None
    trouble: str | None
    simulated: bool
    outlook_rain_mm: float | None
    outlook_coldest_c: float | None
    climate_known: bool
    extrapolated: str | None


class DemandLine(BaseModel):
    """What a half year takes: m³ by material, loads of the usual size, hours by one person, cost where it is known.

    `crumb_m3` is what is dug out as compost before.
    """

    year: int
    half: Half
    by_material: dict[str, float]
    crumb_m3: float
    volume_m3: float
    loads: int
    hours: float
    cost: float | None


class YearDemand(BaseModel):
    """What rules want in a year with its range, what can be counted on to come unasked, and what is laid."""

    year: int
    volume_m3: float
    laid_m3: float
    low_m3: float
    high_m3: float
    supply_m3: float
    short: bool


class SoilMade(BaseModel):
    """The crumb on all laid ground after so many years, with what harvests dug out: depth, dry mass, carbon.

    Depth and mass are means over the ground, carbon is that of the whole site; ranges are those of slow and fast rates.
    """

    years: int
    crumb_mm: float
    crumb_kg_m2: float
    low_kg_m2: float
    high_kg_m2: float
    carbon_kg: float
    low_carbon_kg: float
    high_carbon_kg: float


class SeasonsSheet(BaseModel):
    """A site through its seasons: weekly from `first`, `today` among them."""

    first: date
    today: date
    weeks: int
    seasons: Seasons
    overridden: Overrides
    open_months: list[int]
    waits: bool
    temperatures_c: list[float]
    rain_mm: list[float]
    weather: Weather
    plots: list[PlotFuture]
    piles: list[PileFuture]
    events: list[EventOut]
    demand: list[DemandLine]
    years: list[YearDemand]
    breaks_in: int | None
    currency: str
    soil: list[SoilMade]


class SiteDemand(BaseModel):
    """What a site takes in each year ahead, m³, the first year first."""

    site_id: UUID
    name: str
    volumes_m3: list[float]


class SeasonDemand(BaseModel):
    """What a half year takes on all sites: m³ by material, loads of each site's usual size, hours by one person.

    `costs` by currency, as far as prices are known; `costs_known` says whether they all are.
    """

    year: int
    half: Half
    by_material: dict[str, float]
    loads: int
    hours: float
    costs: dict[str, float]
    costs_known: bool


class AllDemand(BaseModel):
    """What all sites want by year and take by half year, and what can be counted on to come to them all in a year."""

    years: list[int]
    sites: list[SiteDemand]
    total_m3: list[float]
    supply_m3: float
    breaks_in: int | None
    seasons: list[SeasonDemand]


class LayersSheet(BaseModel):
    """The layers of one plot through time."""

    layers: list[LayerTrack]


class RuleCompared(BaseModel):
    """A rule over the years ahead: yearly means, least depth after the first year, crumb at the end."""

    rule: Rule
    words: str
    volume_m3: float
    hours: float
    cost: float | None
    top_ups: int
    least_mm: float
    mean_mm: float
    crumb_kg_m2: float


class SupplyHeld(BaseModel):
    """The depth that so many m³ a year can hold on all plots that are held above one."""

    supply_m3: float
    depth_mm: float | None
    needed_m3: float


class WeatherImport(BaseModel):
    """How many days were kept."""

    days: int
    first: date
    last: date
