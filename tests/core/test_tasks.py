"""Tasks of a season, as the plan and people have them."""

from dataclasses import replace
from datetime import UTC, datetime, timedelta
from uuid import UUID

import pytest
from hypothesis import given
from hypothesis import strategies as st
from pydantic import ValidationError

from tests.core.sites import TODAY, crew, entry, load, merchant, pile_of, plot, site
from ulmatic.core.climate import Day
from ulmatic.core.log import Laid, LedgerEntry, Moisture, Opened, PileChecked, TaskDone
from ulmatic.core.money import Buying
from ulmatic.core.planning.conditions import hot_piles
from ulmatic.core.planning.inventory import state_on
from ulmatic.core.planning.plan import SitePlan, plan_on
from ulmatic.core.planning.season_work import SeasonWork
from ulmatic.core.recipe import RecipeEdits
from ulmatic.core.recipe.practice import PracticeChoices, Trunks
from ulmatic.core.schedule import Decision
from ulmatic.core.survey import ExistingCover, Rectangle, RingRow, SiteConditions, Use
from ulmatic.core.work import CAUTIONS
from ulmatic.core.work.task_changes import TaskChange

PLOT = UUID(int=1)
WRITTEN = datetime(2026, 11, 26, 12, tzinfo=UTC)


def plan_for(*plots, **more) -> SitePlan:
    return plan_on(site(*plots, suppliers=(crew(1),), **more), TODAY, 2)


def work_of(*plots, **more) -> SeasonWork:
    return plan_for(*plots, **more).work(0)


def kinds(work: SeasonWork, number: int = 1) -> list[str]:
    return [task.kind for task in work.by_plot[UUID(int=number)]]


def with_cover(cover: str, **more):
    bed = plot(**more)
    return bed.__class__(
        **{**vars(bed), "plot": bed.plot.model_copy(update={"site_conditions": SiteConditions(cover=cover)})}
    )


def test_a_young_orchard_takes_the_hours_that_practice_tells():
    """450 young rings with 25 to 50 mm by hand: about 3 h of strimming and 10 h of laying."""
    rings = RingRow(canopy_m=0.9, trunk_m=0.05, gap_m=0.05, trees=450, spacing_m=4)
    work = work_of(plot(use=Use.YOUNG_TREE, shape=rings, target=40))
    hours = {task.kind: task.usual_h for task in work.by_plot[PLOT]}
    assert hours["strim"] == pytest.approx(3, abs=0.5)
    assert hours["chips"] + hours["pull_back"] == pytest.approx(10, abs=2.5)


def test_what_does_not_apply_is_left_out():
    assert kinds(work_of(plot())) == ["prune", "clear", "edge", "chips", "crisp", "water_in"]
    assert "weed" in kinds(work_of(with_cover("annual_weeds")))
    assert "fabric" in kinds(work_of(with_cover("old_fabric")))
    laid = [entry(1, TODAY - timedelta(days=700), Laid(material="arborist_leafy", depth_mm=40))]
    assert kinds(work_of(plot(), ledger=laid)) == ["chips", "crisp", "water_in"], "prepared when it was laid first"


def test_dry_ground_is_soaked_before_it_is_covered():
    dry, moist = (
        entry(1, TODAY - timedelta(days=4), Moisture(days_without_rain=20, feel=feel), 1) for feel in ("dry", "moist")
    )
    assert kinds(work_of(plot(), ledger=[dry]))[2:5] == ["edge", "soak", "chips"]
    assert "soak" not in kinds(work_of(plot(), ledger=[moist]))
    days = [
        Day.model_construct(day=TODAY - timedelta(days=days_back), tmax_c=20, tmin_c=9, rain_mm=0.1)
        for days_back in range(30)
    ]
    assert "soak" in kinds(work_of(plot(), weather=days))


def test_rows_take_hours_of_the_day_before_all_else():
    bed = plot(use=Use.VEGETABLES, target=100)
    opened = entry(1, TODAY, Opened(opening=UUID(int=9), length_m=9, width_m=0.5, count=3), 1)
    work = work_of(bed, ledger=[opened])
    assert work.crew.hours_taken[TODAY] == pytest.approx(13.5 * 3 / 60, rel=0.01)
    assert work.days[0].hours <= work.crew.capacity(TODAY) - work.crew.hours_taken[TODAY] + 1e-6


def test_cardboard_and_compost_come_before_chips():
    bed = with_cover("lawn", use=Use.LAWN_TO_CONVERT, recipe=RecipeEdits(compost_mm=20, cardboard=True))
    tasks = kinds(work_of(bed))
    assert tasks.index("strim") < tasks.index("sheet") < tasks.index("compost") < tasks.index("chips")


def test_what_lies_beneath_is_carried_once():
    bed = plot(use=Use.VEGETABLES, target=100, recipe=RecipeEdits(compost_mm=40))
    plan = plan_for(bed)
    work = plan.work(0)
    carried = [task for task in work.tasks[PLOT] if task.unit == "m3"]
    assert [task.kind for task in carried] == ["compost", "chips"]
    assert sum(task.amount for task in carried) == pytest.approx(plan.carried_m3(0)[PLOT])
    assert sum(task.usual_h for task in carried) == pytest.approx(plan.moving(0).usual_h)
    assert carried[1].amount == pytest.approx(plan.planned_m3(0)[PLOT])


def test_the_season_says_the_hours_of_its_tasks_and_costs_them():
    beds = plot(), plot(2, shape=Rectangle(length_m=9, width_m=4))
    plan = plan_on(site(*beds, suppliers=(merchant(1),), buying=Buying(labour_per_h=20)), TODAY, 2)
    tasks = [task for tasks in plan.work(0).by_plot.values() for task in tasks]
    hours, moving = sum(task.usual_h for task in tasks), plan.moving(0).usual_h
    assert plan.now.hours == pytest.approx(hours)
    assert hours > moving
    figure = plan.work(0).figure()
    assert (figure.value, figure.low < hours < figure.high) == (pytest.approx(hours), True)
    assert sum(term.figure.value for term in figure.working.terms) == pytest.approx(hours)
    [labour] = [line for line in plan.quote(0, TODAY).lines if line.group == "labour"]
    assert hours <= labour.quantity < hours + 0.25 + 1e-9
    assert sum(share.hours for share in plan.quote(0, TODAY).plots) == pytest.approx(hours)


@given(st.sampled_from(list(Use)), st.sampled_from([None, *ExistingCover]), st.booleans())
def test_each_figure_of_a_task_says_its_hours(use, cover, cardboard):
    bed = plot(use=use, target=100, recipe=RecipeEdits(compost_mm=20, cardboard=cardboard))
    bed = replace(bed, plot=bed.plot.model_copy(update={"site_conditions": SiteConditions(cover=cover)}))
    for task in (task for tasks in work_of(bed).tasks.values() for task in tasks):
        figure, hours = task.figure(), task.hours
        assert (figure.value, figure.low, figure.high) == pytest.approx((hours.value, hours.low, hours.high))
        assert hours.value == pytest.approx(task.usual_h)
        assert task.scaled(0.4).usual_h == pytest.approx(task.usual_h * 0.4)


def test_ground_is_prepared_in_the_season_in_which_it_is_covered_first():
    preparing = {"prune", "clear", "edge"}
    now, next_season = (plan_for(plot()).seasons[number].key for number in (0, 1))
    skipped = plan_for(plot(decisions={now: Decision(kind="skip"), next_season: Decision(kind="lay")}))
    assert "edge" not in {task.kind for tasks in skipped.work(0).tasks.values() for task in tasks}
    assert preparing <= set(kinds(skipped.work(1)))
    forward = plan_for(plot(decisions={next_season: Decision(kind="lay")}))
    assert preparing <= set(kinds(forward.work(0)))
    assert not preparing & {task.kind for tasks in forward.work(1).tasks.values() for task in tasks}


def test_guards_are_put_on_with_the_first_laying():
    rings = RingRow(canopy_m=0.9, trunk_m=0.05, gap_m=0.05, trees=30, spacing_m=4)
    work = work_of(
        plot(use=Use.YOUNG_TREE, shape=rings, target=40), practices=(PracticeChoices(trunks=Trunks.HAND_AND_GUARD),)
    )
    [guards] = [task for task in work.tasks[PLOT] if task.kind == "guard"]
    assert (guards.amount, guards.unit) == (30, "trees")


def test_cautions_follow_from_conditions():
    old = load(1, 6.0, came=TODAY - timedelta(days=200), worries=("disease",))
    playing = work_of(plot(use=Use.PLAY, target=230, shape=Rectangle(length_m=8, width_m=6)), **pile_of(old))
    [chips] = [task for task in playing.by_plot[PLOT] if task.kind == "chips"]
    assert {"spores", "play", "disease"} <= set(chips.cautions)
    quiet = work_of(plot())
    [chips] = [task for task in quiet.by_plot[PLOT] if task.kind == "chips"]
    assert not {"play", "fire", "dogs", "disease"} & set(chips.cautions)
    assert all(key in CAUTIONS for task in playing.by_plot[PLOT] for key in task.cautions)


def report(task: str, share: float, number: int = 1):
    return entry(1, TODAY, TaskDone(task=task, season=plan_for(plot()).seasons[0].key, share=share), number)


def test_what_is_done_is_not_to_do_and_half_of_it_is_half_to_do():
    work = work_of(plot())
    [edge] = [task for task in work.by_plot[PLOT] if task.kind == "edge"]
    half = work_of(plot(), ledger=[report("prune", 1.0, 3), report("clear", 1.0), report("edge", 0.5, 2)])
    assert kinds(half) == ["edge", "chips", "crisp", "water_in"]
    assert half.by_plot[PLOT][0].amount == pytest.approx(edge.amount / 2)
    assert half.by_plot[PLOT][0].usual_h == pytest.approx(edge.usual_h / 2)


def test_ground_that_was_laid_is_still_to_be_finished():
    laid = entry(1, TODAY, Laid(material="arborist_leafy", depth_mm=75), 1)
    finished = work_of(plot(), ledger=[laid, report("chips", 1.0, 2)])
    assert kinds(finished) == ["crisp", "water_in"]
    work = work_of(plot(), ledger=[laid, report("chips", 1.0, 2), report("crisp", 1.0, 3), report("water_in", 1.0, 4)])
    assert work.by_plot == {}


def changed(*changes: dict, **more) -> SeasonWork:
    season = work_of(plot()).season.key
    return work_of(
        plot(), task_changes=tuple(TaskChange(season=season, plot_id=PLOT, **change) for change in changes), **more
    )


def test_a_task_is_left_out_takes_other_hours_or_gets_a_day():
    work = changed(
        {"task": "clear", "left_out": True},
        {"task": "edge", "hours": 9.0},
        {"task": "crisp", "on": TODAY + timedelta(days=9)},
    )
    assert kinds(work) == ["prune", "edge", "chips", "crisp", "water_in"]
    [edge] = [task for task in work.by_plot[PLOT] if task.kind == "edge"]
    assert (edge.usual_h, edge.changed) == (9.0, True)
    on = {stint.task.kind: day.on for day in work.days for stint in day.stints}
    assert on["crisp"] == TODAY + timedelta(days=9)


def test_of_hours_that_were_said_for_chips_less_is_left_when_some_are_laid():
    change = {"task": "chips", "hours": 8.0}
    laid = entry(1, TODAY, Laid(material="arborist_leafy", depth_mm=30), 1)
    half = changed(change, ledger=[laid, report("chips", 0.5, 2)]).task(PLOT, "chips", None)
    assert half.usual_h == pytest.approx(4.0)
    assert half.amount < changed(change).task(PLOT, "chips", None).amount


def test_a_changed_plan_changes_only_what_was_not_said():
    change = {"task": "edge", "hours": 9.0}
    deeper = changed(change, ledger=[entry(1, TODAY, Laid(material="arborist_leafy", depth_mm=20), 1)])
    hours = {task.kind: task.usual_h for task in deeper.by_plot[PLOT]}
    assert hours["edge"] == 9.0
    assert hours["chips"] < {task.kind: task.usual_h for task in changed(change).by_plot[PLOT]}["chips"]


def test_a_task_of_ones_own_is_done_like_any_other():
    task_id = UUID(int=77)
    ring = {"task": "own", "own": task_id, "words": "Ring the neighbours", "hours": 0.5}
    work = changed(ring)
    [task] = [task for task in work.by_plot[PLOT] if task.own == task_id]
    assert (task.words, task.usual_h) == ("Ring the neighbours", 0.5)
    ticked = entry(1, TODAY, TaskDone(task="own", season=work.season.key, own=task_id), 5)
    assert "own" not in kinds(changed(ring, ledger=[ticked]))


@pytest.mark.parametrize(
    ("change", "field"),
    [
        ({"task": "own", "words": "Rake", "hours": 1}, "own"),
        ({"task": "own", "own": UUID(int=7), "hours": 1}, "words"),
        ({"task": "own", "own": UUID(int=7), "words": "Rake"}, "hours"),
        ({"task": "clear", "own": UUID(int=7)}, "own"),
    ],
)
def test_a_task_of_ones_own_says_what_and_how_long(change, field):
    with pytest.raises(ValidationError) as refused:
        TaskChange(season="autumn 2026", plot_id=PLOT, **change)
    assert refused.value.errors()[0]["ctx"]["field"] == field


def test_a_hot_pile_is_warned_of():
    fresh = load(1, 40.0, came=TODAY)
    assert "hot_pile" in work_of(plot(), **pile_of(fresh)).by_plot[PLOT][3].cautions, (
        "a free cone of 40 m³ stands over 2 m"
    )
    assert "hot_pile" not in work_of(plot(), **pile_of(load(1, 3.0, came=TODAY))).by_plot[PLOT][3].cautions
    looked = LedgerEntry(
        id=UUID(int=9),
        plot_id=None,
        pile_id=UUID(int=401),
        on=TODAY,
        written_at=WRITTEN,
        entry=PileChecked(temperature_c=72),
    )
    warm = pile_of(load(1, 3.0, came=TODAY))
    assert hot_piles(state_on(site(plot(), ledger=[looked], **warm), TODAY)) == ["Pile 1"]
