"""Days of work: capacity, order, deliveries, closures, and what a change breaks."""

import itertools
from datetime import date, timedelta
from uuid import UUID

import pytest
from benchmarks.days import lateness, plain_days
from hypothesis import given
from hypothesis import strategies as st

from tests.core.sites import TODAY
from ulmatic.core.schedule import Closure, closed_days
from ulmatic.core.work import TASKS, Crew, Task, schedule_days
from ulmatic.core.work.calendar import BreakKind, Crossing, breaks_of
from ulmatic.core.work.tasks import in_order

CLOSES = date(2026, 12, 20)
PLANNED = [kind for kind in TASKS if kind != "own"]


def task(plot_number: int, kind: str, hours: float, not_before: date | None = None) -> Task:
    return Task(UUID(int=plot_number), kind, 1.0, "m2", said_h=hours, tools=TASKS[kind].tools, not_before=not_before)


jobs = st.lists(
    st.lists(
        st.tuples(st.sampled_from(PLANNED), st.floats(0.05, 30)), min_size=1, max_size=6, unique_by=lambda pair: pair[0]
    ),
    min_size=1,
    max_size=8,
)
next_days = st.integers(0, 25).map(lambda days: TODAY + timedelta(days=days))
crews = st.builds(
    Crew,
    people=st.integers(1, 4),
    hours=st.floats(2, 8),
    closed=st.dictionaries(next_days, st.just("Nesting"), max_size=6),
    people_on=st.dictionaries(next_days, st.integers(0, 6), max_size=6),
)
waits = st.lists(st.none() | next_days, min_size=8, max_size=8)


def laid_out(drawn, waiting) -> list[list[Task]]:
    return [
        in_order([task(number, kind, hours, waiting[number - 1]) for kind, hours in jobs])
        for number, jobs in enumerate(drawn, 1)
    ]


@given(jobs, crews, waits)
def test_nobody_is_over_capacity_and_everything_is_done_in_its_order(drawn, hands, waiting):
    plots = laid_out(drawn, waiting)
    days = schedule_days(plots, hands, TODAY, CLOSES)
    assert all(day.hours <= hands.capacity(day.on) + 1e-6 for day in days)
    shares: dict[str, float] = {}
    ends: dict[str, date] = {}
    begins: dict[str, date] = {}
    for day in days:
        assert day.on not in hands.closed
        for stint in day.stints:
            shares[stint.task.key] = shares.get(stint.task.key, 0.0) + stint.share
            begins.setdefault(stint.task.key, day.on)
            ends[stint.task.key] = day.on
    assert all(abs(share - 1) < 1e-6 for share in shares.values())
    assert len(shares) == sum(map(len, plots))
    for plot in plots:
        for before, after in itertools.pairwise(plot):
            assert TASKS[before.kind].place < TASKS[after.kind].place
            assert ends[before.key] <= begins[after.key], "never compost after chips, never chips before cardboard"
    assert not [broken for broken in breaks_of(plots, days, hands, CLOSES) if broken.kind is not BreakKind.LATE]


@given(jobs, crews, waits)
def test_it_is_never_later_than_a_plain_greedy_schedule(drawn, hands, waiting):
    plots = laid_out(drawn, waiting)
    days = schedule_days(plots, hands, TODAY, CLOSES)
    assert lateness(days, CLOSES) <= lateness(plain_days(plots, hands, TODAY, CLOSES), CLOSES) + 1e-3


@given(jobs, crews, st.lists(next_days, min_size=1, max_size=4))
def test_only_what_was_put_on_a_day_by_hand_breaks_anything(drawn, hands, wishes):
    plots = laid_out(drawn, [None] * 8)
    keys = [piece.key for plot in plots for piece in plot]
    fixed = dict(zip(keys, wishes, strict=False))
    moved = Crew(people=hands.people, hours=hands.hours, closed=hands.closed, people_on=hands.people_on, fixed=fixed)
    days = schedule_days(plots, moved, TODAY, CLOSES)
    on = {stint.task.key: day.on for day in days for stint in day.stints}
    assert all(on[key] == day for key, day in fixed.items())
    for broken in breaks_of(plots, days, moved, CLOSES):
        if broken.kind in (BreakKind.CAPACITY, BreakKind.CLOSED, BreakKind.SUNDAY):
            assert broken.on in fixed.values()
        elif broken.kind is BreakKind.ORDER:
            assert {piece.plot_id for plot in plots for piece in plot if piece.key in fixed} >= {broken.task.plot_id}


def test_what_waits_for_a_delivery_lets_others_go_first():
    comes = TODAY + timedelta(days=8)
    plots = [[task(1, "clear", 1), task(1, "chips", 2, comes)], [task(2, "chips", 3)]]
    days = schedule_days(plots, Crew(people=1, hours=6), TODAY, CLOSES)
    on = {stint.task.key: day.on for day in days for stint in day.stints}
    assert on[plots[1][0].key] == TODAY
    assert on[plots[0][1].key] >= comes


def test_no_plot_is_begun_in_the_last_minutes_of_a_day_but_where_the_season_is_short():
    plots = [[task(1, "chips", 5.8)], [task(2, "chips", 6.1)], [task(3, "clear", 0.1)]]

    def begins(closes: date) -> dict[int, date]:
        days = schedule_days(plots, Crew(people=1, hours=6), TODAY, closes)
        return {stint.task.plot_id.int: day.on for day in reversed(days) for stint in day.stints}

    tomorrow = TODAY + timedelta(days=1)
    assert begins(CLOSES) == {1: TODAY, 2: tomorrow, 3: TODAY}, "what fits into the minutes left is done in them"
    assert begins(tomorrow)[2] == TODAY


def broken_by(**more) -> dict[BreakKind, str]:
    tasks = [task(1, "sheet", 2), task(1, "chips", 3, date(2026, 12, 3))]
    hands = Crew(people=1, hours=4, **more)
    days = schedule_days([tasks], hands, TODAY, CLOSES)
    return {broken.kind: broken.words for broken in breaks_of([tasks], days, hands, CLOSES)}


CHIPS = f"{UUID(int=1)} chips"
SHEET = f"{UUID(int=1)} sheet"


@pytest.mark.parametrize(
    ("more", "kind", "words"),
    [
        ({"fixed": {CHIPS: TODAY}}, BreakKind.DELIVERY, "the load is expected on 3 December only"),
        ({"fixed": {SHEET: date(2026, 12, 7)}, "people_on": {date(2026, 12, 7): 0}}, BreakKind.SUNDAY, "Nobody works"),
        ({"fixed": {CHIPS: date(2026, 12, 28)}}, BreakKind.LATE, "The season closes on 20 December"),
        ({"fixed": {CHIPS: date(2026, 12, 8)}, "closed": {date(2026, 12, 8): "Nesting"}}, BreakKind.CLOSED, "Nesting"),
        (
            {"fixed": {CHIPS: date(2026, 12, 8), SHEET: date(2026, 12, 8)}},
            BreakKind.CAPACITY,
            "5.0 person-hours on this day; there are 4.0",
        ),
        (
            {"fixed": {CHIPS: date(2026, 12, 4), SHEET: date(2026, 12, 8)}},
            BreakKind.ORDER,
            "comes before “Lay cardboard” is done",
        ),
    ],
)
def test_what_a_move_breaks_is_said_in_words(more, kind, words):
    assert words in broken_by(**more)[kind]


def test_a_plot_is_laid_before_one_that_the_way_to_it_crosses():
    far_task, near_by = task(1, "chips", 2), task(2, "chips", 2)
    crossing = Crossing(far_task.plot_id, near_by.plot_id, "The way to Far crosses Near, which is laid by then.")
    hands = Crew(people=1, hours=4, fixed={far_task.key: date(2026, 12, 3), near_by.key: date(2026, 12, 1)})
    days = schedule_days([[far_task], [near_by]], hands, TODAY, CLOSES)
    [broken] = breaks_of([[far_task], [near_by]], days, hands, CLOSES, [crossing])
    assert (broken.kind, broken.on) == (BreakKind.WAY, date(2026, 12, 3))
    assert breaks_of([[far_task], [near_by]], days, hands, CLOSES) == []


def test_nothing_is_broken_by_the_plan_itself():
    assert broken_by() == {}


def test_a_closure_comes_every_year_where_it_is_said_to():
    nesting = Closure(name="Nesting", first=date(2024, 3, 15), last=date(2024, 6, 15), yearly=True)
    turn = Closure(name="Holidays", first=date(2026, 12, 24), last=date(2027, 1, 2))
    closed = closed_days((nesting, turn), date(2026, 12, 30), date(2027, 3, 20))
    assert closed[date(2027, 1, 2)] == "Holidays"
    assert date(2027, 1, 3) not in closed
    assert [day for day, name in closed.items() if name == "Nesting"] == [date(2027, 3, day) for day in range(15, 21)]
    assert not closed_days((turn,), date(2027, 12, 1), date(2028, 1, 30)), "once only"


def test_people_of_a_day_make_its_room():
    hands = Crew(people=2, hours=5, people_on={date(2026, 11, 29): 3, date(2026, 11, 30): 0})
    assert hands.capacity(date(2026, 11, 28)) == 10
    assert hands.capacity(date(2026, 11, 29)) == 15, "a Sunday on which people were said to come"
    assert hands.capacity(date(2026, 12, 6)) == 0
    assert hands.capacity(date(2026, 11, 30)) == 0
