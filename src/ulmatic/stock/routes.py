"""Routes for loads, piles and their book."""

from typing import Annotated
from uuid import UUID

from fastapi import Body, Response

from ulmatic.accounts.scope import CrewScope
from ulmatic.platform.routing import api_router
from ulmatic.records.writes import IfMatch
from ulmatic.site import book as receiving
from ulmatic.site.book_schemas import Arrival, NewBookLine, NewDelivery, ReceiptEntry
from ulmatic.site.views import SiteView
from ulmatic.stock import service
from ulmatic.stock.schemas import StockSheet

router = api_router("stock")
SITE = "/workspaces/{workspace_id}/sites/{site_id}"
DELIVERIES = SITE + "/deliveries"


@router.get(SITE + "/stock")
def read_stock(site_id: UUID, scope: SiteView) -> StockSheet:
    """Return piles, loads and their book."""
    return service.stock_sheet(scope, site_id)


@router.get(SITE + "/book.csv", response_class=Response)
def export_book(site_id: UUID, scope: SiteView) -> Response:
    """Return the book as CSV."""
    headers = {"Content-Disposition": 'attachment; filename="book.csv"'}
    return Response(service.book_csv(scope, site_id), media_type="text/csv; charset=utf-8", headers=headers)


@router.post(DELIVERIES, status_code=201)
def expect_delivery(site_id: UUID, entry: NewDelivery, scope: CrewScope) -> StockSheet:
    """Expect a load."""
    receiving.add_delivery(scope, site_id, entry)
    scope.commit()
    return service.stock_sheet(scope, site_id)


@router.post(SITE + "/arrivals", status_code=201)
def add_arrival(site_id: UUID, entry: Arrival, scope: CrewScope) -> StockSheet:
    """Receive a load that nobody expected."""
    receiving.receive_unexpected(scope, site_id, entry)
    scope.commit()
    return service.stock_sheet(scope, site_id)


@router.post(DELIVERIES + "/{delivery_id}/receipt", status_code=201)
def receive_delivery(
    site_id: UUID, delivery_id: UUID, entry: ReceiptEntry, scope: CrewScope, if_match: IfMatch = None
) -> StockSheet:
    """Receive a load that was expected."""
    receiving.receive(scope, site_id, delivery_id, entry, if_match)
    scope.commit()
    return service.stock_sheet(scope, site_id)


@router.delete(DELIVERIES + "/{delivery_id}", status_code=204)
def cancel_delivery(site_id: UUID, delivery_id: UUID, scope: CrewScope) -> None:
    """Say that an expected load does not come; `restoration` takes that back."""
    receiving.cancel(scope, site_id, delivery_id)
    scope.commit()


@router.post(DELIVERIES + "/{delivery_id}/restoration", status_code=204)
def expect_again(site_id: UUID, delivery_id: UUID, scope: CrewScope) -> None:
    """Take back that a load does not come."""
    receiving.expect_again(scope, site_id, delivery_id)
    scope.commit()


@router.put(DELIVERIES + "/{delivery_id}/photos/{photo_id}", status_code=204)
def put_load_photo(
    site_id: UUID,
    delivery_id: UUID,
    photo_id: UUID,
    scope: CrewScope,
    content: Annotated[bytes, Body(media_type="application/octet-stream")],
) -> None:
    """Keep a photo of a load; where and by whom it was taken is not kept."""
    receiving.put_photo(scope, site_id, delivery_id, photo_id, content)
    scope.commit()


@router.post(SITE + "/piles/{pile_id}/lines", status_code=201)
def add_line(site_id: UUID, pile_id: UUID, entry: NewBookLine, scope: CrewScope) -> StockSheet:
    """Lay, move, take away, measure or turn."""
    receiving.change_pile(scope, site_id, pile_id, entry)
    scope.commit()
    return service.stock_sheet(scope, site_id)


@router.delete(SITE + "/lines/{line_id}", status_code=204)
def take_line_back(site_id: UUID, line_id: UUID, scope: CrewScope) -> None:
    """Take back the last line of the book."""
    receiving.take_back(scope, site_id, line_id)
    scope.commit()
