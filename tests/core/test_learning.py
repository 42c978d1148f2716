"""What depth readings teach, against truths that the test itself has drawn."""

import math
from datetime import date, timedelta
from itertools import permutations
from uuid import UUID

import numpy as np
import pytest

from tests.core.sites import TODAY, TREE, entry, plot, site
from ulmatic.core.decay import LogRate, day_number, learn, prior_of, rate_figure
from ulmatic.core.decay.layers import chips_left
from ulmatic.core.decay.learning import PLOT_SPREAD
from ulmatic.core.decay.readings import EvidencePart, Reading
from ulmatic.core.log import Laid, LearningRestarted, Measured, Profile, Trees
from ulmatic.core.materials import CATALOGUE
from ulmatic.core.planning.inventory import state_on
from ulmatic.core.planning.scheduling import scheduled_plot

CHIPS = CATALOGUE["arborist_leafy"]
PLOT = UUID(int=1)
TENTH = 1.2815515655446004
LAID_ON = TODAY - timedelta(days=730)


def spread_of(material) -> float:
    """Standard deviation of the logarithm of a rate's prior on a plot."""
    return math.sqrt(prior_of(material, {}).variance + PLOT_SPREAD.value**2)


def state_of(*happened, **more):
    entries = [entry(1, on, what, number) for number, (on, what) in enumerate(happened, 1)]
    return state_on(site(plot(), ledger=entries, **more), more.pop("day", TODAY))


def depth(state) -> float:
    return state.depth(state.site.plots[0].id).middle


def read(on: date, depth_mm: float, **more):
    return on, Measured(depth_mm=depth_mm, settled=True, **more)


DAYS = [LAID_ON + timedelta(days=40 + 69 * number) for number in range(10)]
NEXT_YEAR = TODAY + timedelta(days=365)
CLOCK = state_on(site(plot()), TODAY).climate.clocks[0]


def passed(day: date) -> float:
    """Decay time since the laying."""
    return float(CLOCK.time_at(day_number(day)) - CLOCK.time_at(day_number(LAID_ON)))


def left(factor: float, days: list[date], laid_mm: float = 100.0) -> list[float]:
    """Depths on days of a layer that decays so many times as fast as shipped."""
    rate = CHIPS.rate.model_copy(update={"value": CHIPS.rate.value * factor})
    faster = CHIPS.model_copy(update={"rate": rate})
    return [laid_mm * chips_left(faster, 0.0, passed(day)) for day in days]


def test_one_layer_alone_decays_as_the_sites_layers_do():
    laid = [entry(1, LAID_ON, Laid(material=CHIPS.key, depth_mm=100))]
    for day, expected in zip((DAYS[0], DAYS[6], NEXT_YEAR), left(1.0, [DAYS[0], DAYS[6], NEXT_YEAR]), strict=True):
        assert depth(state_on(site(plot(), ledger=laid), day)) == pytest.approx(expected, rel=1e-6)


def learned_from(factor: float, random: np.random.Generator, points: int = 1):
    """A site whose bed was read ten times, and how deep it will truly be a year from now."""
    depths = np.array(left(factor, [*DAYS, NEXT_YEAR])) * math.exp(random.normal(0, 0.1))
    happened: list[tuple[date, Laid | Measured]] = [(LAID_ON, Laid(material=CHIPS.key, depth_mm=100))]
    for day, mm in zip(DAYS, depths[:10], strict=True):
        readings = [max(0.0, float(mm + random.normal(0, 8))) for _ in range(points)]
        happened.append((day, Measured(readings_mm=tuple(readings), settled=True)))
    return state_of(*happened), depths[10]


def test_the_interval_holds_the_true_rate_as_often_as_it_says():
    """500 beds whose rate is drawn from the prior, ten readings each: 80 % intervals hold it 75 to 85 % of the time."""
    random = np.random.default_rng(20261127)
    laid = EvidencePart(material=CHIPS, depth_mm=100.0, passed=0.0, on=LAID_ON, settling=0.22, event=0, cv=0.1)
    hits, errors, guesses = 0, [], []
    for _ in range(500):
        theta = random.normal(0, spread_of(CHIPS))
        depths = np.array(left(math.exp(theta), DAYS)) * math.exp(random.normal(0, 0.1))
        readings = [
            Reading(UUID(int=index), day, max(0.0, float(mm + random.normal(0, 8))), 8.0, ((laid, passed(day), 1.0),))
            for index, (day, mm) in enumerate(zip(DAYS, depths, strict=True))
        ]
        known = learn({PLOT: readings}).of(PLOT, CHIPS)
        hits += abs(theta - known.mean) <= TENTH * known.spread
        [true], [learned_mm], [guess] = (left(math.exp(mean), [NEXT_YEAR]) for mean in (theta, known.mean, 0.0))
        errors.append(abs(learned_mm - true))
        guesses.append(abs(guess - true))
    assert 0.75 <= hits / 500 <= 0.85
    assert np.mean(errors) <= np.mean(guesses) / 2


def test_ten_readings_halve_the_error_of_next_years_depth_in_the_whole_site():
    """The same through the site, with readings at three points: its forecast with them, and without."""
    random = np.random.default_rng(7)
    errors, guesses = [], []
    for _ in range(40):
        theta = random.normal(0, spread_of(CHIPS))
        state, ten_readings = learned_from(math.exp(theta), random, points=3)
        errors.append(abs(depth(state_on(state.site, NEXT_YEAR)) - ten_readings))
        laid_alone = site(plot(), ledger=[entry(1, LAID_ON, Laid(material=CHIPS.key, depth_mm=100))])
        guesses.append(abs(depth(state_on(laid_alone, NEXT_YEAR)) - ten_readings))
    assert np.mean(errors) <= np.mean(guesses) / 2


def portion(depth_mm: float = 100.0) -> EvidencePart:
    return EvidencePart(material=CHIPS, depth_mm=depth_mm, passed=0.0, on=LAID_ON, settling=0.22, event=0, cv=0.0)


def test_one_exact_enough_reading_agrees_with_the_closed_form():
    """Near the prior's middle the depth is linear in the rate's logarithm: normal prior, normal reading, closed form."""
    passed, error = 1.0, 5.0
    expected = learn({PLOT: [Reading(UUID(int=9), TODAY, 50.0, error, ((portion(), passed, 1.0),))]}).checks[
        UUID(int=9)
    ]
    step = 1e-4
    faster = CHIPS.model_copy(
        update={"rate": CHIPS.rate.model_copy(update={"value": CHIPS.rate.value * math.exp(step)})}
    )
    other = EvidencePart(**{**vars(portion()), "material": faster})
    moved = learn({PLOT: [Reading(UUID(int=9), TODAY, 50.0, error, ((other, passed, 1.0),))]}).checks[UUID(int=9)]
    slope = (moved.expected_mm - expected.expected_mm) / step
    reading = expected.expected_mm + 1.0
    known = learn({PLOT: [Reading(UUID(int=9), TODAY, reading, error, ((portion(), passed, 1.0),))]}).of(PLOT, CHIPS)
    variance = 1 / (1 / spread_of(CHIPS) ** 2 + slope**2 / error**2)
    assert known.variance == pytest.approx(variance, rel=0.03)
    assert known.mean == pytest.approx(variance * slope / error**2 * 1.0, rel=0.03)


def test_the_formula_that_is_shown_gives_the_rate_that_is_shown():
    known = LogRate(-0.3, 0.02)
    figure = rate_figure(CHIPS, LogRate(0.1, 0.15), known, 4)
    prior, weight, data = (term.figure.value for term in figure.working.terms)
    assert prior**weight * data ** (1 - weight) == pytest.approx(figure.value) == pytest.approx(math.exp(-0.3))


def test_a_plot_without_readings_learns_from_its_neighbour_and_less():
    other = UUID(int=2)
    slow = [Reading(UUID(int=20 + n), TODAY, 90.0, 4.0, ((portion(), 1.0 + n / 5, 1.0),)) for n in range(3)]
    posterior = learn({PLOT: slow})
    of_plot, pooled = posterior.of(PLOT, CHIPS), posterior.of(other, CHIPS)
    assert of_plot.mean < pooled.mean < 0
    assert pooled.spread > of_plot.spread


def test_a_material_that_was_never_read_on_a_plot_decays_as_the_plot_and_as_other_sites_tell():
    """Shade slows everything on it; what other sites say of the new material holds too."""
    slow = [Reading(UUID(int=20 + n), TODAY, 90.0, 4.0, ((portion(), 1.0 + n / 5, 1.0),)) for n in range(3)]
    straw = CATALOGUE["straw"]
    without_reading = learn({PLOT: slow}).of(PLOT, straw)
    messages = {straw.key: [LogRate(0.4, 0.01)]}
    quick = learn({PLOT: slow}, elsewhere=messages).of(PLOT, straw)
    assert without_reading.mean < 0
    assert quick.mean - without_reading.mean == pytest.approx(prior_of(straw, messages).mean)
    assert quick.variance < without_reading.variance


def test_what_readings_say_by_themselves_gives_the_result_when_weighed_with_the_prior():
    prior, known = LogRate(0.1, 0.15), LogRate(-0.3, 0.02)
    data = known.less(prior)
    weights = 1 / prior.variance, 1 / data.variance
    assert sum(weights) == pytest.approx(1 / known.variance)
    mean = (prior.mean * weights[0] + data.mean * weights[1]) / sum(weights)
    assert mean == pytest.approx(known.mean)
    assert prior.less(prior) is None, "no reading, nothing to say"


def test_other_sites_shift_the_prior():
    messages = {CHIPS.key: [LogRate(-0.5, 0.01)]}
    before, after = prior_of(CHIPS, {}), prior_of(CHIPS, messages)
    assert before.mean == 0
    assert -0.5 < after.mean < -0.2
    assert after.variance < before.variance
    state = state_on(site(plot(), ledger=[], elsewhere=messages), TODAY)
    assert state.assumed.rates.of(PLOT, CHIPS).mean == after.mean
    assert scheduled_plot(state, state.site.plots[0]).material.rate.value < CHIPS.rate.value


def test_the_message_to_other_sites_leaves_the_prior_out():
    """What a site says of itself does not depend on what it was messages."""
    readings = [Reading(UUID(int=20 + n), TODAY, 45.0, 4.0, ((portion(), 1.0 + n / 5, 1.0),)) for n in range(3)]
    message = learn({PLOT: readings}).message[CHIPS.key]
    messages = learn({PLOT: readings}, elsewhere={CHIPS.key: [LogRate(0.3, 0.05)]}).message[CHIPS.key]
    assert messages.mean == pytest.approx(message.mean, abs=0.05)
    assert messages.variance == pytest.approx(message.variance, rel=0.15)


def test_order_and_day_of_typing_do_not_matter():
    happened = [
        (LAID_ON, Laid(material=CHIPS.key, depth_mm=100)),
        read(DAYS[2], 70),
        read(DAYS[5], 58),
        read(DAYS[8], 50),
    ]
    entries = [entry(1, on, what, number) for number, (on, what) in enumerate(happened, 1)]
    means = set()
    for order in permutations(entries):
        late = [piece.model_copy(update={"written_at": piece.written_at + timedelta(days=900)}) for piece in order]
        means |= {
            round(state_on(site(plot(), ledger=list(readings)), TODAY).assumed.rates.of(PLOT, CHIPS).mean, 9)
            for readings in (order, late)
        }
    assert len(means) == 1


def test_an_impossible_reading_is_asked_about_and_teaches_nothing():
    quiet = state_of((LAID_ON, Laid(material=CHIPS.key, depth_mm=100)), read(DAYS[3], 70))
    odd = (LAID_ON, Laid(material=CHIPS.key, depth_mm=100)), read(DAYS[3], 70), read(DAYS[6], 240)
    state = state_of(*odd)
    [misfit] = state.assumed.rates.misfits
    assert misfit.depth_mm == 240
    assert misfit.expected_mm < 75
    assert state.assumed.rates.of(PLOT, CHIPS).mean == pytest.approx(quiet.assumed.rates.of(PLOT, CHIPS).mean)


def test_readings_after_an_impossible_one_are_compared_with_it():
    """Topped up without a word: from then on the new depth is what decays."""
    state = state_of(
        (LAID_ON, Laid(material=CHIPS.key, depth_mm=100)),
        read(DAYS[3], 70),
        read(DAYS[4], 200),
        read(DAYS[6], 170),
        read(DAYS[8], 150),
    )
    assert [misfit.depth_mm for misfit in state.assumed.rates.misfits] == [200]
    assert state.assumed.rates.plot_readings[PLOT] == 3


def test_a_reading_with_a_cause_is_no_misfit_and_no_lesson():
    laid, raked = (LAID_ON, Laid(material=CHIPS.key, depth_mm=100)), read(DAYS[3], 20, cause="raked")
    state = state_of(laid, raked)
    assert state.assumed.rates.misfits == ()
    assert state.assumed.rates.of(PLOT, CHIPS) is None
    assert depth(state_on(site(plot(), ledger=state.site.ledger), DAYS[3])) == pytest.approx(20)


def test_a_confirmed_reading_teaches_however_unlikely():
    state = state_of((LAID_ON, Laid(material=CHIPS.key, depth_mm=100)), read(DAYS[4], 3, confirmed=True))
    assert state.assumed.rates.misfits == ()
    assert state.assumed.rates.of(PLOT, CHIPS).mean > 0.3


def test_learning_can_be_restarted():
    laid, slow = (LAID_ON, Laid(material=CHIPS.key, depth_mm=100)), read(DAYS[5], 80)
    assert state_of(laid, slow).assumed.rates.of(PLOT, CHIPS).mean < -0.1
    assert state_of(laid, slow, (TODAY, LearningRestarted())).assumed.rates.of(PLOT, CHIPS) is None


def test_a_slow_plot_is_forecast_slower_and_surer():
    laid = (LAID_ON, Laid(material=CHIPS.key, depth_mm=100))
    readings = [read(day, mm) for day, mm in zip(DAYS[:8], left(0.6, DAYS[:8]), strict=True)]
    before, after = state_on(state_of(laid).site, NEXT_YEAR), state_on(state_of(laid, *readings).site, NEXT_YEAR)
    wide, narrow = (state.depth(PLOT) for state in (before, after))
    assert narrow.middle > wide.middle
    assert (narrow.high - narrow.low) / narrow.middle < (wide.high - wide.low) / wide.middle
    assert "Learned from 8 readings" in scheduled_plot(after, after.site.plots[0]).material.rate.source.text


def test_a_dug_profile_measures_the_chips_and_leaves_the_humus_out():
    state = state_of(
        (LAID_ON, Laid(material=CHIPS.key, depth_mm=100)), (TODAY, Profile(dry_mm=20, moist_mm=30, humus_depth_mm=15))
    )
    assert depth(state) == pytest.approx(50)
    assert len(state.assumed.rates.checks) == 1


def test_some_trees_of_a_row_count_for_their_share():
    row = TREE.model_copy(update={"trees": 4})
    laid = entry(1, LAID_ON, Laid(material=CHIPS.key, depth_mm=100), 1)
    today = depth(state_on(site(plot(shape=row), ledger=[laid]), TODAY))
    part = entry(1, TODAY, Measured(depth_mm=10, settled=True, cause="raked"), 2).model_copy(
        update={"trees": Trees(first=1, last=2)}
    )
    assert depth(state_on(site(plot(shape=row), ledger=[laid, part]), TODAY)) == pytest.approx((today + 10) / 2)
