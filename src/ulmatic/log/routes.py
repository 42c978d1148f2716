"""Routes for the log."""

from typing import Annotated, Literal
from uuid import UUID

from fastapi import Body, Query, Request, Response

from ulmatic.accounts.scope import CrewScope, ViewerScope
from ulmatic.core.planning.lessons import LearningSheet, learning_sheet
from ulmatic.formats.cells import TABLE_TYPES
from ulmatic.log import labels, table_exchange
from ulmatic.log.kind_forms import Kinds, described_kinds
from ulmatic.platform.routing import api_router
from ulmatic.site import ledger as service
from ulmatic.site import photos
from ulmatic.site.ledger_schemas import (
    LogEntries,
    LogEntryOut,
    LogEstimate,
    LogImport,
    NewLogEntry,
    PhotoOut,
    RowReadings,
)
from ulmatic.site.snapshot import snapshot_of
from ulmatic.site.views import SiteView, WorkView

router = api_router("log")
LOG = "/workspaces/{workspace_id}/sites/{site_id}/log"
PHOTOS = "/workspaces/{workspace_id}/sites/{site_id}/photos"


@router.get("/kinds", tags=["reference"])
def list_kinds() -> Kinds:
    """Return what can be written down: kinds of entries with their fields, and kinds of tasks."""
    return described_kinds()


@router.get(LOG)
def read_log(site_id: UUID, scope: SiteView) -> list[LogEntryOut]:
    """Return what was seen and done on plots and piles, the latest first; layings from piles among it."""
    return service.log_entries(scope, site_id)


@router.post(LOG, status_code=201)
def add_log_entry(site_id: UUID, entry: NewLogEntry, scope: CrewScope) -> LogEntryOut:
    """Write down what was seen or done; the answer says what it has changed."""
    written = service.add_entry(scope, site_id, entry)
    scope.commit()
    return written


@router.post(LOG + "/rows", status_code=201)
def add_row_readings(site_id: UUID, readings: RowReadings, scope: CrewScope) -> LogEntries:
    """Write down the depths of the trees of a row, such as “1–40: 60 mm; 41–80: 45 mm”."""
    written = service.add_rows(scope, site_id, readings)
    scope.commit()
    return written


@router.get(LOG + "/{entry_id}/history")
def read_history(site_id: UUID, entry_id: UUID, scope: ViewerScope) -> list[LogEntryOut]:
    """Return what an entry has corrected, the latest first."""
    return service.entry_history(scope, site_id, entry_id)


@router.get(PHOTOS)
def list_photos(site_id: UUID, scope: ViewerScope) -> list[PhotoOut]:
    """Return the photos of a site, the latest first."""
    return photos.site_photos(scope, site_id)


@router.put(PHOTOS + "/{photo_id}", status_code=201)
def put_photo(
    site_id: UUID,
    photo_id: UUID,
    scope: CrewScope,
    content: Annotated[bytes, Body(media_type="application/octet-stream")],
    keep_location: bool = False,
) -> PhotoOut:
    """Keep a photo; sent again it is kept once. Where it was taken is kept only if that is wanted."""
    written = photos.put_photo(scope, site_id, photo_id, content, keep_location=keep_location)
    scope.commit()
    return written


@router.get("/workspaces/{workspace_id}/sites/{site_id}/labels.pdf", response_class=Response)
def read_labels(request: Request, site_id: UUID, scope: ViewerScope) -> Response:
    """Return a sheet of labels for stakes: scanned, each opens its plot in field mode."""
    content = labels.stake_labels(scope, site_id, str(request.base_url).rstrip("/"))
    headers = {"Content-Disposition": 'attachment; filename="ulmatic-labels.pdf"'}
    return Response(content, media_type="application/pdf", headers=headers)


@router.get("/workspaces/{workspace_id}/photos/{photo_id}", response_class=Response)
def read_photo(photo_id: UUID, scope: ViewerScope, small: bool = False) -> Response:
    """Return a photo as JPEG, or its thumbnail."""
    content = photos.read_photo(scope, photo_id, thumbnail=small)
    return Response(content, media_type="image/jpeg", headers={"Cache-Control": "private, max-age=86400"})


@router.get(LOG + ".{ending}", response_class=Response)
def export_log(site_id: UUID, ending: Literal["csv", "xlsx"], scope: SiteView) -> Response:
    """Return the log as a table."""
    content = table_exchange.log_table(scope, site_id, ending)
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
    imported = table_exchange.import_log(scope, site_id, name, content, keep=keep)
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


@router.get(LOG + "/learning")
def read_learning(site_id: UUID, scope: SiteView) -> LearningSheet:
    """Return what readings teach, which of them are asked about, and how earlier forecasts have come out."""
    return learning_sheet(snapshot_of(scope, site_id).state)
