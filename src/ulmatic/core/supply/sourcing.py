"""Who can bring what a season lacks, and the cheapest choices of loads for it."""

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property

from ulmatic.core.decay import pile_stage
from ulmatic.core.materials import Stage
from ulmatic.core.stock.books import SPECK_M3
from ulmatic.core.supply.balance import Balance
from ulmatic.core.supply.choice import Choice, Chosen, Coming, Need, Purchase, SupplySource
from ulmatic.core.supply.choosing import choose
from ulmatic.core.supply.market import Offered
from ulmatic.core.supply.suppliers import Supplier
from ulmatic.core.supply.wanted import Group

TOO_SELDOM = "Comes too rarely to plan with; accept offers when they come."
NOTHING = Choice(purchases=(), cost=0.0, volume_m3=0.0, left_over_m3=0.0)


@dataclass(frozen=True)
class Interchangeable:
    """Needs of materials that can stand for each other, with who brings them and what comes for them."""

    needs: list[Need]
    materials: set[str]
    sources: list[SupplySource]
    coming: Coming

    @property
    def volume_m3(self) -> float:
        """What is needed, loose."""
        return sum(need.volume_m3 for need in self.needs)


@dataclass
class Sourcing(Balance):
    """What is missing, the sources that fit, and choices of loads from them."""

    @cached_property
    def offered(self) -> dict[str, Offered]:
        """Every supplier as a source, by key."""
        offers = {}
        for supplier in self.market.suppliers:
            source = self.market.source(supplier)
            material = self.market.material(supplier.source.material)
            offers[source.key] = Offered(supplier, source, material, self._unfit(supplier, source))
        return offers

    def _takes(self, group: Group, source: SupplySource) -> bool:
        """Say whether a group accepts what a supplier brings, as far rotted as it will be on its day.

        Returns
        -------
        bool
        """
        material = self.market.material(source.material)
        born = min(self.market.today, group.on)
        return group.accepts.fits(material, pile_stage(material, born, self.market.clock, group.on))

    def _unfit(self, supplier: Supplier, source: SupplySource) -> str | None:
        market = self.market
        if supplier.currency != market.currency:
            return f"Priced in {supplier.currency}; this site uses {market.currency}."
        if source.material not in self.beneath and not any(self._takes(group, source) for group in self.groups):
            is_wanted = any(source.material in group.accepts.materials for group in self.groups)
            return "It would have to age first." if is_wanted else "No plot here accepts this material."
        if not set(supplier.source.months) & set(market.months):
            return "Cannot deliver in time."
        if source.loads_at_most == 0:
            return TOO_SELDOM
        if market.tip_m3 is not None and source.needs_tip and not source.exact and source.pile_m3 > market.tip_m3:
            return "No tip on this site holds its largest load."
        return None

    @cached_property
    def _fit(self) -> list[SupplySource]:
        return [offered.source for offered in self.offered.values() if offered.unfit is None]

    @cached_property
    def _standing_in(self) -> dict[int, Offered]:
        """For each group whose mulch no supplier brings, the source without a name that stands in."""
        rest = {
            number: volume
            for number, volume in enumerate(self.missing)
            if volume > 0 and not any(self._takes(self.groups[number], source) for source in self._fit)
        }
        standing_in: dict[int, Offered] = {}
        while rest:
            most = max(rest, key=lambda number: rest[number])
            material, stages = self.groups[most].material, self.groups[most].accepts.stages
            fresh = Stage.FRESH in stages or not material.woody
            stage = None if fresh else next(stage for stage in Stage if stage in stages)
            usual = self.market.usual(material, stage)
            for number in list(rest):
                if number == most or self.groups[number].accepts.fits(material, stage or Stage.FRESH):
                    standing_in[number] = usual
                    del rest[number]
        return standing_in

    @cached_property
    def unnamed(self) -> dict[str, Offered]:
        """Sources without a name, by key."""
        return {offered.source.key: offered for offered in self._standing_in.values()}

    @property
    def sources(self) -> dict[str, Offered]:
        """All sources, named and unnamed."""
        return {**self.offered, **self.unnamed}

    def source_of(self, key: str) -> Offered:
        """Return a source; of one without a name that is needed no more, what stands nearest to it.

        Returns
        -------
        Offered
        """
        offered = self.sources.get(key) or next(iter(self.unnamed.values()), None)
        if offered is not None:
            return offered
        largest = max(self.groups, key=lambda group: group.volume_m3, default=None)
        return self.market.usual(largest.material if largest else self.market.material(""))

    def _needs(self) -> list[tuple[Need, set[str]]]:
        """Return what is missing, as needs of keys of sources' materials.

        Returns
        -------
        list of (Need, set of str)
        """
        needs = []
        for number, volume in enumerate(self.missing):
            if volume <= 0:
                continue
            group = self.groups[number]
            usual = self._standing_in.get(number)
            if usual is not None:
                worths = {usual.source.key: group.worth(usual.material)}
            else:
                keys = {source.material for source in self._fit if self._takes(group, source)}
                worths = {key: group.worth(self.market.material(key)) for key in keys}
            need = Need(volume_m3=volume, accepts=frozenset(worths), yields=tuple(sorted(worths.items())))
            needs.append((need, set(worths)))
        brought = {source.material for source in self._fit}
        for key, volume in self.beneath.items():
            served_m3 = sum(
                amount for index, amount in self.beneath_served.items() if self.lots[index].material.key == key
            )
            if volume - served_m3 > SPECK_M3 and key in brought:
                needs.append((Need(volume_m3=volume - served_m3, accepts=frozenset({key})), {key}))
        return needs

    @cached_property
    def parts(self) -> list[Interchangeable]:
        """Needs with the sources that can stand for each other, apart from those that cannot."""
        sources = [*self._fit, *(offered.source for offered in self.unnamed.values())]
        parts: list[tuple[list[Need], set[str]]] = []
        for need, keys in self._needs():
            touching = [part for part in parts if part[1] & keys]
            parts = [part for part in parts if not part[1] & keys]
            needs = [need, *(other for part in touching for other in part[0])]
            parts.append((needs, keys.union(*(part[1] for part in touching))))
        return [
            Interchangeable(
                needs, keys, [source for source in sources if source.material in keys], self._coming_for(keys)
            )
            for needs, keys in parts
        ]

    def _coming_for(self, keys: set[str]) -> Coming:
        """Return the loads of unknown size that come for needs of some materials.

        Returns
        -------
        Coming
        """
        sizes, counted = {}, 0.0
        for index, number, flow in self.flows:
            lot = self.lots[index]
            if lot.size is not None and lot.material.key in keys:
                sizes[index] = lot.size
                counted += flow * self.groups[number].worth(lot.material)
        return Coming(tuple((1, size) for size in sizes.values()), counted)

    def choices(self, best: int) -> Chosen:
        """Return the cheapest choices for all that is missing, the best first.

        Returns
        -------
        Chosen
        """
        limits = self.market.limits
        chosen = [choose(part.needs, part.sources, limits, best, part.coming) for part in self.parts]
        if not chosen:
            return Chosen(choices=(NOTHING,))
        bound = [part for part in chosen if not part.choices]
        if bound:
            nearest = _together([part.choices[0] if part.choices else part.nearest or NOTHING for part in chosen])
            return Chosen(choices=(), binding=bound[0].binding, nearest=nearest)
        firsts = [part.choices[0] for part in chosen]
        combined = [_together(firsts)]
        others = [
            _together([*firsts[:index], other, *firsts[index + 1 :]])
            for index, part in enumerate(chosen)
            for other in part.choices[1:]
        ]
        return Chosen(
            choices=tuple(combined + sorted(others, key=lambda choice: choice.cost)[: best - 1]),
            complete=all(part.complete for part in chosen),
        )

    @cached_property
    def best(self) -> Chosen:
        """The one choice that is reckoned with where nothing was decided."""
        return self.choices(1)


def _together(choices: Sequence[Choice]) -> Choice:
    """Return choices for parts that do not touch each other as one.

    Returns
    -------
    Choice
    """
    by_source: dict[str, Purchase] = {}
    for choice in choices:
        for purchase in choice.purchases:
            before = by_source.get(purchase.source)
            by_source[purchase.source] = (
                purchase
                if before is None
                else Purchase(
                    source=purchase.source,
                    loads=before.loads + purchase.loads,
                    cost=before.cost + purchase.cost,
                    volume_m3=before.volume_m3 + purchase.volume_m3,
                    by_month=before.by_month,
                )
            )
    return Choice(
        purchases=tuple(by_source.values()),
        cost=sum(choice.cost for choice in choices),
        volume_m3=sum(choice.volume_m3 for choice in choices),
        left_over_m3=sum(choice.left_over_m3 for choice in choices),
        short_m3=sum(choice.short_m3 for choice in choices),
        enough=min((choice.enough for choice in choices), default=1.0),
        gap=max((choice.gap for choice in choices), default=0.0),
    )
