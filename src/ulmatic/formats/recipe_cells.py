"""A plot's recipe and rule in the cells of a table, in words."""

import re
from collections.abc import Mapping
from typing import Any

from ulmatic.core.recipe import HoldBack, RecipeEdits
from ulmatic.core.schedule import Every, Harvest, Keep, Once, Quarter, Rounds, Rule, Thin
from ulmatic.core.units.parsing import number_text

RECIPE_COLUMNS = {
    "material": "material",
    "stage": "stage",
    "chipped on": "chipped_on",
    "cardboard": "cardboard",
    "compost": "compost_mm",
    "biochar": "biochar_mm",
    "round plants": "growing_mm",
    "part laid": "laid_share",
    "dug in": "dug_in",
    "plant rows": "hold_backs",
}
"""Headings, and the field of the recipe each stands for."""
_YES = {"yes": True, "y": True, "true": True, "no": False, "n": False, "false": False}
_ROW = re.compile(
    r"^(?P<name>.+?):\s*(?P<rows>\d+)\s*x\s*(?P<length>[^x]+?)\s*x\s*(?P<width>[^x,]+?)\s*(?P<bare>,\s*bare)?$"
)
_RULES = (
    (re.compile(r"^keep( the recipe)?$"), lambda _: {"kind": "keep"}),
    (re.compile(r"^thin(?: (\d+) ?%)?$"), lambda match: {"kind": "thin", "part": int(match[1] or 100) / 100}),
    (re.compile(r"^once$"), lambda _: {"kind": "once"}),
    (re.compile(r"^quarters?(?:, (spring|autumn))?$"), lambda match: {"kind": "quarter", "window": match[1]}),
    (
        re.compile(r"^(harvest )?every (?:(\d+) )?years?(?:, (spring|autumn))?$"),
        lambda match: {
            "kind": "harvest" if match[1] else "every",
            "years": int(match[2] or 1),
            "window": match[3],
        },
    ),
    (
        re.compile(r"^(\d+) rounds?, (\d+) months? apart$"),
        lambda match: {"kind": "rounds", "rounds": int(match[1]), "months_apart": int(match[2])},
    ),
)
RULE_EXAMPLES = "keep; thin; once; quarter, autumn; every 2 years; harvest every 2 years; 3 rounds, 8 months apart"


def recipe_cells(recipe: RecipeEdits, typed: Mapping[str, Any], materials: Mapping[str, str]) -> dict[str, str]:
    """Return a recipe's cells by heading: measurements as they were written, else in millimetres."""
    cells: dict[str, str] = {}
    for heading, field in RECIPE_COLUMNS.items():
        value, written = getattr(recipe, field), typed.get(field)
        if field == "hold_backs":
            cells[heading] = "; ".join(
                _row_words(row, words)
                for row, words in zip(recipe.hold_backs, _padded(written, len(recipe.hold_backs)), strict=True)
            )
        elif isinstance(value, bool):
            cells[heading] = "yes" if value else "" if field == "dug_in" else "no"
        elif value is None:
            cells[heading] = ""
        elif field == "material":
            cells[heading] = materials.get(value, value)
        elif field == "laid_share":
            cells[heading] = written or f"{value * 100:.10g} %"
        elif isinstance(value, float):
            cells[heading] = written or f"{number_text(value)} mm"
        else:
            cells[heading] = str(value)
    return cells


def _padded(written: Any, count: int) -> list[Mapping[str, str]]:
    texts = list(written) if isinstance(written, list) and len(written) == count else []
    return texts or [{}] * count


def _row_words(row: HoldBack, written: Mapping[str, str]) -> str:
    length = written.get("length_m") or f"{number_text(row.length_m)} m"
    width = written.get("width_m") or f"{number_text(row.width_m)} m"
    return f"{row.name}: {row.rows} x {length} x {width}{', bare' if row.for_good else ''}"


def recipe_of_cells(cells: Mapping[str, str]) -> dict[str, Any]:
    """Return the recipe that cells by heading tell of, as it would be typed; wrong words stand as they are."""
    recipe: dict[str, Any] = {}
    for heading, field in RECIPE_COLUMNS.items():
        text = cells.get(heading, "").strip()
        if not text:
            continue
        if field in ("cardboard", "dug_in"):
            recipe[field] = _YES.get(text.lower(), text)
        elif field == "hold_backs":
            recipe[field] = [_row_of(part.strip()) for part in text.split(";") if part.strip()]
        elif field == "stage":
            recipe[field] = text.lower()
        else:
            recipe[field] = text
    return recipe


def _row_of(text: str) -> dict[str, Any] | str:
    match = _ROW.match(text[:200].replace("×", "x"))
    if match is None:
        return text
    return {
        "name": match["name"],
        "rows": int(match["rows"][:6]),
        "length_m": match["length"],
        "width_m": match["width"],
        "for_good": match["bare"] is not None,
    }


def rule_words(rule: Rule | None) -> str:
    """Return a rule in words that are read again; empty for the proposed one."""
    words = ""
    match rule:
        case Keep() | Once():
            words = rule.kind
        case Thin():
            words = "thin" if rule.part == 1 else f"thin {rule.part * 100:.0f} %"
        case Quarter():
            words = "quarter" + _in(rule.window)
        case Every():
            words = f"every {rule.years} years{_in(rule.window)}"
        case Harvest():
            words = f"harvest every {rule.years} years{_in(rule.window)}"
        case Rounds():
            words = f"{rule.rounds} rounds, {rule.months_apart} months apart"
    return words


def _in(window: str | None) -> str:
    return f", {window}" if window else ""


def rule_of_cell(text: str) -> dict[str, Any] | None:
    """Return the rule that a cell tells of; None where it is empty, a kind that is not known for other words."""
    plain = " ".join(text.lower().split())[:80]
    if not plain:
        return None
    for pattern, rule in _RULES:
        match = pattern.match(plain)
        if match is not None:
            return {key: value for key, value in rule(match).items() if value is not None}
    return {"kind": plain}
