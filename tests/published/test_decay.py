"""The decay model against its differential equation, solved by SciPy, and the check values of science.md §3."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.integrate import solve_ivp

from ulmatic.core.climate.normals import ClimateClass, GenericClimate
from ulmatic.core.decay import climate_factor, decayed, pools, stage_at
from ulmatic.core.decay.yasso import CHANGE
from ulmatic.core.materials import CATALOGUE, FRACTIONS, Stage, Tissue

CLIMATES = {ClimateClass.COOL_MARITIME: 1.48, ClimateClass.HOT_WET: 3.55, ClimateClass.DRY_SUMMER: 1.20}
SOLID, LOST, LOOSE_MM, MOULD = 180.0, 0.22, 100.0, 550.0


@pytest.mark.parametrize(("name", "factor"), CLIMATES.items())
def test_the_climate_factor_agrees_with_its_check_values(name, factor):
    assert climate_factor(GenericClimate(name=name).normals()) == pytest.approx(factor, abs=0.005)


@pytest.mark.parametrize(
    ("name", "tissue", "rate", "chips", "mould"),
    [
        (ClimateClass.COOL_MARITIME, Tissue.STEM_BROADLEAF, 1.0, (54.0, 35.8, 16.7), (5.6, 9.2, 11.6)),
        (ClimateClass.HOT_WET, Tissue.STEM_BROADLEAF, 1.0, (30.5, 12.5, 3.0), (10.0, 11.7, 10.4)),
        (ClimateClass.DRY_SUMMER, Tissue.BARK, 0.8, (61.3, 48.8, 31.7), (4.5, 7.6, 11.4)),
    ],
)
def test_chips_and_mould_agree_with_the_check_values(name, tissue, rate, chips, mould):
    years = np.array([0.5, 1.0, 2.0])
    fractions = FRACTIONS[tissue].as_tuple()
    time = rate * climate_factor(GenericClimate(name=name).normals()) * years
    now, lost_share = pools([*fractions, 0.0], time), decayed(fractions, time)
    laid = SOLID * LOOSE_MM / 1000
    settled = SOLID / (1 - LOST * (1 - np.exp(-years * 365.25 / 21)))
    share = now[:, :4].sum(-1)
    assert laid * share * (1 - lost_share) / settled * 1000 == pytest.approx(chips, abs=0.05)
    assert laid * (share * lost_share + now[:, 4]) / MOULD * 1000 == pytest.approx(mould, abs=0.05)


starts = st.lists(st.floats(0, 10), min_size=5, max_size=5).filter(lambda pools: sum(pools) > 0.1)


@given(starts, st.floats(0.01, 20))
def test_the_closed_form_solves_the_equation_and_loses_mass(start, time):
    solved = solve_ivp(lambda _, x: CHANGE @ x, (0, time), start, method="LSODA", rtol=1e-10, atol=1e-12).y[:, -1]
    now = pools(start, time)
    assert now == pytest.approx(solved, rel=1e-6, abs=1e-8)
    assert (now >= -1e-9).all()
    assert now.sum() <= sum(start) + 1e-9
    assert pools(pools(start, time / 3), 2 * time / 3) == pytest.approx(now, abs=1e-9), "continued is the same"


def test_stages_come_in_their_order_and_sooner_where_it_is_warm():
    cool, hot = (climate_factor(GenericClimate(name=name).normals()) for name in ("cool_maritime", "hot_wet"))
    chips = CATALOGUE["arborist_leafy"]
    order = list(Stage)
    ages = [0, 29, 60, 400, 800, 1500, 3000, 6000]
    for factor in (cool, hot):
        stages = [order.index(stage_at(chips, age, factor * age / 365.25)) for age in ages]
        assert stages == sorted(stages)
        assert stages[0] == 0
        assert stages[-1] == 3
    assert order.index(stage_at(chips, 400, hot * 400 / 365.25)) > order.index(
        stage_at(chips, 400, cool * 400 / 365.25)
    )
    slow = stage_at(CATALOGUE["heartwood"], 800, cool * 800 / 365.25)
    assert order.index(slow) < order.index(stage_at(chips, 800, cool * 800 / 365.25)), "heartwood is slower"
