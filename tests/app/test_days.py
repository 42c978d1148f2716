"""The calendar through the API: moving work, own tasks, closures, people, warnings, and today across sites."""

from datetime import date, timedelta
from typing import Any
from uuid import uuid4

import pytest
from icalendar import Calendar
from sqlalchemy import update

from tests.conftest import TODAY, in_autumn
from ulmatic.core.planning.plan import plan_on
from ulmatic.formats.archive import read_archive
from ulmatic.records.survey import SiteRow


@pytest.fixture
def yard(owner):
    owner.add_site(climate={"kind": "class", "name": "cool_maritime"})
    owner.add_plot(name="Rose bed")
    owner.buys(people=2)
    return owner


def calendar(person, days: int = 365) -> dict:
    last = (TODAY + timedelta(days=days)).isoformat()
    answer = person.client.get(f"{person.site}/calendar", params={"first": TODAY.isoformat(), "last": last})
    assert answer.status_code == 200, answer.text
    return answer.json()


def work(person) -> list[dict]:
    return [occasion for occasion in calendar(person)["occasions"] if occasion["kind"] == "work"]


def change(person, *changes: dict, trial: bool = False):
    season = person.reads("tasks")["season_key"]
    entries = [{"season": season, "plot_id": person.plot_ids[-1]} | entry for entry in changes]
    if trial:
        return person.client.post(f"{person.site}/task-changes/trial", json={"changes": entries})
    return person.client.put(f"{person.site}/task-changes", json={"changes": entries})


def workday(after: int = 5) -> date:
    day = TODAY + timedelta(days=after)
    return day + timedelta(days=1) if day.weekday() == 6 else day


def test_the_days_hold_the_hours_of_the_tasks(yard):
    sheet = calendar(yard)
    hours = sum(
        occasion["hours"]
        for occasion in sheet["occasions"]
        if occasion["kind"] == "work" and occasion["season"] == yard.reads("tasks")["season_key"]
    )
    assert hours == pytest.approx(yard.reads("tasks")["hours"]["value"])
    assert all(day["hours"] <= day["capacity_h"] + 1e-6 for day in sheet["days"])
    assert (sheet["crew"], sheet["days"][0]["on"]) == (2, TODAY.isoformat())


@in_autumn
def test_work_is_put_on_another_day_and_back(yard):
    before = work(yard)[0]
    new_day = workday(9).isoformat()
    keys = [key.split(" ")[1] for key in before["tasks"]]
    tried = change(yard, *({"task": key, "on": new_day} for key in keys), trial=True)
    assert tried.status_code == 200, tried.text
    assert work(yard)[0]["on"] == before["on"], "a trial keeps nothing"
    assert change(yard, *({"task": key, "on": new_day} for key in keys)).status_code == 200
    moved = [occasion for occasion in work(yard) if occasion["fixed"]]
    assert {occasion["on"] for occasion in moved} == {new_day}
    assert change(yard, *({"task": key, "on": None} for key in keys)).status_code == 200
    assert work(yard)[0]["on"] == before["on"]
    assert not any(occasion["fixed"] for occasion in work(yard))


@in_autumn
def test_what_a_move_breaks_is_said_before_it_is_made(yard):
    closed = workday(6)
    closures = [{"name": "Nesting", "first": closed.isoformat(), "last": closed.isoformat()}]
    assert yard.client.put(f"{yard.site}/crew", json={"closures": closures}).status_code == 204
    answer = change(yard, {"task": "chips", "on": closed.isoformat()}, trial=True).json()
    assert any("Nesting" in words for words in answer["breaks"])
    crisp = change(
        yard, {"task": "crisp", "on": TODAY.isoformat()}, {"task": "chips", "on": workday(8).isoformat()}, trial=True
    )
    assert any("comes before" in words for words in crisp.json()["breaks"])


def test_closed_days_and_people_stay_when_seasons_are_said_anew(yard):
    day = workday(3)
    first, last = (TODAY + timedelta(days=days) for days in (60, 120))
    closures = [{"name": "Nesting", "first": first.isoformat(), "last": last.isoformat(), "yearly": True}]
    body = {"closures": closures, "people": {day.isoformat(): 5}}
    assert yard.client.put(f"{yard.site}/crew", json=body).status_code == 204
    assert yard.client.put(f"{yard.site}/seasons", json={"first_frost": 300}).status_code == 204
    sheet = calendar(yard)
    assert [closure["name"] for closure in sheet["closures"]] == ["Nesting"]
    [room] = [room for room in sheet["days"] if room["on"] == day.isoformat()]
    assert room["capacity_h"] == pytest.approx(5 * sheet["day_hours"])
    assert yard.client.put(f"{yard.site}/crew", json={"people": {}}).status_code == 204
    assert [closure["name"] for closure in calendar(yard)["closures"]] == ["Nesting"], "what is left out stays"


@pytest.mark.parametrize(
    ("more", "field"),
    [
        ({"task": "chips", "on": "2020-01-01"}, "changes.0.on"),
        ({"task": "own", "words": "Rake"}, "changes.0.own"),
        ({"task": "chips", "hours": 0}, "changes.0.hours"),
        ({"task": "chips", "season": "autumn 1999"}, "changes.0.season"),
        ({"task": "chips", "plot_id": str(uuid4())}, "changes.0.plot_id"),
        ({"task": "dance"}, "changes.0.task"),
    ],
)
def test_bad_changes_get_a_sentence_at_the_field(yard, more, field):
    answer = change(yard, more)
    assert answer.status_code == 422
    assert answer.json()["errors"][0]["field"] == field


@pytest.mark.parametrize(
    ("closure", "field"),
    [
        ({"name": "", "first": "2026-12-01", "last": "2026-12-02"}, "closures.0.name"),
        ({"name": "X", "first": "2026-12-03", "last": "2026-12-02"}, "closures.0.last"),
        ({"name": "X", "first": "soon", "last": "2026-12-02"}, "closures.0.first"),
    ],
)
def test_bad_closures_get_a_sentence_at_the_field(yard, closure, field):
    answer = yard.client.put(f"{yard.site}/crew", json={"closures": [closure]})
    assert answer.status_code == 422
    assert answer.json()["errors"][0]["field"] == field


def test_a_task_of_ones_own_is_added_done_and_logged_or_taken_away(yard):
    task_id = str(uuid4())
    assert (
        change(yard, {"task": "own", "own": task_id, "words": "Ring the neighbours", "hours": 0.5}).status_code == 200
    )
    [task] = [task for plot in yard.reads("tasks")["plots"] for task in plot["tasks"] if task["own"]]
    assert (task["words"], task["hours"]["value"]) == ("Ring the neighbours", 0.5)
    line = {
        "id": str(uuid4()),
        "plot_id": yard.plot_ids[-1],
        "task": "own",
        "own": task_id,
        "on": TODAY.isoformat(),
        "units": "metric",
        "season": yard.reads("tasks")["season_key"],
        "hours": 1,
    }
    assert yard.client.post(f"{yard.site}/tasks", json=line).status_code == 201
    assert not [task for plot in yard.reads("tasks")["plots"] for task in plot["tasks"] if task["own"]]
    assert {entry["entry"]["kind"] for entry in yard.reads("log")} >= {"task", "hours"}
    assert yard.client.delete(f"{yard.site}/task-changes/{task_id}").status_code == 204
    assert yard.client.delete(f"{yard.site}/task-changes/{task_id}").status_code == 404


def test_what_was_said_before_stays_when_a_task_is_moved(yard):
    task_id = str(uuid4())
    new_day = workday(7).isoformat()
    change(
        yard,
        {"task": "own", "own": task_id, "words": "Ring the neighbours", "hours": 0.5},
        {"task": "edge", "hours": 3},
    )
    assert (
        change(yard, {"task": "own", "own": task_id, "on": new_day}, {"task": "edge", "on": new_day}).status_code == 200
    )
    tasks = {task["words"]: task for plot in yard.reads("tasks")["plots"] for task in plot["tasks"]}
    assert (tasks["Ring the neighbours"]["hours"]["value"], tasks["Ring the neighbours"]["on"]) == (0.5, new_day)
    assert (tasks["Cut the edge"]["hours"]["value"], tasks["Cut the edge"]["on"]) == (3, new_day)


def test_a_task_that_was_left_out_can_be_brought_back(yard):
    change(yard, {"task": "edge", "left_out": True})
    sheet = yard.reads("tasks")
    assert [(task["task"], task["plot"]) for task in sheet["left_out"]] == [("edge", "Rose bed")]
    assert "edge" not in [task["kind"] for plot in sheet["plots"] for task in plot["tasks"]]
    change(yard, {"task": "edge", "left_out": False})
    sheet = yard.reads("tasks")
    assert sheet["left_out"] == []
    assert "edge" in [task["kind"] for plot in sheet["plots"] for task in plot["tasks"]]


def test_what_was_said_of_tasks_comes_along_in_an_archive(yard):
    change(yard, {"task": "edge", "hours": 7.5}, {"task": "own", "own": str(uuid4()), "words": "Sweep", "hours": 1})
    site = read_archive(yard.client.get(f"{yard.site}/file.json").content, TODAY).to_site()
    work = plan_on(site, TODAY, 2).work(0)
    assert work.hours == pytest.approx(yard.reads("tasks")["hours"]["value"])
    assert "Sweep" in {task.words for tasks in work.by_plot.values() for task in tasks}


def test_the_outlook_warns_and_moves_nothing(yard, app):
    before = [occasion["on"] for occasion in work(yard)]
    hot = [
        {"day": (TODAY + timedelta(days=step)).isoformat(), "tmax_c": 33, "tmin_c": -4, "rain_mm": 15}
        for step in range(4)
    ]
    with app.state.sessions() as session:
        session.execute(update(SiteRow).where(SiteRow.id == yard.site_id).values(outlook=hot))
        session.commit()
    [first, *_, third] = calendar(yard)["days"][:3]
    assert [words.split(":")[0] for words in first["warnings"]] == ["Heat", "Frozen ground"]
    assert any(words.startswith("Sodden ground: {45 mm}") for words in third["warnings"])
    assert [occasion["on"] for occasion in work(yard)] == before
    answer = change(yard, {"task": "chips", "on": workday(2).isoformat()}, trial=True).json()
    assert any("Heat" in words for words in answer["warnings"])


def test_a_span_that_cannot_be_shown_is_refused(yard):
    for first, last in (("2026-12-01", "2026-11-01"), ("2026-01-01", "2029-01-01")):
        assert yard.client.get(f"{yard.site}/calendar", params={"first": first, "last": last}).status_code == 422


def test_today_tells_of_every_site_what_the_calendars_tell(yard):
    first, days = yard.site_id, calendar(yard, 14)
    yard.add_site(name="Second yard", climate={"kind": "class", "name": "cool_maritime"})
    yard.add_plot(name="Far bed")
    sites = yard.client.get(f"/api/v1/workspaces/{yard.workspace_id}/today").json()["sites"]
    assert {site["site_id"] for site in sites} >= {first, yard.site_id}
    [site_today] = [site for site in sites if site["site_id"] == first]
    assert site_today["occasions"] == days["occasions"]


@in_autumn
def test_days_that_several_sites_want_people_on_are_told(yard):
    today = f"/api/v1/workspaces/{yard.workspace_id}/today"
    assert yard.client.get(today).json()["shared"] == []
    on = work(yard)[0]["on"]

    def hours() -> float:
        return sum(occasion["hours"] for occasion in work(yard) if occasion["on"] == on)

    first = hours()
    yard.add_site(name="Second yard", climate={"kind": "class", "name": "cool_maritime"})
    yard.add_plot(name="Far bed")
    [shared] = [day for day in yard.client.get(today).json()["shared"] if day["on"] == on]
    assert set(shared["sites"]) == {"Back garden", "Second yard"}
    assert shared["hours"] == pytest.approx(first + hours())


def test_calendar_file_and_page_tell_the_same(yard):
    events: list[Any] = Calendar.from_ical(yard.client.get(f"{yard.site}/calendar.ics").content).walk("VEVENT")
    sheet = calendar(yard)
    starts = sorted(event.start.isoformat() for event in events)
    last = (date.fromisoformat(sheet["first"]) + timedelta(days=len(sheet["days"]) - 1)).isoformat()
    assert [on for on in starts if on <= last] == sorted(occasion["on"] for occasion in sheet["occasions"])
    assert not any("{" in str(event["SUMMARY"]) for event in events), "amounts stand in the units of the site"


def test_machines_are_set_beside_the_barrow(yard):
    yard.buys(people=2, labour_per_h="20", carriers=["barrow"])
    headers = {"If-Match": f'"{yard.reads("buying")["version"]}"'}
    hire = yard.client.put(f"{yard.site}/hire", json={"units": "metric", "loader": "100"}, headers=headers)
    assert hire.status_code == 200, hire.text
    yard.buys(people=2, labour_per_h="20", carriers=["barrow"])
    sheet = yard.reads("machines")
    assert sheet["hire"] == {"cart": None, "loader": 100, "blower": None}, "who changes how is bought keeps them"
    ways = {way["way"]: way for way in sheet["ways"]}
    assert ways["barrow"]["hours"]["value"] == pytest.approx(yard.reads("moving")["hours"]["value"]), (
        "as the work page says"
    )
    assert ways["barrow"]["cost"] == pytest.approx(ways["barrow"]["hours"]["value"] * 20)
    assert ways["loader"]["cost"] == pytest.approx(ways["loader"]["hours"]["value"] * 20 + 100 * ways["loader"]["days"])
    assert ways["cart"]["cost"] is None, "nobody knows what its hire costs"
    assert ways["loader"]["hours"]["value"] < ways["barrow"]["hours"]["value"]
    assert (
        sheet["best"]
        == min((way for way in sheet["ways"] if way["cost"] is not None), key=lambda way: way["cost"])["way"]
    )


@pytest.mark.parametrize(
    ("loader", "sentence"),
    [
        ("lots", "“lots” is not an amount of money. Type it like 40, 12.50 or 1,250."),
        (-5, "This must be at least 0."),
        (1e12, "This must be at most 10,000,000."),
    ],
)
def test_a_bad_price_of_hire_gets_a_sentence_at_its_field(yard, loader, sentence):
    headers = {"If-Match": f'"{yard.reads("buying")["version"]}"'}
    answer = yard.client.put(f"{yard.site}/hire", json={"units": "metric", "loader": loader}, headers=headers)
    assert answer.status_code == 422
    assert answer.json()["errors"] == [{"field": "loader", "detail": sentence}]


def test_a_crew_with_too_long_a_name_is_one_fault(yard):
    season = yard.reads("tasks")["season_key"]
    wish = {"season": season, "plot_id": yard.plot_ids[0], "task": "chips", "crew": "x" * 80}
    answer = yard.client.put(f"{yard.site}/task-changes", json={"changes": [wish]})
    assert [error["field"] for error in answer.json()["errors"]] == ["changes.0.crew"]
    assert answer.json()["detail"] == "This is too long: 60 characters at most."
