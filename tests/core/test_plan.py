"""What holds of every plan, whatever the site, its plots and its log; and cases worked by hand."""

from dataclasses import replace
from datetime import date, timedelta
from uuid import UUID

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.conftest import examples
from tests.core.sites import BED, TERMS, TODAY, TREE, entry, plot, site
from ulmatic.core.climate.normals import ClimateClass, GenericClimate
from ulmatic.core.decay import day_number
from ulmatic.core.log import DugIn, Laid, Measured, Observed, Removed
from ulmatic.core.planning.inventory import state_on
from ulmatic.core.planning.plan import plan_of, plan_on
from ulmatic.core.recipe import PracticeChoices
from ulmatic.core.schedule import Decision, Overrides
from ulmatic.core.schedule.rules import Every, Harvest, Keep, Once, Quarter, Rounds, Thin
from ulmatic.core.survey import Use

rules = st.sampled_from(
    [
        None,
        Keep(),
        Thin(part=0.4),
        Thin(part=1.0),
        Every(years=1),
        Every(years=3, window="autumn"),
        Once(),
        Quarter(),
        Rounds(rounds=3, months_apart=8),
        Harvest(years=2),
    ]
)
climates = st.sampled_from([None, *(GenericClimate(name=name) for name in ClimateClass)])
uses = st.sampled_from([Use.PERENNIALS, Use.VEGETABLES, Use.FOOT_PATH, Use.YOUNG_TREE, Use.LAWN_TO_CONVERT])
targets = st.sampled_from([0.0, 12.0, 50.0, 75.0, 150.0])
happenings = st.lists(
    st.tuples(
        st.integers(0, 900),
        st.one_of(
            st.builds(Measured, depth_mm=st.floats(0, 160), settled=st.booleans()),
            st.builds(Laid, material=st.sampled_from(["arborist_leafy", "bark_shredded"]), depth_mm=st.floats(5, 90)),
            st.just(DugIn()),
            st.builds(Removed, chips_mm=st.floats(0, 60)),
            st.just(Observed()),
        ),
    ),
    max_size=5,
)
practices = st.sampled_from(["after_leaf_fall", "before_weeds", "both_thin"]).map(
    lambda school: PracticeChoices(season=school)
)


@st.composite
def sites(draw):
    plots, ledger = [], []
    for number in range(1, draw(st.integers(1, 3)) + 1):
        use = draw(uses)
        shape = TREE if use is Use.YOUNG_TREE else BED
        plots.append(plot(number, use, shape, draw(targets), draw(rules)))
        ledger += [
            entry(number, TODAY - timedelta(days=ago), what, 10 * number + index)
            for index, (ago, what) in enumerate(draw(happenings))
        ]
    return site(*plots, ledger=ledger, climate=draw(climates), practices=(draw(practices),))


@settings(max_examples=examples(60))
@given(sites())
def test_nothing_is_laid_beyond_the_target_and_everything_within_its_season(trial):
    plan = plan_on(trial, TODAY, 3)
    for laying in plan.by_rules.layings:
        scheduled, season = plan.scheduled[laying.plot], plan.seasons[laying.season]
        assert 0 < laying.settled_mm <= scheduled.target_mm + 1e-6
        assert laying.loose_m3 > 0
        assert laying.on <= season.closes
        assert laying.on >= max(TODAY, season.account_from) or laying.season == 0
        depth = plan.by_rules.depths(np.array([float(day_number(laying.on))])).chips_mm[laying.plot, 0]
        assert depth <= scheduled.target_mm + 0.5 or scheduled.stack.lying, "never more than the target lies there"


@settings(max_examples=examples(40))
@given(sites(), st.integers(1, 3))
def test_a_longer_look_ahead_begins_as_a_shorter_one(trial, years):
    state = state_on(trial, TODAY)
    short, long = plan_of(state, years), plan_of(state, years + 3)
    closing = short.seasons[-1].closes
    ours = [(laying.plot, laying.on, laying.settled_mm) for laying in short.by_rules.layings]
    theirs = [
        (laying.plot, laying.on, laying.settled_mm)
        for laying in long.by_rules.layings
        if laying.season < len(short.seasons)
    ]
    assert ours == pytest.approx(theirs) if not ours else sorted(ours) == sorted(theirs)
    assert short.now == long.now
    assert short.by_rules.below_least_from == long.by_rules.below_least_from
    assert closing == long.seasons[len(short.seasons) - 1].closes


@settings(max_examples=examples(40))
@given(sites())
def test_the_order_covers_what_is_needed_and_the_account_adds_up(trial):
    plan = plan_on(trial, TODAY, 2)
    for season in plan.all_seasons:
        assert season.to_order_m3 == pytest.approx(max(0, season.needed_m3 - season.on_hand_m3 - season.coming_m3))
        assert season.ordered_m3 >= season.to_order_m3 - 1e-6
        available_m3 = season.on_hand_m3 + season.coming_m3 + season.ordered_m3
        assert season.left_over_m3 == pytest.approx(available_m3 - season.needed_m3, abs=1e-6)
        assert (season.short_m3, season.binding) == (0, None), "nobody is named, so nothing is in the way"
        assert season.loads * TERMS.load_m3 >= season.to_order_m3 - 1e-6


@settings(max_examples=examples(40))
@given(sites())
def test_what_was_planned_and_is_logged_is_needed_no_more(trial):
    plan = plan_on(trial, TODAY, 1)
    entries = [
        entry(
            laying.plot + 1,
            TODAY,
            Laid(
                material=plan.scheduled[laying.plot].material.key,
                depth_mm=min(laying.settled_mm, 1999.0),
                quarter=laying.quarter,
            ),
            50 + index,
        )
        for index, laying in enumerate(plan.layings(0))
    ]
    after = plan_on(replace(trial, ledger=[*trial.ledger, *entries]), TODAY, 1)
    plots_done = {laying.plot for laying in plan.layings(0) if laying.humus_m3 == 0}
    left = [laying for laying in after.layings(0) if laying.plot in plots_done]
    assert all(laying.season == 0 and laying.on > TODAY for laying in left), [
        (laying.reason, laying.on) for laying in left
    ]


@settings(max_examples=examples(40))
@given(st.just(0.0) | st.floats(0.5, 300), st.booleans(), climates)
def test_what_was_measured_today_is_the_depth_today(depth, settled, climate):
    trial = site(plot(), ledger=[entry(1, TODAY, Measured(depth_mm=depth, settled=settled))], climate=climate)
    assert state_on(trial, TODAY).depth(UUID(int=1)).middle == pytest.approx(depth, abs=1e-6)


def test_a_ruler_right_after_laying_reads_what_has_not_settled():
    """100 mm loose settle to 78: a ruler on that day reads 100."""
    laid = entry(1, TODAY, Laid(material="arborist_leafy", depth_mm=78), 1)
    fresh = state_on(site(plot(), ledger=[laid]), TODAY)
    read = state_on(site(plot(), ledger=[laid, entry(1, TODAY, Measured(depth_mm=100), 2)]), TODAY)
    assert fresh.depth(UUID(int=1)).middle == pytest.approx(78)
    assert read.depth(UUID(int=1)).middle == pytest.approx(78, rel=0.01)


def test_bare_ground_is_needed_now_whatever_the_season():
    (season, *_) = plan_on(site(plot()), date(2027, 7, 1), 2).all_seasons
    assert season.needed_m3 == pytest.approx(20 * 0.075 / 0.78 * 1.1)
    assert season.loads == 1


def test_a_plot_that_lasts_is_left_until_it_is_due():
    ledger = [entry(1, TODAY, Measured(depth_mm=75, settled=True))]
    plan = plan_on(site(plot(), ledger=ledger), TODAY, 5)
    assert plan.now.needed_m3 == 0
    assert plan.now.next is not None
    first = plan.by_rules.layings[0]
    assert first.on > TODAY
    assert plan.seasons[first.season].name == plan.now.next.season
    assert plan.by_rules.below_least_from[0] > TODAY
    gap = plan.by_rules.gaps.get(0)
    assert (gap is not None) == (plan.by_rules.below_least_from[0] < first.on), "what no season prevents is told"


@pytest.mark.parametrize(
    ("rule", "years"),
    [(Every(years=3, window="autumn"), {2026, 2029, 2032}), (Once(), {2026})],
)
def test_layings_follow_their_rule(rule, years):
    plan = plan_on(site(plot(rule=rule)), TODAY, 8)
    assert {laying.on.year for laying in plan.by_rules.layings} == years


def test_a_quarter_of_the_ring_comes_round_in_four_years():
    plan = plan_on(site(plot(use=Use.YOUNG_TREE, shape=TREE, target=100, rule=Quarter(window="autumn"))), TODAY, 8)
    quarters = [laying.quarter for laying in plan.by_rules.layings]
    assert quarters[:6] == [0, 1, 2, 3, 0, 1]
    whole_ring = plan_on(site(plot(use=Use.YOUNG_TREE, shape=TREE, target=100)), TODAY, 1)
    assert plan.by_rules.layings[0].loose_m3 == pytest.approx(whole_ring.by_rules.layings[0].loose_m3 / 4)


def test_a_path_is_harvested_and_refilled():
    plan = plan_on(site(plot(use=Use.FOOT_PATH, target=100, rule=Harvest(years=2))), TODAY, 8)
    dug = [laying for laying in plan.by_rules.layings if laying.humus_m3 > 0]
    assert dug
    assert all(laying.settled_mm > 0 for laying in dug)


def test_a_season_can_be_skipped_and_a_laying_brought_forward():
    ledger = [entry(1, TODAY, Measured(depth_mm=10, settled=True))]
    state = state_on(site(plot(), ledger=ledger), TODAY)
    key = plan_of(state, 1).now.key
    skipped = plan_on(site(plot(decisions={key: Decision(kind="skip")}), ledger=ledger), TODAY, 2)
    assert skipped.now.needed_m3 == 0
    full = [entry(1, TODAY, Measured(depth_mm=55, settled=True))]
    spring = (PracticeChoices(season="before_weeds"),)
    assert plan_on(site(plot(), ledger=full, practices=spring), TODAY, 2).now.needed_m3 == 0
    forward = plot(decisions={key: Decision(kind="lay")})
    brought = plan_on(site(forward, ledger=full, practices=spring), TODAY, 2)
    assert brought.now.needed_m3 == pytest.approx(20 * 0.020 / 0.78 * 1.1, rel=0.05)


@pytest.mark.parametrize("name", list(ClimateClass))
def test_windows_do_not_overlap_and_the_hemispheres_are_half_a_year_apart(name):
    windows = {}
    for southern in (False, True):
        climate = GenericClimate(name=name, southern=southern)
        state = state_on(site(plot(), climate=climate), TODAY)
        assert len(state.climate.windows) == 2
        for earlier, second in zip(state.climate.seasons, state.climate.seasons[1:], strict=False):
            assert earlier.opens <= earlier.closes
            assert earlier.closes < second.opens
        windows[southern] = {window.key: window.dates.opens.month for window in state.climate.windows}
    for key, month in windows[False].items():
        months = abs(month - windows[True][key]) % 12
        assert min(months, 12 - months) >= 5


def test_a_window_that_was_said_goes_before_the_derived_one():
    overrides = Overrides.model_validate(
        {"windows": {"spring": {"opens": {"month": 2, "day": 1}, "closes": {"month": 2, "day": 20}}}}
    )
    state = state_on(site(plot(), overrides=overrides), TODAY)
    spring = next(season for season in state.climate.seasons if season.window == "spring")
    assert (spring.opens.month, spring.opens.day, spring.closes.day) == (2, 1, 20)


def test_an_unknown_climate_is_assumed_and_said():
    assert state_on(site(plot(), climate=None), TODAY).climate.assumed
    assert not state_on(site(plot()), TODAY).climate.assumed
    southern = site(plot(), climate=None, location_deg=(-43.5, 172.6))
    assert southern.normals.temperatures_c[0] > southern.normals.temperatures_c[6]
