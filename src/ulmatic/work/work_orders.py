"""The work order of a day: the ground, the plots with tasks, cut and ways, what else falls on the day, cautions."""

from datetime import date
from uuid import UUID

from ulmatic.accounts.scope import Scope
from ulmatic.core.planning.occasions import Kind
from ulmatic.core.planning.season_work import SeasonWork
from ulmatic.core.recipe import LayerRole
from ulmatic.core.work import CARRIERS, CAUTIONS, plots_of
from ulmatic.core.work.calendar import WorkDay
from ulmatic.formats.order_drawings import CutLayer, OrderGround
from ulmatic.formats.work_orders import OrderPlot, WorkOrder, work_order_pdf
from ulmatic.platform.problems import Problem
from ulmatic.site.snapshot import snapshot_of

BESIDE: tuple[Kind, ...] = ("delivery", "rows", "water", "reading", "pile", "dressing")
THERE_FROM_MM = 5.0


def work_order(
    scope: Scope, site_id: UUID, season: str | None, on: date, address: str, crew: str | None = None
) -> bytes:
    """Return the work order of a day as PDF, or that of a crew; raise the 404 problem where nothing is planned."""
    snapshot = snapshot_of(scope, site_id)
    plan = snapshot.plan()
    work = plan.work(snapshot.season(plan, season))
    stints = [stint for day in work.days if day.on == on for stint in day.stints]
    if crew is not None:
        stints = [stint for stint in stints if stint.task.crew == crew]
    day = WorkDay(on, stints)
    if not stints:
        raise Problem(404, "No work is planned on this day.", field="on")
    site = plan.state.site
    names = {plot.id: plot.plot.name for plot in plan.plots}
    plots = [
        OrderPlot(
            name=names[plot_id],
            address=f"{address}/field?site={site_id}&of={plot_id}",
            target_mm=plan.state.recipes[plot_id].recipe.target_mm,
            tasks=[stint for stint in day.stints if stint.task.plot_id == plot_id],
            layers=_layers(work, plot_id),
            ways=_ways(work, plot_id, names),
        )
        for plot_id in plots_of(day)
    ]
    raised = {key for stint in day.stints for key in stint.task.cautions}
    notes = [
        f"{occasion.words}{'. ' if occasion.details else ''}{' · '.join(occasion.details)}"
        for occasion in plan.agenda.occasions
        if occasion.on == on and occasion.kind in BESIDE
    ]
    return work_order_pdf(
        WorkOrder(
            site=site.name,
            on=on,
            units=site.units,
            barrow_m3=site.barrow_m3,
            plots=plots,
            cautions=[caution for key, caution in CAUTIONS.items() if key in raised],
            ground=_ground(work, day),
            beside=notes,
            crew=crew or "",
        )
    )


def _layers(work: SeasonWork, plot_id: UUID) -> list[CutLayer]:
    """Return the cut of a plot from the soil up: what lies there, and what is laid."""
    row = work.state.numbers[plot_id]
    there_mm = work.state.depth(plot_id).middle
    layers = []
    for layer in work.beneath.get(plot_id, ()):
        if layer.role is not LayerRole.GUARD:
            layers.append(CutLayer(layer.name, layer.settled_mm, lies=False))
    if there_mm >= THERE_FROM_MM:
        layers.insert(0, CutLayer("Mulch", there_mm, lies=True))
    added = sum(laying.settled_mm for laying in work.layings if laying.plot == row)
    if added > 0:
        layers.append(CutLayer(work.scheduled[row].material.name, added, lies=False))
    return layers


def _ways(work: SeasonWork, plot_id: UUID, names: dict[UUID, str]) -> list[str]:
    """Say from where chips come, with what, how far, and what the way crosses."""
    haul = work.haul
    place_names = {place.key: place.name for place in haul.places}
    ways = []
    for leg in haul.legs.get(plot_id, []):
        carrier = CARRIERS[leg.carrier].name.lower() if leg.carrier else "by hand"
        distance = f", {{{leg.walk.walk_m:.0f} m}} away" if leg.walk.known else ""
        narrow = f", narrowest {{{leg.walk.width_m:.1f} m}}" if leg.walk.width_m is not None else ""
        ways.append(f"From {place_names[leg.place]}: {carrier}, {leg.trips} trips{distance}{narrow}.")
    for turn in haul.turns():
        if turn.plot == plot_id and turn.crosses:
            ways.append(f"The way crosses {', '.join(names[plot] for plot in turn.crosses)}: put boards down.")
    return ways


def _ground(work: SeasonWork, day: WorkDay) -> OrderGround:
    ground = work.state.ground
    numbers = {plot_id: number for number, plot_id in enumerate(plots_of(day), 1)}
    named = {landmark.id: landmark.name for landmark in work.state.site.landmarks}
    return OrderGround(
        plots=[
            (ground.outlines[plot.id].edges_at(ground.places[plot.id]), numbers.get(plot.id)) for plot in work.plots
        ],
        tips=[(named[key], spot) for key, spot in ground.spots.items()],
        ways=[[(float(x), float(y)) for x, y in way.line().coords] for way in ground.ways],
    )
