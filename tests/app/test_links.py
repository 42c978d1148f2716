"""Links without an account: a calendar, and a site as its client sees it."""

from datetime import datetime, timedelta
from typing import Any
from uuid import uuid4

import pytest
from icalendar import Calendar
from sqlalchemy import update

from tests.app.test_stock import picture
from tests.conftest import BINARY, CLOCK, TODAY
from ulmatic.accounts.models import LinkRow


@pytest.fixture
def yard(owner):
    owner.add_site(name="Client yard", climate={"kind": "class", "name": "cool_maritime"})
    owner.add_plot(name="Rose bed")
    owner.add_supplier(name="Secret supplier")
    owner.buys(people=2, labour_per_h="30")
    return owner


def days_of_work(person, site: str | None = None) -> list[str]:
    """Days of the running season on which there is work, as the calendar's page has them."""
    span = {"first": TODAY.isoformat(), "last": (TODAY + timedelta(days=365)).isoformat()}
    sheet = person.client.get(f"{site or person.site}/calendar", params=span).json()
    season = person.client.get(f"{site or person.site}/tasks").json()["season_key"]
    of_season = [
        occasion for occasion in sheet["occasions"] if occasion["kind"] == "work" and occasion["season"] == season
    ]
    return sorted({occasion["on"] for occasion in of_season})


def link(person, kind: str, **more) -> dict:
    answer = person.client.post(f"{person.site}/links", json={"kind": kind} | more)
    assert answer.status_code == 201, answer.text
    return answer.json()


def quoted(person) -> str:
    answer = person.client.post(f"{person.site}/quotes", json={"id": str(uuid4()), "client": "Ida"})
    assert answer.status_code == 201, answer.text
    return answer.json()["id"]


def test_the_calendar_is_read_back_by_another_parser_and_says_what_the_pages_say(yard):
    answer = yard.client.get(f"{yard.site}/calendar.ics")
    assert answer.headers["content-type"].startswith("text/calendar")
    events: list[Any] = Calendar.from_ical(answer.content).walk("VEVENT")
    work = {event.start.isoformat(): str(event["SUMMARY"]) for event in events if ".work." in event.uid}
    days = days_of_work(yard)
    assert set(days) <= set(work)
    assert all("Rose bed" in work[day] for day in days)
    season = yard.reads("seasons")["seasons"][0]
    [opened] = [event for event in events if f".season.{season['key'].replace(' ', '.')}@" in event.uid]
    assert opened.start.isoformat() == season["opens"]
    assert (opened.end - timedelta(days=1)).isoformat() == season["closes"]
    assert len({event["UID"] for event in events}) == len(events)


def test_a_feed_needs_no_account_and_can_be_revoked(yard, stranger):
    feed_link = link(yard, "calendar")
    feed = f"/api/v1/calendars/{feed_link['token']}.ics"
    assert b"Rose bed" in stranger.client.get(feed).content
    assert stranger.client.get(f"/api/v1/client-links/{feed_link['token']}").status_code == 404, (
        "it is a calendar alone"
    )
    assert all(link["token"] is None for link in yard.reads("links")), "told once"
    assert yard.client.delete(f"{yard.site}/links/{feed_link['id']}").status_code == 204
    assert stranger.client.get(feed).status_code == 404
    assert yard.reads("links") == []


def test_a_client_sees_plan_dates_quote_and_photos_of_one_site_and_nothing_else(yard, stranger):
    photo_id = str(uuid4())
    assert yard.client.put(f"{yard.site}/photos/{photo_id}", content=picture(), headers=BINARY).status_code == 201
    quote = quoted(yard)
    first = yard.site
    token = link(yard, "client")["token"]
    yard.add_site(name="Other yard")
    other_photo = str(uuid4())
    assert yard.client.put(f"{yard.site}/photos/{other_photo}", content=picture(), headers=BINARY).status_code == 201
    page = f"/api/v1/client-links/{token}"
    sheet = stranger.client.get(page).json()
    assert (sheet["site"], [plot["name"] for plot in sheet["plots"]]) == ("Client yard", ["Rose bed"])
    assert sheet["quote"]["id"] == quote
    assert sheet["days"] == days_of_work(yard, first)
    assert set(sheet) == {"site", "units", "plots", "season", "opens", "closes", "days", "quote", "photos"}
    assert stranger.client.get(f"{page}/photos/{photo_id}").status_code == 200
    assert stranger.client.get(f"{page}/photos/{other_photo}").status_code == 422
    assert stranger.client.get(first).status_code == 401, "nothing but the link"


def test_a_quote_is_accepted_once_with_name_and_time(yard, stranger):
    quote = quoted(yard)
    acceptance = f"/api/v1/client-links/{link(yard, 'client')['token']}/acceptance"
    assert stranger.client.post(acceptance, json={"quote_id": quote, "name": "  "}).status_code == 422
    assert stranger.client.post(acceptance, json={"quote_id": str(uuid4()), "name": "Ida"}).status_code == 404
    accepted = stranger.client.post(acceptance, json={"quote_id": quote, "name": "Ida Quill"}).json()
    assert accepted["accepted_by"] == "Ida Quill"
    second = stranger.client.post(acceptance, json={"quote_id": quote, "name": "Somebody else"}).json()
    assert second["accepted_by"] == "Ida Quill", "the first stands"
    [kept_quote] = yard.reads("quotes")["kept"]
    assert kept_quote["accepted_by"] == "Ida Quill"
    assert datetime.fromisoformat(kept_quote["accepted_at"]).date() == TODAY


def test_an_expired_link_shows_nothing(app, yard, stranger):
    expired = link(yard, "client", days=1)
    with app.state.sessions() as database:
        past = CLOCK.now() - timedelta(minutes=1)
        database.execute(update(LinkRow).where(LinkRow.id == expired["id"]).values(expires_at=past))
        database.commit()
    answer = stranger.client.get(f"/api/v1/client-links/{expired['token']}")
    assert (answer.status_code, "expired" in answer.text) == (404, True)
    assert yard.client.post(f"{yard.site}/links", json={"kind": "client", "days": 0}).status_code == 422
