"""Decay time: how far a climate, as it was observed and as it is expected, lets things rot."""

from bisect import bisect_right
from collections.abc import Mapping
from datetime import date

import numpy as np
from numpy.typing import ArrayLike, NDArray

from ulmatic.core.climate.normals import MONTHS, Normals
from ulmatic.core.climate.weather import MonthSeen
from ulmatic.core.decay.yasso import xi
from ulmatic.core.tables import read_parameter

Array = NDArray[np.float64]
YEAR_DAYS = 365.25
MONTH_DAYS = YEAR_DAYS / 12
EPOCH = date(1970, 1, 1)

IRRIGATION = read_parameter("decay.irrigation")
COLDEST_C, WARMEST_C = -5.0, 30.0
DRIEST_M, WETTEST_M = 0.2, 3.0
"""Beyond these the model is extrapolated."""


Key = tuple[int, int]
"""Year, and month from 1 to 12."""


def extrapolated(normals: Normals) -> str | None:
    """Say in what way a climate lies outside the model's range; None where it does not.

    Parameters
    ----------
    normals : Normals

    Returns
    -------
    str or None
    """
    if min(normals.temperatures_c) < COLDEST_C:
        return "Winters here are colder than those the model was tested with."
    if max(normals.temperatures_c) > WARMEST_C:
        return "Summers here are hotter than those the model was tested with."
    if not DRIEST_M <= sum(normals.rain_mm) / 1000 <= WETTEST_M:
        return "The rain here is outside the range the model was tested with."
    return None


def day_number(when: date) -> int:
    """Return the days since 1 January 1970.

    Parameters
    ----------
    when : date

    Returns
    -------
    int

    Examples
    --------
    >>> day_number(date(1970, 1, 31))
    30
    """
    return (when - EPOCH).days


class DecayClock:
    """∫ξ dt in years of ξ = 1, from a start on; piecewise linear between the ends of months.

    Attributes
    ----------
    days : ndarray, shape (m,)
        Days since 1970 of the beginnings of months.
    total : ndarray, shape (m,)
    """

    def __init__(self, days: Array, total: Array) -> None:
        self.days, self.total = days, total
        self._days, self._total = days.tolist(), total.tolist()

    def on(self, day: date) -> float:
        """Return the decay time on one day, as `at` gives it, without arrays.

        Returns
        -------
        float
            ξ-years since the clock's start.
        """
        number = float(day_number(day))
        month = bisect_right(self._days, number) - 1
        if not 0 <= month < len(self._days) - 1:
            return float(self.time_at(number))
        days, total = self._days, self._total
        slope = (total[month + 1] - total[month]) / (days[month + 1] - days[month])
        return float(slope * (number - days[month]) + total[month])

    def time_at(self, when: ArrayLike) -> Array:
        """Return the decay time at days since 1970; before the start and after the end it goes on at the same pace.

        Returns
        -------
        ndarray
            ξ-years since the clock's start, of the shape of `when`.
        """
        day = np.asarray(when, dtype=float)
        time: Array = np.interp(day, self.days, self.total)
        first = (self.total[1] - self.total[0]) / (self.days[1] - self.days[0])
        last = (self.total[-1] - self.total[-2]) / (self.days[-1] - self.days[-2])
        before = np.minimum(0.0, day - self.days[0]) * first
        after = np.maximum(0.0, day - self.days[-1]) * last
        return np.asarray(time + before + after)


def decay_clock(
    normals: Normals,
    first: date,
    last: date,
    observed: Mapping[Key, MonthSeen] | None = None,
    irrigation_mm: float = 0.0,
) -> DecayClock:
    """Return the decay time of a site between two dates.

    Parameters
    ----------
    normals : Normals
    first, last : date
    observed : mapping of (year, month) to MonthSeen
        Goes before the normals as far as its days reach.
    irrigation_mm : float
        Counts as rain of a year.

    Returns
    -------
    DecayClock
        A month's ξ is that of its mean temperature and of the rain of the twelve months up to its end.
    """
    begin, end = _month_number((first.year, first.month)), _month_number((last.year, last.month)) + 1
    # The rain of a month's end is that of twelve months, so it begins eleven months before.
    months = np.arange(begin - MONTHS + 1, end)
    temperature = np.array(normals.temperatures_c)[months % MONTHS]
    fallen = np.array(normals.rain_mm)[months % MONTHS]
    begins = _first_days(np.arange(begin - MONTHS + 1, end + 1))
    for key, month in (observed or {}).items():
        index = _month_number(key) - months[0]
        if 0 <= index < months.size:
            share = min(1.0, month.days / (begins[index + 1] - begins[index]))
            temperature[index] = share * month.temperature_c + (1 - share) * temperature[index]
            fallen[index] = month.rain_mm + (1 - share) * fallen[index]
    added = np.concatenate([[0.0], np.cumsum(fallen)])
    rain = added[MONTHS:] - added[:-MONTHS] + irrigation_mm
    rates = xi(temperature[MONTHS - 1 :], rain / 1000)
    begins = begins[MONTHS - 1 :]
    return DecayClock(begins, np.concatenate([[0.0], np.cumsum(rates * np.diff(begins) / YEAR_DAYS)]))


def _month_number(key: Key) -> int:
    return key[0] * MONTHS + key[1] - 1


def _first_days(months: NDArray[np.int_]) -> Array:
    """Return the days since 1 January 1970 on which months begin, by their numbers.

    Returns
    -------
    ndarray
        Of the shape of `months`.
    """
    since_epoch = months - _month_number((EPOCH.year, EPOCH.month))
    return since_epoch.astype("datetime64[M]").astype("datetime64[D]").astype(float)
