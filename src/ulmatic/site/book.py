"""Receiving loads and writing into the book of piles, one line after the other."""

from collections.abc import Mapping
from dataclasses import replace
from uuid import UUID, uuid5

from ulmatic.accounts.scope import Scope
from ulmatic.core.figures import Figure
from ulmatic.core.materials import CATALOGUE, USUAL_MATERIAL, Material
from ulmatic.core.stock import LoadSize, NotThere, measured_volume
from ulmatic.core.stock.delivery import BookLine
from ulmatic.core.units import UnitSystem
from ulmatic.formats.paper import book_words
from ulmatic.platform.problems import Problem
from ulmatic.records.mapping import BOOK
from ulmatic.records.plots import one_landmark, one_plot
from ulmatic.records.stock import BookRow, DeliveryRow, PileRow
from ulmatic.records.survey import SiteRow
from ulmatic.records.writes import added, next_version
from ulmatic.site import photos
from ulmatic.site.book_schemas import Arrival, DeliveryEntry, NewBookLine, NewDelivery, ReceiptEntry
from ulmatic.site.shelf import material_of, shelf
from ulmatic.site.snapshot import Snapshot, buying_at, snapshot_of, today_at

MOST_LINES = 20_000
MOST_DELIVERIES = 2_000


def _locked(scope: Scope, site_id: UUID) -> SiteRow:
    """Return a site's row, held until the commit: whoever writes into its book does so one after the other."""
    return scope.get(SiteRow, site_id, lock=True)


def add_delivery(scope: Scope, site_id: UUID, entry: NewDelivery, offer_id: UUID | None = None) -> DeliveryRow:
    """Keep a load that is expected; the same id again returns the one that is there."""
    site = _locked(scope, site_id)
    row = scope.session.scalar(scope.select(DeliveryRow).where(DeliveryRow.id == entry.id))
    if row is not None:
        return one_delivery(scope, site_id, entry.id)
    material_of(shelf(scope), entry.material, "material")
    suppliers = {supplier.id for supplier in snapshot_of(scope, site_id).site.suppliers}
    if entry.supplier_id is not None and entry.supplier_id not in suppliers:
        raise Problem(422, "This supplier does not exist. Please choose one from the list.", field="supplier_id")
    return _new_delivery(
        scope,
        site,
        entry.id,
        name=entry.name,
        state="expected",
        material=entry.material,
        promised=_size(entry).model_dump(),
        expected_on=entry.expected_on,
        cost=entry.cost,
        note=entry.note,
        worries=list(entry.worries),
        supplier_id=entry.supplier_id,
        offer_id=offer_id,
        typed={**entry.typed(), "units": entry.units.value},
    )


def _size(entry: DeliveryEntry) -> LoadSize:
    least, most = entry.least_m3 or entry.likely_m3, entry.most_m3 or entry.likely_m3
    if not least <= entry.likely_m3:
        raise Problem(422, "The smallest load cannot be larger than the usual load.", field="least_m3")
    if not entry.likely_m3 <= most:
        raise Problem(422, "The largest load cannot be smaller than the usual load.", field="most_m3")
    return LoadSize(least_m3=least, likely_m3=entry.likely_m3, most_m3=most)


def _new_delivery(scope: Scope, site: SiteRow, key: UUID, **values: object) -> DeliveryRow:
    count = len(scope.session.scalars(scope.select(DeliveryRow).where(DeliveryRow.site_id == site.id)).all())
    if count >= MOST_DELIVERIES:
        raise Problem(409, f"A site keeps {MOST_DELIVERIES:,} loads at most.")
    blank = dict.fromkeys(
        ("supplier_id", "offer_id", "expected_on", "received_on", "chipped_on", "measured", "volume_m3", "photo_id")
    )
    currency = buying_at(site).currency
    return added(scope, DeliveryRow(id=key, site_id=site.id, **{**blank, "currency": currency, **values}))


def one_delivery(scope: Scope, site_id: UUID, delivery_id: UUID, *, deleted: bool = False) -> DeliveryRow:
    """Return a delivery's row, locked, if it belongs to that site."""
    row = scope.get(DeliveryRow, delivery_id, deleted=deleted, lock=True)
    if row.site_id != scope.get(SiteRow, site_id).id:
        raise Problem(404, f"There is no such {DeliveryRow.noun} here.")
    return row


def cancel(scope: Scope, site_id: UUID, delivery_id: UUID) -> None:
    """Say that an expected load does not come; `restoration` takes that back."""
    row = one_delivery(scope, site_id, delivery_id)
    if row.state != "expected":
        raise Problem(409, "This load was already received. Undo its entry in the pile record first.")
    row.state = "cancelled"


def expect_again(scope: Scope, site_id: UUID, delivery_id: UUID) -> None:
    """Take back that a load does not come."""
    row = one_delivery(scope, site_id, delivery_id)
    if row.state == "cancelled":
        row.state = "expected"


def volume_of(materials: Mapping[str, Material], entry: ReceiptEntry) -> Figure:
    """Return the m³ of what came, with its working."""
    material = material_of(materials, entry.material, "material") or CATALOGUE[USUAL_MATERIAL]
    return _within(measured_volume(entry.measured, material))


def _within(volume: Figure) -> Figure:
    if volume.value > 5_000:
        raise Problem(422, "This is more than any site needs. Is the unit right?", field="measured")
    return volume


def receive(scope: Scope, site_id: UUID, delivery_id: UUID, entry: ReceiptEntry, if_match: str | None) -> None:
    """Receive a load that was expected."""
    site = _locked(scope, site_id)
    row = one_delivery(scope, site_id, delivery_id)
    if row.state == "received":
        raise Problem(409, "This load was already received.")
    next_version(row, if_match)
    _received(scope, site, row, entry)


def receive_unexpected(scope: Scope, site_id: UUID, entry: Arrival) -> None:
    """Receive a load that nobody expected; the same id again changes nothing."""
    site = _locked(scope, site_id)
    if scope.session.scalar(scope.select(DeliveryRow).where(DeliveryRow.id == entry.id)) is not None:
        one_delivery(scope, site_id, entry.id)
        return
    volume = volume_of(shelf(scope), entry).value
    row = _new_delivery(
        scope,
        site,
        entry.id,
        name=entry.name,
        state="expected",
        material=entry.material,
        cost=entry.cost,
        promised=LoadSize(least_m3=volume, likely_m3=volume, most_m3=volume).model_dump(),
        note=entry.note,
        worries=list(entry.worries),
        typed={**entry.typed(), "units": entry.units.value},
    )
    _received(scope, site, row, entry)


def _received(scope: Scope, site: SiteRow, row: DeliveryRow, entry: ReceiptEntry) -> None:
    volume = volume_of(shelf(scope), entry)
    pile = _pile(scope, site, entry.pile_id, entry.landmark_id)
    row.state, row.material, row.volume_m3 = "received", entry.material, volume.value
    row.received_on, row.chipped_on = entry.received_on, entry.chipped_on
    row.measured = entry.measured.model_dump(mode="json")
    row.note, row.worries = entry.note or row.note, sorted({*entry.worries, *row.worries})
    # Received again after it was taken back it is another line of the book.
    line_id = uuid5(row.id, str(row.version))
    _write(
        scope,
        site,
        line_id,
        kind="receive",
        pile_id=pile.id,
        delivery_id=row.id,
        volume_m3=volume.value,
        on=entry.received_on,
    )


def _pile(scope: Scope, site: SiteRow, pile_id: UUID | None, landmark_id: UUID | None) -> PileRow:
    """Return the pile that was meant; a place that bears none gets one."""
    piles = scope.session.scalars(scope.select(PileRow).where(PileRow.site_id == site.id)).all()
    if pile_id is not None:
        pile = next((row for row in piles if row.id == pile_id), None)
        if pile is None:
            raise Problem(422, "This pile does not exist. Please choose one from the list.", field="pile_id")
        return pile
    pile_of_place = next((row for row in piles if row.landmark_id == landmark_id), None)
    if pile_of_place is not None:
        return pile_of_place
    name = "Pile"
    if landmark_id is not None:
        try:
            landmark = one_landmark(scope, site.id, landmark_id)
        except Problem:
            raise Problem(422, "This place does not exist any more.", field="landmark_id") from None
        if landmark.landmark["kind"] == "way":
            raise Problem(422, "A pile cannot be on a way.", field="landmark_id")
        name = landmark.name
    return added(scope, PileRow(site_id=site.id, landmark_id=landmark_id, name=name))


def _write(scope: Scope, site: SiteRow, key: UUID, **values: object) -> BookRow:
    """Put a line into the book, or raise the 409 problem where the pile does not hold that much."""
    blank = {"delivery_id": None, "plot_id": None, "to_pile_id": None, "note": ""}
    row = BookRow(
        id=key, site_id=site.id, by=scope.member.user.name, created_at=scope.clock.now(), **{**blank, **values}
    )
    if row.on > today_at(scope, site):
        raise Problem(422, "This day is in the future.", field="received_on" if row.kind == "receive" else "on")
    snapshot = snapshot_of(scope, site.id)
    if len(snapshot.book_rows) >= MOST_LINES:
        raise Problem(409, f"The pile record of a site has {MOST_LINES:,} lines at most.")
    store = snapshot.state.store
    written = replace(store, lines=[*store.lines, BOOK.value(BookLine, row)])
    try:
        written.books(max(line.on for line in written.lines))
    except NotThere as short:
        raise _too_much(snapshot, site, short) from None
    return added(scope, row)


def _too_much(snapshot: Snapshot, site: SiteRow, short: NotThere) -> Problem:
    name = next(row.name for row in snapshot.pile_rows if row.id == short.pile)
    last = next(
        (row for row in reversed(snapshot.book_rows) if row.pile_id == short.pile and row.kind != "receive"), None
    )
    units = UnitSystem(site.units)
    available = book_words(short.available_m3, units)
    sentence = f"Only {available} are on “{name}” now" if short.available_m3 > 1e-6 else f"“{name}” is empty"
    if last is not None and last.kind != "turn":
        verb = "measured it at" if last.kind == "measure" else "took"
        sentence += f"; {last.by} last {verb} {book_words(last.volume_m3, units)}"
    return Problem(409, f"{sentence}. Nothing was changed.", field="measured")


def change_pile(scope: Scope, site_id: UUID, pile_id: UUID, entry: NewBookLine) -> None:
    """Lay, move, take away, measure or turn; the same id again changes nothing.

    Lines are written one after the other, so two people who draw from one pile never draw it below nothing: the
    second gets the 409 problem.
    """
    site = _locked(scope, site_id)
    pile = scope.get(PileRow, pile_id)
    if pile.site_id != site.id:
        raise Problem(404, f"There is no such {PileRow.noun} here.")
    if scope.session.scalar(scope.select(BookRow).where(BookRow.id == entry.id)) is not None:
        return
    volume = 0.0
    if entry.kind != "turn":
        if entry.measured is None:
            raise Problem(422, "Enter an amount.", field="measured")
        lots = [lot for lot in snapshot_of(scope, site_id).state.lots if lot.pile_id == pile.id]
        most = max(lots, key=lambda lot: lot.volume_m3, default=None)
        volume = _within(measured_volume(entry.measured, most.material if most else CATALOGUE[USUAL_MATERIAL])).value
    values: dict[str, object] = {}
    if entry.kind == "lay":
        if entry.plot_id is None:
            raise Problem(422, "Choose a plot.", field="plot_id")
        try:
            values["plot_id"] = one_plot(scope, site_id, entry.plot_id).id
        except Problem:
            raise Problem(422, "This plot does not exist any more.", field="plot_id") from None
    elif entry.kind == "move":
        if entry.to_pile_id is None and entry.to_landmark_id is None:
            raise Problem(422, "Choose a place.", field="to_landmark_id")
        other = _pile(scope, site, entry.to_pile_id, entry.to_landmark_id)
        if other.id == pile.id:
            raise Problem(422, "The pile is already there.", field="to_landmark_id")
        values["to_pile_id"] = other.id
    values |= {"kind": entry.kind, "volume_m3": volume, "on": entry.on, "note": entry.note}
    _write(scope, site, entry.id, pile_id=pile.id, **values)


def take_back(scope: Scope, site_id: UUID, entry_id: UUID) -> None:
    """Take back the last line of the book; nothing else can be, as later lines rest on it."""
    site = _locked(scope, site_id)
    row = scope.get(BookRow, entry_id)
    if row.site_id != site.id:
        raise Problem(404, f"There is no such {BookRow.noun} here.")
    rows = snapshot_of(scope, site_id).book_rows
    if rows[-1].id != row.id:
        raise Problem(409, "Only the last line can be undone. Measure the pile again instead.")
    scope.delete(row)
    if row.kind == "receive" and row.delivery_id is not None:
        delivery = one_delivery(scope, site_id, row.delivery_id)
        delivery.state, delivery.volume_m3, delivery.received_on = "expected", None, None
        delivery.version += 1


def put_photo(scope: Scope, site_id: UUID, delivery_id: UUID, photo_id: UUID, content: bytes) -> None:
    """Keep a photo of a load."""
    row = one_delivery(scope, site_id, delivery_id)
    row.photo_id = photos.put_photo(scope, site_id, photo_id, content).id
