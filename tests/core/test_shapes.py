import math
from typing import Any

import pytest
import shapely
from hypothesis import example, given
from hypothesis import strategies as st
from pydantic import TypeAdapter, ValidationError
from shapely import affinity

from ulmatic.core.log import Measured
from ulmatic.core.survey import (
    Ellipse,
    Offsets,
    Path,
    PlantGaps,
    Polygon,
    Rectangle,
    Ring,
    RingBlock,
    RingRow,
    Shape,
    ShapeCut,
    Slope,
    Strip,
    Triangle,
    ground,
    outline,
)
from ulmatic.core.survey.place import Place
from ulmatic.core.units import UnitSystem, bare_numbers_in

metres = st.floats(0.2, 120)
some_trees = st.integers(1, 12)
SHAPES = TypeAdapter(Shape)


@st.composite
def triangles(draw):
    a, b = draw(metres), draw(metres)
    c = draw(st.floats(abs(a - b) + 0.05, a + b - 0.05)) if abs(a - b) + 0.05 < a + b - 0.05 else max(a, b)
    return Triangle(a_m=a, b_m=b, c_m=c)


@st.composite
def rows(draw, /, maker: Any = RingRow, **more: Any):
    gap = draw(st.floats(0, 0.4))
    trunk = draw(st.floats(0.05, 1.2))
    inner = trunk / (2 * math.pi) + gap
    canopy = draw(st.floats(2 * inner + 0.2, 2 * inner + 12))
    spacing = draw(st.floats(2 * inner + 0.05, 2 * inner + 16))
    rows = {"row_spacing_m": draw(st.floats(2 * inner + 0.05, 2 * inner + 16)), "rows": draw(st.integers(1, 4))}
    extra = rows if maker is RingBlock else {}
    return maker(canopy_m=canopy, trunk_m=trunk, gap_m=gap, trees=draw(some_trees), spacing_m=spacing, **extra, **more)


def bent_path(legs, width_m) -> Path:
    return Path(legs_m=[leg for leg, _ in legs], turns_deg=[turn for _, turn in legs[1:]], width_m=width_m)


polygons = st.integers(3, 9).flatmap(
    lambda count: st.lists(st.floats(1, 30), min_size=count, max_size=count).map(
        lambda radii: Polygon(
            corners_m=[
                (radius * math.cos(2 * math.pi * index / count), radius * math.sin(2 * math.pi * index / count))
                for index, radius in enumerate(radii)
            ]
        )
    )
)
shapes = st.one_of(
    st.builds(Rectangle, length_m=metres, width_m=metres),
    triangles(),
    st.builds(Ellipse, across_m=metres, other_m=st.none() | metres),
    polygons,
    st.builds(
        Offsets,
        spacing_m=st.floats(0.3, 5),
        offsets_m=st.lists(st.floats(0, 9), min_size=2, max_size=12)
        .map(tuple)
        .filter(lambda offsets: sum(offsets) > 0.5),
    ),
    st.builds(
        bent_path,
        st.lists(st.tuples(st.floats(0.3, 20), st.floats(-140, 140)), min_size=1, max_size=6),
        st.floats(0.3, 3),
    ),
    st.builds(
        Ring,
        canopy_m=st.floats(2, 20),
        trunk_m=st.floats(0.1, 2),
        gap_m=st.floats(0, 0.4),
        part=st.floats(0.1, 1),
        trees=some_trees,
    ),
    rows(),
    rows(RingBlock),
    st.builds(
        Strip,
        length_m=st.floats(20, 90),
        width_m=st.floats(2, 4),
        trees=st.integers(0, 8),
        trunk_m=st.floats(0.1, 2),
        gap_m=st.floats(0, 0.4),
    ),
)


@given(shapes)
def test_the_drawing_has_the_area_that_is_computed(shape):
    assert shape.geometry().area == pytest.approx(shape.area().value, rel=1e-5)


@given(shapes, st.floats(0, 360), st.floats(-50, 50))
def test_area_and_edge_do_not_change_when_ground_is_turned_and_moved(shape, turn, by):
    moved = affinity.translate(affinity.rotate(shape.geometry(), turn), by, -by)
    assert moved.area == pytest.approx(shape.geometry().area, rel=1e-6)


@given(shapes)
def test_what_is_drawn_lies_about_its_middle_within_its_box(shape):
    drawn = outline(shape)
    xs = [x + cx for ring in drawn.rings for x, _ in ring for cx, _ in drawn.copies]
    ys = [y + cy for ring in drawn.rings for _, y in ring for _, cy in drawn.copies]
    assert max(xs) - min(xs) == pytest.approx(drawn.width_m, abs=0.01)
    assert max(xs) == pytest.approx(drawn.width_m / 2, abs=0.01)
    assert max(ys) == pytest.approx(drawn.height_m / 2, abs=0.01)
    fields = type(shape).model_fields
    assert all(line.field.split(".")[0] in fields for line in drawn.dimensions)


@given(shapes)
@example(RingRow(trunk_m=1, gap_m=0, canopy_m=1, reach_m=0, trees=2, spacing_m=1))
@example(Ring(trunk_m=1, gap_m=0, canopy_m=2, reach_m=0, part=1 - 1e-16, trees=2))
def test_a_shape_is_drawn_without_crossing_itself(shape):
    assert shape.geometry().is_valid


@given(shapes)
def test_a_shape_reads_back_from_what_is_kept(shape):
    assert SHAPES.validate_python(shape.model_dump(mode="json")) == shape


@given(rows())
def test_a_row_is_never_more_than_the_sum_of_its_rings_nor_less_than_one(row):
    single = Ring(canopy_m=row.canopy_m, trunk_m=row.trunk_m, gap_m=row.gap_m).area().value
    assert single * (1 - 1e-9) <= row.area().value <= row.trees * single * (1 + 1e-9)
    assert (row.area().value < row.trees * single * (1 - 1e-12)) == row.merged or not row.merged


cuts = st.lists(
    st.builds(PlantGaps, plants=st.integers(1, 50), gap_m=st.floats(0, 1))
    | st.builds(
        ShapeCut,
        shape=st.builds(Rectangle, length_m=metres, width_m=metres) | st.builds(Ellipse, across_m=metres),
        place=st.none() | st.builds(Place, x_m=st.floats(-20, 20), y_m=st.floats(-20, 20), turn_deg=st.floats(0, 360)),
    ),
    max_size=4,
).map(tuple)


@given(shapes, cuts)
def test_cut_outs_never_give_negative_area_nor_more_than_the_outline(shape, cut_outs):
    assert 0 <= ground(shape, cut_outs).area.value <= shape.area().value * (1 + 1e-9)


def test_cut_outs_with_a_place_are_subtracted_where_they_lie():
    bed, stone = Rectangle(length_m=10, width_m=4), Rectangle(length_m=2, width_m=1)
    cut = ShapeCut(shape=stone, place=Place(x_m=1, y_m=0))
    twice = (cut, cut)
    overhanging = ShapeCut(shape=stone, place=Place(x_m=5, y_m=0))
    assert ground(bed, (cut,)).area.value == pytest.approx(38)
    assert ground(bed, twice).area.value == pytest.approx(38)
    assert ground(bed, (overhanging,)).area.value == pytest.approx(39)
    assert ground(bed, (ShapeCut(shape=stone), ShapeCut(shape=stone))).area.value == pytest.approx(36)
    assert ground(bed, (PlantGaps(plants=7, gap_m=0.2),)).area.value == pytest.approx(40 - 7 * math.pi * 0.04)


def test_on_a_slope_plan_lengths_cover_more_ground_and_taped_ones_do_not():
    bed = Rectangle(length_m=10, width_m=4)
    plan = ground(bed, slope=Slope(angle_deg=30, taped="plan")).area
    assert plan.value == pytest.approx(40 / math.cos(math.pi / 6))
    taped = ground(bed, slope=Slope(angle_deg=30)).area
    assert taped.value == 40
    assert "Taped along a slope" in taped.working.note


@pytest.mark.parametrize(
    ("text", "degrees"), [("9°", 9), ("15 %", 8.5308), ("1:4", 14.0362), ("1 in 4", 14.0362), ("12", 12), ("100%", 45)]
)
def test_slopes_are_read_as_percent_degrees_or_ratio(text, degrees):
    assert Slope(angle_deg=text).angle_deg == pytest.approx(degrees, abs=1e-3)


def test_edge_and_cardboard():
    bed = ground(Rectangle(length_m=10, width_m=4))
    assert bed.edge.value == 28
    assert bed.cardboard.value == pytest.approx(48)
    ring = ground(Ring(canopy_m=6, trunk_m=0.5, gap_m=0.2))
    assert ring.edge.value == pytest.approx(6 * math.pi, rel=1e-3)


def test_the_mean_of_several_readings_is_what_lies_there():
    figure = Measured(depth_mm=10, readings_mm=(40, 60, 80)).depth()
    assert figure.value == 60
    assert figure.high - figure.value == pytest.approx(20 / math.sqrt(3))
    assert Measured(depth_mm=10).depth().value == 10
    assert Measured(readings_mm=(55,)).depth().low is None


SENTENCES = [
    ({"kind": "triangle", "a_m": 3, "b_m": 4, "c_m": 9}, "c_m", "longer than the other two"),
    ({"kind": "polygon", "corners_m": "0,0; 4,4; 4,0; 0,4"}, "corners_m", "cross each other"),
    ({"kind": "polygon", "corners_m": "0,0; 4,4"}, "corners_m", "three corners"),
    ({"kind": "polygon", "corners_m": "0,0; 4"}, "corners_m", "Point 2: needs two numbers"),
    ({"kind": "polygon", "corners_m": "0,0; 4,x; 1,1"}, "corners_m", "Point 2: “x” is not a length"),
    ({"kind": "offsets", "spacing_m": 1, "offsets_m": "0, 0, 0"}, "offsets_m", "All offsets are 0"),
    ({"kind": "path", "legs_m": "4 + 4", "width_m": 1, "turns_deg": "90, 90"}, "turns_deg", "1 turns; 2 are written"),
    ({"kind": "path", "legs_m": "4 + 4", "width_m": 1, "turns_deg": "round"}, "turns_deg", "90 right, 45 left"),
    ({"kind": "path", "legs_m": "4 + 4", "width_m": 1, "turns_deg": "170"}, "turns_deg", "at most"),
    (
        {"kind": "ring_row", "canopy_m": 4, "trunk_m": 0.4, "gap_m": 0.2, "trees": 5, "spacing_m": 0.3},
        "spacing_m",
        "touch",
    ),
    (
        {"kind": "strip", "length_m": 9, "width_m": 0.4, "trunk_m": 0.4, "gap_m": 0.3, "trees": 2},
        "width_m",
        "as wide as the strip",
    ),
    ({"kind": "strip", "length_m": 2, "width_m": 4, "trunk_m": 0.4, "gap_m": 0.6, "trees": 5}, "trees", "does not fit"),
    ({"kind": "walked", "points_deg": "51.05, -3.12; 51.06, -3.12"}, "points_deg", "three different points"),
    ({"kind": "walked", "points_deg": "51, -3; 52, -3; 52, -2"}, "points_deg", "right order"),
    ({"kind": "walked", "points_deg": "a boundary"}, "points_deg", "Point 1 needs a latitude"),
    ({"kind": "walked", "points_deg": "0,0; 0.001,0.001; 0.001,0; 0,0.001"}, "points_deg", "crosses itself"),
]


@pytest.mark.parametrize(("data", "field", "words"), SENTENCES)
def test_ground_that_cannot_be_gets_a_sentence_at_its_field(data, field, words):
    with pytest.raises(ValidationError) as caught:
        SHAPES.validate_python(data)
    (error,) = caught.value.errors()
    assert words in error["msg"]
    assert field in (error.get("ctx", {}).get("field"), *error["loc"])


def test_measurements_are_typed_in_every_shape():
    with bare_numbers_in(UnitSystem.US):
        bed: Any = SHAPES.validate_python({"kind": "offsets", "spacing_m": "5", "offsets_m": "0, 3'6\", 4 ft 2, 0"})
        path: Any = SHAPES.validate_python({"kind": "path", "legs_m": "10 + 6", "turns_deg": "45 left", "width_m": "4"})
        corners: Any = SHAPES.validate_python({"kind": "polygon", "corners_m": "0 0\n10 0\n10, -6'6\""})
    assert bed.offsets_m == pytest.approx((0, 1.0668, 1.27, 0))
    assert path.turns_deg == (-45,)
    assert corners.corners_m[2] == pytest.approx((3.048, -1.9812))


def test_a_path_that_crosses_itself_covers_that_ground_once():
    loop = Path(legs_m=(10, 6, 6, 10), turns_deg=(90, 90, 90), width_m=1)
    area = loop.area()
    assert area.value == pytest.approx(32 - 1, rel=1e-6)
    assert area.working.terms[1].figure.name == "Counted twice where the path meets itself"


def test_a_leg_shorter_than_its_corner_is_wide_is_measured_as_it_is_drawn():
    path = Path(legs_m=(0.5, 6), turns_deg=(120,), width_m=2)
    assert path.area().value == pytest.approx(14.16, abs=0.005)
    assert path.area().value == pytest.approx(path.geometry().area, rel=1e-9)
    assert path.area().working.terms[1].figure.name == "Outer corners that stand out beyond a short leg"


def test_a_curve_through_offsets_does_not_run_below_its_baseline():
    """Between the second and the third offset the parabola is below zero: 2.1 · 5/12 is above, 2.1/12 below."""
    bed = Offsets(spacing_m=1, offsets_m=(2.1, 0, 0))
    assert min(y for _, y in shapely.get_coordinates(bed.geometry())) == 0
    assert bed.area().value == pytest.approx(2.1 * 5 / 12, rel=0.01)
    assert bed.area().value == pytest.approx(bed.geometry().area)
    assert bed.area().working.terms[1].figure.name == "Where the curve would run below the baseline"


def test_a_row_says_when_its_rings_have_grown_together():
    young = RingRow(canopy_m=2, trunk_m=0.2, gap_m=0.15, trees=6, spacing_m=3)
    grown = young.model_copy(update={"canopy_m": 4.0})
    assert not young.merged
    assert len(outline(young).copies) == 6
    assert len(outline(grown).copies) == 1
    assert len(outline(grown).trunks) == 6
    assert "one strip" in grown.area().working.note
    assert grown.area().working.terms[1].figure.name == "Overlap"


def test_two_thousand_trees_are_drawn_as_one_ring_repeated():
    block = RingBlock(canopy_m=3, trunk_m=0.3, gap_m=0.2, trees=50, spacing_m=4, rows=40, row_spacing_m=5)
    drawn = outline(block)
    assert len(drawn.copies) == 2000
    assert sum(len(ring) for ring in drawn.rings) < 200
    with pytest.raises(ValidationError, match="plan the block in parts"):
        RingBlock(**{**block.model_dump(), "rows": 400})
