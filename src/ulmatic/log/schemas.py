"""What was seen and done on a plot."""

from datetime import date
from uuid import UUID

from pydantic import BaseModel, ConfigDict

from ulmatic.core.events import Event
from ulmatic.core.units import Day
from ulmatic.platform.typed import Typed, TypedEntry


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
