"""The order of a season: what is needed, less what lies here and is coming, as loads from sources."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace
from datetime import date, timedelta
from decimal import Decimal
from functools import cached_property

import numpy as np

from ulmatic.core.decay import pile_stage
from ulmatic.core.materials import Stage
from ulmatic.core.stock import Lot
from ulmatic.core.stock.books import SPECK_M3
from ulmatic.core.supply.balance import Balance
from ulmatic.core.supply.certainty import Certainty, certainty, chance_of_sum
from ulmatic.core.supply.choice import Choice, Chosen, Coming, Need, Purchase, SupplySource
from ulmatic.core.supply.choosing import choose
from ulmatic.core.supply.chosen import ChosenLine, ChosenLoads
from ulmatic.core.supply.market import Offered
from ulmatic.core.supply.suppliers import UNNAMED, Merchant, Supplier
from ulmatic.core.supply.wanted import Group
from ulmatic.core.value import Value

TOO_SELDOM = "Comes too rarely to plan with; accept offers when they come."


class OrderLine(Value):
    """What is still to be had of one source.

    Attributes
    ----------
    price : Decimal or None
        Of all of it; None where it is not known.
    stage : Stage or None
        How far rotted it has to come, where it is not fresh.
    exact : bool
        Its source brings any amount.
    by_month : tuple of (int, int)
        Loads that come in each month (0 is January).
    """

    source: str
    name: str
    kind: str
    material: str
    material_name: str
    loads: int
    volume_m3: float
    price: Decimal | None
    stage: Stage | None = None
    exact: bool = False
    by_month: tuple[tuple[int, int], ...] = ()


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
class SeasonOrder(Balance):
    """What is to be had of whom for a season.

    Attributes
    ----------
    chosen : ChosenLoads or None
        The user's own choice.
    booked : mapping of source to (loads, m³)
        What was booked for the season already.
    """

    chosen: ChosenLoads | None = None
    booked: Mapping[str, tuple[int, float]] = field(default_factory=dict)

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
    def _parts(self) -> list[Interchangeable]:
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
        chosen = [choose(part.needs, part.sources, limits, best, part.coming) for part in self._parts]
        if not chosen:
            return Chosen(choices=(_NOTHING,))
        bound = [part for part in chosen if not part.choices]
        if bound:
            nearest = _together([part.choices[0] if part.choices else part.nearest or _NOTHING for part in chosen])
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

    @cached_property
    def decided(self) -> list[ChosenLine] | None:
        """What was decided for the season, of sources that are still there."""
        if self.chosen is None:
            return None
        sources = {*self.sources, UNNAMED}
        lines = [line for line in self.chosen.lines if line.source in sources]
        return lines or (None if self.chosen.lines else [])

    @cached_property
    def lines(self) -> list[OrderLine]:
        """What is still to be had, by source."""
        if self.decided is not None:
            return self._decided_lines(self.decided)
        chosen = self.best
        choice = chosen.choices[0] if chosen.choices else chosen.nearest or _NOTHING
        return self.lines_of(choice)

    def lines_of(self, choice: Choice) -> list[OrderLine]:
        """Return a choice's purchases as lines.

        Returns
        -------
        list of OrderLine
        """
        return [self._line(bought) for bought in choice.purchases]

    def _line(self, bought: Purchase) -> OrderLine:
        offered = self.source_of(bought.source)
        return OrderLine(
            source=bought.source,
            name=offered.name,
            kind=offered.kind,
            material=offered.material.key,
            material_name=offered.material.name,
            loads=bought.loads,
            volume_m3=bought.volume_m3,
            price=offered.source.price(bought.volume_m3, bought.loads) if offered.supplier else None,
            stage=offered.stage,
            exact=offered.source.exact,
            by_month=bought.by_month,
        )

    def booked_of(self, source: str) -> tuple[int, float]:
        """Return the loads of a source that are booked for the season already, and their m³.

        Returns
        -------
        (int, float)
        """
        return self.booked.get(UNNAMED if source.startswith(UNNAMED) else source, (0, 0.0))

    def _decided_lines(self, decided: Sequence[ChosenLine]) -> list[OrderLine]:
        """Return what was decided, less what was booked for the season already.

        Returns
        -------
        list of OrderLine
        """
        lines = []
        for line in decided:
            booked, booked_m3 = self.booked_of(line.source)
            source = self.source_of(line.source).source
            loads = max(0, line.loads - booked)
            volume = loads * source.holds_m3
            if line.volume_m3 is not None and source.exact:
                volume = max(0.0, line.volume_m3 - booked_m3)
                loads = int(np.ceil(volume / source.holds_m3 - 1e-9))
            if loads > 0:
                volume = source.sold_m3(volume, loads)
                cost = float(source.price(volume, loads))
                lines.append(self._line(Purchase(source=line.source, loads=loads, volume_m3=volume, cost=cost)))
        return lines

    def mulch_m3(self, lines: Sequence[OrderLine]) -> float:
        """Return the m³ of some lines that are mulch.

        Returns
        -------
        float
        """
        return sum(
            line.volume_m3 for line in lines if line.material not in self.beneath or self._is_mulch(line.material)
        )

    @property
    def ordered_m3(self) -> float:
        """Mulch that is ordered."""
        return self.mulch_m3(self.lines)

    def _is_mulch(self, key: str) -> bool:
        return any(key in group.accepts.materials for group in self.groups)

    @property
    def loads(self) -> int:
        """Loads that are ordered; bags are none."""
        return sum(line.loads for line in self.lines if line.kind != "bags")

    @cached_property
    def short_m3(self) -> float:
        """What stays missing when all that is ordered has come."""
        if self.decided is None:
            chosen = self.best
            if chosen.choices:
                return 0.0
            return chosen.nearest.short_m3 if chosen.nearest else self.to_order_m3
        return max(0.0, self.to_order_m3 - self.ordered_m3)

    @property
    def left_over_m3(self) -> float:
        """What is over of what can be used, when all that is ordered has come and all is laid."""
        return self.over_m3(self.lines, self.short_m3)

    def over_m3(self, lines: Sequence[OrderLine], short_m3: float) -> float:
        """Return what would be over with some lines, which leave so much short.

        Returns
        -------
        float
        """
        have = self.on_hand_m3 + self.coming_m3 + self.mulch_m3(lines)
        return max(0.0, have + short_m3 - self.needed_m3)

    @property
    def enough(self) -> float:
        """The probability that what is coming and ordered is enough."""
        if self.decided is not None:
            return self._enough_of(self.lines)
        chosen = self.best
        if not chosen.choices:
            return chosen.nearest.enough if chosen.nearest and chosen.nearest.short_m3 <= SPECK_M3 else 0.0
        return chosen.choices[0].enough if self._parts else 1.0

    def _enough_of(self, lines: Sequence[OrderLine]) -> float:
        """Return how sure some lines are to be enough: that of the part that is least sure.

        Returns
        -------
        float
            Between 0 and 1.
        """
        return min((self._part_enough(part, lines) for part in self._parts), default=1.0)

    def _part_enough(self, part: Interchangeable, lines: Sequence[OrderLine]) -> float:
        lots, certain = list(part.coming.loads), 0.0
        for line in lines:
            source = self.source_of(line.source).source
            if source.material not in part.materials:
                continue
            if source.size is None:
                certain += line.volume_m3
            else:
                lots.append((line.loads, source.size))
        return chance_of_sum(part.volume_m3 + part.coming.counted_m3, lots, certain)

    def certainty(self) -> Certainty | None:
        """Return how sure numbers of loads are to be enough, of the first source whose loads nobody knows.

        Returns
        -------
        Certainty or None
            None where every load is known.
        """
        for part in self._parts:
            lines = [line for line in self.lines if self.source_of(line.source).source.material in part.materials]
            for line in lines:
                size = self.source_of(line.source).source.size
                if size is not None:
                    certain = sum(other.volume_m3 for other in lines if other.source != line.source)
                    return certainty(max(0.0, part.volume_m3 - certain), size)
        return None

    def order_by(self, lays_on: date) -> date:
        """Return the last day to order, so that the slowest source has brought it by the day on which it is laid.

        Returns
        -------
        date
        """
        suppliers = [self.offered[line.source].supplier for line in self.lines if line.source in self.offered]
        days = [
            supplier.source.lead_days for supplier in suppliers if supplier and isinstance(supplier.source, Merchant)
        ]
        return lays_on - timedelta(days=max(days, default=0))

    def lots_with_ordered(self) -> list[Lot]:
        """Return what lies here, is coming, and is ordered.

        Returns
        -------
        list of Lot
        """
        today = self.market.today
        return [
            *self.lots,
            *(
                Lot(self.market.material(line.material), today, line.volume_m3, today, comes_as=line.stage)
                for line in self.lines
            ),
        ]

    def left_lots(self, day: date) -> list[Lot]:
        """Return what later seasons begin with: what is over of lots, and of what is ordered, on a day.

        Returns
        -------
        list of Lot
        """
        rest = list(self.lots)
        for index, _, flow in self.flows:
            rest[index] = rest[index].less(flow)
        for index, volume in self.beneath_served.items():
            rest[index] = rest[index].less(volume)
        surplus_m3 = max(0.0, self.ordered_m3 - self.to_order_m3)
        for line in sorted(self.lines, key=lambda line: -line.volume_m3):
            if surplus_m3 <= SPECK_M3:
                break
            amount = min(surplus_m3, line.volume_m3)
            rest.append(Lot(self.market.material(line.material), day, amount, day, comes_as=line.stage))
            surplus_m3 -= amount
        return [replace(lot, lies=True) for lot in rest if lot.volume_m3 > SPECK_M3]


_NOTHING = Choice(purchases=(), cost=0.0, volume_m3=0.0, left_over_m3=0.0)


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
