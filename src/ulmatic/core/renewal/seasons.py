"""Seasons of a place: frost, leaf fall, waking soil, hardiness, and the months in which mulch is laid."""

from collections.abc import Callable, Sequence
from datetime import date, timedelta
from typing import Annotated

import numpy as np
from numpy.typing import NDArray
from pydantic import BaseModel, ConfigDict, Field

from ulmatic.core.climate.normals import MONTHS, Normals
from ulmatic.core.figures import Mark, Source, parameter
from ulmatic.core.recipe.practice import Season

Array = NDArray[np.float64]
_JUDGED = "A judgement, no published source: "
FROST_MEAN = parameter(
    "renewal.frost", "Daily mean at which nights may freeze", 8.0, "1", 6.0, 10.0, Mark.COMMON_PRACTICE,
    f"{_JUDGED}°C; clear nights are some 8 °C colder than the day’s mean. Used where no daily minima are at hand.",
)  # fmt: skip
COLDEST_BELOW = parameter(
    "renewal.coldest", "Coldest night below the coldest month’s mean", 12.0, "1", 8.0, 18.0, Mark.COMMON_PRACTICE,
    f"{_JUDGED}°C. Used where no daily minima are at hand.",
)  # fmt: skip
LEAF_FALL_MEAN = parameter(
    "renewal.leaf_fall", "Daily mean at which leaves have fallen", 7.0, "1", 5.0, 9.0, Mark.COMMON_PRACTICE,
    f"{_JUDGED}°C, falling.",
)  # fmt: skip
WAKING_MEAN = parameter(
    "renewal.waking", "Daily mean at which weeds wake", 7.0, "1", 5.0, 10.0, Mark.COMMON_PRACTICE,
    f"{_JUDGED}°C, rising; soil then warms to germination.",
)  # fmt: skip
PARAMETERS = (FROST_MEAN, COLDEST_BELOW, LEAF_FALL_MEAN, WAKING_MEAN)
HOT_C, FROZEN_C = 20.0, 0.0
"""Nothing is laid in months warmer, nor on ground frozen hard: common practice, no source."""
WINDOW_DAYS = 60
LEAST_YEARS = 1.0
MID_MONTH = np.array([15.5, 45, 74.5, 105, 135.5, 166, 196.5, 227.5, 258, 288.5, 319, 349.5])


class Seasons(BaseModel):
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
    observed : bool
        Whether frost and zone rest on daily minima.
    """

    model_config = ConfigDict(frozen=True)
    last_frost: int | None
    first_frost: int | None
    leaf_fall: int | None
    waking: int | None
    zone: str
    coldest_c: float
    observed: bool
    source: Source


class Overrides(BaseModel):
    """What the place's own seasons are overridden with: days of the year, hardiness zone, months for laying.

    `waits` says whether what is short waits for chips that come unasked (true), or is bought (false).
    """

    model_config = ConfigDict(frozen=True, extra="forbid")
    last_frost: Annotated[int, Field(ge=1, le=366)] | None = None
    first_frost: Annotated[int, Field(ge=1, le=366)] | None = None
    zone: Annotated[str, Field(pattern=r"^(1[0-3]|[1-9])[ab]$")] | None = None
    open_months: (
        Annotated[tuple[Annotated[int, Field(ge=1, le=12)], ...], Field(min_length=1, max_length=12)] | None
    ) = None
    waits: bool | None = None


def _curve(normals: Normals) -> Array:
    """Daily means of a year, interpolated between the middles of months."""
    days = np.concatenate([MID_MONTH - 365, MID_MONTH, MID_MONTH + 365])
    return np.asarray(np.interp(np.arange(1, 366), days, np.tile(normals.temperatures_c, 3)), dtype=np.float64)


def _crossing(curve: Array, level: float, *, rising: bool) -> int | None:
    """Return the day on which the curve crosses a level upwards or downwards, the last of them in its half year."""
    before, after = np.roll(curve, 1), curve
    hits = np.flatnonzero((before < level) & (after >= level) if rising else (before >= level) & (after < level))
    return int(hits[-1 if rising else 0]) + 1 if hits.size else None


def zone_of(coldest_c: float) -> str:
    """Return the USDA hardiness zone of a mean annual extreme minimum: bands of 10 °F from −60 °F, halves a and b."""
    above = (coldest_c * 1.8 + 32 + 60) / 10
    number = min(13, max(1, int(np.floor(above)) + 1))
    half = "b" if (above - np.floor(above) >= 0.5 and 0 <= above < 13) or above >= 13 else "a"
    return f"{number}{half}"


Minimum = tuple[date, float]


def seasons_of(normals: Normals, minima: Sequence[Minimum] = ()) -> Seasons:
    """Return the seasons of a place.

    Parameters
    ----------
    normals : Normals
    minima : sequence of (date, °C)
        Daily minima; frost dates and zone rest on them where they cover a year or more, else on the normals.
    """
    curve = _curve(normals)
    north = normals.temperatures_c[6] >= normals.temperatures_c[0]
    years = _years(minima)
    last = _crossing(curve, FROST_MEAN.value, rising=True)
    first = _crossing(curve, FROST_MEAN.value, rising=False)
    coldest = min(normals.temperatures_c) - COLDEST_BELOW.value
    if years and north:
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
    return Seasons(
        last_frost=last, first_frost=first, leaf_fall=_crossing(curve, LEAF_FALL_MEAN.value, rising=False),
        waking=_crossing(curve, WAKING_MEAN.value, rising=True), zone=zone_of(coldest), coldest_c=coldest,
        observed=bool(years and north),
        source=Source(mark=Mark.COMPUTED if years and north else Mark.COMMON_PRACTICE, text=text),
    )  # fmt: skip


def _years(minima: Sequence[Minimum]) -> list[list[Minimum]]:
    """Return the days of each calendar year that is nearly whole."""
    by_year: dict[int, list[Minimum]] = {}
    for day, low in minima:
        by_year.setdefault(day.year, []).append((day, low))
    return [days for days in by_year.values() if len(days) >= 350]


def _half(years: list[list[int]], pick: Callable[[list[int]], int]) -> int | None:
    found = [pick(days) for days in years if days]
    return round(float(np.median(found))) if len(found) * 2 > len(years) else None


def open_months(normals: Normals, season: Season) -> tuple[int, ...]:
    """Return the months (1 to 12) in which mulch is laid, by practice: after leaf fall, before weeds wake, or both.

    Never in the hottest months, nor while the ground is frozen. Where it is never cold, weeds never sleep: then every
    month that is not hot.
    """
    means = normals.temperatures_c
    mild = [month for month in range(1, MONTHS + 1) if FROZEN_C <= means[month - 1] < HOT_C]
    curve = _curve(normals)
    wanted: list[int] = []
    if season in (Season.AFTER_LEAF_FALL, Season.BOTH_THIN):
        wanted += _from(_crossing(curve, LEAF_FALL_MEAN.value, rising=False), WINDOW_DAYS)
    if season in (Season.BEFORE_WEEDS, Season.BOTH_THIN):
        wanted += _from(_crossing(curve, WAKING_MEAN.value, rising=True), -WINDOW_DAYS)
    kept = sorted(set(wanted) & set(mild))
    return tuple(kept or mild or range(1, MONTHS + 1))


def _from(day: int | None, length: int) -> list[int]:
    """Return the months that a stretch of days from (or up to) a day of the year touches."""
    if day is None:
        return []
    begin = date(2025, 1, 1) + timedelta(days=day - 1 + min(0, length))
    return [(begin + timedelta(days=step)).month for step in range(0, abs(length) + 1, 10)]
