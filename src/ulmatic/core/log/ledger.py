"""The ledger: one list of dated entries, in the order in which things happened."""

from collections.abc import Iterable
from datetime import date, datetime, timedelta, tzinfo
from typing import Any
from uuid import UUID

from pydantic import AwareDatetime, BaseModel, ConfigDict

from ulmatic.core.log.entries import LogEntry, Measured


class LedgerEntry(BaseModel):
    """An entry of a plot, with the day on which it happened and the time at which it was written.

    Attributes
    ----------
    pile_id : UUID or None
        Of a laying that a pile's book holds; its book and the plot's log share this entry.
    delivery_id : UUID or None
        The load that was laid, where a pile's book tells.
    """

    model_config = ConfigDict(frozen=True)
    id: UUID
    plot_id: UUID
    on: date
    written_at: AwareDatetime
    entry: LogEntry
    pile_id: UUID | None = None
    delivery_id: UUID | None = None


def in_order(entries: Iterable[LedgerEntry], zone: tzinfo) -> list[LedgerEntry]:
    """Return entries in the order in which things happened.

    Days come first. Entries that were written on their own day stand by the time of writing; of those that were
    written later a measurement comes first and everything else last, as people measure before they lay.

    Parameters
    ----------
    entries : iterable of LedgerEntry
    zone : tzinfo
        Of the site.
    """
    return sorted(entries, key=lambda entry: _place(entry, zone))


def _place(entry: LedgerEntry, zone: tzinfo) -> tuple[Any, ...]:
    written = entry.written_at.astimezone(zone)
    if written.date() == entry.on:
        moment = written
    else:
        edge = datetime(entry.on.year, entry.on.month, entry.on.day, tzinfo=zone)
        moment = edge if isinstance(entry.entry, Measured) else edge + timedelta(days=1)
    return entry.on, moment, entry.written_at, str(entry.id)
