"""The order of a season, what it buys, and its quote."""

from collections.abc import Mapping, Sequence
from dataclasses import replace
from datetime import date
from uuid import UUID

from ulmatic.core.money import Bought, PlotShare, Quote, Rates, quote
from ulmatic.core.schedule import LayerAmount, Season
from ulmatic.core.site import Site, SiteState
from ulmatic.core.stock import Lot, holds
from ulmatic.core.supply.booked import booked_loads
from ulmatic.core.supply.chosen import ChosenLoads
from ulmatic.core.supply.market import Market
from ulmatic.core.supply.order import SeasonOrder
from ulmatic.core.supply.wanted import Wanted, groups_of
from ulmatic.core.units import UnitSystem
from ulmatic.core.units.currency_amounts import YARD3_M3

MOST_MONTHS = 12


def order_of(
    state: SiteState,
    season: Season,
    lying: Sequence[Lot],
    wants: Sequence[Wanted],
    beneath: Mapping[UUID, Sequence[LayerAmount]],
    *,
    running: bool,
) -> SeasonOrder:
    """Return the order of a season.

    Parameters
    ----------
    state : SiteState
    season : Season
    lying : sequence of Lot
        What lies there: today, or what earlier seasons leave.
    wants : sequence of Wanted
    beneath : mapping of plot id to sequence of LayerAmount
    running : bool
        Whether its account is running.

    Returns
    -------
    SeasonOrder
    """
    day, clock = season.lays_on(state.day), state.climate.clocks[0]
    lots = [lot.on(day, clock) for lot in lying]
    first = state.day if running else season.account_from
    for lot in state.expected:
        if (running or lot.as_of >= first) and lot.as_of <= season.closes:
            # What comes while the window is open counts as there on the day on which is laid.
            lots.append(replace(lot, as_of=min(lot.as_of, day)))
    sheets: dict[str, float] = {}
    for amounts in beneath.values():
        for layer in amounts:
            if layer.amount.unit == "m3":
                sheets[layer.material] = sheets.get(layer.material, 0.0) + layer.amount.value
    return SeasonOrder(
        groups=groups_of(wants),
        beneath=sheets,
        lots=lots,
        market=market_of(state, season, running=running),
        chosen=chosen_loads(state.site, season),
        booked=booked_loads(state.site.deliveries, state.day, season.account_from, season.closes),
    )


def market_of(state: SiteState, season: Season, *, running: bool) -> Market:
    """Return what can be had for a season, and on which terms.

    Parameters
    ----------
    state : SiteState
    season : Season
    running : bool
        Whether its account is running.

    Returns
    -------
    Market
    """
    site, buying = state.site, state.site.buying
    first, last = state.day if running else season.account_from, season.closes
    if running and buying.wanted_by is not None and state.day <= buying.wanted_by < last:
        last = buying.wanted_by
    count = min(MOST_MONTHS, (last.year - first.year) * 12 + last.month - first.month + 1)
    return Market(
        suppliers=state.assumed.suppliers,
        material=state.material,
        clock=state.climate.clocks[0],
        today=first,
        months=tuple((first.month - 1 + step) % 12 + 1 for step in range(count)),
        currency=buying.currency,
        sure=buying.sure / 100,
        load_m3=site.terms.load_m3,
        load_size=site.terms.load_size(),
        tip_m3=max((holds(tip.length_m, tip.width_m) for tip in state.ground.tips.values()), default=None),
        budget=buying.budget if running else None,
        step_m3=bulk_step_m3(site),
    )


def bulk_step_m3(site: Site) -> float:
    """Return what bulk is measured out by: a tenth of a m³ or of a cubic yard.

    Parameters
    ----------
    site : Site

    Returns
    -------
    float
        m³.
    """
    return 0.1 * (YARD3_M3 if site.units is UnitSystem.US else 1.0)


def chosen_loads(site: Site, season: Season) -> ChosenLoads | None:
    """Return the user's own choice for a season, the latest.

    Parameters
    ----------
    site : Site
    season : Season

    Returns
    -------
    ChosenLoads or None
        None where nobody chose.
    """
    latest = None
    for chosen in site.chosen:
        named = chosen.season == season.key
        running = chosen.season is None and season.account_from <= chosen.chosen_on <= season.closes
        if (named or running) and (latest is None or chosen.chosen_on >= latest.chosen_on):
            latest = chosen
    return latest


def bought_of(order: SeasonOrder) -> list[Bought] | None:
    """Return what an order buys; None where a price is not known.

    Parameters
    ----------
    order : SeasonOrder

    Returns
    -------
    list of Bought or None
    """
    bought = []
    for line in order.lines:
        offered = order.offered.get(line.source)
        if offered is None:
            return None
        bought.append(
            Bought(
                name=line.name,
                material=line.material_name,
                loads=line.loads,
                volume_m3=line.volume_m3,
                source=offered.source,
            )
        )
    return bought


def rates_of(site: Site) -> Rates:
    """Return the prices of a site's own work.

    Parameters
    ----------
    site : Site

    Returns
    -------
    Rates
    """
    buying = site.buying
    return Rates(labour_per_h=buying.labour_per_h, markup=buying.markup, disposal=buying.disposal, tax=buying.tax)


def quote_of(
    state: SiteState, order: SeasonOrder, carried_m3: Mapping[UUID, float], hours: Mapping[UUID, float], on: date
) -> Quote | None:
    """Return what a season costs, line by line and plot by plot; None where a price is not known.

    Parameters
    ----------
    state : SiteState
    order : SeasonOrder
    carried_m3 : mapping of plot id to m³
        Mulch, and what is laid beneath it.
    hours : mapping of plot id to person-hours
        Of all tasks.
    on : date
        That the quote bears.

    Returns
    -------
    Quote or None
    """
    bought = bought_of(order)
    if bought is None:
        return None
    plots = [
        PlotShare(
            key=str(plot.id),
            plot=plot.plot.name,
            area_m2=state.laid_m2(plot, state.day),
            volume_m3=carried_m3.get(plot.id, 0.0),
            hours=hours.get(plot.id, 0.0),
        )
        for plot in state.site.plots
        if plot.id in carried_m3 or plot.id in hours
    ]
    spare, needed_m3 = state.site.spare.value, sum(carried_m3.values())
    over_m3 = max(0.0, sum(line.volume_m3 for line in bought) - order.to_order_m3)
    return quote(
        state.site.buying.currency,
        on,
        bought,
        plots,
        rates_of(state.site),
        spare_m3=over_m3 + needed_m3 * spare / (1 + spare),
    )
