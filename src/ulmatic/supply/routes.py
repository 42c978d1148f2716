"""Routes for suppliers, what to order, piles, moving and quotes."""

from enum import StrEnum
from typing import Annotated
from uuid import UUID

from fastapi import APIRouter, Body, Query, Request, Response

from ulmatic.accounts.scope import CrewScope, ViewerScope
from ulmatic.core.work.carriers import CARRIERS, Carrier
from ulmatic.money import service as quotes
from ulmatic.platform.writes import IfMatch, tagged
from ulmatic.stock import receiving
from ulmatic.stock import service as stock
from ulmatic.stock.schemas import Arrival, NewDelivery, PileEntry, ReceiptEntry, ReceiptEstimate, StockSheet
from ulmatic.supply import offers, plan, suppliers
from ulmatic.supply.crews import Crews
from ulmatic.supply.models import SupplierRow
from ulmatic.supply.schemas import (
    BuyingEntry,
    BuyingOut,
    MovingSheet,
    NewSupplier,
    OfferAnswer,
    OfferBox,
    PlanSheet,
    Priorities,
    QuoteEntry,
    QuoteOut,
    QuoteSheet,
    SupplierEntry,
    SupplierOut,
)
from ulmatic.work import service as moving

router = APIRouter(tags=["supply"])
SUPPLIERS = "/workspaces/{workspace_id}/suppliers"
OFFERS = "/workspaces/{workspace_id}/offers"
SITE = "/workspaces/{workspace_id}/sites/{site_id}"
DELIVERIES = SITE + "/deliveries"
QUOTES = SITE + "/quotes"


class QuoteEnding(StrEnum):
    """Formats a quote is written in."""

    PDF = "pdf"
    CSV = "csv"


@router.get("/carriers", tags=["reference"])
def list_carriers() -> list[Carrier]:
    """List what carries chips, with figures and sources."""
    return list(CARRIERS.values())


@router.get(SUPPLIERS)
def list_suppliers(scope: ViewerScope) -> list[SupplierOut]:
    """List the suppliers."""
    return suppliers.list_suppliers(scope)


@router.post(SUPPLIERS, status_code=201)
def add_supplier(entry: NewSupplier, scope: CrewScope, response: Response) -> SupplierOut:
    """Keep a new supplier."""
    made = suppliers.add_supplier(scope, entry)
    scope.commit()
    tagged(response, made.version)
    return made


@router.put(SUPPLIERS + "/{supplier_id}")
def change_supplier(
    supplier_id: UUID, entry: SupplierEntry, scope: CrewScope, response: Response, if_match: IfMatch = None
) -> SupplierOut:
    """Change a supplier."""
    made = suppliers.change_supplier(scope, supplier_id, entry, if_match)
    scope.commit()
    tagged(response, made.version)
    return made


@router.delete(SUPPLIERS + "/{supplier_id}", status_code=204)
def delete_supplier(supplier_id: UUID, scope: CrewScope) -> None:
    """Delete a supplier; `restoration` takes it back."""
    scope.delete(scope.one(SupplierRow, supplier_id))
    scope.commit()


@router.post(SUPPLIERS + "/{supplier_id}/restoration", status_code=204)
def restore_supplier(supplier_id: UUID, scope: CrewScope) -> None:
    """Take back the deletion of a supplier."""
    scope.restore(SupplierRow, supplier_id)
    scope.commit()


@router.put(SITE + "/buying")
def change_buying(
    site_id: UUID, entry: BuyingEntry, scope: CrewScope, response: Response, if_match: IfMatch = None
) -> BuyingOut:
    """Change how a site buys; its version is the site's."""
    made = suppliers.change_buying(scope, site_id, entry, if_match)
    scope.commit()
    tagged(response, made.version)
    return made


@router.get(SITE + "/plan")
def read_plan(site_id: UUID, scope: ViewerScope) -> PlanSheet:
    """Say what to order, from whom, and what it covers."""
    return plan.plan_sheet(scope, site_id)


@router.put(SITE + "/priorities", status_code=204)
def put_priorities(site_id: UUID, entry: Priorities, scope: CrewScope) -> None:
    """Keep which plots come first when there is too little."""
    plan.put_priorities(scope, site_id, entry)
    scope.commit()


@router.get(SITE + "/stock")
def read_stock(site_id: UUID, scope: ViewerScope) -> StockSheet:
    """Return piles, loads and the books."""
    return stock.stock_sheet(scope, site_id)


@router.get(SITE + "/books.csv", response_class=Response)
def export_books(site_id: UUID, scope: ViewerScope) -> Response:
    """Return the books as CSV."""
    headers = {"Content-Disposition": 'attachment; filename="books.csv"'}
    return Response(stock.books_csv(scope, site_id), media_type="text/csv; charset=utf-8", headers=headers)


@router.post(DELIVERIES, status_code=201)
def expect_delivery(site_id: UUID, entry: NewDelivery, scope: CrewScope) -> StockSheet:
    """Expect a load."""
    receiving.add_delivery(scope, site_id, entry)
    scope.commit()
    return stock.stock_sheet(scope, site_id)


@router.post(SITE + "/arrivals", status_code=201)
def add_arrival(site_id: UUID, entry: Arrival, scope: CrewScope) -> StockSheet:
    """Receive a load that nobody expected."""
    receiving.receive_unexpected(scope, site_id, entry)
    scope.commit()
    return stock.stock_sheet(scope, site_id)


@router.post(SITE + "/receipt-estimate")
def estimate_receipt(site_id: UUID, entry: ReceiptEntry, scope: ViewerScope) -> ReceiptEstimate:
    """Say how much came and what it does; nothing is kept."""
    return plan.receipt_estimate(scope, site_id, entry)


@router.post(DELIVERIES + "/{delivery_id}/receipt", status_code=201)
def receive_delivery(
    site_id: UUID, delivery_id: UUID, entry: ReceiptEntry, scope: CrewScope, if_match: IfMatch = None
) -> StockSheet:
    """Receive a load that was expected."""
    receiving.receive(scope, site_id, delivery_id, entry, if_match)
    scope.commit()
    return stock.stock_sheet(scope, site_id)


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


@router.put(DELIVERIES + "/{delivery_id}/photo", status_code=204)
def put_photo(
    site_id: UUID,
    delivery_id: UUID,
    scope: CrewScope,
    content: Annotated[bytes, Body(media_type="application/octet-stream")],
) -> None:
    """Keep a photograph of a load; where and by whom it was taken is not kept."""
    receiving.put_photo(scope, site_id, delivery_id, content)
    scope.commit()


@router.get(DELIVERIES + "/{delivery_id}/photo", response_class=Response)
def read_photo(site_id: UUID, delivery_id: UUID, scope: ViewerScope) -> Response:
    """Return the photograph of a load."""
    return Response(receiving.read_photo(scope, site_id, delivery_id), media_type="image/jpeg")


@router.post(SITE + "/piles/{pile_id}/entries", status_code=201)
def add_entry(site_id: UUID, pile_id: UUID, entry: PileEntry, scope: CrewScope) -> StockSheet:
    """Lay, move, take away, measure or turn."""
    receiving.change_pile(scope, site_id, pile_id, entry)
    scope.commit()
    return stock.stock_sheet(scope, site_id)


@router.delete(SITE + "/entries/{entry_id}", status_code=204)
def take_entry_back(site_id: UUID, entry_id: UUID, scope: CrewScope) -> None:
    """Take back the last line of the books."""
    receiving.take_back(scope, site_id, entry_id)
    scope.commit()


@router.get(SITE + "/moving")
def read_moving(site_id: UUID, scope: ViewerScope) -> MovingSheet:
    """Say how chips are moved, and in which order plots are laid."""
    return moving.moving_sheet(scope, site_id)


@router.get(QUOTES)
def read_quotes(site_id: UUID, scope: ViewerScope) -> QuoteSheet:
    """Return the quote as it would be now, and those kept."""
    return quotes.quote_sheet(scope, site_id)


@router.post(QUOTES, status_code=201)
def keep_quote(site_id: UUID, entry: QuoteEntry, scope: CrewScope) -> QuoteOut:
    """Keep the quote as it is now."""
    made = quotes.keep_quote(scope, site_id, entry)
    scope.commit()
    return made


@router.delete(QUOTES + "/{quote_id}", status_code=204)
def delete_quote(site_id: UUID, quote_id: UUID, scope: CrewScope) -> None:
    """Delete a quote; `restoration` takes it back."""
    quotes.delete_quote(scope, site_id, quote_id)
    scope.commit()


@router.post(QUOTES + "/{quote_id}/restoration", status_code=204)
def restore_quote(site_id: UUID, quote_id: UUID, scope: CrewScope) -> None:
    """Take back the deletion of a quote."""
    quotes.restore_quote(scope, site_id, quote_id)
    scope.commit()


@router.get(QUOTES + "/{quote_id}/file.{ending}", response_class=Response)
def export_quote(site_id: UUID, quote_id: UUID, ending: QuoteEnding, scope: ViewerScope) -> Response:
    """Return a kept quote as PDF or CSV."""
    content, name = quotes.quote_file(scope, site_id, quote_id, ending)
    kind = "application/pdf" if ending is QuoteEnding.PDF else "text/csv; charset=utf-8"
    return Response(content, media_type=kind, headers={"Content-Disposition": f'attachment; filename="{name}"'})


def _crews(request: Request) -> Crews | None:
    crews: Crews | None = request.app.state.crews
    return crews


@router.get(OFFERS)
def list_offers(scope: ViewerScope, site_id: Annotated[UUID | None, Query()] = None) -> OfferBox:
    """Return the inbox as it was last heard, with what each offer would do to a site."""
    return offers.box(scope, site_id)


@router.post(OFFERS + "/refresh")
def refresh_offers(scope: CrewScope, request: Request, site_id: Annotated[UUID | None, Query()] = None) -> OfferBox:
    """Ask the chip service, then return the inbox."""
    trouble = offers.hear(scope, _crews(request))
    scope.commit()
    return offers.box(scope, site_id, trouble)


@router.post(OFFERS + "/{offer_id}/acceptance", status_code=204)
def accept_offer(offer_id: UUID, entry: OfferAnswer, scope: CrewScope, request: Request) -> None:
    """Take an offered load for a site."""
    offers.accept(scope, _crews(request), offer_id, entry.site_id)
    scope.commit()


@router.post(OFFERS + "/{offer_id}/refusal", status_code=204)
def decline_offer(offer_id: UUID, scope: CrewScope, request: Request) -> None:
    """Say that a load is not wanted."""
    offers.decline(scope, _crews(request), offer_id)
    scope.commit()
