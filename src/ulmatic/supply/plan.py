"""What to order, from whom, when; what it covers; and what a load that is offered would do."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property
from uuid import UUID

from ulmatic.accounts.scope import Scope
from ulmatic.core.materials import CATALOGUE, Material
from ulmatic.core.recipe import LayerRole, recipe_of
from ulmatic.core.supply import (
    Allocation,
    Choice,
    ChoiceSource,
    Chosen,
    Limits,
    Need,
    Want,
    accepted,
    allocate,
    amount,
    choose,
    holds,
    months_ahead,
    one_more,
    stand,
    tell_apart,
    tip_plan,
)
from ulmatic.core.survey import PilePlace, Tip
from ulmatic.problems import Problem
from ulmatic.supply.models import SupplierRow
from ulmatic.supply.schemas import (
    BuyingOut,
    ChoiceOut,
    Effect,
    OneMoreOut,
    PlanSheet,
    PlotWant,
    Priorities,
    PurchaseOut,
    ReceiptEntry,
    ReceiptEstimate,
    SourceOut,
    SupplierOut,
    Surplus,
    Uncovered,
)
from ulmatic.supply.stock import Stock, laid_on, stage_at, stands, stock_of, volume_of
from ulmatic.supply.suppliers import buying_of, supplier_rows
from ulmatic.survey.models import SiteRow
from ulmatic.survey.service import Surveyed, landmark_rows, plot_rows, surveyed

BARE_M3 = 1e-6
SIZES = {"arborist", "utility"}
"""Kinds that bring loads of unknown size."""


@dataclass(frozen=True)
class Offered:
    """Somebody or something chips can be had from, as the programme sees it; `unfit` says why it does not."""

    name: str
    kind: str
    source: ChoiceSource
    months: tuple[int, ...]
    unfit: str | None


@dataclass(frozen=True)
class Planning:
    """A site with what its plots want, what is there, and who could bring more."""

    has: Surveyed
    buying: BuyingOut
    stock: Stock
    suppliers: Sequence[SupplierRow]
    laid: Mapping[UUID, float]

    def material(self, key: str) -> Material:
        """Return a material of the shelf."""
        return self.has.around.shelf.get(key) or CATALOGUE["arborist_leafy"]

    @cached_property
    def ahead(self) -> tuple[int, ...]:
        """The months (1 to 12) in which loads may come."""
        return months_ahead(self.has.around.today, self.buying.wanted_by)

    @cached_property
    def materials(self) -> list[Material]:
        """All that lies here, is coming, or is offered."""
        keys = [SupplierOut.model_validate(one).source.material for one in self.suppliers]
        keys += [one.material for one in self.stock.deliveries.values() if one.state != "cancelled"]
        return [self.material(key) for key in dict.fromkeys(keys)]

    @cached_property
    def accepts(self) -> dict[UUID, frozenset[str]]:
        """The materials each plot accepts as mulch."""
        around = self.has.around
        return {key: accepted(plot, around.setting(plot), self.materials) for key, plot in self.has.plots.items()}

    @cached_property
    def wants(self) -> list[Want[UUID]]:
        """What plots still want of mulch, the most important first."""
        found = []
        for row in sorted(self.has.rows, key=lambda one: (one.priority, one.ordinal)):
            need = self.has.needs[row.id].volume.value - self.laid.get(row.id, 0.0)
            if need > BARE_M3:
                found.append(Want[UUID](plot=row.id, needs_m3=need, accepts=self.accepts[row.id]))
        return found

    @cached_property
    def beneath(self) -> dict[str, dict[UUID, float]]:
        """Loose m³ of what lies beneath the mulch, by material and plot."""
        found: dict[str, dict[UUID, float]] = {}
        for key, need in self.has.needs.items():
            for layer in need.layers:
                if layer.role in (LayerRole.COMPOST, LayerRole.BIOCHAR) and layer.amount.value > BARE_M3:
                    found.setdefault(layer.material, {})[key] = layer.amount.value
        return found

    @cached_property
    def there(self) -> dict[str, float]:
        """The m³ on piles by material."""
        found: dict[str, float] = {}
        for pile in self.stock.piles:
            for material, volume in self.stock.by_material(pile).items():
                found[material] = found.get(material, 0.0) + volume
        return found

    @cached_property
    def coming(self) -> dict[str, float]:
        """The m³ of loads that are expected, by material, at their mean."""
        found: dict[str, float] = {}
        for row in self.stock.expected():
            promised = row.promised
            mean = (promised["least_m3"] + promised["likely_m3"] + promised["most_m3"]) / 3
            found[row.material] = found.get(row.material, 0.0) + mean
        return found

    def with_coming(self) -> dict[str, float]:
        """Return what is there and what is coming, by material."""
        return {key: self.there.get(key, 0.0) + self.coming.get(key, 0.0) for key in {**self.there, **self.coming}}

    @cached_property
    def offered(self) -> dict[str, Offered]:
        """What lies here, is coming, and every supplier, by key."""
        found: dict[str, Offered] = {}
        for kind, name, volumes, rank in (
            ("pile", "What lies here", self.there, 0.0),
            ("coming", "What is coming", self.coming, 0.5),
        ):
            for material, volume in volumes.items():
                if volume > BARE_M3:
                    key = f"{kind}:{material}"
                    source = ChoiceSource(
                        key=key,
                        material=material,
                        load_m3=volume,
                        exact=True,
                        needs_tip=False,
                        committed=True,
                        rank=rank,
                    )
                    found[key] = Offered(name, kind, source, tuple(range(1, 13)), None)
        for row in self.suppliers:
            one = SupplierOut.model_validate(row)
            density = self.material(one.source.material).wet_density().value
            source = one.source.offer(str(one.id), self.ahead, density)
            found[source.key] = Offered(
                one.name, one.source.kind, source, one.source.months, self._unfit(one, source)
            )  # fmt: skip
        return found

    def _unfit(self, one: SupplierOut, source: ChoiceSource) -> str | None:
        if one.currency != self.buying.currency:
            return f"Priced in {one.currency}; this site reckons in {self.buying.currency}."
        wanted = {material for want in self.wants for material in want.accepts} | set(self.beneath)
        if source.material not in wanted:
            return "No plot here accepts this material."
        if not set(one.source.months) & set(self.ahead):
            return "It brings nothing before the date wanted."
        if source.loads_at_most == 0:
            return "It comes too seldom to be counted on; take what is offered."
        if self.tip_m3 is not None and source.needs_tip and not source.exact and source.heap_m3 > self.tip_m3:
            return "No tip here holds its largest load."
        return None

    @cached_property
    def tip_m3(self) -> float | None:
        """What the largest tip holds; None where the site has none."""
        tips = [one.landmark for one in self.has.landmarks if isinstance(one.landmark, Tip)]
        return max((holds(tip.length_m, tip.width_m) for tip in tips), default=None)

    def blocked(self) -> tuple[float, str] | None:
        """Return the m³ that only such suppliers bring as are not reckoned with, and why; None where there are none."""
        fit = {one.source.material for one in self.offered.values() if one.unfit is None}
        wants = [one for one in self.wants if not one.accepts & fit]
        asked = {material for one in wants for material in one.accepts}
        reasons = [f"{one.name}: {one.unfit}" for one in self.offered.values() if one.source.material in asked]
        stuck = [one for one in wants if one.accepts & {other.source.material for other in self.offered.values()}]
        if not stuck or not reasons:
            return None
        return sum(one.needs_m3 for one in stuck), f"Nobody can be counted on. {' '.join(reasons)}"

    def uncovered(self, *, reckoned_with: bool = True) -> list[Uncovered]:
        """Return what plots want and nobody brings; with `reckoned_with` nobody who is reckoned with."""
        brought = {one.source.material for one in self.offered.values() if one.unfit is None or not reckoned_with}
        lacking: dict[str, dict[UUID, float]] = {}
        for want in self.wants:
            if not want.accepts & brought:
                own = self.has.around.setting(self.has.plots[want.plot])
                mulch = own.own or recipe_of(self.has.plots[want.plot], own).proposal.material
                lacking.setdefault(mulch.key, {})[want.plot] = want.needs_m3
        for material, plots in self.beneath.items():
            if material not in brought:
                lacking.setdefault(material, {}).update(plots)
        return [
            Uncovered(
                material_name=self.material(key).name,
                volume_m3=sum(plots.values()),
                plots=[self.has.plots[plot].name for plot in plots],
            )
            for key, plots in lacking.items()
        ]

    @cached_property
    def chosen(self) -> Chosen:
        """The choices, for all that somebody brings."""
        fit = [one.source for one in self.offered.values() if one.unfit is None]
        brought = {one.material for one in fit}
        needs = [Need(volume_m3=one.needs_m3, accepts=one.accepts) for one in self.wants if one.accepts & brought]
        needs += [
            Need(volume_m3=sum(plots.values()), accepts=frozenset([material]))
            for material, plots in self.beneath.items()
            if material in brought
        ]
        limits = Limits(
            months=tuple(month - 1 for month in self.ahead), tip_m3=self.tip_m3, budget=self.buying.budget,
            sure=self.buying.sure / 100,
        )  # fmt: skip
        return choose(needs, fit, limits)

    @property
    def best(self) -> Choice | None:
        """The choice that is reckoned with: the cheapest, or the one that covers most."""
        return self.chosen.choices[0] if self.chosen.choices else self.chosen.nearest

    def with_choice(self) -> dict[str, float]:
        """Return what is there, coming and chosen, by material."""
        pools = self.with_coming()
        for one in self.best.purchases if self.best else ():
            source = self.offered[one.source]
            if source.kind not in ("pile", "coming"):
                pools[source.source.material] = pools.get(source.source.material, 0.0) + one.volume_m3
        for material, plots in self.beneath.items():
            if material in pools:
                pools[material] = max(0.0, pools[material] - sum(plots.values()))
        return pools


def planning(scope: Scope, site_id: UUID) -> Planning:
    """Return all that planning the supply of a site rests on."""
    has = surveyed(scope, site_id)
    stock = stock_of(scope, has.row)
    return Planning(has, buying_of(has.row), stock, supplier_rows(scope), laid_on(scope, has.row, stock))


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
