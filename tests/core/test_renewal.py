"""Rules that lay again, windows, growing rings: laws and cases worked by hand."""

from datetime import date, timedelta

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from pydantic import ValidationError

from ulmatic.core.climate.normals import ClimateClass, GenericClimate
from ulmatic.core.climate.weather import WeatherRefused, read_days
from ulmatic.core.decay import LaidLayer, clock, day_number, forecast
from ulmatic.core.materials import CATALOGUE
from ulmatic.core.recipe import Practice
from ulmatic.core.recipe.practice import Rhythm, Season
from ulmatic.core.renewal import (
    Arrival,
    Every,
    Ground,
    Harvest,
    Hold,
    Once,
    Quarter,
    Rounds,
    Thin,
    closes_in,
    covered,
    grown,
    open_months,
    proposed_rule,
    renew,
    seasons_of,
    zone_of,
)
from ulmatic.core.renewal.growth import WIDEST, YOUNG_M
from ulmatic.core.survey import Use
from ulmatic.core.survey.shapes import Ellipse, Ring, RingRow

COOL = GenericClimate(name=ClimateClass.COOL_MARITIME).normals()
START, WEEKS = date(2026, 11, 25), 52 * 8
CLOCK = clock(COOL, date(2020, 1, 1), date(2037, 1, 1))
CHIPS = CATALOGUE["clean_coarse"]


def plot(rule, *, areas=(10.0,), layers=(), months=(11, 12, 1), material=CHIPS, **more) -> Ground:
    return Ground(
        rule=rule, material=material, settling=0.22, layers=tuple(layers), areas_m2=areas, open_months=months,
        accepts=frozenset([material.key]), **more,
    )  # fmt: skip


def future(*grounds, weeks=WEEKS, arrivals=None):
    return renew(grounds, [CLOCK], START, weeks, arrivals)


def comes(*pairs, material="clean_coarse"):
    return [Arrival(week, CATALOGUE[material], volume) for week, volume in pairs]


def dates(weeks=WEEKS) -> list[date]:
    return [START + timedelta(weeks=week) for week in range(weeks)]


def week_of(on: date) -> int:
    return (on - START).days // 7


windows = st.lists(st.integers(1, 12), min_size=1, max_size=12, unique=True).map(lambda one: tuple(sorted(one)))


@settings(max_examples=60)
@given(st.floats(20, 90), st.floats(1, 60), windows, st.sampled_from([k for k, one in CATALOGUE.items() if one.woody]))
def test_a_plot_is_never_below_its_depth_while_it_may_be_laid(least, above, months, key):
    """Outside a closed window the hold rule keeps its word; laying is in open months alone."""
    ahead = future(plot(Hold(least_mm=least, to_mm=least + above), months=months, material=CATALOGUE[key]))
    opens = [one.month in months for one in dates()]
    first = next((week for week, is_open in enumerate(opens) if is_open), None)
    for week in range(first or 0, WEEKS):
        if opens[week]:
            assert ahead.held_mm[0, week] >= least - 1e-6, dates()[week]
    assert all(one.on.month in months for one in ahead.top_ups)


@settings(max_examples=30)
@given(st.floats(30, 80), windows)
def test_a_layer_lasts_until_the_next_window_where_it_can(least, months):
    ahead = future(plot(Hold(least_mm=least, to_mm=least), months=months))
    if all(one.settled_mm < 300 for one in ahead.top_ups) and ahead.top_ups:
        begun = (ahead.top_ups[0].on - START).days // 7
        last = (ahead.top_ups[-1].on - START).days // 7
        assert ahead.held_mm[0, begun:last].min() >= least - 1e-6


def test_what_is_held_is_the_sum_of_what_was_laid():
    old = LaidLayer(material=CHIPS, on=date(2025, 6, 1), loose_mm=120, settling=0.22)
    ahead = future(plot(Hold(least_mm=50, to_mm=75), layers=[old]))
    laid = [old, *(LaidLayer(material=CHIPS, on=one.on, loose_mm=one.loose_mm, settling=0.22) for one in ahead.top_ups)]
    days = np.array([day_number(one) for one in dates()], dtype=float)
    assert ahead.held_mm[0] == pytest.approx(forecast(laid, CLOCK, days).chips_mm.sum(axis=0), rel=1e-9)


def test_plots_do_not_mind_each_other():
    rules = [Hold(least_mm=50, to_mm=75), Thin(months=(4,), layer_mm=40), Once(), Every(years=2, month=11, to_mm=120)]
    together = future(*[plot(rule) for rule in rules])
    for at, rule in enumerate(rules):
        alone = future(plot(rule))
        assert together.held_mm[at] == pytest.approx(alone.held_mm[0])
        assert [one.on for one in together.top_ups if one.plot == at] == [one.on for one in alone.top_ups]


def test_what_is_missing_in_an_open_month_is_laid_at_once():
    assert future(plot(Hold(least_mm=50, to_mm=75))).top_ups[0].on == START
    later = future(plot(Hold(least_mm=50, to_mm=75), months=(3,)))
    assert (later.top_ups[0].on.year, later.top_ups[0].on.month) == (2027, 3)


def test_thin_lays_the_same_in_its_months_whatever_is_there():
    ahead = future(plot(Thin(months=(4, 10), layer_mm=40)))
    assert {(one.on.month, one.settled_mm) for one in ahead.top_ups} == {(4, 40), (10, 40)}
    assert len(ahead.top_ups) == 16
    assert all(one.on.day <= 7 for one in ahead.top_ups)
    assert ahead.top_ups[0].volume_m3 == pytest.approx(10 * 0.040 / 0.78)


def test_a_quarter_of_the_ring_each_autumn_comes_round_in_four_years():
    ahead = future(plot(Quarter(month=11, layer_mm=80)))
    assert [one.quarter for one in ahead.top_ups[:6]] == [0, 1, 2, 3, 0, 1]
    assert ahead.top_ups[0].volume_m3 == pytest.approx(10 / 4 * 0.080 / 0.78)


def test_a_path_is_harvested_and_refilled_and_yields_what_was_made():
    ahead = future(plot(Harvest(years=2, month=11, to_mm=100)))
    first, second, third, *_ = ahead.top_ups
    assert first.crumb_m3 == pytest.approx(0, abs=1e-9)
    week = (second.on - START).days // 7
    assert second.crumb_m3 == pytest.approx(10 * ahead.mould_mm[0, week] / 1000)
    assert 0 < third.crumb_m3 < 1
    assert [one.on.year for one in (first, second, third)] == [2027, 2029, 2031]


def test_rounds_over_grass_stop_when_they_are_done():
    ahead = future(plot(Rounds(rounds=3, months_apart=8, to_mm=150)))
    assert len(ahead.top_ups) == 3
    assert ahead.top_ups[0].settled_mm == pytest.approx(150)
    assert all(one.settled_mm < 150 for one in ahead.top_ups[1:])


def test_once_is_once_and_nothing_proposed_is_nothing_laid():
    assert future(plot(Once())).top_ups == []
    assert proposed_rule(Use.BULBS, Practice(), 75) == Once()
    assert proposed_rule(Use.PERENNIALS, Practice(), 0) == Once()


@pytest.mark.parametrize(
    ("use", "rhythm", "kind"),
    [
        (Use.PERENNIALS, Rhythm.DEEP_SELDOM, "hold"), (Use.PERENNIALS, Rhythm.THIN_OFTEN, "thin"),
        (Use.YOUNG_TREE, Rhythm.QUARTER, "quarter"), (Use.PERENNIALS, Rhythm.QUARTER, "hold"),
        (Use.LAWN_TO_CONVERT, Rhythm.DEEP_SELDOM, "rounds"),
    ],
)  # fmt: skip
def test_the_rule_follows_use_and_practice(use, rhythm, kind):
    assert proposed_rule(use, Practice(rhythm=rhythm), 75).kind == kind


@pytest.mark.parametrize(
    ("rule", "values"),
    [(Hold, {"least_mm": 50, "to_mm": 0}), (Thin, {"months": [], "layer_mm": 40}), (Thin, {"months": [13], "layer_mm": 4}),
     (Every, {"years": 0, "month": 3, "to_mm": 50}), (Rounds, {"rounds": 99, "months_apart": 8, "to_mm": 50})],
)  # fmt: skip
def test_rules_that_make_no_sense_are_refused(rule, values):
    with pytest.raises(ValidationError):
        rule(**values)


def test_ground_that_comes_in_with_the_crown_is_laid_in_full():
    wide = future(plot(Thin(months=(12,), layer_mm=40), areas=(10.0, 12.0, 15.0)))
    each = 0.040 / 0.78
    volumes = [one.volume_m3 for one in wide.top_ups[:3]]
    assert volumes == pytest.approx([10 * each, 12 * each, 15 * each])
    held = future(plot(Hold(least_mm=50, to_mm=100), areas=(10.0, 12.0)))
    first = held.top_ups[0]
    later = next(one for one in held.top_ups if one.on >= START + timedelta(weeks=52))
    assert first.volume_m3 == pytest.approx(10 * first.loose_mm / 1000)
    new = 2 * max(100 / 0.78, later.loose_mm) / 1000
    assert later.volume_m3 == pytest.approx(10 * later.loose_mm / 1000 + new)


def test_rings_widen_with_the_crown_and_rows_close():
    ring = Ring(canopy_m=2, trunk_m=0.2, gap_m=0.15)
    assert grown(ring, Use.YOUNG_TREE, 3).canopy_m == pytest.approx(2 + 3 * YOUNG_M.value)
    assert grown(ring, Use.YOUNG_TREE, 99).canopy_m == 2 * WIDEST
    assert grown(ring, Use.PERENNIALS, 3) == ring
    assert grown(Ellipse(across_m=2), Use.YOUNG_TREE, 3) == Ellipse(across_m=2)
    row = RingRow(canopy_m=2, trunk_m=0.2, gap_m=0.15, trees=5, spacing_m=3.2)
    assert closes_in(row, Use.YOUNG_TREE) == 4
    assert closes_in(row.model_copy(update={"spacing_m": 1.9}), Use.YOUNG_TREE) == 0
    assert closes_in(row.model_copy(update={"spacing_m": 9.0}), Use.YOUNG_TREE) is None
    assert closes_in(ring, Use.YOUNG_TREE) is None
    assert grown(ring, Use.YOUNG_TREE, 3, noted_m=0.1).canopy_m == pytest.approx(2.3)
    assert grown(ring, Use.ESTABLISHED_TREE, 3, noted_m=0.0) == ring, "one that grows no more"
    assert closes_in(row, Use.YOUNG_TREE, noted_m=0.6) == 2


def test_windows_follow_practice_and_leave_heat_and_frozen_ground_out():
    cold = GenericClimate(name=ClimateClass.COLD_WINTER_HOT_SUMMER).normals()
    autumn, spring = (open_months(cold, one) for one in (Season.AFTER_LEAF_FALL, Season.BEFORE_WEEDS))
    assert set(autumn) <= {10, 11, 12}
    assert set(spring) <= {2, 3, 4}
    assert set(open_months(cold, Season.BOTH_THIN)) == set(autumn) | set(spring)
    assert 1 not in open_months(cold, Season.BOTH_THIN), "frozen"
    hot = open_months(GenericClimate(name=ClimateClass.HOT_WET).normals(), Season.AFTER_LEAF_FALL)
    assert hot, "somewhere in the year"
    for name in ClimateClass:
        for season in Season:
            assert open_months(GenericClimate(name=name).normals(), season)


@pytest.mark.parametrize(
    ("coldest", "zone"), [(-51.1, "1a"), (-20, "6b"), (-12.3, "7b"), (-12.0, "8a"), (-1.2, "9b"), (30, "13b")]
)
def test_hardiness_zones_are_bands_of_ten_degrees_fahrenheit(coldest, zone):
    assert zone_of(coldest) == zone


def test_frost_dates_are_those_by_which_half_the_years_had_frost():
    minima = []
    for year, last, first in ((2021, 100, 300), (2022, 110, 310), (2023, 130, 290)):
        for day in range(1, 366):
            cold = day <= last or day >= first
            minima.append((date(year, 1, 1) + timedelta(days=day - 1), -15.0 if day == 20 else -1.0 if cold else 8.0))
    found = seasons_of(COOL, minima)
    assert (found.last_frost, found.first_frost, found.observed) == (110, 300, True)
    assert (found.coldest_c, found.zone) == (-15, zone_of(-15))
    without = seasons_of(COOL)
    assert not without.observed
    assert 60 < without.last_frost < 130
    assert 280 < without.first_frost < 350


@pytest.mark.parametrize(
    ("text", "said"),
    [
        ("", "empty"), ("a,b\n1,2", "headings"), ("date,tmax,tmin,rain\n", "no days"),
        ("date,tmax,tmin,rain\n2026-13-01,3,1,0", "Line 2: write the date"),
        ("date,tmax,tmin,rain\n2026-03-01,warm,1,0", "“warm” is not a number"),
        ("date,tmax,tmin,rain\n2026-03-01,1,3,0", "cannot be above"),
        ("date,tmax,tmin,rain\n2026-03-01,99,3,0", "no °C and mm"),
        ("date,tmax,tmin,rain\n2026-03-01,9,3,-2", "no °C and mm"),
    ],
)  # fmt: skip
def test_weather_that_cannot_be_read_says_why(text, said):
    with pytest.raises(WeatherRefused, match=said):
        read_days(text)


RULES = [
    Hold(least_mm=50, to_mm=75), Thin(months=(4, 10), layer_mm=40), Every(years=2, month=11, to_mm=120),
    Quarter(month=11, layer_mm=80), Harvest(years=2, month=11, to_mm=100), Rounds(rounds=3, months_apart=8, to_mm=150),
]  # fmt: skip


@settings(max_examples=40, deadline=None)
@given(
    st.lists(st.tuples(st.integers(0, WEEKS - 1), st.floats(0.05, 4)), max_size=12),
    st.lists(st.tuples(st.sampled_from(RULES), st.floats(2, 30), st.integers(0, 3)), min_size=1, max_size=5),
)
def test_nothing_is_laid_before_it_has_come(arrivals, plots):
    """Whatever comes and whoever asks: never more is laid than came, never before it was wanted, never out of season."""
    ahead = future(*[plot(rule, areas=(area,), rank=rank) for rule, area, rank in plots], arrivals=comes(*arrivals))
    for week in range(WEEKS):
        came = sum(volume for at, volume in arrivals if at <= week)
        laid = sum(one.volume_m3 for one in ahead.top_ups if week_of(one.on) <= week)
        assert laid <= came + 1e-6
    for one in ahead.top_ups:
        assert one.wanted <= one.on
        assert one.settled_mm > 0
        assert one.wanted == one.on or one.on.month in (11, 12, 1)
    assert all(0 <= at < len(plots) for at in ahead.waiting)


def test_where_there_is_plenty_nothing_waits():
    grounds = [plot(rule) for rule in RULES]
    plenty, free = future(*grounds, arrivals=comes((0, 1e6))), future(*grounds)
    assert plenty.top_ups == free.top_ups
    assert plenty.held_mm == pytest.approx(free.held_mm)
    assert plenty.waiting == {}


def test_what_waits_is_laid_in_the_first_open_week_after_it_came():
    bed = plot(Hold(least_mm=50, to_mm=75))
    need = future(bed).top_ups[0].volume_m3
    soon = future(bed, arrivals=comes((3, 2 * need))).top_ups[0]
    assert (soon.wanted, soon.on) == (START, START + timedelta(weeks=3))
    # In April nothing is laid: it waits for November, and then has to last until the next one.
    late = future(bed, arrivals=comes((20, 9 * need))).top_ups[0]
    assert (late.wanted, late.on.year, late.on.month, late.on.day <= 7) == (START, 2027, 11, True)
    never = future(bed, arrivals=comes((0, 1e6), material="straw"))
    assert (never.top_ups, never.waiting) == ([], {0: START}), "straw is not accepted there"


def test_the_most_important_ground_is_served_first():
    first, second = (plot(Hold(least_mm=50, to_mm=75), rank=rank) for rank in (2, 1))
    need = future(first).top_ups[0].volume_m3
    ahead = future(first, second, arrivals=comes((0, need), (52, need)))
    laid = [(one.plot, one.on.year) for one in ahead.top_ups[:2]]
    assert laid == [(1, 2026), (0, 2027)]


def test_what_waits_in_a_heap_rots_and_what_came_first_is_laid_first():
    """A heap is a layer of its own: what is left of a m³ after half a year is what the decay of such a layer leaves."""
    heap = LaidLayer(material=CHIPS, on=START, loose_mm=1000, settling=0.0)
    depths = forecast([heap], CLOCK, day_number(START) + 7.0 * np.arange(60))
    left = (depths.chips_mm + depths.mould_mm)[0] / 1000
    thin = plot(Thin(months=(5,), layer_mm=40), months=(5,), areas=(100.0,))
    wanted = future(thin).top_ups[0]
    week = week_of(wanted.on)
    assert 0.5 < left[week] < 0.95
    enough = future(thin, arrivals=comes((0, wanted.volume_m3 / left[week] * 1.001))).top_ups[0]
    assert (enough.on, enough.settled_mm) == (wanted.on, pytest.approx(40))
    short = future(thin, arrivals=comes((0, wanted.volume_m3))).top_ups[0]
    assert short.settled_mm == pytest.approx(40 * left[week]), "what is left of it, as one layer of less depth"
    # Of an old and a new m³ the old one goes first, so that what is left over is the new one.
    old_and_new = comes((0, wanted.volume_m3 / left[week] * 1.001), (week, 5.0))
    later = future(thin, arrivals=old_and_new).top_ups[1]
    assert later.volume_m3 > 5 * left[52] - 0.3


@pytest.mark.parametrize("rule", [Hold(least_mm=50, to_mm=75), Thin(months=(12,), layer_mm=80)])
def test_what_is_there_is_laid_in_part_where_it_makes_a_layer(rule):
    bed = plot(rule, areas=(100.0,))
    whole = future(bed).top_ups[0]
    ahead = future(bed, arrivals=comes((0, whole.volume_m3 * 0.5), (4, 1e6)))
    half, rest, *_ = ahead.top_ups
    assert half.volume_m3 == pytest.approx(whole.volume_m3 * 0.5, rel=0.01), "but for what rots in a week"
    assert half.settled_mm == pytest.approx(whole.settled_mm * 0.5, rel=0.01)
    assert (rest.wanted, week_of(rest.on)) == (half.wanted, 4)
    assert half.settled_mm + rest.settled_mm == pytest.approx(whole.settled_mm, rel=0.15)
    little = future(bed, arrivals=comes((0, whole.volume_m3 * 0.05), (4, 1e6))).top_ups[0]
    assert week_of(little.on) == 4, "a few millimetres are no layer"


@pytest.mark.parametrize("end", ["value", "low", "high"])
def test_what_lies_on_many_plots_is_what_lies_on_each(end):
    """Against the layers of each plot by themselves, on two clocks, at all three rates."""
    clocks = [CLOCK, clock(COOL, date(2020, 1, 1), date(2037, 1, 1), irrigation_mm=300)]
    old = LaidLayer(material=CATALOGUE["ramial"], on=date(2025, 6, 1), loose_mm=120, settling=0.3)
    aged = old.model_copy(update={"age_decay_time": 0.4 if end == "value" else 0.0})
    grounds = [plot(Hold(least_mm=50, to_mm=75), layers=[old, aged]), plot(Once(), layers=[old], clock=1), plot(Once())]
    ahead = renew(grounds, clocks, START, 104)
    days = day_number(START) + 7.0 * np.arange(-30, 104)
    found = covered(grounds, clocks, days, ahead.top_ups, end)
    for at, ground in enumerate(grounds):
        made = [LaidLayer(material=CHIPS, on=one.on, loose_mm=one.loose_mm, settling=0.22)
                for one in ahead.top_ups if one.plot == at]  # fmt: skip
        laid = [at_end(one, end) for one in [*ground.layers, *made]]
        expected = forecast(laid, clocks[ground.clock], days).chips_mm.sum(axis=0) if laid else np.zeros(days.size)
        assert found.chips_mm[at] == pytest.approx(expected, abs=1e-9)


def at_end(layer: LaidLayer, end: str) -> LaidLayer:
    rate = layer.material.rate
    changed = rate.model_copy(update={"value": getattr(rate, end)})
    return layer.model_copy(update={"material": layer.material.model_copy(update={"rate": changed})})
