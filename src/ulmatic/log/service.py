"""Keeping what was seen and done on plots."""

from collections.abc import Collection, Iterable, Sequence
from datetime import UTC, datetime
from typing import Any
from uuid import UUID, uuid4

from sqlalchemy import func

from ulmatic.accounts.scope import Scope
from ulmatic.core.log import Laid, LogEntry, Measured, Spread
from ulmatic.core.materials import Kind, Material
from ulmatic.core.schedule.volume import laid_depths, settled_depth
from ulmatic.log.models import LedgerRow
from ulmatic.log.schemas import LogEntryOut, LogEstimate, NewLogEntry
from ulmatic.materials.service import known, shelf
from ulmatic.platform.problems import Problem
from ulmatic.platform.writes import added
from ulmatic.site.snapshot import Snapshot, empty_state, plot_of, snapshot_of, state_of, today_at
from ulmatic.survey.models import SiteRow
from ulmatic.survey.rows import one_plot
from ulmatic.survey.schemas import PlotEntry

MOST_ENTRIES = 50_000


def ledger_rows(scope: Scope, site: SiteRow, plots: Collection[UUID] | None = None) -> Sequence[LedgerRow]:
    """Return the ledger of a site, or of some of its plots, in the order of days."""
    query = scope.select(LedgerRow).where(LedgerRow.site_id == site.id)
    if plots is not None:
        query = query.where(LedgerRow.plot_id.in_(plots))
    return scope.session.scalars(query.order_by(LedgerRow.on, LedgerRow.created_at, LedgerRow.id)).all()


def log_of(snapshot: Snapshot) -> list[LogEntryOut]:
    """Return what was seen and done on plots, the earliest first; layings from piles among it."""
    plots = snapshot.plots_by_id
    entries = [LogEntryOut.model_validate(row) for row in snapshot.ledger_rows if row.plot_id in plots]
    writers = {row.id: row.by for row in snapshot.book_rows}
    entries += [
        LogEntryOut(
            id=entry.id, plot_id=entry.plot_id, on=entry.on, entry=entry.entry, typed={}, by=writers.get(entry.id, ""),
            created_at=entry.written_at, pile_id=entry.pile_id,
        )
        for entry in snapshot.site.book_layings
        if entry.plot_id in plots
    ]  # fmt: skip
    return sorted(entries, key=lambda entry: (entry.on, entry.created_at))


def log_entries(scope: Scope, site_id: UUID) -> list[LogEntryOut]:
    """Return what was seen and done on the plots of a site, the latest first."""
    return list(reversed(log_of(snapshot_of(scope, site_id))))


def check_entry(scope: Scope, site: SiteRow, entry: NewLogEntry) -> Material | None:
    """Return the material that an entry names; raise the 422 problem where day, material or amount are wrong."""
    material = None
    if entry.on > today_at(site):
        raise Problem(422, "This day is in the future.", field="on")
    if isinstance(entry.entry, Laid | Spread):
        material = known(shelf(scope), entry.entry.material, "entry.material")
        if isinstance(entry.entry, Laid) and entry.entry.amountless and material and material.kind is not Kind.SHEET:
            raise Problem(422, "Enter a depth or a volume.", field="entry.depth_mm")
    if isinstance(entry.entry, Laid) and entry.entry.chipped_on is not None and entry.entry.chipped_on > entry.on:
        raise Problem(422, "The chipping date must be before the laying date.", field="entry.chipped_on")
    return material


def add_settled(scope: Scope, site: SiteRow, entries: Sequence[NewLogEntry]) -> None:
    """Keep entries of a table, whose depths are settled."""
    _room(scope, site, len(entries))
    for entry in entries:
        added(scope, _row(scope, site, entry, entry.entry, entry.typed()))


def _row(scope: Scope, site: SiteRow, entry: NewLogEntry, what: LogEntry, typed: dict[str, Any]) -> LedgerRow:
    return LedgerRow(
        id=entry.id, site_id=site.id, plot_id=entry.plot_id, on=entry.on, entry=what.model_dump(mode="json"),
        typed={**typed, "units": entry.units.value}, by=scope.member.user.name, created_at=datetime.now(UTC),
    )  # fmt: skip


def add_entry(scope: Scope, site_id: UUID, entry: NewLogEntry) -> LogEntryOut:
    """Keep an entry; the same id again returns the one that is there."""
    site = scope.one(SiteRow, site_id)
    there = scope.session.scalar(scope.select(LedgerRow).where(LedgerRow.id == entry.id))
    if there is not None:
        return LogEntryOut.model_validate(_one(scope, site_id, entry.id))
    try:
        plot = one_plot(scope, site_id, entry.plot_id)
    except Problem:
        raise Problem(422, "This plot does not exist any more.", field="plot_id") from None
    material = check_entry(scope, site, entry)
    what, typed = entry.entry, entry.typed()
    if isinstance(what, Laid) and what.depth_mm is not None and material is not None:
        planned = plot_of(plot)
        setting = empty_state(scope, site).setting_of(planned)
        what = what.model_copy(update={"depth_mm": settled_depth(what.depth_mm, setting, planned.use, material)})
        typed = {**typed, "depth_as": setting.practice.depth.value}
    _room(scope, site, 1)
    return LogEntryOut.model_validate(added(scope, _row(scope, site, entry, what, typed)))


def estimate_entry(scope: Scope, site_id: UUID, entry: NewLogEntry) -> LogEstimate | None:
    """Say how deep mulch lies that is being typed as laid; None where it is not told. Nothing is kept."""
    what = entry.entry
    if not isinstance(what, Laid) or what.amountless:
        return None
    state = state_of(scope, site_id)
    plot = next((plot for plot in state.site.plots if plot.id == entry.plot_id), None)
    material = known(state.site.materials, what.material, "entry.material")
    if plot is None or material is None:
        raise Problem(422, "This plot does not exist any more.", field="plot_id")
    depths = laid_depths(what, state.laid_m2(plot, entry.on), state.setting(plot.plot), plot.plot.use, material)
    return None if depths is None else LogEstimate(**depths._asdict())


def _room(scope: Scope, site: SiteRow, more: int) -> None:
    counted = scope.select(LedgerRow).where(LedgerRow.site_id == site.id).with_only_columns(func.count())
    if (scope.session.scalar(counted) or 0) + more > MOST_ENTRIES:
        raise Problem(409, f"The log of a site has {MOST_ENTRIES:,} entries at most.")


def measure_plots(scope: Scope, site_id: UUID, entries: Iterable[tuple[UUID, PlotEntry]]) -> None:
    """Write the existing depths that were typed with plots into the ledger, where they say something new."""
    site = scope.one(SiteRow, site_id)
    typed_with = dict(entries)
    rows = ledger_rows(scope, site, list(typed_with))
    last = {row.plot_id: row for row in rows if row.entry["kind"] == "measured"}
    fresh = []
    for plot_id, entry in typed_with.items():
        measured = entry.measured()
        written = last.get(plot_id)
        if written is not None and _same(Measured.model_validate(written.entry), measured):
            continue
        typed = {
            key: entry.typed()[field]
            for key, field in (("depth_mm", "existing_mm"), ("readings_mm", "readings_mm"))
            if field in entry.typed()
        }
        fresh.append(_measurement(scope, site, plot_id, measured, {**typed, "units": entry.units.value}))
    _room(scope, site, len(fresh))
    scope.add_all(fresh)


def _same(measured: Measured, typed: Measured) -> bool:
    """Say whether what is typed is what was measured last."""
    alike = abs(measured.depth().value - typed.depth().value) < 1e-6 and measured.readings_mm == typed.readings_mm
    return alike and measured.lain_months == typed.lain_months


def measure_all(scope: Scope, site_id: UUID, plots: Iterable[UUID], depth_mm: float, typed: dict[str, object]) -> None:
    """Write the same existing depth of several plots into the ledger."""
    site = scope.one(SiteRow, site_id)
    measured = Measured(depth_mm=depth_mm, settled=True)
    scope.add_all([_measurement(scope, site, plot_id, measured, typed) for plot_id in plots])


def _measurement(scope: Scope, site: SiteRow, plot_id: UUID, measured: Measured, typed: dict[str, object]) -> LedgerRow:
    return LedgerRow(
        id=uuid4(), site_id=site.id, plot_id=plot_id, on=today_at(site), entry=measured.model_dump(mode="json"),
        typed=typed, by=scope.member.user.name, created_at=datetime.now(UTC),
    )  # fmt: skip


def _one(scope: Scope, site_id: UUID, entry_id: UUID, *, deleted: bool = False) -> LedgerRow:
    row = scope.one(LedgerRow, entry_id, deleted=deleted)
    if row.site_id != scope.one(SiteRow, site_id).id:
        raise Problem(404, f"There is no such {LedgerRow.noun} here.")
    return row


def delete_entry(scope: Scope, site_id: UUID, entry_id: UUID) -> None:
    """Delete an entry; `restoration` takes it back."""
    scope.delete(_one(scope, site_id, entry_id))


def restore_entry(scope: Scope, site_id: UUID, entry_id: UUID) -> None:
    """Take back the deletion of an entry."""
    _one(scope, site_id, entry_id, deleted=True)
    scope.restore(LedgerRow, entry_id)
