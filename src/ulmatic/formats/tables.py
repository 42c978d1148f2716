"""Plots as rows of a table, in CSV and XLSX."""

import csv
import io
import math
import re
from collections.abc import Iterable, Mapping
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
USE_WORDS = ", ".join(use.label.lower() for use in Use)
_BY_MEASURE = {
    "offsets": "offsets", "legs": "path", "corners": "polygon", "points": "walked", "side a": "triangle",
    "row to row": "ring_block", "tree to tree": "ring_row", "canopy": "ring", "across": "ellipse",
    "length": "rectangle",
}  # fmt: skip
_ALIKE = {
    "name": {"bed", "plot", "place", "area", "title", "label", "id"}, "used for": {"use", "usage", "type", "purpose"},
    "measured as": {"shape", "form"}, "length": {"len", "long", "l"}, "width": {"wide", "w", "breadth"},
    "across": {"diameter", "dia"}, "canopy": {"crown", "spread"}, "trunk girth": {"girth", "trunk"}, "trees": {"count"},
    "tree to tree": {"spacing"}, "lies there": {"existing", "now", "current"},
    "wanted": {"depth", "target", "mulch", "thickness"},
}  # fmt: skip
"""Words in other people's headings."""
_DECIMALS = {
    mark: re.compile(rf"(?<![\d.,])[1-9]\d{{0,2}}{decimal}\d{{3}}(?![\d.,])")
    for mark, decimal in ((",", r"\."), (";", ","), ("\t", r"\."))
}
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


@dataclass(frozen=True)
class Column:
    """A column of somebody's table: its heading, what stands beneath it, and the heading of ours it seems to be."""

    heading: str
    examples: tuple[str, ...]
    guess: str | None


class UnknownHeadings(FileRefused):
    """A table whose headings are not those of the template; its columns can be chosen."""

    def __init__(self, columns: list[Column]) -> None:
        super().__init__("The headings of this table are not those of the template; choose what each column holds.")
        self.columns = columns


def read_rows(name: str, content: bytes, columns: Mapping[str, str] | None = None, use: str = "") -> list[Row]:
    """Read the rows of a table.

    Parameters
    ----------
    name : str
        Of the file.
    content : bytes
    columns : mapping of heading to heading, optional
        Which of our headings each of the table's stands for; those that are not named are left out.
    use : str
        Of plots that do not say theirs.

    Raises
    ------
    FileRefused
        Where it is no such table, or has too many rows.
    UnknownHeadings
        Where it has headings that are not known, or no names, and nobody said what they stand for.
    """
    table = _xlsx(content) if name.lower().endswith(".xlsx") else _csv(content)
    filled = [(number, cells) for number, cells in enumerate(table, 1) if any(cell.strip() for cell in cells)]
    if not filled:
        raise FileRefused("This table is empty.")
    if len(filled) == 1:
        raise FileRefused("This table has headings, but no plots below them.")
    if len(filled) - 1 > MOST_ROWS:
        raise FileRefused(f"This table has more than {MOST_ROWS:,} rows; split it.")
    theirs = [cell.strip() for cell in filled[0][1]]
    headings = [heading.lower() for heading in theirs]
    if columns is not None:
        headings = [columns.get(heading, "") if columns.get(heading) in COLUMNS else "" for heading in theirs]
    elif "name" not in headings or any(heading and heading not in COLUMNS for heading in headings):
        raise UnknownHeadings(
            [
                Column(
                    heading, tuple(cells[at].strip() for _, cells in filled[1:4] if at < len(cells)), guessed(heading)
                )
                for at, heading in enumerate(theirs)
                if heading
            ]
        )
    if "name" not in headings:
        raise FileRefused("Say which column holds the names of the plots.")
    return [Row(number, _entry(dict(zip(headings, cells, strict=False)), use)) for number, cells in filled[1:]]


def guessed(heading: str) -> str | None:
    """Return the heading of ours that somebody else's seems to be."""
    plain = heading.strip().lower()
    if plain in COLUMNS:
        return plain
    words = {word for word in re.split(r"[^a-z]+", plain) if word}
    return next((ours for ours, alike in _ALIKE.items() if words & alike), None)


def _csv(content: bytes) -> Iterable[list[str]]:
    text = text_of(content)
    try:
        first = text.split("\n", 1)[0]
        dialect = ";" if first.count(";") > first.count(",") else "\t" if "\t" in first else ","
        for cells in csv.reader(io.StringIO(text, newline=""), delimiter=dialect, strict=True):
            # Commas that part cells do not part decimals: 3.048 is three metres there, as 3,048 is between semicolons.
            yield [_DECIMALS[dialect].sub(r"\g<0>0", cell) for cell in cells]
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
    return number_text(value) if isinstance(value, float) else str(value)


def _kind(texts: dict[str, str]) -> str:
    """Return how a plot was measured; where it is not said, as its measures have it."""
    said = texts.get("measured as", "")
    if said:
        return _SHAPES.get(said.lower(), said)
    return next((kind for heading, kind in _BY_MEASURE.items() if heading in texts), "")


def _entry(cells: dict[str, str], otherwise: str = "") -> dict[str, Any]:
    texts = {heading: _bared(text.strip()) for heading, text in cells.items() if heading and text.strip()}
    kind = _kind(texts)
    shape: dict[str, Any] = {"kind": kind}
    for heading, text in texts.items():
        field = COLUMNS[heading]
        skipped = (heading == _OFFSETS_ONLY and kind != "offsets") or (heading == _TREES_ONLY and kind == "offsets")
        if field not in ("name", "use", "kind", "existing_mm", "wanted_mm") and not skipped:
            shape[field] = text
    if kind == "rectangle":
        shape.setdefault("width_m", "")
    entry: dict[str, Any] = {"name": texts.get("name", ""), "shape": shape}
    use = texts.get("used for", otherwise)
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
