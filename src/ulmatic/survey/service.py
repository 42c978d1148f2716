"""Keeping sites and plots, and asking the core about them."""

from collections.abc import Sequence
from typing import TypeVar
from uuid import UUID

from sqlalchemy import func
from sqlalchemy.exc import IntegrityError

from ulmatic.accounts.scope import Scope
from ulmatic.core.supply import PlotNeed, plot_need, site_need
from ulmatic.core.survey import Outline, Place, Plot, arrange, outline
from ulmatic.database import Stamped
from ulmatic.problems import Problem
from ulmatic.survey.models import PlotRow, SiteRow
from ulmatic.survey.schemas import (
    Estimate,
    EstimateRequest,
    NewPlot,
    NewSite,
    Places,
    PlotEntry,
    PlotOut,
    PlotSheet,
    SiteEntry,
    SiteOut,
    SiteSheet,
    SiteSummary,
)

Row = TypeVar("Row", SiteRow, PlotRow)

MOST_PLOTS = 2_000
"""Plots on one site."""


def next_version(row: Stamped, if_match: str | None) -> None:
    """Count up the version of a locked row; raise the 428 or 412 problem unless `if_match` names the one it is in."""
    if if_match is None:
        raise Problem(428, "This change does not say which state it starts from. Reload, then save again.")
    if if_match.strip().removeprefix("W/").strip('"') != str(row.version):
        raise Problem(412, "Somebody else changed this in the meantime. Look at the new state, then save again.")
    row.version += 1


def _plot_rows(scope: Scope, site: SiteRow) -> Sequence[PlotRow]:
    query = scope.select(PlotRow).where(PlotRow.site_id == site.id)
    return scope.session.scalars(query.order_by(PlotRow.ordinal, PlotRow.id)).all()


def _plot(row: PlotRow) -> Plot:
    return Plot.model_validate(row, from_attributes=True)


def _out(row: PlotRow, plot: Plot, drawn: Outline, place: Place, need: PlotNeed) -> PlotOut:
    return PlotOut(
        id=row.id,
        name=plot.name,
        use=plot.use,
        shape=plot.shape,
        existing_mm=plot.existing_mm,
        wanted_mm=plot.wanted_mm,
        typed=row.typed,
        version=row.version,
        outline=drawn,
        place=place,
        placed_by_hand=row.place is not None,
        area_m2=need.area.value,
        volume_m3=need.volume.value,
    )


def _needs(site: SiteRow, rows: Sequence[PlotRow]) -> dict[UUID, tuple[Plot, PlotNeed]]:
    plots = {row.id: _plot(row) for row in rows}
    return {key: (plot, plot_need(plot, site.spare)) for key, plot in plots.items()}


def site_summaries(scope: Scope) -> list[SiteSummary]:
    """List the sites by name, each with what it needs."""
    sites = scope.session.scalars(scope.select(SiteRow).order_by(func.lower(SiteRow.name), SiteRow.id)).all()
    by_site: dict[UUID, list[PlotRow]] = {site.id: [] for site in sites}
    for plot_row in scope.session.scalars(scope.select(PlotRow)):
        if plot_row.site_id in by_site:
            by_site[plot_row.site_id].append(plot_row)
    summaries = []
    for row in sites:
        site = SiteOut.model_validate(row)
        needs = _needs(row, by_site[row.id]).values()
        whole = site_need([(plot.name, need) for plot, need in needs], site.terms())
        summaries.append(
            SiteSummary(
                site=site,
                plots=len(needs),
                area_m2=whole.area.value,
                volume_m3=whole.volume.value,
                loads=int(whole.order.loads.value),
            )
        )
    return summaries


def site_sheet(scope: Scope, site_id: UUID) -> SiteSheet:
    """Return a site with its plots placed and its need added up."""
    row = scope.one(SiteRow, site_id)
    rows = _plot_rows(scope, row)
    needs = _needs(row, rows)
    drawn = {plot_row.id: outline(needs[plot_row.id][0].shape) for plot_row in rows}
    fixed = {plot_row.id: Place.model_validate(plot_row.place) for plot_row in rows if plot_row.place}
    places = arrange(drawn, fixed)
    site = SiteOut.model_validate(row)
    return SiteSheet(
        site=site,
        plots=[_out(one, needs[one.id][0], drawn[one.id], places[one.id], needs[one.id][1]) for one in rows],
        need=site_need([(plot.name, need) for plot, need in needs.values()], site.terms()),
    )


def plot_sheet(scope: Scope, site_id: UUID, plot_id: UUID) -> PlotSheet:
    """Return one plot with its figures and their working."""
    sheet = site_sheet(scope, site_id)
    for plot in sheet.plots:
        if plot.id == plot_id:
            return PlotSheet(plot=plot, need=plot_need(_plot_of(plot), sheet.site.spare))
    raise Problem(404, "There is no such plot here.")


def _plot_of(out: PlotOut) -> Plot:
    return Plot(name=out.name, use=out.use, shape=out.shape, existing_mm=out.existing_mm, wanted_mm=out.wanted_mm)


def estimate(scope: Scope, site_id: UUID, request: EstimateRequest) -> Estimate:
    """Say what the site would need with the plot being typed; nothing is kept."""
    row = scope.one(SiteRow, site_id)
    site = SiteOut.model_validate(row)
    others = _needs(row, [one for one in _plot_rows(scope, row) if one.id != request.plot_id])
    own = plot_need(request.plot, site.spare)
    named = [(plot.name, need) for plot, need in others.values()]
    return Estimate(
        shape=request.plot.shape,
        existing_mm=request.plot.existing_mm,
        wanted_mm=request.plot.wanted_mm,
        outline=outline(request.plot.shape),
        plot=own,
        site=site_need([*named, (request.plot.name, own)], site.terms()),
    )


def _site_values(entry: SiteEntry) -> dict[str, object]:
    return {**entry.model_dump(exclude={"id"}), "units": entry.units.value, "typed": entry.typed()}


def add_site(scope: Scope, entry: NewSite) -> SiteOut:
    """Keep a new site; the same id again returns the site that is there."""
    there = scope.session.scalar(scope.select(SiteRow).where(SiteRow.id == entry.id))
    if there is None:
        there = _added(scope, SiteRow(id=entry.id, **_site_values(entry)))
    return SiteOut.model_validate(there)


def _added(scope: Scope, row: Row) -> Row:
    try:
        return scope.add(row)
    except IntegrityError:
        raise Problem(409, "This was sent twice, or was deleted in the meantime. Reload and look again.") from None


def change_site(scope: Scope, site_id: UUID, entry: SiteEntry, if_match: str | None) -> SiteOut:
    """Change a site."""
    row = scope.one(SiteRow, site_id, lock=True)
    next_version(row, if_match)
    for field, value in _site_values(entry).items():
        setattr(row, field, value)
    scope.session.flush()
    return SiteOut.model_validate(row)


def _plot_values(entry: PlotEntry) -> dict[str, object]:
    plain = entry.model_dump(mode="json", exclude={"id", "units"})
    return {**plain, "typed": {**entry.typed(), "units": entry.units.value}}


def add_plot(scope: Scope, site_id: UUID, entry: NewPlot) -> UUID:
    """Keep a new plot as the site's last; the same id again changes nothing."""
    site = scope.one(SiteRow, site_id)
    there = scope.session.scalar(scope.select(PlotRow).where(PlotRow.id == entry.id, PlotRow.site_id == site.id))
    if there is not None:
        return there.id
    rows = _plot_rows(scope, site)
    if len(rows) >= MOST_PLOTS:
        raise Problem(409, f"A site holds {MOST_PLOTS:,} plots at most. Start a second site for the rest.")
    last = max((row.ordinal for row in rows), default=0)
    return _added(scope, PlotRow(id=entry.id, site_id=site.id, ordinal=last + 1, place=None, **_plot_values(entry))).id


def one_plot(scope: Scope, site_id: UUID, plot_id: UUID, *, deleted: bool = False, lock: bool = False) -> PlotRow:
    """Return a plot's row if it lies on that site."""
    row = scope.one(PlotRow, plot_id, deleted=deleted, lock=lock)
    if row.site_id != scope.one(SiteRow, site_id).id:
        raise Problem(404, "There is no such plot here.")
    return row


def change_plot(scope: Scope, site_id: UUID, plot_id: UUID, entry: PlotEntry, if_match: str | None) -> None:
    """Change a plot."""
    row = one_plot(scope, site_id, plot_id, lock=True)
    next_version(row, if_match)
    for field, value in _plot_values(entry).items():
        setattr(row, field, value)
    scope.session.flush()


def put_places(scope: Scope, site_id: UUID, entry: Places) -> None:
    """Keep where plots were put on the plan; the last to drag wins, so no version is asked for."""
    rows = {row.id: row for row in _plot_rows(scope, scope.one(SiteRow, site_id))}
    for plot_id, place in entry.places.items():
        if plot_id in rows:
            rows[plot_id].place = place.model_dump() if place else None
