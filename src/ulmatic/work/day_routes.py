"""Routes for the calendar, changes to tasks, today across sites, and ways to move chips."""

from datetime import date
from typing import Annotated
from uuid import UUID

from fastapi import Query

from ulmatic.accounts.scope import CrewScope, ViewerScope
from ulmatic.core.planning.machines import MachineSheet
from ulmatic.platform.routing import api_router
from ulmatic.records.writes import SeasonKey
from ulmatic.site.views import SiteView
from ulmatic.work import days, service
from ulmatic.work.day_schemas import CalendarSheet, ChangesMade, CrewEntry, TaskChanges, TodaySheet

router = api_router("work")
SITE = "/workspaces/{workspace_id}/sites/{site_id}"


@router.get(SITE + "/calendar")
def read_calendar_days(site_id: UUID, scope: SiteView, first: date, last: date) -> CalendarSheet:
    """Return what falls on the days of a span, with the room there is on each."""
    return days.calendar_sheet(scope, site_id, first, last)


@router.get("/workspaces/{workspace_id}/today")
def read_today(scope: ViewerScope) -> TodaySheet:
    """Return what falls on the coming days at each site of the workspace."""
    return days.today_sheet(scope)


@router.put(SITE + "/task-changes")
def change_tasks(site_id: UUID, entry: TaskChanges, scope: CrewScope) -> ChangesMade:
    """Put tasks on another day, change their hours, leave them out, or add own ones; say what that breaks."""
    changes = days.change_tasks(scope, site_id, entry, keep=True)
    scope.commit()
    return changes


@router.post(SITE + "/task-changes/trial")
def try_changes(site_id: UUID, entry: TaskChanges, scope: CrewScope) -> ChangesMade:
    """Say what changes would break; nothing is kept."""
    return days.change_tasks(scope, site_id, entry, keep=False)


@router.delete(SITE + "/task-changes/{own_id}", status_code=204)
def delete_own_task(site_id: UUID, own_id: UUID, scope: CrewScope) -> None:
    """Take a task away that was added by hand."""
    days.delete_own_task(scope, site_id, own_id)
    scope.commit()


@router.put(SITE + "/crew", status_code=204)
def change_crew(site_id: UUID, entry: CrewEntry, scope: CrewScope) -> None:
    """Say on which days no work is done, and how many people work on a day."""
    days.change_crew(scope, site_id, entry)
    scope.commit()


@router.get(SITE + "/machines")
def read_machines(
    site_id: UUID,
    scope: SiteView,
    season: SeasonKey = None,
    years: Annotated[int, Query(ge=1, le=10)] = 5,
) -> MachineSheet:
    """Set ways to move a season's chips side by side: by barrow, cart, loader and blower."""
    return service.machine_sheet(scope, site_id, season, years)
