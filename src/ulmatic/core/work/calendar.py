"""On which days tasks are done: plot after plot in the order of the haul, within what people can do in a day."""

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from datetime import date, timedelta
from uuid import UUID

from ulmatic.core.work.tasks import LAYING, Task

SPECK_H = 1e-6
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

    `fixed` names tasks, by key, that were put on a day of their own.
    """

    people: int
    hours: float
    closed: frozenset[date] = frozenset()
    sundays: bool = False
    fixed: Mapping[str, date] = field(default_factory=dict)

    @property
    def capacity(self) -> float:
        """Person-hours in a day."""
        return self.people * self.hours

    def works(self, on: date) -> bool:
        """Say whether work is done on a day."""
        return on not in self.closed and (self.sundays or on.weekday() != SUNDAY)


def schedule_days(plots: Sequence[Sequence[Task]], crew: Crew, first: date, closes: date) -> list[WorkDay]:
    """Return the days of work, none over what the crew can do but where a task was put on a day by hand.

    Plots come in the order in which they are laid; the tasks of a plot keep theirs. What has to wait for a delivery
    lets the plots behind it go first.

    Parameters
    ----------
    plots : sequence of sequence of Task
        The tasks of each plot in their order.
    crew : Crew
    first : date
        The earliest day.
    closes : date
        Last day of the season; later days are late.
    """
    days: dict[date, WorkDay] = {}
    free: dict[date, float] = {}

    def day_of(on: date) -> WorkDay:
        return days.setdefault(on, WorkDay(on, late=on > closes))

    def room(on: date) -> float:
        return free.setdefault(on, crew.capacity if crew.works(on) else 0.0)

    opened = first
    # Without waiting first: who waits for chips does not keep the others from working.
    for tasks in sorted(plots, key=lambda tasks: max((task.not_before or "" for task in tasks), default="")):
        on = opened
        for task in tasks:
            needed = task.hours.value
            if task.key in crew.fixed:
                fixed = max(first, crew.fixed[task.key])
                day_of(fixed).stints.append(Stint(task, 1.0, needed))
                free[fixed] = room(fixed) - needed
                on = max(on, fixed)
                continue
            if task.kind in LAYING and task.not_before is not None:
                on = max(on, date.fromisoformat(task.not_before))
            left = needed
            for _ in range(MOST_DAYS):
                hours = min(left, room(on))
                if hours > SPECK_H or needed <= SPECK_H:
                    day_of(on).stints.append(Stint(task, 1.0 if needed <= SPECK_H else hours / needed, hours))
                    free[on] = room(on) - hours
                    left -= hours
                if left <= SPECK_H:
                    break
                on += timedelta(days=1)
        while room(opened) <= SPECK_H and opened < first + timedelta(days=MOST_DAYS):
            opened += timedelta(days=1)
    return [days[on] for on in sorted(days)]


def lateness(days: Iterable[WorkDay], closes: date) -> float:
    """Return the person-hours that are done after a day, times the days by which they are late.

    Parameters
    ----------
    days : iterable of WorkDay
    closes : date
    """
    return sum(day.hours * max(0, (day.on - closes).days) for day in days)


def plots_of(day: WorkDay) -> list[UUID]:
    """Return the plots that are worked on in a day, in order.

    Parameters
    ----------
    day : WorkDay
    """
    return list(dict.fromkeys(stint.task.plot_id for stint in day.stints))
