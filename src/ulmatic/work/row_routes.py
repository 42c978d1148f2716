"""Routes for opened rows and crops."""

from datetime import date
from typing import Annotated
from uuid import UUID

from fastapi import Query

from ulmatic.accounts.scope import CrewScope, ViewerScope
from ulmatic.core.planning.opened_rows import RowFigures
from ulmatic.core.work import Crop, Lanes
from ulmatic.platform.routing import api_router
from ulmatic.site.views import SiteView
from ulmatic.work import rows
from ulmatic.work.row_schemas import CropEntry, LaneEntry, NewCrop, RowSheet, RowTrial, TimeSheet

router = api_router("work")
SITE = "/workspaces/{workspace_id}/sites/{site_id}"
CROPS = "/workspaces/{workspace_id}/crops"


@router.get(SITE + "/rows")
def read_rows(site_id: UUID, scope: SiteView) -> RowSheet:
    """Return the opened ground of a site, crops, and what is watered until it has rooted."""
    return rows.row_sheet(scope, site_id)


@router.post(SITE + "/rows/trial")
def try_rows(site_id: UUID, trial: RowTrial, scope: ViewerScope) -> RowFigures:
    """Say what opening rows comes to; nothing is kept."""
    return rows.try_rows(scope, site_id, trial)


@router.get(SITE + "/time-left")
def read_time_left(site_id: UUID, scope: SiteView, crop: Annotated[str, Query(max_length=80)], on: date) -> TimeSheet:
    """Say whether there is time for a crop from a day on, and what can be sown instead."""
    return rows.time_sheet(scope, site_id, crop, on)


@router.post("/workspaces/{workspace_id}/lanes")
def try_lanes(entry: LaneEntry, scope: ViewerScope) -> Lanes:
    """Say how many lanes a block takes for a cover crop, and its seed; nothing is kept."""
    return rows.try_lanes(scope, entry)


@router.post(CROPS, status_code=201)
def add_crop(entry: NewCrop, scope: CrewScope) -> Crop:
    """Keep a crop of the workspace's own."""
    crop = rows.add_crop(scope, entry)
    scope.commit()
    return crop


@router.put(CROPS + "/{key}")
def change_crop(key: str, entry: CropEntry, scope: CrewScope) -> Crop:
    """Change a crop of the workspace's own."""
    crop = rows.change_crop(scope, key, entry)
    scope.commit()
    return crop


@router.delete(CROPS + "/{key}", status_code=204)
def delete_crop(key: str, scope: CrewScope) -> None:
    """Take a crop of the workspace's own away."""
    rows.delete_crop(scope, key)
    scope.commit()
