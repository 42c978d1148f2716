"""What the log's routes take and answer."""

from datetime import date, datetime
from uuid import UUID

from pydantic import BaseModel, ConfigDict

from ulmatic.core.log import LogEntry
from ulmatic.core.units import Day
from ulmatic.platform.typed import Typed, TypedEntry
from ulmatic.survey.schemas import RowError


class NewLogEntry(TypedEntry):
    """An entry as typed; its id is chosen by the sender, so that sending it twice keeps it once."""

    id: UUID
    plot_id: UUID
    on: Day
    entry: LogEntry


class LoggedRow(BaseModel):
    """A row found in a file: its plot, day and what happened."""

    row: int
    plot: str
    on: date
    what: str


class LogImport(BaseModel):
    """What was found in a table: new entries, those that are there already, and what is wrong; `kept` once added."""

    entries: list[LoggedRow]
    there: int
    errors: list[RowError]
    kept: bool


class LogEstimate(BaseModel):
    """How deep what is being typed lies, settled and as it is spread, and how much that is, loose."""

    settled_mm: float
    spread_mm: float
    volume_m3: float


class LogEntryOut(BaseModel):
    """An entry as kept; one with a pile is a line of its book, and taken back there."""

    model_config = ConfigDict(from_attributes=True)
    id: UUID
    plot_id: UUID
    on: date
    entry: LogEntry
    typed: Typed
    by: str
    created_at: datetime
    pile_id: UUID | None = None
