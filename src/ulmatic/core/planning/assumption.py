"""What the entries of a site until a day teach; later ones cannot reach it."""

from collections.abc import Iterable, Iterator
from dataclasses import replace
from datetime import date

from ulmatic.core.decay import learned_from
from ulmatic.core.figures import Parameter
from ulmatic.core.parameters import Parameters
from ulmatic.core.planning.ledgers import PlotLedgers, plot_ledgers, stack_ground
from ulmatic.core.planning.logged_figures import load_figures, pace_figure, settling_figures, with_loads_as
from ulmatic.core.planning.recipes import recipes_of
from ulmatic.core.planning.site_climate import climate_of
from ulmatic.core.site import Assumed, GroundPlan, LaidAreas, LearnedFigure, Site, SiteClimate
from ulmatic.core.work import CARRIERS, FORK, PACE, SCOOP, SPREAD


def assume(site: Site, day: date) -> Assumed:
    """Return what is taken to hold at a site on a day.

    Parameters
    ----------
    site : Site
    day : date
        Entries of later days are not known.

    Returns
    -------
    Assumed
        Posterior of rates, loads, settling and pace, each from what is shipped or entered and the readings until then.
    """
    (assumed,) = assume_each(site, [day])
    return assumed


def assume_each(site: Site, days: Iterable[date]) -> Iterator[Assumed]:
    """Yield what is taken to hold on each of some days.

    The drawn ground and the order of the ledger are worked out once; each day takes the entries until it.

    Parameters
    ----------
    site : Site
    days : iterable of date

    Yields
    ------
    Assumed
        As of each day, in their order.
    """
    ground = GroundPlan(site)
    for day in days:
        yield _assume_on(site, day, ground)


def _assume_on(site: Site, day: date, ground: GroundPlan) -> Assumed:
    climate, ledgers = climate_of(site, day), plot_ledgers(site, day)
    shipped = Assumed(day=day, suppliers=site.suppliers, materials=site.materials, parameters=site.parameters)
    first = _with_rates(site, shipped, climate, ledgers)
    loads = load_figures(site, day)
    settling = settling_figures(site, ledgers, first.rates)
    pace = pace_figure(site, ground, day)
    if not loads and not settling and pace is None:
        return first
    materials = dict(site.materials)
    figures: list[LearnedFigure] = [*loads.values()]
    parameters = dict(site.parameters.by_key)
    for key, (material_key, settled) in settling.items():
        figures.append(settled)
        if material_key is None:
            parameters[key] = settled.figure.value
        else:
            material = materials[material_key]
            figure = Parameter.model_validate({**dict(settled.figure), "key": material.settling.key})
            materials[material_key] = material.model_copy(update={"settling": figure})
    if pace is not None:
        figures.append(pace)
        parameters |= _at_pace(site, pace.figure.value)
    logged = replace(
        shipped,
        suppliers=tuple(with_loads_as(loads.get(supplier.id), supplier) for supplier in site.suppliers),
        materials=materials if settling else site.materials,
        parameters=replace(
            Parameters.of_mapping(parameters),
            learned_keys=frozenset(
                key for key, value in parameters.items() if site.parameters.by_key.get(key) != value
            ),
        ),
        figures=tuple(figures),
    )
    return _with_rates(site, logged, climate, ledgers)


def _at_pace(site: Site, factor: float) -> dict[str, float]:
    """Return the rates of work, by key, of people who take so many times the usual hours.

    Returns
    -------
    dict of str to float
    """
    carriers = [carrier for carrier in CARRIERS.values() if carrier.kind in site.buying.carriers]
    rates = (SCOOP, FORK, SPREAD, *(carrier.own_fill for carrier in carriers if carrier.own_fill))
    walks = (PACE, *(carrier.pace for carrier in carriers))
    return {rate.key: site.parameters.of(rate).value * factor for rate in rates} | {
        walk.key: site.parameters.of(walk).value / factor for walk in walks
    }


def _with_rates(site: Site, assumed: Assumed, climate: SiteClimate, ledgers: PlotLedgers) -> Assumed:
    """Return the same with the rates of decay that depth readings teach.

    Returns
    -------
    Assumed
    """
    recipes = recipes_of(site, assumed, climate)
    areas = LaidAreas({key: recipe.recipe.laid_share for key, recipe in recipes.items()}, assumed.parameters)
    grounds = {plot.id: stack_ground(plot, recipes[plot.id], areas, climate, assumed) for plot in site.plots}
    rates, checks, stacks = learned_from(ledgers, grounds, site.elsewhere)
    return replace(assumed, rates=rates, questioned=checks, stacks=stacks)
