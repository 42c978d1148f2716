"""Chips as they come, week by week, and who of those that wait is served."""

from collections.abc import Sequence
from typing import NamedTuple

import numpy as np

from ulmatic.core.decay import Clock
from ulmatic.core.materials import Material
from ulmatic.core.renewal.cover import Array, kinds_of
from ulmatic.core.supply.allocate import Want, allocate


class Arrival(NamedTuple):
    """So many m³ of a material, there from a week on; it had rotted for `age_decay_time` of ξ-years by then."""

    week: int
    material: Material
    volume_m3: float
    age_decay_time: float = 0.0


class Asking(NamedTuple):
    """A plot that wants so many m³ now: whom to serve first by rank, then by the week since when it has waited."""

    plot: int
    rank: int
    since: int
    volume_m3: float
    least_m3: float
    accepts: frozenset[str]


def _left(arrivals: Sequence[Arrival], clock: Clock, days: Array) -> Array:
    """Return what is left in each week of a m³ of each arrival, as it lies in a heap: chips and crumb, (n, weeks)."""
    kinds, own = kinds_of((one.material, 0.0, one.age_decay_time, 0) for one in arrivals)
    weeks = np.array([one.week for one in arrivals])
    found = kinds.curves(own, days[weeks], [clock], days)
    there = found.chips_mm + found.mould_mm
    return np.asarray(there / there[np.arange(weeks.size), weeks][:, None])


class Stores:
    """What has come and was not laid; it rots while it lies, and what came first is laid first."""

    def __init__(self, arrivals: Sequence[Arrival], clock: Clock, days: Array) -> None:
        self._came = sorted((one for one in arrivals if one.week < days.size), key=lambda one: one.week)
        self._left = _left(self._came, clock, days) if self._came else np.zeros((0, days.size))
        self._rest = [one.volume_m3 for one in self._came]
        """Of each what is not laid yet, as m³ on the day it came."""

    def next_for(self, accepts: frozenset[str], after: int) -> int | None:
        """Return the first week after `after` in which a material comes that is accepted; None where none will."""
        return next((one.week for one in self._came if one.week > after and one.material.key in accepts), None)

    def serve(self, asking: Sequence[Asking], week: int) -> dict[int, float]:
        """Give out what is there in a week, and return the m³ each plot gets.

        As when there is too little (`allocate`): whole plots first, by rank; the rest goes to the first that still
        waits, where it makes a layer at all (`least_m3`).
        """
        there: dict[str, float] = {}
        for at, one in enumerate(self._came):
            if one.week <= week:
                there[one.material.key] = there.get(one.material.key, 0.0) + self._rest[at] * float(
                    self._left[at, week]
                )
        order = sorted(asking, key=lambda one: (one.rank, one.since, one.plot))
        found = allocate(
            [Want[int](plot=one.plot, needs_m3=one.volume_m3, accepts=one.accepts) for one in order], there
        )
        least = {one.plot: one.least_m3 for one in asking}
        served = {}
        for share in found.shares:
            if share.whole or share.gets_m3 >= least[share.plot]:
                served[share.plot] = share.gets_m3
                for material, amount in share.gets.items():
                    self._draw(material, amount, week)
        return served

    def _draw(self, material: str, amount: float, week: int) -> None:
        for at, one in enumerate(self._came):
            left = float(self._left[at, week])
            if one.week <= week and one.material.key == material and left > 0:
                taken = min(amount, self._rest[at] * left)
                self._rest[at] = max(0.0, self._rest[at] - taken / left)
                amount -= taken
