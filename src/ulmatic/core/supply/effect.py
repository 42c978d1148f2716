"""What a load would do: which plots it serves, and what stays over."""

from collections.abc import Sequence
from dataclasses import replace
from datetime import date, timedelta

from ulmatic.core.decay import pile_stage
from ulmatic.core.materials import Material, Stage
from ulmatic.core.recipe import Accepted
from ulmatic.core.stock import Lot
from ulmatic.core.stock.books import SPECK_M3
from ulmatic.core.supply.allocate import Allocation, Want, allocate, one_more
from ulmatic.core.supply.market import Offered
from ulmatic.core.supply.order import SeasonOrder
from ulmatic.core.supply.sourcing import TOO_SELDOM
from ulmatic.core.supply.wanted import Wanted
from ulmatic.core.value import Value

LEAST_SURPLUS_M3 = 0.05
"""Nobody asks for a place for less."""
BY_LOAD = ("arborist", "utility", "merchant")
"""Kinds of whom one load more can be asked."""
YEAR = timedelta(days=365)


class BestLoad(Value):
    """Of whom one load more serves most: m³ of it, plots it makes whole, one it serves in part, what is over."""

    source: str
    load_m3: float
    whole: tuple[int, ...]
    part: int | None
    over_m3: float


class Left(Value):
    """Chips that are over when all plots have theirs, and how far rotted they are in a year."""

    material: Material
    volume_m3: float
    in_a_year: Stage


PlotWant = Want[int]


class LoadEffect(Value):
    """What a load does beside what lies here and comes: indices of plots it makes whole and serves in part, m³ over.

    `short_before_m3` and `short_after_m3` are what is to be ordered without and with it.
    """

    accepted_by: int
    whole: tuple[int, ...]
    part: int | None
    over_m3: float
    short_before_m3: float
    short_after_m3: float


def wants_of(
    order: SeasonOrder, layings: Sequence[Wanted], lots: Sequence[Lot]
) -> tuple[list[Want[int]], dict[str, float]]:
    """Return what plots want, by priority, each with the lots it accepts; and the m³ of each lot, by its number.

    Parameters
    ----------
    order : SeasonOrder
    layings : sequence of Wanted
    lots : sequence of Lot

    Returns
    -------
    (list of Want, dict of str to float)
    """
    wants, accepted = [], dict[tuple[Accepted, date], list[int]]()
    for want in sorted(layings, key=lambda want: (want.priority, want.plot)):
        key = (want.accepts, want.on)
        if key not in accepted:
            accepted[key] = [
                index
                for index, lot in enumerate(lots)
                if want.accepts.fits(lot.material, lot.stage(want.on, order.market.clock))
            ]
        worth = want.worth()
        takes = {str(index): worth(lots[index].material) for index in accepted[key]}
        wants.append(PlotWant(plot=want.plot, needs_m3=want.volume_m3, accepts=frozenset(takes), worth=takes))
    return wants, {str(index): lot.volume_m3 for index, lot in enumerate(lots)}


def shares(order: SeasonOrder, layings: Sequence[Wanted], lots: Sequence[Lot]) -> Allocation[int]:
    """Return which plots some lots serve: by priority, whole plots first.

    Parameters
    ----------
    order : SeasonOrder
    layings : sequence of Wanted
        The season's layings.
    lots : sequence of Lot

    Returns
    -------
    Allocation
    """
    return allocate(*wants_of(order, layings, lots))


def effect(order: SeasonOrder, layings: Sequence[Wanted], lot: Lot) -> LoadEffect:
    """Return what a load does in a season.

    Parameters
    ----------
    order : SeasonOrder
    layings : sequence of Wanted
    lot : Lot

    Returns
    -------
    LoadEffect
    """
    before, after = shares(order, layings, order.lots), shares(order, layings, [*order.lots, lot])
    with_it = replace(order, lots=[*order.lots, lot])
    old = {share.plot: share.gets_m3 for share in before.shares}
    gained = [share for share in after.shares if share.gets_m3 > old.get(share.plot, 0.0) + SPECK_M3]
    fits = [want for want in layings if want.accepts.fits(lot.material, lot.stage(want.on, order.market.clock))]
    return LoadEffect(
        accepted_by=len(fits),
        whole=tuple(share.plot for share in gained if share.covered),
        part=next((share.plot for share in gained if not share.covered), None),
        over_m3=max(0.0, after.over_m3 - before.over_m3),
        short_before_m3=order.to_order_m3,
        short_after_m3=with_it.to_order_m3,
    )


def best_load(order: SeasonOrder, layings: Sequence[Wanted]) -> BestLoad | None:
    """Return whose load serves most plots beside all that is ordered; None where nothing is short.

    Of each material the largest load is looked at; a crew that comes too seldom to be counted on can be asked too.

    Parameters
    ----------
    order : SeasonOrder
    layings : sequence of Wanted

    Returns
    -------
    BestLoad or None
    """
    lots = order.lots_with_ordered()
    wants, volumes = wants_of(order, layings, lots)
    if all(share.covered for share in allocate(wants, volumes).shares):
        return None
    largest: dict[str, Offered] = {}
    for offered in order.offered.values():
        if offered.kind in BY_LOAD and offered.unfit in (None, TOO_SELDOM):
            key = offered.material.key
            if key not in largest or offered.source.holds_m3 > largest[key].source.holds_m3:
                largest[key] = offered
    best: BestLoad | None = None
    for offered in largest.values():
        load_m3 = offered.source.holds_m3
        lot = Lot(offered.material, order.market.today, load_m3, order.market.today)
        wants, _ = wants_of(order, layings, [*lots, lot])
        more = one_more(wants, volumes, str(len(lots)), load_m3)
        if more is not None and (best is None or len(more.whole) > len(best.whole)):
            best = BestLoad(
                source=offered.name, load_m3=more.load_m3, whole=more.whole, part=more.part, over_m3=more.over_m3
            )
    return best


def leftovers(order: SeasonOrder, layings: Sequence[Wanted], today: date) -> list[Left]:
    """Return what is over of mulch when a season's plots have theirs.

    Parameters
    ----------
    order : SeasonOrder
    layings : sequence of Wanted
    today : date

    Returns
    -------
    list of Left
    """
    all_lots, surplus = order.lots_with_ordered(), dict[str, float]()
    for number, volume in shares(order, layings, all_lots).left_m3.items():
        key = all_lots[int(number)].material.key
        surplus[key] = surplus.get(key, 0.0) + volume
    return [
        Left(
            material=order.market.material(key),
            volume_m3=volume,
            in_a_year=pile_stage(order.market.material(key), today, order.market.clock, today + YEAR),
        )
        for key, volume in surplus.items()
        if volume > LEAST_SURPLUS_M3 and key not in order.beneath
    ]
