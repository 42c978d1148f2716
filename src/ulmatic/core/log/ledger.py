"""The ledger: one list of dated entries, in the order in which things happened."""

from collections.abc import Iterable
from datetime import date, datetime, timedelta, tzinfo
from typing import Annotated, Any, Self
from uuid import UUID

from pydantic import AwareDatetime, ConfigDict, Field, model_validator

from ulmatic.core.log.entries import LogEntry
from ulmatic.core.log.kinds.depths import DepthFound
from ulmatic.core.survey.shapes.base import wrong
from ulmatic.core.value import Value


class Trees(Value):
    """Trees of a row, by their numbers from 1: the first and the last of them."""

    model_config = ConfigDict(extra="forbid")
    first: Annotated[int, Field(ge=1, le=100_000)]
    last: Annotated[int, Field(ge=1, le=100_000)]

    @model_validator(mode="after")
    def _in_order(self) -> Self:
        if self.last < self.first:
            raise wrong("The last tree comes before the first.", "last")
        return self

    @property
    def count(self) -> int:
        """How many they are."""
        return self.last - self.first + 1


class LedgerEntry(Value):
    """An entry of a plot or a pile, with the day on which it happened and the time at which it was written.

    Attributes
    ----------
    plot_id : UUID or None
        None where it is of a pile.
    pile_id : UUID or None
        Of a pile that was looked at, or of a laying that a pile's book holds: its book and the plot's log share it.
    trees : Trees or None
        Which trees of a row it is of; all of them, or the whole plot, where None.
    delivery_id : UUID or None
        The load that was laid, where a pile's book tells.
    """

    id: UUID
    plot_id: UUID | None
    on: date
    written_at: AwareDatetime
    entry: LogEntry
    pile_id: UUID | None = None
    delivery_id: UUID | None = None
    trees: Trees | None = None


def in_order(entries: Iterable[LedgerEntry], zone: tzinfo) -> list[LedgerEntry]:
    """Return entries in the order in which things happened.

    Days come first. Entries that were written on their own day stand by the time of writing; of those that were
    written later a measurement comes first and everything else last, as people measure before they lay.

    Parameters
    ----------
    entries : iterable of LedgerEntry
    zone : tzinfo
        Of the site.

    Returns
    -------
    list of LedgerEntry
    """
    return sorted(entries, key=lambda entry: _place(entry, zone))


def _place(entry: LedgerEntry, zone: tzinfo) -> tuple[Any, ...]:
    written = entry.written_at.astimezone(zone)
    if written.date() == entry.on:
        moment = written
    else:
        edge = datetime(entry.on.year, entry.on.month, entry.on.day, tzinfo=zone)
        moment = edge if isinstance(entry.entry, DepthFound) else edge + timedelta(days=1)
    return entry.on, moment, entry.written_at, str(entry.id)
