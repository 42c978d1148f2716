"""A whole site as an archive."""

from collections.abc import Sequence
from typing import Any
from uuid import UUID

from ulmatic.accounts.scope import Scope
from ulmatic.core.log import Laid, Spread
from ulmatic.core.materials import CATALOGUE, Material
from ulmatic.formats.archive import (
    Archive,
    ArchivedCorrection,
    ArchivedDay,
    ArchivedDelivery,
    ArchivedEntry,
    ArchivedLandmark,
    ArchivedLine,
    ArchivedOffer,
    ArchivedPhoto,
    ArchivedPile,
    ArchivedPlot,
    ArchivedQuote,
    ArchivedSite,
    ArchivedSupplier,
    write_archive,
)
from ulmatic.formats.packed import packed
from ulmatic.platform.photos import photo_content
from ulmatic.records.log import LedgerRow, PhotoRow
from ulmatic.records.mapping import BOOK, DELIVERY, LANDMARK, LEDGER, OFFER, PHOTO, PILE, PLOT, QUOTE, SUPPLIER, WEATHER
from ulmatic.records.money import QuoteRow
from ulmatic.records.schedule import WeatherRow
from ulmatic.records.supply import OfferRow
from ulmatic.site.schemas import SiteOut
from ulmatic.site.snapshot import Snapshot, snapshot_of


def archive(scope: Scope, site_id: UUID) -> bytes:
    """Return a whole site as a JSON archive, without the photos themselves."""
    snapshot = snapshot_of(scope, site_id)
    return write_archive(_archive(scope, snapshot))


def archive_with_photos(scope: Scope, site_id: UUID) -> bytes:
    """Return a whole site as a ZIP: the JSON archive and its photos."""
    photos = {row.hash: photo_content(row.hash) for row in _photos(scope, site_id)}
    return packed(archive(scope, site_id), {name: jpeg for name, jpeg in photos.items() if jpeg is not None})


def _photos(scope: Scope, site_id: UUID) -> Sequence[PhotoRow]:
    query = scope.select(PhotoRow).where(PhotoRow.site_id == site_id).order_by(PhotoRow.created_at, PhotoRow.id)
    return scope.session.scalars(query).all()


def _corrected(scope: Scope, site_id: UUID) -> Sequence[LedgerRow]:
    query = scope.select(LedgerRow, deleted=True).where(LedgerRow.site_id == site_id)
    return scope.session.scalars(query.order_by(LedgerRow.on, LedgerRow.created_at, LedgerRow.id)).all()


def _archive(scope: Scope, snapshot: Snapshot) -> Archive:
    row, site = snapshot.row, snapshot.site
    ids = {plot.id for plot in snapshot.plot_rows}
    ledger = [entry for entry in snapshot.ledger_rows if entry.plot_id is None or entry.plot_id in ids]
    quotes = scope.session.scalars(
        scope.select(QuoteRow).where(QuoteRow.site_id == row.id).order_by(QuoteRow.number)
    ).all()
    weather = scope.session.scalars(
        scope.select(WeatherRow).where(WeatherRow.site_id == row.id).order_by(WeatherRow.day)
    ).all()
    offers = {
        offer.id: offer
        for offer in scope.session.scalars(scope.select(OfferRow))
        if offer.id in {delivery.offer_id for delivery in snapshot.delivery_rows}
    }
    answers = SiteOut.model_validate(row).model_dump()
    practice: dict[str, Any] = {}
    for choices in site.practices:
        practice |= choices.model_dump(exclude_none=True)
    suppliers = [SUPPLIER.value(ArchivedSupplier, row) for row in snapshot.supplier_rows]
    return Archive(
        site=ArchivedSite.model_validate(
            {
                **{key: answers[key] for key in ArchivedSite.model_fields if key in answers},
                "practice": practice,
                "seasons": row.seasons,
                "chosen": row.chosen,
                "tasks": row.tasks,
                "crops": list(scope.member.workspace.crops.values()),
                "parameters": site.parameters.by_key,
                "elsewhere": {
                    key: [(rate.mean, rate.variance) for rate in lessons] for key, lessons in site.elsewhere.items()
                },
            }
        ),
        plots=[PLOT.value(ArchivedPlot, row) for row in snapshot.plot_rows],
        landmarks=[LANDMARK.value(ArchivedLandmark, row) for row in snapshot.landmark_rows],
        ledger=[LEDGER.value(ArchivedEntry, entry) for entry in ledger],
        corrected=[
            LEDGER.value(ArchivedCorrection, row)
            for row in _corrected(scope, row.id)
            if row.plot_id is None or row.plot_id in ids
        ],
        photos=[PHOTO.value(ArchivedPhoto, photo) for photo in _photos(scope, row.id)],
        buying=site.buying,
        buying_typed=row.buying.get("typed", {}),
        suppliers=suppliers,
        deliveries=[
            DELIVERY.value(ArchivedDelivery, row, offer=_offer(offers.get(row.offer_id)) if row.offer_id else None)
            for row in snapshot.delivery_rows
        ],
        piles=[PILE.value(ArchivedPile, row) for row in snapshot.pile_rows],
        lines=[BOOK.value(ArchivedLine, row) for row in snapshot.book_rows],
        weather=[WEATHER.value(ArchivedDay, row) for row in weather],
        quotes=[QUOTE.value(ArchivedQuote, row) for row in quotes],
        materials=_named_materials(snapshot, suppliers),
    )


def _offer(row: OfferRow | None) -> ArchivedOffer | None:
    if row is None or row.state not in ("accepted", "fell_through"):
        return None
    return OFFER.value(ArchivedOffer, row)


def _named_materials(snapshot: Snapshot, suppliers: list[ArchivedSupplier]) -> list[Material]:
    """Return the own materials that a site, its plots, its ledger, loads and suppliers name."""
    site = snapshot.site
    named = {site.usual, *(plot.plot.recipe.material for plot in site.plots)}
    named |= {key for plot in site.plots for key in plot.plot.recipe.accepts or ()}
    named |= {entry.entry.material for entry in site.ledger if isinstance(entry.entry, Laid | Spread)}
    named |= {delivery.material for delivery in site.deliveries} | {supplier.source.material for supplier in suppliers}
    return [material for key, material in site.materials.items() if key in named and key not in CATALOGUE]
