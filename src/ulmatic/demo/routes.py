"""The way into the demo."""

from datetime import date
from typing import Annotated

from fastapi import Depends, Query, Request, Response

from ulmatic.accounts import service
from ulmatic.accounts.guards import limit_attempts
from ulmatic.accounts.routes import App, session_of, start_session
from ulmatic.accounts.schemas import SessionOut
from ulmatic.accounts.scope import COOKIE
from ulmatic.demo import visits
from ulmatic.platform.database import Database
from ulmatic.platform.gate import working
from ulmatic.platform.problems import not_found
from ulmatic.platform.routing import api_router

router = api_router("accounts")
DemoDay = Annotated[date | None, Query(ge=date(2000, 1, 1), le=date(2100, 1, 1))]


@router.post("/session/demo", dependencies=[Depends(working)])
def step_into_demo(
    request: Request, response: Response, database: Database, settings: App, on: DemoDay = None
) -> SessionOut:
    """Step into a demo of one's own, where the demo is shown; who is in it already stays there.

    It stands on the day that is named, else on that of the settings, else on today.
    """
    if not settings.demo:
        raise not_found("demo")
    user = service.user_of(database, request.cookies.get(COOKIE))
    if user is not None and user.demo_until is not None:
        return session_of(database, user, settings)
    limit_attempts(request, f"demo from {request.client.host if request.client else ''}")
    return start_session(
        database, visits.new_visitor(database, settings, on or settings.demo_on), request, response, settings
    )
