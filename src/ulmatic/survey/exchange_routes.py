"""Routes for files in and out."""

from enum import StrEnum
from typing import Annotated, Any
from uuid import UUID

from fastapi import Body, Depends, Query, Request, Response
from fastapi.responses import StreamingResponse
from pydantic import TypeAdapter, ValidationError

from ulmatic.accounts.scope import CrewScope, OwnerScope
from ulmatic.core.survey import Use
from ulmatic.errands import service as errands
from ulmatic.errands.schemas import ErrandOut, errand_out
from ulmatic.formats.archive import Archive
from ulmatic.formats.cells import TABLE_TYPES, write_csv, write_xlsx
from ulmatic.formats.tables import COLUMNS, template
from ulmatic.platform.gate import working
from ulmatic.platform.problems import Problem
from ulmatic.platform.routing import api_router
from ulmatic.records.survey import SiteRow
from ulmatic.site import archives, export
from ulmatic.site.views import SiteView
from ulmatic.survey import exchange, sheets

router = api_router("files")
SITE = "/workspaces/{workspace_id}/sites/{site_id}"
File = Annotated[bytes, Body(media_type="application/octet-stream")]
FileName = Annotated[str, Query(min_length=1, max_length=200, pattern=r"^[^\x00]+$")]

_COLUMNS = TypeAdapter(dict[str, str])
_TYPES = {
    **TABLE_TYPES,
    "geojson": "application/geo+json",
    "json": "application/json",
    "zip": "application/zip",
}


class Ending(StrEnum):
    """Formats a site is written in."""

    CSV = "csv"
    XLSX = "xlsx"
    GEOJSON = "geojson"
    JSON = "json"
    ZIP = "zip"


class TableEnding(StrEnum):
    """Formats of the template."""

    CSV = "csv"
    XLSX = "xlsx"


def _attached(content: bytes, name: str, ending: str) -> Response:
    headers = {"Content-Disposition": f'attachment; filename="{name}.{ending}"'}
    return Response(content, media_type=_TYPES[ending], headers=headers)


@router.get("/plot-template.{ending}", response_class=Response)
def plot_template(ending: TableEnding) -> Response:
    """Return a table to fill in, with examples."""
    rows = template()
    columns = list(COLUMNS)
    content = write_csv(rows, columns) if ending is TableEnding.CSV else write_xlsx(rows, columns, "Plots")
    return _attached(content, "ulmatic-plots", ending)


@router.get("/site-archive.schema.json")
def site_archive_schema() -> dict[str, Any]:
    """Return the JSON Schema of site archives."""
    return Archive.model_json_schema()


@router.post(SITE + "/imports", status_code=202)
def import_plots(
    site_id: UUID,
    scope: CrewScope,
    request: Request,
    content: File,
    name: FileName,
    import_id: UUID,
    use: Use = Use.PERENNIALS,
    keep: bool = False,
    columns: Annotated[str | None, Query(max_length=8_000, description="Their heading to ours, as JSON")] = None,
) -> ErrandOut:
    """Have plots read from a GeoJSON, GPX, KML, CSV or XLSX file; with `keep` all are added, if nothing is wrong.

    What comes of it is an `Import`. A table with other headings gives its columns; then `columns` says what each
    stands for.
    """
    scope.get(SiteRow, site_id)
    try:
        contents = None if columns is None else _COLUMNS.validate_json(columns)
    except ValidationError:
        contents = {"\0": ""}
    if contents is not None and any("\0" in text for column in contents.items() for text in column):
        raise Problem(422, "Choose what each column contains.", field="columns")
    subject = {
        "site_id": str(site_id),
        "import_id": str(import_id),
        "name": name,
        "use": use.value,
        "keep": keep,
        "columns": contents,
    }
    return errand_out(errands.ask(scope, request, "import_plots", subject, content))


@router.get(SITE + "/file.{ending}", response_class=Response)
def export_site(site_id: UUID, ending: Ending, scope: SiteView) -> Response:
    """Return the site as CSV, XLSX, GeoJSON, as an archive in JSON, or as one with its photos in a ZIP."""
    if ending is Ending.JSON:
        return _attached(archives.archive(scope, site_id), "ulmatic-site", ending)
    if ending is Ending.ZIP:
        return _attached(archives.archive_with_photos(scope, site_id), "ulmatic-site", ending)
    if ending is Ending.GEOJSON:
        content = exchange.geojson(sheets.site_sheet(scope, site_id))
    else:
        content = exchange.table(scope, site_id, ending)
    return _attached(content, "ulmatic-plots", ending)


@router.post("/workspaces/{workspace_id}/archives", status_code=202)
def restore_archive(scope: CrewScope, request: Request, content: File, site_id: UUID) -> ErrandOut:
    """Have a new site made from an archive; what comes of it is the site."""
    return errand_out(errands.ask(scope, request, "restore_archive", {"site_id": str(site_id)}, content))


@router.get("/workspaces/{workspace_id}/export.zip", response_class=StreamingResponse, dependencies=[Depends(working)])
def export_workspace(scope: OwnerScope) -> StreamingResponse:
    """Return everything in the workspace as a ZIP."""
    headers = {"Content-Disposition": 'attachment; filename="ulmatic-workspace.zip"'}
    return StreamingResponse(export.workspace_file(scope), media_type="application/zip", headers=headers)
