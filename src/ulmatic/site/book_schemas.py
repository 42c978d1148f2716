"""What is typed of loads and piles, and what a load would do."""

from typing import Annotated, Literal
from uuid import UUID

from pydantic import BaseModel, Field

from ulmatic.core.figures import Figure
from ulmatic.core.materials.material import Worry
from ulmatic.core.stock.pile_shape import Stand, TipPlan
from ulmatic.core.stock.receipt import MeasuredVolume
from ulmatic.core.survey.plot import Name
from ulmatic.core.units import Day
from ulmatic.core.units.currency_amounts import Money
from ulmatic.core.units.fields import Volume
from ulmatic.platform.typed import TypedEntry
from ulmatic.site.schemas import Note

Worries = Annotated[tuple[Worry, ...], Field(max_length=3, description="What is feared of the load")]


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
    stand: Stand
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
