"""What is laid when, and how much: all plots of a site, season by season, in closed form between them."""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field, replace
from datetime import date, timedelta
from functools import cached_property
from uuid import UUID

import numpy as np
from numpy.typing import NDArray

from ulmatic.core.decay import Clock, Cover, Depths, End, Stack, day_number
from ulmatic.core.decay.cover import Falling
from ulmatic.core.log import QUARTERS
from ulmatic.core.materials import Material
from ulmatic.core.schedule.decisions import Decision
from ulmatic.core.schedule.rules import Every, Harvest, Keep, Once, Quarter, Rounds, Rule, Thin
from ulmatic.core.schedule.seasons import Season, WindowKey

Array = NDArray[np.float64]
LEAST_LAYER_MM = 15.0
"""Nobody rakes out less: common practice, no source."""
HORIZON_YEARS = 10
"""How far ahead it is said how long a layer lasts."""
SPECK_MM = 1e-6
MONTH_DAYS = 30.4375


@dataclass(frozen=True)
class ScheduledPlot:
    """A plot as it is scheduled.

    Attributes
    ----------
    target_mm, least_mm : float
        Settled.
    areas_m2 : tuple of float
        Ground laid in each year ahead, where it widens with its trees; the last goes on.
    covered_m2 : float
        Ground that what lies there was laid on, or measured on.
    windows : frozenset of WindowKey
        Which of the site's windows its practice uses.
    clock : int
        By which of the site's clocks it rots.
    digs_in : bool
        Whether the recipe digs its first layer in.
    """

    id: UUID
    target_mm: float
    least_mm: float
    material: Material
    settling: float
    areas_m2: tuple[float, ...]
    covered_m2: float
    rule: Rule
    windows: frozenset[WindowKey]
    stack: Stack
    clock: int = 0
    decisions: Mapping[str, Decision] = field(default_factory=dict)
    digs_in: bool = False

    @property
    def rows(self) -> int:
        """Stacks of its own that it has."""
        return QUARTERS if isinstance(self.rule, Quarter) else 1

    @property
    def least_layer_mm(self) -> float:
        """The thinnest layer that is laid."""
        return min(LEAST_LAYER_MM, self.target_mm)


@dataclass(frozen=True)
class Laying:
    """One planned laying.

    Attributes
    ----------
    plot : int
        Index of the plot.
    season : int
        Index of the season whose account it belongs to.
    wanted_on : date
        When it is due; earlier than `on` where it waits for chips.
    settled_mm : float
        Added.
    loose_m3 : float
        Without spare.
    humus_m3 : float
        Dug out before.
    first : bool
        Whether it is the plot's first planned one.
    """

    plot: int
    season: int
    on: date
    wanted_on: date
    settled_mm: float
    loose_m3: float
    reason: str
    quarter: int | None = None
    round_number: int | None = None
    humus_m3: float = 0.0
    dug_in: bool = False
    first: bool = False

    def given(self, share: float) -> "Laying":
        """Return the same with a share of its chips."""
        return replace(self, settled_mm=self.settled_mm * share, loose_m3=self.loose_m3 * share)


Serve = Callable[[int, Sequence[Laying]], Sequence[float]]
"""What is there for a season's layings, as shares of what they want."""


class Schedule:
    """The layings of a site's seasons.

    Parameters
    ----------
    plots : sequence of ScheduledPlot
    clocks : sequence of Clock
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
        clocks: Sequence[Clock],
        seasons: Sequence[Season],
        count: int,
        today: date,
        serve: Serve | None = None,
    ) -> None:
        self.plots, self.clocks, self.seasons, self.today = plots, clocks, seasons, today
        self.first_row = np.cumsum([0, *(plot.rows for plot in plots)])
        self.layings: list[Laying] = []
        self.waiting: dict[int, date] = {}
        self._layers: list[list[int]] = [[] for _ in range(int(self.first_row[-1]))]
        self._layers_of_laying: list[list[int]] = []
        self.humus_taken: list[tuple[int, date, float]] = []
        self.cover = self._begun()
        self._begun_layers = [list(layers) for layers in self._layers]
        _Run(self, serve).through(count)

    def _begun(self) -> Cover:
        """Return what lies on the plots already."""
        cover = Cover(int(self.first_row[-1]), self.clocks)
        for number, plot in enumerate(self.plots):
            for layer in plot.stack.lying:
                kind = cover.kind(layer.layer.material, layer.layer.settling, layer.layer.age_decay_time, plot.clock)
                rows = range(plot.rows) if layer.quarter is None or plot.rows == 1 else (layer.quarter,)
                weight = layer.weight if plot.rows == 1 else 1.0
                for row in rows:
                    self._put(
                        cover,
                        int(self.first_row[number]) + row,
                        kind,
                        layer.layer.on,
                        layer.layer.loose_mm * weight,
                        layer.measured_on,
                    )
        return cover

    def _put(self, cover: Cover, row: int, kind: int, on: date, loose_mm: float, measured: date | None = None) -> None:
        self._layers[row].append(cover.count)
        known = np.nan if measured is None else float(day_number(measured))
        cover.lay(row, kind, day_number(on), loose_mm, measured=known)

    def place(self, laying: Laying) -> None:
        """Let a laying lie on its plot from its day on."""
        self.layings.append(laying)
        plot = self.plots[laying.plot]
        row = int(self.first_row[laying.plot]) + (laying.quarter or 0 if plot.rows > 1 else 0)
        if not laying.dug_in:
            kind = self.cover.kind(plot.material, plot.settling, 0.0, plot.clock)
            self._put(self.cover, row, kind, laying.on, laying.settled_mm / (1 - plot.settling))
        self._layers_of_laying.append(list(self._layers[row]))

    def by_plot(self, rows: Array) -> Array:
        """Return values of rows (rows, …) as means of plots (plots, …)."""
        if rows.shape[0] == len(self.plots):
            return rows
        sizes = np.diff(self.first_row)
        return np.asarray(
            np.add.reduceat(rows, self.first_row[:-1], axis=0) / sizes.reshape(-1, *[1] * (rows.ndim - 1))
        )

    def depths(self, days: Array, end: End = "value") -> Depths:
        """Return what lies on each plot at dates from today on, with what is planned: (plots, dates)."""
        depths = self.cover.depths(days, end)
        return Depths(
            self.by_plot(depths.chips_mm), self.by_plot(depths.mould_mm), self.by_plot(depths.mass_kg_m2),
            self.by_plot(depths.crumb_kg_m2),
        )  # fmt: skip

    @cached_property
    def _falling(self) -> Falling:
        last = self.seasons[-1].closes.year + HORIZON_YEARS
        months = [date(year, month, 1) for year in range(self.today.year - 1, last + 1) for month in range(1, 13)]
        return Falling(self.cover, np.array([float(day_number(month)) for month in months]))

    @cached_property
    def lasts_until(self) -> list[date | None]:
        """The day on which each laying's ground falls below its least depth; None beyond ten years."""
        groups = [[(layer, 1.0) for layer in layers] for layers in self._layers_of_laying]
        least = np.array([self.plots[laying.plot].least_mm for laying in self.layings])
        days = np.array([float(day_number(laying.on)) for laying in self.layings])
        below = self._falling.below(groups, least, days)
        return [self._within(day, laying.on) for day, laying in zip(below, self.layings, strict=True)]

    @cached_property
    def below_least_from(self) -> list[date | None]:
        """The day on which each plot falls below its least depth if nothing is laid; None beyond ten years."""
        groups = [
            [
                (layer, 1.0 / plot.rows)
                for row in range(self.first_row[number], self.first_row[number + 1])
                for layer in self._begun_layers[row]
            ]
            for number, plot in enumerate(self.plots)
        ]
        least = np.array([plot.least_mm for plot in self.plots])
        below = self._falling.below(groups, least, np.full(len(groups), float(day_number(self.today))))
        return [
            None if plot.least_mm <= 0 else self._within(day, self.today)
            for day, plot in zip(below, self.plots, strict=True)
        ]

    @staticmethod
    def _within(day: float | None, first: date) -> date | None:
        if day is None:
            return None
        falls = date(1970, 1, 1) + timedelta(days=int(np.ceil(day - 1e-6)))
        return falls if falls <= first + timedelta(days=round(HORIZON_YEARS * 365.25)) else None

    def following(self, plot: ScheduledPlot, season: int) -> Season:
        """Return the season that a plot uses next after one."""
        later = self.seasons[season + 1 :]
        return next(
            (other for other in later if other.window in plot.windows), later[-1] if later else self.seasons[-1]
        )

    @cached_property
    def gaps(self) -> dict[int, tuple[date, date]]:
        """Plots on which even what is laid does not last: from when, and until which opening."""
        gaps: dict[int, tuple[date, date]] = {}
        for laying, until in zip(self.layings, self.lasts_until, strict=True):
            plot = self.plots[laying.plot]
            opens = self.following(plot, laying.season).opens
            if laying.plot not in gaps and until is not None and until < opens and not isinstance(plot.rule, Quarter):
                gaps[laying.plot] = (until, opens)
        return gaps


@dataclass
class _State:
    """What a plot has come to."""

    laid_on: date | None
    laid: int
    quarter: int
    rounds: int
    covered_m2: float
    digs_in: bool
    waits_since: date | None = None
    planned: int = 0


class _Run:
    """One pass through the seasons."""

    def __init__(self, schedule: Schedule, serve: Serve | None) -> None:
        self.schedule, self.serve = schedule, serve
        self.plots, self.today = schedule.plots, schedule.today
        self.states = [
            _State(
                laid_on=max(plot.stack.laid_on, default=None), laid=len(plot.stack.laid_on),
                quarter=0 if plot.stack.last_quarter is None else (plot.stack.last_quarter + 1) % QUARTERS,
                rounds=plot.stack.rounds, covered_m2=plot.covered_m2, digs_in=plot.digs_in and not plot.stack.dug_in,
            )
            for plot in self.plots
        ]  # fmt: skip

    def through(self, count: int) -> None:
        for number in range(count):
            self._season(number)
        self.schedule.waiting = {
            number: state.waits_since for number, state in enumerate(self.states) if state.waits_since is not None
        }

    def _season(self, number: int) -> None:
        schedule = self.schedule
        season = schedule.seasons[number]
        running = number == 0
        usual = season.lays_on(self.today) if running else season.opens
        days = [self._day(plot, season, usual) for plot in self.plots]
        nexts = [schedule.following(plot, number).opens for plot in self.plots]
        dates = sorted({self.today, *days, *nexts})
        column = {day: at for at, day in enumerate(dates)}
        numbers = np.array([float(day_number(day)) for day in dates])
        depths = schedule.cover.depths(numbers)
        logged, logged_mm = self._logged(season, numbers) if running else (None, None)
        wanted: list[Laying] = []
        for at, plot in enumerate(self.plots):
            first, last = int(schedule.first_row[at]), int(schedule.first_row[at + 1])
            on = days[at]
            row = first + (self.states[at].quarter if plot.rows > 1 else 0)
            held = float(depths.chips_mm[row, column[on]])
            then = float(depths.chips_mm[row, column[nexts[at]]])
            now = float(depths.chips_mm[first:last, column[self.today]].mean())
            if running and logged is not None and logged_mm is not None and logged_mm[row] > 0:
                # What was laid in this season counts as it was laid, and does not make the plot less due.
                then -= float(logged[row, column[nexts[at]]])
                held += float(logged_mm[row]) - float(logged[row, column[on]])
            humus = float(depths.mould_mm[row, column[on]])
            laying = self._wanted(at, number, season, on, held, then, now, humus)
            if laying is not None:
                wanted.append(laying)
        for laying in self._served(number, wanted):
            self._lay(laying, depths.mould_mm[:, column[laying.on]] if laying.on in column else None)
        for at, plot in enumerate(self.plots):
            if isinstance(plot.rule, Rounds):
                self._rounds(at, plot, plot.rule, number, season, usual)

    def _day(self, plot: ScheduledPlot, season: Season, usual: date) -> date:
        decision = plot.decisions.get(season.key)
        return max(self.today, decision.on) if decision and decision.kind == "lay" and decision.on else usual

    def _logged(self, season: Season, numbers: Array) -> tuple[Array, Array]:
        """Return what was logged in this season's account, since the last measurement: at dates, and as it was laid."""
        schedule = self.schedule
        cover, as_laid = Cover(int(schedule.first_row[-1]), schedule.clocks), np.zeros(int(schedule.first_row[-1]))
        for at, plot in enumerate(self.plots):
            for layer in plot.stack.lying:
                if (
                    not layer.as_laid
                    or layer.layer.on < season.account_from
                    or layer.layer.on not in plot.stack.laid_on
                ):
                    continue
                kind = cover.kind(layer.layer.material, layer.layer.settling, layer.layer.age_decay_time, plot.clock)
                rows = range(plot.rows) if layer.quarter is None or plot.rows == 1 else (layer.quarter,)
                weight = layer.weight if plot.rows == 1 else 1.0
                for row in rows:
                    place = int(schedule.first_row[at]) + row
                    cover.lay(place, kind, day_number(layer.layer.on), layer.layer.loose_mm * weight)
                    as_laid[place] += layer.settled_mm * weight
        return cover.depths(numbers).chips_mm, as_laid

    def _wanted(
        self, at: int, number: int, season: Season, on: date, held: float, then: float, now: float, humus: float
    ) -> Laying | None:
        """Return what a plot wants in a season."""
        plot, state, running = self.plots[at], self.states[at], number == 0
        decision = plot.decisions.get(season.key)
        if plot.target_mm <= 0 or (decision and decision.kind == "skip"):
            return None
        rule: Rule = plot.rule
        if isinstance(rule, Rounds):
            if state.rounds < rule.rounds:
                return None
            rule = Keep()
        forced = decision is not None and decision.kind == "lay"
        reason = self._due(plot, state, rule, season, then, now, running=running)
        if reason is None and not forced and state.waits_since is None:
            return None
        most = plot.target_mm - held
        amount = min(rule.part * plot.target_mm, most) if isinstance(rule, Thin) else most
        if amount < plot.least_layer_mm - SPECK_MM:
            return None
        words = reason or ("Decided for this season." if forced else "Waits for chips.")
        laying = self._laying(at, number, on, amount, words)
        if isinstance(rule, Quarter):
            laying = replace(laying, quarter=state.quarter)
        if isinstance(rule, Harvest):
            laying = replace(laying, humus_m3=humus / 1000 * self._area(plot, on))
        return laying

    def _due(
        self, plot: ScheduledPlot, state: _State, rule: Rule, season: Season, then: float, now: float, *, running: bool
    ) -> str | None:
        """Return why a plot is to be laid in a season; None where it is not."""
        windows = plot.windows
        if isinstance(rule, Every | Harvest | Quarter) and rule.window is not None:
            windows = frozenset({rule.window})
        uses = season.window in windows
        bare_or_overdue = running and now < plot.least_mm and not isinstance(rule, Quarter)
        years = season.opens.year - state.laid_on.year if state.laid_on else None
        words: str | None = None
        match rule:
            case Once():
                return "Laid once." if state.laid == 0 and state.planned == 0 and running else None
            case Quarter():
                return "A quarter of the ring, in its turn." if uses and years != 0 else None
            case Harvest() if uses and (years is None or years >= rule.years):
                words = "The humus is dug out, and the ground refilled."
            case Every() if uses and (years is None or years >= rule.years):
                words = "Its year has come."
            case Thin():
                words = "Thin, each season."
            case Keep() if uses and then < plot.least_mm and not bare_or_overdue:
                words = "Would fall below the least depth before the next season."
        if words is None and bare_or_overdue:
            words = "Bare." if now <= SPECK_MM else "Below the least depth."
        if words is None and running and plot.stack.weeds_on is not None:
            words = "Weeds are coming through."
        return words

    def _area(self, plot: ScheduledPlot, on: date) -> float:
        years = max(0, (on - self.today).days) // 365
        return plot.areas_m2[min(years, len(plot.areas_m2) - 1)]

    def _laying(self, at: int, number: int, on: date, settled_mm: float, reason: str) -> Laying:
        plot, state = self.plots[at], self.states[at]
        area = self._area(plot, on)
        # Ground that has come in since the last time has nothing on it yet.
        new, old = max(0.0, area - state.covered_m2), min(area, state.covered_m2)
        loose = (old * settled_mm + new * max(settled_mm, plot.target_mm)) / (1 - plot.settling) / 1000 / plot.rows
        return Laying(
            plot=at, season=number, on=on, wanted_on=state.waits_since or on, settled_mm=settled_mm, loose_m3=loose,
            reason=reason, first=state.planned == 0, dug_in=state.digs_in,
        )  # fmt: skip

    def _served(self, number: int, wanted: list[Laying]) -> list[Laying]:
        """Return what is laid of what is wanted; what is short waits."""
        if self.serve is None or not wanted:
            return wanted
        served = []
        for laying, share in zip(wanted, self.serve(number, wanted), strict=True):
            state, plot = self.states[laying.plot], self.plots[laying.plot]
            given = laying if share >= 1 - 1e-9 else laying.given(share)
            if given.settled_mm >= plot.least_layer_mm - SPECK_MM:
                served.append(given)
            if share < 1 - 1e-9 and laying.settled_mm * (1 - share) >= plot.least_layer_mm - SPECK_MM:
                state.waits_since = laying.wanted_on
            else:
                state.waits_since = None
        return served

    def _lay(self, laying: Laying, mould_mm: Array | None) -> None:
        state, plot = self.states[laying.plot], self.plots[laying.plot]
        self.schedule.place(laying)
        state.laid_on, state.planned = laying.on, state.planned + 1
        state.covered_m2, state.digs_in = self._area(plot, laying.on), False
        if laying.quarter is not None:
            state.quarter = (laying.quarter + 1) % QUARTERS
        if laying.humus_m3 > 0 and mould_mm is not None:
            row = int(self.schedule.first_row[laying.plot])
            self.schedule.humus_taken.append((laying.plot, laying.on, float(mould_mm[row])))

    def _rounds(self, at: int, plot: ScheduledPlot, rule: Rounds, number: int, season: Season, usual: date) -> None:
        """Lay the rounds that fall into a season's account, each an interval after the one before."""
        state = self.states[at]
        decision = plot.decisions.get(season.key)
        if decision and decision.kind == "skip":
            return
        apart = timedelta(days=round(rule.months_apart * MONTH_DAYS))
        on = max(self.today, state.laid_on + apart) if state.laid_on and state.rounds else usual
        while state.rounds < rule.rounds and on <= season.closes and plot.target_mm > 0:
            row = int(self.schedule.first_row[at])
            held = float(self.schedule.cover.depths(np.array([float(day_number(on))])).chips_mm[row, 0])
            if plot.target_mm - held >= plot.least_layer_mm - SPECK_MM:
                words = f"Round {state.rounds + 1} of {rule.rounds} over grass."
                laying = self._laying(at, number, on, plot.target_mm - held, words)
                laying = replace(laying, round_number=state.rounds + 1)
                served = self._served(number, [laying])
                if not served:
                    return
                self._lay(served[0], None)
                state.rounds += 1
            on += apart
