"""What to order, from whom: whole loads at least cost, by mixed-integer programming (HiGHS)."""

from collections.abc import Sequence
from functools import cached_property
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray
from pydantic import BaseModel, ConfigDict, Field
from scipy.optimize import Bounds, LinearConstraint, milp

from ulmatic.core.figures import ceil
from ulmatic.core.stock.load_size import LoadSize
from ulmatic.core.supply.certainty import Lot, at_least, chance_of_sum

MONTHS = 12
MOST_LOOKED_AT = 12
SURER = 0.05
A_TENTH = 0.1
"""Of the need: by so much choices differ at least where loads are smaller."""
Array = NDArray[np.float64]
NO_LIMIT = 10_000
LEAST_RAISE = 1e-3
"""Share of the need by which it is raised at least, where a choice is not sure enough."""


class SupplySource(BaseModel):
    """Somebody who brings a material.

    Attributes
    ----------
    load_m3 : float
        What one load holds, on average where its `size` is unknown; of an exact source the most that one delivery
        holds.
    exact : bool
        Brings any amount up to a load instead of whole loads; `least_m3` is its minimum.
    per_load, per_m3 : float
        Price of a delivery and of a m³, in the site's currency.
    payload_kg, density : float or None
        Limit of weight, and wet density in kg/m³: a load then holds no more than ``payload_kg / density``.
    arrivals : tuple of int
        Loads that can come in each month, January first.
    loads_at_most : int or None
        In all months together.
    needs_tip : bool
        Whether a load is tipped in one heap.
    """

    model_config = ConfigDict(frozen=True)
    key: str
    material: str
    load_m3: float = Field(gt=0)
    size: LoadSize | None = None
    exact: bool = False
    least_m3: float = 0.0
    per_load: float = Field(default=0.0, ge=0)
    per_m3: float = Field(default=0.0, ge=0)
    payload_kg: float | None = None
    density: float | None = None
    arrivals: tuple[int, ...] = (1,) * MONTHS
    loads_at_most: int | None = None
    needs_tip: bool = True

    @property
    def holds_m3(self) -> float:
        """What one load holds by volume and weight."""
        if self.payload_kg is None or not self.density:
            return self.load_m3
        return min(self.load_m3, self.payload_kg / self.density)

    @property
    def heap_m3(self) -> float:
        """What one load may hold at most, which the tip must take."""
        return self.size.most_m3 if self.size else self.holds_m3


class Need(BaseModel):
    """So many m³ of any of these materials.

    Attributes
    ----------
    accepts : frozenset of str
        Keys of sources' materials.
    yields : tuple of (str, float)
        What a m³ of a material is worth here, as it settles more or less than the one planned; 1 where it is not said.
    """

    model_config = ConfigDict(frozen=True)
    volume_m3: float = Field(ge=0)
    accepts: frozenset[str]
    yields: tuple[tuple[str, float], ...] = ()

    def worth(self, material: str) -> float:
        """Return what a m³ of a material is worth; 0 where it is not accepted."""
        return dict(self.yields).get(material, 1.0) if material in self.accepts else 0.0


class Coming(NamedTuple):
    """Loads of unknown size that come anyway, with what is counted of them."""

    loads: tuple[Lot, ...]
    counted_m3: float


NOTHING_COMES = Coming((), 0.0)


class Limits(BaseModel):
    """What holds an order back: months it may come in (0 is January), in order; m³ the tip holds; the money there is.

    `sure` is the certainty wanted that all loads together are enough.
    """

    model_config = ConfigDict(frozen=True)
    months: tuple[int, ...] = tuple(range(MONTHS))
    tip_m3: float | None = None
    budget: float | None = None
    sure: float = 0.5


class Purchase(BaseModel):
    """So many loads of one source, m³ in all, with the loads that come in each month (0 is January)."""

    model_config = ConfigDict(frozen=True)
    source: str
    loads: int
    volume_m3: float
    cost: float
    by_month: tuple[tuple[int, int], ...] = ()


class Choice(BaseModel):
    """One way to cover the need.

    Attributes
    ----------
    short_m3 : float
        What stays uncovered, where a limit lets no choice cover all.
    enough : float
        Probability that loads of unknown size together hold what is needed.
    """

    model_config = ConfigDict(frozen=True)
    purchases: tuple[Purchase, ...]
    cost: float
    volume_m3: float
    left_over_m3: float
    short_m3: float = 0.0
    enough: float = 1.0


class Chosen(BaseModel):
    """The cheapest choices, the best first; none where a limit forbids all.

    Then `binding` says which limit does, and `nearest` is the choice that covers most.
    """

    model_config = ConfigDict(frozen=True)
    choices: tuple[Choice, ...]
    binding: str | None = None
    nearest: Choice | None = None


class _Model:
    """The programme: loads by source n, m³ of exact sources x, m³ from source to group of needs f, m³ short s."""

    def __init__(
        self,
        needs: Sequence[Need],
        sources: Sequence[SupplySource],
        limits: Limits,
        coming: Coming,
        factor: float = 1.0,
    ) -> None:
        groups: dict[Need, float] = {}
        for need in needs:
            if need.volume_m3 > 0:
                alike = need.model_copy(update={"volume_m3": 0.0})
                groups[alike] = groups.get(alike, 0.0) + need.volume_m3
        self.groups = [(need, volume * factor) for need, volume in groups.items()]
        self.coming = coming
        self.sources, self.limits = list(sources), limits
        self.count, wide = len(self.sources), len(self.groups)
        self.width = self.count * (2 + wide) + wide
        self.total = sum(volume for _, volume in self.groups)
        self.needed = self.total / factor
        exact = np.array([one.exact for one in self.sources], dtype=bool)
        per_m3 = np.array([one.per_m3 for one in self.sources])
        self.holds = np.array([one.holds_m3 for one in self.sources])
        loads = np.array([one.per_load for one in self.sources]) + np.where(exact, 0.0, per_m3 * self.holds)
        self.exact = exact
        self.cost = np.concatenate([loads, np.where(exact, per_m3, 0.0), np.zeros(self.count * wide + wide)])

    def most(self, source: SupplySource) -> int:
        """Return how many loads of a source can come at all."""
        if self.limits.tip_m3 is not None and source.needs_tip and not source.exact and (
            source.heap_m3 > self.limits.tip_m3 + 1e-9
        ):  # fmt: skip
            return 0
        coming = sum(source.arrivals[month] for month in self.limits.months)
        if source.loads_at_most is not None:
            coming = min(coming, source.loads_at_most)
        return min(coming, ceil(self.total / source.holds_m3) + 1)

    def _flow(self, source: int, group: int) -> int:
        return self.count * (2 + group) + source

    @cached_property
    def constraints(self) -> list[LinearConstraint]:
        """The rows that hold for every choice."""
        rows: list[Array] = []
        low: list[float] = []
        for group, (need, volume) in enumerate(self.groups):
            row = np.zeros(self.width)
            for index, one in enumerate(self.sources):
                row[self._flow(index, group)] = need.worth(one.material)
            row[self.count * (2 + len(self.groups)) + group] = 1.0
            rows.append(row)
            low.append(volume)
        for index, one in enumerate(self.sources):
            row = np.zeros(self.width)
            row[self.count + index if one.exact else index] = 1.0 if one.exact else one.holds_m3
            for group in range(len(self.groups)):
                row[self._flow(index, group)] = -1.0
            rows.append(row)
            low.append(0.0)
            if one.exact:
                full, least = np.zeros(self.width), np.zeros(self.width)
                full[[index, self.count + index]] = one.holds_m3, -1.0
                least[[index, self.count + index]] = -one.least_m3, 1.0
                # Every delivery but the last is full: a half-empty one more is no other choice.
                tight = full * -1.0
                rows += [full, least, tight]
                low += [0.0, 0.0, -one.holds_m3 * (1 - 1e-6)]
        made = [LinearConstraint(np.array(rows), np.array(low), np.inf)]
        if self.limits.budget is not None:
            made.append(LinearConstraint(self.cost[None, :], -np.inf, self.limits.budget + 1e-9))
        return made

    @cached_property
    def weights(self) -> Array:
        """Cost; of equally dear choices the one that leaves less over (a hundred-thousandth of the
        price scale for each m³).

        A m³ short weighs more than any m³ that could be bought.
        """
        small = 1e-5 * max(1.0, float(self.cost.max()))
        weights = self.cost.copy()
        weights[: self.count] += np.where(self.exact, 0.0, small * self.holds)
        weights[self.count : 2 * self.count] += np.where(self.exact, small, 0.0)
        weights[self.count * (2 + len(self.groups)) :] = 1e4 * max(1.0, float(self.cost.max()))
        return weights

    def highest(self) -> NDArray[np.int_]:
        """Return how many loads of each source can come."""
        return np.array([self.most(one) for one in self.sources], dtype=int)

    def lowest(self) -> NDArray[np.int_]:
        """Return how many loads of each source are bought at least."""
        return np.zeros(self.count, dtype=int)

    def steps(self) -> NDArray[np.int_]:
        """Return by how many loads of each source choices differ at least."""
        return np.maximum(1, np.ceil(A_TENTH * self.total / self.holds - 1e-9)).astype(int)

    def solve(self, low: NDArray[np.int_], high: NDArray[np.int_], *, short: bool = False) -> Choice | None:
        """Return the cheapest choice with loads between `low` and `high`; with `short` some may stay uncovered."""
        wide = len(self.groups)
        lower = np.concatenate([low, np.zeros(self.width - self.count)])
        upper = np.concatenate([
            high, np.where(self.exact, self.holds * high, 0.0), np.full(self.count * wide, np.inf),
            np.full(wide, np.inf if short else 0.0),
        ])  # fmt: skip
        if (lower > upper).any():
            return None
        whole = np.concatenate([np.ones(self.count), np.zeros(self.width - self.count)])
        found = milp(
            self.weights, integrality=whole, bounds=Bounds(lower, upper), constraints=self.constraints,
            options={"mip_rel_gap": 0.0},
        )  # fmt: skip
        return None if found.x is None else self._choice(found.x)

    def _choice(self, x: Array) -> Choice:
        loads = np.round(x[: self.count]).astype(int)
        bought = []
        for index, one in enumerate(self.sources):
            volume = float(x[self.count + index]) if one.exact else float(loads[index] * one.holds_m3)
            if loads[index] > 0 and volume > 1e-9:
                cost = one.per_load * int(loads[index]) + one.per_m3 * volume
                bought.append(
                    Purchase(
                        source=one.key, loads=int(loads[index]), volume_m3=volume, cost=cost,
                        by_month=self._by_month(one, int(loads[index])),
                    )
                )  # fmt: skip
        volume = sum(one.volume_m3 for one in bought)
        short = float(x[self.count * (2 + len(self.groups)) :].sum())
        lots, certain = self._lots(bought)
        return Choice(
            purchases=tuple(bought), cost=float(sum(one.cost for one in bought)), volume_m3=volume,
            left_over_m3=max(0.0, volume + short - self.needed), short_m3=short if short > 1e-6 else 0.0,
            enough=chance_of_sum(
                self.needed + self.coming.counted_m3, [*lots, *self.coming.loads], certain
            ),
        )  # fmt: skip

    def _lots(self, bought: Sequence[Purchase]) -> tuple[list[Lot], float]:
        by_key = {one.key: one for one in self.sources}
        lots: list[Lot] = []
        certain = 0.0
        for one in bought:
            size = by_key[one.source].size
            if size is None:
                certain += one.volume_m3
            else:
                lots.append((one.loads, size))
        return lots, certain

    def surely(self, choice: Choice) -> float:
        """Return the m³ that a choice holds at least, with the certainty wanted."""
        lots, certain = self._lots(choice.purchases)
        return at_least(self.limits.sure, [*lots, *self.coming.loads], certain) - self.coming.counted_m3

    def _by_month(self, source: SupplySource, loads: int) -> tuple[tuple[int, int], ...]:
        """Spread loads over the months, as early as they can come."""
        left, months = loads, []
        for month in self.limits.months:
            now = min(left, source.arrivals[month])
            if now:
                months.append((month, now))
                left -= now
        return tuple(months)


def choose(
    needs: Sequence[Need],
    sources: Sequence[SupplySource],
    limits: Limits | None = None,
    best: int = 3,
    coming: Coming = NOTHING_COMES,
) -> Chosen:
    """Choose what to order at least cost.

    Needs that accept the same materials are added up, so the programme grows with sources, not with plots. The
    next-best choices differ by a load of at least one source, and by a tenth of the need where loads are smaller (a
    bag more is no other choice); they are found by splitting the solved set at each
    source (Murty 1968, Operations Research 16: 682–687; from memory), so none better is left out, except those that
    only add to the best without being surer. Loads of unknown
    size count by their mean; for more certainty than even the need is raised until the choice has it.

    Parameters
    ----------
    needs : sequence of Need
    sources : sequence of SupplySource
    limits : Limits, optional
    best : int
        How many choices are wanted.
    coming : Coming
        Counts with what is ordered, where it is asked how sure it is to be enough.

    Returns
    -------
    Chosen
        With a sentence on what binds where nothing can be chosen.
    """
    limits = limits or Limits()
    model = _Model(needs, sources, limits, coming)
    if model.total <= 0:
        return Chosen(choices=(Choice(purchases=(), cost=0.0, volume_m3=0.0, left_over_m3=0.0),))
    if not sources:
        return Chosen(choices=(), binding="Nobody brings anything yet.")
    first = model.solve(model.lowest(), model.highest())
    # Raised by what is missing, and by ever larger steps where that is less than another load.
    step = LEAST_RAISE
    while first is not None and limits.sure > 0.5 and first.enough < limits.sure - 1e-9:
        missing = max(step * model.needed, model.needed - model.surely(first))
        model = _Model(needs, sources, limits, coming, (model.total + missing) / model.needed)
        first = model.solve(model.lowest(), model.highest())
        step *= 2
    if first is None:
        nearest = model.solve(model.lowest(), model.highest(), short=True)
        return Chosen(choices=(), binding=_binding(needs, sources, limits), nearest=nearest)
    return Chosen(choices=tuple(_best(model, first, best)))


def _best(model: _Model, first: Choice, best: int) -> list[Choice]:
    found: list[Choice] = []
    open_sets = [(first, model.lowest(), model.highest())]
    steps = model.steps()
    looked = 0
    while open_sets and len(found) < best and looked < MOST_LOOKED_AT:
        open_sets.sort(key=lambda one: one[0].cost)
        choice, low, high = open_sets.pop(0)
        looked += 1
        if not found or not _more_of_the_same(choice, found):
            found.append(choice)
        if len(found) == best:
            break
        loads = {one.source: one.loads for one in choice.purchases}
        at = np.array([loads.get(one.key, 0) for one in model.sources])
        below, above = low.copy(), high.copy()
        for index in range(model.count):
            for less in (True, False):
                new_low, new_high = below.copy(), above.copy()
                if less:
                    new_high[index] = at[index] - steps[index]
                else:
                    new_low[index] = at[index] + steps[index]
                other = model.solve(new_low, new_high) if (new_low <= new_high).all() else None
                if other is not None:
                    open_sets.append((other, new_low, new_high))
            below[index] = max(below[index], at[index] - steps[index] + 1)
            above[index] = min(above[index], at[index] + steps[index] - 1)
    return found


def _more_of_the_same(choice: Choice, found: Sequence[Choice]) -> bool:
    """Say whether a choice only adds to the best one: once that is worth saying, where it is surer to be enough."""
    best = found[0]
    if not _adds_to(choice, best):
        return False
    surer = choice.enough >= best.enough + SURER
    return not surer or any(_adds_to(one, best) for one in found[1:])


def _adds_to(choice: Choice, best: Choice) -> bool:
    has = {one.source: one.volume_m3 for one in choice.purchases}
    return all(has.get(one.source, 0.0) >= one.volume_m3 - 1e-6 for one in best.purchases)


def _binding(needs: Sequence[Need], sources: Sequence[SupplySource], limits: Limits) -> str:
    """Say which limit alone, if it were lifted, would let the need be covered."""
    offered = {one.material for one in sources}
    if any(need.volume_m3 > 0 and not need.accepts & offered for need in needs):
        return "Nobody brings a material that one of the plots accepts."
    more = {"arrivals": (NO_LIMIT,) * MONTHS, "loads_at_most": None}
    plenty = [one.model_copy(update=more) for one in sources]
    all_year = limits.model_copy(update={"months": tuple(range(MONTHS))})
    lifted = (
        ("The money does not reach.", sources, limits.model_copy(update={"budget": None})),
        ("The tip does not hold a load of those that could come.", sources, limits.model_copy(update={"tip_m3": None})),
        ("The date wanted is too near.", sources, all_year),
        ("Too few loads can be counted on in the months wanted.", plenty, limits),
    )
    for sentence, whom, under in lifted:
        model = _Model(needs, whom, under, NOTHING_COMES)
        if model.solve(model.lowest(), model.highest()) is not None:
            return sentence
    return "Several limits together leave no way to cover the need."
