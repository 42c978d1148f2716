"""When rules lay, and how much: all plots of a site at once."""

from collections.abc import Sequence
from datetime import date
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from ulmatic.core.renewal.cover import Array, Ground, Indices
from ulmatic.core.renewal.rules import Every, Harvest, Hold, Once, Quarter, Rounds, Thin

LEAST_LAYER_MM = 15.0
"""Nobody rakes out less: common practice, no source."""
MOST_LAYER_MM = 300.0
QUARTERS = 4
WEEKS_A_YEAR = 52.18
NEVER = 10**6
SPECK = 1e-6


class Plans:
    """The rules of all plots, week by week.

    Attributes
    ----------
    full_mm : ndarray, shape (plots,)
        Settled depth that ground is given which has nothing on it yet.
    digs, quarters : ndarray of bool, shape (plots,)
        Whether the crumb is dug out first, and whether a quarter is laid at a time.
    """

    def __init__(self, grounds: Sequence[Ground], dates: Sequence[date]) -> None:
        count, months = len(grounds), np.array([one.month for one in dates])
        masks = {one: np.isin(months, one) for one in {ground.open_months for ground in grounds}}
        self.full_mm, self.layer_mm, self.to_mm = np.zeros(count), np.full(count, np.nan), np.zeros(count)
        self.digs, self.quarters = np.zeros(count, dtype=bool), np.zeros(count, dtype=bool)
        self._opens = [np.flatnonzero(masks[ground.open_months]) for ground in grounds]
        self._weeks: list[Indices] = [np.array([], dtype=int)] * count
        self._hold_of = np.full(count, -1)
        self._holds: list[_Holds] = []
        held: dict[tuple[int, ...], int] = {}
        for at, ground in enumerate(grounds):
            rule, opens = ground.rule, masks[ground.open_months]
            match rule:
                case Hold():
                    if ground.open_months not in held:
                        held[ground.open_months] = len(self._holds)
                        self._holds.append(_Holds(count, opens))
                    self._hold_of[at] = held[ground.open_months]
                    self._holds[self._hold_of[at]].least_mm[at] = rule.least_mm
                    self.to_mm[at] = rule.to_mm
                case Thin():
                    self._weeks[at], self.layer_mm[at] = _first_weeks(dates, rule.months), rule.layer_mm
                case Every() | Harvest():
                    self._weeks[at] = _first_weeks(dates, (rule.month,))[:: rule.years]
                    self.to_mm[at], self.digs[at] = rule.to_mm, isinstance(rule, Harvest)
                case Quarter():
                    self._weeks[at], self.layer_mm[at] = _first_weeks(dates, (rule.month,)), rule.layer_mm
                    self.quarters[at] = True
                case Rounds():
                    apart = [round(n * rule.months_apart * WEEKS_A_YEAR / 12) for n in range(rule.rounds)]
                    moved = {_next(self._opens[at], week) for week in apart}
                    self._weeks[at], self.to_mm[at] = np.array(sorted(moved - {NEVER}), dtype=int), rule.to_mm
                case Once():
                    pass
        self.full_mm = np.where(np.isnan(self.layer_mm), self.to_mm, self.layer_mm)

    def next(self, at: Indices, cursor: int, held_mm: Array) -> Indices:
        """Return the first week from `cursor` on at which each plot `at` is to be laid; NEVER where none is."""
        found = np.full(at.size, NEVER)
        for index, plot in enumerate(at):
            if self._hold_of[plot] < 0:
                found[index] = _next(self._weeks[plot], cursor)
        for number, holds in enumerate(self._holds):
            mine = np.flatnonzero(self._hold_of[at] == number)
            if mine.size:
                found[mine] = holds.next(at[mine], cursor, held_mm[at[mine]])
        return found

    def open_from(self, plot: int, week: int) -> int:
        """Return the first week from `week` on at which a plot may be laid that had to wait."""
        return _next(self._opens[plot], week)

    def amounts(
        self, at: Indices, week: int, held_mm: Array, per_mm: Array, kind: Indices, waited: NDArray[np.bool_]
    ) -> Array:
        """Return the settled depth that each plot `at` is to be given in a week.

        `held_mm` is what lies on all plots, (plots, weeks); `per_mm` what becomes of a settled millimetre laid then,
        (kinds, weeks), and `kind` which of them each plot `at` is given; `waited` says which should have been laid
        before.
        """
        settled = np.where(
            np.isnan(self.layer_mm[at]),
            np.maximum(LEAST_LAYER_MM, self.to_mm[at] - held_mm[at, week]),
            self.layer_mm[at] / np.where(self.quarters[at], QUARTERS, 1),
        )
        for number, holds in enumerate(self._holds):
            mine = np.flatnonzero(self._hold_of[at] == number)
            if mine.size:
                until = holds.lasts_until(week, waited[mine])
                then = np.maximum(until, 0)
                short, leaves = holds.least_mm[at[mine]] - held_mm[at[mine], then], per_mm[kind[mine], then]
                asked = (until > week) & (leaves > SPECK)
                lasting = np.where(asked, short / np.where(asked, leaves, 1.0), 0.0)
                settled[mine] = np.minimum(MOST_LAYER_MM, np.maximum(settled[mine], lasting))
        return settled


class _Holds:
    """Lays at the beginning of a window what would not last until the next one, and within it what falls short."""

    def __init__(self, plots: int, opens: NDArray[np.bool_]) -> None:
        self.least_mm = np.zeros(plots)
        self.open, self.until, self.window_until = _windows(opens.tobytes())

    def next(self, at: Indices, cursor: int, held_mm: Array) -> Indices:
        from_here = int(np.searchsorted(self.open, cursor))
        open_weeks, until = self.open[from_here:], self.until[from_here:]
        least = self.least_mm[at][:, None]
        low = held_mm[:, open_weeks] < least
        low |= np.where(until >= 0, held_mm[:, until], np.inf) < least
        if not open_weeks.size:
            return np.full(at.size, NEVER)
        return np.where(low.any(axis=1), open_weeks[low.argmax(axis=1)], NEVER)

    def lasts_until(self, week: int, waited: NDArray[np.bool_]) -> Indices:
        """Return until which week a layer laid now must last; −1 where that is not asked."""
        place = int(np.searchsorted(self.open, week))
        found: Indices = np.where(waited, self.window_until[place], self.until[place])
        return found


@lru_cache(maxsize=64)
def _windows(opens: bytes) -> tuple[Indices, Indices, Indices]:
    """Return the open weeks; until when a layer of each must last, -1 where that is not asked; the next window.

    A layer of a window's first week lasts until the next window; one of a later week until the week after.
    """
    open_weeks = np.flatnonzero(np.frombuffer(opens, dtype=bool))
    last = len(opens) - 1
    begins = np.diff(open_weeks, prepend=-2) > 1
    starts = open_weeks[begins]
    after = np.append(starts[1:], last)[np.cumsum(begins) - 1] if open_weeks.size else open_weeks
    until = np.where(begins, after, np.minimum(open_weeks + 1, last))
    until[~begins & ~np.isin(open_weeks + 1, open_weeks)] = -1
    return open_weeks, until, after


def _first_weeks(dates: Sequence[date], months: Sequence[int]) -> Indices:
    """Return the first week of each of these months, every year."""
    return np.array(_first_weeks_of(dates[0], len(dates), tuple(months)), dtype=int)


@lru_cache(maxsize=256)
def _first_weeks_of(first: date, weeks: int, months: tuple[int, ...]) -> tuple[int, ...]:
    begin = first.toordinal()
    dates = [date.fromordinal(begin + 7 * week) for week in range(weeks)]
    return tuple(
        week
        for week, one in enumerate(dates)
        if one.month in months and (week == 0 or dates[week - 1].month != one.month) and (week > 0 or one.day <= 7)
    )


def _next(weeks: Indices, cursor: int) -> int:
    at = int(np.searchsorted(weeks, cursor))
    return int(weeks[at]) if at < weeks.size else NEVER
