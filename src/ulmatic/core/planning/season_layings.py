"""What the layings of a season take: mulch, and what is laid beneath it."""

from collections.abc import Mapping, Sequence
from uuid import UUID

from ulmatic.core.recipe import Accepted
from ulmatic.core.schedule import LayerAmount, Laying, ScheduledPlot, beneath, settling_on
from ulmatic.core.site import SiteState
from ulmatic.core.supply.wanted import Wanted


def ordered_m3(state: SiteState, laying: Laying) -> float:
    """Return what a laying takes of mulch, loose, with spare.

    Parameters
    ----------
    state : SiteState
    laying : Laying

    Returns
    -------
    float
        m³.
    """
    return laying.loose_m3 * (1 + state.site.spare.value)


def mulch_by_plot(state: SiteState, layings: Sequence[Laying]) -> dict[UUID, float]:
    """Return what some layings take of mulch on each plot, loose m³ with spare.

    Parameters
    ----------
    state : SiteState
    layings : sequence of Laying

    Returns
    -------
    dict of UUID to float
    """
    volumes: dict[UUID, float] = {}
    for laying in layings:
        key = state.site.plots[laying.plot].id
        volumes[key] = volumes.get(key, 0.0) + ordered_m3(state, laying)
    return volumes


def beneath_by_plot(state: SiteState, layings: Sequence[Laying]) -> dict[UUID, tuple[LayerAmount, ...]]:
    """Return what is laid beneath the mulch: with a plot's first laying, where it is not there yet.

    Parameters
    ----------
    state : SiteState
    layings : sequence of Laying
        Of one season.

    Returns
    -------
    dict of UUID to tuple of LayerAmount
        By plot.
    """
    layers: dict[UUID, tuple[LayerAmount, ...]] = {}
    for laying in layings:
        if not laying.first:
            continue
        plot = state.site.plots[laying.plot]
        recipe = state.recipe(plot)
        if len(recipe.layers) < 2 and not recipe.guards:
            continue
        laid = state.stacks[plot.id].beneath
        amounts = tuple(
            amount
            for amount in beneath(plot.plot, recipe, state.site.spare, state.parameters)
            if amount.material not in laid
        )
        if amounts:
            layers[plot.id] = amounts
    return layers


def carried_by_plot(mulch: Mapping[UUID, float], beneath: Mapping[UUID, Sequence[LayerAmount]]) -> dict[UUID, float]:
    """Return what is carried to each plot, m³: mulch, and what is laid beneath it.

    Parameters
    ----------
    mulch : mapping of plot id to m³
    beneath : mapping of plot id to sequence of LayerAmount

    Returns
    -------
    dict of UUID to float
        By plot.
    """
    volumes = dict(mulch)
    for key, amounts in beneath.items():
        volumes[key] = volumes.get(key, 0.0) + sum(layer.amount.value for layer in amounts if layer.amount.unit == "m3")
    return volumes


def wants_of(
    state: SiteState,
    layings: Sequence[Laying],
    scheduled: Sequence[ScheduledPlot],
    accepts: Sequence[Accepted],
) -> list[Wanted]:
    """Return what some layings want of mulch.

    Parameters
    ----------
    state : SiteState
    layings : sequence of Laying
    scheduled : sequence of ScheduledPlot
    accepts : sequence of Accepted
        Of each plot.

    Returns
    -------
    list of Wanted
    """
    return [
        Wanted(
            plot=laying.plot,
            on=laying.on,
            volume_m3=ordered_m3(state, laying),
            material=scheduled[laying.plot].material,
            accepts=accepts[laying.plot],
            settling=settling_on(plot.plot.use, state.parameters),
            priority=plot.priority,
        )
        for laying in layings
        for plot in (state.site.plots[laying.plot],)
    ]
