"""Years ahead: every plot's layers, laid again by its rule in allowed months and as chips come."""

from collections.abc import Sequence
from dataclasses import dataclass, field
from datetime import date, timedelta

import numpy as np
from numpy.typing import NDArray

from ulmatic.core.decay import Clock, day_number
from ulmatic.core.renewal.arrivals import Arrival, Asking, Stores
from ulmatic.core.renewal.cover import Array, Ground, Indices, TopUp, covered, kinds_of
from ulmatic.core.renewal.plans import LEAST_LAYER_MM, NEVER, QUARTERS, Plans

YEAR_WEEKS = 52


@dataclass
class Future:
    """What becomes of plots: each array (plots, weeks), and every top-up in the order of time.

    `held` is the depth of chips; where a part of the ground is laid at a time it is the mean over the plot. `waiting`
    are plots that wait at the end for chips that never came, with the day since when.
    """

    days: Array
    held_mm: Array
    mould_mm: Array
    crumb_kg_m2: Array
    top_ups: list[TopUp] = field(default_factory=list)
    waiting: dict[int, date] = field(default_factory=dict)


def renew(
    grounds: Sequence[Ground],
    clocks: Sequence[Clock],
    first: date,
    weeks: int,
    arrivals: Sequence[Arrival] | None = None,
) -> Future:
    """Simulate plots from one week with something to lay to the next, in closed form between them.

    What is laid adds its depth at all later weeks at once; then each of the plots laid looks for its next week.

    Parameters
    ----------
    grounds : sequence of Ground
    clocks : sequence of Clock
        By which grounds rot: those that are irrigated by another. Heaps rot by the first.
    first : date
    weeks : int
    arrivals : sequence of Arrival, optional
        What comes: then nothing is laid before there is enough, and what waits is laid in the first open week in
        which there is. Without it chips are there when they are wanted.

    Returns
    -------
    Future
    """
    days = np.asarray(day_number(first) + 7.0 * np.arange(weeks), dtype=np.float64)
    dates = [first + timedelta(weeks=week) for week in range(weeks)]
    begin = covered(grounds, clocks, days)
    future = Future(days, begin.chips_mm, begin.mould_mm, begin.crumb_kg_m2)
    if grounds:
        stores = None if arrivals is None else Stores(arrivals, clocks[0], days)
        _Run(grounds, clocks, dates, future, stores).through()
        whole = covered(grounds, clocks, days, future.top_ups)
        future.mould_mm, future.crumb_kg_m2 = whole.mould_mm, whole.crumb_kg_m2
    return future


class _Run:
    """One simulation, with what is known of each plot as it goes on."""

    def __init__(
        self,
        grounds: Sequence[Ground],
        clocks: Sequence[Clock],
        dates: Sequence[date],
        future: Future,
        stores: Stores | None,
    ) -> None:
        self.grounds, self.clocks, self.dates, self.future, self.stores = grounds, clocks, dates, future, stores
        self.plans = Plans(grounds, dates)
        self.kinds, self.own = kinds_of((one.material, one.settling, 0.0, one.clock) for one in grounds)
        self.settling = np.array([one.settling for one in grounds])
        most = max(len(one.areas_m2) for one in grounds)
        self.areas = np.array([[*one.areas_m2, *[one.areas_m2[-1]] * (most - len(one.areas_m2))] for one in grounds])
        self.covered_m2 = self.areas[:, 0].copy()
        self.due = self.plans.next(np.arange(len(grounds)), 0, future.held_mm)
        self.since = np.full(len(grounds), -1)
        self.rest_mm = np.full(len(grounds), np.nan)
        self.laid = np.zeros(len(grounds), dtype=int)
        self.dug_mm = np.zeros(len(grounds))

    def through(self) -> None:
        """Go from one week to the next in which something is due."""
        while (week := int(self.due.min())) < len(self.dates):
            self._lay(week, np.flatnonzero(self.due == week))
        self.future.waiting = {int(at): self.dates[self.since[at]] for at in np.flatnonzero(self.since >= 0)}

    def _lay(self, week: int, at: Indices) -> None:
        day = self.future.days[week]
        kind, share = np.unique(self.own[at], return_inverse=True)
        found = self.kinds.curves(kind, np.full(kind.size, day), self.clocks, self.future.days)
        # What a millimetre leaves that is settled when it is laid, not as it falls.
        per_mm = found.chips_mm / (1 - self.kinds.units.settling[kind])[:, None]
        held, mould = self.future.held_mm, self.future.mould_mm
        settled = self.plans.amounts(at, week, held, per_mm, share, self.since[at] >= 0)
        settled = np.where(np.isnan(self.rest_mm[at]), settled, self.rest_mm[at])
        volume, area = self._volumes(at, week, settled)
        got = self._served(at, week, settled, volume)
        given = settled * np.where(volume > 0, got / np.where(volume > 0, volume, 1.0), 1.0)
        lays = (got > 0) | (volume <= 0)
        self._write(at[lays], week, given[lays], got[lays])
        for one in range(kind.size):
            alike = share == one
            held[at[alike], week:] += given[alike, None] * per_mm[one, week:]
            digs = alike & self.plans.digs[at]
            if digs.any():
                fallen = given[digs] / (1 - self.settling[at[digs]])
                mould[at[digs], week:] += fallen[:, None] * found.mould_mm[one, week:]
        whole = settled - given < LEAST_LAYER_MM
        whole &= lays
        self.covered_m2[at[whole]] = area[whole]
        self.laid[at[whole]] += 1
        self.since[at[whole]], self.rest_mm[at[whole]] = -1, np.nan
        self.due[at[whole]] = self.plans.next(at[whole], week + 1, self.future.held_mm)
        self._put_off(at[~whole], week, (settled - given)[~whole], lays[~whole])

    def _area(self, at: Indices, week: int) -> Array:
        found: Array = self.areas[at, min(week // YEAR_WEEKS, self.areas.shape[1] - 1)]
        return found

    def _wanted(self, at: Indices, week: int) -> Indices:
        """Return the week since when each plot wants what is laid now."""
        return np.where(self.since[at] >= 0, self.since[at], week)

    def _volumes(self, at: Indices, week: int, settled: Array) -> tuple[Array, Array]:
        """Return the loose m³ of depths, and the ground they cover."""
        area = self._area(at, week)
        loose, full = settled / (1 - self.settling[at]), self.plans.full_mm[at] / (1 - self.settling[at])
        # Ground that has come in since the last time has nothing on it yet.
        new = np.maximum(0.0, area - self.covered_m2[at])
        before = np.minimum(area, self.covered_m2[at])
        return (before * loose + new * np.maximum(full, loose)) / 1000, area

    def _served(self, at: Indices, week: int, settled: Array, volume: Array) -> Array:
        """Return the m³ that each plot gets of what it wants."""
        if self.stores is None:
            return volume
        least = volume * np.minimum(1.0, LEAST_LAYER_MM / settled)
        asking = [
            Asking(index, self.grounds[plot].rank, since, wants, enough, self.grounds[plot].accepts)
            for index, (plot, since, wants, enough) in enumerate(
                zip(at, self._wanted(at, week).tolist(), volume.tolist(), least.tolist(), strict=True)
            )
        ]
        got = np.zeros(at.size)
        for index, amount in self.stores.serve(asking, week).items():
            got[index] = amount
        return got

    def _put_off(self, at: Indices, week: int, missing_mm: Array, begun: NDArray[np.bool_]) -> None:
        self.since[at] = self._wanted(at, week)
        for plot, missing, partly in zip(at, missing_mm, begun, strict=True):
            if partly and not np.isnan(self.plans.layer_mm[plot]):
                self.rest_mm[plot] = missing
            comes = self.stores.next_for(self.grounds[plot].accepts, week) if self.stores else None
            self.due[plot] = NEVER if comes is None else self.plans.open_from(plot, comes)

    def _write(self, at: Indices, week: int, settled: Array, got: Array) -> None:
        loose = settled / (1 - self.settling[at])
        quarters, ground = self.plans.quarters[at], self._area(at, week)
        digs, mould = self.plans.digs[at], self.future.mould_mm[at, week]
        crumb = np.where(digs, mould - self.dug_mm[at], 0.0)
        self.dug_mm[at[digs]] = mould[digs]
        self.future.top_ups += [
            TopUp(plot, self.dates[week], mm, fallen, m3, self.dates[wanted], dug, count % QUARTERS if ring else None)
            for plot, mm, fallen, m3, wanted, dug, count, ring in zip(
                at.tolist(), settled.tolist(), loose.tolist(), got.tolist(), self._wanted(at, week).tolist(),
                (crumb / 1000 * ground).tolist(), self.laid[at].tolist(), quarters.tolist(), strict=True,
            )
        ]  # fmt: skip
