"""The rules of the house that a program can check; what may import what are contracts in pyproject.toml."""

import ast
import re
from pathlib import Path
from typing import get_args

import ulmatic
from ulmatic.core.figures import Mark
from ulmatic.core.log import KINDS, HoursWorked
from ulmatic.core.log.entry_fields import fields_of
from ulmatic.core.materials import CATALOGUE
from ulmatic.core.planning.register import GENERAL, shipped
from ulmatic.core.work import CAUTIONS, TASKS
from ulmatic.texts import texts

ROOT = Path(ulmatic.__file__).parent
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
    ("found", "survey.py"),
    ("kept", "schemas.py"),
    ("kept", "ledger_schemas.py"),
}
"""Fields of the API and of rows."""


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
            assert named not in vague or (named, path.name) in FIELDS, f"{path}: {named} in {ast.unparse(node)}"


VAGUE = """
above across again alike alone along apart asked at away back below beside between done due even far found given gone
held here inside later learned near off over own put said seen sent served shown still taken taught then there together
told under up wanted whole within without
"""


def test_a_local_and_a_parameter_are_called_what_they_are():
    """Neither by an adverb nor by a participle alone."""
    vague = set(VAGUE.split())
    in_tests = vague | {"one", "made", "kept", "mine"}
    of_parameters = vague - {"at", "on", "under"} | {"now", "since", "laid", "left", "drawn"}
    for path in [*ROOT.rglob("*.py"), *Path(__file__).parents[1].rglob("*.py")]:
        if "migrations" in path.parts:
            continue
        for function in ast.walk(ast.parse(path.read_text())):
            if isinstance(function, ast.FunctionDef | ast.AsyncFunctionDef):
                stored = {n.id for n in ast.walk(function) if isinstance(n, ast.Name) and isinstance(n.ctx, ast.Store)}
                unfit = (in_tests if "tests" in path.parts else vague) & stored
                assert not unfit, f"{path}: {function.name} {unfit}"
                takes = {argument.arg for argument in [*function.args.args, *function.args.kwonlyargs]}
                assert "tests" in path.parts or not of_parameters & takes, f"{path}: {function.name} {takes}"


def test_public_functions_of_the_core_tell_their_parameters():
    for path in (ROOT / "core").rglob("*.py"):
        for node in ast.parse(path.read_text()).body:
            if isinstance(node, ast.FunctionDef) and not node.name.startswith("_"):
                words = ast.get_docstring(node) or ""
                for argument in [*node.args.args, *node.args.kwonlyargs]:
                    assert f"{argument.arg}" in words.partition("Parameters\n")[2], (
                        f"{path}: {node.name} {argument.arg}"
                    )


def test_types_in_docstrings_are_types_that_there_are():
    known, named = {"None", "Callable", "Path"}, []
    for path in ROOT.rglob("*.py"):
        for node in ast.walk(ast.parse(path.read_text())):
            if isinstance(node, ast.ClassDef):
                known.add(node.name)
            elif isinstance(node, ast.Assign):
                known |= {target.id for target in node.targets if isinstance(target, ast.Name)}
            elif isinstance(node, ast.ImportFrom):
                known |= {name.asname or name.name for name in node.names}
            if isinstance(node, ast.FunctionDef | ast.ClassDef):
                for types in re.findall(r"^\w[\w, ]* : (.*)$", ast.get_docstring(node) or "", re.MULTILINE):
                    named += [(path, node.name, name) for name in re.findall(r"\b[A-Z]\w+\b", types)]
    assert named
    assert [place for place in named if place[2] not in known] == []


def test_only_the_clock_asks_what_day_it_is():
    for path in [*ROOT.rglob("*.py"), *Path(__file__).parents[1].rglob("*.py")]:
        if path == ROOT / "platform" / "clock.py":
            continue
        for node in ast.walk(ast.parse(path.read_text())):
            call = isinstance(node, ast.Call) and isinstance(node.func, ast.Attribute) and ast.unparse(node.func)
            assert call not in ("datetime.now", "date.today", "datetime.today", "datetime.utcnow"), f"{path}: {call}"


SLOW_TO_IMPORT = {
    "core": {"pint", "pyproj"},
    "accounts": {"zxcvbn"},
    "formats": {"openpyxl", "icalendar", "gpxpy", "gpxpy.gpx"},
    "log": {"ulmatic.formats.label_sheets"},
    "money": {"ulmatic.formats.quotes"},
    "platform": {"psycopg"},
    "survey": {"ulmatic.formats.boundaries"},
    "work": {"ulmatic.work"},
}


def test_imports_are_put_off_only_to_start_faster():
    """What few requests need is imported by them; a command imports what it does."""
    for path in (path for path in ROOT.rglob("*.py") if path.parent != ROOT and "migrations" not in path.parts):
        for function in ast.walk(ast.parse(path.read_text())):
            if isinstance(function, ast.FunctionDef):
                for node in ast.walk(function):
                    if isinstance(node, ast.Import | ast.ImportFrom):
                        name = node.module if isinstance(node, ast.ImportFrom) else node.names[0].name
                        slow = SLOW_TO_IMPORT.get(path.relative_to(ROOT).parts[0], set())
                        assert name in slow, f"{path}: {function.name} imports {name}"


def test_each_kind_of_entry_has_its_words_and_no_words_are_without_a_kind():
    needed = set()
    for kind, record in KINDS.items():
        fields = {field.name: field for field in fields_of(kind)}
        assert set(record.form_fields) <= set(fields), kind
        needed |= {kind, f"{kind}.table"} | {f"column.{name}" for name in fields}
        for name in record.form_fields:
            needed |= {f"{kind}.{name}", *(f"{kind}.{name}.{choice}" for choice in fields[name].choices)}
    words = texts("log_kinds")
    assert needed <= set(words)
    assert {key.removesuffix(".hint").removesuffix("_spread") for key in words} <= needed
    headings = [word for key, word in words.items() if key.startswith("column.")]
    tables = [words[f"{kind}.table"] for kind in KINDS]
    assert len(set(headings)) == len(headings)
    assert len(set(tables)) == len(tables)


def test_each_kind_of_task_is_one_record_in_the_order_of_the_work():
    assert [record.place for record in TASKS.values()] == sorted({record.place for record in TASKS.values()})
    logged_as = set(get_args(HoursWorked.model_fields["task"].annotation))
    for kind, record in TASKS.items():
        assert record.words
        assert record.logged_as in logged_as, kind
        rated = record.rate is not None or record.tree_rate is not None
        carried = kind in ("compost", "biochar", "chips", "own")
        assert rated != carried, f"{kind}: hours follow from the ground, or from what is carried, or are said"
        assert set(record.cautions) <= CAUTIONS.keys()
