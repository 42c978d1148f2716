"""Links without an account: the calendar of a site, and a site as its client sees it."""

from datetime import UTC, date, datetime, timedelta
from typing import Annotated, Literal
from uuid import UUID, uuid4

from fastapi import APIRouter, Response
from pydantic import BaseModel, Field, StringConstraints

from ulmatic.accounts.links import linked
from ulmatic.accounts.models import LinkRow
from ulmatic.accounts.scope import CrewScope, ViewerScope
from ulmatic.accounts.tokens import digest, new_token
from ulmatic.core.survey import Outline, Place
from ulmatic.formats.calendars import calendar_file
from ulmatic.log import photos
from ulmatic.log.schemas import PhotoOut
from ulmatic.money import service as money
from ulmatic.money.schemas import QuoteOut
from ulmatic.platform.database import Database
from ulmatic.platform.problems import Problem
from ulmatic.platform.typed import Entry
from ulmatic.site.snapshot import Snapshot, snapshot_of
from ulmatic.site.views import SiteView
from ulmatic.survey.models import SiteRow

router = APIRouter(tags=["links"])
SITE = "/workspaces/{workspace_id}/sites/{site_id}"
CALENDAR_DAYS, MOST_DAYS = 3_650, 366
MOST_LINKS = 100
Token = Annotated[str, StringConstraints(min_length=20, max_length=100, pattern=r"^[A-Za-z0-9_-]+$")]


class LinkEntry(Entry):
    """A link to be made; a client's ends after so many days."""

    kind: Literal["calendar", "client"]
    days: Annotated[int, Field(ge=1, le=MOST_DAYS)] = 30


class LinkOut(BaseModel):
    """A link as kept; its secret is told once, when it is made."""

    id: UUID
    kind: Literal["calendar", "client"]
    expires_at: datetime
    token: str | None = None


class ClientPlot(BaseModel):
    """A plot as a client sees it."""

    name: str
    outline: Outline
    place: Place
    area_m2: float


class ClientSheet(BaseModel):
    """A site as a client sees it: plan, quote, dates and photos, and nothing else."""

    site: str
    units: Literal["metric", "us"]
    plots: list[ClientPlot]
    season: str
    opens: date
    closes: date
    days: list[date]
    quote: QuoteOut | None
    photos: list[PhotoOut]


class Acceptance(Entry):
    """A quote that is accepted, by its id, and who accepts it."""

    quote_id: UUID
    name: Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=120)]


@router.get(SITE + "/links")
def list_links(site_id: UUID, scope: ViewerScope) -> list[LinkOut]:
    """Return the links to a site."""
    site = scope.one(SiteRow, site_id)
    rows = scope.session.scalars(scope.select(LinkRow).where(LinkRow.site_id == site.id).order_by(LinkRow.created_at))
    return [_out(row) for row in rows]


@router.post(SITE + "/links", status_code=201)
def add_link(site_id: UUID, entry: LinkEntry, scope: CrewScope) -> LinkOut:
    """Make a link to a site; its secret is in the answer, and nowhere else."""
    site = scope.one(SiteRow, site_id)
    scope.room(LinkRow, MOST_LINKS)
    token, days = new_token(), CALENDAR_DAYS if entry.kind == "calendar" else entry.days
    row = LinkRow(
        id=uuid4(), site_id=site.id, kind=entry.kind, user_id=scope.member.user_id, token_hash=digest(token),
        expires_at=datetime.now(UTC) + timedelta(days=days), created_at=datetime.now(UTC),
    )  # fmt: skip
    scope.add(row)
    scope.commit()
    return _out(row).model_copy(update={"token": token})


@router.delete(SITE + "/links/{link_id}", status_code=204)
def revoke_link(site_id: UUID, link_id: UUID, scope: CrewScope) -> None:
    """Revoke a link: from now on it shows nothing."""
    row = scope.one(LinkRow, link_id)
    if row.site_id != scope.one(SiteRow, site_id).id:
        raise Problem(404, f"There is no such {LinkRow.noun} here.")
    scope.delete(row)
    scope.commit()


def _out(row: LinkRow) -> LinkOut:
    return LinkOut.model_validate({"id": row.id, "kind": row.kind, "expires_at": row.expires_at})


@router.get(SITE + "/calendar.ics", response_class=Response)
def read_calendar(site_id: UUID, scope: SiteView) -> Response:
    """Return seasons, deliveries, layings and days of work as an iCalendar file."""
    return _calendar(snapshot_of(scope, site_id))


@router.get("/calendars/{token}.ics", response_class=Response)
def read_feed(token: Token, database: Database) -> Response:
    """Return the calendar of a site to whoever has its link."""
    scope, row = linked(database, token, "calendar")
    return _calendar(snapshot_of(scope, row.site_id))


@router.get("/client-links/{token}")
def read_client_link(token: Token, database: Database) -> ClientSheet:
    """Return a site as its client sees it."""
    scope, row = linked(database, token, "client")
    snapshot = snapshot_of(scope, row.site_id)
    plan, state = snapshot.plan(), snapshot.state
    season = plan.seasons[0]
    return ClientSheet(
        site=snapshot.site.name, units=snapshot.site.units.value,
        plots=[
            ClientPlot(
                name=plot.plot.name, outline=state.ground.outlines[plot.id], place=state.ground.places[plot.id],
                area_m2=state.laid_m2(plot, plan.day),
            )
            for plot in plan.plots
        ],
        season=season.name, opens=season.opens, closes=season.closes,
        days=[day.on for day in plan.work(0).days], quote=money.latest_quote(scope, snapshot.row),
        photos=photos.site_photos(scope, row.site_id),
    )  # fmt: skip


@router.get("/client-links/{token}/photos/{photo_id}", response_class=Response)
def read_client_photo(token: Token, photo_id: UUID, database: Database, small: bool = False) -> Response:
    """Return a photo of the site to whoever has its link."""
    scope, row = linked(database, token, "client")
    photos.check_photos(scope, row.site_id, (photo_id,))
    return Response(photos.read_photo(scope, photo_id, thumbnail=small), media_type="image/jpeg")


@router.post("/client-links/{token}/acceptance", status_code=201)
def accept_quote(token: Token, acceptance: Acceptance, database: Database) -> QuoteOut:
    """Accept the quote of a site: kept with the time and the name."""
    scope, row = linked(database, token, "client")
    accepted = money.accept_quote(scope, scope.one(SiteRow, row.site_id), acceptance.quote_id, acceptance.name)
    scope.commit()
    return accepted


def _calendar(snapshot: Snapshot) -> Response:
    name = f"{snapshot.site.name}: mulching"
    content = calendar_file(name, str(snapshot.row.id), snapshot.plan().agenda.occasions, snapshot.site.units)
    headers = {"Content-Disposition": 'attachment; filename="ulmatic.ics"'}
    return Response(content, media_type="text/calendar; charset=utf-8", headers=headers)
