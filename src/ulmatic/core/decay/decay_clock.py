"""Decay time: how far a climate, as it was observed and as it is expected, lets things rot."""

from bisect import bisect_right
from collections.abc import Mapping, Sequence
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


def _begin(key: Key) -> date:
    return date(key[0], key[1], 1)


def _after(key: Key) -> Key:
    return (key[0] + key[1] // MONTHS, key[1] % MONTHS + 1)


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
    measured = observed or {}
    key, months = (first.year, first.month), []
    while _begin(key) <= last:
        months.append(key)
        key = _after(key)
    temperature = []
    for month_key in months:
        share, month = _share(month_key, measured), measured.get(month_key)
        normal = normals.temperatures_c[month_key[1] - 1]
        temperature.append(normal if month is None else share * month.temperature_c + (1 - share) * normal)
    # The rain of the twelve months up to the end of each, from eleven months before the first on.
    before = _year_to(months[0])[:0:-1]
    fallen = [_rain(month_key, normals, measured) for month_key in (*before, *months)]
    added = np.concatenate([[0.0], np.cumsum(fallen)])
    rain = added[MONTHS:] - added[:-MONTHS] + irrigation_mm
    rates = xi(temperature, rain / 1000)
    begins = np.array([day_number(_begin(month)) for month in [*months, key]], dtype=float)
    return DecayClock(begins, np.concatenate([[0.0], np.cumsum(rates * np.diff(begins) / YEAR_DAYS)]))


def _share(key: Key, months_seen: Mapping[Key, MonthSeen]) -> float:
    if key not in months_seen:
        return 0.0
    return min(1.0, months_seen[key].days / (_begin(_after(key)) - _begin(key)).days)


def _rain(key: Key, normals: Normals, months_seen: Mapping[Key, MonthSeen]) -> float:
    share, normal = _share(key, months_seen), normals.rain_mm[key[1] - 1]
    return normal if key not in months_seen else months_seen[key].rain_mm + (1 - share) * normal


def _year_to(key: Key) -> Sequence[Key]:
    year, month = key
    return [
        (year - (month - 1 - months_back < 0), (month - 1 - months_back) % MONTHS + 1) for months_back in range(MONTHS)
    ]
