"""Densities, masses and the figures of materials, as people write and read them."""

import pytest
from hypothesis import given
from hypothesis import strategies as st
from pydantic import BaseModel, ValidationError

from ulmatic.core.log import Fed
from ulmatic.core.materials import CATALOGUE
from ulmatic.core.materials.pile_mix import carbon_to_nitrogen, moisture, portion
from ulmatic.core.supply.allocate import Want, allocate
from ulmatic.core.supply.choice import Limits, Need, SupplySource
from ulmatic.core.supply.choosing import choose
from ulmatic.core.units import MASS, Density, MeasureError, UnitSystem, bare_numbers_in, parse
from ulmatic.core.units.measures import SHARE


class Weighed(BaseModel):
    density: Density


POUNDS_PER_YARD = 0.45359237 / 0.764554857984


@pytest.mark.parametrize(
    ("text", "system", "kg_m3"),
    [
        ("180", UnitSystem.METRIC, 180),
        ("180 kg/m3", UnitSystem.US, 180),
        ("180 kg / m³", UnitSystem.METRIC, 180),
        ("180,5 kg/m3", UnitSystem.METRIC, 180.5),
        ("300", UnitSystem.US, 300 * POUNDS_PER_YARD),
        ("300 lb/yd3", UnitSystem.METRIC, 300 * POUNDS_PER_YARD),
        ("300 lb/cu yd", UnitSystem.METRIC, 300 * POUNDS_PER_YARD),
    ],
)
def test_a_density_is_read(text, system, kg_m3):
    with bare_numbers_in(system):
        assert Weighed(density=text).density == pytest.approx(kg_m3)


@pytest.mark.parametrize("text", ["", "heavy", "-5", "3 kg", "180 kg/m2", "1e3", "4", "2001", "nan"])
def test_what_is_no_density_is_refused(text):
    with pytest.raises(ValidationError):
        Weighed(density=text)


@pytest.mark.parametrize(
    ("text", "system", "kg"),
    [
        ("50", UnitSystem.METRIC, 50),
        ("50", UnitSystem.US, 22.6796185),
        ("110 lb", UnitSystem.METRIC, 49.8951607),
        ("0", UnitSystem.METRIC, 0),
        ("2.5 kg", UnitSystem.US, 2.5),
    ],
)
def test_a_mass_is_read(text, system, kg):
    assert parse(text, MASS, system) == pytest.approx(kg)


@pytest.mark.parametrize("text", ["0/0", "1/0", "1/0 %"])
def test_a_share_over_nothing_is_refused_in_words(text):
    with pytest.raises(MeasureError, match="can be read"):
        parse(text, SHARE, UnitSystem.METRIC)


@pytest.mark.parametrize("text", ["much", "3 m", "-1 kg", "2000000 kg"])
def test_what_is_no_mass_is_refused_in_words(text):
    with pytest.raises(MeasureError) as refused:
        parse(text, MASS, UnitSystem.METRIC)
    assert str(refused.value).endswith((".", "?"))


@pytest.mark.parametrize("key", list(CATALOGUE))
def test_weight_and_nitrogen_follow_from_the_figures_shown(key):
    material = CATALOGUE[key]
    wet, nitrogen = material.wet_density(), material.nitrogen()
    assert wet.value == pytest.approx(material.density.value / (1 - material.moisture.value))
    assert nitrogen.value * material.cn.value == pytest.approx(material.carbon.value)
    assert wet.low < wet.value < wet.high
    assert nitrogen.low < nitrogen.value < nitrogen.high
    assert [getattr(term.figure, "key", None) for term in wet.working.terms] == [
        material.density.key,
        material.moisture.key,
    ]


@pytest.mark.parametrize("key", [key for key in CATALOGUE if key != "cardboard"])
def test_a_pile_of_one_thing_is_that_thing(key):
    material = CATALOGUE[key]
    pile = [portion(material, 2.0, "m3"), portion(material, 35.0, "kg")]
    assert carbon_to_nitrogen(pile).value == pytest.approx(material.cn.value)
    assert moisture(pile).value == pytest.approx(material.moisture.value)
    assert pile[0].kg == pytest.approx(2 * material.wet_density().value)


@given(st.integers(1, 40), st.integers(1, 12), st.integers(0, 100))
def test_one_source_of_whole_loads_is_counted_up(need, load, fee):
    crew = SupplySource(key="crew", material="chips", load_m3=load, per_load=fee, arrivals=(10,) * 12)
    best = choose([Need(volume_m3=need, accepts=frozenset(["chips"]))], [crew]).choices[0]
    loads = -(-need // load)
    assert [purchase.loads for purchase in best.purchases] == [loads]
    assert (best.cost, best.left_over_m3) == pytest.approx((loads * fee, loads * load - need))


@given(st.lists(st.floats(0.5, 20), min_size=1, max_size=30))
def test_adding_plots_that_accept_the_same_is_as_one_plot(volumes):
    crew = SupplySource(key="crew", material="chips", load_m3=6, per_load=10, arrivals=(40,) * 12)
    yard = SupplySource(
        key="yard", material="chips", load_m3=20, exact=True, per_load=30, per_m3=20, arrivals=(40,) * 12
    )
    accepts = frozenset(["chips"])
    many = choose([Need(volume_m3=volume, accepts=accepts) for volume in volumes], [crew, yard], best=1)
    as_one = choose([Need(volume_m3=sum(volumes), accepts=accepts)], [crew, yard], best=1)
    assert many.choices[0].cost == pytest.approx(as_one.choices[0].cost)


def test_nothing_needed_costs_nothing_and_a_looser_limit_is_never_dearer():
    assert choose([], []).choices[0].cost == 0
    crew = SupplySource(key="crew", material="chips", load_m3=8, per_load=40, arrivals=(1,) * 12)
    yard = SupplySource(key="yard", material="chips", load_m3=12, exact=True, per_load=25, per_m3=30)
    need = [Need(volume_m3=30, accepts=frozenset(["chips"]))]
    costs = [choose(need, [crew, yard], Limits(months=tuple(range(months)))).choices[0].cost for months in (4, 8, 12)]
    assert costs == sorted(costs, reverse=True)


def test_with_nothing_there_all_stays_missing():
    shares = allocate([Want(plot=need, needs_m3=need, accepts=frozenset(["chips"])) for need in (2, 3)], {"chips": 0.0})
    assert [share.short_m3 for share in shares.shares] == [2, 3]
    assert shares.over_m3 == 0


@pytest.mark.parametrize(
    ("text", "system", "grams"),
    [
        ("8", UnitSystem.US, 8 * 453.59237 / 92.90304),
        ("8", UnitSystem.METRIC, 8),
        ("30 g/m²", UnitSystem.US, 30),
        ("6,5 lb/1,000 sq ft", UnitSystem.METRIC, 6.5 * 453.59237 / 92.90304),
    ],
)
def test_a_dressing_is_typed_as_its_label_says(text, system, grams):
    with bare_numbers_in(system):
        assert Fed(n=0.1, grams_m2=text).grams_m2 == pytest.approx(grams)


@pytest.mark.parametrize("text", ["", "a bag", "8 lb", "-3", "8 lb/acre"])
def test_what_is_no_dressing_is_said_at_the_field(text):
    with pytest.raises(ValidationError, match="Type it like 30 g/m2 or 6 lb/1000 sq ft"):
        Fed(n=0.1, grams_m2=text)
