"""Links without an account: the calendar of a site, and a site as its client sees it."""

from datetime import timedelta
from uuid import UUID, uuid4

from ulmatic.accounts.models import LinkRow
from ulmatic.accounts.scope import Scope
from ulmatic.accounts.tokens import digest, new_token
from ulmatic.formats.calendars import calendar_file
from ulmatic.links.schemas import ClientPlot, ClientSheet, LinkEntry, LinkOut
from ulmatic.money import service as money
from ulmatic.platform.problems import Problem
from ulmatic.records.survey import SiteRow
from ulmatic.site import photos
from ulmatic.site.snapshot import snapshot_of

CALENDAR_DAYS = 3_650
MOST_LINKS = 100


def _out(row: LinkRow) -> LinkOut:
    return LinkOut.model_validate({"id": row.id, "kind": row.kind, "expires_at": row.expires_at})


def links_of(scope: Scope, site_id: UUID) -> list[LinkOut]:
    """Return the links to a site, the oldest first."""
    site = scope.get(SiteRow, site_id)
    rows = scope.session.scalars(scope.select(LinkRow).where(LinkRow.site_id == site.id).order_by(LinkRow.created_at))
    return [_out(row) for row in rows]


def add_link(scope: Scope, site_id: UUID, entry: LinkEntry) -> LinkOut:
    """Make a link to a site; its secret is in the answer, and nowhere else."""
    site = scope.get(SiteRow, site_id)
    scope.check_quota(LinkRow, MOST_LINKS)
    token, days = new_token(), CALENDAR_DAYS if entry.kind == "calendar" else entry.days
    row = LinkRow(
        id=uuid4(),
        site_id=site.id,
        kind=entry.kind,
        user_id=scope.member.user_id,
        token_hash=digest(token),
        expires_at=scope.clock.now() + timedelta(days=days),
        created_at=scope.clock.now(),
    )
    scope.add(row)
    return _out(row).model_copy(update={"token": token})


def revoke_link(scope: Scope, site_id: UUID, link_id: UUID) -> None:
    """Revoke a link; the 404 problem where the site has none such."""
    row = scope.get(LinkRow, link_id)
    if row.site_id != scope.get(SiteRow, site_id).id:
        raise Problem(404, f"There is no such {LinkRow.noun} here.")
    scope.delete(row)


def site_calendar(scope: Scope, site_id: UUID) -> bytes:
    """Return what falls on the days of a site as an iCalendar file."""
    snapshot = snapshot_of(scope, site_id)
    name = f"{snapshot.site.name}: mulching"
    return calendar_file(
        name, str(snapshot.row.id), snapshot.plan().agenda.occasions, snapshot.site.units, scope.clock.now()
    )


def client_sheet(scope: Scope, site_id: UUID) -> ClientSheet:
    """Return a site as its client sees it."""
    snapshot = snapshot_of(scope, site_id)
    plan, state = snapshot.plan(), snapshot.state
    season = plan.seasons[0]
    return ClientSheet(
        site=snapshot.site.name,
        units=snapshot.site.units.value,
        plots=[
            ClientPlot(
                name=plot.plot.name,
                outline=state.ground.outlines[plot.id],
                place=state.ground.places[plot.id],
                area_m2=state.laid_m2(plot, plan.day),
            )
            for plot in plan.plots
        ],
        season=season.name,
        opens=season.opens,
        closes=season.closes,
        days=[day.on for day in plan.work(0).days],
        quote=money.latest_quote(scope, snapshot.row),
        photos=photos.site_photos(scope, site_id),
    )
