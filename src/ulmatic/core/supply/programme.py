"""The choice of loads as a mixed-integer programme (HiGHS): whole loads at least cost."""

from collections.abc import Sequence
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from ulmatic.core.figures import ceil
from ulmatic.core.programmes import Rows, Solution, minimum
from ulmatic.core.supply.certainty import Lot, at_least, chance_of_sum
from ulmatic.core.supply.choice import Choice, Coming, Limits, Need, Purchase, SupplySource

Array = NDArray[np.float64]
A_TENTH = 0.1
"""Of the need: by so much choices differ at least where loads are smaller."""


MOST_NODES = 2_000
"""Of the search tree of one choice; then the best that was found is taken, with its gap.

No limit of time: a choice is the same on every machine, whatever else it does.
"""
SPECK_OF_COST = 1e-6


class Programme:
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
                empty_need = need.model_copy(update={"volume_m3": 0.0})
                groups[empty_need] = groups.get(empty_need, 0.0) + need.volume_m3
        self.groups = [(need, volume * factor) for need, volume in groups.items()]
        self.coming = coming
        self.sources, self.limits = list(sources), limits
        self.count, wide = len(self.sources), len(self.groups)
        self.width = self.count * (2 + wide) + wide
        self.total = sum(volume for _, volume in self.groups)
        self.needed = self.total / factor
        exact = np.array([source.exact for source in self.sources], dtype=bool)
        per_m3 = np.array([source.per_m3 for source in self.sources])
        self.holds = np.array([source.holds_m3 for source in self.sources])
        loads = np.array([source.per_load for source in self.sources]) + np.where(exact, 0.0, per_m3 * self.holds)
        self.exact = exact
        self.cost = np.concatenate([loads, np.where(exact, per_m3, 0.0), np.zeros(self.count * wide + wide)])

    def most_loads(self, source: SupplySource) -> int:
        """Return how many loads of a source can come at all.

        Returns
        -------
        int
        """
        if (
            self.limits.tip_m3 is not None
            and source.needs_tip
            and not source.exact
            and (source.pile_m3 > self.limits.tip_m3 + 1e-9)
        ):
            return 0
        coming = sum(source.arrivals[month] for month in self.limits.months)
        if source.loads_at_most is not None:
            coming = min(coming, source.loads_at_most)
        return min(coming, ceil(self.total / source.holds_m3) + 1)

    def _flow(self, source: int, group: int) -> int:
        return self.count * (2 + group) + source

    @cached_property
    def constraints(self) -> tuple[Rows, Array, Array]:
        """The rows that hold for every choice, and between what they lie."""
        rows: list[Array] = []
        low: list[float] = []
        for group, (need, volume) in enumerate(self.groups):
            row = np.zeros(self.width)
            for index, source in enumerate(self.sources):
                row[self._flow(index, group)] = need.worth(source.material)
            row[self.count * (2 + len(self.groups)) + group] = 1.0
            rows.append(row)
            low.append(volume)
        for index, source in enumerate(self.sources):
            row = np.zeros(self.width)
            row[self.count + index if source.exact else index] = 1.0 if source.exact else source.holds_m3
            for group in range(len(self.groups)):
                row[self._flow(index, group)] = -1.0
            rows.append(row)
            low.append(0.0)
            if source.exact:
                full, least = np.zeros(self.width), np.zeros(self.width)
                full[[index, self.count + index]] = source.holds_m3, -1.0
                least[[index, self.count + index]] = -source.least_m3, 1.0
                # Every delivery but the last is full: a half-empty one more is no other choice.
                tight = full * -1.0
                rows += [full, least, tight]
                low += [0.0, 0.0, -source.holds_m3 * (1 - 1e-6)]
        high = [np.inf] * len(rows)
        if self.limits.budget is not None:
            rows, low, high = [*rows, self.cost], [*low, -np.inf], [*high, self.limits.budget + 1e-9]
        return Rows.of_matrix(np.array(rows)), np.array(low), np.array(high)

    @cached_property
    def weights(self) -> Array:
        """Cost; of equally dear choices the one that leaves less over.

        A hundred-thousandth of the price scale for each m³ sees to that. A m³ short weighs more than any m³ that could
        be bought.
        """
        small = 1e-5 * max(1.0, float(self.cost.max()))
        weights = self.cost.copy()
        weights[: self.count] += np.where(self.exact, 0.0, small * self.holds)
        weights[self.count : 2 * self.count] += np.where(self.exact, small, 0.0)
        weights[self.count * (2 + len(self.groups)) :] = 1e4 * max(1.0, float(self.cost.max()))
        return weights

    def highest(self) -> NDArray[np.int_]:
        """Return how many loads of each source can come.

        Returns
        -------
        ndarray of int
            Shape (sources,).
        """
        return np.array([self.most_loads(source) for source in self.sources], dtype=int)

    def lowest(self) -> NDArray[np.int_]:
        """Return how many loads of each source are bought at least.

        Returns
        -------
        ndarray of int
            Shape (sources,).
        """
        return np.zeros(self.count, dtype=int)

    def steps(self) -> NDArray[np.int_]:
        """Return by how many loads of each source choices differ at least.

        Returns
        -------
        ndarray of int
            Shape (sources,).
        """
        return np.maximum(1, np.ceil(A_TENTH * self.total / self.holds - 1e-9)).astype(int)

    def solve(self, low: NDArray[np.int_], high: NDArray[np.int_], *, short: bool = False) -> Choice | None:
        """Return the cheapest choice with loads between `low` and `high`; with `short` some may stay uncovered.

        Returns
        -------
        Choice or None
            None where there is none.
        """
        wide = len(self.groups)
        lower = np.concatenate([low, np.zeros(self.width - self.count)])
        upper = np.concatenate(
            [
                high,
                np.where(self.exact, self.holds * high, 0.0),
                np.full(self.count * wide, np.inf),
                np.full(wide, np.inf if short else 0.0),
            ]
        )
        if (lower > upper).any():
            return None
        x, gap = self._searched(lower, upper)
        if x is None:
            return None
        choice = self._choice(x, whole_steps=not short)
        if gap > SPECK_OF_COST:
            choice = choice.model_copy(update={"gap": gap})
        # What is sold by the step may cost more than what was reckoned with.
        is_over_budget = self.limits.budget is not None and choice.cost > self.limits.budget + 0.005
        return None if is_over_budget and not short else choice

    def _searched(self, lower: Array, upper: Array) -> tuple[Array | None, float]:
        """Return the best that was found between bounds, and the share by which another could be better.

        Returns
        -------
        (ndarray or None, float)
            Loads of each source, None where nothing was found; the share is 0 where the best is proven.
        """
        solution = self._solved(lower, upper, whole_numbers=self.count, most_nodes=MOST_NODES)
        if solution.point is None and solution.feasible:
            return self._rounded_up(lower, upper)
        return solution.point, solution.gap

    def _rounded_up(self, lower: Array, upper: Array) -> tuple[Array | None, float]:
        """Return the cheapest choice in parts of loads, each made whole: where a search found nothing.

        Returns
        -------
        (ndarray or None, float)
            As for `_searched`.
        """
        parts = self._solved(lower, upper)
        if parts.point is None:
            return None, 0.0
        loads = np.minimum(np.ceil(parts.point[: self.count] - 1e-9), upper[: self.count])
        lower, upper = lower.copy(), upper.copy()
        lower[: self.count] = upper[: self.count] = loads
        solution = self._solved(lower, upper)
        if solution.point is None:
            return None, 0.0
        return solution.point, 1.0 - parts.value / solution.value if solution.value else 0.0

    def _solved(self, lower: Array, upper: Array, whole_numbers: int = 0, most_nodes: int | None = None) -> Solution:
        rows, low, high = self.constraints
        return minimum(
            self.weights, rows, low, high, lower=lower, upper=upper, whole_numbers=whole_numbers, most_nodes=most_nodes
        )

    def _choice(self, x: Array, *, whole_steps: bool) -> Choice:
        loads = np.round(x[: self.count]).astype(int)
        bought, left_out = [], 0.0
        for index, source in enumerate(self.sources):
            volume = float(x[self.count + index]) if source.exact else float(loads[index] * source.holds_m3)
            if loads[index] > 0 and volume > 1e-9:
                rest_m3 = volume
                volume = source.sold_m3(rest_m3, int(loads[index]), rounds_up=whole_steps)
                left_out += max(0.0, rest_m3 - volume)
                cost = float(source.price(volume, int(loads[index])))
                bought.append(
                    Purchase(
                        source=source.key,
                        loads=int(loads[index]),
                        volume_m3=volume,
                        cost=cost,
                        by_month=self._by_month(source, int(loads[index])),
                    )
                )
        volume = sum(purchase.volume_m3 for purchase in bought)
        short = float(x[self.count * (2 + len(self.groups)) :].sum()) + left_out
        lots, certain = self._lots(bought)
        return Choice(
            purchases=tuple(bought),
            cost=float(sum(purchase.cost for purchase in bought)),
            volume_m3=volume,
            left_over_m3=max(0.0, volume + short - self.needed),
            short_m3=short if short > 1e-6 else 0.0,
            enough=chance_of_sum(self.needed + self.coming.counted_m3, [*lots, *self.coming.loads], certain),
        )

    def _lots(self, bought: Sequence[Purchase]) -> tuple[list[Lot], float]:
        by_key = {source.key: source for source in self.sources}
        lots: list[Lot] = []
        certain = 0.0
        for purchase in bought:
            size = by_key[purchase.source].size
            if size is None:
                certain += purchase.volume_m3
            else:
                lots.append((purchase.loads, size))
        return lots, certain

    def surely(self, choice: Choice) -> float:
        """Return the m³ that a choice holds at least, with the certainty wanted.

        Returns
        -------
        float
        """
        lots, certain = self._lots(choice.purchases)
        return at_least(self.limits.sure, [*lots, *self.coming.loads], certain) - self.coming.counted_m3

    def _by_month(self, source: SupplySource, loads: int) -> tuple[tuple[int, int], ...]:
        """Spread loads over the months, as early as they can come.

        Returns
        -------
        tuple of (int, int)
            Loads of each month in question, with its number.
        """
        left, months = loads, []
        for month in self.limits.months:
            arriving = min(left, source.arrivals[month])
            if arriving:
                months.append((month, arriving))
                left -= arriving
        return tuple(months)
