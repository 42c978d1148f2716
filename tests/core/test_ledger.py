"""What a plot's ledger makes of its layers: entries in the order of the days on which things happened."""

from datetime import UTC, datetime, timedelta

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.conftest import examples
from tests.core.sites import BED, TODAY, TREE, entry, plot, site
from ulmatic.core.log import DugIn, Laid, LedgerEntry, Measured, Observed, Removed
from ulmatic.core.planning.inventory import state_on
from ulmatic.core.planning.plan import plan_of
from ulmatic.core.schedule.rules import Every, Quarter
from ulmatic.core.survey import Use

AGO = timedelta(days=400)
CHIPS = {"material": "arborist_leafy"}


def state_of(*happened, bed=None, day=TODAY):
    entries = [entry(1, on, what, number) for number, (on, what) in enumerate(happened, 1)]
    return state_on(site(bed or plot(), ledger=entries), day)


def depth(*happened, **more) -> float:
    state = state_of(*happened, **more)
    return state.depth(state.site.plots[0].id).middle


def test_nothing_logged_is_bare_ground():
    assert depth() == 0


def test_a_settled_depth_counts_from_the_day_it_is_laid():
    assert depth((TODAY, Laid(depth_mm=60, **CHIPS))) == pytest.approx(60)


def test_a_volume_becomes_a_depth_by_the_area_of_its_day():
    """1.56 m³ on 20 m² are 78 mm loose, which settle by 22 % to 60.84 mm."""
    assert depth((TODAY, Laid(volume_m3=1.56, **CHIPS))) == pytest.approx(78 * 0.78)


def test_layings_lie_on_each_other():
    assert depth((TODAY, Laid(depth_mm=40, **CHIPS)), (TODAY, Laid(depth_mm=20, **CHIPS))) == pytest.approx(60)


def test_a_measured_depth_resets_what_lies_there():
    laid, measured = (TODAY - AGO, Laid(depth_mm=100, **CHIPS)), (TODAY, Measured(depth_mm=35, settled=True))
    assert depth(laid, measured) == pytest.approx(35)
    assert depth(measured, laid) == pytest.approx(35), "typed late, it falls into its place before the measurement"


def test_a_measurement_keeps_ages_and_materials():
    """Old chips that are measured rot on as old chips, slower than fresh ones of the same depth."""
    next_year = TODAY + timedelta(days=365)
    old = depth((TODAY - AGO, Laid(depth_mm=100, **CHIPS)), (TODAY, Measured(depth_mm=40, settled=True)), day=next_year)
    fresh = depth((TODAY, Laid(depth_mm=40, **CHIPS)), day=next_year)
    assert 0 < old != pytest.approx(fresh, rel=0.02)


def test_a_measurement_of_nothing_leaves_bare_ground():
    assert depth((TODAY - AGO, Laid(depth_mm=100, **CHIPS)), (TODAY, Measured(depth_mm=0))) == 0


def test_entries_of_one_day_stand_as_they_were_written_that_day():
    measured, laid = (TODAY, Measured(depth_mm=20, settled=True)), (TODAY, Laid(depth_mm=50, **CHIPS))
    assert depth(laid, measured) == pytest.approx(20)
    assert depth(measured, laid) == pytest.approx(70)


def test_written_later_what_was_measured_comes_before_what_was_laid():
    happened = [Laid(depth_mm=50, **CHIPS), Measured(depth_mm=20, settled=True)]
    written = [
        entry(1, TODAY, what, number).model_copy(update={"written_at": datetime(2026, 11, 28, 8, number, tzinfo=UTC)})
        for number, what in enumerate(happened)
    ]
    state = state_on(site(plot(), ledger=written), TODAY)
    assert state.depth(state.site.plots[0].id).middle == pytest.approx(70)


def test_what_is_known_to_lie_of_old_is_a_layer_of_the_plots_mulch():
    state = state_of((TODAY, Measured(depth_mm=45, lain_months=12, settled=True)))
    (layer,) = state.stacks[state.site.plots[0].id].lying
    assert layer.layer.on == TODAY - timedelta(days=365)
    assert layer.layer.material.key == "arborist_leafy"


def test_what_is_dug_in_lies_on_top_no_more_and_is_kept_for_the_account():
    laid = (TODAY - AGO, Laid(depth_mm=100, **CHIPS))
    state = state_of(laid, (TODAY, DugIn()))
    stack = state.stacks[state.site.plots[0].id]
    assert depth(laid, (TODAY, DugIn())) == 0
    assert [layer.fate for layer in stack.layers] == ["dug_in"]
    assert stack.dug_in


def test_chips_that_are_taken_off_are_gone_and_those_beneath_stay():
    laid = (TODAY, Laid(depth_mm=60, **CHIPS))
    assert depth(laid, (TODAY, Removed(chips_mm=25))) == pytest.approx(35)
    assert depth(laid, (TODAY, Removed(chips_mm=500))) == 0


def test_humus_is_taken_once():
    laid = (TODAY - timedelta(days=900), Laid(depth_mm=150, **CHIPS))
    state = state_of(laid, (TODAY - timedelta(days=1), Removed()), (TODAY, Removed()))
    humus_mm = [mm for _, mm in state.stacks[state.site.plots[0].id].humus_taken]
    assert humus_mm[0] > 1
    assert sum(humus_mm[1:]) < 0.1, "what was dug out the day before is not there any more"


def test_a_sheet_has_no_depth_and_is_remembered():
    state = state_of((TODAY, Laid(material="cardboard")), bed=plot(use=Use.LAWN_TO_CONVERT, target=150.0))
    assert state.stacks[state.site.plots[0].id].beneath == {"cardboard"}
    assert depth((TODAY, Laid(material="cardboard"))) == 0


def test_quarters_are_a_quarter_each():
    """A quarter that is laid 80 mm deep is 20 mm of the whole ring."""
    ring = plot(use=Use.YOUNG_TREE, shape=TREE, target=100.0, rule=Quarter())
    assert depth((TODAY, Laid(depth_mm=80, quarter=1, **CHIPS)), bed=ring) == pytest.approx(20)
    assert plan_of(state_of((TODAY, Laid(depth_mm=80, quarter=3, **CHIPS)), bed=ring), 2).layings(0) == []


def test_weeds_make_a_plot_due_until_something_is_laid():
    laid, weeds = (TODAY - timedelta(days=30), Laid(depth_mm=55, **CHIPS)), (TODAY - timedelta(days=2), Observed())
    bed = plot(rule=Every(years=3))
    assert "Weeds" in plan_of(state_of(laid, weeds, bed=bed), 1).layings(0)[0].reason
    second = (TODAY - timedelta(days=1), Laid(depth_mm=20, **CHIPS))
    assert plan_of(state_of(laid, weeds, second, bed=bed), 1).layings(0) == []


def test_entries_of_later_days_are_not_known_yet():
    tomorrow = (TODAY + timedelta(days=1), Laid(depth_mm=60, **CHIPS))
    assert depth(tomorrow) == 0
    assert depth(tomorrow, day=TODAY + timedelta(days=1)) == pytest.approx(60)


laid_entries = st.lists(st.tuples(st.integers(0, 700), st.floats(5, 120)), min_size=1, max_size=6)


@settings(max_examples=examples(40))
@given(laid_entries, st.randoms(use_true_random=False))
def test_the_order_of_typing_does_not_matter(layings, shuffle):
    happened = [(TODAY - timedelta(days=ago), Laid(depth_mm=mm, **CHIPS)) for ago, mm in layings]
    mixed = list(happened)
    shuffle.shuffle(mixed)
    assert depth(*happened) == pytest.approx(depth(*mixed))


@settings(max_examples=examples(40))
@given(laid_entries)
def test_what_lies_there_never_exceeds_what_was_laid(layings):
    happened = [(TODAY - timedelta(days=ago), Laid(depth_mm=mm, **CHIPS)) for ago, mm in layings]
    assert 0 < depth(*happened) <= sum(mm for _, mm in layings) + 1e-9


def test_a_volume_lies_on_the_ground_that_is_laid():
    """A bed without a plan of its own is laid on all of its ground."""
    state = state_of()
    assert state.laid_m2(state.site.plots[0], TODAY) == pytest.approx(BED.length_m * BED.width_m)


def test_an_entry_of_another_plot_is_none_of_this():
    other: LedgerEntry = entry(2, TODAY, Laid(depth_mm=60, **CHIPS))
    state = state_on(site(plot(1), plot(2), ledger=[other]), TODAY)
    assert state.stacks[state.site.plots[0].id].layers == []
    assert len(state.stacks[state.site.plots[1].id].lying) == 1
