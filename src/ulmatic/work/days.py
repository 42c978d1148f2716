"""The calendar of a site: what falls on which day, changes to tasks, people and closures; and today across sites."""

from collections.abc import Sequence
from dataclasses import replace
from datetime import date, timedelta
from uuid import UUID

from pydantic import ValidationError

from ulmatic.accounts.scope import Scope
from ulmatic.core.climate import Day
from ulmatic.core.planning.plan import plan_on
from ulmatic.core.planning.several import shared_days
from ulmatic.core.schedule import Overrides
from ulmatic.core.work.calendar import Break
from ulmatic.core.work.task_changes import MOST_CHANGES, TaskChange, TaskWish
from ulmatic.core.work.weather_warnings import warnings
from ulmatic.platform.problems import Problem, Sentences
from ulmatic.records.survey import SiteRow
from ulmatic.site.snapshot import Snapshot, snapshot_of, snapshots
from ulmatic.work.day_schemas import (
    CalendarDay,
    CalendarSheet,
    ChangesMade,
    CrewEntry,
    SiteToday,
    TaskChanges,
    TodaySheet,
)

AHEAD_DAYS = 14
"""So far ahead today's page looks."""
LONGEST_DAYS = 400


def _warned(snapshot: Snapshot) -> dict[date, tuple[str, ...]]:
    """Return what the outlook of the weather service warns of, by day; nothing is moved by it."""
    return warnings([day for day in map(Day.model_validate, snapshot.row.outlook) if day.day >= snapshot.today])


def calendar_sheet(scope: Scope, site_id: UUID, first: date, last: date) -> CalendarSheet:
    """Return what falls on the days of a span, with the room there is on each."""
    if not first <= last <= first + timedelta(days=LONGEST_DAYS):
        raise Problem(422, "The last day comes before the first, or is too far away.", field="last")
    snapshot = snapshot_of(scope, site_id)
    agenda, warned, overrides = snapshot.plan().agenda, _warned(snapshot), snapshot.site.overrides
    crew = agenda.crew
    days = [first + timedelta(days=number) for number in range((last - first).days + 1)]
    return CalendarSheet(
        today=snapshot.today,
        first=first,
        last=last,
        occasions=agenda.occasions_between(first, last),
        days=[
            CalendarDay(
                on=day,
                capacity_h=crew.capacity(day),
                hours=agenda.hours.get(day, 0.0),
                full=agenda.full(day),
                closed=crew.closed.get(day),
                warnings=list(warned.get(day, ())),
            )
            for day in days
        ],
        closures=overrides.closures,
        people=dict(overrides.people),
        crew=crew.people,
        day_hours=crew.hours,
        outlook_heard_at=snapshot.row.weather_heard_at,
    )


def today_sheet(scope: Scope) -> TodaySheet:
    """Return what falls on the coming days at each site of the workspace."""
    sites = []
    for snapshot in snapshots(scope):
        until = snapshot.today + timedelta(days=AHEAD_DAYS)
        warned = _warned(snapshot)
        sites.append(
            SiteToday(
                site_id=snapshot.row.id,
                name=snapshot.row.name,
                today=snapshot.today,
                occasions=snapshot.plan().agenda.occasions_between(snapshot.today, until),
                warnings={day: list(words) for day, words in warned.items() if day <= until},
            )
        )
    return TodaySheet(sites=sites, shared=shared_days([(site.name, site.occasions) for site in sites]))


def _said(snapshot: Snapshot, entered: Sequence[TaskWish]) -> list[TaskChange]:
    """Return changes as they hold from now on; raise the 422 problem at the field where one is wrong."""
    plan = snapshot.plan()
    earlier = {(change.season, change.key): change for change in snapshot.site.task_changes}
    changes = []
    for number, entry in enumerate(entered):
        field = f"changes.{number}"
        if entry.plot_id not in snapshot.plots_by_id:
            raise Problem(422, "This plot does not exist any more.", field=f"{field}.plot_id")
        if plan.number(entry.season) is None:
            raise Problem(422, "This season is not in the years of the plan.", field=f"{field}.season")
        if entry.on is not None and entry.on < snapshot.today:
            raise Problem(422, "This day is past. Choose today or a later one.", field=f"{field}.on")
        before = earlier.get((entry.season, entry.key))
        known = {} if before is None else before.model_dump()
        try:
            changes.append(TaskChange.model_validate({**known, **entry.model_dump(exclude_unset=True)}))
        except ValidationError as error:
            first = error.errors()[0]
            sentence = Sentences.of({**first, "loc": ("change", *first["loc"])})
            raise Problem(422, sentence.detail, field=f"{field}.{sentence.field}") from None
    return changes


def _breaks(snapshot: Snapshot, changes: tuple[TaskChange, ...], entered: Sequence[TaskChange]) -> list[Break]:
    """Return what the days break once changes hold, on the days to which tasks are put, or because of them."""
    site = replace(snapshot.site, task_changes=changes)
    plan = plan_on(site, snapshot.today, snapshot.plan().years)
    keys = {change.key for change in entered}
    breaks: list[Break] = []
    for season in dict.fromkeys(change.season for change in entered):
        number = plan.number(season)
        if number is not None:
            days = {change.on for change in entered if change.season == season}
            breaks_of_season = plan.work(number).breaks
            breaks += [
                broken
                for broken in breaks_of_season
                if (broken.task is not None and broken.task.key in keys) or (broken.task is None and broken.on in days)
            ]
    return breaks


def change_tasks(scope: Scope, site_id: UUID, entry: TaskChanges, *, keep: bool) -> ChangesMade:
    """Put tasks on another day, change their hours, leave them out, or add own ones; say what that breaks."""
    row = scope.get(SiteRow, site_id, lock=keep)
    snapshot = snapshot_of(scope, site_id)
    entered = _said(snapshot, entry.changes)
    by_key = {(change.season, change.key): change for change in (*snapshot.site.task_changes, *entered)}
    changes = tuple(change for change in by_key.values() if not change.empty)
    if len(changes) > MOST_CHANGES:
        raise Problem(409, f"A site keeps {MOST_CHANGES:,} changes of tasks at most.")
    breaks = _breaks(snapshot, changes, entered)
    warned = _warned(snapshot)
    warnings = [words for change in entered if change.on is not None for words in warned.get(change.on, ())]
    if keep:
        row.tasks = [change.model_dump(mode="json") for change in changes]
        scope.session.flush()
    words = [broken.words for broken in breaks]
    return ChangesMade(breaks=list(dict.fromkeys(words)), warnings=list(dict.fromkeys(warnings)))


def delete_own_task(scope: Scope, site_id: UUID, own_id: UUID) -> None:
    """Take a task away that was added by hand; the 404 problem where there is none."""
    row = scope.get(SiteRow, site_id, lock=True)
    left = [change for change in row.tasks if change.get("own") != str(own_id)]
    if len(left) == len(row.tasks):
        raise Problem(404, "There is no such task here.")
    row.tasks = left
    scope.session.flush()


def change_crew(scope: Scope, site_id: UUID, entry: CrewEntry) -> None:
    """Say on which days no work is done, and how many people work on a day."""
    row = scope.get(SiteRow, site_id, lock=True)
    overrides = Overrides.model_validate({**row.seasons, **entry.model_dump(exclude_unset=True)})
    row.seasons = overrides.model_dump(mode="json", exclude_none=True)
    scope.session.flush()
