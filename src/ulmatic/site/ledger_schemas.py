"""What the log's routes take and answer."""

from datetime import date, datetime
from typing import Annotated
from uuid import UUID

from pydantic import BaseModel, BeforeValidator, ConfigDict, Field, StringConstraints

from ulmatic.core.log import LogEntry, Trees
from ulmatic.core.log.tree_rows import typed_trees
from ulmatic.core.units import Day
from ulmatic.core.work import KnownEntry
from ulmatic.platform.typed import OF_A_KIND, Typed, TypedEntry
from ulmatic.site.schemas import RowError

TypedTrees = Annotated[Trees | None, BeforeValidator(typed_trees, json_schema_input_type=Trees | str | None)]
"""Trees of a row: by their numbers, or as typed."""


class NewLogEntry(TypedEntry):
    """An entry as typed; its id is chosen by the sender, so that sending it twice keeps it once."""

    id: UUID
    plot_id: UUID | None = None
    pile_id: UUID | None = None
    trees: TypedTrees = None
    on: Day
    entry: Annotated[KnownEntry, OF_A_KIND]
    note: Annotated[str, StringConstraints(strip_whitespace=True, max_length=2_000)] = ""
    photos: Annotated[tuple[UUID, ...], Field(max_length=12)] = ()
    corrects: UUID | None = None


class RowReadings(TypedEntry):
    """Depths of the trees of a row as typed, such as “1–40: 60 mm; 41–80: 45 mm”; each becomes an entry."""

    id: UUID
    plot_id: UUID
    on: Day
    readings: Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=4_000)]


class PhotoOut(BaseModel):
    """A photo; `drawn` where it is a drawing, as in the demo. Its location only where that was wanted."""

    model_config = ConfigDict(from_attributes=True)
    id: UUID
    width: int
    height: int
    size: int
    drawn: bool
    location: tuple[float, float] | None
    by: str
    created_at: datetime


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
    """An entry as kept; one `in_book` is a line of a pile's book, and taken back there.

    `said` tells what the entry has changed, where it was just written; `original` what it corrects.
    """

    model_config = ConfigDict(from_attributes=True)
    id: UUID
    plot_id: UUID | None
    on: date
    entry: LogEntry
    typed: Typed
    by: str
    created_at: datetime
    pile_id: UUID | None = None
    trees: Trees | None = None
    note: str = ""
    photos: tuple[UUID, ...] = ()
    corrects: UUID | None = None
    in_book: bool = False
    said: tuple[str, ...] = ()


class LogEntries(BaseModel):
    """Entries that were written together, and what they have changed."""

    entries: list[LogEntryOut]
    said: tuple[str, ...]
