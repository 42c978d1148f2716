"""What was seen and done on a plot."""

from datetime import date
from typing import Annotated, Literal
from uuid import UUID

from pydantic import BaseModel, ConfigDict, Field

from ulmatic.core.nitrogen import Fed, Grown, MixedIn, Spread
from ulmatic.core.supply.buying import Day
from ulmatic.core.units import Depth
from ulmatic.entries import Typed, TypedEntry


class LaidEvent(BaseModel):
    """So much was laid, as it lies settled; `chipped_on` is when it was made."""

    model_config = ConfigDict(frozen=True, extra="forbid")
    kind: Literal["laid"] = "laid"
    material: Annotated[str, Field(max_length=80)]
    depth_mm: Annotated[Depth, Field(gt=0)]
    chipped_on: Day | None = None


class ReadEvent(BaseModel):
    """So deep it was found to be."""

    model_config = ConfigDict(frozen=True, extra="forbid")
    kind: Literal["read"] = "read"
    depth_mm: Depth


Event = Annotated[LaidEvent | ReadEvent | Fed | Spread | Grown | MixedIn, Field(discriminator="kind")]


class EventEntry(TypedEntry):
    """An event as typed; its id is chosen by the sender, so that sending it twice keeps it once."""

    id: UUID
    plot_id: UUID
    on: Day
    event: Event


class EventOut(BaseModel):
    """An event as kept."""

    model_config = ConfigDict(from_attributes=True)
    id: UUID
    plot_id: UUID
    on: date
    event: Event
    typed: Typed
    by: str
