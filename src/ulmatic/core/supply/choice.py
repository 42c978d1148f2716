"""What to order, from whom: whole loads at least cost, by mixed-integer programming (HiGHS)."""

from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray
from pydantic import BaseModel, ConfigDict, Field
from scipy.optimize import Bounds, LinearConstraint, milp

from ulmatic.core.working import ceil

MONTHS = 12
Array = NDArray[np.float64]


class Source(BaseModel):
    """Somebody who brings a material.

    Attributes
    ----------
    load_m3 : float
        What one load holds; of an exact source the most that one delivery holds.
    exact : bool
        Brings any amount up to a load instead of whole loads; `least_m3` is its minimum.
    per_load, per_m3 : float
        Price of a delivery and of a m³, in the site's currency.
    payload_kg, density : float or None
        Limit of weight, and wet density in kg/m³: a load then holds no more than ``payload_kg / density``.
    arrivals : tuple of int
        Loads that can come in each month, January first.
    """

    model_config = ConfigDict(frozen=True)
    key: str
    material: str
    load_m3: float = Field(gt=0)
    exact: bool = False
    least_m3: float = 0.0
    per_load: float = Field(default=0.0, ge=0)
    per_m3: float = Field(default=0.0, ge=0)
    payload_kg: float | None = None
    density: float | None = None
    arrivals: tuple[int, ...] = (1,) * MONTHS

    @property
    def holds_m3(self) -> float:
        """What one load holds by volume and weight."""
        if self.payload_kg is None or not self.density:
            return self.load_m3
        return min(self.load_m3, self.payload_kg / self.density)


class Need(BaseModel):
    """So many m³ of any of these materials."""

    model_config = ConfigDict(frozen=True)
    volume_m3: float = Field(ge=0)
    accepts: frozenset[str]


class Limits(BaseModel):
    """What holds an order back: months it may come in, the m³ the tip holds at a time, the money there is."""

    model_config = ConfigDict(frozen=True)
    months: tuple[int, ...] = tuple(range(MONTHS))
    tip_m3: float | None = None
    budget: float | None = None


class Purchase(BaseModel):
    """So many loads of one source, m³ in all."""

    model_config = ConfigDict(frozen=True)
    source: str
    loads: int
    volume_m3: float


class Choice(BaseModel):
    """One way to cover the need."""

    model_config = ConfigDict(frozen=True)
    purchases: tuple[Purchase, ...]
    cost: float
    volume_m3: float
    left_over_m3: float


class Chosen(BaseModel):
    """The cheapest choices, the best first; none where a limit forbids all, and `binding` then says which."""

    model_config = ConfigDict(frozen=True)
    choices: tuple[Choice, ...]
    binding: str | None = None


class _Model:
    """The programme: loads by source n, m³ of exact sources x, m³ from source to group of needs f."""

    def __init__(self, needs: Sequence[Need], sources: Sequence[Source], limits: Limits) -> None:
        groups: dict[frozenset[str], float] = {}
        for need in needs:
            if need.volume_m3 > 0:
                groups[need.accepts] = groups.get(need.accepts, 0.0) + need.volume_m3
        self.groups, self.sources, self.limits = list(groups.items()), list(sources), limits
        self.count, wide = len(self.sources), len(self.groups)
        self.width = self.count * (2 + wide)
        self.total = sum(volume for _, volume in self.groups)
        self.cost = np.concatenate(
            [
                [one.per_load + (0 if one.exact else one.per_m3 * one.holds_m3) for one in self.sources],
                [one.per_m3 if one.exact else 0.0 for one in self.sources],
                np.zeros(self.count * wide),
            ]
        )

    def most(self, source: Source) -> int:
        """Return how many loads of a source can come at all."""
        if self.limits.tip_m3 is not None and not source.exact and source.holds_m3 > self.limits.tip_m3 + 1e-9:
            return 0
        return min(sum(source.arrivals[month] for month in self.limits.months), ceil(self.total / source.holds_m3) + 1)

    def _flow(self, source: int, group: int) -> int:
        return self.count * (2 + group) + source

    def constraints(self) -> list[LinearConstraint]:
        """Return the rows that hold for every choice."""
        rows: list[Array] = []
        low: list[float] = []
        for group, (accepts, volume) in enumerate(self.groups):
            row = np.zeros(self.width)
            for index, one in enumerate(self.sources):
                row[self._flow(index, group)] = float(one.material in accepts)
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
                rows += [full, least]
                low += [0.0, 0.0]
        made = [LinearConstraint(np.array(rows), np.array(low), np.inf)]
        if self.limits.budget is not None:
            made.append(LinearConstraint(self.cost[None, :], -np.inf, self.limits.budget + 1e-9))
        return made

    def solve(self, low: NDArray[np.int_], high: NDArray[np.int_]) -> Choice | None:
        """Return the cheapest choice with loads between `low` and `high`, then with least left over."""
        lower = np.concatenate([low, np.zeros(self.width - self.count)])
        flows = np.full(self.count * len(self.groups), np.inf)
        amounts = [one.holds_m3 * top if one.exact else 0.0 for one, top in zip(self.sources, high, strict=True)]
        upper = np.concatenate([high, amounts, flows])
        if (lower > upper).any():
            return None
        whole = np.concatenate([np.ones(self.count), np.zeros(self.width - self.count)])
        # Of equally dear ones the one that leaves less over: a millionth of the price scale for each m³.
        small = 1e-6 * max(1.0, float(self.cost.max()))
        tie = np.zeros(self.width)
        tie[: self.count] = [0 if one.exact else small * one.holds_m3 for one in self.sources]
        tie[self.count : 2 * self.count] = [small if one.exact else 0 for one in self.sources]
        found = milp(
            self.cost + tie, integrality=whole, bounds=Bounds(lower, upper), constraints=self.constraints(),
            options={"mip_rel_gap": 0.0},
        )  # fmt: skip
        if found.x is None:
            return None
        loads = np.round(found.x[: self.count]).astype(int)
        bought = []
        for index, one in enumerate(self.sources):
            volume = float(found.x[self.count + index]) if one.exact else loads[index] * one.holds_m3
            if loads[index] > 0 and volume > 1e-9:
                bought.append(Purchase(source=one.key, loads=int(loads[index]), volume_m3=float(volume)))
        volume = sum(one.volume_m3 for one in bought)
        return Choice(
            purchases=tuple(bought), cost=float(self.cost @ found.x), volume_m3=volume,
            left_over_m3=max(0.0, volume - self.total),
        )  # fmt: skip


def choose(needs: Sequence[Need], sources: Sequence[Source], limits: Limits | None = None, best: int = 3) -> Chosen:
    """Choose what to order at least cost.

    Needs that accept the same materials are added up, so the programme grows with sources, not with plots. The
    next-best choices differ in the loads of at least one source; they are found by splitting the solved set at each
    source (Murty 1968, Operations Research 16: 682–687; from memory), so none better is left out.

    Parameters
    ----------
    needs : sequence of Need
    sources : sequence of Source
    limits : Limits, optional
    best : int
        How many choices are wanted.

    Returns
    -------
    Chosen
        With a sentence on what binds where nothing can be chosen.
    """
    limits = limits or Limits()
    model = _Model(needs, sources, limits)
    if model.total <= 0:
        return Chosen(choices=(Choice(purchases=(), cost=0.0, volume_m3=0.0, left_over_m3=0.0),))
    if not sources:
        return Chosen(choices=(), binding="Nobody brings anything yet.")
    low = np.zeros(model.count, dtype=int)
    high = np.array([model.most(one) for one in model.sources], dtype=int)
    first = model.solve(low, high)
    if first is None:
        return Chosen(choices=(), binding=_binding(needs, sources, limits))
    found: list[Choice] = []
    open_sets = [(first, low, high)]
    while open_sets and len(found) < best:
        open_sets.sort(key=lambda one: one[0].cost)
        choice, low, high = open_sets.pop(0)
        found.append(choice)
        loads = {one.source: one.loads for one in choice.purchases}
        at = np.array([loads.get(one.key, 0) for one in model.sources])
        below, above = low.copy(), high.copy()
        for index in range(model.count):
            for less in (True, False):
                new_low, new_high = below.copy(), above.copy()
                if less:
                    new_high[index] = at[index] - 1
                else:
                    new_low[index] = at[index] + 1
                other = model.solve(new_low, new_high) if (new_low <= new_high).all() else None
                if other is not None:
                    open_sets.append((other, new_low, new_high))
            below[index] = above[index] = at[index]
    return Chosen(choices=tuple(found))


def _binding(needs: Sequence[Need], sources: Sequence[Source], limits: Limits) -> str:
    """Say which limit alone, if it were lifted, would let the need be covered."""
    offered = {one.material for one in sources}
    if any(need.volume_m3 > 0 and not need.accepts & offered for need in needs):
        return "Nobody brings a material that one of the plots accepts."
    plenty = [one.model_copy(update={"arrivals": (10_000,) * MONTHS}) for one in sources]
    lifted = (
        ("The money does not reach.", sources, limits.model_copy(update={"budget": None})),
        ("The tip does not hold a load of those that could come.", sources, limits.model_copy(update={"tip_m3": None})),
        ("Too few loads come in the months wanted.", plenty, limits),
    )
    for sentence, whom, under in lifted:
        model = _Model(needs, whom, under)
        high = np.array([model.most(one) for one in model.sources], dtype=int)
        if model.solve(np.zeros(model.count, dtype=int), high) is not None:
            return sentence
    return "Several limits together leave no way to cover the need."
