"""What to order for a season, from whom, when; what it covers; and what a load would do."""

from uuid import UUID

from ulmatic.accounts.scope import Scope
from ulmatic.core.planning import SitePlan
from ulmatic.core.planning.workings import SeasonWorkings, season_workings
from ulmatic.core.stock import Lot, stand
from ulmatic.core.supply.allocate import Allocation
from ulmatic.core.supply.choice import Choice
from ulmatic.core.supply.chosen import ChosenLoads
from ulmatic.core.supply.effect import best_load, effect, leftovers, shares
from ulmatic.core.supply.order import SeasonOrder
from ulmatic.core.supply.suppliers import UNNAMED
from ulmatic.core.supply.wording import amount, tell_apart
from ulmatic.platform.problems import Problem
from ulmatic.records.plots import plot_rows
from ulmatic.records.survey import SiteRow
from ulmatic.records.writes import next_version
from ulmatic.site.book import add_delivery, volume_of
from ulmatic.site.book_schemas import Effect, NewDelivery, ReceiptEntry, ReceiptEstimate
from ulmatic.site.snapshot import Snapshot, snapshot_of, today_at
from ulmatic.site.summaries import accepted_out, season_names, stands, tip_plans
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

ALTERNATIVES = 3


def order_sheet(scope: Scope, site_id: UUID, season: str | None) -> OrderSheet:
    """Say what to order for a season of a site."""
    snapshot = snapshot_of(scope, site_id)
    plan = snapshot.plan()
    number = snapshot.season(plan, season)
    order, wants = plan.order(number), plan.wants(number)
    chosen = order.choices(ALTERNATIVES)
    best, *others = chosen.choices or (None,)
    names = {key: (offered.name or "a source not yet chosen", offered.kind) for key, offered in order.sources.items()}
    return OrderSheet(
        now=plan.now,
        season=plan.figures(number),
        seasons=season_names(plan),
        sources=_sources(order),
        choices=[]
        if best is None
        else [
            _choice_out(order, best, None),
            *(_choice_out(order, other, tell_apart(best, other, names)) for other in others),
        ],
        complete=chosen.complete,
        binding=chosen.binding,
        nearest=_choice_out(order, chosen.nearest, None) if chosen.nearest else None,
        plots=_plots(plan, number, shares(order, wants, order.lots_with_ordered())),
        one_more=_one_more(plan, number),
        surplus=[
            Surplus(
                material_name=surplus.material.name,
                volume_m3=surplus.volume_m3,
                place=snapshot.state.ground.pile_place,
                in_a_year=surplus.in_a_year,
            )
            for surplus in leftovers(order, wants, snapshot.today)
        ],
        ageing=[
            AgeingLot(
                pile=next((pile.name for pile in snapshot.pile_rows if pile.id == order.lots[index].pile_id), None),
                material_name=order.lots[index].material.name,
                volume_m3=order.lots[index].volume_m3,
                fit_from=day,
            )
            for index, day in order.fit_from().items()
        ],
        certainty=order.certainty(),
        order_by=plan.order_by(number),
    )


def _sources(order: SeasonOrder) -> list[SourceOut]:
    return [
        SourceOut(
            key=key,
            name=offered.name,
            kind=offered.kind,
            material=offered.material.key,
            material_name=offered.material.name,
            loads_at_most=offered.source.loads_at_most,
            months=list(offered.supplier.source.months) if offered.supplier else list(range(1, 13)),
            load_m3=offered.source.holds_m3,
            exact=offered.source.exact,
            unfit=offered.unfit,
            stage=offered.stage,
        )
        for key, offered in order.sources.items()
    ]


def _choice_out(order: SeasonOrder, choice: Choice, difference: str | None) -> ChoiceOut:
    bought = {purchase.source: purchase for purchase in choice.purchases}
    lines = order.lines_of(choice)
    return ChoiceOut(
        purchases=[
            PurchaseOut(
                key=line.source,
                name=line.name,
                kind=line.kind,
                material_name=line.material_name,
                stage=line.stage,
                amount=amount(bought[line.source], line.kind),
                loads=line.loads,
                volume_m3=line.volume_m3,
                cost=line.price,
                by_month=list(line.by_month),
                exact=line.exact,
            )
            for line in lines
        ],
        cost=choice.cost if all(line.price is not None for line in lines) else None,
        volume_m3=choice.volume_m3,
        left_over_m3=order.over_m3(lines, choice.short_m3),
        short_m3=choice.short_m3,
        enough=choice.enough,
        gap=choice.gap,
        difference=difference,
    )


def _plots(plan: SitePlan, number: int, allocation: Allocation[int]) -> list[PlotWant]:
    by_plot, planned = {share.plot: share for share in allocation.shares}, plan.planned_m3(number)
    plots = []
    for index, plot in sorted(enumerate(plan.plots), key=lambda numbered: (numbered[1].priority, numbered[0])):
        share, accepted = by_plot.get(index), accepted_out(plan.accepts[index], plan.state.assumed.materials)
        plots.append(
            PlotWant(
                plot_id=plot.id,
                name=plot.plot.name,
                priority=plot.priority,
                accepts=accepted.names,
                stages=accepted.stages,
                needs_m3=planned.get(plot.id, 0.0),
                gets_m3=share.gets_m3 if share else 0.0,
                short_m3=share.short_m3 if share else 0.0,
                whole=share is None or share.covered,
            )
        )
    return plots


def _one_more(plan: SitePlan, number: int) -> OneMoreOut | None:
    load = best_load(plan.order(number), plan.wants(number))
    if load is None:
        return None
    names = [plot.plot.name for plot in plan.plots]
    return OneMoreOut(
        source=load.source,
        load_m3=load.load_m3,
        whole=[names[index] for index in load.whole],
        part=None if load.part is None else names[load.part],
        over_m3=load.over_m3,
    )


def effect_of(snapshot: Snapshot, material: str, volume_m3: float, pile_m3: float) -> Effect:
    """Say what a load does in the season that runs; `pile_m3` is what it may hold."""
    plan = snapshot.plan()
    lot = Lot(snapshot.site.material(material), snapshot.today, volume_m3, snapshot.today)
    load_effect = effect(plan.order(0), plan.wants(0), lot)
    names = [plot.plot.name for plot in plan.plots]
    return Effect(
        material=material,
        material_name=snapshot.site.material(material).name,
        volume_m3=volume_m3,
        accepted_by=load_effect.accepted_by,
        whole=[names[index] for index in load_effect.whole],
        part=None if load_effect.part is None else names[load_effect.part],
        over_m3=load_effect.over_m3,
        short_before_m3=load_effect.short_before_m3,
        short_after_m3=load_effect.short_after_m3,
        pile_place=snapshot.state.ground.pile_place,
        tips=tip_plans(plan, pile_m3),
    )


def receipt_estimate(scope: Scope, site_id: UUID, entry: ReceiptEntry) -> ReceiptEstimate:
    """Say how much came and what it does; nothing is kept."""
    snapshot = snapshot_of(scope, site_id)
    volume = volume_of(snapshot.site.materials, entry)
    piles = {row.id: row for row in snapshot.pile_rows}
    where = piles[entry.pile_id].landmark_id if entry.pile_id in piles else entry.landmark_id
    lying_m3 = sum(
        lot.volume_m3 for lot in snapshot.state.lots if lot.pile_id and piles[lot.pile_id].landmark_id == where
    )
    standing = stands(snapshot.landmark_rows, where, volume.value + lying_m3)
    return ReceiptEstimate(
        volume=volume,
        stand=standing.stand if standing else stand(volume.value + lying_m3),
        effect=effect_of(snapshot, entry.material, volume.value, volume.value),
    )


def workings(scope: Scope, site_id: UUID, season: str | None) -> SeasonWorkings:
    """Return how the figures of a season are worked out."""
    snapshot = snapshot_of(scope, site_id)
    plan = snapshot.plan()
    return season_workings(plan, snapshot.season(plan, season))


def choose_loads(scope: Scope, site_id: UUID, entry: ChoiceEntry, if_match: str | None) -> None:
    """Keep the user's own choice of loads for a season, or take it back."""
    snapshot = snapshot_of(scope, site_id)
    plan = snapshot.plan()
    number = snapshot.season(plan, entry.season)
    season = plan.seasons[number]
    known = plan.order(number).sources
    for line in entry.lines or ():
        if line.source not in known and not line.source.startswith(UNNAMED):
            raise Problem(422, "This source does not exist any more. Reload and choose again.", field="lines")
    site = scope.get(SiteRow, site_id, lock=True)
    next_version(site, if_match)
    replaced = (season.key, None) if number == 0 else (season.key,)
    others = [choice for choice in site.chosen if choice["season"] not in replaced]
    if entry.lines is not None:
        choice = ChosenLoads(season=season.key, chosen_on=today_at(scope, site), lines=tuple(entry.lines))
        others.append(choice.model_dump(mode="json"))
    site.chosen = others[-60:]
    scope.session.flush()


def book(scope: Scope, site_id: UUID, entry: Booking) -> None:
    """Book a load of a source for a season: it is expected from then on, and counts against what was chosen."""
    snapshot = snapshot_of(scope, site_id)
    plan = snapshot.plan()
    number = snapshot.season(plan, entry.season)
    order = plan.order(number)
    line = next((line for line in order.lines if line.source == entry.source), None)
    if line is None:
        raise Problem(409, "There is nothing left to order from this source. Check the order again.")
    offered = order.source_of(entry.source)
    source = offered.source
    likely = min(line.volume_m3, source.holds_m3) if source.exact else source.holds_m3
    size = source.size
    opens = plan.seasons[number].opens
    delivery = NewDelivery(
        id=entry.id,
        units=snapshot.site.units,
        name=line.name or line.material_name,
        material=line.material,
        supplier_id=offered.supplier.id if offered.supplier else None,
        least_m3=size.least_m3 if size else None,
        likely_m3=size.likely_m3 if size else likely,
        most_m3=size.most_m3 if size else None,
        expected_on=opens if number else None,
        cost=float(source.price(likely, 1)),
    )
    add_delivery(scope, site_id, delivery)


def put_priorities(scope: Scope, site_id: UUID, entry: Priorities) -> None:
    """Keep which plots come first when there is too little."""
    rows = {row.id: row for row in plot_rows(scope, scope.get(SiteRow, site_id, lock=True), lock=True)}
    if not set(entry.priorities) <= set(rows):
        raise Problem(404, "One of these plots does not exist any more. Reload and choose again.")
    for plot_id, priority in entry.priorities.items():
        rows[plot_id].priority = priority
