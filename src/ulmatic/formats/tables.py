"""Plots as rows of a table, with their recipes and rules."""

import math
import re
from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field
from typing import Any

from ulmatic.core.recipe import PlannedPlot
from ulmatic.core.schedule import Rule
from ulmatic.core.survey import Use
from ulmatic.core.units.parsing import number_text
from ulmatic.formats.cells import bared, cells_of
from ulmatic.formats.files import FileRefused
from ulmatic.formats.recipe_cells import RECIPE_COLUMNS, recipe_cells, recipe_of_cells, rule_of_cell, rule_words

MOST_ROWS = 2_000

COLUMNS = {
    "name": "name",
    "use": "use",
    "shape": "kind",
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
    "existing depth": "existing_mm",
    "target depth": "wanted_mm",
    **RECIPE_COLUMNS,
    "rule": "rule",
}
"""Headings, and the field each stands for."""
_EARLIER = {
    "used for": "use",
    "measured as": "shape",
    "lies there": "existing depth",
    "wanted": "target depth",
}
"""Headings of tables that were exported under other words."""

_SHAPES = {
    "rectangle": "rectangle",
    "triangle": "triangle",
    "circle": "ellipse",
    "ellipse": "ellipse",
    "offsets": "offsets",
    "polygon": "polygon",
    "path": "path",
    "ring": "ring",
    "tree ring": "ring",
    "row of rings": "ring_row",
    "block of rows": "ring_block",
    "strip": "strip",
    "walked": "walked",
}
_KIND_NAMES = {"ellipse": "ellipse", "ring": "tree ring", "ring_row": "row of rings", "ring_block": "block of rows"}
_USES = {use.label.lower(): use for use in Use} | {use.value: use for use in Use}
USE_WORDS = ", ".join(use.label.lower() for use in Use)
_BY_MEASURE = {
    "offsets": "offsets",
    "legs": "path",
    "corners": "polygon",
    "points": "walked",
    "side a": "triangle",
    "row to row": "ring_block",
    "tree to tree": "ring_row",
    "canopy": "ring",
    "across": "ellipse",
    "length": "rectangle",
}
_ALIKE = {
    "name": {"bed", "plot", "place", "area", "title", "label", "id"},
    "use": {"usage", "type", "purpose", "used"},
    "shape": {"form", "measured"},
    "length": {"len", "long", "l"},
    "width": {"wide", "w", "breadth"},
    "across": {"diameter", "dia"},
    "canopy": {"crown", "spread"},
    "trunk girth": {"girth", "trunk"},
    "trees": {"count"},
    "tree to tree": {"spacing"},
    "existing depth": {"existing", "now", "current", "lies"},
    "target depth": {"depth", "target", "mulch", "thickness", "wanted"},
    "material": {"chips", "species", "product"},
}
"""Words in other people's headings."""
RECIPE_KEYS = {*RECIPE_COLUMNS.values(), "rule"}
NO_SHAPE = {"name", "use", "kind", "existing_mm", "wanted_mm", *RECIPE_KEYS}
_OFFSETS_ONLY, _TREES_ONLY = "offsets every", "tree to tree"


@dataclass(frozen=True)
class Row:
    """One row: its number in the file, the entry it makes, and the plot's rule, where it says one."""

    number: int
    entry: dict[str, Any]
    rule: dict[str, Any] | None = None


def heading_of(field: str, kind: str | None) -> str:
    """Return the heading over a field such as ``shape.length_m``."""
    last = next((step for step in field.split(".") if step not in ("shape", "recipe") and not step.isdigit()), field)
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
        super().__init__("The headings of this table differ from the template. Choose what each column contains.")
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
    filled = cells_of(name, content, MOST_ROWS)
    theirs = [cell.strip() for cell in filled[0][1]]
    headings = [_EARLIER.get(heading.lower(), heading.lower()) for heading in theirs]
    if columns is not None:
        headings = [columns.get(heading, "") if columns.get(heading) in COLUMNS else "" for heading in theirs]
    elif "name" not in headings or any(heading and heading not in COLUMNS for heading in headings):
        raise UnknownHeadings(
            [
                Column(
                    heading,
                    tuple(cells[index].strip() for _, cells in filled[1:4] if index < len(cells)),
                    guessed(heading),
                )
                for index, heading in enumerate(theirs)
                if heading
            ]
        )
    if "name" not in headings:
        raise FileRefused("Choose the column with the plot names.")
    rows = []
    for number, cells in filled[1:]:
        texts = dict(zip(headings, cells, strict=False))
        rows.append(Row(number, _entry(texts, use), rule_of_cell(bared(texts.get("rule", "").strip()))))
    return rows


def guessed(heading: str) -> str | None:
    """Return the heading of ours that somebody else's seems to be."""
    plain = heading.strip().lower()
    plain = _EARLIER.get(plain, plain)
    if plain in COLUMNS:
        return plain
    words = {word for word in re.split(r"[^a-z]+", plain) if word}
    return next((ours for ours, synonyms in _ALIKE.items() if words & synonyms), None)


def _kind(texts: dict[str, str]) -> str:
    """Return how a plot was measured; where it is not said, as its measures have it."""
    shape = texts.get("shape", "")
    if shape:
        return _SHAPES.get(shape.lower(), shape)
    return next((kind for heading, kind in _BY_MEASURE.items() if heading in texts), "")


def _entry(cells: dict[str, str], otherwise: str = "") -> dict[str, Any]:
    texts = {heading: bared(text.strip()) for heading, text in cells.items() if heading and text.strip()}
    kind = _kind(texts)
    shape: dict[str, Any] = {"kind": kind}
    for heading, text in texts.items():
        field = COLUMNS[heading]
        skipped = (heading == _OFFSETS_ONLY and kind != "offsets") or (heading == _TREES_ONLY and kind == "offsets")
        if field not in NO_SHAPE and not skipped:
            shape[field] = text
    if kind == "rectangle":
        shape.setdefault("width_m", "")
    entry: dict[str, Any] = {"name": texts.get("name", ""), "shape": shape}
    use = texts.get("use", otherwise)
    entry["use"] = _USES.get(use.lower(), use)
    if "existing depth" in texts:
        entry["existing_mm"] = texts["existing depth"]
    if "target depth" in texts:
        entry["wanted_mm"] = texts["target depth"]
    recipe = recipe_of_cells(texts)
    if recipe:
        entry["recipe"] = recipe
    return entry


@dataclass(frozen=True)
class PlotInTable:
    """A plot as it is written into a table.

    Attributes
    ----------
    existing_mm : float
        As it was measured last.
    typed : dict
        Its texts, with depths in the words of the practice that reads the table again.
    rule : Rule or None
        Its own.
    materials : mapping of key to name
    """

    plot: PlannedPlot
    existing_mm: float
    typed: dict[str, Any]
    rule: Rule | None = None
    materials: Mapping[str, str] = field(default_factory=dict)


def rows_of(plots: Iterable[PlotInTable]) -> list[dict[str, str]]:
    """Return plots as rows by heading.

    Each measurement stands as it was written, else in metres or millimetres.
    """
    rows = []
    for in_table in plots:
        plot, existing_mm, typed = in_table.plot, in_table.existing_mm, in_table.typed
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
        for heading, key in COLUMNS.items():
            other = (heading == _OFFSETS_ONLY and kind != "offsets") or (heading == _TREES_ONLY and kind == "offsets")
            text = (
                ""
                if other or values.get(key) is None or key in RECIPE_KEYS
                else written.get(key) or _spelled(key, values[key])
            )
            row[heading] = text
        if kind == "rectangle" and written.get("length_m") and not written.get("width_m"):
            row["width"] = ""
        row |= recipe_cells(plot.recipe, typed.get("recipe", {}), in_table.materials)
        row["rule"] = rule_words(in_table.rule)
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


EXAMPLES = [
    {
        "name": "Long bed",
        "use": "Perennials and shrubs",
        "shape": "rectangle",
        "length": "12'6\"",
        "width": "4 ft",
        "target depth": "75 mm",
    },
    {
        "name": "Path",
        "use": "Foot path",
        "shape": "path",
        "legs": "12 + 8 + 3.5 m",
        "width": "1.2 m",
        "existing depth": "40 mm",
        "target depth": "100 mm",
    },
    {
        "name": "Curved bed",
        "use": "Perennials and shrubs",
        "shape": "offsets",
        "offsets every": "2 m",
        "offsets": "0, 1.4, 2.2, 1.6, 0.4",
        "target depth": "3 in",
    },
    {
        "name": "Row 1",
        "use": "Young trees",
        "shape": "row of rings",
        "canopy": "3 m",
        "trunk girth": "30 cm",
        "gap": "15 cm",
        "trees": "12",
        "tree to tree": "4 m",
        "target depth": "100 mm",
    },
]
"""Rows of the template."""


def template() -> list[dict[str, str]]:
    """Return the template's rows."""
    return [{heading: example.get(heading, "") for heading in COLUMNS} for example in EXAMPLES]
