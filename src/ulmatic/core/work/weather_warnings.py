"""What the weather that is expected warns of on days of work: it moves nothing by itself."""

from collections.abc import Sequence
from datetime import date

from ulmatic.core.climate import Day

HOT_C, FROZEN_C, WET_MM, WET_DAYS = 28.0, -2.0, 30.0, 3
"""Heat for people and plants, hard frost, and so much rain within so many days that ground is sodden: judgements."""


def warnings(days: Sequence[Day]) -> dict[date, tuple[str, ...]]:
    """Return what each of some days warns of: heat, frozen ground, sodden ground.

    Parameters
    ----------
    days : sequence of Day
        The outlook, in order.

    Returns
    -------
    dict of date to tuple of str
        Keys of cautions by day; days without any are left out.
    """
    warned: dict[date, tuple[str, ...]] = {}
    for index, day in enumerate(days):
        words = []
        if day.tmax_c >= HOT_C:
            words.append(f"Heat: {{{day.tmax_c:.0f} degC}} expected.")
        if day.tmin_c <= FROZEN_C:
            words.append(f"Frozen ground: {{{day.tmin_c:.0f} degC}} expected at night.")
        rain_mm = sum(before.rain_mm for before in days[max(0, index - WET_DAYS + 1) : index + 1])
        if rain_mm >= WET_MM:
            words.append(f"Sodden ground: {{{rain_mm:.0f} mm}} of rain within {WET_DAYS} days.")
        if words:
            warned[day.day] = tuple(words)
    return warned
