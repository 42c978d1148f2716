"""What is there at a site: its layers, depths, piles and loads on the day for which things are assumed."""

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import replace
from datetime import date
from functools import cache, partial
from uuid import UUID

import numpy as np

from ulmatic.core.decay import DecayClock, LayerTable, RatePosterior, Stack, StackGround, day_number, fold, spread
from ulmatic.core.log import LedgerEntry, in_order, openings_of
from ulmatic.core.materials import Material
from ulmatic.core.planning.assumption import assume
from ulmatic.core.planning.ledgers import plot_ledgers, stack_ground
from ulmatic.core.planning.recipes import plot_recipe, recipes_of, setting_of
from ulmatic.core.planning.site_climate import climate_of
from ulmatic.core.site import (
    Assumed,
    GroundPlan,
    LaidAreas,
    PlotRecipe,
    Site,
    SiteClimate,
    SitePlot,
    SiteState,
    material_of,
)
from ulmatic.core.site.state import Array
from ulmatic.core.stock import Store


def state_of(site: Site, assumed: Assumed) -> SiteState:
    """Return what is there at a site on the day for which things are assumed.

    Parameters
    ----------
    site : Site
    assumed : Assumed

    Returns
    -------
    SiteState

    Raises
    ------
    NotThere
        Where the book takes more from a pile than lies there.
    """
    climate = climate_of(site, assumed.day)
    recipes = recipes_of(site, assumed, climate)
    areas = LaidAreas({key: recipe.recipe.laid_share for key, recipe in recipes.items()}, assumed.parameters)
    ledger = plot_ledgers(site, assumed.day)
    grounds = {plot.id: stack_ground(plot, recipes[plot.id], areas, climate, assumed) for plot in site.plots}
    stacks = {plot.id: _stack(plot, ledger[plot.id], grounds[plot.id], assumed) for plot in site.plots}
    return _counted(site, assumed, climate, recipes, areas, ledger, stacks)


def state_on(site: Site, day: date) -> SiteState:
    """Return what is there at a site on a day; entries of later days are not known.

    Parameters
    ----------
    site : Site
    day : date

    Returns
    -------
    SiteState
    """
    return state_of(site, assume(site, day))


def state_with_plot(state: SiteState, plot: SitePlot, entry: LedgerEntry | None = None) -> SiteState:
    """Return a state with a plot, new or in place of the one with its id, and perhaps an entry on it.

    What is assumed, and what lies on the other plots, stays as it is.

    Parameters
    ----------
    state : SiteState
    plot : SitePlot
    entry : LedgerEntry, optional
        What lies there.

    Returns
    -------
    SiteState
    """
    site, assumed, climate = state.site.with_plot(plot, entry), state.assumed, state.climate
    recipe = plot_recipe(plot, setting_of(plot.plot, site, assumed, climate), climate.windows)
    recipes = {**state.recipes, plot.id: recipe}
    areas = LaidAreas({key: other.recipe.laid_share for key, other in recipes.items()}, assumed.parameters)
    entries = [] if entry is None else [entry]
    ledger = {**state.ledger, plot.id: in_order([*state.ledger.get(plot.id, ()), *entries], site.zone)}
    ground = stack_ground(plot, recipe, areas, climate, assumed)
    stacks = {**state.stacks, plot.id: fold(ledger[plot.id], _as_learned(plot, ground, assumed), assumed.questioned)}
    return _counted(site, assumed, climate, recipes, areas, ledger, stacks)


def _counted(
    site: Site,
    assumed: Assumed,
    climate: SiteClimate,
    recipes: Mapping[UUID, PlotRecipe],
    areas: LaidAreas,
    ledger: Mapping[UUID, Sequence[LedgerEntry]],
    stacks: Mapping[UUID, Stack],
) -> SiteState:
    day = assumed.day
    layers = _layer_table(site.plots, stacks, climate.clocks)
    material = partial(material_of, materials=assumed.materials, usual=site.usual, parameters=assumed.parameters)
    store = Store(site.piles, site.deliveries, site.lines, material, climate.clocks[0])
    return SiteState(
        site=site,
        assumed=assumed,
        climate=climate,
        ground=GroundPlan(site),
        recipes=recipes,
        areas=areas,
        numbers={plot.id: number for number, plot in enumerate(site.plots)},
        ledger=ledger,
        openings={key: opened for key, entries in ledger.items() if (opened := openings_of(entries, day))},
        stacks=stacks,
        layers=layers,
        depths_mm=_depths(layers, day),
        store=store,
        lots=store.lots(day),
        expected=store.expected(day),
    )


def _stack(plot: SitePlot, entries: Sequence[LedgerEntry], ground: StackGround, assumed: Assumed) -> Stack:
    """Return the layers of a plot: as they were folded when things were assumed, where readings teach nothing.

    Returns
    -------
    Stack
    """
    if not assumed.rates.teaches:
        return assumed.stacks[plot.id]
    return fold(entries, _as_learned(plot, ground, assumed), assumed.questioned)


def _as_learned(plot: SitePlot, ground: StackGround, assumed: Assumed) -> StackGround:
    """Return the ground of a plot with materials that rot as its readings teach.

    Returns
    -------
    StackGround
    """
    if not assumed.rates.teaches:
        return ground
    return replace(
        ground,
        mulch=assumed.rates.material_on(plot.id, ground.mulch),
        material=cache(partial(_material_as_learned, plot.id, assumed.rates, assumed.materials)),
    )


def _material_as_learned(
    plot_id: UUID, rates: RatePosterior, materials: Mapping[str, Material], key: str
) -> Material | None:
    material = materials.get(key)
    return None if material is None else rates.material_on(plot_id, material)


def _layer_table(plots: Iterable[SitePlot], stacks: Mapping[UUID, Stack], clocks: Sequence[DecayClock]) -> LayerTable:
    """Return what lies and lay on each plot, a row each.

    Returns
    -------
    LayerTable
    """
    rows = list(plots)
    table = LayerTable(len(rows), clocks)
    for row, plot in enumerate(rows):
        for layer in stacks[plot.id].layers:
            kind = table.kind(
                layer.layer.material, layer.layer.settling, layer.layer.age_decay_time, int(plot.irrigated)
            )
            table.lay(
                row,
                kind,
                day_number(layer.layer.on),
                layer.layer.loose_mm * layer.weight,
                from_day=-np.inf if layer.until is None and layer.as_laid else float(day_number(layer.from_day)),
                until=np.inf if layer.until is None else float(day_number(layer.until)),
                measured=np.nan if layer.measured_on is None else float(day_number(layer.measured_on)),
            )
    return table


def _depths(layers: LayerTable, on: date) -> tuple[Array, Array, Array]:
    """Return the depth of each plot on a day: 10th percentile, median and 90th, each (plots,).

    Returns
    -------
    (ndarray, ndarray, ndarray)
        Settled mm.
    """
    low, middle, high = depth_ranges(layers, on)
    return np.where(middle > 0, low, 0.0), middle, np.where(middle > 0, high, 0.0)


def depth_ranges(layers: LayerTable, on: date) -> tuple[Array, Array, Array]:
    """Return the range of what layers leave on a day.

    Parameters
    ----------
    layers : LayerTable
        A row for each plot.
    on : date

    Returns
    -------
    low, middle, high : ndarray, shape (plots,)
        10th percentile, median and 90th, mm settled.
    """
    day = np.array([float(day_number(on))])
    middle = layers.depths(day).chips_mm[:, 0]
    slow, fast = (layers.depths(day, end).chips_mm[:, 0] for end in ("low", "high"))
    low, high = spread(middle, slow, fast)
    return low, middle, high
