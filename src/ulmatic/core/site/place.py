"""The weather of a site: its months, frost, laying windows, seasons, and the clock by which things rot."""

from dataclasses import dataclass
from datetime import date
from functools import cached_property

from ulmatic.core.climate import Day, Normals, by_month, minima
from ulmatic.core.decay import IRRIGATION, DecayClock, decay_clock
from ulmatic.core.recipe import PlannedPlot
from ulmatic.core.schedule import (
    PlaceYear,
    Season,
    Window,
    observed_normals,
    overridden,
    place_year,
    seasons_between,
    windows_of,
)
from ulmatic.core.site.site import Site

CLOCK_YEARS_BACK, CLOCK_YEARS_AHEAD = 12, 24
"""What lies there may have lain for ten years; layings ten years ahead are followed for ten more."""
YEARS_AHEAD = 23
"""How far ahead seasons are known."""


@dataclass(frozen=True)
class SitePlace:
    """What follows for a site on a day from where it lies.

    Attributes
    ----------
    site : Site
        With loads, settling and pace as its log teaches.
    """

    site: Site
    day: date

    @property
    def normals(self) -> Normals:
        """The months of the place."""
        return self.site.normals

    @property
    def climate_assumed(self) -> bool:
        """Whether no climate was named."""
        return self.site.climate is None

    @cached_property
    def _days(self) -> list[Day]:
        return [day for day in self.site.weather if day.day <= self.day]

    @cached_property
    def place_year(self) -> PlaceYear:
        """Frost dates, hardiness and the rest of the place's year, as overridden."""
        year = place_year(self.normals, minima(self._days), self.site.parameters)
        said = self.site.overrides.model_dump(include={"last_frost", "first_frost", "zone"}, exclude_none=True)
        return year.model_copy(update=said)

    @cached_property
    def windows(self) -> tuple[Window, ...]:
        """The site's windows, as overridden."""
        normals = observed_normals(self.normals, self._days)
        return overridden(windows_of(normals, self.site.parameters), dict(self.site.overrides.windows))

    @cached_property
    def seasons(self) -> list[Season]:
        """The running season and those ahead."""
        return seasons_between(self.windows, self.day, date(self.day.year + YEARS_AHEAD, 12, 31))

    def _clock(self, irrigation_mm: float) -> DecayClock:
        first = date(self.day.year - CLOCK_YEARS_BACK, 1, 1)
        last = date(self.day.year + CLOCK_YEARS_AHEAD, 12, 31)
        return decay_clock(self.normals, first, last, by_month(self._days), irrigation_mm)

    @cached_property
    def clocks(self) -> tuple[DecayClock, DecayClock]:
        """Decay time without and with irrigation; that with only where something is irrigated."""
        dry = self._clock(0.0)
        wet = any(self.irrigated(plot.plot) for plot in self.site.plots)
        return dry, self._clock(self.site.parameters.of(IRRIGATION).value) if wet else dry

    @staticmethod
    def irrigated(plot: PlannedPlot) -> bool:
        """Say whether a plot is irrigated."""
        return bool(plot.found.irrigated)
