"""The ground of each plot that is laid, which widens where trees grow."""

from collections.abc import Mapping
from dataclasses import dataclass, field
from datetime import date
from uuid import UUID

from ulmatic.core.parameters import Parameters
from ulmatic.core.schedule import plot_ground
from ulmatic.core.site.site import SitePlot

GROWING_YEARS = 22
"""Ground is followed as long as seasons are."""


@dataclass(frozen=True)
class LaidAreas:
    """The laid ground of a site's plots by the year.

    Attributes
    ----------
    laid_shares : mapping of plot id to share
        Of the ground, that the recipe lays: 0 to 1.
    """

    laid_shares: Mapping[UUID, float]
    parameters: Parameters
    _by_year: dict[tuple[UUID, int], float] = field(default_factory=dict, repr=False, compare=False)

    def on(self, plot: SitePlot, day: date) -> float:
        """Return the m² of a plot that are laid on a day: rings grow from the day on which they were measured.

        Parameters
        ----------
        plot : SitePlot
        day : date

        Returns
        -------
        float
        """
        key = (plot.id, max(0, (day - plot.surveyed_on).days) // 365)
        if key not in self._by_year:
            ground = plot_ground(plot.plot, self.laid_shares[plot.id], self.parameters, key[1])
            self._by_year[key] = ground.laid.value
        return self._by_year[key]

    def ahead(self, plot: SitePlot, day: date) -> tuple[float, ...]:
        """Return the m² of a plot that are laid in each year from a day on; the last goes on.

        Parameters
        ----------
        plot : SitePlot
        day : date

        Returns
        -------
        tuple of float
        """
        areas: list[float] = []
        for year in range(GROWING_YEARS):
            areas.append(self.on(plot, years_later(day, year)))
            if year and areas[-1] == areas[-2]:
                return tuple(areas[:-1])
        return tuple(areas)


def years_later(day: date, years: int) -> date:
    """Return the same day of a later year; 1 March where it has none.

    Parameters
    ----------
    day : date
    years : int

    Returns
    -------
    date

    Examples
    --------
    >>> from datetime import date
    >>> years_later(date(2024, 2, 29), 1)
    datetime.date(2025, 3, 1)
    """
    try:
        return day.replace(year=day.year + years)
    except ValueError:
        return date(day.year + years, 3, 1)
