"""What to order, from whom, when; what it covers; and what a load that is offered would do."""

from uuid import UUID

from ulmatic.accounts.scope import Scope
from ulmatic.core.stock.heap import holds, stand, tip_plan
from ulmatic.core.supply.allocate import Allocation, allocate, one_more
from ulmatic.core.supply.choice import Choice
from ulmatic.core.supply.wording import amount, tell_apart
from ulmatic.core.survey import PilePlace, Tip
from ulmatic.platform.problems import Problem
from ulmatic.stock.receiving import volume_of
from ulmatic.stock.schemas import Effect, ReceiptEntry, ReceiptEstimate
from ulmatic.stock.service import stage_at, stands
from ulmatic.supply.planning import BARE_M3, Planning, planning
from ulmatic.supply.schemas import (
    ChoiceOut,
    OneMoreOut,
    PlanSheet,
    PlotWant,
    Priorities,
    PurchaseOut,
    SourceOut,
    Surplus,
)
from ulmatic.survey.models import SiteRow
from ulmatic.survey.surveyed import landmark_rows, plot_rows

SIZES = {"arborist", "utility"}
"""Kinds that bring loads of unknown size."""


def plan_sheet(scope: Scope, site_id: UUID) -> PlanSheet:
    """Say what to order for a site."""
    plan = planning(scope, site_id)
    chosen, names = plan.chosen, _names(plan)
    choices = [_with_all_over(plan, one) for one in chosen.choices]
    nearest = _with_all_over(plan, chosen.nearest) if chosen.nearest else None
    blocked, binding = plan.blocked(), chosen.binding
    if blocked:
        nearest, binding = nearest or (choices[0] if choices else None), blocked[1]
        nearest = nearest and nearest.model_copy(update={"short_m3": nearest.short_m3 + blocked[0]})
        choices = []
    best = choices[0] if choices else None
    allocation = allocate(plan.wants, plan.with_choice())
    needs = sum(one.needs_m3 for one in plan.wants) + sum(sum(plots.values()) for plots in plan.beneath.values())
    there, coming = sum(plan.there.values()), sum(plan.coming.values())
    taken = plan.best.purchases if plan.best else ()
    return PlanSheet(
        buying=plan.buying,
        needs_m3=needs,
        there_m3=there,
        coming_m3=coming,
        to_order_m3=sum(one.volume_m3 for one in taken if plan.offered[one.source].kind not in ("pile", "coming")),
        sources=[_source_out(plan, key) for key in plan.offered],
        choices=[
            _choice_out(plan, one, None if one is best or best is None else tell_apart(best, one, names))
            for one in choices
        ],
        binding=binding,
        nearest=_choice_out(plan, nearest, None) if nearest else None,
        plots=_plots_out(plan, allocation),
        one_more=_one_more(plan),
        surplus=_surplus(plan, allocation),
        uncovered=plan.uncovered(reckoned_with=False),
    )


def _names(plan: Planning) -> dict[str, tuple[str, str]]:
    return {key: (one.name, one.kind) for key, one in plan.offered.items()}


def _source_out(plan: Planning, key: str) -> SourceOut:
    one = plan.offered[key]
    return SourceOut(
        key=key, name=one.name, kind=one.kind, material=one.source.material,
        material_name=plan.material(one.source.material).name, months=list(one.months),
        loads_at_most=one.source.loads_at_most, load_m3=one.source.holds_m3, unfit=one.unfit,
    )  # fmt: skip


def _with_all_over(plan: Planning, choice: Choice) -> Choice:
    """Return a choice with what it leaves over of what lies here and is coming counted in."""
    committed = sum(plan.with_coming().values())
    used = sum(one.volume_m3 for one in choice.purchases if plan.offered[one.source].source.committed)
    return choice.model_copy(update={"left_over_m3": choice.left_over_m3 + committed - used})


def _choice_out(plan: Planning, choice: Choice, difference: str | None) -> ChoiceOut:
    return ChoiceOut(
        purchases=[
            PurchaseOut(
                key=one.source, name=plan.offered[one.source].name, kind=plan.offered[one.source].kind,
                material_name=plan.material(plan.offered[one.source].source.material).name,
                amount=amount(one, plan.offered[one.source].kind), loads=one.loads, volume_m3=one.volume_m3,
                cost=one.cost, by_month=list(one.by_month),
            )
            for one in choice.purchases
        ],
        cost=choice.cost, volume_m3=choice.volume_m3, left_over_m3=choice.left_over_m3, short_m3=choice.short_m3,
        enough=choice.enough, difference=difference,
    )  # fmt: skip


def _plots_out(plan: Planning, allocation: Allocation[UUID]) -> list[PlotWant]:
    shares = {share.plot: share for share in allocation.shares}
    made = []
    for row in sorted(plan.has.rows, key=lambda one: (one.priority, one.ordinal)):
        share = shares.get(row.id)
        made.append(
            PlotWant(
                plot_id=row.id, name=row.name, priority=row.priority, accepts=sorted(plan.accepts[row.id]),
                needs_m3=plan.has.needs[row.id].volume.value, laid_m3=plan.laid.get(row.id, 0.0),
                gets_m3=share.gets_m3 if share else 0.0, short_m3=share.short_m3 if share else 0.0,
                whole=share is None or share.whole,
            )
        )  # fmt: skip
    return made


def _one_more(plan: Planning) -> OneMoreOut | None:
    """Say what one load more buys, of the supplier whose load serves most."""
    best: OneMoreOut | None = None
    pools = plan.with_choice()
    for one in plan.offered.values():
        if one.kind not in SIZES and one.kind != "merchant":
            continue
        if one.unfit is not None and not one.unfit.startswith("It comes too seldom"):
            continue
        more = one_more(plan.wants, pools, one.source.material, one.source.holds_m3)
        if more is None:
            continue
        names = plan.has.plots
        said = OneMoreOut(
            source=one.name, load_m3=more.load_m3, whole=[names[plot].name for plot in more.whole],
            part=names[more.part].name if more.part else None, over_m3=more.over_m3,
        )  # fmt: skip
        if best is None or len(said.whole) > len(best.whole):
            best = said
    return best


def _pile_place(plan: Planning) -> str | None:
    """Return the pile place with the most room, else the largest tip."""
    places = [one for one in plan.has.landmarks if isinstance(one.landmark, PilePlace)]
    places = places or [one for one in plan.has.landmarks if isinstance(one.landmark, Tip)]

    def room(at: int) -> float:
        ground = places[at].landmark
        return holds(ground.length_m, ground.width_m) if isinstance(ground, PilePlace | Tip) else 0.0

    best = max(range(len(places)), key=room, default=None)
    return None if best is None else places[best].name


def _surplus(plan: Planning, allocation: Allocation[UUID]) -> list[Surplus]:
    return [
        Surplus(
            material_name=plan.material(key).name, volume_m3=volume, place=_pile_place(plan),
            in_a_year=stage_at(plan.has.around, key, plan.has.around.today, 365),
        )
        for key, volume in allocation.over.items()
        if volume > 0.05
    ]  # fmt: skip


def effect_of(plan: Planning, material: str, volume_m3: float, heap_m3: float) -> Effect:
    """Say what a load does to plots and piles, beside what is there and coming; `heap_m3` is what it may hold."""
    before = allocate(plan.wants, plan.with_coming())
    pools = plan.with_coming()
    pools[material] = pools.get(material, 0.0) + volume_m3
    after = allocate(plan.wants, pools)
    gained = [new for old, new in zip(before.shares, after.shares, strict=True) if new.gets_m3 > old.gets_m3 + BARE_M3]
    names = plan.has.plots
    return Effect(
        material=material,
        material_name=plan.material(material).name,
        volume_m3=volume_m3,
        accepted_by=sum(material in one.accepts for one in plan.wants),
        whole=[names[one.plot].name for one in gained if one.whole],
        part=next((names[one.plot].name for one in gained if not one.whole), None),
        over_m3=max(0.0, after.over.get(material, 0.0) - before.over.get(material, 0.0)),
        short_before_m3=sum(one.short_m3 for one in before.shares),
        short_after_m3=sum(one.short_m3 for one in after.shares),
        pile_place=_pile_place(plan),
        tips=[
            tip_plan(one.name, heap_m3, one.landmark.length_m, one.landmark.width_m, one.landmark.to_wall_m)
            for one in plan.has.landmarks
            if isinstance(one.landmark, Tip)
        ],
    )


def receipt_estimate(scope: Scope, site_id: UUID, entry: ReceiptEntry) -> ReceiptEstimate:
    """Say how much came and what it does; nothing is kept."""
    plan = planning(scope, site_id)
    volume = volume_of(plan.has.around, entry)
    where = entry.landmark_id
    if entry.pile_id in plan.stock.piles:
        where = plan.stock.piles[entry.pile_id].landmark_id
    there = sum(plan.stock.books.stock(key) for key, pile in plan.stock.piles.items() if pile.landmark_id == where)
    standing = stands(landmark_rows(scope, plan.has.row), where, volume.value + there)
    effect = effect_of(plan, entry.material, volume.value, volume.value)
    return ReceiptEstimate(
        volume=volume, heap=standing.heap if standing else stand(volume.value + there), effect=effect
    )


def put_priorities(scope: Scope, site_id: UUID, entry: Priorities) -> None:
    """Keep which plots come first when there is too little."""
    rows = {row.id: row for row in plot_rows(scope, scope.one(SiteRow, site_id), lock=True)}
    if not set(entry.priorities) <= set(rows):
        raise Problem(404, "One of these plots is not here any more. Reload and choose again.")
    for plot_id, priority in entry.priorities.items():
        rows[plot_id].priority = priority
