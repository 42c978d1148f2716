"""A site as its supply is planned: what plots want, what is there, who could bring more, and the choices."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property
from uuid import UUID

from ulmatic.accounts.scope import Scope
from ulmatic.core.materials import CATALOGUE, Material
from ulmatic.core.recipe import LayerRole, recipe_of
from ulmatic.core.recipe.acceptance import accepted
from ulmatic.core.stock.heap import holds
from ulmatic.core.supply.allocate import Want
from ulmatic.core.supply.choice import Choice, Chosen, Limits, Need, choose
from ulmatic.core.supply.choice import Source as ChoiceSource
from ulmatic.core.supply.suppliers import months_ahead
from ulmatic.core.survey import Tip
from ulmatic.stock.service import Stock, laid_on, stock_of
from ulmatic.supply.models import SupplierRow
from ulmatic.supply.schemas import (
    BuyingOut,
    SupplierOut,
    Uncovered,
)
from ulmatic.supply.suppliers import buying_of, supplier_rows
from ulmatic.survey.surveyed import Surveyed, surveyed

BARE_M3 = 1e-6


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
        for row, mean in self.stock.expected():
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
