"""Readers of files either give what they should or refuse in one sentence, whatever they are given."""

import contextlib
import io
import itertools
import json
import zipfile
from datetime import date
from typing import Any
from uuid import UUID

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from pydantic import TypeAdapter

from tests.conftest import examples
from ulmatic.core.log import Measured
from ulmatic.core.planning.inventory import state_on
from ulmatic.core.recipe import PlannedPlot
from ulmatic.core.schedule import Rule
from ulmatic.core.survey import Use
from ulmatic.core.units import UnitSystem, bare_numbers_in
from ulmatic.formats import FileRefused
from ulmatic.formats.archive import Archive, read_archive, write_archive
from ulmatic.formats.boundaries import read_boundaries
from ulmatic.formats.cells import bared, harmless, write_csv, write_xlsx
from ulmatic.formats.log_tables import read_log
from ulmatic.formats.order_drawings import CutLayer, OrderGround, cut_drawing, ground_drawing
from ulmatic.formats.paper import area_words, depth_words, hours_words, in_words, length_words, volume_words
from ulmatic.formats.recipe_cells import rule_of_cell, rule_words
from ulmatic.formats.tables import COLUMNS, PlotInTable, heading_of, read_rows, rows_of, template

TODAY = date(2026, 11, 26)
HEADER = b"name,measured as,length,width,used for,wanted\n"
messy = st.one_of(
    st.binary(max_size=400),
    st.text(max_size=300).map(lambda text: text.encode("utf-8", "replace")),
    st.binary(max_size=200).map(lambda rest: HEADER + rest),
    st.recursive(
        st.none() | st.booleans() | st.floats() | st.text(max_size=8),
        lambda inner: (
            st.lists(inner, max_size=3)
            | st.dictionaries(
                st.sampled_from(
                    ["type", "features", "geometry", "coordinates", "format", "version", "site", "plots", "properties"]
                ),
                inner,
                max_size=4,
            )
        ),
        max_leaves=12,
    ).map(lambda value: json.dumps(value).encode()),
    st.text(alphabet="<>/&;!?=\"' gpxkmltrwn", max_size=200).map(lambda body: f"<gpx>{body}</gpx>".encode()),
)


@given(messy, st.sampled_from(["a.geojson", "a.gpx", "a.kml", "a.csv", "a.xlsx", "a", "a.GPX"]))
@settings(max_examples=examples(400))
def test_no_file_does_more_than_be_refused(content, name):
    for read in (
        lambda: read_boundaries(name, content),
        lambda: read_rows(name, content),
        lambda: read_archive(content, TODAY),
        lambda: read_log(name, content),
    ):
        with contextlib.suppress(FileRefused):
            assert read()


def damaged_workbook(member: str, content: bytes) -> bytes:
    """Return a good workbook with one of its parts replaced."""
    good, out = zipfile.ZipFile(io.BytesIO(write_xlsx(template(), list(COLUMNS), "Plots"))), io.BytesIO()
    with zipfile.ZipFile(out, "w") as archive:
        for name in good.namelist():
            archive.writestr(name, content if name == member else good.read(name))
    return out.getvalue()


@pytest.mark.parametrize("member", ["xl/workbook.xml", "xl/worksheets/sheet1.xml", "[Content_Types].xml"])
@pytest.mark.parametrize("content", [b"", b"<x", b'<!DOCTYPE x [<!ENTITY a "a">]><x>&a;</x>'])
def test_damaged_workbooks_are_refused(member, content):
    with pytest.raises(FileRefused):
        read_rows("a.xlsx", damaged_workbook(member, content))


lengths = st.decimals(min_value="0.1", max_value="90", places=2)
names = st.text(
    st.characters(min_codepoint=32, max_codepoint=0x2FF, exclude_categories=("C", "Z")), min_size=1, max_size=30
)


@given(names, lengths, lengths, st.sampled_from(Use), st.sampled_from(["csv", "xlsx"]))
def test_a_row_written_is_the_row_read(name, length, width, use, ending):
    typed: dict[str, Any] = {
        "shape": {"length_m": f"{length} m", "width_m": f"{width} ft"},
        "wanted_mm": "3 in",
    }
    entry = {"name": name, "use": use, "shape": {"kind": "rectangle", **typed["shape"]}, "wanted_mm": "3 in"}
    with bare_numbers_in(UnitSystem.METRIC):
        plot = PlannedPlot.model_validate(entry)
    rows, columns = rows_of([PlotInTable(plot, 20.0, typed)]), list(COLUMNS)
    written = write_csv(rows, columns) if ending == "csv" else write_xlsx(rows, columns, "Plots")
    (row,) = read_rows(f"a.{ending}", written)
    with bare_numbers_in(UnitSystem.METRIC):
        second = PlannedPlot.model_validate({key: value for key, value in row.entry.items() if key != "existing_mm"})
    assert second == plot
    assert row.entry["existing_mm"] == "20 mm"


@pytest.mark.parametrize(
    "rule",
    [
        {"kind": "keep"},
        {"kind": "thin"},
        {"kind": "thin", "part": 0.5},
        {"kind": "once"},
        {"kind": "quarter"},
        {"kind": "quarter", "window": "spring"},
        {"kind": "every", "years": 2},
        {"kind": "harvest", "years": 3, "window": "autumn"},
        {"kind": "rounds", "rounds": 3, "months_apart": 8},
    ],
)
def test_a_rule_written_is_the_rule_read(rule):
    rules = TypeAdapter(Rule)
    read = rules.validate_python(rule)
    assert rules.validate_python(rule_of_cell(rule_words(read))) == read
    assert rule_of_cell("  ") is None
    assert rule_of_cell("every year") == {"kind": "every", "years": 1}


@pytest.mark.parametrize("separator", [",", ";", "\t"])
@pytest.mark.parametrize("mark", ["", "\ufeff"])
def test_tables_come_with_any_separator_and_mark(separator, mark):
    lines = [
        ["Name", " Measured AS", "length", "width", "use"],
        ["Bed", "Rectangle", "3", "2", "BANK OR SLOPE"],
        ["", "", "", "", ""],
    ]
    text = mark + "\r\n".join(separator.join(line) for line in lines)
    (row,) = read_rows("a.csv", text.encode())
    assert row.number == 2
    assert row.entry == {
        "name": "Bed",
        "use": Use.BANK,
        "shape": {"kind": "rectangle", "length_m": "3", "width_m": "2"},
    }


def test_headings_alone_are_no_table():
    with pytest.raises(FileRefused, match="no rows"):
        read_rows("a.csv", HEADER)


def test_headings_lead_back_from_fields():
    assert heading_of("shape.length_m", "rectangle") == "length"
    assert heading_of("shape.offsets_m.3", "offsets") == "offsets"
    assert heading_of("shape.spacing_m", "offsets") == "offsets every"
    assert heading_of("shape.spacing_m", "ring_row") == "tree to tree"
    assert heading_of("wanted_mm", None) == "target depth"
    assert len(COLUMNS) == len(set(COLUMNS))


def test_an_archive_of_another_shape_is_not_half_read():
    site: dict[str, Any] = {"name": "A", "units": "metric", "spare": 0.1, "load_m3": 5, "barrow_m3": 0.1}
    shape = {"kind": "ellipse", "across_m": 3}
    plot = {
        "id": str(UUID(int=1)),
        "name": "B",
        "use": "bank",
        "shape": shape,
        "wanted_mm": 75,
        "surveyed_on": "2026-11-01",
    }
    archive = Archive.model_validate({"site": site, "plots": [plot]})
    assert read_archive(write_archive(archive), TODAY) == archive
    entry = {
        "id": str(UUID(int=2)),
        "on": "2026-11-02",
        "written_at": "2026-11-02T09:00:00Z",
        "entry": {"kind": "dug_in"},
    }
    stray: dict[str, dict[str, Any]] = {
        "site.owner": {"site": site | {"owner": "x"}, "plots": []},
        "plots.0.secret": {"site": site, "plots": [plot | {"secret": 1}]},
        "its ledger names a plot": {"site": site, "plots": [], "ledger": [entry | {"plot_id": str(UUID(int=9))}]},
        "the same id": {"site": site, "plots": [plot, plot]},
    }
    for sentence, damaged in stray.items():
        with pytest.raises(FileRefused, match=sentence):
            read_archive(json.dumps({"format": "ulmatic-site", "version": 5, **damaged}).encode(), TODAY)


def test_an_archive_of_the_first_version_is_read_with_what_it_does_not_say():
    plot = {"name": "B", "use": "bank", "shape": {"kind": "ellipse", "across_m": 3}, "existing_mm": 30, "wanted_mm": 75}
    site = {"name": "A", "units": "metric", "spare": 0.1, "load_m3": 5, "barrow_m3": 0.1}
    content = json.dumps({"format": "ulmatic-site", "version": 1, "site": site, "plots": [plot]}).encode()
    archive = read_archive(content, TODAY)
    assert [plot.name for plot in archive.plots] == ["B"]
    (measured,) = archive.ledger
    assert (measured.on, measured.entry) == (TODAY, Measured(depth_mm=30, settled=True))
    assert state_on(archive.to_site(), TODAY).depth(archive.plots[0].id).middle == pytest.approx(30)


@pytest.mark.parametrize(
    ("text", "written"),
    [
        ("=1+1", "'=1+1"),
        ("-2+3+cmd|' /C calc'!A0", "'-2+3+cmd|' /C calc'!A0"),
        ("+44 bed", "'+44 bed"),
        ("@x", "'@x"),
        ("\t=1", "'\t=1"),
        ("-12,5", "-12,5"),
        ("-3.25 °C", "-3.25 °C"),
        ("- a dash", "'- a dash"),
        ("-1;x", "'-1;x"),
        ("12 x 3", "12 x 3"),
        ("", ""),
    ],
)
def test_no_cell_is_taken_for_a_formula(text, written):
    assert harmless(text) == written
    assert bared(written) == text


@pytest.mark.parametrize(
    ("words", "amount", "metric", "us"),
    [
        (volume_words, 2.0, "2.0 m³", "2.6 yd³"),
        (volume_words, 0.02, "under 0.1 m³", "under 0.1 yd³"),
        (volume_words, 0.0, "0.0 m³", "0.0 yd³"),
        (area_words, 92.90304, "92.9 m²", "1,000 sq ft"),
        (length_words, 30.48, "30 m", "100 ft"),
        (depth_words, 78.0, "80 mm", "3 in"),
        (depth_words, 63.5, "65 mm", "2.5 in"),
    ],
)
def test_paper_is_written_in_the_units_of_the_site_and_no_finer_than_can_be_laid(words, amount, metric, us):
    assert words(amount, UnitSystem.METRIC) == metric
    assert words(amount, UnitSystem.US) == us


@pytest.mark.parametrize(
    ("text", "metric", "us"),
    [
        ("Order {4.5 m3} today", "Order 4.5 m³ today", "Order 5.9 yd³ today"),
        ("{0.018 m3_water} a week", "18 L a week", "5 gal a week"),
        ("Heat: {33 degC}.", "Heat: 33 °C.", "Heat: 91 °F."),
        ("{-4 degC} at night", "-4 °C at night", "25 °F at night"),
        ("{5 g_m2} wanting", "5 g/m² wanting", "1.0 lb/1,000 sq ft wanting"),
        ("{75 mm} deep, {12 m} away", "75 mm deep, 12 m away", "3 in deep, 39 ft away"),
        ("nothing {to} change", "nothing {to} change", "nothing {to} change"),
    ],
)
def test_sentences_of_the_core_are_written_in_the_units_of_a_site(text, metric, us):
    assert in_words(text, UnitSystem.METRIC) == metric
    assert in_words(text, UnitSystem.US) == us


@pytest.mark.parametrize(
    ("hours", "words"), [(0.0004, "1 min"), (0.25, "15 min"), (0.94, "56 min"), (1, "1.0 h"), (12.34, "12.3 h")]
)
def test_less_than_an_hour_is_written_in_minutes(hours, words):
    assert hours_words(hours) == words


SQUARE = ((0.0, 0.0), (4.0, 0.0), (4.0, 2.0), (0.0, 2.0))
FAR = tuple((x + 30.0, y + 9.0) for x, y in SQUARE)


def strings(drawing) -> list[str]:
    shapes, texts = list(drawing.contents), []
    while shapes:
        shape = shapes.pop()
        shapes += getattr(shape, "contents", [])
        texts += [shape.text] if hasattr(shape, "text") else []
    return texts


@pytest.mark.parametrize(("units", "scale"), [(UnitSystem.METRIC, "10 m"), (UnitSystem.US, "50 ft")])
def test_the_ground_of_a_work_order_numbers_the_plots_of_the_day_alone(units, scale):
    ground = OrderGround(
        plots=[((SQUARE,), 1), ((FAR,), None)], tips=[("Gate", (2.0, 8.0))], ways=[[(0.0, 0.0), (30.0, 9.0)]]
    )
    drawing = ground_drawing(ground, 280.0, 140.0, units, "Helvetica")
    assert sorted(strings(drawing)) == sorted(["1", "Gate", scale, "N"])
    west, south, east, north = drawing.getBounds()
    assert west >= -1
    assert south >= -1
    assert east <= 281
    assert north <= 141


def test_a_site_of_one_small_bed_is_drawn_too():
    bed = tuple((x / 10, y / 10) for x, y in SQUARE)
    assert "1" in strings(
        ground_drawing(OrderGround(plots=[((bed,), 1)], tips=[], ways=[]), 280.0, 140.0, UnitSystem.METRIC, "Helvetica")
    )


def test_a_cut_tells_layers_from_the_soil_up_with_what_lies_there():
    layers = [CutLayer("Mulch", 30, lies=True), CutLayer("Cardboard", 0, lies=False), CutLayer("Bark", 45, lies=False)]
    drawing = cut_drawing(layers, 75, UnitSystem.METRIC, "Helvetica")
    assert strings(drawing)[::-1] == ["Mulch, 30 mm there now", "Cardboard", "Bark, 45 mm"]
    heights = [vars(shape)["y"] for shape in drawing.contents if hasattr(shape, "text")]
    assert all(upper - lower >= 8 for lower, upper in itertools.pairwise(heights)), "no words over others"


def test_a_cut_of_bare_ground_is_soil_alone():
    assert strings(cut_drawing([], 0, UnitSystem.METRIC, "Helvetica")) == []
