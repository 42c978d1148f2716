"""What the routes for piles, loads and their book take and answer."""

from datetime import date
from typing import Literal
from uuid import UUID

from pydantic import BaseModel

from ulmatic.core.materials import Stage, Worry
from ulmatic.core.planning import Now
from ulmatic.core.stock.load_size import LoadSize
from ulmatic.core.stock.pile_shape import Stand, TipPlan
from ulmatic.platform.typed import Typed


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
    stand: Stand
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
