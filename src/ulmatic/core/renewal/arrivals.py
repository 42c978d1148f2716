"""Chips as they come, week by week, and who of those that wait is served."""

from collections.abc import Sequence
from typing import NamedTuple

from ulmatic.core.supply.allocate import Want, allocate


class Arrival(NamedTuple):
    """So many m³ of a material (its key), there from a week on."""

    week: int
    material: str
    volume_m3: float


class Asking(NamedTuple):
    """A plot that wants so many m³ now: whom to serve first by rank, then by the week since when it has waited."""

    plot: int
    rank: int
    since: int
    volume_m3: float
    least_m3: float
    accepts: frozenset[str]


class Stores:
    """What has come and was not laid. Nothing is taken off for what rots while it lies."""

    def __init__(self, arrivals: Sequence[Arrival]) -> None:
        self._coming = sorted(arrivals, key=lambda one: one.week)
        self._there: dict[str, float] = {}

    def next_for(self, accepts: frozenset[str], after: int) -> int | None:
        """Return the first week after `after` in which a material comes that is accepted; None where none will."""
        return next((one.week for one in self._coming if one.week > after and one.material in accepts), None)

    def serve(self, asking: Sequence[Asking], week: int) -> dict[int, float]:
        """Give out what is there in a week, and return the m³ each plot gets.

        As when there is too little (`allocate`): whole plots first, by rank; the rest goes to the first that still
        waits, where it makes a layer at all (`least_m3`).
        """
        while self._coming and self._coming[0].week <= week:
            one = self._coming.pop(0)
            self._there[one.material] = self._there.get(one.material, 0.0) + one.volume_m3
        order = sorted(asking, key=lambda one: (one.rank, one.since, one.plot))
        found = allocate(
            [Want[int](plot=one.plot, needs_m3=one.volume_m3, accepts=one.accepts) for one in order], self._there
        )
        least = {one.plot: one.least_m3 for one in asking}
        served = {}
        for share in found.shares:
            if share.whole or share.gets_m3 >= least[share.plot]:
                served[share.plot] = share.gets_m3
                for material, amount in share.gets.items():
                    self._there[material] = max(0.0, self._there[material] - amount)
        return served
