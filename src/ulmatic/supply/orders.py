"""What to order for a season, from whom, when; what it covers; and what a load would do."""

from datetime import timedelta
from uuid import UUID

from ulmatic.accounts.scope import Scope
from ulmatic.core.materials import Stage
from ulmatic.core.site import SitePlan
from ulmatic.core.site.workings import SeasonWorkings, season_workings
from ulmatic.core.stock import Lot, holds, stand
from ulmatic.core.supply.allocate import Allocation, one_more
from ulmatic.core.supply.choice import Choice, Chosen
from ulmatic.core.supply.effect import effect, shares, wants_of
from ulmatic.core.supply.order import ChosenLoads, SeasonOrder, lead_days
from ulmatic.core.supply.wording import amount, tell_apart
from ulmatic.core.survey import PilePlace, Tip
from ulmatic.platform.problems import Problem
from ulmatic.platform.writes import next_version
from ulmatic.site.sheets import tip_plans
from ulmatic.site.snapshot import Snapshot, snapshot, today_at
from ulmatic.stock.receiving import add_delivery, volume_of
from ulmatic.stock.schemas import Effect, NewDelivery, ReceiptEntry, ReceiptEstimate
from ulmatic.stock.service import stands
from ulmatic.supply.schemas import (
    AgeingLot,
    Booking,
    ChoiceEntry,
    ChoiceOut,
    OneMoreOut,
    OrderSheet,
    PlotWant,
    Priorities,
    PurchaseOut,
    SourceOut,
    Surplus,
)
from ulmatic.survey.models import SiteRow
from ulmatic.survey.rows import plot_rows
from ulmatic.survey.schemas import SeasonName

SIZES = {"arborist", "utility"}
"""Kinds that bring loads of unknown size."""
ALTERNATIVES = 3
SPECK_M3 = 0.05


def order_sheet(scope: Scope, site_id: UUID, season: str | None) -> OrderSheet:
    """Say what to order for a season of a site."""
    found = snapshot(scope, site_id)
    plan = found.plan()
    number = found.season(plan, season)
    order, wants = plan.order(number), plan.wants(number)
    chosen = order.choices(ALTERNATIVES)
    best = chosen.choices[0] if chosen.choices else None
    there = _with_ordered(order)
    allocation = shares(order, wants, there)
    running = plan.seasons[number]
    return OrderSheet(
        now=plan.now, season=plan.figures(number),
        seasons=[SeasonName(key=one.key, name=one.name) for one in plan.seasons],
        sources=_sources(found, order),
        choices=[
            _choice_out(
                found, order, one, None if one is best or best is None else tell_apart(best, one, _names(order))
            )
            for one in chosen.choices
        ],
        binding=chosen.binding, nearest=_nearest(found, order, chosen),
        plots=_plots(plan, number, allocation), one_more=_one_more(found, order, number, there),
        surplus=_surplus(found, order, there, allocation),
        ageing=[
            AgeingLot(
                pile=next((pile.name for pile in found.pile_rows if pile.id == order.lots[at].pile_id), None),
                material_name=order.lots[at].material.name, volume_m3=order.lots[at].volume_m3, fit_from=day,
            )
            for at, day in order.fit_from().items()
        ],
        certainty=order.certainty(),
        order_by=max(
            found.today,
            running.lays_on(found.today) - timedelta(days=lead_days(order.lines, order.offered)),
        ),
    )  # fmt: skip


def _names(order: SeasonOrder) -> dict[str, tuple[str, str]]:
    offered = {**order.offered, **order.unnamed}
    return {key: (one.name if one.supplier else "a source yet to be found", one.kind) for key, one in offered.items()}


def _sources(found: Snapshot, order: SeasonOrder) -> list[SourceOut]:
    return [
        SourceOut(
            key=key, name=one.name if one.supplier else "", kind=one.kind,
            material=one.source.material if one.supplier else one.source.key.split(":")[1],
            material_name=one.name if not one.supplier else found.site.material(one.source.material).name,
            months=list(one.supplier.source.months) if one.supplier else list(range(1, 13)),
            loads_at_most=one.source.loads_at_most, load_m3=one.source.holds_m3, exact=one.source.exact,
            unfit=one.unfit,
            stage=one.stage,
        )
        for key, one in {**order.offered, **order.unnamed}.items()
    ]  # fmt: skip


def _choice_out(found: Snapshot, order: SeasonOrder, choice: Choice, difference: str | None) -> ChoiceOut:
    by_source = {purchase.source: purchase for purchase in choice.purchases}
    priced = all(line.price is not None for line in order.lines_of(choice))
    over = max(0.0, choice.volume_m3 + choice.short_m3 - order.to_order_m3)
    return ChoiceOut(
        purchases=[
            PurchaseOut(
                key=line.source, name=line.name, kind=line.kind, material_name=line.material_name, stage=line.stage,
                amount=amount(by_source[line.source], line.kind), loads=line.loads, volume_m3=line.volume_m3,
                cost=line.price, by_month=list(line.by_month),
                exact=order.offered[line.source].source.exact if line.source in order.offered else False,
            )
            for line in order.lines_of(choice)
        ],
        cost=choice.cost if priced else None, volume_m3=choice.volume_m3, left_over_m3=over, short_m3=choice.short_m3,
        enough=choice.enough, difference=difference,
    )  # fmt: skip


def _nearest(found: Snapshot, order: SeasonOrder, chosen: Chosen) -> ChoiceOut | None:
    return _choice_out(found, order, chosen.nearest, None) if chosen.nearest else None


def _with_ordered(order: SeasonOrder) -> list[Lot]:
    """Return what lies here, is coming, and is ordered."""
    ordered = [
        Lot(
            order.market.material(line.material),
            order.market.today,
            line.volume_m3,
            order.market.today,
            comes_as=line.stage,
        )
        for line in order.lines
    ]
    return [*order.lots, *ordered]


def _plots(plan: SitePlan, number: int, allocation: Allocation[int]) -> list[PlotWant]:
    by_plot = {share.plot: share for share in allocation.shares}
    names = plan.state.site.materials
    wanted = []
    for at, plot in sorted(enumerate(plan.plots), key=lambda one: (one[1].priority, one[0])):
        share = by_plot.get(at)
        accepted = plan.accepted(at)
        wanted.append(
            PlotWant(
                plot_id=plot.id, name=plot.plot.name, priority=plot.priority,
                accepts=[names[key].name for key in sorted(accepted.materials) if key in names],
                stages=[stage for stage in Stage if stage in accepted.stages],
                needs_m3=sum(plan.ordered_m3(laying) for laying in plan.layings(number) if laying.plot == at),
                gets_m3=share.gets_m3 if share else 0.0, short_m3=share.short_m3 if share else 0.0,
                whole=share is None or share.whole,
            )
        )  # fmt: skip
    return wanted


def _one_more(found: Snapshot, order: SeasonOrder, number: int, there: list[Lot]) -> OneMoreOut | None:
    """Say what one load more buys, of the supplier whose load serves most."""
    best: OneMoreOut | None = None
    plots = found.site.plots
    wants, pools = wants_of(order, found.plan().wants(number), there)
    for key, one in order.offered.items():
        if one.kind not in SIZES and one.kind != "merchant":
            continue
        if one.unfit is not None and not one.unfit.startswith("It comes too seldom"):
            continue
        lot = Lot(found.site.material(one.source.material), order.market.today, one.source.holds_m3, order.market.today)
        wider, _ = wants_of(order, found.plan().wants(number), [*there, lot])
        more = one_more(wider, pools, str(len(there)), one.source.holds_m3)
        if more is None:
            continue
        said = OneMoreOut(
            source=order.offered[key].name, load_m3=more.load_m3,
            whole=[plots[at].plot.name for at in more.whole],
            part=plots[more.part].plot.name if more.part is not None else None, over_m3=more.over_m3,
        )  # fmt: skip
        if best is None or len(said.whole) > len(best.whole):
            best = said
    return best if wants else None


def _pile_place(found: Snapshot) -> str | None:
    """Return the pile place with the most room, else the largest tip."""
    places = [one for one in found.site.landmarks if isinstance(one.landmark, PilePlace)]
    places = places or [one for one in found.site.landmarks if isinstance(one.landmark, Tip)]
    room = {
        one.name: holds(one.landmark.length_m, one.landmark.width_m)
        for one in places
        if isinstance(one.landmark, PilePlace | Tip)
    }
    return max(room, key=lambda name: room[name], default=None)


def _surplus(found: Snapshot, order: SeasonOrder, there: list[Lot], allocation: Allocation[int]) -> list[Surplus]:
    over: dict[str, float] = {}
    for key, volume in allocation.over.items():
        material = there[int(key)].material.key
        over[material] = over.get(material, 0.0) + volume
    clock, year = found.state.clocks[0], found.today + timedelta(days=365)
    return [
        Surplus(
            material_name=found.site.material(key).name, volume_m3=volume, place=_pile_place(found),
            in_a_year=Lot(found.site.material(key), found.today, volume, found.today).stage(year, clock),
        )
        for key, volume in over.items()
        if volume > SPECK_M3 and key not in order.beneath
    ]  # fmt: skip


def effect_of(found: Snapshot, material: str, volume_m3: float, heap_m3: float) -> Effect:
    """Say what a load does in the season that runs; `heap_m3` is what it may hold."""
    plan = found.plan()
    lot = Lot(found.site.material(material), found.today, volume_m3, found.today)
    said = effect(plan.order(0), plan.wants(0), lot)
    names = [plot.plot.name for plot in plan.plots]
    return Effect(
        material=material, material_name=found.site.material(material).name, volume_m3=volume_m3,
        accepted_by=said.accepted_by, whole=[names[at] for at in said.whole],
        part=None if said.part is None else names[said.part], over_m3=said.over_m3,
        short_before_m3=said.short_before_m3, short_after_m3=said.short_after_m3, pile_place=_pile_place(found),
        tips=tip_plans(plan, heap_m3),
    )  # fmt: skip


def receipt_estimate(scope: Scope, site_id: UUID, entry: ReceiptEntry) -> ReceiptEstimate:
    """Say how much came and what it does; nothing is kept."""
    found = snapshot(scope, site_id)
    volume = volume_of(found.site.materials, entry)
    piles = {row.id: row for row in found.pile_rows}
    where = piles[entry.pile_id].landmark_id if entry.pile_id in piles else entry.landmark_id
    there = sum(lot.volume_m3 for lot in found.state.lots if lot.pile_id and piles[lot.pile_id].landmark_id == where)
    standing = stands(found.landmark_rows, where, volume.value + there)
    return ReceiptEstimate(
        volume=volume, heap=standing.heap if standing else stand(volume.value + there),
        effect=effect_of(found, entry.material, volume.value, volume.value),
    )  # fmt: skip


def workings(scope: Scope, site_id: UUID, season: str | None) -> SeasonWorkings:
    """Return how the figures of a season are worked out."""
    found = snapshot(scope, site_id)
    plan = found.plan()
    return season_workings(plan, found.season(plan, season))


def choose_loads(scope: Scope, site_id: UUID, entry: ChoiceEntry, if_match: str | None) -> None:
    """Keep the user's own choice of loads for a season, or take it back."""
    found = snapshot(scope, site_id)
    plan = found.plan()
    number = found.season(plan, entry.season)
    season = plan.seasons[number]
    known = {*plan.order(number).offered, *plan.order(number).unnamed}
    for line in entry.lines or ():
        if line.source not in known and not line.source.startswith("unnamed"):
            raise Problem(422, "There is no such source here any more. Reload and choose again.", field="lines")
    site = scope.one(SiteRow, site_id, lock=True)
    next_version(site, if_match)
    kept = [one for one in site.chosen if one["season"] != season.key and not (number == 0 and one["season"] is None)]
    if entry.lines is not None:
        choice = ChosenLoads(season=season.key, chosen_on=today_at(site), lines=tuple(entry.lines))
        kept.append(choice.model_dump(mode="json"))
    site.chosen = kept[-60:]
    scope.session.flush()


def book(scope: Scope, site_id: UUID, entry: Booking) -> None:
    """Book a load of a source for a season: it is expected from then on, and counts against what was chosen."""
    found = snapshot(scope, site_id)
    plan = found.plan()
    number = found.season(plan, entry.season)
    order = plan.order(number)
    line = next((one for one in order.lines if one.source == entry.source), None)
    if line is None:
        raise Problem(409, "Nothing is to be ordered from there any more. Look at the order again.")
    offered = order.offered.get(entry.source)
    source = offered.source if offered else order.unnamed[entry.source].source
    likely = min(line.volume_m3, source.holds_m3) if source.exact else source.holds_m3
    size = source.size
    opens = plan.seasons[number].opens
    delivery = NewDelivery(
        id=entry.id, units=found.site.units, name=line.name or line.material_name, material=line.material,
        supplier_id=offered.supplier.id if offered and offered.supplier else None,
        least_m3=size.least_m3 if size else None, likely_m3=size.likely_m3 if size else likely,
        most_m3=size.most_m3 if size else None, expected_on=opens if number else None,
        cost=source.per_load + (source.per_m3 * likely if source.exact else 0.0),
    )  # fmt: skip
    add_delivery(scope, site_id, delivery)


def put_priorities(scope: Scope, site_id: UUID, entry: Priorities) -> None:
    """Keep which plots come first when there is too little."""
    rows = {row.id: row for row in plot_rows(scope, scope.one(SiteRow, site_id), lock=True)}
    if not set(entry.priorities) <= set(rows):
        raise Problem(404, "One of these plots is not here any more. Reload and choose again.")
    for plot_id, priority in entry.priorities.items():
        rows[plot_id].priority = priority
