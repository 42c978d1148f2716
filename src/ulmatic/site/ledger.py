"""Keeping what was seen and done on plots."""

from collections.abc import Collection, Iterable, Sequence
from typing import Any, Protocol
from uuid import UUID, uuid4, uuid5

from pydantic import ValidationError
from sqlalchemy import func

from ulmatic.accounts.scope import Scope
from ulmatic.core.decay import RatePosterior
from ulmatic.core.log import (
    HoursWorked,
    Laid,
    LogEntry,
    Measured,
    Noted,
    PileChecked,
    RowWorked,
    Spread,
    openings_of,
    refused_step,
)
from ulmatic.core.log.tree_rows import RowsUnclear, rows_of_trees
from ulmatic.core.materials import Kind, Material
from ulmatic.core.planning import SitePlan
from ulmatic.core.planning.plan_changes import changes, follow_sighting
from ulmatic.core.planning.recipes import setting_in
from ulmatic.core.schedule.volume import laid_depths, settled_depth
from ulmatic.core.survey.shapes import trees_of
from ulmatic.core.units.measures import UnitSystem
from ulmatic.platform.problems import Problem, Sentences
from ulmatic.records.log import LedgerRow, SiteLessonRow
from ulmatic.records.plots import one_plot
from ulmatic.records.stock import PileRow
from ulmatic.records.survey import PlotRow, SiteRow
from ulmatic.records.writes import added, added_all
from ulmatic.site import canopies
from ulmatic.site.ledger_schemas import LogEntries, LogEntryOut, LogEstimate, NewLogEntry, RowReadings
from ulmatic.site.photos import check_photos
from ulmatic.site.shelf import material_of, shelf
from ulmatic.site.snapshot import Snapshot, empty_state, plot_of, snapshot_of, state_of, today_at

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
    entries = [
        LogEntryOut.model_validate(row) for row in snapshot.ledger_rows if row.plot_id is None or row.plot_id in plots
    ]
    writers = {row.id: row.by for row in snapshot.book_rows}
    entries += [
        LogEntryOut(
            id=entry.id,
            plot_id=entry.plot_id,
            on=entry.on,
            entry=entry.entry,
            typed={},
            by=writers.get(entry.id, ""),
            created_at=entry.written_at,
            pile_id=entry.pile_id,
            in_book=True,
        )
        for entry in snapshot.site.book_layings
        if entry.plot_id in plots
    ]
    return sorted(entries, key=lambda entry: (entry.on, entry.created_at))


def log_entries(scope: Scope, site_id: UUID) -> list[LogEntryOut]:
    """Return what was seen and done on the plots of a site, the latest first."""
    return list(reversed(log_of(snapshot_of(scope, site_id))))


def check_entry(scope: Scope, site: SiteRow, entry: NewLogEntry) -> Material | None:
    """Return the material that an entry names; raise the 422 problem where day, material or amount are wrong."""
    material = None
    if entry.on > today_at(scope, site):
        raise Problem(422, "This day is in the future.", field="on")
    if isinstance(entry.entry, Laid | Spread):
        material = material_of(shelf(scope), entry.entry.material, "entry.material")
        if isinstance(entry.entry, Laid) and entry.entry.amountless and material and material.kind is not Kind.SHEET:
            raise Problem(422, "Enter a depth or a volume.", field="entry.depth_mm")
    _check_where(scope, site, entry)
    check_photos(scope, site.id, entry.photos)
    if isinstance(entry.entry, Laid) and entry.entry.chipped_on is not None and entry.entry.chipped_on > entry.on:
        raise Problem(422, "The chipping date must be before the laying date.", field="entry.chipped_on")
    return material


def add_settled(scope: Scope, site: SiteRow, entries: Sequence[NewLogEntry]) -> None:
    """Keep entries of a table, whose depths are settled."""
    _room(scope, site, len(entries))
    added_all(scope, [_row(scope, site, entry, entry.entry, entry.typed()) for entry in entries])


def _check_where(scope: Scope, site: SiteRow, entry: NewLogEntry) -> None:
    """Raise the 422 problem where an entry is of no plot or pile, or of trees that the plot does not have."""
    if isinstance(entry.entry, PileChecked):
        pile = scope.session.scalar(scope.select(PileRow).where(PileRow.id == entry.pile_id))
        if pile is None or pile.site_id != site.id:
            raise Problem(422, "Choose a pile.", field="pile_id")
        return
    if entry.plot_id is None:
        if not isinstance(entry.entry, HoursWorked | Noted):
            raise Problem(422, "Choose a plot.", field="plot_id")
        return
    plot = _plot(scope, site.id, entry.plot_id)
    if entry.trees is not None and entry.trees.last > (count := trees_of(plot_of(plot).shape)):
        trees = "has no trees" if count < 2 else f"has the trees 1 to {count}"
        raise Problem(422, f"“{plot.name}” {trees}.", field="trees.last")


def _check_row(scope: Scope, site: SiteRow, entry: NewLogEntry) -> None:
    """Raise the 422 problem where a step on opened rows does not follow what was done there."""
    if not isinstance(entry.entry, RowWorked) or entry.plot_id is None or entry.corrects is not None:
        return
    snapshot = snapshot_of(scope, site.id)
    refused = refused_step(openings_of(snapshot.state.ledger[entry.plot_id], entry.on), entry.entry)
    if refused is not None:
        raise Problem(422, refused, field="entry.step")


def _plot(scope: Scope, site_id: UUID, plot_id: UUID) -> PlotRow:
    try:
        return one_plot(scope, site_id, plot_id)
    except Problem:
        raise Problem(422, "This plot does not exist any more.", field="plot_id") from None


def _row(scope: Scope, site: SiteRow, entry: NewLogEntry, what: LogEntry, typed: dict[str, Any]) -> LedgerRow:
    return LedgerRow(
        id=entry.id,
        site_id=site.id,
        plot_id=entry.plot_id,
        pile_id=entry.pile_id,
        trees=None if entry.trees is None else entry.trees.model_dump(),
        on=entry.on,
        entry=what.model_dump(mode="json"),
        typed={**typed, "units": entry.units.value},
        by=scope.member.user.name,
        created_at=scope.clock.now(),
        note=entry.note,
        photos=[str(photo) for photo in entry.photos],
        corrects=entry.corrects,
    )


def add_entry(scope: Scope, site_id: UUID, entry: NewLogEntry) -> LogEntryOut:
    """Keep an entry and say what it has changed; the same id again returns the one that is there."""
    site = scope.get(SiteRow, site_id)
    kept_row = _there(scope, site_id, entry.id)
    if kept_row is not None:
        return LogEntryOut.model_validate(kept_row)
    before = _plan_before(scope, site_id, [entry.entry])
    row = _write(scope, site, entry)
    written = LogEntryOut.model_validate(row)
    sentences = (*follow_sighting(entry.entry, _name(scope, entry)), *_said(scope, site_id, before, [row]))
    return written.model_copy(update={"said": sentences})


def _name(scope: Scope, entry: NewLogEntry) -> str:
    if entry.plot_id is not None:
        return scope.get(PlotRow, entry.plot_id).name
    return scope.get(PileRow, entry.pile_id).name if entry.pile_id is not None else ""


def add_rows(scope: Scope, site_id: UUID, typed: RowReadings) -> LogEntries:
    """Keep depths of the trees of a row, typed as one text; sent again they are kept once."""
    site = scope.get(SiteRow, site_id)
    try:
        entries = [
            NewLogEntry.model_validate(
                {
                    "id": uuid5(typed.id, str(number)),
                    "plot_id": typed.plot_id,
                    "on": typed.on,
                    "units": typed.units,
                    "trees": trees,
                    "entry": {"kind": "measured", "depth_mm": depth},
                }
            )
            for number, (trees, depth) in enumerate(rows_of_trees(typed.readings))
        ]
    except ValidationError as error:
        first = error.errors()[0]
        sentence = Sentences.of({**first, "loc": ("row", *first["loc"])}).detail
        raise Problem(422, sentence, field="readings") from None
    except RowsUnclear as error:
        raise Problem(422, str(error), field="readings") from None
    before = _plan_before(scope, site_id, [entry.entry for entry in entries])
    rows = [_there(scope, site_id, entry.id) or _write(scope, site, entry) for entry in entries]
    written = [LogEntryOut.model_validate(row) for row in rows]
    return LogEntries(entries=written, said=_said(scope, site_id, before, rows))


def _there(scope: Scope, site_id: UUID, entry_id: UUID) -> LedgerRow | None:
    row = scope.session.scalar(scope.select(LedgerRow).where(LedgerRow.id == entry_id))
    return None if row is None else _one(scope, site_id, entry_id)


def _write(scope: Scope, site: SiteRow, entry: NewLogEntry) -> LedgerRow:
    material = check_entry(scope, site, entry)
    _check_row(scope, site, entry)
    what, typed = entry.entry, entry.typed()
    if isinstance(what, Laid) and what.depth_mm is not None and material is not None and entry.plot_id is not None:
        planned = plot_of(_plot(scope, site.id, entry.plot_id))
        setting = setting_in(empty_state(scope, site), planned)
        what = what.model_copy(update={"depth_mm": settled_depth(what.depth_mm, setting, planned.use, material)})
        typed = {**typed, "depth_as": setting.practice.depth.value}
    _room(scope, site, 1)
    if entry.corrects is not None:
        _take_away(scope, _one(scope, site.id, entry.corrects))
    row = added(scope, _row(scope, site, entry, what, typed))
    canopies.widen(scope, row)
    return row


def _take_away(scope: Scope, row: LedgerRow) -> None:
    canopies.narrow(scope, row)
    scope.delete(row)


def _bring_back(scope: Scope, row: LedgerRow) -> None:
    scope.restore(LedgerRow, row.id)
    canopies.widen(scope, row)


def _plan_before(scope: Scope, site_id: UUID, entries: Sequence[LogEntry]) -> SitePlan | None:
    return snapshot_of(scope, site_id).plan() if any(entry.changes_plan for entry in entries) else None


def _said(scope: Scope, site_id: UUID, plan_before: SitePlan | None, rows: Sequence[LedgerRow]) -> tuple[str, ...]:
    """Say what entries have changed, and let the workspace's other sites know what was learned."""
    if plan_before is None:
        return ()
    scope.session.flush()
    after = snapshot_of(scope, site_id).plan()
    keep_lessons(scope, site_id, after.state.assumed.rates)
    return changes(plan_before, after, dict.fromkeys(row.plot_id for row in rows if row.plot_id is not None))


def keep_lessons(scope: Scope, site_id: UUID, posterior: RatePosterior) -> None:
    """Keep what the readings of a site say by themselves, for the workspace's other sites."""
    lessons = {key: [rate.mean, rate.variance] for key, rate in sorted(posterior.message.items())}
    row = scope.session.scalar(scope.select(SiteLessonRow).where(SiteLessonRow.id == site_id))
    if row is None:
        if lessons:
            added(scope, SiteLessonRow(id=site_id, site_id=site_id, lessons=lessons))
    elif row.lessons != lessons:
        row.lessons = lessons


def estimate_entry(scope: Scope, site_id: UUID, entry: NewLogEntry) -> LogEstimate | None:
    """Say how deep mulch lies that is being typed as laid; None where it is not told. Nothing is kept."""
    what = entry.entry
    if not isinstance(what, Laid) or what.amountless:
        return None
    state = state_of(scope, site_id)
    plot = next((plot for plot in state.site.plots if plot.id == entry.plot_id), None)
    material = material_of(state.assumed.materials, what.material, "entry.material")
    if plot is None or material is None:
        raise Problem(422, "This plot does not exist any more.", field="plot_id")
    depths = laid_depths(what, state.laid_m2(plot, entry.on), state.setting(plot), plot.plot.use, material)
    return None if depths is None else LogEstimate(**depths._asdict())


def _room(scope: Scope, site: SiteRow, count: int) -> None:
    counted = scope.select(LedgerRow).where(LedgerRow.site_id == site.id).with_only_columns(func.count())
    if (scope.session.scalar(counted) or 0) + count > MOST_ENTRIES:
        raise Problem(409, f"The log of a site has {MOST_ENTRIES:,} entries at most.")


class PlotTyped(Protocol):
    """A plot as it is typed, with what lies there."""

    units: UnitSystem

    def measured(self) -> Measured:
        """Return what was measured."""

    def typed(self) -> dict[str, Any]:
        """Return what was typed, as it was written."""


def measure_plots(scope: Scope, site_id: UUID, entries: Iterable[tuple[UUID, PlotTyped]]) -> None:
    """Write the existing depths that were typed with plots into the ledger, where they say something new."""
    site = scope.get(SiteRow, site_id)
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
    is_same_depth = (
        abs(measured.depth().value - typed.depth().value) < 1e-6 and measured.readings_mm == typed.readings_mm
    )
    return is_same_depth and measured.lain_months == typed.lain_months


def measure_all(scope: Scope, site_id: UUID, plots: Iterable[UUID], depth_mm: float, typed: dict[str, object]) -> None:
    """Write the same existing depth of several plots into the ledger."""
    site = scope.get(SiteRow, site_id)
    measured = Measured(depth_mm=depth_mm, settled=True)
    scope.add_all([_measurement(scope, site, plot_id, measured, typed) for plot_id in plots])


def _measurement(scope: Scope, site: SiteRow, plot_id: UUID, measured: Measured, typed: dict[str, object]) -> LedgerRow:
    return LedgerRow(
        id=uuid4(),
        site_id=site.id,
        plot_id=plot_id,
        on=today_at(scope, site),
        entry=measured.model_dump(mode="json"),
        typed=typed,
        by=scope.member.user.name,
        created_at=scope.clock.now(),
    )


def _one(scope: Scope, site_id: UUID, entry_id: UUID, *, deleted: bool = False) -> LedgerRow:
    row = scope.get(LedgerRow, entry_id, deleted=deleted)
    if row.site_id != scope.get(SiteRow, site_id).id:
        raise Problem(404, f"There is no such {LedgerRow.noun} here.")
    return row


def delete_entry(scope: Scope, site_id: UUID, entry_id: UUID) -> None:
    """Delete an entry; what it corrected holds again. `restoration` takes that back."""
    row = _one(scope, site_id, entry_id)
    _take_away(scope, row)
    if row.corrects is not None:
        _bring_back(scope, _one(scope, site_id, row.corrects, deleted=True))
    _learn_again(scope, row)


def restore_entry(scope: Scope, site_id: UUID, entry_id: UUID) -> None:
    """Take back the deletion of an entry."""
    row = _one(scope, site_id, entry_id, deleted=True)
    if row.corrects is not None:
        _take_away(scope, _one(scope, site_id, row.corrects))
    _bring_back(scope, row)
    _learn_again(scope, row)


def _learn_again(scope: Scope, row: LedgerRow) -> None:
    """Let the workspace's other sites know what is learned now that an entry was deleted or brought back."""
    if LogEntryOut.model_validate(row).entry.changes_plan:
        scope.session.flush()
        keep_lessons(scope, row.site_id, state_of(scope, row.site_id).assumed.rates)


def entry_history(scope: Scope, site_id: UUID, entry_id: UUID) -> list[LogEntryOut]:
    """Return what an entry has corrected, the latest first: originals are kept."""
    row = _one(scope, site_id, entry_id)
    originals: list[LogEntryOut] = []
    while row.corrects is not None:
        row = _one(scope, site_id, row.corrects, deleted=True)
        originals.append(LogEntryOut.model_validate(row))
    return originals
