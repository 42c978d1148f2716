"""A whole site from an archive: new rows with ids of their own."""

from collections.abc import Mapping, Sequence
from datetime import datetime
from typing import Any
from uuid import UUID, uuid5

from sqlalchemy import func

from ulmatic.accounts.scope import Scope
from ulmatic.core.log import Laid, Spread
from ulmatic.core.materials import CATALOGUE, USUAL_MATERIAL
from ulmatic.core.recipe import PracticeChoices
from ulmatic.core.work import CROPS
from ulmatic.formats import FileRefused
from ulmatic.formats.archive import (
    Archive,
    ArchivedCorrection,
    ArchivedEntry,
    ArchivedOffer,
    ArchivedPhoto,
    read_archive,
)
from ulmatic.formats.packed import unpacked
from ulmatic.formats.photos import Photo, photo
from ulmatic.platform.photos import keep_photo
from ulmatic.platform.problems import Problem
from ulmatic.platform.typed import TypedEntry
from ulmatic.records.log import LedgerRow, PhotoRow, SiteLessonRow
from ulmatic.records.mapping import BOOK, DELIVERY, LANDMARK, LEDGER, OFFER, PHOTO, PILE, PLOT, QUOTE, SUPPLIER, WEATHER
from ulmatic.records.materials import MaterialRow
from ulmatic.records.supply import OfferRow, SupplierRow
from ulmatic.records.survey import SiteRow
from ulmatic.records.writes import added
from ulmatic.site.schemas import SiteOut
from ulmatic.site.snapshot import zone_of


class _Restoring:
    """New ids for the parts of an archive, made from the new site's."""

    def __init__(self, scope: Scope, site_id: UUID, archive: Archive, pictures: Mapping[UUID, Photo]) -> None:
        self.scope, self.site_id, self.archive, self.pictures = scope, site_id, archive, pictures
        self.materials = self._materials()
        self.suppliers = self._suppliers()

    def new(self, old: UUID) -> UUID:
        """Return the id that a part has here."""
        return uuid5(self.site_id, str(old))

    def photo(self, old: UUID | None) -> UUID | None:
        """Return the id that a photo has here; None where it did not come along."""
        return self.new(old) if old is not None and old in self.pictures else None

    def material(self, key: str | None) -> str | None:
        """Return the key a material has here; one that is not known falls back to what the site lays."""
        return self.materials.get(key or "") or (key if key in CATALOGUE else None)

    def _materials(self) -> dict[str, str]:
        keys: dict[str, str] = {}
        for material in self.archive.materials:
            row_id = uuid5(self.site_id, f"material {material.key}")
            copy = material.model_copy(update={"key": str(row_id)})
            values = copy.model_dump(mode="json")
            added(self.scope, MaterialRow(id=row_id, name=material.name, material=values, entry={}))
            keys[material.key] = str(row_id)
        return keys

    def _suppliers(self) -> dict[UUID, UUID]:
        """Keep suppliers; one that is here already, to the letter, is taken instead."""
        rows = self.scope.session.scalars(self.scope.select(SupplierRow)).all()
        ids_by_terms = {_alike(row.name, row.currency, row.source): row.id for row in rows}
        ids: dict[UUID, UUID] = {}
        for supplier in self.archive.suppliers:
            source = supplier.source.model_dump(mode="json")
            source["material"] = self.material(supplier.source.material) or USUAL_MATERIAL
            key = _alike(supplier.name, supplier.currency, source)
            if key not in ids_by_terms:
                row = SUPPLIER.row_of(supplier, self.new, source=source, typed=_texts(supplier.typed))
                ids_by_terms[key] = added(self.scope, row).id
            ids[supplier.id] = ids_by_terms[key]
        return ids


def _alike(name: str, currency: str, source: Mapping[str, Any]) -> str:
    return repr((name, currency, sorted((key, repr(value)) for key, value in source.items())))


def _texts(typed: Mapping[str, Any]) -> dict[str, Any]:
    units = {"units": typed["units"]} if typed.get("units") else {}
    return {**TypedEntry.texts(dict(typed)), **units}


def restore_archive(scope: Scope, site_id: UUID, content: bytes) -> SiteOut:
    """Make a new site from an archive; the same `site_id` makes it once."""
    now = scope.clock.now()
    try:
        archive = read_archive(content, now.date())
        pictures = _pictures(archive, unpacked(content)[1])
    except FileRefused as refusal:
        raise Problem(422, str(refusal), field="file") from None
    row = scope.session.scalar(scope.select(SiteRow).where(SiteRow.id == site_id))
    if row is not None:
        return SiteOut.model_validate(row)
    with scope.session.no_autoflush:
        site = _restore(scope, site_id, archive, pictures, now)
    scope.session.flush()
    return SiteOut.model_validate(site)


def _pictures(archive: Archive, files: Mapping[str, bytes]) -> dict[UUID, Photo]:
    """Return the photos of an archive that came with it, each checked as one that is sent."""
    return {picture.id: photo(files[picture.hash]) for picture in archive.photos if picture.hash in files}


def _restore(
    scope: Scope, site_id: UUID, archive: Archive, pictures: Mapping[UUID, Photo], moment: datetime
) -> SiteRow:
    restoring = _Restoring(scope, site_id, archive, pictures)
    values = archive.site.model_dump(mode="json", exclude={"seasons", "chosen", "typed", "elsewhere", "crops"})
    plots = {str(plot.id) for plot in archive.plots}
    values["tasks"] = [
        {**change, "plot_id": str(restoring.new(UUID(change["plot_id"])))}
        for change in values["tasks"]
        if change["plot_id"] in plots
    ]
    workspace = scope.member.workspace
    named = {crop.key: crop.model_dump(mode="json") for crop in archive.site.crops if crop.key not in CROPS}
    if not named.keys() <= workspace.crops.keys():
        workspace.crops = {**named, **workspace.crops}
    values["seasons"] = archive.site.seasons.model_dump(mode="json", exclude_none=True)
    values["chosen"] = [_chosen(choice.model_dump(mode="json"), restoring) for choice in archive.site.chosen]
    values["material"] = restoring.material(archive.site.material)
    values["typed"] = TypedEntry.texts(dict(archive.site.typed))
    values["practice"] = PracticeChoices.model_dump(archive.site.practice, mode="json", exclude_none=True)
    buying = archive.buying.model_dump(mode="json") if archive.buying else {}
    if archive.buying_typed:
        buying["typed"] = TypedEntry.texts(dict(archive.buying_typed))
    site = added(scope, SiteRow(id=site_id, buying=buying, **values))
    today = moment.astimezone(zone_of(site)).date()
    _restore_ground(scope, site, restoring)
    for entry in (*archive.ledger, *archive.corrected):
        if entry.on > today:
            name = next((plot.name for plot in archive.plots if plot.id == entry.plot_id), archive.site.name)
            raise Problem(422, f"The log of “{name}” has an entry for a day in the future.", field="file")
        scope.session.add(_of(scope, _restored_entry(entry, site.id, restoring, pictures, moment)))
    for picture in archive.photos:
        if picture.id in pictures:
            scope.session.add(_of(scope, _restored_photo(picture, pictures[picture.id], site.id, restoring, moment)))
    for number, lessons_of_site in enumerate(_by_site(archive.site.elsewhere)):
        lessons = {restoring.material(key) or key: list(lesson) for key, lesson in lessons_of_site.items()}
        row = SiteLessonRow(id=uuid5(site.id, f"elsewhere {number}"), site_id=site.id, lessons=lessons)
        scope.session.add(_of(scope, row))
    _restore_stock(scope, site, restoring)
    for day in archive.weather:
        scope.session.add(_of(scope, WEATHER.row_of(day, site_id=site.id)))
    for quote in archive.quotes:
        quoted = QUOTE.row_of(quote, restoring.new, site_id=site.id, created_at=min(moment, quote.created_at))
        scope.session.add(_of(scope, quoted))
    return site


def _restored_entry(
    entry: ArchivedEntry, site_id: UUID, restoring: _Restoring, pictures: Mapping[UUID, Photo], moment: datetime
) -> LedgerRow:
    values = entry.entry.model_dump(mode="json")
    if isinstance(entry.entry, Laid | Spread):
        values["material"] = restoring.material(entry.entry.material) or USUAL_MATERIAL
    return LEDGER.row_of(
        entry,
        restoring.new,
        site_id=site_id,
        entry=values,
        typed=_texts(entry.typed),
        created_at=min(moment, entry.written_at),
        photos=[str(restoring.new(key)) for key in entry.photos if key in pictures],
        deleted_at=entry.deleted_at if isinstance(entry, ArchivedCorrection) else None,
    )


def _restored_photo(
    archived: ArchivedPhoto, picture: Photo, site_id: UUID, restoring: _Restoring, moment: datetime
) -> PhotoRow:
    return PHOTO.row_of(
        archived,
        restoring.new,
        site_id=site_id,
        hash=keep_photo(picture),
        width=picture.width,
        height=picture.height,
        size=len(picture.jpeg),
        created_at=min(moment, archived.created_at),
    )


def _by_site(elsewhere: Mapping[str, Sequence[tuple[float, float]]]) -> list[dict[str, tuple[float, float]]]:
    """Return what other sites said, a row each."""
    most = max((len(lessons) for lessons in elsewhere.values()), default=0)
    return [
        {key: lessons[number] for key, lessons in elsewhere.items() if number < len(lessons)} for number in range(most)
    ]


def _of(scope: Scope, row: Any) -> Any:
    row.workspace_id = scope.workspace_id
    return row


def _chosen(chosen: dict[str, Any], restoring: _Restoring) -> dict[str, Any]:
    """Return a choice of loads with the ids that suppliers have here."""
    ids = {str(old): str(new) for old, new in restoring.suppliers.items()}
    lines = [{**line, "source": ids.get(line["source"], line["source"])} for line in chosen["lines"]]
    return {**chosen, "lines": lines}


def _restore_ground(scope: Scope, site: SiteRow, restoring: _Restoring) -> None:
    archive = restoring.archive
    for number, plot in enumerate(archive.plots, 1):
        recipe = plot.recipe.model_dump(mode="json")
        recipe["material"] = restoring.material(plot.recipe.material)
        if plot.recipe.accepts is not None:
            recipe["accepts"] = [key for material in plot.recipe.accepts if (key := restoring.material(material))]
        row = PLOT.row_of(
            plot,
            restoring.new,
            site_id=site.id,
            ordinal=number,
            typed=_texts(plot.typed),
            recipe=recipe,
        )
        scope.session.add(_of(scope, row))
    moment = scope.clock.now()
    for number, landmark in enumerate(archive.landmarks):
        written_at = moment.replace(microsecond=min(999_999, number))
        mark = LANDMARK.row_of(
            landmark, restoring.new, site_id=site.id, typed=_texts(landmark.typed), created_at=written_at
        )
        scope.session.add(_of(scope, mark))
    scope.session.flush()


def _restore_stock(scope: Scope, site: SiteRow, restoring: _Restoring) -> None:
    archive, index = restoring.archive, scope.clock.now()
    places = {landmark.id for landmark in archive.landmarks}
    plots = {plot.id for plot in archive.plots}
    for number, pile in enumerate(archive.piles):
        where = restoring.new(pile.landmark_id) if pile.landmark_id in places and pile.landmark_id else None
        written_at = index.replace(microsecond=min(999_999, number))
        row = PILE.row_of(pile, restoring.new, site_id=site.id, landmark_id=where, created_at=written_at)
        scope.session.add(_of(scope, row))
    for number, delivery in enumerate(archive.deliveries):
        supplier = restoring.suppliers.get(delivery.supplier_id) if delivery.supplier_id else None
        offer = _restored_offer(scope, site, delivery.offer) if delivery.offer else None
        load = DELIVERY.row_of(
            delivery,
            restoring.new,
            site_id=site.id,
            supplier_id=supplier,
            offer_id=offer,
            material=restoring.material(delivery.material) or USUAL_MATERIAL,
            typed=_texts(delivery.typed),
            photo_id=restoring.photo(delivery.photo_id),
            created_at=index.replace(microsecond=min(999_999, number)),
        )
        scope.session.add(_of(scope, load))
    scope.session.flush()
    for line in archive.lines:
        # One after the other: the order in which they are written is that of the book.
        plot = restoring.new(line.plot_id) if line.plot_id in plots and line.plot_id else None
        added(scope, BOOK.row_of(line, restoring.new, site_id=site.id, plot_id=plot))


def _restored_offer(scope: Scope, site: SiteRow, offer: ArchivedOffer) -> UUID | None:
    """Keep the offer that a load came with; one that this workspace has already stays as it is."""
    same_offers = scope.session.scalar(
        scope.select(OfferRow).with_only_columns(func.count()).where(OfferRow.reference == offer.reference)
    )
    if same_offers:
        return None
    row = OFFER.row_of(offer, site_id=site.id)
    return added(scope, row).id
