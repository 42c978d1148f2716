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
from ulmatic.records.log import LedgerRow, PhotoRow
from ulmatic.records.money import QuoteRow
from ulmatic.platform.photos import photo_content
from ulmatic.records.schedule import WeatherRow
from ulmatic.site.snapshot import Snapshot, delivery_of, plot_of, snapshot_of
from ulmatic.records.supply import OfferRow
from ulmatic.survey.schemas import SiteOut


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


def _entry(row: LedgerRow) -> dict[str, Any]:
    return {
        "id": row.id,
        "plot_id": row.plot_id,
        "pile_id": row.pile_id,
        "trees": row.trees,
        "on": row.on,
        "written_at": row.created_at,
        "entry": row.entry,
        "typed": row.typed,
        "by": row.by,
        "note": row.note,
        "photos": row.photos,
        "corrects": row.corrects,
    }


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
    suppliers = [
        ArchivedSupplier.model_validate(
            {"id": row.id, "name": row.name, "currency": row.currency, "source": row.source, "typed": row.typed}
        )
        for row in snapshot.supplier_rows
    ]
    plots = [
        ArchivedPlot.model_validate(
            {
                **plot_of(row).model_dump(),
                "id": row.id,
                "typed": row.typed,
                "place": row.place,
                "rule": row.rule,
                "priority": row.priority,
                "decisions": row.decisions,
                "surveyed_on": row.surveyed_on,
            }
        )
        for row in snapshot.plot_rows
    ]
    deliveries = [
        ArchivedDelivery.model_validate(
            {
                **delivery_of(row).model_dump(),
                "measured": row.measured,
                "note": row.note,
                "typed": row.typed,
                "photo_id": row.photo_id,
                "offer": _offer(offers.get(row.offer_id)) if row.offer_id else None,
            }
        )
        for row in snapshot.delivery_rows
    ]
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
                    key: [(taught.mean, taught.variance) for taught in lessons]
                    for key, lessons in site.elsewhere.items()
                },
            }
        ),
        plots=plots,
        landmarks=[
            ArchivedLandmark.model_validate(
                {"id": row.id, "name": row.name, "landmark": row.landmark, "typed": row.typed}
            )
            for row in snapshot.landmark_rows
        ],
        ledger=[ArchivedEntry.model_validate(_entry(row)) for row in ledger],
        corrected=[
            ArchivedCorrection.model_validate({**_entry(row), "deleted_at": row.deleted_at})
            for row in _corrected(scope, row.id)
            if row.plot_id is None or row.plot_id in ids
        ],
        photos=[
            ArchivedPhoto(
                id=photo.id,
                hash=photo.hash,
                drawn=photo.drawn,
                by=photo.by,
                created_at=photo.created_at,
                location=None if photo.location is None else (photo.location[0], photo.location[1]),
            )
            for photo in _photos(scope, row.id)
        ],
        buying=site.buying,
        buying_typed=row.buying.get("typed", {}),
        suppliers=suppliers,
        deliveries=deliveries,
        piles=[
            ArchivedPile.model_validate({"id": row.id, "name": row.name, "landmark_id": row.landmark_id})
            for row in snapshot.pile_rows
        ],
        lines=[
            ArchivedLine.model_validate(
                {
                    "id": row.id,
                    "kind": row.kind,
                    "pile_id": row.pile_id,
                    "delivery_id": row.delivery_id,
                    "plot_id": row.plot_id,
                    "to_pile_id": row.to_pile_id,
                    "volume_m3": row.volume_m3,
                    "on": row.on,
                    "written_at": row.created_at,
                    "by": row.by,
                    "note": row.note,
                }
            )
            for row in snapshot.book_rows
        ],
        weather=[
            ArchivedDay(
                day=row.day,
                tmax_c=row.tmax_c,
                tmin_c=row.tmin_c,
                rain_mm=row.rain_mm,
                source=row.source,
            )
            for row in weather
        ],
        quotes=[
            ArchivedQuote.model_validate(
                {
                    "id": row.id,
                    "number": row.number,
                    "client": row.client,
                    "words": row.words,
                    "units": row.units,
                    "quote": row.quote,
                    "created_at": row.created_at,
                }
            )
            for row in quotes
        ],
        materials=_named_materials(snapshot, suppliers),
    )


def _offer(row: OfferRow | None) -> ArchivedOffer | None:
    if row is None or row.state not in ("accepted", "fell_through"):
        return None
    return ArchivedOffer(
        reference=row.reference,
        state=row.state,
        offer=row.offer,
        heard_at=row.heard_at,
        expires_at=row.expires_at,
    )


def _named_materials(snapshot: Snapshot, suppliers: list[ArchivedSupplier]) -> list[Material]:
    """Return the own materials that a site, its plots, its ledger, loads and suppliers name."""
    site = snapshot.site
    named = {site.usual, *(plot.plot.recipe.material for plot in site.plots)}
    named |= {key for plot in site.plots for key in plot.plot.recipe.accepts or ()}
    named |= {entry.entry.material for entry in site.ledger if isinstance(entry.entry, Laid | Spread)}
    named |= {delivery.material for delivery in site.deliveries} | {supplier.source.material for supplier in suppliers}
    return [material for key, material in site.materials.items() if key in named and key not in CATALOGUE]
