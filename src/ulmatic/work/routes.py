"""Routes for moving and laying."""

from uuid import UUID

from fastapi import APIRouter

from ulmatic.core.work import CARRIERS, Carrier
from ulmatic.platform.writes import SeasonKey
from ulmatic.site.views import SiteView
from ulmatic.work import service
from ulmatic.work.schemas import MovingSheet

router = APIRouter(tags=["work"])


@router.get("/carriers", tags=["reference"])
def list_carriers() -> list[Carrier]:
    """List what carries chips, with figures and sources."""
    return list(CARRIERS.values())


@router.get("/workspaces/{workspace_id}/sites/{site_id}/moving")
def read_moving(site_id: UUID, scope: SiteView, season: SeasonKey = None) -> MovingSheet:
    """Say how a season's chips are moved, and in which order plots are laid."""
    return service.moving_sheet(scope, site_id, season)
