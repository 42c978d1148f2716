"""A site's log in and out of tables."""

from typing import Any
from uuid import UUID, uuid5

from pydantic import ValidationError

from ulmatic.accounts.scope import Scope
from ulmatic.core.log import Trees
from ulmatic.formats import FileRefused
from ulmatic.formats.cells import write_csv, write_xlsx
from ulmatic.formats.log_tables import COLUMNS, WORDS, LogCells, LogRow, heading_of, read_log, rows_of
from ulmatic.platform.problems import Problem, Sentences
from ulmatic.site import ledger as service
from ulmatic.site.ledger_schemas import LoggedRow, LogImport, NewLogEntry
from ulmatic.site.schemas import RowError
from ulmatic.site.snapshot import Snapshot, snapshot_of


def log_table(scope: Scope, site_id: UUID, ending: str) -> bytes:
    """Return the log of a site as CSV or XLSX."""
    snapshot = snapshot_of(scope, site_id)
    plots = {plot.id: plot.plot.name for plot in snapshot.site.plots}
    piles = {pile.id: pile.name for pile in snapshot.site.piles}
    materials = {key: material.name for key, material in snapshot.site.materials.items()}
    rows = rows_of(
        LogCells(
            id=str(logged.id),
            plot=plots.get(logged.plot_id, "") if logged.plot_id else "",
            day=logged.on.isoformat(),
            entry=logged.entry.model_dump(mode="json"),
            typed=_texts(logged.typed),
            by=logged.by,
            from_pile=logged.in_book,
            material=materials.get(getattr(logged.entry, "material", ""), ""),
            trees=_trees(logged.trees),
            note=logged.note,
            pile="" if logged.in_book or logged.pile_id is None else piles.get(logged.pile_id, ""),
        )
        for logged in service.log_of(snapshot)
    )
    return write_csv(rows, COLUMNS) if ending == "csv" else write_xlsx(rows, COLUMNS, "Log")


def _trees(trees: Trees | None) -> str:
    if trees is None:
        return ""
    return str(trees.first) if trees.first == trees.last else f"{trees.first}-{trees.last}"


def _texts(typed: dict[str, Any]) -> dict[str, str]:
    """Return the texts of an entry; of a depth typed as spread none, as it is kept and written settled."""
    texts = dict(typed.get("entry", {}))
    if typed.get("depth_as") == "spread":
        texts.pop("depth_mm", None)
    return texts


def import_log(scope: Scope, site_id: UUID, name: str, content: bytes, *, keep: bool) -> LogImport:
    """Read a log from a table and, when asked to and nothing is wrong, add what is not there yet.

    Depths are settled. Layings from piles stand in the piles' book and are left out. Sent twice, it is added once.
    """
    snapshot = snapshot_of(scope, site_id)
    try:
        rows = read_log(name, content)
    except FileRefused as refusal:
        raise Problem(422, str(refusal), field="file") from None
    errors: list[RowError] = []
    entries: list[tuple[LogRow, NewLogEntry]] = []
    names = {material.name.lower(): key for key, material in snapshot.site.materials.items()}
    piles = {pile.name.lower(): pile.id for pile in snapshot.site.piles}
    plots: dict[str, list[UUID]] = {}
    for plot in snapshot.site.plots:
        plots.setdefault(plot.plot.name.lower(), []).append(plot.id)
    for row in rows:
        if row.from_pile:
            continue
        named = plots.get(row.plot.lower(), [])
        if row.plot and len(named) != 1:
            how = "There is no plot" if not named else "There is more than one plot"
            errors.append(RowError(row=row.number, column="plot", detail=f"{how} called “{row.plot[:80]}” here."))
            continue
        material = row.entry.get("material")
        entry = row.entry if material is None else {**row.entry, "material": names.get(material.lower(), material)}
        try:
            new = NewLogEntry.model_validate(
                {
                    "id": _entry_id(site_id, row),
                    "plot_id": named[0] if row.plot else None,
                    "on": row.day,
                    "entry": entry,
                    "units": snapshot.site.units,
                    "trees": row.trees,
                    "note": row.note,
                    "pile_id": piles.get(row.pile.lower()) if row.pile else None,
                }
            )
            service.check_entry(scope, snapshot.row, new)
            entries.append((row, new))
        except ValidationError as error:
            for sentence in (Sentences.of({**finding, "loc": ("row", *finding["loc"])}) for finding in error.errors()):
                errors.append(RowError(row=row.number, column=heading_of(sentence.field), detail=sentence.detail))
        except Problem as problem:
            column = problem.errors[0].field if problem.errors else "what"
            errors.append(RowError(row=row.number, column=heading_of(column), detail=problem.detail))
    written_ids = _there(snapshot)
    fresh = [(row, new) for row, new in entries if new.id not in written_ids and row.id not in written_ids]
    keeps = keep and not errors
    if keeps:
        service.add_settled(scope, snapshot.row, [new for _, new in fresh])
    return LogImport(
        entries=[LoggedRow(row=row.number, plot=row.plot, on=new.on, what=WORDS[new.entry.kind]) for row, new in fresh],
        there=len(entries) - len(fresh),
        errors=errors,
        kept=keeps,
    )


def _there(snapshot: Snapshot) -> set[UUID | str]:
    ids = {row.id for row in snapshot.ledger_rows}
    return {*ids, *(str(entry_id) for entry_id in ids)}


def _entry_id(site_id: UUID, row: LogRow) -> UUID:
    """Return the id that a row has at a site: the same however often it is sent."""
    words = row.id or repr((row.plot.lower(), row.day, sorted(row.entry.items(), key=repr)))
    return uuid5(site_id, words)
