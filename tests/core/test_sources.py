"""Kinds of suppliers: what likely to come, what binds, and amounts of money as people type them."""

import math
from datetime import date

import pytest
from hypothesis import given
from hypothesis import strategies as st
from pydantic import TypeAdapter, ValidationError

from ulmatic.core.materials import material_of
from ulmatic.core.supply import programme
from ulmatic.core.supply.choice import Choice, Need, Purchase, SupplySource
from ulmatic.core.supply.choosing import choose
from ulmatic.core.supply.suppliers import (
    ALL_YEAR,
    COUNTED_ON,
    Arborist,
    Bags,
    Chipper,
    Merchant,
    Own,
    Yard,
    counted_in,
    counted_on,
    months_ahead,
    price_of_m3,
)
from ulmatic.core.supply.wording import amount, tell_apart
from ulmatic.core.units import Money, MoneyPerVolume, UnitSystem, bare_numbers_in

CREW = {"material": "arborist_leafy", "least_m3": 7, "likely_m3": 10, "most_m3": 13}


def at_least(k: int, n: int, p: float) -> float:
    """P(k or more of n) by counting."""
    return math.fsum(math.comb(n, i) * p**i * (1 - p) ** (n - i) for i in range(k, n + 1))


@given(st.integers(1, 12), st.floats(0.01, 0.99))
def test_loads_that_are_counted_on_come_with_that_certainty_and_one_more_would_not(months, chance):
    loads = counted_on(months, chance)
    assert 0 <= loads <= months
    assert at_least(loads, months, chance) >= COUNTED_ON - 1e-9
    if loads < months:
        assert at_least(loads + 1, months, chance) < COUNTED_ON + 1e-9


def test_a_crew_that_always_or_never_comes():
    assert counted_on(6, 1.0) == 6
    assert counted_on(6, 0.0) == counted_on(0, 0.5) == 0


def test_a_crew_counts_by_the_mean_of_its_loads_and_in_its_months():
    source = Arborist(**CREW, chance=0.5, months=(11, 12, 1)).offer("crew", (11, 12, 1, 2), 300)
    assert source.load_m3 == pytest.approx(10)
    assert source.loads_at_most == counted_on(3, 0.5)
    assert [month + 1 for month, loads in enumerate(source.arrivals) if loads] == [1, 11, 12]
    assert source.pile_m3 == 13, "the tip must take the largest load"


def test_payload_binds_before_the_trailer_is_full():
    yard = Yard(material="compost", trailer_m3=2, payload_kg=500, per_m3=10, per_trip=5)
    light, heavy = (yard.offer("yard", ALL_YEAR, density) for density in (200, 500))
    assert (light.holds_m3, heavy.holds_m3) == (2, 1)
    best = choose([Need(volume_m3=3.5, accepts=frozenset(["compost"]))], [heavy]).choices[0]
    assert best.purchases[0].loads == 4
    assert best.cost == pytest.approx(3.5 * 10 + 4 * 5)


def test_a_chipper_is_hired_by_the_day_as_long_as_there_is_brush():
    source = Chipper(material="ramial", day_m3=8, brush_m3=20, per_day=150).offer("hire", ALL_YEAR, 300)
    assert (source.loads_at_most, source.load_m3 * source.loads_at_most) == (3, pytest.approx(20))
    hired = Chipper(material="ramial", day_m3=8, brush_m3=5, per_day=150).offer("hire", ALL_YEAR, 300)
    assert (hired.loads_at_most, hired.load_m3) == (1, 5)


def test_own_prunings_come_once_and_cost_nothing():
    source = Own(material="ramial", year_m3=3, months=(1, 2)).offer("own", ALL_YEAR, 300)
    best = choose([Need(volume_m3=2, accepts=frozenset(["ramial"]))], [source]).choices[0]
    assert (best.cost, best.volume_m3) == (0, pytest.approx(2))
    assert choose([Need(volume_m3=4, accepts=frozenset(["ramial"]))], [source]).nearest.short_m3 == pytest.approx(1)


@pytest.mark.parametrize(
    ("kind", "entry", "field"),
    [
        (Arborist, CREW | {"least_m3": 11}, "least_m3"),
        (Arborist, CREW | {"most_m3": 9}, "most_m3"),
        (Merchant, {"material": "x", "truck_m3": 5, "minimum_m3": 6, "per_m3": 1}, "minimum_m3"),
        (Bags, {"material": "x", "bag_m3": 0, "per_bag": 1}, "bag_m3"),
        (Bags, {"material": "x", "bag_m3": 1, "per_bag": -1}, "per_bag"),
        (Own, {"material": "x", "year_m3": 1, "months": []}, "months"),
        (Own, {"material": "x", "year_m3": 1, "months": [13]}, "months"),
    ],
)
def test_terms_that_make_no_sense_are_refused_at_their_field(kind, entry, field):
    with pytest.raises(ValidationError) as caught:
        kind(**entry)
    error = caught.value.errors()[0]
    assert field in (*error["loc"], error.get("ctx", {}).get("field"))


def test_months_ahead_start_now_and_end_with_the_date_wanted():
    assert months_ahead(date(2026, 11, 25), date(2027, 2, 1)) == (11, 12, 1, 2)
    assert months_ahead(date(2026, 11, 25), date(2026, 11, 26)) == (11,)
    assert months_ahead(date(2026, 11, 25), date(2026, 10, 1)) == ()
    assert len(months_ahead(date(2026, 11, 25), None)) == len(months_ahead(date(2026, 1, 1), date(2029, 1, 1))) == 12


money, per_volume = TypeAdapter(Money), TypeAdapter(MoneyPerVolume)


@pytest.mark.parametrize(
    ("typed", "amount"),
    [
        ("40", 40),
        ("12.50", 12.5),
        ("12,50", 12.5),
        ("1,250", 1250),
        ("1.250,50", 1250.5),
        ("$3.50", 3.5),
        ("€ 28", 28),
        ("28 EUR", 28),
        ("1 250", 1250),
        ("0", 0),
        ("0.125", 0.125),
        (7, 7),
    ],
)
def test_money_is_read_as_people_type_it(typed, amount):
    assert money.validate_python(typed) == pytest.approx(amount)


@pytest.mark.parametrize("typed", ["", "much", "-3", "1.2.3", "1e5", "12 apples", "99999999999"])
def test_what_is_no_money_gets_a_sentence(typed):
    with pytest.raises(ValidationError):
        money.validate_python(typed)


def test_a_price_is_for_a_cubic_metre_or_a_yard():
    assert per_volume.validate_python("28 / m3") == 28
    assert per_volume.validate_python("35 per yard") == pytest.approx(35 / 0.764554857984)
    with bare_numbers_in(UnitSystem.US):
        assert per_volume.validate_python("35") == pytest.approx(35 / 0.764554857984)


def choice(cost, over_m3=0.0, enough=1.0, **volumes):
    bought = [Purchase(source=key, loads=loads, volume_m3=volume, cost=0) for key, (loads, volume) in volumes.items()]
    return Choice(purchases=tuple(bought), cost=cost, volume_m3=0, left_over_m3=over_m3, enough=enough)


def test_choices_are_told_apart_in_words():
    names = {"crew": ("Two Saws", "arborist"), "bulk": ("Quarry", "merchant")}
    best = choice(20, 1.0, crew=(2, 20.0))
    other = choice(140.5, 0.2, 0.6, crew=(1, 10.0), bulk=(1, 7.5))
    assert tell_apart(best, other, names) == (
        "1 load fewer from Two Saws and {7.5 m3} more from Quarry: it costs {120.50 money} more, "
        "and leaves {0.8 m3} less over; it is 60 % chance it is enough."
    )
    assert tell_apart(best, choice(20, 1.0, crew=(2, 20.0)), names) == "The same amounts: it costs the same."


def test_amounts_are_said_by_kind():
    bought = Purchase(source="x", loads=2, volume_m3=7.5, cost=0)
    assert amount(bought, "yard") == "{7.5 m3} in 2 trips"
    assert amount(bought, "arborist") == "2 loads"
    assert amount(bought, "own") == "{7.5 m3}"
    assert amount(bought.model_copy(update={"loads": 1}), "chipper") == "1 day"


@pytest.mark.parametrize(
    ("species", "month", "key"),
    [
        (["Lime", "Maple"], 7, "arborist_leafy"),
        (["lime"], 12, "arborist_bare"),
        (["Scots pine"], 7, "conifer_needles"),
        (["pine", "spruce", "ash"], 1, "conifer_needles"),
        (["pine", "ash"], 1, "arborist_bare"),
        (["ash", "black walnut"], 6, "walnut"),
        (["blue gum"], 6, "eucalyptus"),
        ([], 3, "arborist_bare"),
    ],
)
def test_species_tell_what_the_chips_are(species, month, key):
    assert material_of(species, month) == key


@given(st.floats(0.05, 1), st.lists(st.integers(1, 12), min_size=1, max_size=12, unique=True).map(sorted))
def test_what_comes_unasked_is_there_by_the_month_in_which_it_is_sure(chance, months):
    crew = Arborist(**CREW, chance=chance, months=tuple(months))
    counted = counted_in(crew, ALL_YEAR)
    assert set(counted) <= set(months)
    for month in ALL_YEAR:
        so_far = sum(volume for sure_month, volume in counted.items() if sure_month <= month)
        assert so_far == pytest.approx(10 * counted_on(sum(counted_month <= month for counted_month in months), chance))


def test_own_prunings_come_evenly_and_what_is_sold_comes_when_it_is_asked_for():
    pile = Own(material="ramial", year_m3=12, months=(1, 2, 12))
    assert counted_in(pile, ALL_YEAR) == {1: 4, 2: 4, 12: 4}
    assert counted_in(pile, (11, 12)) == {12: 4}, "of this year only what is left of it"
    bulk = Merchant(material="ramial", truck_m3=15, per_m3=30, per_load=60)
    assert counted_in(bulk, ALL_YEAR) == {}


def test_a_cubic_metre_costs_its_part_of_a_whole_load():
    assert price_of_m3(Merchant(material="ramial", truck_m3=15, per_m3=30, per_load=60)) == pytest.approx(34)
    assert price_of_m3(Yard(material="compost", trailer_m3=2, payload_kg=500, per_m3=10, per_trip=5)) == 12.5
    assert price_of_m3(Arborist(**CREW, per_load=80)) == pytest.approx(8)
    assert price_of_m3(Arborist(**CREW, per_load=80, chance=0.0)) is None
    assert price_of_m3(Own(material="ramial", year_m3=12)) is None


def test_among_a_hundred_sources_the_search_is_bounded_and_says_so(monkeypatch):
    """With few sources every other choice is tried; with many a number of searches, the likeliest first."""
    searches = []
    solve = programme.Programme.solve

    def counted(self, *args, **more):
        searches.append(1)
        return solve(self, *args, **more)

    monkeypatch.setattr(programme.Programme, "solve", counted)
    needs = [Need(volume_m3=120, accepts=frozenset(["chips"]))]
    sources = [
        SupplySource(
            key=str(number),
            material="chips",
            load_m3=5 + number % 17,
            per_m3=20 + number % 13 + number / 100,
            per_load=40 + number % 29,
            arrivals=(10,) * 12,
        )
        for number in range(100)
    ]
    few, many = choose(needs, sources[:5]), choose(needs, sources)
    assert few.complete
    assert not many.complete
    assert len(searches) < 200
    costs = [choice.cost for choice in many.choices]
    assert costs == sorted(costs)
    assert len(costs) == 3
    assert costs[0] <= few.choices[0].cost
    assert many.choices[0].gap < 1e-6, "the best itself is found"


def test_a_search_that_is_stopped_gives_the_best_found_with_its_gap(monkeypatch):
    monkeypatch.setattr(programme, "MOST_NODES", 0)
    needs = [Need(volume_m3=97.3 + number, accepts=frozenset(["chips"])) for number in range(3)]
    sources = [
        SupplySource(
            key=str(number),
            material="chips",
            load_m3=3 + number * 0.71,
            per_load=31 + number * 17.3 % 23,
            arrivals=(3,) * 12,
        )
        for number in range(40)
    ]
    choice = choose(needs, sources, best=1).choices[0]
    assert choice.short_m3 == 0
    assert 0 <= choice.gap < 0.5
