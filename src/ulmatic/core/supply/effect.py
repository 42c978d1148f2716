"""What a load would do: which plots it serves, and what stays over."""

from collections.abc import Sequence
from dataclasses import replace

from pydantic import BaseModel, ConfigDict

from ulmatic.core.stock import Lot
from ulmatic.core.supply.allocate import Allocation, Want, allocate
from ulmatic.core.supply.order import SeasonOrder, Wanted

SPECK_M3 = 1e-6


class LoadEffect(BaseModel):
    """What a load does beside what lies here and comes: indices of plots it makes whole and serves in part, m³ over.

    `short_before_m3` and `short_after_m3` are what is to be ordered without and with it.
    """

    model_config = ConfigDict(frozen=True)
    accepted_by: int
    whole: tuple[int, ...]
    part: int | None
    over_m3: float
    short_before_m3: float
    short_after_m3: float


def wants_of(
    order: SeasonOrder, wanted: Sequence[Wanted], lots: Sequence[Lot]
) -> tuple[list[Want[int]], dict[str, float]]:
    """Return what plots want, by priority, each with the lots it accepts; and the m³ of each lot, by its number."""
    clock = order.market.clock
    wants = [
        Want[int](
            plot=want.plot,
            needs_m3=want.volume_m3,
            accepts=frozenset(
                str(at) for at, lot in enumerate(lots) if want.accepts.fits(lot.material, lot.stage(want.on, clock))
            ),
        )
        for want in sorted(wanted, key=lambda want: (want.priority, want.plot))
    ]
    return wants, {str(at): lot.volume_m3 for at, lot in enumerate(lots)}


def shares(order: SeasonOrder, wanted: Sequence[Wanted], lots: Sequence[Lot]) -> Allocation[int]:
    """Return which plots some lots serve: by priority, whole plots first.

    Parameters
    ----------
    order : SeasonOrder
    wanted : sequence of Wanted
        The season's layings.
    lots : sequence of Lot
    """
    return allocate(*wants_of(order, wanted, lots))


def effect(order: SeasonOrder, wanted: Sequence[Wanted], lot: Lot) -> LoadEffect:
    """Return what a load does in a season."""
    before, after = shares(order, wanted, order.lots), shares(order, wanted, [*order.lots, lot])
    with_it = replace(order, lots=[*order.lots, lot])
    old = {share.plot: share.gets_m3 for share in before.shares}
    gained = [share for share in after.shares if share.gets_m3 > old.get(share.plot, 0.0) + SPECK_M3]
    fits = [want for want in wanted if want.accepts.fits(lot.material, lot.stage(want.on, order.market.clock))]
    return LoadEffect(
        accepted_by=len(fits), whole=tuple(share.plot for share in gained if share.whole),
        part=next((share.plot for share in gained if not share.whole), None),
        over_m3=max(0.0, after.over_m3 - before.over_m3), short_before_m3=order.to_order_m3,
        short_after_m3=with_it.to_order_m3,
    )  # fmt: skip
