"""What the supply routes take and answer."""

from datetime import date, datetime
from typing import Annotated, Literal
from uuid import UUID

from pydantic import BaseModel, ConfigDict, Field

from ulmatic.core.figures import Figure
from ulmatic.core.materials import Stage
from ulmatic.core.money.buying import Buying, Currency
from ulmatic.core.money.quote import Quote
from ulmatic.core.stock.load_size import LoadSize
from ulmatic.core.supply.suppliers import SupplierSource
from ulmatic.core.survey import Name
from ulmatic.core.survey.shapes.base import XY
from ulmatic.core.work.carriers import CarrierKind
from ulmatic.platform.typed import Typed, TypedEntry
from ulmatic.stock.schemas import Effect, Note


class SupplierEntry(TypedEntry):
    """A supplier as typed; its prices are in its currency."""

    name: Name
    currency: Currency
    source: SupplierSource


class NewSupplier(SupplierEntry):
    """A new supplier; its id is chosen by the sender."""

    id: UUID


class SupplierOut(BaseModel):
    """A supplier as kept."""

    model_config = ConfigDict(from_attributes=True)
    id: UUID
    name: str
    currency: str
    source: SupplierSource
    typed: Typed
    version: int


class BuyingEntry(TypedEntry, Buying):
    """How a site buys, as typed."""

    model_config = ConfigDict(frozen=False)


class BuyingOut(Buying):
    """The same as kept, with the version of the site it belongs to."""

    model_config = ConfigDict(json_schema_serialization_defaults_required=True)
    typed: Typed
    version: int


class PlotWant(BaseModel):
    """What a plot needs, has got, gets by the plan, and still lacks then, in m³ loose."""

    plot_id: UUID
    name: str
    priority: int
    accepts: list[str]
    needs_m3: float
    laid_m3: float
    gets_m3: float
    short_m3: float
    whole: bool


class SourceOut(BaseModel):
    """Somebody or something chips can be had from; `unfit` says why it is not reckoned with."""

    key: str
    name: str
    kind: str
    material: str
    material_name: str
    months: list[int]
    loads_at_most: int | None
    load_m3: float
    unfit: str | None


class PurchaseOut(BaseModel):
    """A line of a choice: who, how much in words, when (months, 0 is January), and at what price."""

    key: str
    name: str
    kind: str
    material_name: str
    amount: str
    loads: int
    volume_m3: float
    cost: float
    by_month: list[tuple[int, int]]


class ChoiceOut(BaseModel):
    """One way to cover the need; `difference` tells it from the best in words."""

    purchases: list[PurchaseOut]
    cost: float
    volume_m3: float
    left_over_m3: float
    short_m3: float
    enough: float
    difference: str | None


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


class Uncovered(BaseModel):
    """A material that plots want and nobody brings."""

    material_name: str
    volume_m3: float
    plots: list[str]


class PlanSheet(BaseModel):
    """What to order; `nearest` is what covers most where `binding` forbids all."""

    buying: BuyingOut
    needs_m3: float
    there_m3: float
    coming_m3: float
    to_order_m3: float
    sources: list[SourceOut]
    choices: list[ChoiceOut]
    binding: str | None
    nearest: ChoiceOut | None
    plots: list[PlotWant]
    one_more: OneMoreOut | None
    surplus: list[Surplus]
    uncovered: list[Uncovered]


class Priorities(BaseModel):
    """Priority by plot: 1 first, 2 as usual, 3 can wait."""

    priorities: Annotated[dict[UUID, Annotated[int, Field(ge=1, le=3)]], Field(max_length=2_000)]


class LegOut(BaseModel):
    """So many m³ from a tip or pile to a plot."""

    heap: str
    volume_m3: float
    carrier: CarrierKind | None
    carrier_name: str
    trips: int
    walked_m: float
    hours: Figure
    known: bool


class TurnOut(BaseModel):
    """A plot in the order of laying, with the legs that bring its chips."""

    plot_id: UUID
    plot: str
    volume_m3: float
    walk_m: float | None
    before: list[str]
    over: list[str]
    legs: list[LegOut]


class SecondTipOut(BaseModel):
    """Where a second tip would pay."""

    at: XY
    hours_now: float
    hours_then: float
    saves: float | None


class MovingSheet(BaseModel):
    """How it is moved: legs in the order of laying, hours in all and with the people there are."""

    turns: list[TurnOut]
    hours: Figure
    people: int
    trips: int
    walked_m: float
    second_tip: SecondTipOut | None


class QuoteEntry(BaseModel):
    """A quote to be kept: for whom, and words to go with it."""

    id: UUID
    client: Name
    words: Note = ""


class QuoteOut(BaseModel):
    """A quote as kept."""

    id: UUID
    number: int
    client: str
    words: str
    quote: Quote
    created_at: datetime


class QuoteSheet(BaseModel):
    """The quote as it would be now, with why there is none, and those kept."""

    now: Quote | None
    wanting: str | None
    kept: list[QuoteOut]


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
    """The inbox: when the service was last heard, and what is wrong where it was not."""

    heard_at: datetime | None
    trouble: str | None
    simulated: Literal[True] = True
    offers: list[OfferOut]


class OfferAnswer(BaseModel):
    """For which site an offer is accepted."""

    site_id: UUID
