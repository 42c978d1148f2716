"""How chips get from tips and piles to plots: legs, hours, the order of laying, and a second tip."""

from uuid import UUID

from ulmatic.accounts.scope import Scope
from ulmatic.core.site.haul import SeasonHaul
from ulmatic.core.work import CARRIERS, Turn
from ulmatic.site.sheets import season_names
from ulmatic.site.snapshot import snapshot_of
from ulmatic.work.schemas import LegOut, MovingSheet, SecondTipOut, TurnOut


def moving_sheet(scope: Scope, site_id: UUID, season: str | None) -> MovingSheet:
    """Say how a season's chips are moved, and in which order plots are laid."""
    snapshot = snapshot_of(scope, site_id)
    plan = snapshot.plan()
    number = snapshot.season(plan, season)
    haul, buying = plan.haul(number), snapshot.site.buying
    names = {plot.id: plot.plot.name for plot in plan.plots}
    tip = haul.second_tip()
    return MovingSheet(
        now=plan.now, season=plan.figures(number),
        seasons=season_names(plan),
        turns=[_turn(haul, turn, names) for turn in haul.turns()],
        hours=haul.moving.figure(), people=buying.people, trips=haul.moving.trips, walked_m=haul.moving.walked_m,
        second_tip=SecondTipOut(
            at=tip[0], hours_now=tip[1], hours_then=tip[2],
            saves=(tip[1] - tip[2]) * buying.labour_per_h if buying.labour_per_h else None,
        )
        if tip
        else None,
    )  # fmt: skip


def _turn(haul: SeasonHaul, turn: Turn[UUID], names: dict[UUID, str]) -> TurnOut:
    heaps = {heap.key: heap.name for heap in haul.heaps}
    legs = haul.legs[turn.plot]
    known = [leg.walk for leg in legs if leg.walk.known]
    return TurnOut(
        plot_id=turn.plot, plot=names[turn.plot], volume_m3=sum(leg.volume_m3 for leg in legs),
        walk_m=known[0].walk_m if known else None, before=[names[plot] for plot in turn.before],
        over=[names[plot] for plot in turn.over],
        legs=[
            LegOut(
                heap=heaps[leg.heap], volume_m3=leg.volume_m3, carrier=leg.carrier, trips=leg.trips,
                carrier_name=CARRIERS[leg.carrier].name if leg.carrier else "By hand", walked_m=leg.walked_m,
                hours=leg.figure(), known=leg.walk.known,
            )
            for leg in legs
        ],
    )  # fmt: skip
