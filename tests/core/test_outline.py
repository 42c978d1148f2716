"""What is drawn of a plot."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st
from shapely import Point, Polygon, affinity

from ulmatic.core.survey import (
    Ellipse,
    Offsets,
    Path,
    Place,
    PlantGaps,
    Rectangle,
    Ring,
    RingRow,
    ShapeCut,
    Slope,
    ground,
    outline,
)

turns = st.lists(st.floats(-140, 140), min_size=1, max_size=3)


@given(turns, st.floats(0.5, 2))
def test_the_name_of_a_bent_path_stands_on_the_path(angles, width):
    path = Path(legs_m=[9.0] * (len(angles) + 1), turns_deg=angles, width_m=width)
    drawn = outline(path)
    outer, *holes = drawn.rings
    assert Polygon(outer, holes).buffer(0.01).contains(Point(drawn.label))


def test_names_of_trees_and_plain_beds_stand_in_the_middle():
    row = RingRow(canopy_m=4, trunk_m=0.3, gap_m=0.2, trees=5, spacing_m=3)
    for shape in (Rectangle(length_m=4, width_m=2), Ring(canopy_m=3, trunk_m=0.3, gap_m=0.1), row):
        assert outline(shape).label == (0, 0)


@given(st.integers(1, 60), st.floats(0.05, 0.2))
def test_plants_without_a_place_are_drawn_within_the_plot(plants, gap):
    bed = Offsets(spacing_m=2, offsets_m=(1, 3, 4, 3, 2))
    drawn = outline(bed, (PlantGaps(plants=plants, gap_m=gap),))
    assert len(drawn.cuts) == plants
    body = Polygon(drawn.rings[0]).buffer(0.02)
    for cut in drawn.cuts:
        assert body.contains(Polygon(cut).centroid)


@given(st.floats(-2, 2), st.floats(-1, 1), st.floats(0, 360))
def test_a_cut_out_is_drawn_where_it_is_subtracted(x, y, turn):
    bed = Rectangle(length_m=8, width_m=5)
    cut = ShapeCut(shape=Rectangle(length_m=3, width_m=1), place=Place(x_m=x, y_m=y, turn_deg=turn))
    drawn = Polygon(outline(bed, (cut,)).cuts[0])
    expected = affinity.translate(
        affinity.rotate(Polygon([(-1.5, -0.5), (1.5, -0.5), (1.5, 0.5), (-1.5, 0.5)]), turn), x, y
    )
    assert drawn.symmetric_difference(expected).area < 0.02
    covered = ground(bed, (cut,)).area.value
    outer = Polygon(outline(bed).rings[0])
    assert covered == pytest.approx(outer.difference(expected).area, abs=1e-3)


def test_dimension_lines_are_as_long_as_they_say():
    for shape in (
        Rectangle(length_m=4, width_m=2),
        Ellipse(across_m=5, other_m=3),
        Path(legs_m=(4, 6), turns_deg=(50,), width_m=1),
        RingRow(canopy_m=4, trunk_m=0.3, gap_m=0.2, reach_m=0.3, trees=5, spacing_m=3),
    ):
        lines = outline(shape).dimensions
        assert len(lines) >= 2
        for line in lines:
            assert math.dist(*line.points) == pytest.approx(line.value_m, abs=0.002), (shape.kind, line.field)


@given(st.floats(0, 60))
def test_a_slope_never_makes_ground_smaller(angle):
    bed = Rectangle(length_m=8, width_m=5)
    assert ground(bed, slope=Slope(angle_deg=angle, taped="plan")).area.value >= 40 * (1 - 1e-12)
