"""Keeping sites and plots, and asking the core about them."""

from collections.abc import Sequence
from datetime import UTC, datetime
from typing import Literal
from uuid import UUID

from sqlalchemy import func

from ulmatic.accounts.scope import Scope
from ulmatic.core.recipe import Advice, PlannedPlot, Severity, advice_of, recipe_of
from ulmatic.core.stock.heap import tip_plan
from ulmatic.core.supply.need import PlotNeed, plot_need, site_need
from ulmatic.core.survey import Access, Outline, Place, Tip, access
from ulmatic.core.survey import outline as drawn
from ulmatic.core.work.haul import haul, site_haul
from ulmatic.materials.service import known, shelf
from ulmatic.platform.problems import Problem
from ulmatic.platform.writes import added, next_version
from ulmatic.recipe.service import Around
from ulmatic.survey.models import LandmarkRow, PlotRow, SiteRow
from ulmatic.survey.schemas import (
    Estimate,
    EstimateRequest,
    LandmarkEntry,
    LandmarkOut,
    NewLandmark,
    NewPlot,
    NewSite,
    Places,
    PlotChanges,
    PlotEntry,
    PlotOrder,
    PlotOut,
    PlotSheet,
    SiteEntry,
    SiteOut,
    SiteSheet,
    SiteSummary,
)
from ulmatic.survey.surveyed import (
    around_site,
    landmark_rows,
    needs_of,
    one_landmark,
    one_plot,
    plot_of,
    plot_rows,
    surveyed,
    ways_in,
)

MOST_PLOTS = 2_000
"""Plots on one site."""
MOST_LANDMARKS = 300


def _gravest(advice: Sequence[Advice]) -> Advice | None:
    return next((one for one in advice if one.severity in (Severity.STOP, Severity.ACT)), None)


def _out(
    row: PlotRow, plot: PlannedPlot, outline: Outline, place: Place, need: PlotNeed, way_in: Access, surround: Around
) -> PlotOut:
    setting = surround.setting(plot)
    return PlotOut(
        id=row.id,
        name=plot.name,
        use=plot.use,
        shape=plot.shape,
        cut_outs=plot.cut_outs,
        slope=plot.slope,
        found=plot.found,
        recipe=plot.recipe,
        existing_mm=plot.existing().value,
        wanted_mm=plot.wanted_mm,
        typed=row.typed,
        version=row.version,
        outline=outline,
        place=place,
        placed_by_hand=row.place is not None,
        priority=row.priority,
        access=way_in,
        area_m2=need.area.value,
        volume_m3=need.volume.value,
        material=(setting.own or recipe_of(plot, setting).proposal.material).name,
        advice=_gravest(advice_of(plot, setting)),
    )


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
        needs = needs_of(row, by_site[row.id], around_site(scope, row)).values()
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
    has = surveyed(scope, site_id)
    surfaces = _surfaces(has.landmarks)
    site = has.site
    return SiteSheet(
        site=site,
        plots=[
            _out(
                one, has.plots[one.id], has.outlines[one.id], has.places[one.id], has.needs[one.id],
                has.ways[one.id], has.around,
            )
            for one in has.rows
        ],
        landmarks=has.landmarks,
        need=site_need([(has.plots[key].name, need) for key, need in has.needs.items()], site.terms()),
        haul=site_haul(
            [
                (has.plots[key].name, need.volume.value, has.ways[key], _surface(has.ways[key], surfaces))
                for key, need in has.needs.items()
            ],
            site.barrow_m3,
        ),
        tips=[
            tip_plan(one.name, site.load_m3, one.landmark.length_m, one.landmark.width_m, one.landmark.to_wall_m)
            for one in has.landmarks
            if isinstance(one.landmark, Tip)
        ],
    )  # fmt: skip


def _surfaces(landmarks: Sequence[LandmarkOut]) -> dict[str, Literal["hard", "soft"]]:
    return {one.name: one.landmark.surface for one in landmarks if isinstance(one.landmark, Tip)}


def _surface(way_in: Access, surfaces: dict[str, Literal["hard", "soft"]]) -> Literal["hard", "soft"]:
    """Return the surface of the tip a plot is reached from; where that is not known, hard."""
    return surfaces.get(way_in.tip or "", "hard")


def plot_sheet(scope: Scope, site_id: UUID, plot_id: UUID) -> PlotSheet:
    """Return one plot with its figures and their working."""
    sheet = site_sheet(scope, site_id)
    for out in sheet.plots:
        if out.id == plot_id:
            plot = plot_of(one_plot(scope, site_id, plot_id))
            surround = around_site(scope, scope.one(SiteRow, site_id))
            return PlotSheet(plot=out, need=plot_need(plot, sheet.site.spare, surround.setting(plot)))
    raise Problem(404, "There is no such plot here.")


def estimate(scope: Scope, site_id: UUID, request: EstimateRequest) -> Estimate:
    """Say what the site would need with the plot being typed; nothing is kept."""
    row = scope.one(SiteRow, site_id)
    site = SiteOut.model_validate(row)
    surround = around_site(scope, row)
    others = needs_of(row, [one for one in plot_rows(scope, row) if one.id != request.plot_id], surround)
    typed = planned(request.plot)
    known(surround.shelf, typed.recipe.material, "plot.recipe.material")
    setting = surround.setting(typed)
    own = plot_need(typed, site.spare, setting)
    named = [(plot.name, need) for plot, need in others.values()]
    outline = drawn(request.plot.shape, request.plot.cut_outs)
    way_in, surface = _access_while_typing(scope, row, request, outline)
    return Estimate(
        shape=request.plot.shape,
        slope=request.plot.slope,
        found=request.plot.found,
        existing=request.plot.existing(),
        wanted_mm=request.plot.wanted_mm,
        outline=outline,
        recipe=recipe_of(typed, setting),
        advice=advice_of(typed, setting),
        access=way_in,
        haul=haul(own.volume, site.barrow_m3, way_in, surface),
        plot=own,
        site=site_need([*named, (request.plot.name, own)], site.terms()),
    )


def _access_while_typing(
    scope: Scope, site: SiteRow, request: EstimateRequest, outline: Outline
) -> tuple[Access, Literal["hard", "soft"]]:
    kept = one_plot(scope, site.id, request.plot_id) if request.plot_id else None
    if kept is None or kept.place is None:
        return access(request.plot.found, None, str), "hard"
    landmarks = [LandmarkOut.model_validate(one) for one in landmark_rows(scope, site)]
    found = ways_in(landmarks, {kept.id: outline.middle_at(Place.model_validate(kept.place))})
    names = {one.id: one.name for one in landmarks}
    way_in = access(request.plot.found, found.get(kept.id), names.__getitem__)
    return way_in, _surface(way_in, _surfaces(landmarks))


def planned(entry: PlotEntry) -> PlannedPlot:
    """Return the plot of an entry."""
    return PlannedPlot.model_validate(entry.model_dump(include=set(PlannedPlot.model_fields)))


def _site_values(scope: Scope, entry: SiteEntry) -> dict[str, object]:
    known(shelf(scope), entry.material, "material")
    return {**entry.model_dump(mode="json", exclude={"id"}), "units": entry.units.value, "typed": entry.typed()}


def add_site(scope: Scope, entry: NewSite) -> SiteOut:
    """Keep a new site; the same id again returns the site that is there."""
    there = scope.session.scalar(scope.select(SiteRow).where(SiteRow.id == entry.id))
    if there is None:
        there = added(scope, SiteRow(id=entry.id, **_site_values(scope, entry)))
    return SiteOut.model_validate(there)


def change_site(scope: Scope, site_id: UUID, entry: SiteEntry, if_match: str | None) -> SiteOut:
    """Change a site."""
    row = scope.one(SiteRow, site_id, lock=True)
    next_version(row, if_match)
    for field, value in _site_values(scope, entry).items():
        setattr(row, field, value)
    scope.session.flush()
    return SiteOut.model_validate(row)


def _plot_values(scope: Scope, entry: PlotEntry) -> dict[str, object]:
    known(shelf(scope), entry.recipe.material, "recipe.material")
    plain = entry.model_dump(mode="json", exclude={"id", "units"})
    return {**plain, "typed": {**entry.typed(), "units": entry.units.value}}


def add_plots(scope: Scope, site_id: UUID, entries: Sequence[NewPlot]) -> dict[UUID, PlotRow]:
    """Keep new plots as the site's last, all or none; ids that are there already change nothing."""
    site = scope.one(SiteRow, site_id)
    rows = {row.id: row for row in plot_rows(scope, site)}
    fresh = [entry for entry in entries if entry.id not in rows]
    if len(rows) + len(fresh) > MOST_PLOTS:
        raise Problem(409, f"A site holds {MOST_PLOTS:,} plots at most. Start a second site for the rest.")
    last = max((row.ordinal for row in rows.values()), default=0)
    for ordinal, entry in enumerate(fresh, last + 1):
        values = _plot_values(scope, entry)
        rows[entry.id] = added(scope, PlotRow(id=entry.id, site_id=site.id, ordinal=ordinal, place=None, **values))
    return rows


def change_plot(scope: Scope, site_id: UUID, plot_id: UUID, entry: PlotEntry, if_match: str | None) -> None:
    """Change a plot."""
    row = one_plot(scope, site_id, plot_id, lock=True)
    next_version(row, if_match)
    before = plot_of(row).existing().value
    for field, value in _plot_values(scope, entry).items():
        setattr(row, field, value)
    if plot_of(row).existing().value != before:
        row.existing_at = datetime.now(UTC)
    scope.session.flush()


def change_plots(scope: Scope, site_id: UUID, entry: PlotChanges) -> None:
    """Make the same change to several plots, all or none."""
    rows = {row.id: row for row in plot_rows(scope, scope.one(SiteRow, site_id), lock=True)}
    if not set(entry.plots) <= set(rows):
        raise Problem(404, "One of these plots is not here any more. Reload and choose again.")
    for row in (rows[plot_id] for plot_id in entry.plots):
        if entry.use is not None:
            row.use = entry.use
        for field in ("existing_mm", "wanted_mm"):
            value = getattr(entry, field)
            if value is not None:
                setattr(row, field, value)
                row.typed = {**row.typed, field: entry.typed().get(field)}
        if entry.existing_mm is not None:
            row.found = {key: value for key, value in row.found.items() if key != "readings_mm"}
            row.existing_at = datetime.now(UTC)
        row.version += 1


def put_order(scope: Scope, site_id: UUID, entry: PlotOrder) -> None:
    """Put plots in another order."""
    rows = plot_rows(scope, scope.one(SiteRow, site_id), lock=True)
    wanted = {plot_id: index for index, plot_id in enumerate(entry.plots)}
    for ordinal, row in enumerate(sorted(rows, key=lambda row: wanted.get(row.id, len(wanted))), 1):
        row.ordinal = ordinal


def put_places(scope: Scope, site_id: UUID, entry: Places) -> None:
    """Keep where plots were put on the plan; the last to drag wins, so no version is asked for."""
    rows = {row.id: row for row in plot_rows(scope, scope.one(SiteRow, site_id))}
    for plot_id, place in entry.places.items():
        if plot_id in rows:
            rows[plot_id].place = place.model_dump() if place else None


def _landmark_values(entry: LandmarkEntry) -> dict[str, object]:
    plain = entry.model_dump(mode="json", exclude={"id", "units"})
    return {**plain, "typed": {**entry.typed(), "units": entry.units.value}}


def add_landmark(scope: Scope, site_id: UUID, entry: NewLandmark) -> LandmarkOut:
    """Keep a new tip, pile place or way; the same id again returns the one that is there."""
    site = scope.one(SiteRow, site_id)
    rows = landmark_rows(scope, site)
    there = next((row for row in rows if row.id == entry.id), None)
    if there is None:
        if len(rows) >= MOST_LANDMARKS:
            raise Problem(409, f"A site holds {MOST_LANDMARKS} tips, pile places and ways at most.")
        there = added(scope, LandmarkRow(id=entry.id, site_id=site.id, **_landmark_values(entry)))
    return LandmarkOut.model_validate(there)


def change_landmark(
    scope: Scope, site_id: UUID, landmark_id: UUID, entry: LandmarkEntry, if_match: str | None
) -> LandmarkOut:
    """Change a tip, pile place or way."""
    row = one_landmark(scope, site_id, landmark_id)
    next_version(row, if_match)
    for field, value in _landmark_values(entry).items():
        setattr(row, field, value)
    scope.session.flush()
    return LandmarkOut.model_validate(row)
