"""A site's log as rows of a table, in CSV and XLSX."""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from typing import Any

from ulmatic.core.log import KINDS
from ulmatic.core.log.entry_fields import fields_of
from ulmatic.core.units.parsing import number_text
from ulmatic.formats.cells import bared, cells_of
from ulmatic.formats.files import FileRefused
from ulmatic.texts import texts

MOST_ENTRIES = 20_000
_TEXTS = texts("log_kinds")
WORDS = {kind: _TEXTS[f"{kind}.table"] for kind in KINDS}
"""What happened, as the table has it."""
_NAMES = {field.name for kind in KINDS for field in fields_of(kind)}
_COLUMN = "column."
FIELDS = {
    heading: key.removeprefix(_COLUMN)
    for key, heading in _TEXTS.items()
    if key.startswith(_COLUMN) and key.removeprefix(_COLUMN) in _NAMES
}
"""Headings, in the order of the texts, and the field of an entry each stands for."""
COLUMNS = ("plot", "day", "what", *FIELDS, "trees", "checked pile", "remark", "pile", "by", "id")
_UNITS = {"depth": " mm", "volume": " m3", "length": " m", "girth": " m", "temperature": " °C"}
_KINDS = {words: kind for kind, words in WORDS.items()} | {kind: kind for kind in WORDS}


@dataclass(frozen=True)
class LogRow:
    """A row of a log: its number in the file, the plot's name, the day, the entry as typed, its id where it has one."""

    number: int
    plot: str
    day: str
    entry: dict[str, Any]
    id: str = ""
    from_pile: bool = False
    trees: str = ""
    pile: str = ""
    note: str = ""


@dataclass(frozen=True)
class LogCells:
    """An entry as it is written into a table: with its plot's name, its texts, and the name of its material."""

    id: str
    plot: str
    day: str
    entry: Mapping[str, Any]
    typed: Mapping[str, str]
    by: str
    from_pile: bool
    material: str = ""
    trees: str = ""
    pile: str = ""
    note: str = ""


def heading_of(field: str) -> str:
    """Return the heading over a field such as ``entry.depth_mm``."""
    last = [step for step in field.split(".") if not step.isdigit()][-1]
    named = {"plot_id": "plot", "on": "day", "kind": "what", "entry": "what"}
    return named.get(last) or next((heading for heading, key in FIELDS.items() if key == last), last)


def rows_of(entries: Iterable[LogCells]) -> list[dict[str, str]]:
    """Return entries as rows by heading; measurements as they were written, else in millimetres or m³."""
    rows = []
    headings = {name: heading for heading, name in FIELDS.items()}
    for logged in entries:
        kind = logged.entry["kind"]
        row = {"plot": logged.plot, "day": logged.day, "what": WORDS[kind], **dict.fromkeys(FIELDS, "")}
        for field in fields_of(kind):
            value = logged.entry.get(field.name)
            if value is not None and value != []:
                row[headings[field.name]] = logged.typed.get(field.name) or _spell(field.type, value)
        if logged.material:
            row["material"] = logged.material
        row |= {"trees": logged.trees, "checked pile": logged.pile, "remark": logged.note}
        rows.append({**row, "pile": "yes" if logged.from_pile else "", "by": logged.by, "id": logged.id})
    return rows


def _spell(field_type: str, value: Any) -> str:
    match field_type:
        case "flag":
            return "yes" if value else "no"
        case "readings":
            return "; ".join(f"{number_text(reading)} mm" for reading in value)
        case "share":
            return f"{value * 100:.10g} %"
        case "choice" | "key":
            return str(value).replace("_", " ")
        case "quarter":
            return str(value + 1)
        case _:
            unit = _UNITS.get(field_type, "")
            return f"{number_text(value)}{unit}" if isinstance(value, float) else str(value)


def read_log(name: str, content: bytes) -> list[LogRow]:
    """Read the rows of a log.

    Raises
    ------
    FileRefused
        Where it is no such table, or has too many rows.
    """
    filled = cells_of(name, content, MOST_ENTRIES)
    headings = [cell.strip().lower() for cell in filled[0][1]]
    if not {"plot", "day", "what"} <= set(headings):
        raise FileRefused("A log has the columns “plot”, “day” and “what”. Download this site's log to see the others.")
    unknown = [heading for heading in headings if heading and heading not in COLUMNS]
    if unknown:
        raise FileRefused(f"A log does not have the column “{unknown[0][:40]}”. Its columns are: {', '.join(COLUMNS)}.")
    rows = []
    for number, cells in filled[1:]:
        named = zip(headings, cells, strict=False)
        texts = {heading: bared(text.strip()) for heading, text in named if heading and text.strip()}
        what = texts.get("what", "").lower()
        rows.append(
            LogRow(
                number=number,
                plot=texts.get("plot", ""),
                day=texts.get("day", "")[:10],
                entry=_entry(_KINDS.get(what, what), texts),
                id=texts.get("id", ""),
                from_pile=texts.get("pile", "").lower() in ("yes", "y", "true"),
                trees=texts.get("trees", ""),
                pile=texts.get("checked pile", ""),
                note=texts.get("remark", ""),
            )
        )
    return rows


def _entry(kind: str, texts_by_heading: Mapping[str, str]) -> dict[str, Any]:
    entry: dict[str, Any] = {"kind": kind}
    types = {field.name: field.type for field in fields_of(kind)} if kind in KINDS else {}
    for heading, name in FIELDS.items():
        text = texts_by_heading.get(heading)
        if text is None or (kind == "measured" and name == "depth_mm" and "readings" in texts_by_heading):
            continue
        entry[name] = _read(types.get(name, "text"), text)
    return entry


def _read(field_type: str, text: str) -> Any:
    if field_type == "flag":
        return text.lower() in ("yes", "y", "true")
    if field_type == "quarter" and text.isdigit() and len(text) < 3:
        return int(text) - 1
    if field_type == "on_ground" and "/" not in text:
        return f"{text} g/m2"
    if field_type in ("choice", "key"):
        return text.lower().replace(" ", "_")
    if field_type == "day":
        return text[:10]
    return text.replace(",", ".") if field_type in ("number", "hours") else text
