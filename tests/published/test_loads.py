"""Load choice against brute force, certainty against the Irwin–Hall distribution, piles against textbook solids."""

import itertools
import math

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.integrate import dblquad

from tests.conftest import examples
from ulmatic.core.stock.load_size import LoadSize
from ulmatic.core.stock.pile_shape import cone_volume, fits, holds, measured_pile, stand
from ulmatic.core.supply.allocate import Want, allocate, one_more
from ulmatic.core.supply.certainty import at_least, certainty, chance_enough, chance_of_sum
from ulmatic.core.supply.choice import MONTHS, Limits, Need, SupplySource
from ulmatic.core.supply.choosing import choose


def irwin_hall(x: float, n: int) -> float:
    """P(sum of n uniforms on [0, 1] ≤ x)."""
    terms = ((-1) ** k * math.comb(n, k) * (x - k) ** n for k in range(math.floor(x) + 1))
    return math.fsum(terms) / math.factorial(n)


@pytest.mark.parametrize("loads", [1, 2, 3, 5])
@pytest.mark.parametrize("part", [0.2, 0.4, 0.5, 0.63, 0.8])
def test_sums_of_even_triangular_loads_are_sums_of_twice_as_many_uniforms(loads, part):
    size = LoadSize(least_m3=4, likely_m3=5, most_m3=6)
    need = loads * 4 + part * loads * 2
    exact = 1 - irwin_hall(part * 2 * loads, 2 * loads)
    assert chance_enough(need, loads, size) == pytest.approx(exact, abs=2e-5)


def test_one_lopsided_load_follows_the_triangle():
    size = LoadSize(least_m3=2, likely_m3=3, most_m3=8)
    assert chance_enough(3, 1, size) == pytest.approx(5 / 6, abs=2e-5)
    assert chance_enough(6, 1, size) == pytest.approx((8 - 6) ** 2 / (6 * 5), abs=2e-5)


sizes = st.lists(st.floats(0.5, 30), min_size=3, max_size=3).map(sorted)


@given(sizes, st.floats(1, 200))
def test_more_loads_are_surer_and_surety_asks_for_more_loads(three, need):
    size = LoadSize(least_m3=three[0], likely_m3=three[1], most_m3=three[2])
    loads = certainty(need, size)
    if loads is None:
        assert need / size.least_m3 > 500
        return
    chances = [chance.enough for chance in loads.chances]
    assert all(0 <= chance <= 1 for chance in chances)
    assert all(second >= earlier - 1e-6 for earlier, second in itertools.pairwise(chances))
    assert loads.for_50 <= loads.for_80 <= loads.for_95
    assert chance_enough(need, loads.for_95, size) >= 0.95
    assert loads.for_50 == 1 or chance_enough(need, loads.for_50 - 1, size) < 0.5 + 1e-6


def test_loads_of_known_size_are_certain_or_not():
    size = LoadSize(least_m3=5, likely_m3=5, most_m3=5)
    assert (chance_enough(15, 3, size), chance_enough(15.1, 3, size)) == (1, 0)
    assert certainty(15, size).for_95 == 3
    assert certainty(0, size) is None


def brute(needs, sources, limits):
    """Return the cheapest cost over all whole loads, and how many ways cost that; needs accept everything."""
    total = sum(need.volume_m3 for need in needs)
    tops = []
    for source in sources:
        top = sum(source.arrivals[month] for month in limits.months)
        tops.append(0 if limits.tip_m3 is not None and source.holds_m3 > limits.tip_m3 else top)
    costs = []
    for loads in itertools.product(*(range(top + 1) for top in tops)):
        volume = sum(n * source.holds_m3 for n, source in zip(loads, sources, strict=True))
        cost = sum(
            n * (source.per_load + source.per_m3 * source.holds_m3) for n, source in zip(loads, sources, strict=True)
        )
        if volume >= total - 1e-9 and (limits.budget is None or cost <= limits.budget + 1e-9):
            costs.append(cost)
    return sorted(costs)


sources = st.lists(
    st.tuples(st.integers(1, 12), st.integers(0, 90), st.integers(0, 20), st.integers(0, 3)), min_size=1, max_size=3
)


@settings(max_examples=examples(60))
@given(sources, st.lists(st.integers(1, 15), min_size=1, max_size=3), st.sampled_from([None, 60, 200]))
def test_the_cheapest_whole_loads_are_found_and_the_next_best_after_them(offered, volumes, budget):
    offers = [
        SupplySource(
            key=str(index), material="chips", load_m3=load, per_load=fee, per_m3=price, arrivals=(each, *[0] * 11)
        )
        for index, (load, fee, price, each) in enumerate(offered)
    ]
    needs = [Need(volume_m3=volume, accepts=frozenset(["chips"])) for volume in volumes]
    limits = Limits(tip_m3=10, budget=budget)
    ways = brute(needs, offers, limits)
    # More loads than one over what any single source would need are never looked at.
    chosen = choose(needs, offers, limits)
    if not ways:
        assert chosen.choices == ()
        assert chosen.binding
        return
    assert chosen.choices[0].cost == pytest.approx(ways[0], abs=1e-3)
    costs = [choice.cost for choice in chosen.choices]
    assert costs == sorted(costs, key=lambda cost: round(cost, 3))
    combinations = {
        tuple((purchase.source, purchase.loads) for purchase in choice.purchases) for choice in chosen.choices
    }
    assert len(combinations) == len(chosen.choices), "each differs from the others"
    for choice in chosen.choices:
        assert choice.volume_m3 >= sum(volumes) - 1e-6


def test_plots_take_only_what_they_accept_and_weight_can_bind_before_volume():
    chips, bark = frozenset(["chips"]), frozenset(["bark"])
    heavy = SupplySource(key="trailer", material="bark", load_m3=4, payload_kg=800, density=400, per_load=30)
    free = SupplySource(key="crew", material="chips", load_m3=10, arrivals=(2,) + (0,) * 11)
    assert heavy.holds_m3 == 2
    best = choose([Need(volume_m3=15, accepts=chips), Need(volume_m3=5, accepts=bark)], [heavy, free]).choices[0]
    assert {purchase.source: purchase.loads for purchase in best.purchases} == {"trailer": 3, "crew": 2}
    assert best.cost == 90
    either = choose([Need(volume_m3=19, accepts=chips | bark)], [heavy, free]).choices[0]
    assert [purchase.source for purchase in either.purchases] == ["crew"]


def test_exact_sources_bring_just_enough_above_their_minimum():
    merchant = SupplySource(key="yard", material="chips", load_m3=20, exact=True, least_m3=3, per_load=50, per_m3=35)
    need = [Need(volume_m3=7.5, accepts=frozenset(["chips"]))]
    best = choose(need, [merchant]).choices[0]
    assert (best.cost, best.volume_m3, best.left_over_m3) == pytest.approx((50 + 7.5 * 35, 7.5, 0))
    assert choose([need[0].model_copy(update={"volume_m3": 1})], [merchant]).choices[0].volume_m3 == pytest.approx(3)
    crew = SupplySource(key="crew", material="chips", load_m3=6, per_load=20)
    mixed = choose(need, [merchant, crew]).choices
    assert {purchase.source: purchase.loads for purchase in mixed[0].purchases} == {"crew": 2}


@pytest.mark.parametrize(
    ("limits", "sentence"),
    [
        (Limits(budget=10), "The budget is too small."),
        (Limits(tip_m3=4), "The tip is too small for"),
        (Limits(months=(0,)), "The date is too early."),
        (Limits(months=(0,), budget=10), "Several limits together"),
    ],
)
def test_what_cannot_be_covered_says_what_binds(limits, sentence):
    crew = SupplySource(key="crew", material="chips", load_m3=10, per_load=25, arrivals=(1,) * MONTHS)
    need = [Need(volume_m3=18, accepts=frozenset(["chips"]))]
    assert choose(need, [crew]).choices[0].cost == 50
    assert sentence in choose(need, [crew], limits).binding
    assert "accepts" in choose([Need(volume_m3=1, accepts=frozenset(["straw"]))], [crew]).binding
    assert choose(need, []).binding


@given(st.floats(0.1, 300))
def test_a_pile_holds_what_was_tipped(volume):
    pile = stand(volume)
    slope = math.tan(math.radians(40))
    if not pile.ridge:
        assert cone_volume(pile.width_m / 2) == pytest.approx(volume)
        assert pile.height_m == pytest.approx(pile.width_m / 2 * slope)
    assert pile.height_m <= 2 + 1e-9
    shape = measured_pile(pile.width_m, pile.height_m, pile.length_m - pile.width_m)
    assert shape.value == pytest.approx(volume)


def test_a_cone_of_one_metre_is_the_textbooks():
    assert cone_volume(1, 45) == pytest.approx(math.pi / 3)
    assert measured_pile(2, 1).value == pytest.approx(math.pi / 3)


@given(st.floats(1, 20), st.floats(1, 20), st.floats(0.05, 1.5))
def test_a_tip_holds_what_fits_and_no_more(length, width, part):
    most = holds(length, width)
    assert fits(most * part, length, width) == (part <= 1 + 1e-9) or part == pytest.approx(1)
    assert holds(width, length) == pytest.approx(most)


def test_too_few_loads_bind_where_the_date_does_not():
    crew = SupplySource(key="crew", material="chips", load_m3=10, per_load=25, arrivals=(1,) * MONTHS, loads_at_most=1)
    need = [Need(volume_m3=18, accepts=frozenset(["chips"]))]
    short = choose(need, [crew])
    assert short.binding == "Too few loads are likely to come in these months."
    assert short.nearest.short_m3 == pytest.approx(8)
    assert [(purchase.source, purchase.loads) for purchase in short.nearest.purchases] == [("crew", 1)]


def test_a_material_that_settles_less_is_worth_more_than_its_volume():
    """Chips settle by 0.22, bark by 0.15: 10 m³ of chips are 10 · 0.78 ÷ 0.85 = 9.18 m³ of bark."""
    bark = SupplySource(key="bark", material="bark", load_m3=20, exact=True, per_m3=10)
    need = Need(volume_m3=10, accepts=frozenset(["chips", "bark"]), yields=(("bark", 0.85 / 0.78),))
    assert choose([need], [bark]).choices[0].volume_m3 == pytest.approx(10 * 0.78 / 0.85)
    assert need.worth("chips") == 1
    assert need.worth("straw") == 0


def test_thirty_five_m3_of_loads_of_seven_to_eleven_are_five_loads_at_four_in_five():
    """Means of (6.7 + 9.2 + 11.5) ÷ 3 = 9.13 m³: four hold 36.5 on average, not at four in five; five always do nearly."""
    size = LoadSize(least_m3=6.7, likely_m3=9.2, most_m3=11.5)
    crew = SupplySource(key="crew", material="chips", load_m3=size.mean_m3, size=size, arrivals=(9,) * MONTHS)
    need = [Need(volume_m3=35.0, accepts=frozenset(["chips"]))]
    assert chance_enough(35.0, 4, size) < 0.8 < chance_enough(35.0, 5, size)
    assert certainty(35.0, size).for_80 == 5
    best = choose(need, [crew], Limits(sure=0.8)).choices[0]
    assert (best.purchases[0].loads, best.short_m3) == (5, 0)


def test_a_choice_can_be_made_surer():
    size = LoadSize(least_m3=6, likely_m3=9, most_m3=12)
    crew = SupplySource(key="crew", material="chips", load_m3=9, size=size, per_load=10, arrivals=(9,) * MONTHS)
    need = [Need(volume_m3=44, accepts=frozenset(["chips"]))]
    loads = {level: choose(need, [crew], Limits(sure=level)).choices[0] for level in (0.5, 0.8, 0.95)}
    for level, choice in loads.items():
        n = choice.purchases[0].loads
        assert choice.enough >= level
        assert choice.enough == pytest.approx(chance_enough(44, n, size))
        assert chance_enough(44, n - 1, size) < level, "no load more than that certainty takes"
    assert loads[0.95].purchases[0].loads > loads[0.5].purchases[0].loads


def test_a_bag_more_is_no_other_choice_and_idle_deliveries_are_none():
    bags = SupplySource(key="bags", material="chips", load_m3=0.05, per_load=5, arrivals=(4000,) * MONTHS)
    merchant = SupplySource(key="bulk", material="chips", load_m3=15, exact=True, per_load=60, per_m3=40)
    choices = choose([Need(volume_m3=20, accepts=frozenset(["chips"]))], [bags, merchant]).choices
    loads_of = [{purchase.source: purchase.loads for purchase in choice.purchases} for choice in choices]
    assert loads_of[0] == {"bulk": 2}
    for other in loads_of[1:]:
        assert abs(other.get("bags", 0) - loads_of[0].get("bags", 0)) * 0.05 >= 2 - 0.05
    assert all(choice.cost >= choices[0].cost - 1e-6 for choice in choices)


@pytest.mark.parametrize("need", [16, 17, 20, 23])
def test_loads_of_two_kinds_add_up_as_an_integral_over_both_says(need):
    small, other = LoadSize(least_m3=6, likely_m3=8, most_m3=12), LoadSize(least_m3=9, likely_m3=10, most_m3=14)

    def density(x, size):
        a, c, b = size.least_m3, size.likely_m3, size.most_m3
        return 2 * (x - a) / ((b - a) * (c - a)) if x < c else 2 * (b - x) / ((b - a) * (b - c))

    exact, _ = dblquad(
        lambda y, x: density(x, small) * density(y, other),
        6,
        12,
        lambda x: min(14.0, max(9.0, need - x)),
        lambda _: 14.0,
    )
    assert chance_of_sum(need, [(1, small), (1, other)]) == pytest.approx(exact, abs=2e-4)
    assert chance_of_sum(need + 3, [(1, small), (1, other)], certain_m3=3) == pytest.approx(exact, abs=2e-4)
    surely = at_least(exact, [(1, small), (1, other)])
    assert surely == pytest.approx(need, abs=0.05)


def wants(*needs):
    return [Want(plot=plot, needs_m3=need, accepts=frozenset(accepts)) for plot, need, accepts in needs]


MATERIALS = st.frozensets(st.sampled_from(["bark", "bare", "leafy"]), min_size=1)


@given(
    st.lists(st.tuples(st.floats(0.1, 20), MATERIALS), max_size=8),
    st.dictionaries(st.sampled_from(["bark", "bare", "leafy"]), st.floats(0, 40)),
)
def test_nothing_is_given_twice_and_nothing_is_lost(needs, available):
    given_out = allocate(wants(*((index, need, accepts) for index, (need, accepts) in enumerate(needs))), available)
    got = sum(share.gets_m3 for share in given_out.shares)
    assert got + given_out.over_m3 == pytest.approx(sum(available.values()), abs=1e-6)
    for share, (need, accepts) in zip(given_out.shares, needs, strict=True):
        assert set(share.gets) <= accepts
        assert 0 <= share.short_m3 <= need + 1e-9
        if not share.covered:
            assert all(given_out.left_m3.get(material, 0) < 1e-6 for material in accepts), (
                "it goes short only of what is gone"
            )


@given(st.lists(st.floats(0.1, 20), max_size=8), st.floats(0, 80))
def test_of_one_material_at_most_one_plot_is_served_in_part(needs, available):
    given_out = allocate(wants(*((index, need, ["chips"]) for index, need in enumerate(needs))), {"chips": available})
    assert given_out.over_m3 == pytest.approx(max(0, available - sum(needs)), abs=1e-6)
    assert sum(0 < share.gets_m3 < share.needs_m3 - 1e-6 for share in given_out.shares) <= 1


def test_priority_goes_first_and_a_small_plot_is_served_whole_before_a_large_one_in_part():
    plots = wants(("track", 8, ["chips"]), ("row", 6, ["chips"]), ("bed", 2, ["chips"]))
    shares = {share.plot: share.gets_m3 for share in allocate(plots, {"chips": 11}).shares}
    assert shares == pytest.approx({"track": 8, "row": 1, "bed": 2})


def test_a_plot_takes_first_what_others_cannot_use():
    plots = wants(("row", 4, ["leafy", "bark"]), ("bank", 4, ["bark"]))
    given_out = allocate(plots, {"bark": 4, "leafy": 4})
    assert [share.gets for share in given_out.shares] == [{"leafy": 4}, {"bark": 4}]
    assert given_out.over_m3 == 0


def test_one_load_more_says_what_it_buys():
    plots = wants(("bed", 2, ["chips"]), ("row", 6, ["chips"]), ("track", 9, ["chips"]))
    more = one_more(plots, {"chips": 3}, "chips", 10)
    assert (more.whole, more.part) == (("row",), "track")
    assert more.over_m3 == pytest.approx(0)
    last = one_more(plots, {"chips": 14}, "chips", 10)
    assert (last.whole, last.part, last.over_m3) == (("track",), None, pytest.approx(7))
    assert one_more(plots, {"chips": 20}, "chips", 10) is None, "nothing is short"
    assert one_more(plots, {"chips": 3}, "bark", 10) is None, "nobody takes it"
