"""The weeks through which a plan is looked at: a year back, and the years ahead."""

from dataclasses import dataclass
from datetime import date, timedelta
from functools import cached_property

import numpy as np

from ulmatic.core.decay import day_number
from ulmatic.core.site.state import Array

BACK_WEEKS = 52


@dataclass(frozen=True)
class Weeks:
    """The weeks round a day.

    Attributes
    ----------
    day : date
        Of the plan.
    years : int
        Ahead.
    """

    day: date
    years: int

    @property
    def today_index(self) -> int:
        """Which of the weeks is the day of the plan."""
        return BACK_WEEKS

    @property
    def count(self) -> int:
        """How many there are."""
        return BACK_WEEKS + 52 * self.years + 1

    @property
    def first(self) -> date:
        """The first week."""
        return self.day - timedelta(weeks=BACK_WEEKS)

    @cached_property
    def days(self) -> Array:
        """All weeks, as days since 1970."""
        return np.asarray(day_number(self.first) + 7.0 * np.arange(self.count), dtype=np.float64)

    @cached_property
    def dates(self) -> list[date]:
        """All weeks."""
        return [self.first + timedelta(weeks=week) for week in range(self.count)]

    @property
    def year_ends(self) -> list[int]:
        """The last week of each year ahead."""
        return [min(self.count - 1, BACK_WEEKS + 52 * year) for year in range(1, self.years + 1)]
