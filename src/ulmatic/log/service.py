"""Keeping what was seen and done on plots."""

from collections.abc import Sequence
from datetime import UTC, datetime
from uuid import UUID

from ulmatic.accounts.scope import Scope
from ulmatic.core.events import LaidEvent
from ulmatic.core.nitrogen import Spread
from ulmatic.log.models import EventRow
from ulmatic.log.schemas import EventEntry, EventOut
from ulmatic.materials.service import known, shelf
from ulmatic.platform.problems import Problem
from ulmatic.platform.writes import added
from ulmatic.survey.models import SiteRow
from ulmatic.survey.surveyed import one_plot

MOST_EVENTS = 50_000


def event_rows(scope: Scope, site: SiteRow) -> Sequence[EventRow]:
    """Return the events of a site in the order of time."""
    query = scope.select(EventRow).where(EventRow.site_id == site.id).order_by(EventRow.on, EventRow.created_at)
    return scope.session.scalars(query).all()


def add_event(scope: Scope, site_id: UUID, entry: EventEntry) -> EventOut:
    """Keep an event; the same id again returns the one that is there."""
    site = scope.one(SiteRow, site_id)
    there = scope.session.scalar(scope.select(EventRow).where(EventRow.id == entry.id))
    if there is not None:
        return EventOut.model_validate(_one(scope, site_id, entry.id))
    try:
        plot = one_plot(scope, site_id, entry.plot_id)
    except Problem:
        raise Problem(422, "This plot is not here any more.", field="plot_id") from None
    if entry.on > datetime.now(UTC).date():
        raise Problem(422, "That day has not come yet.", field="on")
    if isinstance(entry.event, LaidEvent | Spread):
        known(shelf(scope), entry.event.material, "event.material")
    if len(event_rows(scope, site)) >= MOST_EVENTS:
        raise Problem(409, f"The log of a site holds {MOST_EVENTS:,} entries at most.")
    row = EventRow(
        id=entry.id, site_id=site.id, plot_id=plot.id, on=entry.on, event=entry.event.model_dump(mode="json"),
        typed={**entry.typed(), "units": entry.units.value}, by=scope.member.user.name,
    )  # fmt: skip
    return EventOut.model_validate(added(scope, row))


def _one(scope: Scope, site_id: UUID, event_id: UUID, *, deleted: bool = False) -> EventRow:
    row = scope.one(EventRow, event_id, deleted=deleted)
    if row.site_id != scope.one(SiteRow, site_id).id:
        raise Problem(404, f"There is no such {EventRow.noun} here.")
    return row


def delete_event(scope: Scope, site_id: UUID, event_id: UUID) -> None:
    """Delete an event; `restoration` takes it back."""
    scope.delete(_one(scope, site_id, event_id))


def restore_event(scope: Scope, site_id: UUID, event_id: UUID) -> None:
    """Take back the deletion of an event."""
    _one(scope, site_id, event_id, deleted=True)
    scope.restore(EventRow, event_id)
