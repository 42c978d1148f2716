"""The order of a season: what is needed, less what lies here and is coming, as loads from sources."""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field
from datetime import date
from decimal import Decimal
from functools import cached_property

import numpy as np
from numpy.typing import NDArray
from pydantic import BaseModel, ConfigDict, Field
from scipy.optimize import linprog

from ulmatic.core.decay import Clock, heap_stage
from ulmatic.core.materials import Material, Stage
from ulmatic.core.recipe import Accepted
from ulmatic.core.stock import LoadSize, Lot
from ulmatic.core.supply.certainty import Certainty, certainty, chance_of_sum
from ulmatic.core.supply.choice import (
    NO_LIMIT,
    Choice,
    Chosen,
    Coming,
    Limits,
    Need,
    Purchase,
    SupplySource,
    choose,
)
from ulmatic.core.supply.suppliers import UNNAMED, Arborist, Merchant, Supplier, Utility

SPECK_M3 = 1e-6
LATER = 0.001
"""How much what lies here already goes before what is still to come."""
BY_CHANCE = (Arborist, Utility)


class ChosenLine(BaseModel):
    """What was decided to be had of one source in a season: loads, or m³ of one that brings any amount."""

    model_config = ConfigDict(frozen=True, extra="forbid")
    source: str = Field(max_length=80)
    loads: int = Field(ge=0, le=10_000)
    volume_m3: float | None = Field(default=None, ge=0, le=100_000, allow_inf_nan=False)


class ChosenLoads(BaseModel):
    """The user's own choice for a season: its total by source.

    Attributes
    ----------
    season : str or None
        Key of the season; None for the one whose account ran when it was chosen.
    """

    model_config = ConfigDict(frozen=True, extra="forbid")
    season: str | None = Field(default=None, max_length=40)
    chosen_on: date
    lines: tuple[ChosenLine, ...] = Field(max_length=220)


@dataclass(frozen=True)
class Wanted:
    """What one laying takes of mulch.

    Attributes
    ----------
    volume_m3 : float
        Loose, with spare, of the planned material.
    settling : callable
        Of a material on this ground.
    """

    plot: int
    on: date
    volume_m3: float
    material: Material
    accepts: Accepted
    settling: Callable[[Material], float]
    priority: int = 2


@dataclass(frozen=True)
class Group:
    """Layings that accept the same on the same day."""

    accepts: Accepted
    on: date
    material: Material
    worth: Callable[[Material], float]
    volume_m3: float
    plots: tuple[int, ...]


class OrderLine(BaseModel):
    """What is still to be had of one source.

    Attributes
    ----------
    price : Decimal or None
        Of all of it; None where it is not known.
    stage : Stage or None
        How far rotted it has to come, where it is not fresh.
    by_month : tuple of (int, int)
        Loads that come in each month (0 is January).
    """

    model_config = ConfigDict(frozen=True)
    source: str
    name: str
    kind: str
    material: str
    material_name: str
    loads: int
    volume_m3: float
    price: Decimal | None
    stage: Stage | None = None
    by_month: tuple[tuple[int, int], ...] = ()


@dataclass(frozen=True)
class Offered:
    """A supplier as a source for one season; `unfit` says why it is not reckoned with."""

    supplier: Supplier | None
    source: SupplySource
    name: str
    kind: str
    unfit: str | None
    stage: Stage | None = None


@dataclass(frozen=True)
class Market:
    """Who can be asked, and within which limits.

    Attributes
    ----------
    months : tuple of int
        Months (1 to 12) in which loads may come, in order.
    load_m3, load_size
        Of the site's usual load, and its range where nobody knows it.
    """

    suppliers: Sequence[Supplier]
    material: Callable[[str], Material]
    clock: Clock
    today: date
    months: tuple[int, ...]
    currency: str
    sure: float
    load_m3: float
    load_size: LoadSize | None
    tip_m3: float | None = None
    budget: float | None = None


@dataclass
class SeasonOrder:
    """What a season needs, what there is of it, and what is to be ordered.

    Attributes
    ----------
    served : list of (lot, group, m³)
        What of each lot goes to each group, in m³ of the lot.
    """

    groups: list[Group]
    beneath: Mapping[str, float]
    lots: list[Lot]
    market: Market
    chosen: ChosenLoads | None = None
    booked: Mapping[str, tuple[int, float]] = field(default_factory=dict)

    def takers(self, at: int) -> list[int]:
        """Return the groups that accept a lot on their day."""
        lot = self.lots[at]
        return [
            number
            for number, group in enumerate(self.groups)
            if lot.as_of <= group.on and group.accepts.fits(lot.material, lot.stage(group.on, self.market.clock))
        ]

    def accepted_m3(self, at: int) -> float:
        """Return a lot in m³ of planned material, if any laying accepts it; else 0."""
        lot = self.lots[at]
        worth = max((self.groups[number].worth(lot.material) for number in self.takers(at)), default=0.0)
        return lot.volume_m3 * worth

    @cached_property
    def served(self) -> list[tuple[int, int, float]]:
        """What lies here and is coming, as far as the layings accept it on their day."""
        pairs = [(at, number) for at in range(len(self.lots)) for number in self.takers(at)]
        if not pairs:
            return []
        worth = np.array([self.groups[number].worth(self.lots[at].material) for at, number in pairs])
        rank = np.array([LATER * (self.lots[at].pile_id is None) for at, _ in pairs])
        lots = np.array([at for at, _ in pairs])
        groups = np.array([number for _, number in pairs])
        rows = np.vstack(
            [
                *(np.where(lots == at, 1.0, 0.0) for at in range(len(self.lots))),
                *(np.where(groups == number, worth, 0.0) for number in range(len(self.groups))),
            ]
        )
        bounds = [*(lot.volume_m3 for lot in self.lots), *(group.volume_m3 for group in self.groups)]
        found = linprog(-worth * (1 - rank), A_ub=rows, b_ub=np.array(bounds), method="highs")
        flows: NDArray[np.float64] = np.zeros(len(pairs)) if found.x is None else found.x
        return [(at, number, float(flow)) for (at, number), flow in zip(pairs, flows, strict=True) if flow > SPECK_M3]

    @cached_property
    def beneath_served(self) -> dict[int, float]:
        """What of each lot goes beneath mulch: compost and char."""
        rest, found = dict(self.beneath), {}
        for at, lot in enumerate(self.lots):
            taken = min(rest.get(lot.material.key, 0.0), lot.volume_m3)
            if taken > SPECK_M3:
                found[at] = taken
                rest[lot.material.key] -= taken
        return found

    @property
    def needed_m3(self) -> float:
        """Loose m³ of mulch, with spare."""
        return sum(group.volume_m3 for group in self.groups)

    def _served_by(self, *, piles: bool) -> float:
        """Return the m³ of planned material that piles, or loads still to come, serve."""
        return sum(
            flow * self.groups[number].worth(self.lots[at].material)
            for at, number, flow in self.served
            if (self.lots[at].pile_id is not None) is piles
        )

    def _accepted_of(self, *, piles: bool) -> float:
        """Return the m³ of piles, or of loads still to come, that any laying accepts."""
        return sum(self.accepted_m3(at) for at, lot in enumerate(self.lots) if (lot.pile_id is not None) is piles)

    @property
    def on_hand_m3(self) -> float:
        """What lies here and can be used, in m³ of planned material.

        Where something has still to be ordered, what lies here for others is not on hand.
        """
        return self._served_by(piles=True) if self.to_order_m3 > SPECK_M3 else self._accepted_of(piles=True)

    @property
    def coming_m3(self) -> float:
        """What is expected and can be used."""
        return self._served_by(piles=False) if self.to_order_m3 > SPECK_M3 else self._accepted_of(piles=False)

    @cached_property
    def to_order_m3(self) -> float:
        """Needed, less on hand, less coming; never below zero."""
        missing = sum(rest for rest in self.missing)
        return missing if missing > SPECK_M3 else 0.0

    @cached_property
    def missing(self) -> list[float]:
        """What each group still lacks."""
        rest = [group.volume_m3 for group in self.groups]
        for at, number, flow in self.served:
            rest[number] -= flow * self.groups[number].worth(self.lots[at].material)
        return [max(0.0, volume) if volume > SPECK_M3 else 0.0 for volume in rest]

    @property
    def unused_m3(self) -> float:
        """What lies here and no laying of the season accepts, or can use."""
        there = sum(lot.volume_m3 for lot in self.lots if lot.pile_id is not None)
        beneath = sum(volume for at, volume in self.beneath_served.items() if self.lots[at].pile_id is not None)
        used = (
            sum(flow for at, _, flow in self.served if self.lots[at].pile_id is not None)
            if self.to_order_m3 > SPECK_M3
            else self._accepted_lots_m3()
        )
        return max(0.0, there - beneath - used)

    def _accepted_lots_m3(self) -> float:
        return sum(lot.volume_m3 for at, lot in enumerate(self.lots) if lot.pile_id is not None and self.takers(at))

    @cached_property
    def offered(self) -> dict[str, Offered]:
        """Every supplier as a source, by key."""
        market, found = self.market, {}
        for supplier in market.suppliers:
            density = market.material(supplier.source.material).wet_density().value
            source = supplier.source.offer(str(supplier.id), market.months, density)
            found[source.key] = Offered(
                supplier, source, supplier.name, supplier.source.kind, self._unfit(supplier, source)
            )
        return found

    def _takes(self, group: Group, source: SupplySource) -> bool:
        """Say whether a group accepts what a supplier brings, as far rotted as it will be on its day."""
        material = self.market.material(source.material)
        born = min(self.market.today, group.on)
        return group.accepts.fits(material, heap_stage(material, born, self.market.clock, group.on))

    def _unfit(self, supplier: Supplier, source: SupplySource) -> str | None:
        market = self.market
        if supplier.currency != market.currency:
            return f"Priced in {supplier.currency}; this site reckons in {market.currency}."
        if source.material not in self.beneath and not any(self._takes(group, source) for group in self.groups):
            wanted = any(source.material in group.accepts.materials for group in self.groups)
            return "It would have to age first." if wanted else "No plot here accepts this material."
        if not set(supplier.source.months) & set(market.months):
            return "It brings nothing in time."
        if source.loads_at_most == 0:
            return "It comes too seldom to be counted on; take what is offered."
        if market.tip_m3 is not None and source.needs_tip and not source.exact and source.heap_m3 > market.tip_m3:
            return "No tip here holds its largest load."
        return None

    @cached_property
    def _fit(self) -> list[SupplySource]:
        return [offered.source for offered in self.offered.values() if offered.unfit is None]

    @cached_property
    def unnamed(self) -> dict[str, Offered]:
        """Sources without a name, for what no supplier brings: loads of the site's usual size."""
        found: dict[str, Offered] = {}
        rest = {
            number: volume
            for number, volume in enumerate(self.missing)
            if volume > 0 and not any(self._takes(self.groups[number], source) for source in self._fit)
        }
        while rest:
            most = max(rest, key=lambda number: rest[number])
            material, stages = self.groups[most].material, self.groups[most].accepts.stages
            stage = None if Stage.FRESH in stages or not material.woody else next(one for one in Stage if one in stages)
            key = f"{UNNAMED}:{material.key}" + (f":{stage}" if stage else "")
            served = [
                number
                for number in rest
                if number == most or self.groups[number].accepts.fits(material, stage or Stage.FRESH)
            ]
            source = SupplySource(
                key=key, material=key,
                load_m3=self.market.load_size.mean_m3 if self.market.load_size else self.market.load_m3,
                size=self.market.load_size, arrivals=(NO_LIMIT,) * 12,
            )  # fmt: skip
            found[key] = Offered(None, source, material.name, UNNAMED, None, stage)
            self._served_unnamed |= dict.fromkeys(served, key)
            for number in served:
                del rest[number]
        return found

    @cached_property
    def _served_unnamed(self) -> dict[int, str]:
        return {}

    def _needs(self) -> list[tuple[Need, set[str]]]:
        """Return what is missing, as needs of keys of sources' materials."""
        unnamed = self.unnamed
        needs = []
        for number, volume in enumerate(self.missing):
            if volume <= 0:
                continue
            group = self.groups[number]
            keys = {source.material for source in self._fit if self._takes(group, source)}
            yields = {key: group.worth(self.market.material(key)) for key in keys}
            if number in self._served_unnamed:
                key = self._served_unnamed[number]
                keys, yields = {key}, {key: group.worth(self.market.material(unnamed[key].source.key.split(":")[1]))}
            need = Need(volume_m3=volume, accepts=frozenset(keys), yields=tuple(sorted(yields.items())))
            needs.append((need, keys))
        brought = {source.material for source in self._fit}
        for key, volume in self.beneath.items():
            served = sum(amount for at, amount in self.beneath_served.items() if self.lots[at].material.key == key)
            if volume - served > SPECK_M3 and key in brought:
                needs.append((Need(volume_m3=volume - served, accepts=frozenset({key})), {key}))
        return needs

    @cached_property
    def _parts(self) -> list[tuple[list[Need], list[SupplySource], Coming]]:
        """Needs with the sources that can stand for each other, apart from those that cannot."""
        sources = [*self._fit, *(offered.source for offered in self.unnamed.values())]
        parts: list[tuple[list[Need], set[str]]] = []
        for need, keys in self._needs():
            touching = [part for part in parts if part[1] & keys]
            parts = [part for part in parts if not part[1] & keys]
            needs = [need, *(other for part in touching for other in part[0])]
            parts.append((needs, keys.union(*(part[1] for part in touching))))
        return [
            (needs, [source for source in sources if source.material in keys], self._coming_for(keys))
            for needs, keys in parts
        ]

    def _coming_for(self, keys: set[str]) -> Coming:
        """Return the loads of unknown size that come for needs of some materials."""
        loads, counted = [], 0.0
        for at, number, flow in self.served:
            lot = self.lots[at]
            if lot.size is not None and lot.material.key in keys:
                loads.append((1, lot.size))
                counted += flow * self.groups[number].worth(lot.material)
        return Coming(tuple(dict.fromkeys(loads)), counted)

    @cached_property
    def limits(self) -> Limits:
        """The limits of the choice."""
        market = self.market
        return Limits(
            months=tuple(month - 1 for month in market.months), tip_m3=market.tip_m3, budget=market.budget,
            sure=market.sure,
        )  # fmt: skip

    def choices(self, best: int) -> Chosen:
        """Return the cheapest choices for all that is missing, the best first."""
        found = [choose(needs, sources, self.limits, best, coming) for needs, sources, coming in self._parts]
        if not found:
            return Chosen(choices=(_NOTHING,))
        bound = [part for part in found if not part.choices]
        if bound:
            nearest = _together([part.choices[0] if part.choices else part.nearest or _NOTHING for part in found])
            return Chosen(choices=(), binding=bound[0].binding, nearest=nearest)
        firsts = [part.choices[0] for part in found]
        combined = [_together(firsts)]
        others = [
            _together([*firsts[:at], other, *firsts[at + 1 :]])
            for at, part in enumerate(found)
            for other in part.choices[1:]
        ]
        return Chosen(choices=tuple(combined + sorted(others, key=lambda choice: choice.cost)[: best - 1]))

    @cached_property
    def best(self) -> Chosen:
        """The one choice that is reckoned with where nothing was decided."""
        return self.choices(1)

    @cached_property
    def decided(self) -> list[ChosenLine] | None:
        """What was decided for the season, of sources that are still there."""
        if self.chosen is None:
            return None
        there = {*self.offered, UNNAMED, *self.unnamed}
        kept = [line for line in self.chosen.lines if line.source in there]
        return kept or (None if self.chosen.lines else [])

    @cached_property
    def lines(self) -> list[OrderLine]:
        """What is still to be had, by source."""
        if self.decided is not None:
            return self._decided_lines(self.decided)
        chosen = self.best
        choice = chosen.choices[0] if chosen.choices else chosen.nearest or _NOTHING
        return self.lines_of(choice)

    def lines_of(self, choice: Choice) -> list[OrderLine]:
        """Return a choice's purchases as lines."""
        return [self._line(purchase) for purchase in choice.purchases]

    def _line(self, purchase: Purchase) -> OrderLine:
        offered = self.offered.get(purchase.source) or self.unnamed[purchase.source]
        key = offered.source.material if offered.supplier else offered.source.key.split(":")[1]
        price = Decimal(repr(round(purchase.cost, 6))) if offered.supplier else None
        return OrderLine(
            source=purchase.source, name=offered.name if offered.supplier else "", kind=offered.kind, material=key,
            material_name=self.market.material(key).name, loads=purchase.loads, volume_m3=purchase.volume_m3,
            price=price,
            stage=offered.stage, by_month=purchase.by_month,
        )  # fmt: skip

    def booked_of(self, source: str) -> tuple[int, float]:
        """Return the loads of a source that are booked for the season already, and their m³."""
        return self.booked.get(UNNAMED if source.startswith(UNNAMED) else source, (0, 0.0))

    def exact(self, source: str) -> bool:
        """Say whether a source brings any amount."""
        return source in self.offered and self.offered[source].source.exact

    def _decided_lines(self, decided: Sequence[ChosenLine]) -> list[OrderLine]:
        """Return what was decided, less what was booked for the season already."""
        lines = []
        for line in decided:
            loads, volume = self.booked_of(line.source)
            rest = max(0, line.loads - loads)
            unnamed = self._unnamed_offer(line.source)
            offered = self.offered.get(line.source) or unnamed
            source = offered.source
            if line.volume_m3 is not None and source.exact:
                amount = max(0.0, line.volume_m3 - volume)
                rest = int(np.ceil(amount / source.holds_m3 - 1e-9))
            else:
                amount = rest * source.holds_m3
            if rest == 0:
                continue
            cost = source.per_load * rest + source.per_m3 * amount
            key = source.material if offered.supplier else source.key.split(":")[1]
            lines.append(
                OrderLine(
                    source=line.source, name=offered.name if offered.supplier else "", kind=offered.kind, material=key,
                    material_name=self.market.material(key).name, loads=rest, volume_m3=amount, stage=offered.stage,
                    price=Decimal(repr(round(cost, 6))) if offered.supplier else None,
                )
            )  # fmt: skip
        return lines

    def _unnamed_offer(self, key: str) -> Offered:
        if key in self.unnamed:
            return self.unnamed[key]
        if self.unnamed:
            return next(iter(self.unnamed.values()))
        groups = sorted(self.groups, key=lambda group: -group.volume_m3)
        material = groups[0].material if groups else self.market.material("")
        size = self.market.load_size
        source = SupplySource(
            key=f"{UNNAMED}:{material.key}", material=material.key, size=size,
            load_m3=size.mean_m3 if size else self.market.load_m3, arrivals=(NO_LIMIT,) * 12,
        )  # fmt: skip
        return Offered(None, source, material.name, UNNAMED, None)

    @property
    def ordered_m3(self) -> float:
        """Mulch that is ordered."""
        beneath = set(self.beneath)
        return sum(
            line.volume_m3 for line in self.lines if line.material not in beneath or self._is_mulch(line.material)
        )

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
        have = self.on_hand_m3 + self.coming_m3 + self.ordered_m3
        return max(0.0, have + self.short_m3 - self.needed_m3)

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
        lots, certain = [*self._coming_for({lot.material.key for lot in self.lots}).loads], 0.0
        for line in lines:
            offered = self.offered.get(line.source) or self._unnamed_offer(line.source)
            if offered.source.size is None:
                certain += line.volume_m3
            else:
                lots.append((line.loads, offered.source.size))
        counted = self._coming_for({lot.material.key for lot in self.lots}).counted_m3
        return chance_of_sum(self.to_order_m3 + counted, lots, certain) if self.to_order_m3 > 0 else 1.0

    def certainty(self) -> Certainty | None:
        """Return how sure numbers of loads are to be enough, of the first source whose loads nobody knows."""
        for line in self.lines:
            offered = self.offered.get(line.source) or self._unnamed_offer(line.source)
            if offered.source.size is not None:
                certain = sum(other.volume_m3 for other in self.lines if other.source != line.source)
                return certainty(max(0.0, self.to_order_m3 - certain), offered.source.size)
        return None

    def fit_from(self) -> dict[int, date]:
        """Return, of lots that a laying would accept if they were rotted further, from when they are fit."""
        found: dict[int, date] = {}
        used = {at for at, _, _ in self.served}
        for at, lot in enumerate(self.lots):
            stages = [group.accepts.stages for group in self.groups if lot.material.key in group.accepts.materials]
            if at in used or not stages:
                continue
            day = lot.fit_from(stages[0], self.market.clock)
            if day is not None and day > max(group.on for group in self.groups):
                found[at] = day
        return found

    def left_lots(self, day: date) -> list[Lot]:
        """Return what later seasons begin with: what is over of lots, and of what is ordered, on a day."""
        rest = list(self.lots)
        for at, _, flow in self.served:
            rest[at] = rest[at].less(flow)
        for at, volume in self.beneath_served.items():
            rest[at] = rest[at].less(volume)
        over = max(0.0, self.ordered_m3 - self.to_order_m3)
        for line in sorted(self.lines, key=lambda line: -line.volume_m3):
            if over <= SPECK_M3:
                break
            amount = min(over, line.volume_m3)
            rest.append(Lot(self.market.material(line.material), day, amount, day, comes_as=line.stage))
            over -= amount
        return [lot for lot in rest if lot.volume_m3 > SPECK_M3]


_NOTHING = Choice(purchases=(), cost=0.0, volume_m3=0.0, left_over_m3=0.0)


def _together(choices: Sequence[Choice]) -> Choice:
    """Return choices for parts that do not touch each other as one."""
    by_source: dict[str, Purchase] = {}
    for choice in choices:
        for purchase in choice.purchases:
            before = by_source.get(purchase.source)
            by_source[purchase.source] = purchase if before is None else Purchase(
                source=purchase.source, loads=before.loads + purchase.loads, cost=before.cost + purchase.cost,
                volume_m3=before.volume_m3 + purchase.volume_m3, by_month=before.by_month,
            )  # fmt: skip
    return Choice(
        purchases=tuple(by_source.values()), cost=sum(choice.cost for choice in choices),
        volume_m3=sum(choice.volume_m3 for choice in choices),
        left_over_m3=sum(choice.left_over_m3 for choice in choices),
        short_m3=sum(choice.short_m3 for choice in choices),
        enough=min((choice.enough for choice in choices), default=1.0),
    )  # fmt: skip


def groups_of(wanted: Sequence[Wanted]) -> list[Group]:
    """Return layings that accept the same, of the same planned material and on the same day, added up."""
    found: dict[tuple[Accepted, date, str, float], list[Wanted]] = {}
    for want in wanted:
        key = (want.accepts, want.on, want.material.key, want.settling(want.material))
        found.setdefault(key, []).append(want)
    return [
        Group(
            accepts=accepts, on=on, material=wants[0].material, worth=_worth(wants[0]),
            volume_m3=sum(want.volume_m3 for want in wants), plots=tuple(want.plot for want in wants),
        )
        for (accepts, on, _, _), wants in found.items()
    ]  # fmt: skip


def _worth(want: Wanted) -> Callable[[Material], float]:
    planned = 1 - want.settling(want.material)

    def worth(material: Material) -> float:
        return (1 - want.settling(material)) / planned

    return worth


def lead_days(lines: Sequence[OrderLine], offered: Mapping[str, Offered]) -> int:
    """Return the days that the slowest of an order's sources asks for."""
    terms = [offered[line.source].supplier for line in lines if line.source in offered]
    return max((one.source.lead_days for one in terms if one and isinstance(one.source, Merchant)), default=0)
