"""What lies on piles, what is expected, and where each cubic metre came from."""

import csv
import io
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from uuid import UUID

from ulmatic.accounts.scope import Scope
from ulmatic.core.decay import climate_factor, stage_after
from ulmatic.core.materials import CATALOGUE, USUAL_MATERIAL, Stage
from ulmatic.core.stock.books import Books, Entry, books_of
from ulmatic.core.stock.heap import TipPlan, stand, tip_plan
from ulmatic.core.stock.load_size import LoadSize
from ulmatic.core.survey import Way
from ulmatic.core.units import UnitSystem
from ulmatic.core.units.money import YARD3_M3
from ulmatic.formats.tables import harmless
from ulmatic.materials.service import Shelf
from ulmatic.recipe.service import Around
from ulmatic.stock.schemas import DeliveryOut, EntryOut, Laid, Lot, PileOut, StockSheet
from ulmatic.supply.models import DeliveryRow, EntryRow, PileRow
from ulmatic.survey.models import LandmarkRow, PlotRow, SiteRow
from ulmatic.survey.schemas import LandmarkOut
from ulmatic.survey.surveyed import around_site, landmark_rows, plot_rows


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

    def expected(self) -> list[tuple[DeliveryRow, float]]:
        """Return the loads that are still to come, with their m³ at the mean of what was promised."""
        return [
            (row, LoadSize(**{key: row.promised[key] for key in LoadSize.model_fields}).mean_m3)
            for row in self.deliveries.values()
            if row.state == "expected"
        ]


def entry_of(row: EntryRow) -> Entry[UUID]:
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
        books=books_of(entry_of(row) for row in entries),
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


def books_csv(scope: Scope, site_id: UUID) -> bytes:
    """Return the books as CSV in UTF-8 with a byte order mark, the first line first; volumes in m³."""
    out = io.StringIO(newline="")
    writer = csv.writer(out)
    writer.writerow(["on", "what", "pile", "to or from", "m3", "by", "note"])
    for one in reversed(stock_sheet(scope, site_id).entries):
        words = [harmless(text) for text in (one.pile, one.to or "", one.by, one.note)]
        writer.writerow([one.on.isoformat(), one.kind, words[0], words[1], f"{one.volume_m3:.6g}", words[2], words[3]])
    return out.getvalue().encode("utf-8-sig")
