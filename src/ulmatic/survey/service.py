"""Keeping sites, plots and landmarks."""

from collections.abc import Iterable, Mapping, Sequence
from uuid import UUID

from sqlalchemy import func

from ulmatic.accounts.scope import Scope
from ulmatic.core.materials import Material
from ulmatic.core.planning.recipes import setting_in
from ulmatic.core.recipe import PlannedPlot
from ulmatic.core.schedule.volume import as_settled
from ulmatic.core.site import SiteState
from ulmatic.core.survey import Use, Way
from ulmatic.core.survey.access import crossings
from ulmatic.platform.problems import Problem
from ulmatic.records.plots import one_landmark, one_plot, plot_rows
from ulmatic.records.survey import LandmarkRow, PlotRow, SiteRow
from ulmatic.records.writes import added, added_all, next_version
from ulmatic.site.schemas import LandmarkOut, SiteOut
from ulmatic.site.shelf import material_of, shelf
from ulmatic.site.snapshot import empty_state, plot_of, today_at
from ulmatic.survey.schemas import (
    DecisionEntry,
    LandmarkEntry,
    NewLandmark,
    NewPlot,
    NewSite,
    Places,
    PlotChanges,
    PlotEntry,
    PlotOrder,
    SiteEntry,
)

MOST_PLOTS = 2_000
"""Plots on one site."""
MOST_SITES = 200
MOST_LANDMARKS = 300
MOST_CROSSINGS = 100
"""Of one way with all others."""
MEASURED = {"existing_mm", "readings_mm", "lain_months"}
"""Fields of a plot's entry that go into the ledger."""


def _site_values(scope: Scope, entry: SiteEntry) -> dict[str, object]:
    material_of(shelf(scope), entry.material, "material")
    return {
        **entry.model_dump(mode="json", exclude={"id", "currency"}),
        "units": entry.units.value,
        "typed": entry.typed(),
    }


def add_site(scope: Scope, entry: NewSite) -> SiteOut:
    """Keep a new site; the same id again returns the site that is there."""
    row = scope.session.scalar(scope.select(SiteRow).where(SiteRow.id == entry.id))
    if row is None:
        scope.check_quota(SiteRow, MOST_SITES)
        buying = {} if entry.currency is None else {"currency": entry.currency}
        row = added(scope, SiteRow(id=entry.id, buying=buying, **_site_values(scope, entry)))
    return SiteOut.model_validate(row)


def change_site(scope: Scope, site_id: UUID, entry: SiteEntry, if_match: str | None) -> SiteOut:
    """Change a site."""
    row = scope.get(SiteRow, site_id, lock=True)
    next_version(row, if_match)
    for field, value in _site_values(scope, entry).items():
        setattr(row, field, value)
    scope.session.flush()
    return SiteOut.model_validate(row)


def _plot_values(state: SiteState, materials: Mapping[str, Material], entry: PlotEntry) -> dict[str, object]:
    """Return what is kept of a plot: depths settled, whatever the practice calls a depth."""
    material_of(materials, entry.recipe.material, "recipe.material")
    plain = entry.model_dump(mode="json", exclude={"id", "units", *MEASURED})
    typed = {key: text for key, text in entry.typed().items() if key not in MEASURED}
    plot = PlannedPlot.model_validate(entry.model_dump(include=set(PlannedPlot.model_fields)))
    setting = setting_in(state, plot)
    settled, means = as_settled(plot, setting), setting.practice.depth.value
    return {
        **plain,
        "wanted_mm": settled.wanted_mm,
        "recipe": {**plain["recipe"], "growing_mm": settled.recipe.growing_mm},
        "typed": {**typed, "units": entry.units.value, "wanted_as": means},
    }


def _settled(state: SiteState, plot: PlannedPlot) -> tuple[float, str]:
    """Return the settled target of a plot, and the words in which it was typed."""
    setting = setting_in(state, plot)
    return as_settled(plot, setting).wanted_mm, setting.practice.depth.value


def add_plots(scope: Scope, site_id: UUID, entries: Sequence[NewPlot]) -> dict[UUID, PlotRow]:
    """Keep new plots as the site's last, all or none, and return their rows; those that are there change nothing.

    What lies there goes into the ledger (`ulmatic.site.ledger.measure_plots`).
    """
    site = scope.get(SiteRow, site_id)
    of_site = scope.select(PlotRow).where(PlotRow.site_id == site.id)
    duplicates = of_site.where(PlotRow.id.in_([entry.id for entry in entries]))
    rows = {row.id: row for row in scope.session.scalars(duplicates)}
    fresh = [entry for entry in entries if entry.id not in rows]
    counted = of_site.with_only_columns(func.count(), func.coalesce(func.max(PlotRow.ordinal), 0))
    count, last = scope.session.execute(counted).one()
    if count + len(fresh) > MOST_PLOTS:
        raise Problem(409, f"A site has {MOST_PLOTS:,} plots at most. Create a second site for the rest.")
    state, materials = empty_state(scope, site), shelf(scope)
    new_rows = [
        PlotRow(
            id=entry.id,
            site_id=site.id,
            ordinal=ordinal,
            place=None,
            surveyed_on=state.day,
            **_plot_values(state, materials, entry),
        )
        for ordinal, entry in enumerate(fresh, last + 1)
    ]
    return rows | {row.id: row for row in added_all(scope, new_rows)}


def change_plot(scope: Scope, site_id: UUID, plot_id: UUID, entry: PlotEntry, if_match: str | None) -> PlotRow:
    """Change a plot; return its row."""
    row = one_plot(scope, site_id, plot_id, lock=True)
    next_version(row, if_match)
    site = scope.get(SiteRow, site_id)
    values = _plot_values(empty_state(scope, site), shelf(scope), entry)
    if values["shape"] != row.shape:
        row.surveyed_on = today_at(scope, site)
    for field, value in values.items():
        setattr(row, field, value)
    scope.session.flush()
    return row


def change_plots(scope: Scope, site_id: UUID, entry: PlotChanges) -> list[PlotRow]:
    """Make the same change to several plots, all or none; return their rows."""
    site = scope.get(SiteRow, site_id, lock=True)
    rows = {row.id: row for row in plot_rows(scope, site, lock=True)}
    if not set(entry.plots) <= set(rows):
        raise Problem(404, "One of these plots does not exist any more. Reload and choose again.")
    changed, state = [rows[plot_id] for plot_id in entry.plots], empty_state(scope, site)
    for row in changed:
        if entry.use is not None:
            row.use = entry.use
        if entry.wanted_mm is not None:
            plot = plot_of(row).model_copy(update={"wanted_mm": entry.wanted_mm, "use": Use(row.use)})
            row.wanted_mm, means = _settled(state, plot)
            row.typed = {**row.typed, "wanted_mm": entry.typed().get("wanted_mm"), "wanted_as": means}
        row.version += 1
    return changed


def decide(scope: Scope, site_id: UUID, plot_id: UUID, entry: DecisionEntry) -> None:
    """Keep what is decided for a plot and a season."""
    row = one_plot(scope, site_id, plot_id, lock=True)
    others = {key: value for key, value in row.decisions.items() if key != entry.season}
    if entry.decision is not None:
        others[entry.season] = entry.decision.model_dump(mode="json")
    if len(others) > 60:
        raise Problem(409, "There are too many decisions for this plot. Undo some.")
    row.decisions = others
    scope.session.flush()


def put_order(scope: Scope, site_id: UUID, entry: PlotOrder) -> None:
    """Put plots in another order."""
    rows = plot_rows(scope, scope.get(SiteRow, site_id, lock=True), lock=True)
    positions = {plot_id: index for index, plot_id in enumerate(entry.plots)}
    for ordinal, row in enumerate(sorted(rows, key=lambda row: positions.get(row.id, len(positions))), 1):
        row.ordinal = ordinal


def put_places(scope: Scope, site_id: UUID, entry: Places) -> None:
    """Keep where plots were put on the plan; the last to drag wins, so no version is asked for."""
    rows = {row.id: row for row in plot_rows(scope, scope.get(SiteRow, site_id, lock=True))}
    for plot_id, place in entry.places.items():
        if plot_id in rows:
            rows[plot_id].place = place.model_dump() if place else None


def _landmark_values(entry: LandmarkEntry) -> dict[str, object]:
    plain = entry.model_dump(mode="json", exclude={"id", "units"})
    return {**plain, "typed": {**entry.typed(), "units": entry.units.value}}


def add_landmark(scope: Scope, site_id: UUID, entry: NewLandmark) -> LandmarkOut:
    """Keep a new tip, pile place or way; the same id again returns the one that is there."""
    site = scope.get(SiteRow, site_id)
    rows = scope.session.scalars(scope.select(LandmarkRow).where(LandmarkRow.site_id == site.id)).all()
    landmark = next((row for row in rows if row.id == entry.id), None)
    if landmark is None:
        if len(rows) >= MOST_LANDMARKS:
            raise Problem(409, f"A site has {MOST_LANDMARKS} tips, pile places and ways at most.")
        _passable(entry, rows)
        landmark = added(scope, LandmarkRow(id=entry.id, site_id=site.id, **_landmark_values(entry)))
    return LandmarkOut.model_validate(landmark)


def _passable(entry: LandmarkEntry, others: Iterable[LandmarkRow]) -> None:
    """Raise the 422 problem where ways cross more often than anybody walks."""
    if not isinstance(entry.landmark, Way):
        return
    landmarks = [LandmarkOut.model_validate(row).landmark for row in others]
    if crossings(entry.landmark, [landmark for landmark in landmarks if isinstance(landmark, Way)]) > MOST_CROSSINGS:
        sentence = f"This way crosses the others more than {MOST_CROSSINGS} times. Use fewer points."
        raise Problem(422, sentence, field="landmark.points_m")


def change_landmark(
    scope: Scope, site_id: UUID, landmark_id: UUID, entry: LandmarkEntry, if_match: str | None
) -> LandmarkOut:
    """Change a tip, pile place or way."""
    row = one_landmark(scope, site_id, landmark_id)
    next_version(row, if_match)
    others = scope.select(LandmarkRow).where(LandmarkRow.site_id == site_id, LandmarkRow.id != landmark_id)
    _passable(entry, scope.session.scalars(others))
    for field, value in _landmark_values(entry).items():
        setattr(row, field, value)
    scope.session.flush()
    return LandmarkOut.model_validate(row)
