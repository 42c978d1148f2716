"""The rules of the house that a program can check."""

import ast
from pathlib import Path

import ulmatic
from ulmatic.core.figures import Mark
from ulmatic.core.materials import CATALOGUE
from ulmatic.core.planning.register import GENERAL, shipped

ROOT = Path(ulmatic.__file__).parent
ALLOWED = {"numpy", "scipy", "shapely", "pyproj", "pint", "pydantic", "pydantic_core"}
FORBIDDEN = {"os", "sys", "pathlib", "socket", "time", "urllib", "http", "subprocess", "random", "io", "tempfile"}
STDLIB = {"ast", "csv", "itertools", "math", "re", "enum", "functools", "types", "typing", "collections", "contextlib"}
STDLIB |= {"contextvars", "dataclasses", "fractions", "datetime", "decimal", "operator", "heapq", "uuid", "zoneinfo"}
ORDER = (
    "units",
    "figures",
    "parameters",
    "climate",
    "survey",
    "materials",
    "recipe",
    "log",
    "decay",
    "schedule",
    "stock",
    "supply",
    "work",
    "money",
)
"""Packages of the core from the ground up; nitrogen reads them all; then the values of a site, and planning on top."""
BENEATH = {name: set(ORDER[: at + 1]) for at, name in enumerate(ORDER)}
BENEATH |= {"nitrogen": {*ORDER[: ORDER.index("schedule") + 1], "nitrogen"}, "site": {*ORDER, "nitrogen", "site"}}
BENEATH["planning"] = {*BENEATH["site"], "planning"}
PARTS = ("survey", "log", "stock", "supply", "work", "money", "schedule", "nitrogen", "materials")
"""Packages of the application that are a part of the job."""
FLOORS = {"models": 0, "schemas": 1, "routes": 4}
PLANNING = {
    "choose",
    "move",
    "second_tip",
    "forecast",
    "through_time",
    "fold",
    "Schedule",
    "cost",
    "quote",
    "cost_lines",
}
"""Each is worked out once, for the plan."""
FIELDS = {
    ("found", "plot.py"),
    ("found", "schemas.py"),
    ("found", "models.py"),
    ("kept", "schemas.py"),
}
"""Fields of the API and of rows."""


def imports(path: Path) -> set[str]:
    found: set[str] = set()
    for node in ast.walk(ast.parse(path.read_text())):
        if isinstance(node, ast.Import):
            found |= {alias.name for alias in node.names}
        elif isinstance(node, ast.ImportFrom):
            found.add(node.module or "")
    return found


def test_the_core_knows_no_interface_files_clock_or_network():
    for path in (ROOT / "core").rglob("*.py"):
        for name in imports(path):
            root = name.split(".")[0]
            assert root in ALLOWED | STDLIB or name.startswith("ulmatic.core"), f"{path.name} imports {name}"
            assert root not in FORBIDDEN


def test_the_core_is_built_upwards_without_circles():
    for path in (ROOT / "core").rglob("*.py"):
        own = path.relative_to(ROOT / "core").parts[0].removesuffix(".py")
        for name in imports(path):
            if name.startswith("ulmatic.core.") and own in BENEATH:
                assert name.split(".")[2] in BENEATH[own], f"{own} imports {name}"


def test_the_core_has_no_rooms_but_those_of_the_trade():
    rooms = {path.name.removesuffix(".py") for path in (ROOT / "core").iterdir()} - {"__init__", "__pycache__"}
    assert rooms == set(BENEATH)


def floor_of(name: str) -> int | None:
    """Return how high up in the application a module of a part stands; None for those that stand beside."""
    _, part, *rest = name.split(".")
    if part == "site" and rest:
        return 3
    if part not in PARTS or not rest:
        return None
    return FLOORS.get(rest[0], 3)


def test_the_application_is_built_upwards():
    """Rows, then what comes and goes, then the snapshot and services, then routes."""
    for path in ROOT.rglob("*.py"):
        own = "ulmatic." + ".".join(path.relative_to(ROOT).with_suffix("").parts)
        floor = None if own.startswith("ulmatic.core.") else floor_of(own)
        for name in imports(path):
            other = floor_of(name) if name.startswith("ulmatic.") and not name.startswith("ulmatic.core") else None
            if floor is not None and other is not None:
                assert other <= floor, f"{own} imports {name}"


def test_the_platform_knows_nothing_of_the_trade():
    for path in (ROOT / "platform").rglob("*.py"):
        for name in imports(path):
            above = name.startswith("ulmatic.") and not name.startswith(
                ("ulmatic.platform", "ulmatic.accounts", "ulmatic.core.units")
            )
            assert not above, f"{path.name} imports {name}"


def test_no_service_works_out_a_plan_of_its_own():
    """Forecast, choice, haul and quote are the plan's: a page asks it, and no page asks them."""
    for path in ROOT.rglob("*.py"):
        if "core" not in path.relative_to(ROOT).parts:
            for node in ast.walk(ast.parse(path.read_text())):
                if isinstance(node, ast.ImportFrom) and (node.module or "").startswith("ulmatic.core"):
                    assert not PLANNING & {alias.name for alias in node.names}, f"{path} imports from {node.module}"


def test_customers_rows_are_selected_in_the_scope_alone():
    for path in ROOT.rglob("*.py"):
        text = path.read_text()
        if path.name != "scope.py" and ("SiteRow" in text or "PlotRow" in text):
            assert "sqlalchemy import select" not in text, path
            assert "select(SiteRow" not in text.replace("scope.select(SiteRow", ""), path
            assert "select(PlotRow" not in text.replace("scope.select(PlotRow", ""), path


def test_every_parameter_has_its_range_source_and_mark():
    parameters = [*GENERAL, *(figure for material in CATALOGUE.values() for figure in material.parameters())]
    assert len(shipped()) == len(parameters) >= 180
    for figure in parameters:
        assert figure.low <= figure.value <= figure.high, figure.key
        assert len(figure.source.text) > 15, figure.key
        assert figure.source.mark in (Mark.PUBLISHED, Mark.FROM_MEMORY, Mark.COMMON_PRACTICE), figure.key


def test_a_value_is_called_what_it_is():
    """A name tells what a value is of; the ground as it was found keeps the archive's word for it."""
    vague = {"one", "made", "found", "has", "mine", "kept"}
    for path in ROOT.rglob("*.py"):
        for node in ast.walk(ast.parse(path.read_text())):
            named = node.id if isinstance(node, ast.Name) and isinstance(node.ctx, ast.Store) else ""
            named = node.arg if isinstance(node, ast.arg) else named
            assert named not in vague or (named, path.name) in FIELDS, f"{path}:{node.lineno} {named}"


def test_public_functions_of_the_core_tell_their_parameters():
    for path in (ROOT / "core").rglob("*.py"):
        for node in ast.parse(path.read_text()).body:
            if isinstance(node, ast.FunctionDef) and not node.name.startswith("_"):
                words = ast.get_docstring(node) or ""
                for argument in [*node.args.args, *node.args.kwonlyargs]:
                    assert f"{argument.arg}" in words.partition("Parameters\n")[2], (
                        f"{path}: {node.name} {argument.arg}"
                    )
