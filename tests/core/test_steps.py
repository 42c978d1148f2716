"""What to do next on a site, and the regions that a new one is chosen from."""

from datetime import date
from zoneinfo import available_timezones

from tests.core.sites import TODAY, entry, plot, site
from ulmatic.core.climate import REGIONS, region_of
from ulmatic.core.log import Laid, Measured
from ulmatic.core.planning.plan import plan_on
from ulmatic.core.planning.steps import StepKey
from ulmatic.core.units import UnitSystem


def keys(a_site):
    return [step.key for step in plan_on(a_site, TODAY, 1).steps]


def test_ground_comes_first_and_nothing_beside_it():
    assert keys(site()) == [StepKey.PLOT]


def test_what_makes_figures_right_can_be_skipped_and_the_climate_cannot():
    steps = plan_on(site(plot(), climate=None), TODAY, 1).steps
    optional = {step.key for step in steps if step.optional}
    assert optional == {StepKey.EXISTING, StepKey.MATERIAL, StepKey.TIP, StepKey.SUPPLIER}
    assert steps[0].plot_id is not None
    assert StepKey.CLIMATE in {step.key for step in steps} - optional


def test_the_order_comes_before_the_laying_and_says_how_much():
    plan = plan_on(site(plot()), TODAY, 1)
    texts = {step.key: step.text for step in plan.steps}
    assert list(texts).index(StepKey.ORDER) < list(texts).index(StepKey.LAY)
    assert f"{{{plan.now.ordered_m3:.6g} m3}}" in texts[StepKey.ORDER]
    assert f"{{{plan.now.needed_m3:.6g} m3}}" in texts[StepKey.LAY]


def test_where_nothing_is_due_the_next_season_is_named():
    known = keys(site(plot(), ledger=[entry(1, TODAY, Measured(depth_mm=75, settled=True))]))
    assert StepKey.ORDER not in known
    assert StepKey.LAY not in known
    assert StepKey.EXISTING not in known
    assert known[-1] is StepKey.READING


def test_what_was_logged_answers_how_deep_it_is():
    ledger = [entry(1, date(2026, 3, 1), Laid(material="arborist_leafy", depth_mm=40))]
    assert StepKey.EXISTING not in keys(site(plot(), ledger=ledger))


def test_regions_are_told_apart_and_name_zones_that_exist():
    assert len({region.key for region in REGIONS}) == len(REGIONS)
    zones = available_timezones()
    for region in REGIONS:
        for start in region.time_zones:
            assert any(zone.startswith(start) for zone in zones), start
        assert (region.units is UnitSystem.US) == region.name.startswith("USA")


def test_a_region_is_guessed_from_the_time_zone_where_it_can_be():
    assert region_of("Australia/Hobart").key == "australia_southeast"
    assert region_of("America/Argentina/Cordoba").southern
    assert region_of("America/Indiana/Knox").units is UnitSystem.US
    assert region_of("UTC") is None
