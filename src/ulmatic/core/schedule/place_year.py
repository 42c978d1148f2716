"""The year of a place: frost, leaf fall, waking soil, hardiness."""

from collections.abc import Callable, Sequence
from datetime import date

import numpy as np
from numpy.typing import NDArray

from ulmatic.core.climate import Day, Normals
from ulmatic.core.figures import Mark, Source
from ulmatic.core.parameters import Parameters
from ulmatic.core.tables import read_parameter
from ulmatic.core.value import Value

Array = NDArray[np.float64]
FROST_MEAN = read_parameter("schedule.frost")
COLDEST_BELOW = read_parameter("schedule.coldest")
LEAF_FALL_MEAN = read_parameter("schedule.leaf_fall")
WAKING_MEAN = read_parameter("schedule.waking")
FROST_SPREAD = read_parameter("schedule.frost_spread")
PARAMETERS = (FROST_MEAN, COLDEST_BELOW, LEAF_FALL_MEAN, WAKING_MEAN, FROST_SPREAD)
WHOLE_YEAR_DAYS = 350
LEAST_SPREAD_DAYS = 3.0
YEARS_FOR_SPREAD = 5
MID_MONTH = np.array([15.5, 45, 74.5, 105, 135.5, 166, 196.5, 227.5, 258, 288.5, 319, 349.5])


class PlaceYear(Value):
    """Days of the year (1 to 366) at a place; None where they never come.

    Attributes
    ----------
    last_frost, first_frost : int or None
        By which half the years have had their last frost of spring, and their first of autumn.
    leaf_fall, waking : int or None
        When leaves have fallen, and when weeds wake.
    zone : str
        USDA hardiness zone, such as ``8b``.
    coldest_c : float
        Mean of the years' coldest nights.
    frost_spread_days : float
        Standard deviation of the first frost from year to year.
    observed : bool
        Whether frost and zone rest on daily minima.
    """

    last_frost: int | None
    first_frost: int | None
    leaf_fall: int | None
    waking: int | None
    zone: str
    coldest_c: float
    frost_spread_days: float
    observed: bool
    source: Source


def curve_of(normals: Normals) -> Array:
    """Daily means of a year, interpolated between the middles of months.

    Parameters
    ----------
    normals : Normals

    Returns
    -------
    ndarray
        °C, by day of the year.
    """
    days = np.concatenate([MID_MONTH - 365, MID_MONTH, MID_MONTH + 365])
    return np.asarray(np.interp(np.arange(1, 366), days, np.tile(normals.temperatures_c, 3)), dtype=np.float64)


def crossing(curve: Array, level: float, *, rising: bool) -> int | None:
    """Return the day on which the curve crosses a level upwards or downwards, the last of them in its half year.

    Parameters
    ----------
    curve : ndarray
        °C by day of the year, shape (365,).
    level : float
        °C.
    rising : bool

    Returns
    -------
    int or None
        Days from 1 January; None where it never does.
    """
    before, after = np.roll(curve, 1), curve
    hits = np.flatnonzero((before < level) & (after >= level) if rising else (before >= level) & (after < level))
    return int(hits[-1 if rising else 0]) + 1 if hits.size else None


def zone_of(coldest_c: float) -> str:
    """Return the USDA hardiness zone of a mean annual extreme minimum: bands of 10 °F from −60 °F, halves a and b.

    Parameters
    ----------
    coldest_c : float
        °C.

    Returns
    -------
    str

    References
    ----------
    Plant hardiness zones of the US Department of Agriculture; from memory.

    Examples
    --------
    >>> zone_of(-12.0)
    '8a'
    """
    steps = (coldest_c * 1.8 + 32 + 60) / 10
    number = min(13, max(1, int(np.floor(steps)) + 1))
    half = "b" if (steps - np.floor(steps) >= 0.5 and 0 <= steps < 13) or steps >= 13 else "a"
    return f"{number}{half}"


Minimum = tuple[date, float]


def place_year(normals: Normals, minima: Sequence[Minimum], parameters: Parameters) -> PlaceYear:
    """Return the year of a place.

    Parameters
    ----------
    normals : Normals
    minima : sequence of (date, °C)
        Daily minima; frost dates and zone rest on them where they cover a year or more, else on the normals.
    parameters : Parameters

    Returns
    -------
    PlaceYear
    """
    curve = curve_of(normals)
    north = normals.temperatures_c[6] >= normals.temperatures_c[0]
    years = _years(minima)
    last = crossing(curve, parameters.of(FROST_MEAN).value, rising=True)
    first = crossing(curve, parameters.of(FROST_MEAN).value, rising=False)
    coldest = min(normals.temperatures_c) - parameters.of(COLDEST_BELOW).value
    spread = parameters.of(FROST_SPREAD).value
    if years and north:
        firsts = _first_frosts(years)
        if len(firsts) >= YEARS_FOR_SPREAD:
            spread = max(LEAST_SPREAD_DAYS, float(np.std(firsts, ddof=1)))
        coldest = sum(min(low for _, low in days) for days in years) / len(years)
        last = _half(
            [[day.timetuple().tm_yday for day, low in days if low < 0 and day.month <= 7] for days in years], max
        )
        first = _half(
            [[day.timetuple().tm_yday for day, low in days if low < 0 and day.month > 7] for days in years], min
        )
    text = (
        "From daily minima." if years and north else "From monthly means, by rules of thumb; daily weather is better."
    )
    falls, wakes = parameters.of(LEAF_FALL_MEAN).value, parameters.of(WAKING_MEAN).value
    return PlaceYear(
        last_frost=last,
        first_frost=first,
        leaf_fall=crossing(curve, falls, rising=False),
        waking=crossing(curve, wakes, rising=True),
        zone=zone_of(coldest),
        coldest_c=coldest,
        frost_spread_days=spread,
        observed=bool(years and north),
        source=Source(mark=Mark.COMPUTED if years and north else Mark.COMMON_PRACTICE, text=text),
    )


def _first_frosts(years: list[list[Minimum]]) -> list[int]:
    autumns = [[day.timetuple().tm_yday for day, low in days if low < 0 and day.month > 7] for days in years]
    return [min(days) for days in autumns if days]


def _years(minima: Sequence[Minimum]) -> list[list[Minimum]]:
    """Return the days of each calendar year that is nearly whole.

    Returns
    -------
    list of list of Minimum
    """
    by_year: dict[int, list[Minimum]] = {}
    for day, low in minima:
        by_year.setdefault(day.year, []).append((day, low))
    return [days for days in by_year.values() if len(days) >= WHOLE_YEAR_DAYS]


def _half(years: list[list[int]], pick: Callable[[list[int]], int]) -> int | None:
    halves = [pick(days) for days in years if days]
    return round(float(np.median(halves))) if len(halves) * 2 > len(years) else None


def observed_normals(normals: Normals, days: Sequence[Day]) -> Normals:
    """Return the months of a place by its whole observed calendar years; the normals where there is none.

    So a season does not move with each day that is observed, but once a year.

    Parameters
    ----------
    normals : Normals
    days : sequence of Day

    Returns
    -------
    Normals
    """
    by_year: dict[int, list[Day]] = {}
    for day in days:
        by_year.setdefault(day.day.year, []).append(day)
    full_years = [day for year in by_year.values() if len(year) >= WHOLE_YEAR_DAYS for day in year]
    if not full_years:
        return normals
    years = len({day.day.year for day in full_years})
    means, rain = [], []
    for month in range(1, 13):
        month_days = [day for day in full_years if day.day.month == month]
        means.append(sum(day.mean_c for day in month_days) / len(month_days))
        rain.append(sum(day.rain_mm for day in month_days) / years)
    return Normals(temperatures_c=tuple(means), rain_mm=tuple(rain))
