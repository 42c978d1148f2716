"""Routes for the nitrogen account."""

from typing import Annotated
from uuid import UUID

from fastapi import Query

from ulmatic.nitrogen import service
from ulmatic.nitrogen.schemas import NitrogenSheet, SiteNitrogen
from ulmatic.platform.routing import api_router
from ulmatic.site.views import SiteView

router = api_router("nitrogen")
SITE = "/workspaces/{workspace_id}/sites/{site_id}"


@router.get(SITE + "/nitrogen")
def read_site_nitrogen(site_id: UUID, scope: SiteView) -> SiteNitrogen:
    """Return the account of every plot, for the plan."""
    return service.site_nitrogen(scope, site_id)


@router.get(SITE + "/plots/{plot_id}/nitrogen")
def read_nitrogen(
    site_id: UUID,
    plot_id: UUID,
    scope: SiteView,
    product: Annotated[str, Query(min_length=1, max_length=80)] = "Ammonium sulphate",
    n_percent: Annotated[float, Query(gt=0, le=60, allow_inf_nan=False)] = 21.0,
    bag_kg: Annotated[float | None, Query(gt=0, le=2_000, allow_inf_nan=False)] = None,
    soluble: bool = True,
) -> NitrogenSheet:
    """Return the account of a plot, and the dose of a product that would make up for what is wanting."""
    return service.nitrogen_sheet(scope, site_id, plot_id, product, n_percent / 100, bag_kg, soluble=soluble)
