"""Routes for suppliers, the order of a season, and offers."""

from typing import Annotated
from uuid import UUID

from fastapi import Query, Request, Response

from ulmatic.accounts.scope import CrewScope, ViewerScope
from ulmatic.core.planning.workings import SeasonWorkings
from ulmatic.errands import service as errands
from ulmatic.errands.schemas import ErrandOut, errand_out
from ulmatic.platform.problems import Problem
from ulmatic.platform.routing import api_router
from ulmatic.records.supply import OfferRow, SupplierRow
from ulmatic.records.survey import SiteRow
from ulmatic.records.writes import IfMatch, SeasonKey, tagged
from ulmatic.site.book_schemas import ReceiptEntry, ReceiptEstimate
from ulmatic.site.views import SiteView, WorkView
from ulmatic.supply import offers, orders, suppliers
from ulmatic.supply.schemas import (
    Booking,
    ChoiceEntry,
    NewSupplier,
    OfferAnswer,
    OfferBox,
    OrderSheet,
    Priorities,
    SupplierEntry,
    SupplierOut,
)

router = api_router("supply")
SUPPLIERS = "/workspaces/{workspace_id}/suppliers"
OFFERS = "/workspaces/{workspace_id}/offers"
SITE = "/workspaces/{workspace_id}/sites/{site_id}"


@router.get(SUPPLIERS)
def list_suppliers(scope: ViewerScope) -> list[SupplierOut]:
    """List the suppliers."""
    return suppliers.list_suppliers(scope)


@router.post(SUPPLIERS, status_code=201)
def add_supplier(entry: NewSupplier, scope: CrewScope, response: Response) -> SupplierOut:
    """Keep a new supplier."""
    supplier = suppliers.add_supplier(scope, entry)
    scope.commit()
    tagged(response, supplier.version)
    return supplier


@router.put(SUPPLIERS + "/{supplier_id}")
def change_supplier(
    supplier_id: UUID, entry: SupplierEntry, scope: CrewScope, response: Response, if_match: IfMatch = None
) -> SupplierOut:
    """Change a supplier."""
    supplier = suppliers.change_supplier(scope, supplier_id, entry, if_match)
    scope.commit()
    tagged(response, supplier.version)
    return supplier


@router.delete(SUPPLIERS + "/{supplier_id}", status_code=204)
def delete_supplier(supplier_id: UUID, scope: CrewScope) -> None:
    """Delete a supplier; `restoration` takes it back."""
    scope.delete(scope.get(SupplierRow, supplier_id))
    scope.commit()


@router.post(SUPPLIERS + "/{supplier_id}/restoration", status_code=204)
def restore_supplier(supplier_id: UUID, scope: CrewScope) -> None:
    """Take back the deletion of a supplier."""
    scope.restore(SupplierRow, supplier_id)
    scope.commit()


@router.get(SITE + "/orders")
def read_order(site_id: UUID, scope: SiteView, season: SeasonKey = None) -> OrderSheet:
    """Say what to order for a season, from whom, and what it covers."""
    return orders.order_sheet(scope, site_id, season)


@router.put(SITE + "/choice", status_code=204)
def choose_loads(site_id: UUID, entry: ChoiceEntry, scope: CrewScope, if_match: IfMatch = None) -> None:
    """Keep the loads chosen for a season, or go back to what is proposed; the version is the site's."""
    orders.choose_loads(scope, site_id, entry, if_match)
    scope.commit()


@router.post(SITE + "/bookings", status_code=204)
def book_load(site_id: UUID, entry: Booking, scope: CrewScope) -> None:
    """Book a load of a source for a season."""
    orders.book(scope, site_id, entry)
    scope.commit()


@router.get(SITE + "/workings")
def read_workings(site_id: UUID, scope: SiteView, season: SeasonKey = None) -> SeasonWorkings:
    """Return how the figures of a season are worked out."""
    return orders.workings(scope, site_id, season)


@router.put(SITE + "/priorities", status_code=204)
def put_priorities(site_id: UUID, entry: Priorities, scope: CrewScope) -> None:
    """Keep which plots come first when there is too little."""
    orders.put_priorities(scope, site_id, entry)
    scope.commit()


@router.post(SITE + "/receipt-estimate")
def estimate_receipt(site_id: UUID, entry: ReceiptEntry, scope: WorkView) -> ReceiptEstimate:
    """Say how much came and what it does; nothing is kept."""
    return orders.receipt_estimate(scope, site_id, entry)


@router.get(OFFERS)
def list_offers(scope: WorkView, site_id: Annotated[UUID | None, Query()] = None) -> OfferBox:
    """Return the inbox as it was last heard, with what each offer would do to a site."""
    return offers.box(scope, site_id)


@router.post(OFFERS + "/refresh", status_code=202)
def refresh_offers(scope: CrewScope, request: Request) -> ErrandOut:
    """Have the chip service asked; when that is done, the inbox holds what it says."""
    return errand_out(errands.ask(scope, request, "hear_offers", {}))


@router.post(OFFERS + "/{offer_id}/acceptance", status_code=202)
def accept_offer(offer_id: UUID, entry: OfferAnswer, scope: CrewScope, request: Request) -> ErrandOut:
    """Have an offered load taken for a site."""
    scope.get(OfferRow, offer_id)
    scope.get(SiteRow, entry.site_id)
    return errand_out(
        errands.ask(scope, request, "accept_offer", {"offer_id": str(offer_id), "site_id": str(entry.site_id)})
    )


@router.post(OFFERS + "/{offer_id}/refusal", status_code=204)
def decline_offer(offer_id: UUID, scope: CrewScope, request: Request) -> None:
    """Say that a load is not wanted; the service hears of it afterwards."""
    if errands.is_open(scope, "accept_offer", offer_id=str(offer_id)):
        raise Problem(409, "This load is being accepted. Look again in a moment.")
    reference = offers.decline(scope, offer_id)
    errands.ask(scope, request, "decline_offer", {"reference": reference})
