"""Tasks of a season and the days for them."""

import itertools
from datetime import date, timedelta
from uuid import UUID

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.core.sites import TODAY, crew, entry, heap, load, plot, site
from ulmatic.core.figures import entered
from ulmatic.core.log import Laid, TaskDone
from ulmatic.core.recipe import RecipeEdits
from ulmatic.core.site.tasks import SeasonWork
from ulmatic.core.survey import Found, Rectangle, RingRow, Use
from ulmatic.core.work import CAUTIONS, Crew, Task, TaskKind, lateness, schedule_days
from ulmatic.core.work.tasks import ORDER, TOOLS, WORDS, in_order

PLOT = UUID(int=1)
CLOSES = date(2026, 12, 20)


def work_of(*plots, **more) -> SeasonWork:
    return SeasonWork(site(*plots, suppliers=(crew(1),), **more).on(TODAY).plan(2), 0)


def kinds(work: SeasonWork, number: int = 1) -> list[str]:
    return [task.kind.value for task in work.by_plot[UUID(int=number)]]


def with_cover(cover: str, **more):
    own = plot(**more)
    return own.__class__(**{**vars(own), "plot": own.plot.model_copy(update={"found": Found(cover=cover)})})


def test_a_young_orchard_takes_the_hours_that_practice_tells():
    """450 young rings with 25 to 50 mm by hand: about 3 h of strimming and 10 h of laying."""
    rings = RingRow(canopy_m=0.9, trunk_m=0.05, gap_m=0.05, trees=450, spacing_m=4)
    work = work_of(plot(use=Use.YOUNG_TREE, shape=rings, target=40))
    hours = {task.kind: task.hours.value for task in work.by_plot[PLOT]}
    assert hours[TaskKind.STRIM] == pytest.approx(3, abs=0.5)
    assert hours[TaskKind.CHIPS] + hours[TaskKind.PULL_BACK] == pytest.approx(10, abs=2.5)


def test_what_does_not_apply_is_left_out():
    assert kinds(work_of(plot())) == ["clear", "edge", "chips", "crisp", "water_in"]
    assert "weed" in kinds(work_of(with_cover("annual_weeds")))
    assert "fabric" in kinds(work_of(with_cover("old_fabric")))
    laid = [entry(1, TODAY - timedelta(days=700), Laid(material="arborist_leafy", depth_mm=40))]
    assert kinds(work_of(plot(), ledger=laid)) == ["chips", "crisp", "water_in"], "prepared when it was laid first"


def test_cardboard_and_compost_come_before_chips():
    bed = with_cover("lawn", use=Use.LAWN_TO_CONVERT, recipe=RecipeEdits(compost_mm=20, cardboard=True))
    own = kinds(work_of(bed))
    assert own.index("strim") < own.index("sheet") < own.index("compost") < own.index("chips")


def test_cautions_follow_from_conditions():
    old = load(1, 6.0, came=TODAY - timedelta(days=200), worries=("disease",))
    playing = work_of(plot(use=Use.PLAY, target=230, shape=Rectangle(length_m=8, width_m=6)), **heap(old))
    [chips] = [task for task in playing.by_plot[PLOT] if task.kind is TaskKind.CHIPS]
    assert {"spores", "play", "disease"} <= set(chips.cautions)
    quiet = work_of(plot())
    [chips] = [task for task in quiet.by_plot[PLOT] if task.kind is TaskKind.CHIPS]
    assert not {"play", "fire", "dogs", "disease"} & set(chips.cautions)
    assert all(key in CAUTIONS for task in playing.by_plot[PLOT] for key in task.cautions)


def done(task: str, share: float, number: int = 1):
    return entry(1, TODAY, TaskDone(task=task, season=work_of(plot()).plan.seasons[0].key, share=share), number)


def test_what_is_done_is_not_to_do_and_half_of_it_is_half_to_do():
    whole = work_of(plot())
    edge = whole.by_plot[PLOT][1]
    half = work_of(plot(), ledger=[done("clear", 1.0), done("edge", 0.5, 2)])
    assert kinds(half) == ["edge", "chips", "crisp", "water_in"]
    assert half.by_plot[PLOT][0].amount == pytest.approx(edge.amount / 2)
    assert half.by_plot[PLOT][0].hours.value == pytest.approx(edge.hours.value / 2)


def test_ground_that_was_laid_is_still_to_be_finished():
    laid = entry(1, TODAY, Laid(material="arborist_leafy", depth_mm=75), 1)
    finished = work_of(plot(), ledger=[laid, done("chips", 1.0, 2)])
    assert kinds(finished) == ["crisp", "water_in"]
    gone = work_of(plot(), ledger=[laid, done("chips", 1.0, 2), done("crisp", 1.0, 3), done("water_in", 1.0, 4)])
    assert gone.by_plot == {}


def task(plot_number: int, kind: TaskKind, hours: float, not_before: str | None = None) -> Task:
    return Task(
        plot_id=UUID(int=plot_number), kind=kind, words=WORDS[kind], amount=1.0, unit="m2", tools=TOOLS[kind],
        hours=entered("Hours", hours, "h"), not_before=not_before,
    )  # fmt: skip


jobs = st.lists(
    st.lists(st.tuples(st.sampled_from(list(TaskKind)), st.floats(0.05, 30)), min_size=1, max_size=6, unique_by=lambda pair: pair[0]),
    min_size=1, max_size=8,
)  # fmt: skip
crews = st.builds(Crew, people=st.integers(1, 4), hours=st.floats(2, 8))


@given(jobs, crews)
def test_nobody_is_over_capacity_and_everything_is_done_in_its_order(drawn, hands):
    plots = [in_order([task(number, *job) for job in own]) for number, own in enumerate(drawn, 1)]
    days = schedule_days(plots, hands, TODAY, CLOSES)
    assert all(day.hours <= hands.capacity + 1e-6 for day in days)
    assert all(day.on.weekday() != 6 for day in days)
    shares: dict[str, float] = {}
    ends: dict[str, date] = {}
    begins: dict[str, date] = {}
    for day in days:
        for stint in day.stints:
            shares[stint.task.key] = shares.get(stint.task.key, 0.0) + stint.share
            begins.setdefault(stint.task.key, day.on)
            ends[stint.task.key] = day.on
    assert all(abs(share - 1) < 1e-6 for share in shares.values())
    assert len(shares) == sum(map(len, plots))
    for own in plots:
        for before, after in itertools.pairwise(own):
            assert ORDER[before.kind] < ORDER[after.kind]
            assert ends[before.key] <= begins[after.key], "never compost after chips"


@given(jobs, crews)
def test_it_is_never_later_than_day_after_day_without_a_gap(drawn, hands):
    """A plain greedy beside it: all hours in one line."""
    plots = [in_order([task(number, *job) for job in own]) for number, own in enumerate(drawn, 1)]
    days = schedule_days(plots, hands, TODAY, CLOSES)
    total = sum(piece.hours.value for own in plots for piece in own)
    late, on = 0.0, TODAY
    while total > 1e-6:
        if on.weekday() != 6:
            worked = min(total, hands.capacity)
            late += worked * max(0, (on - CLOSES).days)
            total -= worked
        on += timedelta(days=1)
    assert lateness(days, CLOSES) <= late + 1e-3


def test_what_waits_for_a_delivery_lets_others_go_first():
    comes = (TODAY + timedelta(days=8)).isoformat()
    plots = [[task(1, TaskKind.CLEAR, 1), task(1, TaskKind.CHIPS, 2, comes)], [task(2, TaskKind.CHIPS, 3)]]
    days = schedule_days(plots, Crew(people=1, hours=6), TODAY, CLOSES)
    on = {stint.task.key: day.on for day in days for stint in day.stints}
    assert on[plots[1][0].key] == TODAY
    assert on[plots[0][1].key].isoformat() >= comes


def test_a_task_can_be_put_on_a_day():
    [own] = [[task(1, TaskKind.CLEAR, 1), task(1, TaskKind.CHIPS, 2)]]
    later = TODAY + timedelta(days=5)
    days = schedule_days([own], Crew(people=1, hours=6, fixed={own[0].key: later}), TODAY, CLOSES)
    on = {stint.task.kind: day.on for day in days for stint in day.stints}
    assert on[TaskKind.CLEAR] == later <= on[TaskKind.CHIPS]


def test_closed_days_stay_free():
    own = [task(1, TaskKind.CHIPS, 14)]
    closed = frozenset({TODAY + timedelta(days=1)})
    days = schedule_days([own], Crew(people=1, hours=6, closed=closed), TODAY, CLOSES)
    assert not {day.on for day in days} & closed
