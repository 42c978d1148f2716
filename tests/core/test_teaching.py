"""Load sizes, settling and pace: what the log teaches in closed form, and that the plan goes by it."""

from datetime import timedelta
from uuid import UUID

import pytest

from tests.core.sites import TODAY, crew, entry, load, plot, site
from ulmatic.core.log import HoursWorked, Laid, Measured
from ulmatic.core.planning.inventory import state_on
from ulmatic.core.planning.logged_figures import Normal, load_spread, weighed
from ulmatic.core.planning.plan import plan_of
from ulmatic.core.stock import LoadSize

PLOT = UUID(int=1)
CHIPS = {"material": "arborist_leafy"}
CREW = crew(1)


def test_prior_and_readings_are_weighed_by_their_certainty():
    """Prior 10 ± 2, readings 14 ± 2 and 16 ± 4, by hand: weights 1/4, 1/4, 1/16."""
    posterior = weighed(Normal(10, 2), [Normal(14, 2), Normal(16, 4)])
    assert posterior.mean == pytest.approx((10 / 4 + 14 / 4 + 16 / 16) / (1 / 4 + 1 / 4 + 1 / 16))
    assert posterior.spread == pytest.approx((1 / 4 + 1 / 4 + 1 / 16) ** -0.5)


def test_the_spread_of_a_triangular_load():
    """Symmetric from 7 to 13 around 10: variance 36/24."""
    assert load_spread(LoadSize(least_m3=7, likely_m3=10, most_m3=13)) ** 2 == pytest.approx(36 / 24)


def brought(*volumes):
    loads = [
        load(number, volume, came=TODAY - timedelta(days=40 + number), supplier_id=CREW.id)
        for number, volume in enumerate(volumes, 1)
    ]
    return state_on(site(plot(), suppliers=(CREW,), deliveries=tuple(loads)), TODAY)


def test_small_loads_make_a_supplier_bring_small_loads():
    """Usual load 10, spread as one load from the next: two loads of 7 weigh 2 of 3."""
    state = brought(7, 7)
    [figure] = state.assumed.figures
    assert (figure.what, figure.readings) == ("load", 2)
    assert figure.figure.value == pytest.approx((10 + 7 + 7) / 3)
    assert state.assumed.suppliers[0].source.size().mean_m3 == pytest.approx(8)
    prior, weight, data = (term.figure.value for term in figure.figure.working.terms)
    assert (prior, data) == pytest.approx((10, 7))
    assert weight * prior + (1 - weight) * data == pytest.approx(figure.figure.value), "the formula that is shown"


def test_the_order_goes_by_the_loads_that_came():
    few, many = brought(12.5, 12.5, 12.5), brought(7, 7, 7)
    lines = [plan_of(state, 1).now.order for state in (few, many)]
    assert [line.source for order in lines for line in order] == ["Crew 1", "Crew 1"]
    volumes = [order[0].volume_m3 / order[0].loads for order in lines]
    assert volumes[0] > 11
    assert volumes[1] < 9


def settled(read_mm: float, days: int = 30):
    laid = (TODAY - timedelta(days=days), Laid(volume_m3=2.0, **CHIPS))
    happened = [(laid[0] - timedelta(days=1), Measured(depth_mm=0, settled=True)), laid]
    happened.append((TODAY, Measured(depth_mm=read_mm, settled=True)))
    return state_on(
        site(plot(), ledger=[entry(1, on, what, index) for index, (on, what) in enumerate(happened, 1)]), TODAY
    )


def test_a_reading_soon_after_a_laying_by_volume_teaches_settling():
    """2 m³ on 20 m² are 100 mm loose; 66 mm after a month say that more than the usual 22 % went."""
    [figure] = settled(66).assumed.figures
    assert figure.what == "settling"
    assert 0.22 < figure.figure.value < 0.34
    [less] = settled(80).assumed.figures
    assert less.figure.value < figure.figure.value


def test_more_settling_means_more_to_order():
    planned = [plan_of(settled(read), 2) for read in (60, 84)]
    spread = [plan.scheduled[0].settling for plan in planned]
    assert spread[0] > 0.22 > spread[1]


def test_what_is_read_later_says_nothing_of_settling():
    assert settled(50, days=200).assumed.figures == ()


def worked(hours: float):
    job = entry(1, TODAY - timedelta(days=3), HoursWorked(task="laying", hours=hours, volume_m3=4.0))
    return state_on(site(plot(), ledger=[job], suppliers=(CREW,)), TODAY)


def test_slow_work_makes_the_plan_slower_and_quick_work_quicker():
    slow, usual, quick = worked(9.0), state_on(site(plot(), suppliers=(CREW,)), TODAY), worked(1.0)
    assert slow.assumed.figures[0].figure.value > 1 > quick.assumed.figures[0].figure.value
    assert plan_of(slow, 1).now.hours > plan_of(usual, 1).now.hours > plan_of(quick, 1).now.hours
    ratio = plan_of(slow, 1).moving(0).usual_h / plan_of(usual, 1).moving(0).usual_h
    assert ratio == pytest.approx(slow.assumed.figures[0].figure.value, rel=0.02), "one factor on all its rates"


def test_the_working_says_that_a_rate_was_learned():
    from ulmatic.core.work import SPREAD

    assert "Learned from the log" in worked(9.0).parameters.of(SPREAD).source.text
