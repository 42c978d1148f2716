"""When a plot is due, and what the seasons leave behind: rules one by one, on a bed of 20 m²."""

import itertools
from dataclasses import replace
from datetime import timedelta

import pytest

from tests.core.sites import TODAY, TREE, crew, entry, merchant, plot, site
from ulmatic.core.log import Laid, Measured
from ulmatic.core.materials import CATALOGUE
from ulmatic.core.planning.inventory import state_on
from ulmatic.core.planning.plan import plan_of, plan_on
from ulmatic.core.planning.scheduling import scheduled_plot
from ulmatic.core.recipe import PracticeChoices
from ulmatic.core.schedule import Overrides
from ulmatic.core.schedule.due import Progress, due
from ulmatic.core.schedule.laying import LEAST_LAYER_MM
from ulmatic.core.schedule.rules import Every, Harvest, Keep, Once, Quarter, Rounds, Thin
from ulmatic.core.survey import Use

CHIPS = {"material": "arborist_leafy"}
ENOUGH, THIN_LAYER = 60.0, 30.0
"""mm: above, and below, the least depth of a target of 75 mm (45 mm)."""


def scheduled(rule=None, **more):
    state = state_on(site(plot(rule=rule, **more)), TODAY)
    return scheduled_plot(state, state.site.plots[0]), state.climate.seasons


def progress(**values) -> Progress:
    return Progress(
        **{"laid_on": None, "layings": 0, "quarter": 0, "rounds": 0, "covered_m2": 20, "digs_in": False, **values}
    )


@pytest.mark.parametrize(
    ("rule", "opening_mm", "today_mm", "running", "words"),
    [
        (Keep(), THIN_LAYER, ENOUGH, False, "Would fall below the least depth before the next season."),
        (Keep(), THIN_LAYER, THIN_LAYER, False, "Below the least depth."),
        (Keep(), ENOUGH, ENOUGH, False, None),
        (Keep(), THIN_LAYER, THIN_LAYER, True, "Below the least depth."),
        (Keep(), 0.0, 0.0, True, "Bare."),
        (Thin(), ENOUGH, ENOUGH, False, "Thin, each season."),
        (Every(years=2), ENOUGH, ENOUGH, False, "Due this year."),
        (Harvest(years=2), ENOUGH, ENOUGH, False, "The humus is dug out and the plot refilled."),
        (Quarter(), ENOUGH, ENOUGH, False, "A quarter of the ring, in its turn."),
        (Once(), ENOUGH, ENOUGH, True, "Laid once."),
        (Once(), ENOUGH, ENOUGH, False, None),
    ],
)
def test_each_rule_says_why(rule, opening_mm, today_mm, running, words):
    bed, seasons = scheduled(rule)
    used = next(season for season in seasons if season.window in bed.windows)
    assert due(bed, progress(), rule, used, opening_mm, today_mm, running=running) == words


@pytest.mark.parametrize(("rule", "years"), [(Every(years=2), 2), (Every(years=3), 3), (Harvest(years=2), 2)])
def test_years_are_counted_from_the_last_laying(rule, years):
    bed, seasons = scheduled(rule)
    used = next(season for season in seasons if season.window in bed.windows)
    for ago in range(1, years + 2):
        laid_on = used.opens.replace(year=used.opens.year - ago)
        reason = due(bed, progress(laid_on=laid_on, layings=1), rule, used, ENOUGH, ENOUGH, running=False)
        assert (reason is not None) == (ago >= years)


def test_a_rule_that_names_a_window_waits_for_it():
    rule = Every(years=1, window="spring")
    bed, seasons = scheduled(rule)
    for season in seasons[:4]:
        reason = due(bed, progress(), rule, season, ENOUGH, ENOUGH, running=False)
        assert (reason is not None) == (season.window == "spring")


def test_nobody_rakes_out_less_than_a_thin_layer():
    """Five millimetres under the target are left; a target that is itself thinner is laid whole."""
    laid = entry(1, TODAY, Measured(depth_mm=75 - LEAST_LAYER_MM + 1, settled=True))
    assert plan_on(site(plot(rule=Thin(part=1.0)), ledger=[laid]), TODAY, 1).layings(0) == []
    (laying,) = plan_on(site(plot(target=12.0)), TODAY, 1).layings(0)
    assert laying.settled_mm == pytest.approx(12)


def test_rounds_over_grass_come_an_interval_after_each_other():
    lawn = plot(use=Use.LAWN_TO_CONVERT, target=150.0, rule=Rounds(rounds=3, months_apart=8))
    layings = [laying for laying in plan_on(site(lawn), TODAY, 4).by_rules.layings if laying.round_number]
    assert [laying.round_number for laying in layings] == [1, 2, 3]
    intervals = [(second.on - earlier.on).days for earlier, second in itertools.pairwise(layings)]
    assert all(days >= round(8 * 30.4375) for days in intervals)


def test_a_ring_is_laid_quarter_by_quarter_from_where_it_was_left():
    ring = plot(use=Use.YOUNG_TREE, shape=TREE, target=100.0, rule=Quarter())
    log = [entry(1, TODAY - timedelta(days=365), Laid(depth_mm=100, quarter=2, **CHIPS))]
    layings = plan_on(site(ring, ledger=log), TODAY, 5).by_rules.layings
    assert [laying.quarter for laying in layings[:4]] == [3, 0, 1, 2]


def test_chips_that_do_not_come_are_waited_for_and_laid_when_they_do():
    """A crew that comes too seldom, nobody who sells: the bed waits, longer than it would if chips were bought."""
    seldom = crew(1, chance=0.15)
    state = state_on(site(plot(), suppliers=(seldom,), overrides=Overrides(waits=True)), TODAY)
    plan = plan_of(state, 3)
    assert plan.waits
    assert plan.by_supply.layings[0].on > plan.by_rules.layings[0].on
    assert plan.by_supply.layings[0].wanted_on == plan.by_rules.layings[0].on
    bought = plan_on(replace(state.site, suppliers=(seldom, merchant(1)), overrides=Overrides(waits=None)), TODAY, 3)
    assert not bought.waits


@pytest.mark.parametrize(("choice", "windows"), [("after_leaf_fall", {"autumn"}), ("before_weeds", {"spring"})])
def test_practice_says_which_windows_a_plot_uses(choice, windows):
    state = state_on(site(plot(), practices=(PracticeChoices(season=choice),)), TODAY)
    assert state.recipes[state.site.plots[0].id].windows == windows


def test_ground_that_comes_in_with_growing_trees_is_laid_to_the_target():
    """The rings of young trees widen: later layings take more than the same depth on the ground of today."""
    trees = plot(use=Use.YOUNG_TREE, shape=TREE, target=100.0, rule=Every(years=1))
    layings = plan_on(site(trees), TODAY, 5).by_rules.layings
    settling = CATALOGUE["arborist_leafy"].settling.value
    ground = [laying.loose_m3 * (1 - settling) * 1000 / laying.settled_mm for laying in layings]
    assert ground[-1] > ground[0]
