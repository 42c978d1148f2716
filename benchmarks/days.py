"""Tasks and days for 500 plots, four people and twelve months, beside a plain greedy schedule in the same run."""

import sys
import time
from collections.abc import Iterable, Sequence
from datetime import date, timedelta
from uuid import UUID

from ulmatic.core.climate.normals import ClimateClass, GenericClimate
from ulmatic.core.money import Buying
from ulmatic.core.planning.plan import plan_on
from ulmatic.core.recipe import PlannedPlot
from ulmatic.core.site import Site, SitePlot, Terms
from ulmatic.core.survey import Rectangle, SiteConditions, Use
from ulmatic.core.units import UnitSystem
from ulmatic.core.work import Crew, Stint, Task, WorkDay
from ulmatic.core.work.task_kinds import TASKS

PLOTS, PEOPLE, DAY = 500, 4, date(2026, 11, 1)


def plain_days(plots: Sequence[Sequence[Task]], crew: Crew, first: date, closes: date) -> list[WorkDay]:
    """Return the days of work one task after the other: what waits for a delivery keeps all behind it waiting."""
    days: list[WorkDay] = []
    on, free = first, crew.capacity(first)
    for task in (task for tasks in plots for task in tasks):
        if TASKS[task.kind].lays and task.not_before is not None and task.not_before > on:
            on = task.not_before
            free = crew.capacity(on)
        left = task.usual_h
        while left > 1e-6:
            if free <= 1e-6:
                on += timedelta(days=1)
                free = crew.capacity(on)
                continue
            hours = min(left, free)
            if not days or days[-1].on != on:
                days.append(WorkDay(on, late=on > closes))
            days[-1].stints.append(Stint(task, hours / task.usual_h, hours))
            left, free = left - hours, free - hours
    return days


def lateness(days: Iterable[WorkDay], closes: date) -> float:
    """Return the person-hours that are done after a day, times the days by which they are late.

    Parameters
    ----------
    days : iterable of WorkDay
    closes : date
    """
    return sum(day.hours * max(0, (day.on - closes).days) for day in days)


def site() -> Site:
    """Return 500 beds of different sizes, a third of them under lawn."""
    uses = (Use.PERENNIALS, Use.VEGETABLES, Use.LAWN_TO_CONVERT)
    plots = []
    for number in range(PLOTS):
        use = uses[number % 3]
        shape = Rectangle(length_m=3 + number % 7, width_m=1 + number % 3 / 2)
        found = SiteConditions(cover="lawn") if use is Use.LAWN_TO_CONVERT else SiteConditions()
        planned = PlannedPlot(name=f"Bed {number}", use=use, shape=shape, wanted_mm=75, found=found)
        plots.append(SitePlot(id=UUID(int=number + 1), plot=planned, surveyed_on=DAY))
    return Site(
        name="Large",
        units=UnitSystem.METRIC,
        terms=Terms(spare=0.1, load_m3=10, barrow_m3=0.1),
        plots=tuple(plots),
        climate=GenericClimate(name=ClimateClass.COOL_MARITIME),
        buying=Buying(people=PEOPLE),
    )


def main() -> None:
    """Print both times and both latenesses; the plan itself is worked out before."""
    plan = plan_on(site(), DAY, 2)
    within = [at for at, season in enumerate(plan.seasons) if (season.opens - DAY).days <= 366]
    for at in within:
        plan.haul(at).turns()
    began = time.perf_counter()
    works = [plan.work(at) for at in within]
    ours = [work.days for work in works]
    took = time.perf_counter() - began
    jobs = [list(work.by_plot.values()) for work in works]
    began = time.perf_counter()
    plain = [
        plain_days(plots, work.crew, work.first, work.season.closes) for plots, work in zip(jobs, works, strict=True)
    ]
    beside = time.perf_counter() - began
    tasks = sum(len(own) for plots in jobs for own in plots)
    lines = [
        f"{tasks} tasks on {sum(map(len, ours))} days: tasks and schedule {took:.3f} s; plain schedule {beside:.3f} s"
    ]
    for work, own, other in zip(works, ours, plain, strict=True):
        late, plain_late = (lateness(days, work.season.closes) for days in (own, other))
        lines.append(f"{work.season.name}: late by {late:.1f} h·days, plain {plain_late:.1f}")
    sys.stdout.write("\n".join(lines) + "\n")


if __name__ == "__main__":
    main()
