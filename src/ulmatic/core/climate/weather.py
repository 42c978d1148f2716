"""Daily weather: read from CSV, and gathered into months."""

import csv
import math
from collections.abc import Iterable, Sequence
from datetime import date
from typing import Annotated

from pydantic import Field

from ulmatic.core.value import Value

MOST_DAYS = 40_000
HEADINGS = {
    "date": "day",
    "day": "day",
    "tmax": "tmax_c",
    "temp_max": "tmax_c",
    "tmin": "tmin_c",
    "temp_min": "tmin_c",
    "precipitation": "rain_mm",
    "prcp": "rain_mm",
    "rain": "rain_mm",
}
"""What columns may be called; others are left out."""


class Day(Value):
    """A day's weather."""

    day: date
    tmax_c: Annotated[float, Field(ge=-80, le=60, allow_inf_nan=False)]
    tmin_c: Annotated[float, Field(ge=-80, le=60, allow_inf_nan=False)]
    rain_mm: Annotated[float, Field(ge=0, le=1_500, allow_inf_nan=False)]

    @property
    def mean_c(self) -> float:
        """Mean of the day's highest and lowest."""
        return (self.tmax_c + self.tmin_c) / 2


class WeatherRefused(ValueError):
    """A table that cannot be read; its text is one sentence."""


def read_days(text: str) -> list[Day]:
    """Read daily weather from CSV: date, tmax, tmin and precipitation, °C and mm, in any order of columns.

    Parameters
    ----------
    text : str
        The file.

    Returns
    -------
    list of Day
        In the order of the file.

    Raises
    ------
    WeatherRefused
        With what is wrong and in which line.
    """
    lines = text.splitlines()
    if not lines:
        raise WeatherRefused("This table is empty.")
    delimiter = ";" if lines[0].count(";") > lines[0].count(",") else ","
    rows = csv.reader(lines, delimiter=delimiter)
    fields = [HEADINGS.get(cell.strip().lower(), "") for cell in next(rows)]
    missing = [name for name in ("day", "tmax_c", "tmin_c", "rain_mm") if name not in fields]
    if missing:
        raise WeatherRefused("The headings date, tmax, tmin and precipitation are needed, in °C and mm.")
    days: dict[date, Day] = {}
    for number, cells in enumerate(rows, 2):
        if not any(cell.strip() for cell in cells):
            continue
        if len(days) >= MOST_DAYS:
            raise WeatherRefused(f"More than {MOST_DAYS:,} days; split the table.")
        day = _day(dict(zip(fields, cells, strict=False)), number, decimal_comma=delimiter == ";")
        days[day.day] = day
    if not days:
        raise WeatherRefused("This table has headings but no days.")
    return [days[key] for key in sorted(days)]


def _day(cells: dict[str, str], number: int, *, decimal_comma: bool) -> Day:
    try:
        when = date.fromisoformat(cells["day"].strip()[:10].replace("/", "-"))
    except (KeyError, ValueError):
        raise WeatherRefused(f"Line {number}: type the date like 2026-03-31.") from None
    values: dict[str, float] = {}
    for name in ("tmax_c", "tmin_c", "rain_mm"):
        text = cells.get(name, "").strip()
        try:
            values[name] = float(text.replace(",", ".") if decimal_comma else text)
        except ValueError:
            raise WeatherRefused(f"Line {number}: “{text[:20]}” is not a number.") from None
    if not all(math.isfinite(number) for number in values.values()) or values["tmin_c"] > values["tmax_c"]:
        raise WeatherRefused(f"Line {number}: the lowest temperature cannot be above the highest.")
    if abs(values["tmax_c"]) > 60 or not 0 <= values["rain_mm"] <= 1_500:
        raise WeatherRefused(f"Line {number}: these are not °C and mm of one day.")
    return Day(day=when, **values)


class MonthSeen(Value):
    """A month as far as it was observed."""

    temperature_c: float
    rain_mm: float
    days: int


def by_month(days: Iterable[Day]) -> dict[tuple[int, int], MonthSeen]:
    """Return mean temperature and rain of each (year, month) that days lie in.

    Parameters
    ----------
    days : iterable of Day

    Returns
    -------
    dict of (int, int) to MonthSeen
    """
    groups: dict[tuple[int, int], list[Day]] = {}
    for day in days:
        groups.setdefault((day.day.year, day.day.month), []).append(day)
    return {
        key: MonthSeen(
            temperature_c=sum(day.mean_c for day in group) / len(group),
            rain_mm=sum(day.rain_mm for day in group),
            days=len(group),
        )
        for key, group in groups.items()
    }


def minima(days: Sequence[Day]) -> list[tuple[date, float]]:
    """Return the daily minima.

    Parameters
    ----------
    days : sequence of Day

    Returns
    -------
    list of (date, float)
        °C.
    """
    return [(day.day, day.tmin_c) for day in days]
