"""The rules of the house that a program can check."""

import ast
from pathlib import Path

import ulmatic
from ulmatic.core.figures import Mark
from ulmatic.core.materials import CATALOGUE
from ulmatic.survey.routes import list_parameters

ROOT = Path(ulmatic.__file__).parent
ALLOWED = {"numpy", "scipy", "shapely", "pyproj", "pint", "pydantic", "pydantic_core"}
FORBIDDEN = {"os", "sys", "pathlib", "socket", "time", "urllib", "http", "subprocess", "random", "io", "tempfile"}
STDLIB = {"ast", "csv", "itertools", "math", "re", "enum", "functools", "types", "typing", "collections", "contextlib"}
STDLIB |= {"contextvars", "dataclasses", "fractions", "datetime", "decimal", "operator"}
ORDER = [
    "units",
    "working",
    "climate",
    "weather",
    "survey",
    "materials",
    "recipe",
    "supply",
    "works",
    "decay",
    "nitrogen",
    "events",
    "renewal",
]


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
            if name.startswith("ulmatic.core.") and own in ORDER:
                assert ORDER.index(name.split(".")[2]) <= ORDER.index(own), f"{own} imports {name}"


def test_customers_rows_are_selected_in_the_scope_alone():
    for path in ROOT.rglob("*.py"):
        text = path.read_text()
        if path.name != "scope.py" and ("SiteRow" in text or "PlotRow" in text):
            assert "sqlalchemy import select" not in text, path
            assert "select(SiteRow" not in text.replace("scope.select(SiteRow", ""), path
            assert "select(PlotRow" not in text.replace("scope.select(PlotRow", ""), path


def test_every_parameter_has_its_range_source_and_mark():
    parameters = [*list_parameters(), *(one for material in CATALOGUE.values() for one in material.parameters())]
    assert len({one.key for one in parameters}) == len(parameters) >= 180
    for one in parameters:
        assert one.low <= one.value <= one.high, one.key
        assert len(one.source.text) > 15, one.key
        assert one.source.mark in (Mark.PUBLISHED, Mark.FROM_MEMORY, Mark.COMMON_PRACTICE), one.key
