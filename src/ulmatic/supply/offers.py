"""The inbox of offers: hearing the chip service, and answering it."""

from collections.abc import Sequence
from datetime import datetime
from uuid import UUID, uuid5

from ulmatic.accounts.scope import Scope
from ulmatic.core.materials import material_of
from ulmatic.core.stock.load_size import LoadSize
from ulmatic.core.units import UnitSystem
from ulmatic.platform.problems import Problem
from ulmatic.records.stock import DeliveryRow
from ulmatic.records.supply import OfferRow
from ulmatic.records.survey import SiteRow
from ulmatic.records.writes import added
from ulmatic.site.book import add_delivery
from ulmatic.site.book_schemas import Effect, NewDelivery
from ulmatic.site.snapshot import Snapshot, snapshot_of
from ulmatic.supply.crews import Crews, NoAnswer, Refused
from ulmatic.supply.orders import effect_of
from ulmatic.supply.schemas import CrewOffer, OfferBox, OfferOut

MOST_SHOWN = 60
STATES = ("open", "accepted", "fell_through", "declined", "expired")
"""In the order in which they are listed."""


def _rows(scope: Scope, *, lock: bool = False) -> Sequence[OfferRow]:
    query = scope.select(OfferRow).order_by(OfferRow.expires_at.desc(), OfferRow.id).limit(500)
    return scope.session.scalars(query.with_for_update() if lock else query).all()


def _expire(rows: Sequence[OfferRow], moment: datetime) -> None:
    for row in rows:
        if row.state == "open" and row.expires_at <= moment:
            row.state = "expired"


def hear(scope: Scope, crews: Crews | None) -> None:
    """Ask the service for its offers and keep what it says."""
    if crews is None:
        raise Problem(409, "No chip service is set up.")
    # The connection to the database is given back while the service is asked.
    scope.commit()
    try:
        heard = crews.offers()
    except NoAnswer as trouble:
        raise Problem(502, str(trouble)) from None
    rows = {row.reference: row for row in _rows(scope, lock=True)}
    for offer in heard:
        row = rows.get(offer.id)
        if row is None:
            if offer.state == "open" and offer.expires_at > scope.clock.now():
                added(
                    scope, OfferRow(reference=offer.id, state="open", site_id=None, **_values(offer, scope.clock.now()))
                )
        else:
            _take_in(scope, row, offer)
    # What was open here and is no longer listed was withdrawn.
    listed = {offer.id for offer in heard}
    for row in rows.values():
        if row.state == "open" and row.reference not in listed:
            row.state = "fell_through"
    _expire(list(rows.values()), scope.clock.now())
    scope.session.flush()


def _values(offer: CrewOffer, moment: datetime) -> dict[str, object]:
    return {
        "offer": {**offer.model_dump(mode="json"), "changed": False},
        "heard_at": moment,
        "expires_at": offer.expires_at,
    }


def _take_in(scope: Scope, row: OfferRow, offer: CrewOffer) -> None:
    """Keep how an offer stands now; a load that was taken and falls through is not expected any more."""
    before = CrewOffer.model_validate(row.offer)
    changed = row.offer.get("changed", False) or (offer.revision > before.revision and offer.state == "open")
    for field, value in _values(offer, scope.clock.now()).items():
        setattr(row, field, value)
    row.offer = {**row.offer, "changed": changed}
    if offer.state == "withdrawn" and row.state in ("open", "accepted"):
        if row.state == "accepted":
            _fell_through(scope, row)
        row.state = "fell_through"
    elif offer.state == "taken" and row.state == "open":
        row.state = "fell_through"


def _fell_through(scope: Scope, row: OfferRow) -> None:
    for delivery in scope.session.scalars(scope.select(DeliveryRow).where(DeliveryRow.offer_id == row.id)):
        if delivery.state == "expected":
            delivery.state = "cancelled"
            delivery.note = f"{delivery.note} The crew cancelled it.".strip()


def box(scope: Scope, site_id: UUID | None) -> OfferBox:
    """Return the inbox, with what each open offer would do to a site."""
    rows, now = _rows(scope), scope.clock.now()
    snapshot = snapshot_of(scope, site_id) if site_id else None
    first_rows = sorted(rows, key=lambda row: (STATES.index(row.state), row.expires_at))[:MOST_SHOWN]
    return OfferBox(
        heard_at=max((row.heard_at for row in rows), default=None),
        offers=[_out(row, snapshot, now) for row in first_rows],
        now=snapshot.plan().now if snapshot else None,
    )


def _material(offer: CrewOffer) -> str:
    return material_of(offer.species, offer.ready_on.month)


def _out(row: OfferRow, snapshot: Snapshot | None, moment: datetime) -> OfferOut:
    offer = CrewOffer.model_validate(row.offer)
    state = "expired" if row.state == "open" and row.expires_at <= moment else row.state
    size = _size(offer)
    effect: Effect | None = None
    if snapshot is not None and state == "open":
        effect = effect_of(snapshot, _material(offer), size.mean_m3, size.most_m3)
    return OfferOut(
        id=row.id,
        crew=offer.crew,
        species=offer.species,
        size=size,
        distance_km=offer.distance_km,
        fee=offer.fee,
        ready_on=offer.ready_on,
        expires_at=offer.expires_at,
        state=state,
        changed=bool(row.offer.get("changed")),
        site_id=row.site_id,
        effect=effect,
    )


def _size(offer: CrewOffer) -> LoadSize:
    least, likely, most = sorted((offer.least_m3, offer.likely_m3, offer.most_m3))
    return LoadSize(least_m3=least, likely_m3=likely, most_m3=most)


def accept(scope: Scope, crews: Crews | None, offer_id: UUID, site_id: UUID) -> None:
    """Take an offered load for a site, which then expects it.

    The offer is held while the service is asked: nobody takes it twice.
    The key sent to the service is that of the expected load, so that a second try after a lost answer takes the load
    once and makes one delivery.
    """
    row = scope.get(OfferRow, offer_id, lock=True)
    site = scope.get(SiteRow, site_id)
    if row.state == "accepted" and row.site_id == site.id:
        return
    if row.state == "accepted":
        raise Problem(409, "This load was already accepted for another site.")
    _expire([row], scope.clock.now())
    if row.state != "open" or crews is None:
        raise Problem(409, "This load is not available any more.")
    offer, key = CrewOffer.model_validate(row.offer), uuid5(row.id, str(site.id))
    try:
        acceptance = crews.accept(row.reference, offer.revision, key)
    except Refused as refusal:
        _refused(scope, row, refusal.offer)
        return
    except NoAnswer as trouble:
        raise Problem(502, f"{trouble} The load was not accepted; accept it again.") from None
    size = _size(acceptance)
    entry = NewDelivery(
        id=key,
        units=UnitSystem(site.units),
        name=acceptance.crew,
        material=_material(acceptance),
        least_m3=size.least_m3,
        likely_m3=size.likely_m3,
        most_m3=size.most_m3,
        expected_on=acceptance.ready_on,
        cost=acceptance.fee,
        note=", ".join(acceptance.species),
    )
    add_delivery(scope, site.id, entry, row.id)
    row.state, row.site_id = "accepted", site.id


def _refused(scope: Scope, row: OfferRow, offer: CrewOffer | None) -> None:
    """Keep what the service says instead, then say so."""
    if offer is not None and offer.state == "open":
        _take_in(scope, row, offer)
        scope.commit()
        raise Problem(409, "The crew has changed this offer. Check it again before you accept.")
    row.state = "fell_through"
    scope.commit()
    raise Problem(409, "This load is not available: the crew withdrew it or somebody else accepted it.")


def decline(scope: Scope, offer_id: UUID) -> str:
    """Keep that a load is not wanted; return by which name the service knows it."""
    row = scope.get(OfferRow, offer_id, lock=True)
    if row.state == "accepted":
        raise Problem(409, "This load was already accepted. Cancel its delivery instead.")
    if row.state == "open":
        row.state = "declined"
    return row.reference
