"""What is assumed for a day rests on the entries until that day: tried on random ledgers."""

from dataclasses import replace
from datetime import date, timedelta

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.conftest import examples
from tests.core.sites import TODAY, crew, entry, load, pile_of, plot, site
from ulmatic.core.log import (
    DugIn,
    HoursWorked,
    Laid,
    LearningRestarted,
    Measured,
    Observed,
    Profile,
    Removed,
)
from ulmatic.core.planning import assume, assume_each, state_of, state_on
from ulmatic.core.site import Assumed

MATERIALS = ("arborist_leafy", "bark_shredded", "straw")
FIRST = TODAY - timedelta(days=900)
days = st.integers(0, 900).map(lambda ago: FIRST + timedelta(days=ago))
causes = st.sampled_from((None, None, None, "raked", "washed_away"))
happenings = st.one_of(
    st.builds(Laid, material=st.sampled_from(MATERIALS), depth_mm=st.floats(20, 150)),
    st.builds(Laid, material=st.sampled_from(MATERIALS), volume_m3=st.floats(0.3, 3)),
    st.builds(Measured, depth_mm=st.floats(0, 150), settled=st.booleans(), confirmed=st.booleans(), cause=causes),
    st.builds(Measured, readings_mm=st.lists(st.floats(5, 120), min_size=2, max_size=4).map(tuple)),
    st.builds(Profile, dry_mm=st.floats(0, 50), moist_mm=st.floats(0, 50), humus_depth_mm=st.just(10.0)),
    st.builds(Removed, chips_mm=st.floats(0, 80)),
    st.builds(HoursWorked, task=st.just("laying"), hours=st.floats(1, 9), volume_m3=st.floats(1, 4)),
    st.sampled_from((DugIn(), LearningRestarted(), Observed())),
)
ledgers = st.lists(st.tuples(days, st.integers(1, 2), happenings), min_size=1, max_size=12)


def site_of(entries):
    brought = load(1, 6.0, came=TODAY - timedelta(days=200), supplier_id=crew(1).id)
    written = [entry(number, on, what, index) for index, (on, number, what) in enumerate(entries, 1)]
    return site(plot(1), plot(2), ledger=written, suppliers=(crew(1),), **pile_of(brought))


def comparable(assumed: Assumed) -> tuple:
    """All that is assumed, in a form that can be compared."""
    return (
        assumed.day,
        assumed.suppliers,
        assumed.parameters,
        assumed.figures,
        {key: material.settling.value for key, material in assumed.materials.items()},
        assumed.rates,
        assumed.questioned,
    )


@settings(max_examples=examples(60))
@given(ledgers, days)
def test_nothing_that_is_written_of_later_days_reaches_what_is_assumed(entries, day):
    known = site_of(entries)
    until = replace(known, ledger=[line for line in known.ledger if line.on <= day])
    assert comparable(assume(known, day)) == comparable(assume(until, day))
    with_later, without_later = state_of(known, assume(known, day)), state_of(until, assume(until, day))
    assert [depths.tolist() for depths in with_later.depths_mm] == [
        depths.tolist() for depths in without_later.depths_mm
    ]


@settings(max_examples=examples(30))
@given(ledgers, st.lists(days, min_size=1, max_size=5))
def test_each_day_in_one_pass_is_that_day_alone(entries, some_days):
    trial = site_of(entries)
    passed = list(assume_each(trial, sorted(some_days)))
    assert [comparable(assumed) for assumed in passed] == [comparable(assume(trial, day)) for day in sorted(some_days)]


@settings(max_examples=examples(60))
@given(ledgers)
def test_evidence_is_that_of_the_layers(entries):
    """Readings teach of the mulch that is taken to lie there: never of a layer that has ended."""
    state = state_on(site_of(entries), TODAY)
    for stack in state.assumed.stacks.values():
        laid_on = {layer.layer.on for layer in stack.layers}
        for reading in stack.evidence.readings:
            assert {portion.on for portion, _, _ in reading.parts} <= laid_on


def test_mulch_that_has_rotted_away_teaches_nothing_of_what_is_found_later():
    """Once nothing is left, what is found is a layer of its own, and later readings are of that one."""
    entries = [
        (date(2024, 3, 1), 1, Laid(material="straw", depth_mm=20)),
        (date(2026, 3, 1), 1, Measured(depth_mm=60)),
        (date(2026, 9, 1), 1, Measured(depth_mm=50)),
    ]
    state = state_on(site_of(entries), TODAY)
    (stack, _) = state.assumed.stacks.values()
    *_, last = stack.evidence.readings
    assert [portion.depth_mm for portion, _, _ in last.parts] == pytest.approx([60])
    assert state.site.ledger == site_of(entries).ledger, "the site is as it was known"


def test_the_site_is_never_replaced_by_what_is_assumed():
    known = site_of([(TODAY - timedelta(days=50), 1, HoursWorked(task="laying", hours=9, volume_m3=1))])
    state = state_on(known, TODAY)
    assert state.site is known
    assert state.assumed.figures
    assert known.parameters.by_key == {}
    assert state.parameters.by_key != {}
