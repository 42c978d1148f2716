"""What is laid when, and how much: all plots of a site, season by season."""

from collections.abc import Sequence
from datetime import date, timedelta
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from ulmatic.core.decay import DecayClock, Depths, End, day_number
from ulmatic.core.decay.layer_table import Falling, arrays
from ulmatic.core.schedule.laying import ScheduledPlot, Serve
from ulmatic.core.schedule.lying import Lying
from ulmatic.core.schedule.rules import Quarter
from ulmatic.core.schedule.seasons import Season
from ulmatic.core.schedule.succession import Succession

Array = NDArray[np.float64]
HORIZON_YEARS = 10
"""How far ahead it is said how long a layer lasts."""


class Schedule:
    """The layings of a site's seasons.

    Parameters
    ----------
    plots : sequence of ScheduledPlot
    clocks : sequence of DecayClock
    seasons : sequence of Season
        The running one first, and more than are planned: each looks to the plot's following one.
    count : int
        How many are planned.
    today : date
    serve : callable, optional
        What is there; without it chips are there when they are wanted.
    """

    def __init__(
        self,
        plots: Sequence[ScheduledPlot],
        clocks: Sequence[DecayClock],
        seasons: Sequence[Season],
        count: int,
        today: date,
        serve: Serve | None = None,
    ) -> None:
        self.plots, self.clocks, self.seasons, self.today = plots, clocks, seasons, today
        self.lying = Lying(plots, clocks)
        self._begun_layers = [list(layers) for layers in self.lying.layers]
        succession = Succession(self.lying, seasons, today, serve)
        succession.plan_seasons(count)
        self.layings, self.waiting = succession.layings, succession.waiting
        self.humus_taken = succession.humus_taken
        self._layers_of_laying = succession.layers_of_laying

    def depths(self, days: Array, end: End = "value") -> Depths:
        """Return what lies on each plot at dates from today on, with what is planned: (plots, dates).

        Returns
        -------
        Depths
            Settled mm and kg/m².
        """
        depths = self.lying.cover.depths(days, end)
        return Depths(*(self.lying.by_plot(rows) for rows in arrays(depths)))

    @cached_property
    def _falling(self) -> Falling:
        last = self.seasons[-1].closes.year + HORIZON_YEARS
        months = [date(year, month, 1) for year in range(self.today.year - 1, last + 1) for month in range(1, 13)]
        return Falling(self.lying.cover, np.array([float(day_number(month)) for month in months]))

    @cached_property
    def lasts_until(self) -> list[date | None]:
        """The day on which each laying's ground falls below its least depth; None beyond ten years."""
        groups = [[(layer, 1.0) for layer in layers] for layers in self._layers_of_laying]
        least = np.array([self.plots[laying.plot].least_mm for laying in self.layings])
        days = np.array([float(day_number(laying.on)) for laying in self.layings])
        days_below = self._falling.days_below(groups, least, days)
        return [self._within(day, laying.on) for day, laying in zip(days_below, self.layings, strict=True)]

    @cached_property
    def below_least_from(self) -> list[date | None]:
        """The day on which each plot falls below its least depth if nothing is laid; None beyond ten years."""
        groups = [
            [
                (layer, 1.0 / plot.rows)
                for row in range(self.lying.first_row[number], self.lying.first_row[number + 1])
                for layer in self._begun_layers[row]
            ]
            for number, plot in enumerate(self.plots)
        ]
        least = np.array([plot.least_mm for plot in self.plots])
        days_below = self._falling.days_below(groups, least, np.full(len(groups), float(day_number(self.today))))
        return [
            None if plot.least_mm <= 0 else self._within(day, self.today)
            for day, plot in zip(days_below, self.plots, strict=True)
        ]

    @staticmethod
    def _within(day: float | None, first: date) -> date | None:
        if day is None:
            return None
        falls = date(1970, 1, 1) + timedelta(days=int(np.ceil(day - 1e-6)))
        return falls if falls <= first + timedelta(days=round(HORIZON_YEARS * 365.25)) else None

    @cached_property
    def gaps(self) -> dict[int, tuple[date, date]]:
        """Plots on which even what is laid does not last: from when, and until which opening."""
        gaps: dict[int, tuple[date, date]] = {}
        for laying, until in zip(self.layings, self.lasts_until, strict=True):
            plot = self.plots[laying.plot]
            opens = plot.following(self.seasons, laying.season).opens
            if laying.plot not in gaps and until is not None and until < opens and not isinstance(plot.rule, Quarter):
                gaps[laying.plot] = (until, opens)
        return gaps
