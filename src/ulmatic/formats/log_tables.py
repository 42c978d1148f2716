"""A site's log as rows of a table, in CSV and XLSX."""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from typing import Any

from ulmatic.core.units.parsing import number_text
from ulmatic.formats.cells import bared, cells_of
from ulmatic.formats.files import FileRefused

MOST_ENTRIES = 20_000
WORDS = {
    "measured": "measured",
    "profile": "dug profile",
    "laid": "laid",
    "dug_in": "dug in",
    "removed": "taken off",
    "fed": "fed",
    "spread": "spread",
    "grown": "grown",
    "observed": "weeds",
    "moisture": "moisture",
    "worms": "worms",
    "soil_test": "soil test",
    "ripeness": "ripeness",
    "plants": "plants",
    "tree": "tree",
    "pile": "pile checked",
    "hours": "hours",
    "task": "task done",
    "watered_in": "watered in",
    "note": "note",
    "learning_restarted": "learning restarted",
    "opened": "rows opened",
    "row": "rows worked",
}
"""What happened, as the table has it."""
FIELDS = {
    "depth": "depth_mm",
    "readings": "readings_mm",
    "settled": "settled",
    "has lain for, months": "lain_months",
    "confirmed": "confirmed",
    "cause": "cause",
    "dry chips": "dry_mm",
    "moist chips": "moist_mm",
    "humus": "humus_depth_mm",
    "material": "material",
    "volume": "volume_m3",
    "chipped on": "chipped_on",
    "quarter": "quarter",
    "round": "round_number",
    "chips taken off": "chips_mm",
    "humus taken off": "humus_mm",
    "product": "product",
    "n": "n",
    "p": "p",
    "k": "k",
    "product, g/m²": "grams_m2",
    "soluble": "soluble",
    "crop": "crop",
    "nitrogen, g/m²": "grams_n_m2",
    "weeds": "weeds",
    "sort of weed": "sort",
    "cover": "cover",
    "pull": "pull",
    "days without rain": "days_without_rain",
    "feel": "feel",
    "count": "count",
    "holes": "holes",
    "ph": "ph",
    "organic matter": "organic",
    "nitrogen, mg/kg": "nitrogen_mg_kg",
    "phosphorus, mg/kg": "phosphorus_mg_kg",
    "potassium, mg/kg": "potassium_mg_kg",
    "fork": "fork",
    "squeeze": "squeeze",
    "smell": "smell",
    "cress": "cress",
    "action": "action",
    "name": "name",
    "water": "water_m3",
    "girth": "girth_m",
    "canopy": "canopy_m",
    "guard": "guard",
    "temperature": "temperature_c",
    "height": "height_m",
    "turned": "turned",
    "sieved": "sieved_m3",
    "task": "task",
    "hours": "hours",
    "person": "person",
    "season": "season",
    "share done": "share",
    "own task": "own",
    "cautions read": "cautions_read",
    "opening": "opening",
    "form": "form",
    "length": "length_m",
    "width": "width_m",
    "apart": "apart_m",
    "from the edge": "in_m",
    "along": "along_m",
    "step": "step",
    "roots left": "roots_left",
}
"""Headings, and the field of an entry each stands for."""
COLUMNS = ("plot", "day", "what", *FIELDS, "trees", "checked pile", "remark", "pile", "by", "id")
_SHARES = ("n", "p", "k", "cover", "organic", "share")
_FLAGS = (
    "settled",
    "soluble",
    "weeds",
    "confirmed",
    "turned",
    "roots_left",
    "cautions_read",
)
_PLAIN = (
    "grams_m2",
    "grams_n_m2",
    "days_without_rain",
    "count",
    "holes",
    "ph",
    "nitrogen_mg_kg",
    "phosphorus_mg_kg",
    "potassium_mg_kg",
    "hours",
)
_WORDED = (
    "crop",
    "cause",
    "sort",
    "pull",
    "feel",
    "fork",
    "squeeze",
    "smell",
    "cress",
    "action",
    "guard",
    "task",
    "form",
    "step",
)
_UNITS = {"_mm": " mm", "_m3": " m3", "_m": " m", "_c": " °C"}
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
    for logged in entries:
        row = {"plot": logged.plot, "day": logged.day, "what": WORDS[logged.entry["kind"]]}
        for heading, field in FIELDS.items():
            value = logged.entry.get(field)
            row[heading] = "" if value is None or value == [] else logged.typed.get(field) or _spelled(field, value)
        if logged.material:
            row["material"] = logged.material
        row |= {"trees": logged.trees, "checked pile": logged.pile, "remark": logged.note}
        rows.append({**row, "pile": "yes" if logged.from_pile else "", "by": logged.by, "id": logged.id})
    return rows


def _spelled(field: str, value: Any) -> str:
    if isinstance(value, bool):
        return "yes" if value else "no"
    if isinstance(value, list | tuple):
        return "; ".join(f"{number_text(reading)} mm" for reading in value)
    if isinstance(value, float):
        if field in _SHARES:
            return f"{value * 100:.10g} %"
        unit = next((unit for ending, unit in _UNITS.items() if field.endswith(ending)), "")
        return f"{number_text(value)}{unit}"
    if field in _WORDED:
        return str(value).replace("_", " ")
    return str(value + 1) if field == "quarter" else str(value)


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


def _entry(kind: str, texts: Mapping[str, str]) -> dict[str, Any]:
    entry: dict[str, Any] = {"kind": kind}
    for heading, field in FIELDS.items():
        text = texts.get(heading)
        if text is None or (kind == "measured" and field == "depth_mm" and "readings" in texts):
            continue
        if field in _FLAGS:
            entry[field] = text.lower() in ("yes", "y", "true")
        elif field == "quarter":
            entry[field] = int(text) - 1 if text.isdigit() and len(text) < 3 else text
        elif field in _PLAIN:
            entry[field] = text.replace(",", ".")
        elif field in _WORDED:
            entry[field] = text.lower().replace(" ", "_")
        elif field == "chipped_on":
            entry[field] = text[:10]
        else:
            entry[field] = text
    return entry
