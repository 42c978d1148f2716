"""Routes for moving, tasks and work orders."""

from datetime import date
from typing import Annotated
from uuid import UUID

from fastapi import Query, Request, Response

from ulmatic.accounts.scope import CrewScope
from ulmatic.core.work import CARRIERS, Carrier
from ulmatic.platform.routing import api_router
from ulmatic.platform.settings import settings
from ulmatic.records.writes import SeasonKey
from ulmatic.site.ledger_schemas import LogEntries
from ulmatic.site.views import SiteView
from ulmatic.work import service
from ulmatic.work.schemas import MovingSheet, TaskReport, TaskSheet

router = api_router("work")


@router.get("/carriers", tags=["reference"])
def list_carriers() -> list[Carrier]:
    """List what carries chips, with figures and sources."""
    return list(CARRIERS.values())


@router.get("/workspaces/{workspace_id}/sites/{site_id}/moving")
def read_moving(site_id: UUID, scope: SiteView, season: SeasonKey = None) -> MovingSheet:
    """Say how a season's chips are moved, and in which order plots are laid."""
    return service.moving_sheet(scope, site_id, season)


@router.get("/workspaces/{workspace_id}/sites/{site_id}/tasks")
def read_tasks(site_id: UUID, scope: SiteView, season: SeasonKey = None) -> TaskSheet:
    """Return the tasks of a season by plot, with cautions."""
    return service.task_sheet(scope, site_id, season)


@router.post("/workspaces/{workspace_id}/sites/{site_id}/tasks", status_code=201)
def report_task(site_id: UUID, report: TaskReport, scope: CrewScope) -> LogEntries:
    """Write down that a task was done, wholly or in part, with its hours and what was laid."""
    written = service.report_task(scope, site_id, report)
    scope.commit()
    return written


@router.get("/workspaces/{workspace_id}/sites/{site_id}/work-order.pdf", response_class=Response)
def read_work_order(
    request: Request,
    site_id: UUID,
    scope: SiteView,
    on: date,
    season: SeasonKey = None,
    crew: Annotated[str | None, Query(max_length=60)] = None,
) -> Response:
    """Return the work order of a day, or that of a crew, to be printed."""
    from ulmatic.work import work_orders

    origin = settings().public_origin or str(request.base_url).rstrip("/")
    content = work_orders.work_order(scope, site_id, season, on, origin, crew)
    headers = {"Content-Disposition": f'attachment; filename="ulmatic-work-{on:%Y-%m-%d}.pdf"'}
    return Response(content, media_type="application/pdf", headers=headers)
