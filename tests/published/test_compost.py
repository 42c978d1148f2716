"""Pile mixing against the worked example of the Cornell Waste Management Institute (from memory, science.md §4)."""

import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from ulmatic.core.materials import CATALOGUE
from ulmatic.core.materials.pile_mix import (
    MixPart,
    carbon_to_nitrogen,
    missing_for_moisture,
    missing_for_ratio,
    moisture,
    portion,
)

GRASS = MixPart(name="grass", kg=10, moisture=0.77, carbon=0.45, nitrogen=0.024)
LEAVES = MixPart(name="leaves", kg=0, moisture=0.35, carbon=0.50, nitrogen=0.0075)


def test_ten_kilograms_of_grass_want_three_and_a_half_of_leaves_for_thirty_to_one():
    assert missing_for_ratio([GRASS], LEAVES, 30) == pytest.approx(3.5, abs=0.05)


def test_and_six_point_eight_for_sixty_percent_moisture():
    assert missing_for_moisture([GRASS], LEAVES, 0.6) == pytest.approx(6.8, abs=0.005)


def test_the_formula_shown_is_the_one_of_the_example():
    mixed = carbon_to_nitrogen([GRASS, LEAVES.model_copy(update={"kg": 3.5})])
    assert mixed.value == pytest.approx(30, abs=0.1)
    assert "".join(mixed.working.formula).startswith("(q1 × c1 × (1 − m1) + q2")


catalogue = st.sampled_from([material for material in CATALOGUE.values() if material.key != "cardboard"])


@given(st.lists(st.tuples(catalogue, st.floats(0.1, 20)), min_size=1, max_size=5), catalogue, st.floats(10, 200))
def test_what_is_missing_brings_the_mix_there(parts, add, ratio):
    pile = [portion(material, amount, "m3") for material, amount in parts]
    extra = portion(add, 1, "kg")
    needed = missing_for_ratio(pile, extra, ratio)
    assume(needed is not None and needed < 1e6)
    assert carbon_to_nitrogen([*pile, extra.model_copy(update={"kg": needed})]).value == pytest.approx(ratio, rel=1e-6)


@given(st.lists(st.tuples(catalogue, st.floats(0.1, 20)), min_size=1, max_size=5), catalogue, st.floats(0.2, 0.8))
def test_and_so_for_moisture(parts, add, target):
    pile = [portion(material, amount, "kg") for material, amount in parts]
    extra = portion(add, 1, "kg")
    needed = missing_for_moisture(pile, extra, target)
    assume(needed is not None and needed < 1e6)
    assert moisture([*pile, extra.model_copy(update={"kg": needed})]).value == pytest.approx(target, rel=1e-6)
