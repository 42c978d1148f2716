"""Routes for errands."""

from uuid import UUID

from ulmatic.accounts.scope import ViewerScope
from ulmatic.errands.schemas import ErrandOut, errand_out
from ulmatic.platform.routing import api_router
from ulmatic.records.errands import ErrandRow

router = api_router("errands")


@router.get("/workspaces/{workspace_id}/errands/{errand_id}")
def read_errand(errand_id: UUID, scope: ViewerScope) -> ErrandOut:
    """Say how far an errand is."""
    return errand_out(scope.get(ErrandRow, errand_id))
