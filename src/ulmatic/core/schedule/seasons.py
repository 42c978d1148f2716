"""Seasons: the windows in which mulch is laid, by the year of the place."""

from collections.abc import Sequence
from datetime import date, timedelta
from typing import Annotated, Literal, Self

import numpy as np
from numpy.typing import NDArray
from pydantic import ConfigDict, Field, model_validator

from ulmatic.core.climate import Normals
from ulmatic.core.parameters import Parameters
from ulmatic.core.recipe.practice import SeasonSchool as SeasonChoice
from ulmatic.core.schedule.place_year import crossing, curve_of
from ulmatic.core.survey.shapes.base import wrong
from ulmatic.core.tables import read_parameter
from ulmatic.core.value import Value

Array = NDArray[np.float64]
MILD_MEAN = read_parameter("schedule.mild")
FROZEN_MEAN = read_parameter("schedule.frozen")
WINDOW_DAYS = read_parameter("schedule.window")
WET_SHARE = read_parameter("schedule.wet")
PARAMETERS = (MILD_MEAN, FROZEN_MEAN, WINDOW_DAYS, WET_SHARE)
YEAR = 365
LEAST_COOL_DAYS = 56
"""With fewer days below the mild mean, heat or rain divides the year instead."""

WindowKey = Literal["spring", "autumn"]
"""The window before growth, heat or rain, and the one after it."""
WINDOW_KEYS: tuple[WindowKey, ...] = ("spring", "autumn")


class DayOfYear(Value):
    """A day that comes every year; 29 February is the 28th in other years."""

    model_config = ConfigDict(extra="forbid")
    month: Annotated[int, Field(ge=1, le=12)]
    day: Annotated[int, Field(ge=1, le=31)]

    @model_validator(mode="after")
    def _exists(self) -> Self:
        try:
            date(2024, self.month, self.day)
        except ValueError:
            raise wrong("This month does not have that day.", "day") from None
        return self

    def of(self, year: int) -> date:
        """Return the date in a year.

        Returns
        -------
        date
            28 February for 29 where a year has none.
        """
        if self.month == 2 and self.day == 29:
            return date(year, 3, 1) - timedelta(days=1)
        return date(year, self.month, self.day)


class WindowDates(Value):
    """When a window opens and closes, both days included."""

    model_config = ConfigDict(extra="forbid")
    opens: DayOfYear
    closes: DayOfYear


class Window(Value):
    """A window of the site's year; `name` is what it is called, such as Autumn or Before the rains."""

    key: WindowKey
    name: str
    dates: WindowDates
    overridden: bool = False

    def opened_in(self, year: int) -> tuple[date, date]:
        """Return the first and the last day of the window that opens in a year.

        Returns
        -------
        (date, date)
        """
        opens, closes = self.dates.opens.of(year), self.dates.closes.of(year)
        return opens, closes if closes >= opens else self.dates.closes.of(year + 1)


class Season(Value):
    """A window of one year.

    Attributes
    ----------
    key : str
        Unique on the site, such as ``autumn 2026``.
    opens, closes : date
        Both included.
    account_from : date
        The day after the window before it closed: what is due from then on belongs to this season.
    """

    window: WindowKey
    key: str
    name: str
    opens: date
    closes: date
    account_from: date

    def lays_on(self, today: date) -> date:
        """Return the day on which is laid: the opening, or today where it is past.

        Returns
        -------
        date
        """
        return max(today, self.opens)


def windows_of(normals: Normals, parameters: Parameters) -> tuple[Window, ...]:
    """Return the windows of a place, in the order of the calendar year.

    Autumn runs from the day on which the mean falls to 10 °C until it falls to 0 °C, spring from thaw until the mean
    rises to 10 °C, each at most eight weeks: the first after growth ends, the last before it begins. Where they
    overlap they are cut in the middle. Where fewer than eight weeks are below 10 °C, they lie before and after the
    three hottest months, or the three wettest where these bring more than 45 % of the rain.

    Parameters
    ----------
    normals : Normals
    parameters : Parameters

    Returns
    -------
    tuple of Window
    """
    curve, mild, frozen = curve_of(normals), parameters.of(MILD_MEAN).value, parameters.of(FROZEN_MEAN).value
    if int((curve < mild).sum()) < LEAST_COOL_DAYS:
        return _round_the_hard_months(normals, parameters)
    length = round(parameters.of(WINDOW_DAYS).value)
    falls, rises = (crossing(curve, mild, rising=rising) for rising in (False, True))
    freezes, thaws = (crossing(curve, frozen, rising=rising) for rising in (False, True))
    if falls is None or rises is None:
        opens = thaws or 150
        return (_window("spring", "Summer", opens, opens + length - 1),)
    autumn_closes = falls + length - 1
    if freezes is not None:
        autumn_closes = min(autumn_closes, falls + (freezes - falls) % YEAR - 1)
    spring_opens = rises - length
    if thaws is not None:
        spring_opens = max(spring_opens, rises - (rises - thaws) % YEAR)
    spring_closes = rises - 1
    cool = (rises - falls) % YEAR
    overlap = (autumn_closes - falls + 1) + (spring_closes - spring_opens + 1) - cool
    if overlap > 0:
        autumn_closes = falls + cool // 2 - 1
        spring_opens = spring_closes - (cool - cool // 2) + 1
    windows = (
        _window("spring", "Spring", spring_opens, spring_closes),
        _window("autumn", "Autumn", falls, max(falls, autumn_closes)),
    )
    return tuple(sorted(windows, key=lambda window: (window.dates.opens.month, window.dates.opens.day)))


def _round_the_hard_months(normals: Normals, parameters: Parameters) -> tuple[Window, ...]:
    """Return the windows before and after the three wettest or hottest months.

    Returns
    -------
    tuple of Window
    """
    wettest, share = _three(normals.rain_mm)
    rains = share > parameters.of(WET_SHARE).value
    first = wettest if rains else _three(normals.temperatures_c)[0]
    begin = date(2025, first + 1, 1)
    after = date(2025 + (first + 3) // 12, (first + 3) % 12 + 1, 1)
    length = round(parameters.of(WINDOW_DAYS).value)
    opens = begin.timetuple().tm_yday
    ends = (after - begin).days + opens
    what = "rains" if rains else "heat"
    windows = (
        _window("spring", f"Before the {what}", opens - length, opens - 1),
        _window("autumn", f"After the {what}", ends, ends + length - 1),
    )
    return tuple(sorted(windows, key=lambda window: (window.dates.opens.month, window.dates.opens.day)))


def _three(months: Sequence[float]) -> tuple[int, float]:
    """Return the first of the three months in a row with most (0 is January), and their share of the year.

    Returns
    -------
    (int, float)
    """
    sums = [sum(months[(month + step) % 12] for step in range(3)) for month in range(12)]
    most = max(range(12), key=lambda month: sums[month])
    total = sum(months)
    return most, sums[most] / total if total else 0.0


def _window(key: WindowKey, name: str, opens: int, closes: int) -> Window:
    """Return a window between two days of the year, counted from 1, which may lie outside it.

    Returns
    -------
    Window
    """
    dates = [date(2025, 1, 1) + timedelta(days=(day - 1) % YEAR) for day in (opens, closes)]
    first, last = (DayOfYear(month=day.month, day=day.day) for day in dates)
    return Window(key=key, name=name, dates=WindowDates(opens=first, closes=last))


def overridden(windows: Sequence[Window], dates: dict[WindowKey, WindowDates]) -> tuple[Window, ...]:
    """Return windows with the dates that were said instead.

    Parameters
    ----------
    windows : sequence of Window
    dates : dict[WindowKey, WindowDates]

    Returns
    -------
    tuple of Window
    """
    changed = [
        window.model_copy(update={"dates": dates[window.key], "overridden": True}) if window.key in dates else window
        for window in windows
    ]
    return tuple(sorted(changed, key=lambda window: (window.dates.opens.month, window.dates.opens.day)))


def seasons_between(windows: Sequence[Window], first: date, last: date) -> list[Season]:
    """Return the seasons whose accounts run on a day from `first` to `last`, in their order.

    The first of them is the season whose account is running on `first`.

    Parameters
    ----------
    windows : sequence of Window
    first, last : date

    Returns
    -------
    list of Season
    """
    opened = sorted(
        [
            (*window.opened_in(year), window.key, window)
            for year in range(first.year - 2, last.year + 2)
            for window in windows
        ],
        key=lambda row: row[:3],
    )
    seasons, before = [], None
    for opens, closes, _, window in opened:
        begin = date(first.year - 2, 1, 1) if before is None else before + timedelta(days=1)
        before = closes
        if closes >= first and begin <= last:
            seasons.append(
                Season(
                    window=window.key,
                    key=f"{window.key} {opens.year}",
                    name=f"{window.name} {opens.year}",
                    opens=opens,
                    closes=closes,
                    account_from=begin,
                )
            )
    return seasons


def windows_used(choice: SeasonChoice, windows: Sequence[Window]) -> frozenset[WindowKey]:
    """Return the windows that a practice uses; where a place has one, it is that.

    Parameters
    ----------
    choice : SeasonChoice
    windows : sequence of Window

    Returns
    -------
    frozenset of WindowKey
    """
    offered = frozenset(window.key for window in windows)
    keys: frozenset[WindowKey] = {
        SeasonChoice.AFTER_LEAF_FALL: frozenset({"autumn"}),
        SeasonChoice.BEFORE_WEEDS: frozenset({"spring"}),
        SeasonChoice.BOTH_THIN: frozenset(WINDOW_KEYS),
    }[choice]  # type: ignore[assignment]
    return keys & offered or offered
