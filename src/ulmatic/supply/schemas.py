"""What the supply routes take and answer."""

from datetime import date, datetime
from decimal import Decimal
from typing import Annotated, Literal
from uuid import UUID

from pydantic import BaseModel, ConfigDict, Field

from ulmatic.core.materials import Stage
from ulmatic.core.money import Currency
from ulmatic.core.planning import Now, SeasonFigures
from ulmatic.core.stock import LoadSize
from ulmatic.core.supply.certainty import Certainty
from ulmatic.core.supply.chosen import ChosenLine
from ulmatic.core.supply.suppliers import SupplierTerms
from ulmatic.core.survey import Name
from ulmatic.platform.typed import OF_A_KIND, Entry, Typed, TypedEntry
from ulmatic.site.book_schemas import Effect
from ulmatic.site.schemas import SeasonName


class SupplierEntry(TypedEntry):
    """A supplier as typed; its prices are in its currency."""

    name: Name
    currency: Currency
    source: Annotated[SupplierTerms, OF_A_KIND]


class NewSupplier(SupplierEntry):
    """A new supplier; its id is chosen by the sender."""

    id: UUID


class SupplierOut(BaseModel):
    """A supplier as kept."""

    model_config = ConfigDict(from_attributes=True)
    id: UUID
    name: str
    currency: str
    source: SupplierTerms
    typed: Typed
    version: int


class PlotWant(BaseModel):
    """What a plot wants in a season, gets by the plan, and still lacks then, in loose m³; what it accepts by name."""

    plot_id: UUID
    name: str
    priority: int
    accepts: list[str]
    stages: list[Stage]
    needs_m3: float
    gets_m3: float
    short_m3: float
    whole: bool


class SourceOut(BaseModel):
    """Somebody chips can be had from; `name` is empty where nobody is named, `unfit` says why it is left out."""

    key: str
    name: str
    kind: str
    material: str
    material_name: str
    stage: Stage | None
    months: list[int]
    loads_at_most: int | None
    load_m3: float
    exact: bool
    unfit: str | None


class PurchaseOut(BaseModel):
    """A line of a choice: who, how much in words, when (months, 0 is January), and at what price where it is known."""

    key: str
    name: str
    kind: str
    material_name: str
    stage: Stage | None
    amount: str
    loads: int
    volume_m3: float
    exact: bool
    cost: Decimal | None
    by_month: list[tuple[int, int]]


class ChoiceOut(BaseModel):
    """One way to cover the need; `difference` tells it from the best in words.

    `gap` is the share of its cost by which another could be cheaper, where the search was stopped by its limit.
    """

    purchases: list[PurchaseOut]
    cost: float | None
    volume_m3: float
    left_over_m3: float
    short_m3: float
    enough: float
    gap: float
    difference: str | None


class ChoiceEntry(Entry):
    """The loads that are to be had for a season, its total by source; null takes the choice back."""

    season: Annotated[str, Field(max_length=40)] | None = None
    lines: Annotated[list[ChosenLine], Field(max_length=220)] | None


class OneMoreOut(BaseModel):
    """What one load more buys."""

    source: str
    load_m3: float
    whole: list[str]
    part: str | None
    over_m3: float


class Surplus(BaseModel):
    """What is over, of which material, where it can stand, and what it is in a year."""

    material_name: str
    volume_m3: float
    place: str | None
    in_a_year: Stage


class Booking(Entry):
    """A load to be booked of one source for a season; its id is chosen by the sender."""

    id: UUID
    season: Annotated[str, Field(max_length=40)] | None = None
    source: Annotated[str, Field(max_length=80)]


class AgeingLot(BaseModel):
    """Chips that lie here and plots do not accept yet, and from when they do."""

    pile: str | None
    material_name: str
    volume_m3: float
    fit_from: date


class OrderSheet(BaseModel):
    """The order of a season; `nearest` is what covers most where `binding` forbids all.

    `complete` is false where a better alternative than those shown may have been left out.
    `order_by` is the last day to order, so that it is there when the season opens.
    """

    now: Now
    season: SeasonFigures
    seasons: list[SeasonName]
    sources: list[SourceOut]
    choices: list[ChoiceOut]
    complete: bool
    binding: str | None
    nearest: ChoiceOut | None
    plots: list[PlotWant]
    one_more: OneMoreOut | None
    surplus: list[Surplus]
    ageing: list[AgeingLot]
    certainty: Certainty | None
    order_by: date


class Priorities(Entry):
    """Priority by plot: 1 first, 2 as usual, 3 can wait."""

    priorities: Annotated[dict[UUID, Annotated[int, Field(ge=1, le=3)]], Field(max_length=2_000)]


class CrewOffer(BaseModel):
    """An offer as the chip service reports it; what it adds beside this is not read."""

    model_config = ConfigDict(extra="ignore")
    id: Annotated[str, Field(min_length=1, max_length=60)]
    revision: Annotated[int, Field(ge=1)]
    crew: Name
    species: Annotated[list[Name], Field(max_length=12)]
    least_m3: Annotated[float, Field(gt=0, le=200)]
    likely_m3: Annotated[float, Field(gt=0, le=200)]
    most_m3: Annotated[float, Field(gt=0, le=200)]
    distance_km: Annotated[float, Field(ge=0, le=1_000)]
    fee: Annotated[float, Field(ge=0, le=10_000)] = 0.0
    ready_on: date
    expires_at: datetime
    state: Literal["open", "withdrawn", "taken"]


class OfferOut(BaseModel):
    """An offer in the inbox, with what it would do to the site asked about."""

    id: UUID
    crew: str
    species: list[str]
    size: LoadSize
    distance_km: float
    fee: float
    ready_on: date
    expires_at: datetime
    state: Literal["open", "accepted", "declined", "expired", "fell_through"]
    changed: bool
    site_id: UUID | None
    effect: Effect | None


class OfferBox(BaseModel):
    """The inbox as it was last heard."""

    heard_at: datetime | None
    simulated: Literal[True] = True
    now: Now | None = None
    offers: list[OfferOut]


class OfferAnswer(Entry):
    """For which site an offer is accepted."""

    site_id: UUID
