"""Deliveries, piles and their books: what is where, and where it came from."""

import csv
import io
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import UTC, date, datetime
from uuid import UUID

from ulmatic.accounts.scope import Scope
from ulmatic.core.decay import climate_factor, stage_after
from ulmatic.core.materials import CATALOGUE, USUAL_MATERIAL, Stage
from ulmatic.core.supply import (
    Books,
    Entry,
    LoadSize,
    NotThere,
    TipPlan,
    books_of,
    measured_volume,
    stand,
    tip_plan,
)
from ulmatic.core.survey import Tip, Way
from ulmatic.core.units import UnitSystem
from ulmatic.core.units.money import YARD3_M3
from ulmatic.core.working import Figure
from ulmatic.formats.files import FileRefused
from ulmatic.formats.photos import photo
from ulmatic.formats.tables import harmless
from ulmatic.materials.service import Shelf, known
from ulmatic.problems import Problem
from ulmatic.recipe.service import Around
from ulmatic.supply.models import DeliveryRow, EntryRow, PileRow
from ulmatic.supply.schemas import (
    Arrival,
    DeliveryEntry,
    DeliveryOut,
    EntryOut,
    Laid,
    Lot,
    NewDelivery,
    PileEntry,
    PileOut,
    ReceiptEntry,
    StockSheet,
)
from ulmatic.supply.suppliers import buying_of
from ulmatic.survey.models import LandmarkRow, PlotRow, SiteRow
from ulmatic.survey.schemas import LandmarkOut
from ulmatic.survey.service import around_site, landmark_rows, one_landmark, one_plot, plot_rows
from ulmatic.writes import added, next_version

MOST_ENTRIES = 20_000
MOST_DELIVERIES = 2_000


@dataclass(frozen=True)
class Stock:
    """The piles, loads and books of a site."""

    piles: dict[UUID, PileRow]
    deliveries: dict[UUID, DeliveryRow]
    entries: Sequence[EntryRow]
    books: Books[UUID]

    def lots(self, pile_id: UUID) -> dict[UUID, float]:
        """Return the m³ on a pile by load."""
        return {load: amount for load, amount in self.books.piles.get(pile_id, {}).items() if amount > 1e-9}

    def by_material(self, pile_id: UUID) -> dict[str, float]:
        """Return the m³ on a pile by material."""
        found: dict[str, float] = {}
        for load, amount in self.lots(pile_id).items():
            material = self.deliveries[load].material
            found[material] = found.get(material, 0.0) + amount
        return found

    def expected(self) -> list[DeliveryRow]:
        """Return the loads that are still to come."""
        return [row for row in self.deliveries.values() if row.state == "expected"]


def _entry(row: EntryRow) -> Entry[UUID]:
    return Entry[UUID].model_validate(
        {
            "kind": row.kind, "pile": row.pile_id, "volume_m3": row.volume_m3, "load": row.delivery_id,
            "plot": row.plot_id, "to_pile": row.to_pile_id,
        }
    )  # fmt: skip


def entry_rows(scope: Scope, site: SiteRow) -> Sequence[EntryRow]:
    """Return the lines of a site's books in their order."""
    query = scope.select(EntryRow).where(EntryRow.site_id == site.id).order_by(EntryRow.ordinal)
    return scope.session.scalars(query).all()


def stock_of(scope: Scope, site: SiteRow) -> Stock:
    """Return what lies on a site's piles and is expected there."""
    piles = scope.session.scalars(
        scope.select(PileRow).where(PileRow.site_id == site.id).order_by(PileRow.created_at, PileRow.id)
    ).all()
    deliveries = scope.session.scalars(
        scope.select(DeliveryRow).where(DeliveryRow.site_id == site.id).order_by(DeliveryRow.created_at, DeliveryRow.id)
    ).all()
    entries = entry_rows(scope, site)
    return Stock(
        piles={one.id: one for one in piles},
        deliveries={one.id: one for one in deliveries},
        entries=entries,
        books=books_of(_entry(row) for row in entries),
    )


def laid_on(scope: Scope, site: SiteRow, stock: Stock) -> dict[UUID, float]:
    """Return the m³ that were laid on each plot since its depth was last said."""
    since = {row.id: row.existing_at for row in plot_rows(scope, site)}
    laid: dict[UUID, float] = {}
    for row in stock.entries:
        if row.kind == "lay" and row.plot_id in since and row.created_at > since[row.plot_id]:
            laid[row.plot_id] = laid.get(row.plot_id, 0.0) + row.volume_m3
    return laid


def stage_at(around: Around, material_key: str, chipped: date | None, later_days: int = 0) -> Stage:
    """Return the stage of a material by the day it was chipped."""
    material = around.shelf.get(material_key) or CATALOGUE[USUAL_MATERIAL]
    age = max(0, (around.today - chipped).days) if chipped else 0
    return stage_after(material, age + later_days, climate_factor(around.normals))


def stands(landmarks: Sequence[LandmarkRow], landmark_id: UUID | None, volume_m3: float) -> TipPlan | None:
    """Say how a volume stands on a tip or pile place; None where that has no size."""
    row = next((one for one in landmarks if one.id == landmark_id), None)
    if row is None:
        return None
    where = LandmarkOut.model_validate(row).landmark
    if isinstance(where, Way):
        return None
    return tip_plan(row.name, volume_m3, where.length_m, where.width_m, where.to_wall_m)


def stock_sheet(scope: Scope, site_id: UUID) -> StockSheet:
    """Return a site's piles, loads and books."""
    site = scope.one(SiteRow, site_id)
    stock, around = stock_of(scope, site), around_site(scope, site)
    plots = {row.id: row.name for row in [*plot_rows(scope, site), *_deleted_plots(scope, site)]}
    landmarks = landmark_rows(scope, site)
    return StockSheet(
        piles=[_pile_out(row, stock, around, landmarks) for row in stock.piles.values()],
        deliveries=[_delivery_out(row, stock, around.shelf, plots) for row in reversed(stock.deliveries.values())],
        entries=_entries_out(stock, plots),
    )


def _deleted_plots(scope: Scope, site: SiteRow) -> Sequence[PlotRow]:
    return scope.session.scalars(scope.select(PlotRow, deleted=True).where(PlotRow.site_id == site.id)).all()


def _name(shelf: Shelf, key: str) -> str:
    return shelf[key].name if key in shelf else key


def _pile_out(row: PileRow, stock: Stock, around: Around, landmarks: Sequence[LandmarkRow]) -> PileOut:
    volume = stock.books.stock(row.id)
    own = [one for one in stock.entries if row.id in (one.pile_id, one.to_pile_id)]
    plan = stands(landmarks, row.landmark_id, volume)
    return PileOut(
        id=row.id,
        name=row.name,
        landmark_id=row.landmark_id,
        stock_m3=volume,
        lots=[
            Lot(
                delivery_id=load,
                name=(delivery := stock.deliveries[load]).name,
                material=delivery.material,
                material_name=_name(around.shelf, delivery.material),
                stage=stage_at(around, delivery.material, _born(delivery)),
                age_days=max(0, (around.today - (_born(delivery) or around.today)).days),
                volume_m3=amount,
            )
            for load, amount in stock.lots(row.id).items()
        ],
        heap=plan.heap if plan else stand(volume),
        plan=plan,
        turned_on=max((one.on for one in own if one.kind == "turn"), default=None),
        since=min((one.on for one in own if one.kind != "turn"), default=None),
    )


def _born(delivery: DeliveryRow) -> date | None:
    return delivery.chipped_on or delivery.received_on


def _delivery_out(row: DeliveryRow, stock: Stock, shelf: Shelf, plots: dict[UUID, str]) -> DeliveryOut:
    books = stock.books
    return DeliveryOut(
        id=row.id,
        name=row.name,
        supplier_id=row.supplier_id,
        state=row.state,
        material=row.material,
        material_name=_name(shelf, row.material),
        size=LoadSize.model_validate(row.promised),
        expected_on=row.expected_on,
        received_on=row.received_on,
        chipped_on=row.chipped_on,
        volume_m3=row.volume_m3,
        cost=row.cost,
        currency=row.currency,
        note=row.note,
        has_photo=row.has_photo,
        from_offer=row.offer_id is not None,
        typed=row.typed,
        version=row.version,
        on_piles_m3=sum(lots.get(row.id, 0.0) for lots in books.piles.values()),
        on_plots=[
            Laid(plot_id=plot, plot=plots.get(plot, "a plot that is gone"), volume_m3=lots[row.id])
            for plot, lots in books.plots.items()
            if lots.get(row.id, 0.0) > 1e-9
        ],
        away_m3=books.away.get(row.id, 0.0),
        shrunk_m3=books.shrunk.get(row.id, 0.0),
    )


def _entries_out(stock: Stock, plots: dict[UUID, str]) -> list[EntryOut]:
    made = []
    for row in reversed(stock.entries):
        to = None
        if row.plot_id is not None:
            to = plots.get(row.plot_id, "a plot that is gone")
        elif row.to_pile_id is not None and row.to_pile_id in stock.piles:
            to = stock.piles[row.to_pile_id].name
        elif row.delivery_id is not None:
            to = stock.deliveries[row.delivery_id].name
        made.append(
            EntryOut(
                id=row.id, kind=row.kind, pile=stock.piles[row.pile_id].name, to=to, volume_m3=row.volume_m3,
                on=row.on, by=row.by, note=row.note, last=row is stock.entries[-1],
            )
        )  # fmt: skip
    return made


def in_words(m3: float, units: str) -> str:
    """Return a volume in a site's units, for a sentence."""
    amount, unit = (m3 / YARD3_M3, "yd³") if units == UnitSystem.US else (m3, "m³")
    return f"{amount:.3g} {unit}"


def _locked(scope: Scope, site_id: UUID) -> SiteRow:
    """Return a site's row, held until the commit: whoever writes into its books does so one after the other."""
    return scope.one(SiteRow, site_id, lock=True)


def add_delivery(scope: Scope, site_id: UUID, entry: NewDelivery, offer_id: UUID | None = None) -> DeliveryRow:
    """Keep a load that is expected; the same id again returns the one that is there."""
    site = _locked(scope, site_id)
    there = scope.session.scalar(scope.select(DeliveryRow).where(DeliveryRow.id == entry.id))
    if there is not None:
        return one_delivery(scope, site_id, entry.id)
    around = around_site(scope, site)
    known(around.shelf, entry.material, "material")
    return _new_delivery(
        scope, site, entry.id, name=entry.name, state="expected", material=entry.material,
        promised=_size(entry).model_dump(), expected_on=entry.expected_on, cost=entry.cost, note=entry.note,
        supplier_id=entry.supplier_id, offer_id=offer_id, typed={**entry.typed(), "units": entry.units.value},
    )  # fmt: skip


def _size(entry: DeliveryEntry) -> LoadSize:
    least, most = entry.least_m3 or entry.likely_m3, entry.most_m3 or entry.likely_m3
    if not least <= entry.likely_m3:
        raise Problem(422, "The least a load holds cannot be more than what is likely.", field="least_m3")
    if not entry.likely_m3 <= most:
        raise Problem(422, "The most a load holds cannot be less than what is likely.", field="most_m3")
    return LoadSize(least_m3=least, likely_m3=entry.likely_m3, most_m3=most)


def _new_delivery(scope: Scope, site: SiteRow, key: UUID, **values: object) -> DeliveryRow:
    count = len(scope.session.scalars(scope.select(DeliveryRow).where(DeliveryRow.site_id == site.id)).all())
    if count >= MOST_DELIVERIES:
        raise Problem(409, f"A site keeps {MOST_DELIVERIES:,} loads at most.")
    blank = dict.fromkeys(
        ("supplier_id", "offer_id", "expected_on", "received_on", "chipped_on", "measured", "volume_m3", "photo")
    )
    currency = buying_of(site).currency
    return added(
        scope, DeliveryRow(id=key, site_id=site.id, **{**blank, "currency": currency, "has_photo": False, **values})
    )


def one_delivery(scope: Scope, site_id: UUID, delivery_id: UUID, *, deleted: bool = False) -> DeliveryRow:
    """Return a delivery's row, locked, if it belongs to that site."""
    row = scope.one(DeliveryRow, delivery_id, deleted=deleted, lock=True)
    if row.site_id != scope.one(SiteRow, site_id).id:
        raise Problem(404, f"There is no such {DeliveryRow.noun} here.")
    return row


def cancel(scope: Scope, site_id: UUID, delivery_id: UUID) -> None:
    """Say that an expected load does not come; `restoration` takes that back."""
    row = one_delivery(scope, site_id, delivery_id)
    if row.state != "expected":
        raise Problem(409, "This load has come already. Take back what the books say of it first.")
    row.state = "cancelled"


def expect_again(scope: Scope, site_id: UUID, delivery_id: UUID) -> None:
    """Take back that a load does not come."""
    row = one_delivery(scope, site_id, delivery_id)
    if row.state == "cancelled":
        row.state = "expected"


def volume_of(around: Around, entry: ReceiptEntry) -> Figure:
    """Return the m³ of what came, with its working."""
    material = known(around.shelf, entry.material, "material") or CATALOGUE[USUAL_MATERIAL]
    return _within(measured_volume(entry.measured, material))


def _within(volume: Figure) -> Figure:
    if volume.value > 5_000:
        raise Problem(422, "That is more than any site takes. Is the unit right?", field="measured")
    return volume


def receive(scope: Scope, site_id: UUID, delivery_id: UUID, entry: ReceiptEntry, if_match: str | None) -> None:
    """Receive a load that was expected."""
    site = _locked(scope, site_id)
    row = one_delivery(scope, site_id, delivery_id)
    if row.state == "received":
        raise Problem(409, "This load was received already.")
    next_version(row, if_match)
    _received(scope, site, row, entry)


def receive_unexpected(scope: Scope, site_id: UUID, entry: Arrival) -> None:
    """Receive a load that nobody expected; the same id again changes nothing."""
    site = _locked(scope, site_id)
    if scope.session.scalar(scope.select(DeliveryRow).where(DeliveryRow.id == entry.id)) is not None:
        one_delivery(scope, site_id, entry.id)
        return
    around = around_site(scope, site)
    volume = volume_of(around, entry).value
    row = _new_delivery(
        scope, site, entry.id, name=entry.name, state="expected", material=entry.material, cost=entry.cost,
        promised=LoadSize(least_m3=volume, likely_m3=volume, most_m3=volume).model_dump(), note=entry.note,
        typed={**entry.typed(), "units": entry.units.value},
    )  # fmt: skip
    _received(scope, site, row, entry)


def _received(scope: Scope, site: SiteRow, row: DeliveryRow, entry: ReceiptEntry) -> None:
    around = around_site(scope, site)
    volume = volume_of(around, entry)
    pile = _pile(scope, site, entry.pile_id, entry.landmark_id)
    row.state, row.material, row.volume_m3 = "received", entry.material, volume.value
    row.received_on, row.chipped_on = entry.received_on, entry.chipped_on
    row.measured = entry.measured.model_dump(mode="json")
    row.note = entry.note or row.note
    _write(scope, site, row.id, kind="receive", pile_id=pile.id, delivery_id=row.id, volume_m3=volume.value,
           on=entry.received_on)  # fmt: skip


def _pile(scope: Scope, site: SiteRow, pile_id: UUID | None, landmark_id: UUID | None) -> PileRow:
    """Return the pile that was meant; a place that bears none gets one."""
    piles = scope.session.scalars(scope.select(PileRow).where(PileRow.site_id == site.id)).all()
    if pile_id is not None:
        found = next((one for one in piles if one.id == pile_id), None)
        if found is None:
            raise Problem(422, "There is no such pile here. Please choose one of those offered.", field="pile_id")
        return found
    there = next((one for one in piles if one.landmark_id == landmark_id), None)
    if there is not None:
        return there
    name = "Heap"
    if landmark_id is not None:
        try:
            landmark = one_landmark(scope, site.id, landmark_id)
        except Problem:
            raise Problem(422, "There is no such place here any more.", field="landmark_id") from None
        if landmark.landmark["kind"] == "way":
            raise Problem(422, "A way is no place for a heap.", field="landmark_id")
        name = landmark.name
    return added(scope, PileRow(site_id=site.id, landmark_id=landmark_id, name=name))


def _write(scope: Scope, site: SiteRow, key: UUID, **values: object) -> EntryRow:
    """Put a line into the books, or raise the 409 problem where the pile does not hold that much."""
    blank = {"delivery_id": None, "plot_id": None, "to_pile_id": None, "note": ""}
    row = EntryRow(
        id=key, site_id=site.id, by=scope.member.user.name, created_at=datetime.now(UTC), **{**blank, **values}
    )
    rows = entry_rows(scope, site)
    if len(rows) >= MOST_ENTRIES:
        raise Problem(409, f"The books of a site hold {MOST_ENTRIES:,} lines at most.")
    books = books_of(_entry(one) for one in rows)
    try:
        books.enter(_entry(row))
    except NotThere as short:
        raise _too_much(scope, site, rows, short) from None
    return added(scope, row)


def _too_much(scope: Scope, site: SiteRow, rows: Sequence[EntryRow], short: NotThere) -> Problem:
    name = scope.session.scalars(scope.select(PileRow).where(PileRow.id == short.pile)).one().name
    last = next((one for one in reversed(rows) if one.pile_id == short.pile and one.kind != "receive"), None)
    there = in_words(short.there_m3, site.units)
    said = f"Only {there} lie on “{name}” now" if short.there_m3 > 1e-6 else f"Nothing lies on “{name}” any more"
    if last is not None:
        verb = {"measure": "measured it at", "turn": "turned"}.get(last.kind, "took")
        said += f"; {last.by} last {verb} {in_words(last.volume_m3, site.units)}" if last.kind != "turn" else ""
    return Problem(409, f"{said}. Nothing was changed.", field="measured")


def change_pile(scope: Scope, site_id: UUID, pile_id: UUID, entry: PileEntry) -> None:
    """Lay, move, take away, measure or turn; the same id again changes nothing.

    Lines are written one after the other, so two people who draw from one pile never draw it below nothing: the
    second gets the 409 problem.
    """
    site = _locked(scope, site_id)
    pile = scope.one(PileRow, pile_id)
    if pile.site_id != site.id:
        raise Problem(404, f"There is no such {PileRow.noun} here.")
    if scope.session.scalar(scope.select(EntryRow).where(EntryRow.id == entry.id)) is not None:
        return
    around = around_site(scope, site)
    volume = 0.0
    if entry.kind != "turn":
        if entry.measured is None:
            raise Problem(422, "Say how much.", field="measured")
        stock = stock_of(scope, site)
        materials = stock.by_material(pile.id)
        material = max(materials, key=materials.__getitem__, default=USUAL_MATERIAL)
        volume = _within(measured_volume(entry.measured, around.shelf.get(material) or CATALOGUE[material])).value
    values: dict[str, object] = {}
    if entry.kind == "lay":
        if entry.plot_id is None:
            raise Problem(422, "Say on which plot.", field="plot_id")
        try:
            values["plot_id"] = one_plot(scope, site_id, entry.plot_id).id
        except Problem:
            raise Problem(422, "This plot is not here any more.", field="plot_id") from None
    elif entry.kind == "move":
        if entry.to_pile_id is None and entry.to_landmark_id is None:
            raise Problem(422, "Say where to.", field="to_landmark_id")
        other = _pile(scope, site, entry.to_pile_id, entry.to_landmark_id)
        if other.id == pile.id:
            raise Problem(422, "It lies there already.", field="to_landmark_id")
        values["to_pile_id"] = other.id
    values |= {"kind": entry.kind, "volume_m3": volume, "on": entry.on, "note": entry.note}
    _write(scope, site, entry.id, pile_id=pile.id, **values)


def take_back(scope: Scope, site_id: UUID, entry_id: UUID) -> None:
    """Take back the last line of the books; nothing else can be, as later lines rest on it."""
    site = _locked(scope, site_id)
    row = scope.one(EntryRow, entry_id)
    if row.site_id != site.id:
        raise Problem(404, f"There is no such {EntryRow.noun} here.")
    rows = entry_rows(scope, site)
    if rows[-1].id != row.id:
        raise Problem(409, "Only the last line can be taken back. Measure the pile again instead.")
    scope.delete(row)
    if row.kind == "receive" and row.delivery_id is not None:
        delivery = one_delivery(scope, site_id, row.delivery_id)
        delivery.state, delivery.volume_m3, delivery.received_on = "expected", None, None
        delivery.version += 1


def tips_of(landmarks: Sequence[LandmarkOut]) -> list[tuple[LandmarkOut, Tip]]:
    """Return the tips among landmarks."""
    return [(one, one.landmark) for one in landmarks if isinstance(one.landmark, Tip)]


def put_photo(scope: Scope, site_id: UUID, delivery_id: UUID, content: bytes) -> None:
    """Keep a photograph of a load."""
    row = one_delivery(scope, site_id, delivery_id)
    try:
        row.photo, row.has_photo = photo(content), True
    except FileRefused as refusal:
        raise Problem(422, str(refusal), field="photo") from None


def read_photo(scope: Scope, site_id: UUID, delivery_id: UUID) -> bytes:
    """Return the photograph of a load."""
    row = one_delivery(scope, site_id, delivery_id)
    if row.photo is None:
        raise Problem(404, "There is no photograph of this load.")
    return row.photo


def books_csv(scope: Scope, site_id: UUID) -> bytes:
    """Return the books as CSV in UTF-8 with a byte order mark, the first line first; volumes in m³."""
    out = io.StringIO(newline="")
    writer = csv.writer(out)
    writer.writerow(["on", "what", "pile", "to or from", "m3", "by", "note"])
    for one in reversed(stock_sheet(scope, site_id).entries):
        words = [harmless(text) for text in (one.pile, one.to or "", one.by, one.note)]
        writer.writerow([one.on.isoformat(), one.kind, words[0], words[1], f"{one.volume_m3:.6g}", words[2], words[3]])
    return out.getvalue().encode("utf-8-sig")
