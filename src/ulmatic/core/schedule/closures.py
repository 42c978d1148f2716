"""Days on which no work is done at a site: nesting birds, local rules, holidays."""

from datetime import date, timedelta
from typing import Annotated, Self

from pydantic import ConfigDict, Field, model_validator

from ulmatic.core.survey.shapes.base import wrong
from ulmatic.core.value import Value

MOST_CLOSURES, LONGEST_DAYS = 40, 366


class Closure(Value):
    """From one day until another, both included; `yearly` where it comes again each year."""

    model_config = ConfigDict(extra="forbid")
    name: Annotated[str, Field(min_length=1, max_length=80)]
    first: date
    last: date
    yearly: bool = False

    @model_validator(mode="after")
    def _in_order(self) -> Self:
        if self.last < self.first:
            raise wrong("The last day comes before the first.", "last")
        if (self.last - self.first).days >= LONGEST_DAYS:
            raise wrong("A closure lasts a year at most.", "last")
        return self

    def spans_between(self, first: date, last: date) -> list[tuple[date, date]]:
        """Return the times at which it holds that touch a span of days.

        Parameters
        ----------
        first, last : date
            Both included.

        Returns
        -------
        list of (date, date)
        """
        if not self.yearly:
            return [(self.first, self.last)] if self.first <= last and self.last >= first else []
        length = self.last - self.first
        spans = []
        for year in range(first.year - 1, last.year + 1):
            begins = _in_year(self.first, year)
            if begins <= last and begins + length >= first:
                spans.append((begins, begins + length))
        return spans


def _in_year(day: date, year: int) -> date:
    try:
        return day.replace(year=year)
    except ValueError:
        return date(year, 2, 28)


def closed_days(closures: tuple[Closure, ...], first: date, last: date) -> dict[date, str]:
    """Return the days of a span on which no work is done, each with the name of what closes it.

    Parameters
    ----------
    closures : tuple of Closure
    first, last : date
        Both included.

    Returns
    -------
    dict of date to str
    """
    closed: dict[date, str] = {}
    for closure in closures:
        for begins, ends in closure.spans_between(first, last):
            day = max(begins, first)
            while day <= min(ends, last):
                closed.setdefault(day, closure.name)
                day += timedelta(days=1)
    return closed
