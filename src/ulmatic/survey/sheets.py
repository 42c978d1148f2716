"""A site and its plots, as the plan tells of them."""

from typing import Any
from uuid import UUID

from ulmatic.accounts.scope import Scope
from ulmatic.core.figures import Figure
from ulmatic.core.log import LedgerEntry, Measured
from ulmatic.core.materials import Material
from ulmatic.core.planning import SitePlan
from ulmatic.core.planning.inventory import state_with_plot
from ulmatic.core.planning.plan import plan_of
from ulmatic.core.planning.plots import plot_figures, plot_gap, plot_laying, plot_work
from ulmatic.core.planning.recipes import setting_in
from ulmatic.core.recipe import (
    USUAL_DEPTH,
    Advice,
    PlannedPlot,
    Setting,
    Severity,
    advice_of,
    practice_of,
    recipe_of,
)
from ulmatic.core.recipe.advice import Fix
from ulmatic.core.recipe.practice import DepthMeans
from ulmatic.core.schedule import plot_ground, to_target
from ulmatic.core.schedule.volume import SPARE, as_settled, spread_depth, typed_depth
from ulmatic.core.site import SitePlot, SiteState
from ulmatic.core.survey import Use
from ulmatic.platform.problems import Problem
from ulmatic.records.survey import PlotRow
from ulmatic.site.schemas import LandmarkOut, SiteOut
from ulmatic.site.shelf import material_of
from ulmatic.site.snapshot import Snapshot, snapshot_of, snapshots, state_of, versions
from ulmatic.site.summaries import accepted_out, season_names, tip_plans
from ulmatic.survey.schemas import (
    DepthToday,
    Estimate,
    EstimateRequest,
    PlotOut,
    PlotSheet,
    SiteSheet,
    SiteSummary,
    UsualDepthOut,
)

DEPTHS = ("wanted_mm", "growing_mm")
"""Fields in which a depth of mulch is typed."""
ANYBODY = UUID(int=1)
"""Stands for a plot that is typed and not yet kept."""
EVERY = slice(None)
MOST_REMEMBERED = 4096
_remembered: dict[tuple[UUID, UUID], tuple[tuple[Any, ...], SiteSummary]] = {}
"""Summaries of sites by workspace and site, with the state of the rows from which they were made."""


def _gravest(advice: tuple[Advice, ...]) -> Advice | None:
    return next((sentence for sentence in advice if sentence.severity in (Severity.STOP, Severity.ACT)), None)


def _plot_out(snapshot: Snapshot, plan: SitePlan, row: PlotRow, plot: SitePlot) -> PlotOut:
    state: SiteState = plan.state
    number = state.numbers[plot.id]
    depth = state.depth(plot.id)
    setting, recipe, parameters = state.setting(plot), state.recipe(plot), state.parameters
    last = state.measurement(plot.id)
    measured = last.entry if last is not None and isinstance(last.entry, Measured) else Measured()
    written = snapshot.typed_of.get(last.id, {}) if last else {}
    texts = {"existing_mm": written.get("depth_mm"), "readings_mm": written.get("readings_mm")}
    return PlotOut(
        id=row.id,
        name=plot.plot.name,
        use=plot.plot.use,
        shape=plot.plot.shape,
        cut_outs=plot.plot.cut_outs,
        slope=plot.plot.slope,
        found=plot.plot.site_conditions,
        recipe=plot.plot.recipe,
        existing_mm=measured.depth().value,
        readings_mm=measured.readings_mm,
        lain_months=measured.lain_months,
        measured_on=last.on if last else None,
        wanted_mm=plot.plot.wanted_mm,
        spread_mm=spread_depth(plot.plot.wanted_mm, plot.plot.use, recipe.material, parameters),
        depth_means=setting.practice.depth,
        typed={**row.typed, **{key: text for key, text in texts.items() if text is not None}},
        version=row.version,
        outline=state.ground.outlines[plot.id],
        place=state.ground.places[plot.id],
        placed_by_hand=row.place is not None,
        priority=row.priority,
        access=state.ground.access[plot.id],
        area_m2=state.laid_m2(plot, plan.day),
        depth=DepthToday(**depth._asdict()),
        least_mm=plan.scheduled[number].least_mm,
        planned_m3=plan.planned_m3(0).get(plot.id, 0.0),
        laying=plot_laying(plan, plot.id),
        below_least_from=plan.by_rules.below_least_from[number],
        gap=plot_gap(plan, plot.id),
        decision=plot.decisions.get(plan.seasons[0].key),
        accepts=accepted_out(plan.accepts[number], state.assumed.materials),
        material=recipe.material.name,
        advice=_gravest(advice_of(plot.plot, setting, _whole(depth.middle), state.worries(plot.id))),
        plant_from=plan.plantable_from.get(plot.id),
        builds_up=recipe.builds_up,
        growing_mm=recipe.growing_mm,
        open_rows=tuple(
            ring
            for opening in state.openings.get(plot.id, ())
            if opening.bare
            for ring in state.rows_drawn(opening).rings
        ),
        growing_spread_mm=spread_depth(recipe.growing_mm, plot.plot.use, recipe.material, parameters),
    )


def _whole(depth_mm: float) -> float:
    """Return a depth to the millimetre, so that advice on it is worked out once."""
    return float(round(depth_mm))


def _summary(snapshot: Snapshot) -> SiteSummary:
    plan = snapshot.plan()
    area = sum(plan.state.laid_m2(plot, snapshot.today) for plot in plan.plots)
    return SiteSummary(site=SiteOut.model_validate(snapshot.row), plots=len(plan.plots), area_m2=area, now=plan.now)


def site_summaries(scope: Scope) -> list[SiteSummary]:
    """List the sites by name, each with its season; what has not changed is not worked out again."""
    states = versions(scope)
    entries = {site_id: _remembered.get((scope.workspace_id, site_id)) for site_id in states}
    if all(entry is not None and entry[0] == states[site_id] for site_id, entry in entries.items()):
        unchanged = [entry[1] for entry in entries.values() if entry is not None]
        return sorted(unchanged, key=lambda summary: (summary.site.name.lower(), str(summary.site.id)))
    summaries = []
    for snapshot in snapshots(scope):
        entry = entries.get(snapshot.row.id)
        state = states.get(snapshot.row.id)
        summary = entry[1] if entry is not None and entry[0] == state else _summary(snapshot)
        if state is not None:
            if len(_remembered) >= MOST_REMEMBERED:
                _remembered.clear()
            _remembered[scope.workspace_id, snapshot.row.id] = (state, summary)
        summaries.append(summary)
    return summaries


def site_sheet(scope: Scope, site_id: UUID, plots: slice = EVERY) -> SiteSheet:
    """Return a site with its plots, or some of them, and its season."""
    return sheet_of(snapshot_of(scope, site_id), plots)


def sheet_of(snapshot: Snapshot, plots: slice = EVERY) -> SiteSheet:
    """Return a site with its plots, or some of them, and its season."""
    plan = snapshot.plan()
    return SiteSheet(
        site=SiteOut.model_validate(snapshot.row),
        usual_spare=snapshot.site.parameters.of(SPARE).value,
        today=snapshot.today,
        now=plan.now,
        seasons=season_names(plan),
        climate_assumed=plan.state.climate.assumed,
        steps=plan.steps,
        depth_means=practice_of(snapshot.site.practices).depth,
        plots=[
            _plot_out(snapshot, plan, row, plot)
            for row, plot in zip(snapshot.plot_rows[plots], snapshot.site.plots[plots], strict=True)
        ],
        plots_in_all=len(plan.plots),
        landmarks=[LandmarkOut.model_validate(row) for row in snapshot.landmark_rows],
        tips=tip_plans(plan, snapshot.site.terms.load_m3),
    )


def plot_sheet(scope: Scope, site_id: UUID, plot_id: UUID) -> PlotSheet:
    """Return one plot with its figures and their working."""
    snapshot = snapshot_of(scope, site_id)
    row = snapshot.plot(plot_id)
    plan = snapshot.plan()
    plot = snapshot.site.plots[snapshot.state.numbers[plot_id]]
    return PlotSheet(plot=_plot_out(snapshot, plan, row, plot), figures=plot_figures(plan, plot_id), now=plan.now)


def estimate(scope: Scope, site_id: UUID, request: EstimateRequest) -> Estimate:
    """Say what the site would need with the plot being typed; nothing is kept."""
    site_state = state_of(scope, site_id)
    entry, site, today = request.plot, site_state.site, site_state.day
    typed = PlannedPlot.model_validate(entry.model_dump(include=set(PlannedPlot.model_fields)))
    material_of(site.materials, typed.recipe.material, "plot.recipe.material")
    setting = setting_in(site_state, typed)
    typed = as_settled(typed, setting)
    if request.plot_id is not None and request.plot_id not in site_state.numbers:
        raise Problem(404, "This plot does not exist.")
    stored = None if request.plot_id is None else site.plots[site_state.numbers[request.plot_id]]
    plot = (
        SitePlot(id=ANYBODY, plot=typed, surveyed_on=today)
        if stored is None
        else SitePlot(
            id=stored.id,
            plot=typed,
            priority=stored.priority,
            place=stored.place,
            rule=stored.rule,
            decisions=stored.decisions,
            surveyed_on=stored.surveyed_on if stored.plot.shape == typed.shape else today,
        )
    )
    measured = entry.measured()
    last = None if stored is None else site_state.measurement(stored.id)
    fresh = None
    if last is None or last.entry != measured:
        fresh = LedgerEntry(id=ANYBODY, plot_id=plot.id, on=today, written_at=scope.clock.now(), entry=measured)
    state = state_with_plot(site_state, plot, fresh)
    plan = plan_of(state, 1)
    existing, planned = _whole(state.depth(plot.id).middle), state.recipe(plot)
    return Estimate(
        shape=entry.shape,
        slope=entry.slope,
        found=entry.site_conditions,
        existing=measured.depth(),
        wanted_mm=typed.wanted_mm,
        spread_mm=spread_depth(typed.wanted_mm, typed.use, planned.material, site.parameters),
        growing_spread_mm=spread_depth(planned.growing_mm, typed.use, planned.material, site.parameters),
        depth_means=setting.practice.depth,
        proposed_mm=typed_depth(planned.proposal.depth.value, setting, typed.use, planned.material),
        outline=state.ground.outlines[plot.id],
        recipe=recipe_of(typed, setting, existing),
        advice=_as_typed(advice_of(typed, setting, existing, state.worries(plot.id)), typed, setting),
        plant_from=plan.plantable_from.get(plot.id),
        access=state.ground.access[plot.id],
        plot=plot_figures(plan, plot.id),
        laying=plot_laying(plan, plot.id),
        gap=plot_gap(plan, plot.id),
        work=plot_work(plan, plot.id),
        accepts=accepted_out(plan.accepts[state.numbers[plot.id]], site.materials),
        now=plan.now,
    )


def usual_depths(scope: Scope, site_id: UUID) -> list[UsualDepthOut]:
    """Return the target depths usual for each use at a site, in the words of its practice."""
    site = state_of(scope, site_id).site
    material, practice = site.material(site.usual or ""), practice_of(site.practices)
    setting = Setting(practice=practice, usual=material, parameters=site.parameters)
    usual = []
    for use in Use:
        depths = USUAL_DEPTH[use]
        proposed = site.parameters.of(depths.proposed)
        least, likely, most = (
            typed_depth(depth, setting, use, material) for depth in (depths.least_mm, proposed.value, depths.most_mm)
        )
        usual.append(
            UsualDepthOut(
                use=use,
                means=practice.depth,
                least_mm=least,
                proposed_mm=likely,
                most_mm=most,
                source=proposed.source.text,
            )
        )
    return usual


def _as_typed(advice: tuple[Advice, ...], plot: PlannedPlot, setting: Setting) -> tuple[Advice, ...]:
    """Return advice whose changes of depth are in the words of the practice, as they would be typed."""
    material = recipe_of(plot, setting).material
    spread = setting.practice.depth is DepthMeans.SPREAD
    return tuple(
        piece.model_copy(update={"fix": _typed_fix(piece.fix, plot.use, setting, material)})
        if spread and piece.fix is not None and piece.fix.field in DEPTHS
        else piece
        for piece in advice
    )


def _typed_fix(fix: Fix, use: Use, setting: Setting, material: Material) -> Fix:
    settled = float(str(fix.value).removesuffix(" mm"))
    typed = f"{typed_depth(settled, setting, use, material):.0f} mm"
    label = fix.label.replace(f"{{{settled:.0f} mm}}", f"{{{typed}}}")
    return fix.model_copy(update={"value": typed, "label": f"{label}, as spread"})


def to_target_m3(state: SiteState, plot: PlannedPlot, existing: Figure) -> tuple[float, float]:
    """Return the area of a plot not yet kept, and the loose m³ that bring it to its target today."""
    recipe, parameters = recipe_of(plot, setting_in(state, plot)), state.parameters
    area = plot_ground(plot, recipe.laid_share, parameters).ground.area
    return area.value, to_target(plot, recipe, existing, state.site.spare, parameters).value
