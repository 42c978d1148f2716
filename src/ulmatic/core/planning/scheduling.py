"""How the plots of a site are scheduled: as rules want, and as chips come."""

from collections.abc import Sequence
from datetime import date, timedelta
from uuid import UUID

import numpy as np

from ulmatic.core.decay import day_number
from ulmatic.core.recipe import HUMUS_TO_PLANT, Accepted, accepted
from ulmatic.core.schedule import Schedule, ScheduledPlot, mulch_depth, settling_for
from ulmatic.core.schedule.laying import Serve
from ulmatic.core.site import SitePlot, SiteState
from ulmatic.core.supply.suppliers import Supplier
from ulmatic.core.supply.waiting import Waiting, counts_on, sells

WEEK_DAYS, HORIZON_WEEKS = 7, 520


def scheduled_plot(state: SiteState, plot: SitePlot) -> ScheduledPlot:
    """Return a plot as it is scheduled.

    Parameters
    ----------
    state : SiteState
    plot : SitePlot

    Returns
    -------
    ScheduledPlot
    """
    planned, stack, parameters = state.recipes[plot.id], state.stacks[plot.id], state.parameters
    recipe, opened_m2 = planned.recipe, state.opened_m2(plot.id)
    covered_on = max([*stack.laid_on, *([stack.measured_on] if stack.measured_on else [])], default=state.day)
    return ScheduledPlot(
        id=plot.id,
        target_mm=mulch_depth(plot.plot, recipe, parameters).value,
        least_mm=recipe.least_mm,
        material=state.assumed.rates.material_on(plot.id, recipe.material),
        settling=settling_for(plot.plot.use, recipe.material, parameters).value,
        areas_m2=state.areas.ahead(plot, state.day),
        covered_m2=state.laid_m2(plot, covered_on),
        rule=planned.rule,
        windows=planned.windows,
        stack=stack,
        clock=int(plot.irrigated),
        decisions=plot.decisions,
        digs_in=plot.plot.recipe.dug_in,
        opened_target_mm=mulch_depth(plot.plot, recipe, parameters, opened_m2).value if opened_m2 else None,
    )


def schedule_of(state: SiteState, plots: Sequence[ScheduledPlot], seasons: int, serve: Serve | None = None) -> Schedule:
    """Return what is laid in so many seasons.

    Parameters
    ----------
    state : SiteState
    plots : sequence of ScheduledPlot
    seasons : int
    serve : callable, optional
        What is there; without it chips are there when rules want them.

    Returns
    -------
    Schedule
    """
    climate = state.climate
    return Schedule(plots, climate.clocks, climate.seasons, seasons, state.day, serve=serve)


def suppliers_in_currency(state: SiteState) -> list[Supplier]:
    """Return the suppliers that a site reckons with: those that are paid in its currency.

    Parameters
    ----------
    state : SiteState

    Returns
    -------
    list of Supplier
    """
    currency = state.site.buying.currency
    return [supplier for supplier in state.assumed.suppliers if supplier.currency == currency]


def waits_for_chips(state: SiteState) -> bool:
    """Say whether what is short waits for chips that come unasked: as was said, or where nobody sells any.

    Parameters
    ----------
    state : SiteState

    Returns
    -------
    bool
    """
    waits = state.site.overrides.waits
    if waits is not None:
        return waits
    terms = [supplier.source for supplier in suppliers_in_currency(state)]
    return counts_on(terms) > 0 and not sells(terms)


def schedule_by_supply(
    state: SiteState, plots: Sequence[ScheduledPlot], accepts: Sequence[Accepted], seasons: int
) -> Schedule:
    """Return what is laid where a site waits for chips: as they come.

    Parameters
    ----------
    state : SiteState
    plots : sequence of ScheduledPlot
    accepts : sequence of Accepted
        What each plot accepts.
    seasons : int

    Returns
    -------
    Schedule
    """
    waiting = Waiting(
        lots=[*state.lots, *state.expected],
        suppliers=[supplier.source for supplier in suppliers_in_currency(state)],
        material=state.material,
        clock=state.climate.clocks[0],
        seasons=state.climate.seasons,
        today=state.day,
        accepts=accepts,
        priorities=[plot.priority for plot in state.site.plots],
        spare=state.site.spare.value,
    )
    return schedule_of(state, plots, seasons, waiting.serve)


def accepted_by_plots(state: SiteState) -> list[Accepted]:
    """Return what may be laid on each plot as mulch, of all that lies here, is coming, or can be had.

    Parameters
    ----------
    state : SiteState

    Returns
    -------
    list of Accepted
    """
    materials = state.assumed.materials
    keys = {supplier.source.material for supplier in state.assumed.suppliers}
    keys |= {delivery.material for delivery in state.site.deliveries if delivery.state != "cancelled"}
    offered = [materials[key] for key in sorted(keys) if key in materials]
    return [accepted(plot.plot, state.setting(plot), offered) for plot in state.site.plots]


def plantable_from(state: SiteState, by_rules: Schedule) -> dict[UUID, date | None]:
    """Return when ground that is built up holds humus enough to plant into; None where not within ten years.

    Parameters
    ----------
    state : SiteState
    by_rules : Schedule

    Returns
    -------
    dict of UUID to date or None
        By plot.
    """
    building = [(row, plot) for row, plot in enumerate(state.site.plots) if state.recipe(plot).builds_up]
    if not building:
        return {}
    needed_mm = state.parameters.of(HUMUS_TO_PLANT).value
    days = day_number(state.day) + WEEK_DAYS * np.arange(HORIZON_WEEKS)
    humus = by_rules.depths(days.astype(float)).humus_mm
    ripe: dict[UUID, date | None] = {}
    for row, plot in building:
        enough = np.flatnonzero(humus[row] >= needed_mm)
        ripe[plot.id] = state.day + timedelta(days=int(enough[0]) * WEEK_DAYS) if enough.size else None
    return ripe
