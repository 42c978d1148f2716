"""The order of decay that practice knows, and climates; amounts are rows of the evidence."""

import pytest

from ulmatic.core.climate.normals import ClimateClass, GenericClimate
from ulmatic.core.decay import climate_factor, decayed, pools
from ulmatic.core.materials import CATALOGUE, FRACTIONS, Material, Tissue


def factor(name: ClimateClass) -> float:
    return climate_factor(GenericClimate(name=name).normals())


def lost_share(material: Material, years: float, name: ClimateClass, rate: float | None = None) -> float:
    return float(decayed(material.fractions(), (rate or material.rate.value) * factor(name) * years))


@pytest.mark.parametrize("years", [0.25, 0.5, 1, 2])
def test_the_order_of_decay_is_that_of_practice(years):
    fastest_first = ["palm", "arborist_much_leaf", "conifer_needles", "conifer_bare", "heartwood"]
    left = [lost_share(CATALOGUE[key], years, ClimateClass.COOL_MARITIME) for key in fastest_first]
    assert left == sorted(left, reverse=True)


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
    assert all(0 < share < 1 for share in one_year.values())
