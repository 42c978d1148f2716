"""Routes for files in and out."""

from enum import StrEnum
from typing import Annotated, Any
from uuid import UUID

from fastapi import APIRouter, Body, Query, Response
from pydantic import TypeAdapter, ValidationError

from ulmatic.accounts.scope import CrewScope, ViewerScope
from ulmatic.core.survey import Use
from ulmatic.formats.archive import Archive
from ulmatic.formats.cells import TABLE_TYPES, write_csv, write_xlsx
from ulmatic.formats.tables import COLUMNS, template
from ulmatic.platform.problems import Problem
from ulmatic.site import archives, sheets
from ulmatic.survey import exchange
from ulmatic.survey.schemas import Import, SiteOut

router = APIRouter(tags=["files"])
SITE = "/workspaces/{workspace_id}/sites/{site_id}"
File = Annotated[bytes, Body(media_type="application/octet-stream")]
FileName = Annotated[str, Query(min_length=1, max_length=200)]

_COLUMNS = TypeAdapter(dict[str, str])
_TYPES = {
    **TABLE_TYPES,
    "geojson": "application/geo+json",
    "json": "application/json",
}


class Ending(StrEnum):
    """Formats a site is written in."""

    CSV = "csv"
    XLSX = "xlsx"
    GEOJSON = "geojson"
    JSON = "json"


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


@router.post(SITE + "/imports")
def import_plots(
    site_id: UUID,
    scope: CrewScope,
    content: File,
    name: FileName,
    import_id: UUID,
    use: Use = Use.PERENNIALS,
    keep: bool = False,
    columns: Annotated[str | None, Query(max_length=8_000, description="Their heading to ours, as JSON")] = None,
) -> Import:
    """Read plots from a GeoJSON, GPX, KML, CSV or XLSX file; with `keep` add them all, if nothing is wrong.

    A table with other headings is answered with its columns; then `columns` says what each stands for.
    """
    try:
        taken = None if columns is None else _COLUMNS.validate_json(columns)
    except ValidationError:
        raise Problem(422, "Say of each column what it holds.", field="columns") from None
    imported = exchange.import_plots(scope, site_id, import_id, name, content, use, keep=keep, columns=taken)
    scope.commit()
    return imported


@router.get(SITE + "/file.{ending}", response_class=Response)
def export_site(site_id: UUID, ending: Ending, scope: ViewerScope) -> Response:
    """Return the site as CSV, XLSX, GeoJSON, or as an archive in JSON."""
    if ending is Ending.JSON:
        return _attached(archives.archive(scope, site_id), "ulmatic-site", ending)
    if ending is Ending.GEOJSON:
        content = exchange.geojson(sheets.site_sheet(scope, site_id))
    else:
        content = exchange.table(scope, site_id, ending)
    return _attached(content, "ulmatic-plots", ending)


@router.post("/workspaces/{workspace_id}/archives", status_code=201)
def restore_archive(scope: CrewScope, content: File, site_id: UUID) -> SiteOut:
    """Make a new site from an archive."""
    site = archives.restore_archive(scope, site_id, content)
    scope.commit()
    return site
