"""The seasons of a site one after another, in closed form between layings."""

from collections.abc import Sequence
from dataclasses import replace
from datetime import date, timedelta

import numpy as np
from numpy.typing import NDArray

from ulmatic.core.decay import MONTH_DAYS, LayerTable, day_number
from ulmatic.core.log import QUARTERS
from ulmatic.core.schedule.due import Progress, due
from ulmatic.core.schedule.laying import SPECK_MM, Laying, ScheduledPlot, Serve
from ulmatic.core.schedule.lying import Lying
from ulmatic.core.schedule.rules import Harvest, Keep, Quarter, Rounds, Rule, Thin
from ulmatic.core.schedule.seasons import Season

Array = NDArray[np.float64]


class Succession:
    """The seasons one after another: each begins with what the one before leaves.

    Parameters
    ----------
    lying : Lying
        Is laid on as the seasons go by.
    seasons : sequence of Season
        The running one first.
    today : date
    serve : callable, optional
    """

    def __init__(self, lying: Lying, seasons: Sequence[Season], today: date, serve: Serve | None) -> None:
        self.lying, self.seasons, self.today, self.serve = lying, seasons, today, serve
        self.plots = lying.plots
        self.states = [Progress.of(plot) for plot in self.plots]
        self.layings: list[Laying] = []
        self.layers_of_laying: list[list[int]] = []
        self.humus_taken: list[tuple[int, date, float]] = []

    def plan_seasons(self, count: int) -> None:
        """Plan so many seasons."""
        for number in range(count):
            self._season(number)

    @property
    def waiting(self) -> dict[int, date]:
        """Plots that wait for chips, and since when."""
        return {number: state.waits_since for number, state in enumerate(self.states) if state.waits_since is not None}

    def _season(self, number: int) -> None:
        lying, season = self.lying, self.seasons[number]
        running = number == 0
        usual = season.lays_on(self.today) if running else season.opens
        days = [self._day(plot, season, usual) for plot in self.plots]
        nexts = [plot.following(self.seasons, number).opens for plot in self.plots]
        dates = sorted({self.today, *days, *nexts})
        column = {day: index for index, day in enumerate(dates)}
        numbers = np.array([float(day_number(day)) for day in dates])
        depths = lying.cover.depths(numbers)
        logged, logged_mm = self._logged(season, numbers) if running else (None, None)
        rows = np.array([lying.row(index, state.quarter) for index, state in enumerate(self.states)], dtype=int)
        opening = np.array([column[day] for day in days], dtype=int)
        next_opening = np.array([column[day] for day in nexts], dtype=int)
        opening_mm, next_mm = depths.chips_mm[rows, opening], depths.chips_mm[rows, next_opening]
        if logged is not None and logged_mm is not None:
            # What was laid in this season counts as it was laid, and does not make the plot less due.
            next_mm = next_mm - np.where(logged_mm[rows] > 0, logged[rows, next_opening], 0.0)
            opening_mm = opening_mm + np.where(logged_mm[rows] > 0, logged_mm[rows] - logged[rows, opening], 0.0)
        now, humus = lying.by_plot(depths.chips_mm[:, column[self.today]]), depths.humus_mm[rows, opening]
        laid = np.zeros(len(self.plots)) if logged_mm is None else logged_mm[rows]
        values_of_plots = zip(*(values.tolist() for values in (opening_mm, next_mm, now, humus, laid)), strict=True)
        layings = [
            laying
            for index, values in enumerate(values_of_plots)
            if (laying := self._wanted(index, number, season, days[index], *values)) is not None
        ]
        for laying in self._served(number, layings):
            self._lay(laying, depths.humus_mm[:, column[laying.on]] if laying.on in column else None)
        for index, plot in enumerate(self.plots):
            if isinstance(plot.rule, Rounds):
                self._rounds(index, plot, plot.rule, number, season, usual)

    def _day(self, plot: ScheduledPlot, season: Season, usual: date) -> date:
        decision = plot.decisions.get(season.key)
        return max(self.today, decision.on) if decision and decision.kind == "lay" and decision.on else usual

    def _logged(self, season: Season, numbers: Array) -> tuple[Array, Array]:
        """Return what was logged in this season's account, since the last measurement: at dates, and as it was laid.

        Returns
        -------
        (ndarray, ndarray)
        """
        cover, as_laid = LayerTable(self.lying.row_count, self.lying.clocks), np.zeros(self.lying.row_count)
        for index, plot in enumerate(self.plots):
            laid = [layer for layer in plot.stack.lying if layer.as_laid and layer.layer.on in plot.stack.laid_on]
            for layer in laid:
                if layer.layer.on < season.account_from:
                    continue
                for row, weight in self.lying.rows_of(index, layer):
                    kind = self.lying.kind_in(cover, plot, layer)
                    cover.lay(row, kind, day_number(layer.layer.on), layer.layer.loose_mm * weight)
                    as_laid[row] += layer.settled_mm * weight
        return cover.depths(numbers).chips_mm, as_laid

    def _wanted(
        self,
        index: int,
        number: int,
        season: Season,
        on: date,
        held_mm: float,
        opening_mm: float,
        today_mm: float,
        humus_mm: float,
        laid_mm: float,
    ) -> Laying | None:
        """Return what a plot wants in a season, less what was laid in it by the log.

        Returns
        -------
        Laying or None
        """
        plot, state, running = self.plots[index], self.states[index], number == 0
        decision = plot.decisions.get(season.key)
        if plot.target_mm <= 0 or (decision and decision.kind == "skip"):
            return None
        rule: Rule = plot.rule
        if isinstance(rule, Rounds):
            if state.rounds < rule.rounds:
                return None
            rule = Keep()
        forced = decision is not None and decision.kind == "lay"
        reason = due(plot, state, rule, season, opening_mm, today_mm, running=running)
        if reason is None and not forced and state.waits_since is None:
            return None
        target_mm = plot.target_in(number)
        most = target_mm - held_mm
        amount = min(rule.part * target_mm - laid_mm, most) if isinstance(rule, Thin) else most
        if amount < plot.least_layer_mm - SPECK_MM:
            return None
        words = reason or ("Decided for this season." if forced else "Waits for chips.")
        laying = self._laying(index, number, on, amount, words)
        if isinstance(rule, Quarter):
            laying = replace(laying, quarter=state.quarter)
        if isinstance(rule, Harvest):
            laying = replace(laying, humus_m3=humus_mm / 1000 * self._area(plot, on))
        return laying

    def _area(self, plot: ScheduledPlot, on: date) -> float:
        return plot.area_m2((on - self.today).days // 365)

    def _laying(self, index: int, number: int, on: date, settled_mm: float, reason: str) -> Laying:
        plot, state = self.plots[index], self.states[index]
        area = self._area(plot, on)
        # Ground that has come in since the last time has nothing on it yet.
        new, old = max(0.0, area - state.covered_m2), min(area, state.covered_m2)
        loose = (
            (old * settled_mm + new * max(settled_mm, plot.target_in(number))) / (1 - plot.settling) / 1000 / plot.rows
        )
        return Laying(
            plot=index,
            season=number,
            on=on,
            wanted_on=state.waits_since or on,
            settled_mm=settled_mm,
            loose_m3=loose,
            reason=reason,
            first=state.planned == 0,
            dug_in=state.digs_in,
        )

    def _served(self, number: int, layings: list[Laying]) -> list[Laying]:
        """Return what is laid of what is wanted; what is short waits.

        Returns
        -------
        list of Laying
            In the order of `layings`; what gets nothing is left out.
        """
        if self.serve is None or not layings:
            return layings
        parts = []
        for laying, share in zip(layings, self.serve(number, layings), strict=True):
            state, plot = self.states[laying.plot], self.plots[laying.plot]
            part = laying if share >= 1 - 1e-9 else laying.reduced_to(share)
            if part.settled_mm >= plot.least_layer_mm - SPECK_MM:
                parts.append(part)
            if share < 1 - 1e-9 and laying.settled_mm * (1 - share) >= plot.least_layer_mm - SPECK_MM:
                state.waits_since = laying.wanted_on
            else:
                state.waits_since = None
        return parts

    def _lay(self, laying: Laying, humus_mm: Array | None) -> None:
        state, plot = self.states[laying.plot], self.plots[laying.plot]
        self.layings.append(laying)
        self.layers_of_laying.append(self.lying.lay(laying))
        state.laid_on, state.planned = laying.on, state.planned + 1
        state.covered_m2, state.digs_in = self._area(plot, laying.on), False
        if laying.quarter is not None:
            state.quarter = (laying.quarter + 1) % QUARTERS
        if laying.humus_m3 > 0 and humus_mm is not None:
            row = self.lying.row(laying.plot, None)
            self.humus_taken.append((laying.plot, laying.on, float(humus_mm[row])))

    def _rounds(self, index: int, plot: ScheduledPlot, rule: Rounds, number: int, season: Season, usual: date) -> None:
        """Lay the rounds that fall into a season's account, each an interval after the one before."""
        state = self.states[index]
        decision = plot.decisions.get(season.key)
        if decision and decision.kind == "skip":
            return
        interval = timedelta(days=round(rule.months_apart * MONTH_DAYS))
        on = max(self.today, state.laid_on + interval) if state.laid_on and state.rounds else usual
        while state.rounds < rule.rounds and on <= season.closes and plot.target_mm > 0:
            row = self.lying.row(index, None)
            depth_mm = float(self.lying.cover.depths(np.array([float(day_number(on))])).chips_mm[row, 0])
            if plot.target_mm - depth_mm >= plot.least_layer_mm - SPECK_MM:
                words = f"Round {state.rounds + 1} of {rule.rounds} over grass."
                laying = self._laying(index, number, on, plot.target_mm - depth_mm, words)
                laying = replace(laying, round_number=state.rounds + 1)
                parts = self._served(number, [laying])
                if not parts:
                    return
                self._lay(parts[0], None)
                state.rounds += 1
            on += interval
