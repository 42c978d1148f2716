"""Routes for links without an account: the calendar of a site, and a site as its client sees it."""

from typing import Annotated
from uuid import UUID

from fastapi import Depends, Request, Response

from ulmatic.accounts.links import linked
from ulmatic.accounts.models import LinkRow
from ulmatic.accounts.scope import CrewScope, Scope, ViewerScope
from ulmatic.links import sharing
from ulmatic.links.schemas import ClientSheet, LinkEntry, LinkOut, QuoteAcceptance, Token
from ulmatic.money import service as money
from ulmatic.money.schemas import QuoteOut
from ulmatic.platform.database import Database
from ulmatic.platform.gate import working
from ulmatic.platform.routing import api_router
from ulmatic.records.survey import SiteRow
from ulmatic.site import photos
from ulmatic.site.views import SiteView

router = api_router("links")
SITE = "/workspaces/{workspace_id}/sites/{site_id}"
Linked = tuple[Scope, LinkRow]


@router.get(SITE + "/links")
def list_links(site_id: UUID, scope: ViewerScope) -> list[LinkOut]:
    """Return the links to a site."""
    return sharing.links_of(scope, site_id)


@router.post(SITE + "/links", status_code=201)
def add_link(site_id: UUID, entry: LinkEntry, scope: CrewScope) -> LinkOut:
    """Make a link to a site; its secret is in the answer, and nowhere else."""
    link = sharing.add_link(scope, site_id, entry)
    scope.commit()
    return link


@router.delete(SITE + "/links/{link_id}", status_code=204)
def revoke_link(site_id: UUID, link_id: UUID, scope: CrewScope) -> None:
    """Revoke a link: from now on it shows nothing."""
    sharing.revoke_link(scope, site_id, link_id)
    scope.commit()


def _calendar(content: bytes) -> Response:
    headers = {"Content-Disposition": 'attachment; filename="ulmatic.ics"'}
    return Response(content, media_type="text/calendar; charset=utf-8", headers=headers)


@router.get(SITE + "/calendar.ics", response_class=Response)
def read_calendar(site_id: UUID, scope: SiteView) -> Response:
    """Return seasons, deliveries, layings and days of work as an iCalendar file."""
    return _calendar(sharing.site_calendar(scope, site_id))


def _feed(token: Token, database: Database) -> Linked:
    return _released(*linked(database, token, "calendar"))


def _client(token: Token, database: Database) -> Linked:
    return _released(*linked(database, token, "client"))


def _released(scope: Scope, row: LinkRow) -> Linked:
    # The connection is given back while this waits for a place.
    scope.session.commit()
    return scope, row


async def _feed_at_work(request: Request, link: Annotated[Linked, Depends(_feed)]) -> Linked:
    await working(request)
    return link


async def _client_at_work(request: Request, link: Annotated[Linked, Depends(_client)]) -> Linked:
    await working(request)
    return link


@router.get("/calendars/{token}.ics", response_class=Response)
def read_feed(link: Annotated[Linked, Depends(_feed_at_work)]) -> Response:
    """Return the calendar of a site to whoever has its link."""
    scope, row = link
    return _calendar(sharing.site_calendar(scope, row.site_id))


@router.get("/client-links/{token}")
def read_client_link(link: Annotated[Linked, Depends(_client_at_work)]) -> ClientSheet:
    """Return a site as its client sees it."""
    scope, row = link
    return sharing.client_sheet(scope, row.site_id)


@router.get("/client-links/{token}/photos/{photo_id}", response_class=Response)
def read_client_photo(link: Annotated[Linked, Depends(_client)], photo_id: UUID, small: bool = False) -> Response:
    """Return a photo of the site to whoever has its link."""
    scope, row = link
    photos.check_photos(scope, row.site_id, (photo_id,))
    return Response(photos.read_photo(scope, photo_id, thumbnail=small), media_type="image/jpeg")


@router.post("/client-links/{token}/acceptance", status_code=201)
def accept_quote(link: Annotated[Linked, Depends(_client)], acceptance: QuoteAcceptance) -> QuoteOut:
    """Accept the quote of a site: kept with the time and the name."""
    scope, row = link
    accepted = money.accept_quote(scope, scope.get(SiteRow, row.site_id), acceptance.quote_id, acceptance.name)
    scope.commit()
    return accepted
