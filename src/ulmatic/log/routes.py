"""Routes for the log."""

from typing import Annotated, Literal
from uuid import UUID

from fastapi import APIRouter, Body, Query, Response

from ulmatic.accounts.scope import CrewScope
from ulmatic.formats.cells import TABLE_TYPES
from ulmatic.log import exchange, service
from ulmatic.log.schemas import LogEntryOut, LogEstimate, LogImport, NewLogEntry
from ulmatic.site.views import SiteView, WorkView

router = APIRouter(tags=["log"])
LOG = "/workspaces/{workspace_id}/sites/{site_id}/log"


@router.get(LOG)
def read_log(site_id: UUID, scope: SiteView) -> list[LogEntryOut]:
    """Return what was seen and done on plots, the latest first; layings from piles among it."""
    return service.log_entries(scope, site_id)


@router.post(LOG, status_code=201)
def add_log_entry(site_id: UUID, entry: NewLogEntry, scope: CrewScope) -> LogEntryOut:
    """Write down what was measured, laid, dug in, removed, fed or observed."""
    written = service.add_entry(scope, site_id, entry)
    scope.commit()
    return written


@router.get(LOG + ".{ending}", response_class=Response)
def export_log(site_id: UUID, ending: Literal["csv", "xlsx"], scope: SiteView) -> Response:
    """Return the log as a table."""
    content = exchange.log_table(scope, site_id, ending)
    headers = {"Content-Disposition": f'attachment; filename="ulmatic-log.{ending}"'}
    return Response(content, media_type=TABLE_TYPES[ending], headers=headers)


@router.post(LOG + "/imports")
def import_log(
    site_id: UUID,
    scope: CrewScope,
    content: Annotated[bytes, Body(media_type="application/octet-stream")],
    name: Annotated[str, Query(min_length=1, max_length=200)],
    keep: bool = False,
) -> LogImport:
    """Read a log from a CSV or XLSX table; with `keep` add what is not there yet, if nothing is wrong."""
    imported = exchange.import_log(scope, site_id, name, content, keep=keep)
    scope.commit()
    return imported


@router.post(LOG + "/estimate")
def estimate_log_entry(site_id: UUID, entry: NewLogEntry, scope: WorkView) -> LogEstimate | None:
    """Say how deep mulch that is being typed lies; null where it is not told. Nothing is kept."""
    return service.estimate_entry(scope, site_id, entry)


@router.delete(LOG + "/{entry_id}", status_code=204)
def delete_log_entry(site_id: UUID, entry_id: UUID, scope: CrewScope) -> None:
    """Delete an entry; `restoration` takes it back."""
    service.delete_entry(scope, site_id, entry_id)
    scope.commit()


@router.post(LOG + "/{entry_id}/restoration", status_code=204)
def restore_log_entry(site_id: UUID, entry_id: UUID, scope: CrewScope) -> None:
    """Take back the deletion of an entry."""
    service.restore_entry(scope, site_id, entry_id)
    scope.commit()
