import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from ulmatic.core.figures import entered
from ulmatic.core.materials import CATALOGUE
from ulmatic.core.recipe import PlannedPlot
from ulmatic.core.supply.loads import whole_loads
from ulmatic.core.supply.need import Terms, plot_need, site_need
from ulmatic.core.supply.volume import loose_volume
from ulmatic.core.survey import Path, Rectangle, Ring, Use, arrange, footprint, outline
from ulmatic.core.units import UnitSystem, bare_numbers_in

SETTLING = CATALOGUE["arborist_leafy"].settling
metres = st.floats(0.05, 200)
depths = st.floats(0, 400)
uses = st.sampled_from(Use)
rectangles = st.builds(Rectangle, length_m=metres, width_m=metres)
paths = st.builds(Path, legs_m=st.lists(metres, min_size=1, max_size=6).map(tuple), width_m=metres)
rings = st.builds(
    Ring, canopy_m=st.floats(2, 25), trunk_m=st.floats(0.05, 2), gap_m=st.floats(0, 0.5), trees=st.integers(1, 40)
)
plots = st.builds(
    PlannedPlot, name=st.just("plot"), use=uses, shape=rectangles | paths | rings, existing_mm=depths, wanted_mm=depths
)


def volume(plot: PlannedPlot, spare: float = 0.1) -> float:
    return plot_need(plot, spare).volume.value


@given(plots, st.floats(0, 0.5))
def test_volume_is_never_negative_and_lies_within_its_range(plot, spare):
    figure = plot_need(plot, spare).volume
    assert 0 <= figure.low <= figure.value <= figure.high
    assert (figure.value == 0) == (plot.wanted_mm <= plot.existing_mm)


@given(st.lists(plots, max_size=8))
def test_a_site_needs_what_its_plots_need(some):
    needs = [(plot.name, plot_need(plot, 0.1)) for plot in some]
    site = site_need(needs, Terms(spare=0.1, load_m3=6, barrow_m3=0.1))
    assert site.volume.value == pytest.approx(sum(volume(plot) for plot in some))
    assert len(site.volume.working.terms) == len(some)


@given(plots, st.floats(0, 200))
def test_volume_grows_with_wanted_and_shrinks_with_existing_depth(plot, more):
    deeper = plot.model_copy(update={"wanted_mm": plot.wanted_mm + more})
    covered = plot.model_copy(update={"existing_mm": plot.existing_mm + more})
    assert volume(covered) <= volume(plot) <= volume(deeper)


@given(st.integers(1, 400), st.integers(1, 400), st.integers(1, 20), uses)
def test_the_same_ground_in_inches_or_millimetres_needs_the_same(length_in, width_in, depth_in, use):
    def plot(system: UnitSystem, unit: str, factor: float) -> PlannedPlot:
        with bare_numbers_in(system):
            return PlannedPlot.model_validate(
                {
                    "name": "bed",
                    "use": use,
                    "shape": {
                        "kind": "rectangle",
                        "length_m": f"{length_in * factor:.4f} {unit}",
                        "width_m": f"{width_in * factor:.4f}{unit}",
                    },
                    "wanted_mm": f"{depth_in * factor:.4f} {unit}",
                }
            )

    assert math.isclose(volume(plot(UnitSystem.US, "in", 1)), volume(plot(UnitSystem.METRIC, "mm", 25.4)), rel_tol=1e-6)


@given(st.floats(0, 500), st.floats(0.1, 60), st.none() | st.integers(0, 50))
def test_whole_loads_balance(need, load, chosen):
    order = whole_loads(entered("Need", need, "m3"), entered("Load", load, "m3"), chosen)
    assert order.delivered.value - need == pytest.approx(order.left_over.value - order.short.value, abs=1e-9)
    assert order.left_over.value >= 0
    assert order.short.value >= 0
    if chosen is None:
        assert order.left_over.value < load + 1e-6
        assert order.short.value <= 1e-6


def test_a_trodden_path_takes_more_than_a_bed():
    shape = Rectangle(length_m=5, width_m=2)
    bed = PlannedPlot(name="bed", use=Use.PERENNIALS, shape=shape, wanted_mm=75)
    path = PlannedPlot(name="path", use=Use.FOOT_PATH, shape=shape, wanted_mm=75)
    assert volume(bed, 0) == pytest.approx(10 * 0.075 / 0.78)
    assert volume(path, 0) == pytest.approx(10 * 0.075 / 0.65)


def test_the_working_of_a_volume_reaches_down_to_what_was_typed():
    ring = Ring(canopy_m=4, trunk_m=0.5, gap_m=0.2, trees=3)
    figure = plot_need(PlannedPlot(name="x", use=Use.YOUNG_TREE, shape=ring, wanted_mm=100), 0.1).volume
    area = figure.working.terms[0].figure
    assert area.value == pytest.approx(3 * math.pi * (2**2 - (0.5 / (2 * math.pi) + 0.2) ** 2))
    outer = next(term.figure for term in area.working.terms if term.symbol == "R")
    assert outer.working.terms[0].figure.name == "Canopy spread"
    assert SETTLING in [term.figure for term in figure.working.terms]


def test_loose_volume_has_no_surprise_where_enough_lies_there():
    ten, settling = entered("Area", 10, "m2"), SETTLING
    figure = loose_volume(ten, entered("d", 50, "mm"), entered("d0", 80, "mm"), settling, entered("w", 0.1, "1"))
    assert figure.value == 0
    assert "already covers" in figure.working.note


@given(st.lists(rectangles | paths | rings, min_size=1, max_size=12), st.integers(0, 3))
def test_plots_are_placed_beside_each_other_and_those_set_by_hand_stay(shapes, by_hand):
    outlines = dict(enumerate(outline(shape) for shape in shapes))
    first = arrange(outlines, {})
    fixed = {key: first[key] for key in list(outlines)[:by_hand]}
    places = arrange(outlines, fixed)
    assert all(places[key] == place for key, place in fixed.items())
    boxes = [footprint(outlines[key], places[key]) for key in outlines]
    for index, (west, south, east, north) in enumerate(boxes):
        for other in boxes[index + 1 :]:
            apart = (
                east <= other[0] + 0.01
                or other[2] <= west + 0.01
                or north <= other[1] + 0.01
                or other[3] <= south + 0.01
            )
            assert apart
