"""What an entry has changed: two plans of a site, before and after, in sentences."""

import math
from collections.abc import Collection
from uuid import UUID

from ulmatic.core.log import LogEntry, Observed, PileChecked, Ripeness
from ulmatic.core.planning.conditions import SMOULDERS_C
from ulmatic.core.planning.plan import SitePlan
from ulmatic.core.planning.plots import PlotLaying, plot_laying

LEAST_M3 = 0.05
"""Smaller changes of volume are not told."""
LEAST_SHARE = 0.05
"""Nor smaller changes of a rate."""


def changes(plan_before: SitePlan, plan_after: SitePlan, plots: Collection[UUID]) -> tuple[str, ...]:
    """Return what has changed between two plans of a site, the weightiest first.

    Parameters
    ----------
    plan_before : SitePlan
    plan_after : SitePlan
    plots : collection of UUID
        Plots of which something was logged.

    Returns
    -------
    tuple of str
        Sentences; none where nothing has changed.
    """
    names = {plot.id: plot.plot.name for plot in plan_after.plots}
    plots_in_both = [plot_id for plot_id in plots if plot_id in names and plot_id in plan_before.state.numbers]
    sentences: list[str] = []
    for plot_id in plots_in_both:
        sentences += _questions(plan_before, plan_after, plot_id, names[plot_id])
        sentences += _layings(plot_laying(plan_before, plot_id), plot_laying(plan_after, plot_id), names[plot_id])
        sentences += _rates(plan_before, plan_after, plot_id, names[plot_id])
    was, now = plan_before.now, plan_after.now
    if was.season == now.season and abs(was.needed_m3 - now.needed_m3) >= LEAST_M3:
        sentences.append(f"{now.season} now needs {{{now.needed_m3:.2f} m3}} instead of {{{was.needed_m3:.2f} m3}}.")
    return tuple(sentences)


def _questions(plan_before: SitePlan, plan_after: SitePlan, plot_id: UUID, name: str) -> list[str]:
    known = {misfit.entry_id for misfit in plan_before.state.assumed.rates.misfits}
    return [
        f"{name}: {{{misfit.depth_mm:.0f} mm}} is unlikely, {{{misfit.expected_mm:.0f} mm}} was expected. "
        "Was it raked, topped up or washed away? Until you answer, the forecast ignores it."
        for misfit in plan_after.state.assumed.rates.misfits
        if misfit.plot_id == plot_id and misfit.entry_id not in known
    ]


def _layings(laying_before: PlotLaying | None, laying_after: PlotLaying | None, name: str) -> list[str]:
    if laying_before is None and laying_after is None:
        return []
    if laying_before is None and laying_after is not None:
        return [f"{name}: a laying is now planned for {laying_after.season}."]
    if laying_after is None and laying_before is not None:
        return [f"{name}: nothing needs to be laid in {laying_before.season} any more."]
    if laying_before is not None and laying_after is not None and laying_before.season_key != laying_after.season_key:
        return [f"{name}: the next laying moves from {laying_before.season} to {laying_after.season}."]
    return []


def _rates(plan_before: SitePlan, plan_after: SitePlan, plot_id: UUID, name: str) -> list[str]:
    was, now = (plan.scheduled[plan.state.numbers[plot_id]].material.rate.value for plan in (plan_before, plan_after))
    if was <= 0 or abs(math.log(now / was)) < LEAST_SHARE:
        return []
    percent = abs(now / was - 1) * 100
    return [f"{name}: decay is now forecast {percent:.0f} % {'faster' if now > was else 'slower'} than before."]


def follow_sighting(entry: LogEntry, name: str) -> tuple[str, ...]:
    """Return what follows from something that was seen, by itself.

    Parameters
    ----------
    entry : LogEntry
    name : str
        Of the plot or pile.

    Returns
    -------
    tuple of str
    """
    match entry:
        case Ripeness() if entry.plantable:
            return (f"{name}: may be planted in.",)
        case Ripeness():
            return (f"{name}: not ripe yet. Plant in the soil beneath, or wait.",)
        case Observed(sort="seedlings"):
            return (f"{name}: pull the seedlings before they root through into the soil.",)
        case PileChecked(temperature_c=float() as hot) if hot >= SMOULDERS_C:
            return (
                f"{name}: at {hot:.0f} °C a pile can smoulder. Turn it with water at hand, keep it low and away from "
                "walls, and follow local fire rules.",
            )
    return ()
