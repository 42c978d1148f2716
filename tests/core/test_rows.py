"""Rows that are opened, worked and closed: their state by date, the ground they take, chips aside, seed and time."""

from dataclasses import replace
from datetime import date, timedelta
from uuid import UUID

import numpy as np
import pint
import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.core.sites import COOL, TODAY, crew, entry, plot, site
from ulmatic.core.climate.normals import ClimateClass, GenericClimate
from ulmatic.core.log import NEXT, Laid, Measured, Opened, Planted, RowState, RowWorked, openings_of, refused_step
from ulmatic.core.parameters import SHIPPED
from ulmatic.core.planning.inventory import state_on
from ulmatic.core.planning.plan import plan_of, plan_on
from ulmatic.core.planning.plots import plot_figures
from ulmatic.core.recipe import PracticeChoices
from ulmatic.core.recipe.practice import Planting
from ulmatic.core.schedule import drawn_rows, place_year, pulled_aside, put_back
from ulmatic.core.survey import Place, Rectangle, Ring, RingRow, SiteConditions, Use, outline
from ulmatic.core.survey.ground import ShapeCut, ground
from ulmatic.core.survey.shapes import Ellipse
from ulmatic.core.work import CROPS, GrowingYear, instead, lanes, seed_for_ground, seed_for_rows, water_for_week
from ulmatic.core.work.crops import CropFigures, Hardiness
from ulmatic.core.work.growing import triangular

BED = UUID(int=1)
ROW = UUID(int=90)
DAY = date(2026, 8, 10)
PLACE = Rectangle(length_m=10, width_m=2)


def opened(**more) -> Opened:
    return Opened(**{"opening": ROW, "length_m": 8, "width_m": 0.25, "count": 2, **more})


def worked(step: str, days: int, minute: int, **more):
    return entry(1, DAY + timedelta(days=days), RowWorked(opening=ROW, step=step, **more), minute)


def garden(*entries, **more):
    bed = plot(use=Use.VEGETABLES, target=100)
    laid = entry(1, DAY - timedelta(days=60), Measured(depth_mm=100, settled=True), 1)
    return site(bed, ledger=[laid, *entries], suppliers=(crew(1),), **more)


OPEN = entry(1, DAY, opened(crop="radish"), 2)
CYCLE = (
    OPEN,
    worked("loosened", 0, 3),
    worked("sown", 1, 4),
    worked("up", 8, 5),
    worked("closed", 20, 6),
    worked("cleared", 40, 7),
)


@pytest.mark.parametrize(
    ("days", "state"),
    [(0, "loosened"), (1, "sown"), (7, "sown"), (8, "up"), (20, "closed"), (39, "closed"), (40, "cleared")],
)
def test_rows_have_a_state_by_date(days, state):
    [opening] = openings_of(CYCLE, DAY + timedelta(days=days))
    assert opening.state == state
    assert openings_of(CYCLE, DAY - timedelta(days=1)) == []
    assert opening.crop == "radish"


steps = st.lists(st.sampled_from([state.value for state in RowState if state is not RowState.PULLED_BACK]), max_size=8)


@given(steps)
def test_whatever_is_written_the_order_of_the_work_holds(written):
    entries = [OPEN, *(worked(step, index + 1, index + 3) for index, step in enumerate(written))]
    [opening] = openings_of(entries, DAY + timedelta(days=30))
    for before, after in zip(opening.steps, opening.steps[1:], strict=False):
        assert after.state in NEXT[before.state]
        assert after.on >= before.on


def test_a_step_that_does_not_follow_is_refused_in_a_sentence():
    openings = openings_of(CYCLE[:3], DAY + timedelta(days=3))
    assert refused_step(openings, RowWorked(opening=ROW, step="up")) is None
    assert "are sown already" in refused_step(openings, RowWorked(opening=ROW, step="loosened"))
    assert "were not open" in refused_step(openings, RowWorked(opening=UUID(int=5), step="up"))


def test_the_ground_of_rows_is_that_of_what_is_drawn_within_the_plot():
    bed = outline(PLACE)
    assert drawn_rows(bed, opened()).area_m2 == pytest.approx(2 * 8 * 0.25)
    assert drawn_rows(bed, opened(length_m=30)).area_m2 == pytest.approx(2 * 10 * 0.25), "no longer than the bed"
    assert drawn_rows(bed, opened(form="patch", count=9, length_m=2, width_m=1)).area_m2 == pytest.approx(2)
    edge = drawn_rows(bed, opened(count=1, in_m=0, length_m=10))
    assert edge.area_m2 == pytest.approx(10 * 0.125), "half of it lies outside"
    ring = drawn_rows(outline(Ellipse(across_m=4)), opened(count=1, length_m=4))
    assert ring.area_m2 < 4 * 0.25
    assert drawn_rows(bed, opened()).length_m == pytest.approx(16)


@given(st.integers(1, 12), st.floats(0.1, 14), st.floats(0.05, 1))
def test_rows_never_take_more_than_is_typed_or_than_there_is(count, length_m, width_m):
    drawn = drawn_rows(outline(PLACE), opened(count=count, length_m=length_m, width_m=width_m))
    assert drawn.area_m2 <= min(20.0, count * length_m * width_m) + 1e-6


def test_chips_pulled_aside_are_not_ordered_again_and_rows_take_less():
    on = DAY + timedelta(days=10)
    shut, bare = state_on(garden(), on), state_on(garden(*CYCLE[:4]), on)
    assert bare.depth(BED) == shut.depth(BED), "pulled aside is not taken off"
    closed_mm, less = (plot_figures(plan_of(state, 2), BED).to_target.value for state in (shut, bare))
    rows = 2 * 8 * 0.25
    recipe = bare.recipe(bare.site.plots[0])
    saved = rows * (recipe.target_mm - recipe.growing_mm) / 1000 / 0.78 * 1.1
    assert closed_mm - less == pytest.approx(saved, rel=0.02), "less lies round growing plants"
    second = state_on(garden(*CYCLE), DAY + timedelta(days=45))
    assert second.opened_m2(BED) == 0
    assert plot_figures(plan_of(second, 2), BED).to_target.value == pytest.approx(
        plot_figures(plan_on(garden(), DAY + timedelta(days=45), 2), BED).to_target.value
    )


def test_later_seasons_take_the_target_between_crops():
    bare = state_on(garden(*CYCLE[:4]), DAY + timedelta(days=10))
    [scheduled] = plan_of(bare, 2).scheduled
    assert scheduled.target_in(0) < scheduled.target_in(1) == scheduled.target_mm


def test_what_lies_aside_goes_back_to_the_depth_for_growing_plants():
    state = state_on(garden(*CYCLE[:4]), DAY + timedelta(days=10))
    [row] = plan_of(state, 2).opened.opened
    assert row.figures.aside.value == pytest.approx(4 * state.depth(BED).middle / 1000 / 0.78)
    assert row.figures.back.value < row.figures.aside.value
    assert (row.figures.growing_mm, row.crop_name, row.state) == (75, "Radish", "up")
    assert row.figures.seed.value == pytest.approx(0.016), "1 g a metre over 16 m"
    assert (row.next_state, row.next_on) == ("closed", DAY + timedelta(days=20)), "a hand high after twelve days"
    assert row.hours.value == pytest.approx(4 * 2.5 / 60)


@pytest.mark.parametrize(
    ("crop", "entries", "sentence"),
    [
        ("carrot", CYCLE[:2], "Radish among it marks the row"),
        ("carrot", CYCLE[:3], "Lay a board over the row"),
        ("lettuce", CYCLE[:3], "with sand"),
        ("bush_bean", CYCLE[:5], "leave the roots"),
        ("radish", CYCLE[:4], "Thin to"),
    ],
)
def test_what_to_mind_is_said_at_its_step(crop, entries, sentence):
    replaced = [replace_crop(line, crop) for line in entries]
    [row] = plan_on(garden(*replaced), DAY + timedelta(days=22), 2).opened.opened
    assert any(sentence in hint for hint in row.hints)


def replace_crop(line, crop: str):
    return line.model_copy(update={"entry": line.entry.model_copy(update={"crop": crop})}) if line is OPEN else line


def test_new_ground_and_unripe_chips_are_to_wait():
    poor = replace(
        plot(use=Use.VEGETABLES, target=140),
        plot=plot(use=Use.VEGETABLES, target=140).plot.model_copy(
            update={"site_conditions": SiteConditions(soil="dead", build_up=True)}
        ),
    )
    [waits] = plan_on(site(poor, suppliers=(crew(1),)), TODAY, 2).opened.holds(poor)
    assert "wait until the humus is" in waits
    ripe = (PracticeChoices(planting=Planting.ONCE_DECOMPOSED),)
    rows = plan_on(garden(practices=ripe), TODAY, 2).opened
    [untested] = rows.holds(rows.state.site.plots[0])
    assert "Test the ripeness first" in untested
    rows = plan_on(garden(), TODAY, 2).opened
    assert rows.holds(rows.state.site.plots[0]) == []


# Seed and lanes, against what practice says in other units.


def test_rye_is_sown_as_practice_says():
    """5 lb on 1,000 sq ft, about 2.4 kg on 100 m² (common practice)."""
    units = pint.UnitRegistry()
    practice = (units("5 lb") / units("1000 ft**2")).to("kg / m**2").magnitude * 100
    assert seed_for_ground(CROPS["rye"], 100).value == pytest.approx(practice, rel=0.03)
    assert seed_for_ground(CROPS["rye"], 100).value == pytest.approx(2.4)


def test_a_block_is_opened_in_lanes():
    """Five rows at 3 m on a block 15 m wide; sunflowers two seeds every 0.9 m."""
    opened_lanes = lanes(CROPS["sunflower"], 18, 15, 3, 0.3)
    assert opened_lanes.count == 5
    assert opened_lanes.area.value == pytest.approx(5 * 18 * 0.3)
    assert opened_lanes.places == 5 * 21
    assert CROPS["sunflower"].seeds_a_place == 2
    assert lanes(CROPS["rye"], 18, 15, 3, 0.3).seed.value == pytest.approx(27 * 0.024)
    assert lanes(CROPS["rye"], 18, 2, 3, 0.3).count == 1


def test_twenty_five_crops_are_shipped_and_marked():
    assert len(CROPS) == 25
    assert all(crop.source.mark == "common practice" for crop in CROPS.values())
    assert all(crop.marker is None or crop.marker in CROPS for crop in CROPS.values())
    assert all(crop.seed_g_m > 0 or crop.start == "plant" for crop in CROPS.values())
    assert seed_for_rows(CROPS["carrot"], 20).value == pytest.approx(0.01)


def test_the_days_of_a_crop_are_in_order():
    with pytest.raises(ValueError, match="usual days"):
        CropFigures(days_least=50, days=40, days_most=60)


# Is there still time?


def year_of(climate=COOL) -> GrowingYear:
    normals = climate.normals()
    return GrowingYear(normals, place_year(normals, [], SHIPPED), SHIPPED)


@given(st.integers(0, 364), st.sampled_from(sorted(CROPS)))
def test_the_later_it_is_sown_the_later_it_is_ready(days, key):
    year, on = year_of(), date(2026, 1, 1) + timedelta(days=days)
    first, second = (year.time_left(CROPS[key], on + timedelta(days=step)) for step in (0, 3))
    assert first.ready_early <= first.ready <= first.ready_late
    assert first.ready <= second.ready
    assert 0 <= first.sure <= 1
    assert first.ready > on


def test_a_gardener_in_august_hears_what_still_ripens():
    year = year_of()
    beans = year.time_left(CROPS["bush_bean"], DAY)
    assert not beans.in_time
    assert beans.first_on > date(2027, 3, 1)
    others = {left.crop for left in instead(year, list(CROPS.values()), DAY)}
    assert {"radish", "rocket", "spinach"} <= others
    assert "bush_bean" not in others
    radish = year.time_left(CROPS["radish"], DAY)
    assert radish.in_time
    assert radish.ready < date(2026, 9, 25)
    assert all(radish.last_on >= sowing > DAY for sowing in radish.again_on)


def test_the_other_hemisphere_has_its_summer_at_the_turn_of_the_year():
    south = GenericClimate(name=ClimateClass.COOL_MARITIME, southern=True)
    north_says, south_says = (
        year_of(climate).time_left(CROPS["tomato"], date(2026, 11, 27)) for climate in (COOL, south)
    )
    assert not north_says.in_time
    assert south_says.in_time


def test_without_frost_only_the_year_ends():
    year = year_of(GenericClimate(name=ClimateClass.HOT_WET))
    assert year.place.first_frost is None
    left = year.time_left(CROPS["tomato"], date(2026, 11, 27))
    assert (left.sure, left.ends_on, left.last_on) == (1.0, None, None)


def test_hardy_crops_bear_frost_and_tender_ones_do_not():
    year = year_of(GenericClimate(name=ClimateClass.COLD_WINTER_HOT_SUMMER))
    on = date(2026, 8, 25)
    same = {
        hardiness: CROPS["bush_bean"].model_copy(update={"hardiness": hardiness, "least_c": 4.0})
        for hardiness in Hardiness
    }
    chances = {hardiness: year.time_left(crop, on).sure for hardiness, crop in same.items()}
    assert chances[Hardiness.TENDER] < min(chances[Hardiness.HALF_HARDY], chances[Hardiness.HARDY])


# Water until it has rooted.


def water_in(month: int, **more) -> float:
    on = date(2026, month, 10)
    planted = entry(1, on, Planted(action="put_in", count=10, name="Sage"), 3)
    laid = entry(1, on, Laid(material="arborist_leafy", depth_mm=75), 2)
    state = state_on(site(plot(), ledger=[laid, planted], **more), on + timedelta(days=3))
    [watering] = plan_of(state, 2).opened.waterings
    assert len(watering.weeks) == 13
    return watering.weeks[0].water.value


def test_new_plants_are_watered_in_summer_and_hardly_in_winter():
    assert water_in(7) > 2 * water_in(1)
    dry = GenericClimate(name=ClimateClass.DRY_SUMMER)
    assert water_in(7, climate=dry) == pytest.approx(
        10 * (0.005 - 350 / 12 / 30.44 * 7 / 1000 * 0.75 * 0.1) * 0.7, rel=0.02
    )


def test_what_has_rooted_is_not_watered_any_more():
    planted = entry(1, TODAY - timedelta(weeks=14), Planted(action="put_in", count=10), 3)
    assert plan_on(site(plot(), ledger=[planted]), TODAY, 2).opened.waterings == []


# What holds whatever is typed.

DRAWN_TO_M = 0.001
"""Outlines are drawn to the millimetre."""
SHAPES = (
    PLACE,
    Ellipse(across_m=4, other_m=7),
    RingRow(canopy_m=2, trunk_m=0.2, gap_m=0.1, trees=5, spacing_m=3),
    Ring(canopy_m=5, trunk_m=0.3, gap_m=0.2),
)
openings = st.builds(
    opened,
    form=st.sampled_from(["rows", "strip", "patch"]),
    count=st.integers(1, 9),
    length_m=st.floats(0.2, 20),
    width_m=st.floats(0.05, 3),
    apart_m=st.none() | st.floats(0.1, 3),
    in_m=st.none() | st.floats(0, 9),
    along_m=st.none() | st.floats(0, 9),
)


@given(st.sampled_from(SHAPES), openings)
def test_rows_lie_on_their_plot_wherever_they_are_put(shape, rows):
    drawn, surveyed = drawn_rows(outline(shape), rows), ground(shape)
    assert 0 <= drawn.area_m2 <= surveyed.area.value + surveyed.edge.value * DRAWN_TO_M
    east = outline(shape).width_m / 2 + DRAWN_TO_M
    assert all(abs(x) <= east for ring in drawn.rings for x, _ in ring)
    assert drawn.length_m * rows.width_m == pytest.approx(drawn.area_m2)


def test_what_is_cut_out_of_a_plot_is_not_opened():
    pond = ShapeCut(shape=Rectangle(length_m=4, width_m=1), place=Place(x_m=0, y_m=0))
    uncut, cut = (drawn_rows(outline(PLACE, cuts), opened(count=1, length_m=10)).area_m2 for cuts in ((), (pond,)))
    assert uncut - cut == pytest.approx(4 * 0.25)


@given(st.floats(0.1, 40), st.floats(0, 200), st.floats(0, 200), st.floats(0, 0.5))
def test_no_more_goes_back_than_was_pulled_aside(area_m2, depth_mm, growing_mm, settling):
    aside, returned = pulled_aside(area_m2, depth_mm, settling), put_back(area_m2, depth_mm, growing_mm, settling)
    assert 0 <= returned.value <= aside.value + 1e-12


@given(st.floats(0.1, 300), st.sampled_from(sorted(CROPS)))
def test_twice_the_ground_takes_twice_the_seed(amount, key):
    for seed in (seed_for_ground, seed_for_rows):
        assert seed(CROPS[key], 2 * amount).value == pytest.approx(2 * seed(CROPS[key], amount).value)


places = st.sampled_from(
    [
        COOL,
        GenericClimate(name=ClimateClass.COLD_WINTER_HOT_SUMMER),
        GenericClimate(name=ClimateClass.SHORT_SUMMER),
        GenericClimate(name=ClimateClass.WARM_HUMID),
        GenericClimate(name=ClimateClass.COOL_MARITIME, southern=True),
    ]
)


@given(places, st.integers(0, 364), st.sampled_from(sorted(CROPS)))
def test_the_last_day_is_the_last_and_the_first_is_the_first(climate, days, key):
    year, on = year_of(climate), date(2026, 1, 1) + timedelta(days=days)
    left, after = year.time_left(CROPS[key], on), timedelta(days=1)
    if left.last_on is not None:
        assert year.time_left(CROPS[key], left.last_on).in_time
        assert not year.time_left(CROPS[key], left.last_on + after).in_time
    if left.first_on is not None:
        assert not left.in_time
        assert year.time_left(CROPS[key], left.first_on).in_time
        assert not year.time_left(CROPS[key], left.first_on - after).in_time
    assert not (left.too_early and left.in_time)
    assert all(year.time_left(CROPS[key], sowing).in_time for sowing in left.again_on)


@given(places, st.integers(0, 364))
def test_what_can_be_sown_instead_is_in_time_the_quickest_first(climate, days):
    year, on = year_of(climate), date(2026, 1, 1) + timedelta(days=days)
    others = instead(year, list(CROPS.values()), on)
    assert all(left.in_time and CROPS[left.crop].start == "sow" for left in others)
    assert [left.ready for left in others] == sorted(left.ready for left in others)


@given(st.floats(5, 60), st.floats(0, 60), st.floats(0, 60), st.lists(st.floats(0.001, 0.999), min_size=2, max_size=6))
def test_days_to_maturity_lie_between_the_fewest_and_the_most(least, more, most_more, shares):
    likely, most = least + more, least + more + most_more
    days = triangular(least, likely, most, np.array(sorted(shares)))
    assert (np.diff(days) >= -1e-9).all()
    assert days.min() >= least - 1e-9
    assert days.max() <= most + 1e-9


@given(st.sampled_from(["tree", "plant", "row"]), st.floats(1, 50), st.floats(0, 80), st.floats(-10, 35))
def test_rain_and_cold_save_water(kind, amount, rain_mm, mean_c):
    water = water_for_week(kind, amount, rain_mm, mean_c, SHIPPED).value
    assert water >= 0
    assert water_for_week(kind, amount, rain_mm + 10, mean_c, SHIPPED).value <= water
    assert water_for_week(kind, amount, rain_mm, mean_c - 5, SHIPPED).value <= water
    assert water_for_week(kind, amount, 200, mean_c, SHIPPED).value == 0, "a week of rain is enough"


def test_rows_that_are_typed_alike_come_to_the_same_before_and_after_they_are_opened():
    state = state_on(garden(OPEN), DAY)
    rows = plan_of(state, 2).opened
    [row] = rows.opened
    assert rows.figures(state.site.plots[0], opened(crop="radish")) == row.figures
    assert rows.count == 2
    assert row.after == NEXT[RowState.PULLED_BACK]


def test_a_crop_that_is_chosen_when_it_is_sown_goes_before_the_one_that_was_planned():
    sown = worked("sown", 1, 4, crop="spinach")
    [row] = plan_on(garden(OPEN, sown), DAY + timedelta(days=2), 2).opened.opened
    assert (row.crop, row.crop_name) == ("spinach", "Spinach")
    assert row.figures.seed.value == pytest.approx(seed_for_rows(CROPS["spinach"], 16).value)


def test_an_opening_that_was_corrected_away_takes_its_steps_with_it():
    assert openings_of(CYCLE[1:], DAY + timedelta(days=50)) == []
