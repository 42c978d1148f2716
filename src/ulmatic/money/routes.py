"""Routes for how a site buys, and for quotes."""

from enum import StrEnum
from uuid import UUID

from fastapi import Response

from ulmatic.accounts.scope import CrewScope, ViewerScope
from ulmatic.money import service
from ulmatic.money.schemas import BuyingEntry, BuyingOut, HireEntry, QuoteEntry, QuoteOut, QuoteSheet
from ulmatic.platform.routing import api_router
from ulmatic.records.survey import SiteRow
from ulmatic.records.writes import IfMatch, SeasonKey, tagged
from ulmatic.site.views import WorkView

router = api_router("money")
SITE = "/workspaces/{workspace_id}/sites/{site_id}"
QUOTES = SITE + "/quotes"


@router.get(SITE + "/buying")
def read_buying(site_id: UUID, scope: ViewerScope) -> BuyingOut:
    """Return how a site buys; its version is the site's."""
    return service.buying_of(scope.get(SiteRow, site_id))


class QuoteEnding(StrEnum):
    """Formats a quote is written in."""

    PDF = "pdf"
    CSV = "csv"


@router.put(SITE + "/buying")
def change_buying(
    site_id: UUID, entry: BuyingEntry, scope: CrewScope, response: Response, if_match: IfMatch = None
) -> BuyingOut:
    """Change how a site buys; its version is the site's."""
    buying = service.change_buying(scope, site_id, entry, if_match)
    scope.commit()
    tagged(response, buying.version)
    return buying


@router.put(SITE + "/hire")
def change_hire(
    site_id: UUID, entry: HireEntry, scope: CrewScope, response: Response, if_match: IfMatch = None
) -> BuyingOut:
    """Change what hiring a machine costs a day; its version is the site's."""
    buying = service.change_hire(scope, site_id, entry, if_match)
    scope.commit()
    tagged(response, buying.version)
    return buying


@router.get(QUOTES)
def read_quotes(site_id: UUID, scope: WorkView, season: SeasonKey = None) -> QuoteSheet:
    """Return the quote of a season as it would be today, and those kept."""
    return service.quote_sheet(scope, site_id, season)


@router.post(QUOTES, status_code=201)
def keep_quote(site_id: UUID, entry: QuoteEntry, scope: CrewScope) -> QuoteOut:
    """Keep the quote of a season as it is today."""
    quote = service.keep_quote(scope, site_id, entry)
    scope.commit()
    return quote


@router.delete(QUOTES + "/{quote_id}", status_code=204)
def delete_quote(site_id: UUID, quote_id: UUID, scope: CrewScope) -> None:
    """Delete a quote; `restoration` takes it back."""
    service.delete_quote(scope, site_id, quote_id)
    scope.commit()


@router.post(QUOTES + "/{quote_id}/restoration", status_code=204)
def restore_quote(site_id: UUID, quote_id: UUID, scope: CrewScope) -> None:
    """Take back the deletion of a quote."""
    service.restore_quote(scope, site_id, quote_id)
    scope.commit()


@router.get(QUOTES + "/{quote_id}/file.{ending}", response_class=Response)
def export_quote(site_id: UUID, quote_id: UUID, ending: QuoteEnding, scope: WorkView) -> Response:
    """Return a kept quote as PDF or CSV."""
    content, name = service.quote_file(scope, site_id, quote_id, ending)
    kind = "application/pdf" if ending is QuoteEnding.PDF else "text/csv; charset=utf-8"
    return Response(content, media_type=kind, headers={"Content-Disposition": f'attachment; filename="{name}"'})
