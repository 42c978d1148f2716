"""Trade checks of science.md §3: what practitioners saw happen, against the decay model (common practice, no source)."""

import pytest

from ulmatic.core.climate.normals import ClimateClass, GenericClimate
from ulmatic.core.decay import climate_factor, decayed, pools
from ulmatic.core.materials import CATALOGUE, FRACTIONS, Material, Tissue


def factor(name: ClimateClass) -> float:
    return climate_factor(GenericClimate(name=name).normals())


def gone(material: Material, years: float, name: ClimateClass, rate: float | None = None) -> float:
    return float(decayed(material.fractions(), (rate or material.rate.value) * factor(name) * years))


def chips_left(material: Material, years: float, name: ClimateClass) -> float:
    """Share of the laid depth that is still chips, settled."""
    time = material.rate.value * factor(name) * years
    share = pools([*material.fractions(), 0.0], time)[:4].sum()
    return float(share * (1 - gone(material, years, name)) * (1 - material.settling.value))


def test_leafy_oak_is_nearly_level_with_the_ground_after_seven_months_where_it_is_hot_and_wet():
    assert chips_left(CATALOGUE["arborist_much_leaf"], 7 / 12, ClimateClass.HOT_WET) < 0.25


def test_palm_is_more_than_half_crumb_at_three_months_there():
    assert gone(CATALOGUE["palm"], 0.25, ClimateClass.HOT_WET) > 0.5


def test_clean_coarse_wood_is_half_gone_at_two_years_and_ripe_at_four_where_summers_are_dry():
    wood = CATALOGUE["clean_coarse"]
    assert gone(wood, 2, ClimateClass.DRY_SUMMER) == pytest.approx(0.5, abs=0.1)
    assert gone(wood, 4, ClimateClass.DRY_SUMMER) > 0.65


@pytest.mark.parametrize("years", [0.25, 0.5, 1, 2])
def test_the_order_of_decay_is_that_of_practice(years):
    fastest_first = ["palm", "arborist_much_leaf", "conifer_needles", "conifer_bare"]
    left = [gone(CATALOGUE[key], years, ClimateClass.COOL_MARITIME) for key in fastest_first]
    assert left == sorted(left, reverse=True)
    assert gone(CATALOGUE["heartwood"], years, ClimateClass.COOL_MARITIME) < left[-1] + 0.05


@pytest.mark.parametrize("name", ClimateClass)
def test_every_generic_climate_gives_a_plausible_factor(name):
    assert 0.2 < factor(name) < 4.5


def test_warm_and_wet_rots_faster_than_cool_and_dry_faster_than_short_summers():
    order = [ClimateClass.HOT_WET, ClimateClass.WARM_HUMID, ClimateClass.COOL_MARITIME, ClimateClass.SHORT_SUMMER]
    factors = [factor(name) for name in order]
    assert factors == sorted(factors, reverse=True)
    south = climate_factor(GenericClimate(name=ClimateClass.HOT_WET, southern=True).normals())
    assert south == pytest.approx(factors[0]), "turning the year round changes no yearly mean"


def test_leaf_goes_before_wood_and_bark_stays_longest():
    one_year = {tissue: float(decayed(FRACTIONS[tissue].as_tuple(), 1.0)) for tissue in Tissue if tissue != "char"}
    share = {tissue: pools([*FRACTIONS[tissue].as_tuple(), 0.0], 1.0)[:4].sum() for tissue in one_year}
    assert share[Tissue.PALM] < share[Tissue.STEM_BROADLEAF] < share[Tissue.BARK]
    assert all(0 < one < 1 for one in one_year.values())
