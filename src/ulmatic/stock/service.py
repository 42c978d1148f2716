"""What lies on piles, what is expected, and where each cubic metre came from."""

import csv
import io
from collections.abc import Mapping, Sequence
from datetime import date
from uuid import UUID

from ulmatic.accounts.scope import Scope
from ulmatic.core.materials import Material
from ulmatic.core.stock import Books, LoadSize, Lot, stand
from ulmatic.formats.cells import harmless
from ulmatic.records.stock import DeliveryRow, PileRow
from ulmatic.records.survey import PlotRow
from ulmatic.site.snapshot import Snapshot, snapshot_of
from ulmatic.site.summaries import stands
from ulmatic.stock.schemas import BookLineOut, DeliveryOut, LaidFrom, LotOut, PileOut, StockSheet


def stock_sheet(scope: Scope, site_id: UUID) -> StockSheet:
    """Return a site's piles, loads and their book, as they are today."""
    snapshot = snapshot_of(scope, site_id)
    plots = {row.id: row.name for row in [*snapshot.plot_rows, *_deleted_plots(scope, snapshot)]}
    books = snapshot.state.store.books(snapshot.today)
    order = snapshot.plan().order(0)
    fit = {(order.lots[index].pile_id, order.lots[index].delivery_id): day for index, day in order.fit_from().items()}
    lots = snapshot.state.lots
    return StockSheet(
        now=snapshot.plan().now,
        piles=[
            _pile_out(snapshot, row, [lot for lot in lots if lot.pile_id == row.id], fit) for row in snapshot.pile_rows
        ],
        deliveries=[
            _delivery_out(row, books, snapshot.site.materials, plots) for row in reversed(snapshot.delivery_rows)
        ],
        lines=_lines_out(snapshot, plots),
    )


def _deleted_plots(scope: Scope, snapshot: Snapshot) -> Sequence[PlotRow]:
    return scope.session.scalars(scope.select(PlotRow, deleted=True).where(PlotRow.site_id == snapshot.row.id)).all()


def _name(materials: Mapping[str, Material], key: str) -> str:
    return materials[key].name if key in materials else key


def _pile_out(
    snapshot: Snapshot, row: PileRow, lots: Sequence[Lot], fit: Mapping[tuple[UUID | None, UUID | None], date]
) -> PileOut:
    volume = sum(lot.volume_m3 for lot in lots)
    lines = [line for line in snapshot.book_rows if row.id in (line.pile_id, line.to_pile_id)]
    names = {delivery.id: delivery.name for delivery in snapshot.delivery_rows}
    plan = stands(snapshot.landmark_rows, row.landmark_id, volume)
    return PileOut(
        id=row.id,
        name=row.name,
        landmark_id=row.landmark_id,
        stock_m3=volume,
        lots=[
            LotOut(
                delivery_id=lot.delivery_id,
                name=names[lot.delivery_id],
                material=lot.material.key,
                material_name=lot.material.name,
                stage=lot.stage(snapshot.today, snapshot.state.climate.clocks[0]),
                age_days=max(0, (snapshot.today - lot.born).days),
                volume_m3=lot.volume_m3,
                fit_from=fit.get((row.id, lot.delivery_id)),
            )
            for lot in lots
            if lot.delivery_id is not None
        ],
        stand=plan.stand if plan else stand(volume),
        plan=plan,
        turned_on=max((line.on for line in lines if line.kind == "turn"), default=None),
        since=min((line.on for line in lines if line.kind != "turn"), default=None),
    )


def _delivery_out(
    row: DeliveryRow, books: Books[UUID], materials: Mapping[str, Material], plots: dict[UUID, str]
) -> DeliveryOut:
    return DeliveryOut(
        id=row.id,
        name=row.name,
        supplier_id=row.supplier_id,
        state=row.state,
        material=row.material,
        material_name=_name(materials, row.material),
        size=LoadSize.model_validate(row.promised),
        expected_on=row.expected_on,
        received_on=row.received_on,
        chipped_on=row.chipped_on,
        volume_m3=row.volume_m3,
        cost=row.cost,
        currency=row.currency,
        note=row.note,
        worries=row.worries,
        photo_id=row.photo_id,
        typed=row.typed,
        from_offer=row.offer_id is not None,
        version=row.version,
        on_piles_m3=sum(lots.get(row.id, 0.0) for lots in books.piles.values()),
        on_plots=[
            LaidFrom(plot_id=plot, plot=plots.get(plot, "a plot that is gone"), volume_m3=lots[row.id])
            for plot, lots in books.plots.items()
            if lots.get(row.id, 0.0) > 1e-9
        ],
        away_m3=books.away.get(row.id, 0.0),
        shrunk_m3=books.shrunk.get(row.id, 0.0),
    )


def _lines_out(snapshot: Snapshot, plots: dict[UUID, str]) -> list[BookLineOut]:
    piles = {row.id: row.name for row in snapshot.pile_rows}
    deliveries = {row.id: row.name for row in snapshot.delivery_rows}
    lines = []
    for row in reversed(snapshot.book_rows):
        to = None
        if row.plot_id is not None:
            to = plots.get(row.plot_id, "a plot that is gone")
        elif row.to_pile_id is not None and row.to_pile_id in piles:
            to = piles[row.to_pile_id]
        elif row.delivery_id is not None:
            to = deliveries[row.delivery_id]
        lines.append(
            BookLineOut(
                id=row.id,
                kind=row.kind,
                pile=piles[row.pile_id],
                to=to,
                volume_m3=row.volume_m3,
                on=row.on,
                by=row.by,
                note=row.note,
                last=row is snapshot.book_rows[-1],
            )
        )
    return lines


def book_csv(scope: Scope, site_id: UUID) -> bytes:
    """Return the books as CSV in UTF-8 with a byte order mark, the first line first; volumes in m³."""
    out = io.StringIO(newline="")
    writer = csv.writer(out)
    writer.writerow(["on", "what", "pile", "to or from", "m3", "by", "note"])
    for line in reversed(stock_sheet(scope, site_id).lines):
        words = [harmless(text) for text in (line.pile, line.to or "", line.by, line.note)]
        writer.writerow(
            [line.on.isoformat(), line.kind, words[0], words[1], f"{line.volume_m3:.6g}", words[2], words[3]]
        )
    return out.getvalue().encode("utf-8-sig")
