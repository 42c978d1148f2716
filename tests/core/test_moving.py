"""Moving it: carriers that fit, legs worked by hand, the order of plots, and a second tip that pays."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from ulmatic.core.materials import CATALOGUE
from ulmatic.core.stock.pile_shape import tip_plan
from ulmatic.core.stock.receipt import CountedBarrows, MeasuredPile, Stated, Weighed, measured_volume
from ulmatic.core.work.carriers import CarrierKind
from ulmatic.core.work.fleet import USUAL_WALK, Fleet, Walk
from ulmatic.core.work.laying_order import Job, in_order
from ulmatic.core.work.moving import TIPPED, LoadingPlace, move, second_tip
from ulmatic.core.work.rates import FORK, PARAMETERS, SCOOP, SPREAD

ALL = tuple(CarrierKind)


def moved_by(walk, surface="hard"):
    """Return the carrier that brings 2 m³ over a walk, and its hours."""
    tips = [LoadingPlace(key="tip", name="Tip", surface=surface, available_m3=9)]
    (leg,) = move(tips, {"bed": 2.0}, {("tip", "bed"): walk}, Fleet(kinds=ALL)).legs
    return leg.carrier


def test_the_fastest_that_fits_is_taken():
    assert moved_by(Walk(walk_m=60, width_m=2.0)) is CarrierKind.LOADER
    assert moved_by(Walk(walk_m=60, width_m=1.1)) is CarrierKind.CART
    assert moved_by(Walk(walk_m=60, width_m=0.3)) is None
    walk = Walk(walk_m=40)
    for kind in ALL:
        assert Fleet(kinds=ALL).minutes_per_m3(walk, "soft") <= Fleet(kinds=(kind,)).minutes_per_m3(walk, "soft")


def test_an_unknown_walk_is_taken_as_usual_and_said():
    (leg,) = move([LoadingPlace(key="tip", name="Tip", available_m3=9)], {"bed": 1.0}, {}, Fleet()).legs
    assert leg.walk == USUAL_WALK
    assert "not known" in leg.figure().working.note
    assert all(figure.low <= figure.value <= figure.high for figure in PARAMETERS)


@given(st.floats(0.1, 50), st.floats(0.05, 0.5), st.floats(0, 500), st.floats(0, 50))
def test_more_of_anything_never_takes_less(volume, barrow, walk, climb):
    def hours(volume, walk, climb):
        place = [LoadingPlace(key="tip", name="Tip", available_m3=99)]
        paths = {("tip", "bed"): Walk(walk_m=walk, climb_m=climb)}
        return move(place, {"bed": volume}, paths, Fleet(barrow_m3=barrow)).hours.value

    base = hours(volume, walk, climb)
    assert hours(volume + 1, walk, climb) >= base
    assert hours(volume, walk + 10, climb) >= base
    assert hours(volume, walk, climb + 1) >= base
    assert base > 0


def test_a_leg_worked_by_hand():
    moved = move(
        [LoadingPlace(key="yard", name="Yard", available_m3=9)],
        {"bed": 2.0},
        {("yard", "bed"): Walk(walk_m=30, climb_m=1)},
        Fleet(barrow_m3=0.1),
    )
    (leg,) = moved.legs
    assert (leg.trips, leg.walked_m, leg.carrier) == (20, 1200, "barrow")
    assert leg.hours.value == pytest.approx((2 * (SCOOP.value + SPREAD.value) + 20 * (60 + 10) / 50) / 60)
    assert leg.hours.low < leg.hours.value < leg.hours.high
    assert leg.figure().value == pytest.approx(leg.hours.value)
    assert moved.hours.value == leg.hours.value


def test_the_nearer_pile_serves_until_it_is_gone():
    places = [
        LoadingPlace(key="pile", name="Pile", available_m3=3),
        LoadingPlace(key="tip", name="Tip", available_m3=100),
    ]
    walks = {
        ("pile", "near"): Walk(walk_m=5),
        ("tip", "near"): Walk(walk_m=50),
        ("pile", "far"): Walk(walk_m=80),
        ("tip", "far"): Walk(walk_m=90),
    }
    moved = move(places, {"near": 4.0, "far": 2.0}, walks, Fleet())
    flows = {(leg.place, leg.plot): leg.volume_m3 for leg in moved.legs}
    assert flows == pytest.approx({("pile", "near"): 3, ("tip", "near"): 1, ("tip", "far"): 2})


def test_a_pile_that_a_plot_does_not_take_is_left_alone():
    places = [
        LoadingPlace(key="pile", name="Pile", available_m3=9),
        LoadingPlace(key="tip", name="Tip", available_m3=9),
    ]
    walks = {("pile", "bank"): Walk(walk_m=1), ("tip", "bank"): Walk(walk_m=99)}
    moved = move(places, {"bank": 4.0}, walks, Fleet(), barred={("pile", "bank")})
    assert [leg.place for leg in moved.legs] == ["tip"]
    none = move(places[:1], {"bank": 4.0}, walks, Fleet(), barred={("pile", "bank")})
    assert none.legs == ()


def test_what_is_tipped_can_be_tipped_at_either_tip_but_only_once():
    tips = [LoadingPlace(key=key, name=key, available_m3=3, pool=TIPPED) for key in ("gate", "lane")]
    walks = {
        (tip, plot): Walk(walk_m=metres)
        for tip, plot, metres in (
            ("gate", "north", 5),
            ("gate", "south", 80),
            ("lane", "north", 80),
            ("lane", "south", 5),
        )
    }
    moved = move(tips, {"north": 2.0, "south": 2.0}, walks, Fleet())
    assert sum(leg.volume_m3 for leg in moved.legs) == pytest.approx(3)
    assert {(leg.place, leg.plot) for leg in moved.legs} == {("gate", "north"), ("lane", "south")}


def test_where_nothing_fits_it_is_said_and_reckoned_by_hand():
    (leg,) = move(
        [LoadingPlace(key="tip", name="Tip", available_m3=9)],
        {"yard": 1.0},
        {("tip", "yard"): Walk(width_m=0.4)},
        Fleet(kinds=ALL),
    ).legs
    assert leg.carrier is None
    assert leg.trips == 10


def test_filling_from_grass_takes_the_fork():
    def hours(surface):
        place = LoadingPlace(key="tip", name="Tip", surface=surface, available_m3=9)
        return move([place], {"bed": 6.0}, {("tip", "bed"): Walk(walk_m=20)}, Fleet()).hours.value

    assert hours("soft") - hours("hard") == pytest.approx(6 * (FORK.value - SCOOP.value) / 60)


@given(
    st.dictionaries(st.sampled_from("abcdef"), st.floats(0.1, 9), min_size=1), st.lists(st.floats(1, 90), min_size=12)
)
def test_every_plot_gets_what_it_wants_where_there_is_enough(needs, metres):
    places = [
        LoadingPlace(key="north", name="N", available_m3=60),
        LoadingPlace(key="south", name="S", available_m3=60),
    ]
    pairs = [(place.key, plot) for place in places for plot in "abcdef"]
    walks = {pair: Walk(walk_m=length) for pair, length in zip(pairs, metres, strict=False)}
    moved = move(places, needs, walks, Fleet())
    for plot, volume in needs.items():
        assert sum(leg.volume_m3 for leg in moved.legs if leg.plot == plot) == pytest.approx(volume)


def square(x, y, side=4.0):
    return (((x, y), (x + side, y), (x + side, y + side), (x, y + side)),)


def test_farthest_first():
    turns = in_order([Job(plot="near", walk_m=5), Job(plot="far", walk_m=50), Job(plot="middle", walk_m=20)])
    assert [turn.plot for turn in turns] == ["far", "middle", "near"]


def test_a_path_waits_until_nobody_has_to_walk_over_it():
    # The path is itself the farthest, but the walk to the bed leads over it.
    path = Job(plot="path", walk_m=60, walk=((0, 0), (10, 0)), outline=square(10, -2, 20))
    bed = Job(plot="bed", walk_m=40, walk=((0, 0), (40, 0)), outline=square(38, -2))
    turns = in_order([path, bed])
    assert [turn.plot for turn in turns] == ["bed", "path"]
    assert turns[0].before == ("path",)
    assert all(turn.crosses == () for turn in turns)


def test_where_each_waits_for_the_other_boards_are_laid():
    first = Job(plot="one", walk_m=30, walk=((0, 0), (30, 0)), outline=square(8, -2))
    other = Job(plot="other", walk_m=20, walk=((0, 0), (10, 0)), outline=square(20, -2))
    turns = in_order([first, other])
    assert [turn.plot for turn in turns] == ["one", "other"]
    assert turns[1].crosses == ("one",)


def test_passing_by_an_edge_is_no_crossing():
    by = Job(plot="by", walk_m=30, walk=((0, 0), (30, 0)), outline=square(28, -2))
    passing = Job(plot="beside", walk_m=40, walk=((0, 9), (1, 9)), outline=square(8, 0))
    assert [turn.plot for turn in in_order([by, passing])] == ["beside", "by"]


@given(st.lists(st.tuples(st.floats(1, 99), st.floats(-40, 40), st.floats(-40, 40)), min_size=1, max_size=9))
def test_every_plot_has_one_turn(plots):
    jobs = [
        Job(plot=index, walk_m=walk, walk=((0, 0), (x, y)), outline=square(x - 2, y - 2))
        for index, (walk, x, y) in enumerate(plots)
    ]
    turns = in_order(jobs)
    assert sorted(turn.plot for turn in turns) == list(range(len(plots)))
    assert not set(turns[-1].before), "the last one crosses nothing that is still to be laid"


def test_a_second_tip_is_suggested_where_it_pays():
    places, needs = [LoadingPlace(key="gate", name="Gate", available_m3=99, pool=TIPPED)], {"far": 20.0, "near": 5.0}
    walks = {("gate", "far"): Walk(walk_m=200), ("gate", "near"): Walk(walk_m=10)}
    spots = {"back lane": {"far": Walk(walk_m=15), "near": Walk(walk_m=190)}, "side": {"far": Walk(walk_m=150)}}
    second = second_tip(places, needs, walks, spots, Fleet())
    assert second.place == "back lane"
    # 200 trips, each 2 × 185 m shorter at 50 m a minute.
    assert second.saves_h == pytest.approx(200 * 370 / 50 / 60)
    assert second_tip(places, {"near": 5.0}, walks, spots, Fleet()) is None
    assert second_tip(places, needs, walks, {}, Fleet()) is None


def test_a_pile_keeps_its_distance_from_a_wall():
    plan = tip_plan("Yard", 6, 8, 5, to_wall_m=0.2)
    assert plan.wall_m == pytest.approx(0.2 + (5 - plan.stand.width_m) / 2)
    assert plan.clear is (plan.wall_m >= 1)
    assert tip_plan("Yard", 6, 8, 5, to_wall_m=2).clear
    assert tip_plan("Yard", 6, 8, 5, to_wall_m=None).clear is None
    assert not tip_plan("Verge", 40, 3, 3, None).fits


def test_what_came_is_measured_by_tape_barrows_weight_or_word():
    chips = CATALOGUE["arborist_leafy"]
    cone = measured_volume(MeasuredPile(width_m=4, height_m=1.5), chips)
    assert cone.value == pytest.approx(3.141592653589793 * 4 * 1.5 / 3)
    ridge = measured_volume(MeasuredPile(width_m=4, height_m=1.5, ridge_m=2), chips)
    assert ridge.value - cone.value == pytest.approx(4 * 1.5 / 2 * 2)
    assert measured_volume(CountedBarrows(barrows=30, barrow_m3=0.1), chips).value == pytest.approx(3)
    weighed = measured_volume(Weighed(mass_kg=1000), chips)
    assert weighed.value == pytest.approx(1000 / (180 / 0.55))
    assert weighed.low < weighed.value < weighed.high
    assert measured_volume(Stated(volume_m3=5), chips).value == 5
