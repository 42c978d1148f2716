"""Plots as rows of a table, in CSV and XLSX."""

import csv
import io
import math
from collections.abc import Iterable
from dataclasses import dataclass
from typing import Any

from openpyxl import Workbook, load_workbook

from ulmatic.core.survey import Plot, Use
from ulmatic.core.units.parsing import number_text
from ulmatic.formats.files import FileRefused, safe_zip, text_of

MOST_ROWS = 2_000

COLUMNS = {
    "name": "name",
    "used for": "use",
    "measured as": "kind",
    "length": "length_m",
    "width": "width_m",
    "side a": "a_m",
    "side b": "b_m",
    "side c": "c_m",
    "across": "across_m",
    "across the other way": "other_m",
    "offsets every": "spacing_m",
    "offsets": "offsets_m",
    "corners": "corners_m",
    "legs": "legs_m",
    "turns": "turns_deg",
    "canopy": "canopy_m",
    "trunk girth": "trunk_m",
    "gap": "gap_m",
    "reach": "reach_m",
    "part": "part",
    "trees": "trees",
    "tree to tree": "spacing_m",
    "rows": "rows",
    "row to row": "row_spacing_m",
    "points": "points_deg",
    "lies there": "existing_mm",
    "wanted": "wanted_mm",
}
"""Headings, and the field each stands for."""

_SHAPES = {
    "rectangle": "rectangle", "triangle": "triangle", "circle": "ellipse", "ellipse": "ellipse", "offsets": "offsets",
    "polygon": "polygon", "path": "path", "ring": "ring", "tree ring": "ring", "row of rings": "ring_row",
    "block of rows": "ring_block", "strip": "strip", "walked": "walked",
}  # fmt: skip
_KIND_NAMES = {"ellipse": "ellipse", "ring": "tree ring", "ring_row": "row of rings", "ring_block": "block of rows"}
_USES = {use.label.lower(): use for use in Use} | {use.value: use for use in Use}
_OFFSETS_ONLY, _TREES_ONLY = "offsets every", "tree to tree"


@dataclass(frozen=True)
class Row:
    """One row: its number in the file, and the entry it makes."""

    number: int
    entry: dict[str, Any]


def heading_of(field: str, kind: str | None) -> str:
    """Return the heading over a field such as ``shape.length_m``."""
    last = next((step for step in field.split(".") if step != "shape" and not step.isdigit()), field)
    if last == "spacing_m":
        return _OFFSETS_ONLY if kind == "offsets" else _TREES_ONLY
    return next((heading for heading, key in COLUMNS.items() if key == last), field)


def read_rows(name: str, content: bytes) -> list[Row]:
    """Read the rows of a table.

    Raises
    ------
    FileRefused
        Where it is no such table, has a heading that is not known, or too many rows.
    """
    table = _xlsx(content) if name.lower().endswith(".xlsx") else _csv(content)
    filled = [(number, cells) for number, cells in enumerate(table, 1) if any(cell.strip() for cell in cells)]
    if not filled:
        raise FileRefused("This table is empty.")
    headings = [cell.strip().lower() for cell in filled[0][1]]
    unknown = [heading for heading in headings if heading and heading not in COLUMNS]
    if unknown or "name" not in headings:
        wrong = f"The heading “{unknown[0][:40]}” is not known" if unknown else "There is no heading “name”"
        raise FileRefused(f"{wrong}. Download the template to see which headings are.")
    if len(filled) == 1:
        raise FileRefused("This table has headings, but no plots below them.")
    if len(filled) - 1 > MOST_ROWS:
        raise FileRefused(f"This table has more than {MOST_ROWS:,} rows; split it.")
    return [Row(number, _entry(dict(zip(headings, cells, strict=False)))) for number, cells in filled[1:]]


def _csv(content: bytes) -> Iterable[list[str]]:
    text = text_of(content)
    try:
        first = text.split("\n", 1)[0]
        dialect = ";" if first.count(";") > first.count(",") else "\t" if "\t" in first else ","
        yield from csv.reader(io.StringIO(text, newline=""), delimiter=dialect, strict=True)
    except csv.Error as error:
        raise FileRefused(f"This file cannot be read as CSV: {error}.") from None


def _xlsx(content: bytes) -> Iterable[list[str]]:
    try:
        book = load_workbook(safe_zip(content), read_only=True, data_only=True)
        sheet = book.worksheets[0]
        for index, cells in enumerate(sheet.iter_rows(values_only=True)):
            if index > MOST_ROWS + 100:
                break
            yield [_cell(cell) for cell in cells[: len(COLUMNS) + 10]]
    except FileRefused:
        raise
    except Exception:
        raise FileRefused("This is not an XLSX workbook, or it is damaged.") from None


def _cell(value: object) -> str:
    if value is None:
        return ""
    return f"{value:.12g}" if isinstance(value, float) else str(value)


def _entry(cells: dict[str, str]) -> dict[str, Any]:
    texts = {heading: _bared(text.strip()) for heading, text in cells.items() if heading and text.strip()}
    kind = _SHAPES.get(texts.get("measured as", "").lower(), texts.get("measured as", ""))
    shape: dict[str, Any] = {"kind": kind}
    for heading, text in texts.items():
        field = COLUMNS[heading]
        skipped = (heading == _OFFSETS_ONLY and kind != "offsets") or (heading == _TREES_ONLY and kind == "offsets")
        if field not in ("name", "use", "kind", "existing_mm", "wanted_mm") and not skipped:
            shape[field] = text
    if kind == "rectangle":
        shape.setdefault("width_m", "")
    entry: dict[str, Any] = {"name": texts.get("name", ""), "shape": shape}
    use = texts.get("used for", "")
    entry["use"] = _USES.get(use.lower(), use)
    if "lies there" in texts:
        entry["existing_mm"] = texts["lies there"]
    if "wanted" in texts:
        entry["wanted_mm"] = texts["wanted"]
    return entry


def rows_of(plots: Iterable[tuple[Plot, float, dict[str, Any]]]) -> list[dict[str, str]]:
    """Return plots, with their existing depth, as rows by heading.

    Each measurement stands as it was written, else in metres or millimetres.
    """
    rows = []
    for plot, existing_mm, typed in plots:
        written = {
            **typed.get("shape", {}),
            **{key: typed[key] for key in ("existing_mm", "wanted_mm") if typed.get(key)},
        }
        values: dict[str, Any] = {
            **plot.shape.model_dump(mode="json"),
            "existing_mm": existing_mm,
            "wanted_mm": plot.wanted_mm,
        }
        values |= {"name": plot.name, "use": plot.use.label}
        kind = plot.shape.kind
        values["kind"] = _KIND_NAMES.get(kind, kind)
        if values.pop("trunk_as", "girth") == "diameter":
            values["trunk_m"], written = values["trunk_m"] * math.pi, {**written, "trunk_m": None}
        row = {}
        for heading, field in COLUMNS.items():
            other = (heading == _OFFSETS_ONLY and kind != "offsets") or (heading == _TREES_ONLY and kind == "offsets")
            text = "" if other or values.get(field) is None else written.get(field) or _spelled(field, values[field])
            row[heading] = text
        if kind == "rectangle" and written.get("length_m") and not written.get("width_m"):
            row["width"] = ""
        rows.append(row)
    return rows


def _spelled(field: str, value: Any) -> str:
    if isinstance(value, list):
        if value and isinstance(value[0], list):
            return "; ".join(f"{_spelled(field, x)}, {_spelled(field, y)}" for x, y in value)
        return (
            " + ".join(_spelled(field, item) for item in value) if field != "turns_deg" else ", ".join(map(str, value))
        )
    if isinstance(value, str | int) or field in ("points_deg", "turns_deg"):
        return str(value)
    unit = " mm" if field.endswith("_mm") else " m" if field.endswith("_m") else ""
    return f"{value * 100:.10g} %" if field == "part" else f"{number_text(value)}{unit}"


def write_csv(rows: list[dict[str, str]]) -> bytes:
    """Return rows as CSV in UTF-8 with a byte order mark, so that spreadsheets read the encoding right."""
    out = io.StringIO(newline="")
    writer = csv.DictWriter(out, list(COLUMNS))
    writer.writeheader()
    writer.writerows({heading: harmless(text) for heading, text in row.items()} for row in rows)
    return out.getvalue().encode("utf-8-sig")


def write_xlsx(rows: list[dict[str, str]]) -> bytes:
    """Return rows as an XLSX workbook of text cells."""
    book = Workbook()
    sheet = book.active or book.create_sheet()
    sheet.title = "Plots"
    sheet.append(list(COLUMNS))
    for row in rows:
        sheet.append([row[heading] for heading in COLUMNS])
    for cells in sheet.iter_rows(min_row=2):
        for cell in cells:
            cell.data_type = "s"
    out = io.BytesIO()
    book.save(out)
    return out.getvalue()


def harmless(text: str) -> str:
    """Return text that a spreadsheet does not take for a formula."""
    return f"'{text}" if text[:1] in ("=", "+", "@") or (text[:1] == "-" and not text[1:2].isdigit()) else text


def _bared(text: str) -> str:
    """Return text without the apostrophe that `harmless` puts before it."""
    return text[1:] if text[:1] == "'" and text[1:2] in ("=", "+", "@", "-") else text


EXAMPLES = [
    {"name": "Long bed", "used for": "Perennials and shrubs", "measured as": "rectangle", "length": "12'6\"",
     "width": "4 ft", "wanted": "75 mm"},
    {"name": "Path", "used for": "Foot path", "measured as": "path", "legs": "12 + 8 + 3.5 m", "width": "1.2 m",
     "lies there": "40 mm", "wanted": "100 mm"},
    {"name": "Curved bed", "used for": "Perennials and shrubs", "measured as": "offsets", "offsets every": "2 m",
     "offsets": "0, 1.4, 2.2, 1.6, 0.4", "wanted": "3 in"},
    {"name": "Row 1", "used for": "Young trees", "measured as": "row of rings", "canopy": "3 m", "trunk girth": "30 cm",
     "gap": "15 cm", "trees": "12", "tree to tree": "4 m", "wanted": "100 mm"},
]  # fmt: skip
"""Rows of the template."""


def template() -> list[dict[str, str]]:
    """Return the template's rows."""
    return [{heading: example.get(heading, "") for heading in COLUMNS} for example in EXAMPLES]
