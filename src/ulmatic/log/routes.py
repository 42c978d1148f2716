"""Routes for the log."""

from uuid import UUID

from fastapi import APIRouter

from ulmatic.accounts.scope import CrewScope, ViewerScope
from ulmatic.log import service
from ulmatic.log.schemas import LogEntryOut, NewLogEntry

router = APIRouter(tags=["log"])
LOG = "/workspaces/{workspace_id}/sites/{site_id}/log"


@router.get(LOG)
def read_log(site_id: UUID, scope: ViewerScope) -> list[LogEntryOut]:
    """Return what was seen and done on plots, the latest first; layings from piles among it."""
    return service.log_entries(scope, site_id)


@router.post(LOG, status_code=201)
def add_log_entry(site_id: UUID, entry: NewLogEntry, scope: CrewScope) -> LogEntryOut:
    """Write down what was measured, laid, dug in, removed, fed or observed."""
    written = service.add_entry(scope, site_id, entry)
    scope.commit()
    return written


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
