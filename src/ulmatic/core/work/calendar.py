"""On which days tasks are done: plot after plot in the order of the haul, within what people can do in a day."""

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from datetime import date, timedelta
from enum import StrEnum
from uuid import UUID

from ulmatic.core.work.task_kinds import TASKS
from ulmatic.core.work.task_kinds.finishing import ADDED
from ulmatic.core.work.task_kinds.laying import CHIPS
from ulmatic.core.work.tasks import Task

SPECK_H = 1e-6
LEAST_BEGUN_H = 0.5
"""Nobody begins a plot for less at the end of a day, but where the season is short: a judgement."""
MOST_DAYS = 400
SUNDAY = 6


@dataclass(frozen=True)
class Stint:
    """What of a task is done on a day: its share, and the person-hours."""

    task: Task
    share: float
    hours: float


@dataclass
class WorkDay:
    """A day with its stints; `late` where it lies after the season's close."""

    on: date
    stints: list[Stint] = field(default_factory=list)
    late: bool = False

    @property
    def hours(self) -> float:
        """Person-hours of all stints."""
        return sum(stint.hours for stint in self.stints)


@dataclass(frozen=True)
class Crew:
    """People, the hours each works in a day, and the days on which nobody does.

    Attributes
    ----------
    closed : mapping of date to str
        Days on which no work is done, each with what closes it.
    fixed : mapping of str to date
        Tasks, by key, that were put on a day of their own: there they are done, whatever it breaks.
    people_on : mapping of date to int
        How many people there are on a day, where that was said.
    hours_taken : mapping of date to float
        Person-hours of a day that other work takes.
    """

    people: int
    hours: float
    closed: Mapping[date, str] = field(default_factory=dict)
    fixed: Mapping[str, date] = field(default_factory=dict)
    people_on: Mapping[date, int] = field(default_factory=dict)
    hours_taken: Mapping[date, float] = field(default_factory=dict)

    def capacity(self, on: date) -> float:
        """Return the person-hours of a day: none on closed days, on Sundays where people were said to come.

        Returns
        -------
        float
        """
        people = self.people_on.get(on)
        if on in self.closed or (people is None and on.weekday() == SUNDAY):
            return 0.0
        return (self.people if people is None else people) * self.hours

    def room(self, on: date) -> float:
        """Return the person-hours of a day that other work leaves.

        Returns
        -------
        float
        """
        return max(0.0, self.capacity(on) - self.hours_taken.get(on, 0.0))


def schedule_days(plots: Sequence[Sequence[Task]], crew: Crew, first: date, closes: date) -> list[WorkDay]:
    """Return the days of work, none over what the crew can do but where a task was put on a day by hand.

    Plots come in the order in which they are laid; the tasks of a plot keep theirs. What has to wait for a delivery
    lets the plots behind it go first. A plot that cannot be finished in the last minutes of a day is begun on the next,
    unless work then ends after the season.

    Parameters
    ----------
    plots : sequence of sequence of Task
        The tasks of each plot in their order.
    crew : Crew
    first : date
        The earliest day.
    closes : date
        Last day of the season; later days are late.

    Returns
    -------
    list of WorkDay
    """
    days = _scheduled(plots, crew, first, closes, LEAST_BEGUN_H)
    return _scheduled(plots, crew, first, closes, 0.0) if any(day.late for day in days) else days


def _scheduled(plots: Sequence[Sequence[Task]], crew: Crew, first: date, closes: date, least_h: float) -> list[WorkDay]:
    """Return the days of work, no plot begun for less than some hours where more of it is left then.

    Returns
    -------
    list of WorkDay
    """
    diary = _Diary(crew, closes)
    # What was put on a day has its place there before all else finds one.
    for task in (task for tasks in plots for task in tasks if task.key in crew.fixed):
        diary.do(task, max(first, crew.fixed[task.key]), task.usual_h)
    opened = first
    # Without waiting first: who waits for chips does not keep the others from working.
    for tasks in sorted(plots, key=lambda tasks: max((task.not_before or first for task in tasks), default=first)):
        on = diary.begun(opened, sum(task.usual_h for task in tasks if task.key not in crew.fixed), least_h)
        for task in tasks:
            if task.key in crew.fixed:
                on = max(on, first, crew.fixed[task.key])
                continue
            if TASKS[task.kind].lays and task.not_before is not None:
                on = max(on, task.not_before)
            on = diary.do_from(task, on)
        while diary.room(opened) <= SPECK_H and opened < first + timedelta(days=MOST_DAYS):
            opened += timedelta(days=1)
    return diary.in_order()


class _Diary:
    """Days of work as they fill, with what is left of each."""

    def __init__(self, crew: Crew, closes: date) -> None:
        self.crew, self.closes = crew, closes
        self._days: dict[date, WorkDay] = {}
        self._free: dict[date, float] = {}

    def room(self, on: date) -> float:
        """Return the person-hours that are left of a day.

        Returns
        -------
        float
        """
        return self._free.setdefault(on, self.crew.room(on))

    def begun(self, on: date, hours: float, least_h: float) -> date:
        """Return the first day from one on with room enough to begin what takes so many hours.

        Returns
        -------
        date
        """
        enough = min(least_h, hours) - SPECK_H
        coming = (on + timedelta(days=number) for number in range(MOST_DAYS))
        return next((day for day in coming if self.room(day) >= enough), on)

    def do(self, task: Task, on: date, hours: float) -> None:
        """Put so many hours of a task on a day."""
        share = 1.0 if task.usual_h <= SPECK_H else hours / task.usual_h
        self._days.setdefault(on, WorkDay(on, late=on > self.closes)).stints.append(Stint(task, share, hours))
        self._free[on] = self.room(on) - hours

    def do_from(self, task: Task, on: date) -> date:
        """Put a task on the days from one on that have room; return the last of them.

        Returns
        -------
        date
        """
        left = task.usual_h
        if left <= SPECK_H:
            self.do(task, on, 0.0)
            return on
        for _ in range(MOST_DAYS):
            hours = min(left, self.room(on))
            if hours > SPECK_H:
                self.do(task, on, hours)
                left -= hours
            if left <= SPECK_H:
                break
            on += timedelta(days=1)
        return on

    def in_order(self) -> list[WorkDay]:
        """Return the days on which something is done.

        Returns
        -------
        list of WorkDay
        """
        return [self._days[on] for on in sorted(self._days)]


class BreakKind(StrEnum):
    """What a day of work can break."""

    CAPACITY = "capacity"
    CLOSED = "closed"
    SUNDAY = "sunday"
    DELIVERY = "delivery"
    ORDER = "order"
    WAY = "way"
    LATE = "late"


@dataclass(frozen=True)
class Break:
    """What is broken on a day, in words; `task` is the one that breaks it, None where it is the day as a whole."""

    on: date
    kind: BreakKind
    words: str
    task: Task | None = None


@dataclass(frozen=True)
class Crossing:
    """Two plots of which the first is laid before the second, as the way to the first crosses the second."""

    first: UUID
    second: UUID
    words: str


def breaks_of(
    plots: Sequence[Sequence[Task]],
    days: Sequence[WorkDay],
    crew: Crew,
    closes: date,
    crossings: Sequence[Crossing] = (),
) -> list[Break]:
    """Return what a schedule breaks: too much for the day, closed days, deliveries not there, the order of the work.

    Parameters
    ----------
    plots : sequence of sequence of Task
        The tasks of each plot in their order.
    days : sequence of WorkDay
        On which they are done.
    crew : Crew
    closes : date
        Last day of the season.
    crossings : sequence of Crossing
        Ways that cross plots.

    Returns
    -------
    list of Break
    """
    breaks = [broken for day in days for broken in (*_undelivered(day), *_day_breaks(day, crew, closes))]
    breaks += [*_out_of_order(plots, days), *_crossed(days, crossings)]
    return sorted(breaks, key=lambda broken: broken.on)


def _undelivered(day: WorkDay) -> Iterator[Break]:
    """Yield what is laid on a day before its load is here.

    Yields
    ------
    Break
    """
    for stint in day.stints:
        not_before = stint.task.not_before
        if TASKS[stint.task.kind].lays and not_before is not None and day.on < not_before:
            words = f"{stint.task.words}: the load is expected on {not_before:%-d %B} only."
            yield Break(day.on, BreakKind.DELIVERY, words, stint.task)


def _day_breaks(day: WorkDay, crew: Crew, closes: date) -> Iterator[Break]:
    """Yield what a day breaks as a whole.

    Yields
    ------
    Break
    """
    if day.on in crew.closed:
        yield Break(day.on, BreakKind.CLOSED, f"No work on this day: {crew.closed[day.on]}.")
    elif crew.capacity(day.on) <= 0:
        yield Break(day.on, BreakKind.SUNDAY, "Nobody works on this day.")
    elif day.hours > crew.room(day.on) + SPECK_H:
        words = f"{day.hours:.1f} person-hours on this day; there are {crew.room(day.on):.1f}."
        yield Break(day.on, BreakKind.CAPACITY, words)
    if day.on > closes:
        yield Break(day.on, BreakKind.LATE, f"The season closes on {closes:%-d %B}.")


def _out_of_order(plots: Sequence[Sequence[Task]], days: Sequence[WorkDay]) -> Iterator[Break]:
    """Yield tasks that begin before those that come before them on their plot are done.

    Yields
    ------
    Break
    """
    first_on: dict[str, date] = {}
    last_on: dict[str, date] = {}
    for day in days:
        for stint in day.stints:
            first_on.setdefault(stint.task.key, day.on)
            last_on[stint.task.key] = day.on
    for tasks in plots:
        before: Task | None = None
        for task in tasks:
            if task.key not in first_on or task.kind == ADDED.key:
                continue
            if before is not None and first_on[task.key] < last_on[before.key]:
                words = f"{task.words} comes before “{before.words}” is done."
                yield Break(first_on[task.key], BreakKind.ORDER, words, task)
            if before is None or last_on[task.key] >= last_on[before.key]:
                before = task


def _crossed(days: Sequence[WorkDay], crossings: Sequence[Crossing]) -> list[Break]:
    """Return where a plot is laid later than one that the way to it crosses.

    Returns
    -------
    list of Break
    """
    laid: dict[UUID, tuple[date, Task]] = {}
    for day in days:
        for stint in day.stints:
            if stint.task.kind == CHIPS.key:
                laid[stint.task.plot_id] = (day.on, stint.task)
    breaks = []
    for crossing in crossings:
        if crossing.first in laid and crossing.second in laid and laid[crossing.first][0] > laid[crossing.second][0]:
            on, task = laid[crossing.first]
            breaks.append(Break(on, BreakKind.WAY, crossing.words, task))
    return breaks


def plots_of(day: WorkDay) -> list[UUID]:
    """Return the plots that are worked on in a day, in order.

    Parameters
    ----------
    day : WorkDay

    Returns
    -------
    list of UUID
    """
    return list(dict.fromkeys(stint.task.plot_id for stint in day.stints))
