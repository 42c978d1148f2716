import math

import pytest
from hypothesis import given
from hypothesis import strategies as st
from pydantic import ValidationError

from ulmatic.core.survey import SiteConditions, Way, access, routes
from ulmatic.core.units import UnitSystem, bare_numbers_in

TRACK = Way(points_m=[(0, 0), (20, 0)], width_m=2.4, climb_m=2)


def access_of(ends, ways=(), tips=None):
    (route,) = routes(tips or {"yard": (0.0, 3.0)}, list(ways), {"bed": ends}).values()
    return route


def test_a_walk_follows_the_ways_and_counts_what_goes_up_and_the_narrowest():
    garden = Way(points_m="20, 0; 20, 15", width_m="80 cm", climb_m="-1 m")
    route = access_of((22, 10), [TRACK, garden])
    assert (route.to_way_m, route.along_m, route.from_way_m) == pytest.approx((3, 30, 2))
    assert route.climb_m == pytest.approx(2)
    assert route.width_m == 0.8
    assert route.points[-1] == (22, 10)


def test_ways_meet_where_they_cross_and_where_one_ends_beside_the_other():
    crossing = Way(points_m=[(10, -10), (10, 10)], width_m=1)
    assert access_of((10, 9), [TRACK, crossing]).walk_m == pytest.approx(3 + 10 + 9)
    branch = Way(points_m=[(10, 1.3), (10, 10)], width_m=1)
    assert access_of((10, 9), [TRACK, branch]).walk_m == pytest.approx(3 + 10 + 9)
    far_way = Way(points_m=[(30, 8), (30, 20)], width_m=1)
    assert access_of((30, 20), [TRACK, far_way]).walk_m == pytest.approx(math.dist((0, 3), (30, 20))), "straight across"


def test_a_plot_nearer_than_the_ways_is_reached_straight():
    walk = access_of((1, 4), [TRACK])
    assert walk.along_m == 0
    assert walk.width_m is None
    assert walk.walk_m == pytest.approx(math.dist((0, 3), (1, 4)))


def test_the_tip_with_the_shortest_walk_is_taken_and_without_tips_there_is_none():
    tips = {"yard": (0.0, 3.0), "gate": (19.0, 2.0)}
    assert access_of((20, -4), [TRACK], tips).tip == "gate"
    assert access_of((20, -4), (), tips).tip == "gate"
    assert routes({}, [TRACK], {"bed": (0.0, 0.0)}) == {}


coordinates = st.tuples(st.integers(-50, 50), st.integers(-50, 50))


@given(
    st.lists(coordinates, min_size=2, max_size=6, unique=True),
    st.lists(coordinates, min_size=1, max_size=5),
    coordinates,
)
def test_a_walk_is_as_long_as_it_is_drawn_and_never_shorter_than_straight(points, ends, tip):
    if len(set(points)) < 2:
        return
    ways = [Way(points_m=points, width_m=1, climb_m=-3), Way(points_m=[(-50, 0), (50, 0)], width_m=2)]
    by_name = {f"end {number}": point for number, point in enumerate(ends)}
    for name, route in routes({"yard": tip}, ways, by_name).items():
        drawn = sum(math.dist(a, b) for a, b in zip(route.points, route.points[1:], strict=False))
        assert route.walk_m == pytest.approx(drawn, abs=0.01)
        assert route.walk_m >= math.dist(tip, by_name[name]) - 1e-6
        assert 0 <= route.climb_m <= 3 + 1e-9


def test_what_was_noted_goes_before_the_plan():
    route = access_of((22, 10), [TRACK])
    measured = access(SiteConditions(), route, str)
    assert measured.tip == "yard"
    assert measured.walk.value == pytest.approx(route.walk_m)
    assert measured.width.value == 2.4
    noted = access(SiteConditions(walk_m="55 m", way_width_m="90 cm"), route, str)
    assert (noted.walk.value, noted.width.value, noted.climb.value) == (55, 0.9, pytest.approx(route.climb_m))
    assert (noted.tip, noted.points) == (None, ())
    assert access(SiteConditions(), None, str).walk is None


@pytest.mark.parametrize(
    ("points", "sentence"),
    [
        ("0,0", "at least two points"),
        ("0,0; 0,0", "are the same"),
        ("0,0; 1e9,3", "not a length"),
        ("0,0; far", "needs two numbers"),
    ],
)
def test_a_way_that_leads_nowhere_is_refused(points, sentence):
    with bare_numbers_in(UnitSystem.US), pytest.raises(ValidationError, match=sentence):
        Way(points_m=points, width_m="3")
