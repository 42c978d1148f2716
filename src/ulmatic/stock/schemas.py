"""What the routes for piles, loads and their book take and answer."""

from datetime import date
from typing import Annotated, Literal
from uuid import UUID

from pydantic import BaseModel, Field, StringConstraints

from ulmatic.core.figures import Figure
from ulmatic.core.materials import Stage, Worry
from ulmatic.core.planning import Now
from ulmatic.core.stock.heap import Stand, TipPlan
from ulmatic.core.stock.load_size import LoadSize
from ulmatic.core.stock.receipt import MeasuredVolume
from ulmatic.core.survey import Name
from ulmatic.core.units import Day, Money, Volume
from ulmatic.platform.typed import Typed, TypedEntry

Worries = Annotated[tuple[Worry, ...], Field(max_length=3, description="What is feared of the load")]
Note = Annotated[str, StringConstraints(strip_whitespace=True, max_length=500)]


class ReceiptEntry(TypedEntry):
    """What came and where it was tipped: onto a pile that is there, or a new one on a tip or pile place."""

    received_on: Day
    material: Annotated[str, Field(max_length=80)]
    chipped_on: Day | None = None
    measured: MeasuredVolume
    pile_id: UUID | None = None
    landmark_id: UUID | None = None
    note: Note = ""
    worries: Worries = ()


class DeliveryEntry(TypedEntry):
    """A load that is expected."""

    name: Name
    supplier_id: UUID | None = None
    material: Annotated[str, Field(max_length=80)]
    least_m3: Volume | None = None
    likely_m3: Volume
    most_m3: Volume | None = None
    expected_on: Day | None = None
    cost: Money = 0.0
    note: Note = ""
    worries: Worries = ()


class NewDelivery(DeliveryEntry):
    """A new one; its id is chosen by the sender."""

    id: UUID


class Arrival(ReceiptEntry):
    """A load that nobody expected, received as it came; its id is chosen by the sender."""

    id: UUID
    name: Name
    cost: Money = 0.0


class ReceiptEstimate(BaseModel):
    """The volume of what is being typed, how it stands, and what it does for the plots."""

    volume: Figure
    heap: Stand
    effect: "Effect"


class Effect(BaseModel):
    """What a load does: plots it makes whole, one it serves in part, what is over, how it stands on each tip."""

    material: str
    material_name: str
    volume_m3: float
    accepted_by: int
    whole: list[str]
    part: str | None
    over_m3: float
    short_before_m3: float
    short_after_m3: float
    pile_place: str | None
    tips: list[TipPlan]


class NewBookLine(TypedEntry):
    """Something done with a pile: laid on a plot, moved to another pile or place, taken away, measured, turned."""

    id: UUID
    kind: Literal["lay", "move", "measure", "turn", "take_away"]
    measured: MeasuredVolume | None = None
    plot_id: UUID | None = None
    to_pile_id: UUID | None = None
    to_landmark_id: UUID | None = None
    on: Day
    note: Note = ""


class LotOut(BaseModel):
    """So many m³ of one load as they are today; `fit_from` is when plots accept it that do not yet."""

    delivery_id: UUID
    name: str
    material: str
    material_name: str
    stage: Stage
    age_days: int
    volume_m3: float
    fit_from: date | None


class BookLineOut(BaseModel):
    """A line of the book, `to` in words; the last one can be taken back."""

    id: UUID
    kind: Literal["receive", "lay", "move", "measure", "turn", "take_away"]
    pile: str
    to: str | None
    volume_m3: float
    on: date
    by: str
    note: str
    last: bool


class PileOut(BaseModel):
    """A pile: what lies there, by the loads it came with, and how it stands."""

    id: UUID
    name: str
    landmark_id: UUID | None
    stock_m3: float
    lots: list[LotOut]
    heap: Stand
    plan: TipPlan | None
    turned_on: date | None
    since: date | None


class DeliveryOut(BaseModel):
    """A load, expected or received, with where its m³ went."""

    id: UUID
    name: str
    supplier_id: UUID | None
    state: Literal["expected", "received", "cancelled"]
    material: str
    material_name: str
    size: LoadSize
    expected_on: date | None
    received_on: date | None
    chipped_on: date | None
    volume_m3: float | None
    cost: float
    currency: str
    note: str
    worries: list[Worry]
    photo_id: UUID | None
    from_offer: bool
    typed: Typed
    version: int
    on_piles_m3: float
    on_plots: list["LaidFrom"]
    away_m3: float
    shrunk_m3: float


class LaidFrom(BaseModel):
    """So many m³ on a plot."""

    plot_id: UUID
    plot: str
    volume_m3: float


class StockSheet(BaseModel):
    """Piles, loads and their book."""

    now: Now
    piles: list[PileOut]
    deliveries: list[DeliveryOut]
    lines: list[BookLineOut]
