"""What falls on the days of a site: each kind of occasion, on its day, from what is known."""

import itertools
from dataclasses import replace
from datetime import UTC, date, datetime, timedelta
from uuid import UUID

import pytest

from tests.core.sites import TODAY, crew, entry, load, merchant, pile_of, plot, site
from ulmatic.core.climate import Day
from ulmatic.core.climate.normals import ClimateClass, GenericClimate
from ulmatic.core.log import (
    DugIn,
    HoursWorked,
    Laid,
    LedgerEntry,
    Measured,
    Opened,
    PileChecked,
    Planted,
    RowWorked,
    TaskDone,
)
from ulmatic.core.money import Buying, Hire
from ulmatic.core.planning.agenda import Agenda
from ulmatic.core.planning.conditions import Conditions
from ulmatic.core.planning.inventory import state_on
from ulmatic.core.planning.machines import Machines
from ulmatic.core.planning.occasions import Occasion
from ulmatic.core.planning.plan import plan_on
from ulmatic.core.schedule import Closure, Overrides
from ulmatic.core.survey import RingRow, SiteConditions, Use
from ulmatic.core.work import CarrierKind
from ulmatic.core.work.task_changes import TaskChange
from ulmatic.core.work.weather_warnings import warnings

LAID_AGO = TODAY - timedelta(days=400)
OLD = entry(1, LAID_AGO, Laid(material="arborist_leafy", depth_mm=75), 1)
READ = entry(1, TODAY - timedelta(days=30), Measured(depth_mm=50, settled=True), 2)


def agenda(*plots, **more) -> Agenda:
    return plan_on(site(*(plots or (plot(),)), **{"suppliers": (crew(1),), **more}), TODAY, 2).agenda


def of(kind: str, listed: Agenda) -> list[Occasion]:
    return [occasion for occasion in listed.occasions if occasion.kind == kind]


def test_all_of_it_lies_in_the_year_ahead_in_the_order_of_days():
    listed = agenda(ledger=[OLD])
    assert [occasion.on for occasion in listed.occasions] == sorted(occasion.on for occasion in listed.occasions)
    assert all(occasion.until >= listed.first and occasion.on <= listed.last for occasion in listed.occasions)
    keys = [occasion.key for occasion in listed.occasions]
    assert len(set(keys)) == len(keys)


def test_seasons_stand_with_their_dates():
    listed = agenda()
    spans = {occasion.season: (occasion.on, occasion.until) for occasion in of("season", listed)}
    assert spans == {
        season.key: (season.opens, season.closes) for season in listed.seasons if season.opens <= listed.last
    }


def test_what_is_to_be_ordered_stands_on_its_last_day():
    listed = agenda(suppliers=(merchant(1),))
    [first, *_] = of("order", listed)
    assert first.on == listed.order_by(0)
    assert f"{{{listed.order_of(0).ordered_m3:.6g} m3}}" in first.words
    assert of("order", agenda(plot(target=0))) == []


def test_a_load_that_is_late_is_expected_today_and_says_since_when():
    late = load(1, 6.0, expected_on=TODAY - timedelta(days=3))
    coming = load(2, 6.0, expected_on=TODAY + timedelta(days=9))
    [first, second] = of("delivery", agenda(deliveries=(late, coming)))
    assert (first.on, second.on) == (TODAY, TODAY + timedelta(days=9))
    assert "It was expected on 23 November." in first.details
    assert second.details == ()


def test_depths_are_read_before_a_season_where_they_were_not_read_lately():
    [reading] = of("reading", agenda(ledger=[OLD]))
    assert reading.plot_ids == (UUID(int=1),)
    assert reading.words == "Read the depth of 1 plot"
    assert of("reading", agenda(ledger=[OLD, READ])) == []
    assert of("reading", agenda()) == [], "nothing lies there"


def test_work_holds_the_hours_of_its_tasks_and_fills_no_day():
    listed = agenda(plot(), plot(2, use=Use.VEGETABLES), buying=Buying(people=2))
    for work in listed.works:
        hours = sum(occasion.hours for occasion in of("work", listed) if occasion.season == work.season.key)
        assert hours == pytest.approx(work.hours)
    assert not any(listed.full(day) for day in listed.hours)
    assert listed.work_of(0) is listed.works[0], "worked out once"


def test_a_span_has_what_lasts_over_it():
    listed = agenda(overrides=Overrides(closures=(Closure(name="Fair", first=TODAY, last=TODAY + timedelta(days=9)),)))
    middle = TODAY + timedelta(days=4)
    assert "Fair" in [occasion.words for occasion in listed.occasions_between(middle, middle)]
    assert "Fair" not in [
        occasion.words for occasion in listed.occasions_between(TODAY + timedelta(days=10), listed.last)
    ]
    assert not any(occasion.on <= middle for occasion in of("work", listed)), "no work on these days"


def test_rows_stand_on_the_day_of_their_next_step():
    opening = UUID(int=50)
    opened = entry(
        1, TODAY - timedelta(days=2), Opened(opening=opening, length_m=4, width_m=0.3, crop="rye", name="west"), 3
    )
    sown = entry(1, TODAY - timedelta(days=1), RowWorked(opening=opening, step="sown"), 4)
    listed = agenda(plot(use=Use.VEGETABLES, target=100), ledger=[opened, sown])
    [step] = of("rows", listed)
    assert step.words == "Plot 1: look whether it is up, west"
    assert step.on > TODAY
    assert step.hours is None, "looking takes none"


def test_water_is_told_by_week_until_it_has_rooted():
    dry = GenericClimate(name=ClimateClass.HOT_DRY)
    planted = entry(1, TODAY - timedelta(days=10), Planted(action="put_in", count=20, name="Sage"), 3)
    weeks = of("water", agenda(ledger=[OLD, planted], climate=dry))
    assert len(weeks) == 12, "thirteen weeks, and the first is over"
    assert all("Sage" in week.details[0] for week in weeks)
    assert all(next_week.on - week.on <= timedelta(days=7) for week, next_week in itertools.pairwise(weeks))
    soaked = replace(plot(), plot=plot().plot.model_copy(update={"site_conditions": SiteConditions(irrigated=True)}))
    assert of("water", agenda(soaked, ledger=[planted], climate=dry)) == []


def test_nitrogen_that_is_wanting_is_given_in_the_growing_season():
    raw = [
        entry(1, TODAY - timedelta(days=20), Laid(material="clean_broadleaf", depth_mm=60), 1),
        entry(1, TODAY - timedelta(days=19), DugIn(), 2),
    ]
    [dressing, *_] = of("dressing", agenda(plot(use=Use.VEGETABLES), ledger=raw))
    assert dressing.on.month >= 3
    assert "near water" in dressing.details[0]
    assert of("dressing", agenda(plot(use=Use.FOOT_PATH), ledger=raw)) == [], "nothing grows there"


def test_a_hot_pile_is_to_be_measured_today():
    [hot] = of("pile", agenda(**pile_of(load(1, 40.0, came=TODAY))))
    assert hot.on == TODAY
    assert "Pile 1" in hot.words
    assert of("pile", agenda(**pile_of(load(1, 40.0, came=TODAY - timedelta(days=300))))) == [], (
        "it has cooled long since"
    )


# Cautions of the place.


def raised(
    own_plot=None, trips: int = 1, carriers=("barrow",), month: int = 11, material="arborist_leafy", **more
) -> set[str]:
    state = state_on(site(own_plot or plot(), suppliers=(crew(1),), **more), TODAY)
    return set(Conditions(state).laying(state.site.plots[0], state.site.material(material), month, trips, carriers))


def noted(**more):
    bed = plot()
    return replace(bed, plot=bed.plot.model_copy(update={"site_conditions": SiteConditions(**more)}))


@pytest.mark.parametrize(
    ("caution", "more", "site_without"),
    [
        ("lifting", {"trips": 30}, {"trips": 30, "buying": Buying(people=2)}),
        ("heat", {"month": 7, "climate": GenericClimate(name=ClimateClass.HOT_WET)}, {}),
        ("machine", {"carriers": (CarrierKind.LOADER,)}, {}),
        ("dogs", {"material": "cocoa_shell"}, {}),
        ("awns", {"material": "straw"}, {}),
        ("fire", {"fire_district": True}, {}),
        ("services", {"own_plot": plot(use=Use.BANK)}, {}),
        ("walls", {"own_plot": noted(to_building_m=0.3)}, {"own_plot": noted(to_building_m=3)}),
        (
            "children",
            {"own_plot": noted(children=True), **pile_of(load(1, 5.0, came=TODAY))},
            {"own_plot": noted(children=True)},
        ),
        ("spores", pile_of(load(1, 5.0, came=TODAY - timedelta(days=200))), pile_of(load(1, 5.0, came=TODAY))),
        ("herbicide", pile_of(load(1, 5.0, came=TODAY, worries=("herbicide",))), pile_of(load(1, 5.0, came=TODAY))),
    ],
)
def test_a_caution_is_raised_by_its_condition_alone(caution, more, site_without):
    assert caution in raised(**more)
    assert caution not in raised(**site_without)


def test_the_last_look_at_a_pile_counts():
    looks = [
        LedgerEntry(
            id=UUID(int=60 + index),
            plot_id=None,
            pile_id=UUID(int=401),
            on=TODAY - timedelta(days=9 - index),
            written_at=datetime(2026, 11, 20, 9, index, tzinfo=UTC),
            entry=PileChecked(temperature_c=celsius),
        )
        for index, celsius in enumerate((75, 40))
    ]
    pile = pile_of(load(1, 3.0, came=TODAY))
    assert "hot_pile" in raised(ledger=looks[:1], **pile)
    assert "hot_pile" not in raised(ledger=looks, **pile)


def test_weather_warns_of_heat_frost_and_sodden_ground():
    outlook = [
        Day.model_construct(day=TODAY + timedelta(days=index), tmax_c=tmax, tmin_c=tmin, rain_mm=rain)
        for index, (tmax, tmin, rain) in enumerate(
            [(27, 12, 0), (29, 14, 0), (9, -3, 14), (8, 1, 17), (8, 2, 0), (8, 2, 0)]
        )
    ]
    warned = {
        (day - TODAY).days: [words.split(":")[0] for words in words_of] for day, words_of in warnings(outlook).items()
    }
    assert warned == {1: ["Heat"], 2: ["Frozen ground"], 3: ["Sodden ground"], 4: ["Sodden ground"]}
    assert warnings([]) == {}


def test_past_days_tell_what_was_received_done_and_logged():
    before = TODAY - timedelta(days=5)
    ring = UUID(int=77)
    season = agenda().seasons[0].key
    ledger = [
        entry(1, before, TaskDone(task="edge", season=season, share=0.5), 1),
        entry(1, before, TaskDone(task="own", own=ring, season=season), 2),
        entry(1, before, Measured(depth_mm=50, settled=True), 3),
        entry(2, before, HoursWorked(task="laying", hours=2), 4),
        entry(1, TODAY, Measured(depth_mm=60, settled=True), 5),
    ]
    change = TaskChange(season=season, plot_id=UUID(int=1), task="own", own=ring, words="Ring the neighbours", hours=1)
    loads = (load(1, 6.0, came=before), load(2, 6.0, expected_on=TODAY + timedelta(days=2)))
    listed = agenda(plot(), plot(2), ledger=ledger, deliveries=loads, task_changes=(change,))
    past = {occasion.kind: occasion for occasion in listed.occasions_between(before, TODAY) if occasion.until < TODAY}
    assert set(past) == {"delivery", "done", "logged"}
    assert past["done"].details == ("Cut the edge, 50 %", "Ring the neighbours")
    assert (past["logged"].words, past["logged"].details) == ("2 log entries", ("Plot 1", "Plot 2"))
    assert {occasion.kind for occasion in listed.occasions_between(TODAY, TODAY)}.isdisjoint({"done", "logged"}), (
        "what is to come"
    )
    assert [
        occasion for occasion in listed.occasions_between(before + timedelta(days=1), TODAY) if occasion.until < TODAY
    ] == []


# Machine or hand.


def machines(*plots, **more) -> Machines:
    yard = site(
        *(plots or (plot(),)), **{"suppliers": (crew(1),), "buying": Buying(people=2, labour_per_h=20.0), **more}
    )
    return Machines(plan_on(yard, TODAY, 3), 0)


def test_the_barrow_takes_what_the_plan_says_where_the_site_has_no_other():
    sheet = machines()
    [barrow] = [way for way in sheet.sheet.ways if way.way == "barrow"]
    assert barrow.hours.value == pytest.approx(sheet.plan.moving(0).hours.value)
    assert barrow.years_h >= barrow.hours.value
    assert sheet.sheet.years_m3 >= sheet.sheet.volume_m3


def test_what_is_hired_costs_by_the_day_and_what_is_owned_does_not():
    owned = machines(buying=Buying(people=2, labour_per_h=20.0, carriers=(CarrierKind.BARROW, CarrierKind.CART)))
    costs = {way.way: way.cost for way in owned.sheet.ways}
    assert costs["cart"] is not None
    assert costs["loader"] is None
    hired = machines(buying=Buying(people=2, labour_per_h=20.0, hire=Hire(loader=150.0)))
    [loader] = [way for way in hired.sheet.ways if way.way == "loader"]
    assert loader.cost == pytest.approx(loader.hours.value * 20 + loader.days * 150)
    assert all(way.cost is None for way in machines(buying=Buying(people=1)).sheet.ways), "an hour has no price"


def test_a_machine_that_does_not_fit_through_saves_nothing():
    narrow = replace(
        plot(), plot=plot().plot.model_copy(update={"site_conditions": SiteConditions(way_width_m=0.8, walk_m=40)})
    )
    hours = {way.way: way.hours.value for way in machines(narrow).sheet.ways}
    assert hours["loader"] == pytest.approx(hours["barrow"])
    wide = replace(
        plot(), plot=plot().plot.model_copy(update={"site_conditions": SiteConditions(way_width_m=3, walk_m=40)})
    )
    hours = {way.way: way.hours.value for way in machines(wide).sheet.ways}
    assert hours["loader"] < hours["cart"] < hours["barrow"]


def test_mowing_is_saved_where_rings_become_a_strip():
    """Twelve mowings of one pass less along 30 trees at 4 m, at 60 m a minute."""
    rings = RingRow(canopy_m=2, trunk_m=0.1, gap_m=0.1, trees=30, spacing_m=4)
    [saved] = machines(plot(use=Use.YOUNG_TREE, shape=rings)).sheet.mowing
    assert saved.hours.value == pytest.approx(30 * 4 * 12 / 60 / 60)
    assert machines().sheet.mowing == ()


def test_upkeep_saved_is_what_the_log_says():
    def weeding(days: int, hours: float, minute: int):
        return entry(1, TODAY - timedelta(days=days), HoursWorked(task="weeding", hours=hours), minute)

    ledger = [weeding(900, 10, 3), weeding(700, 10, 4), OLD, weeding(300, 2, 5), weeding(100, 2, 6)]
    saved = machines(ledger=ledger).sheet.upkeep
    assert saved.before_h == pytest.approx(20 / 500 * 365.25, rel=0.01)
    assert saved.since_h == pytest.approx(4 / 400 * 365.25, rel=0.01)
    assert saved.laying_cost == pytest.approx(saved.laying_h * 20)
    assert machines(ledger=[OLD]).sheet.upkeep is None


def test_nothing_to_move_has_no_ways():
    sheet = machines(plot(target=0)).sheet
    assert (sheet.ways, sheet.best) == ((), None)


def test_a_day_of_next_year_is_not_told():
    assert agenda(plot(target=0)).occasions_between(date(2029, 1, 1), date(2030, 1, 1)) == []
