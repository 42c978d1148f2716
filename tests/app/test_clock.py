"""What day it is: asked through the workspace, in the site's zone, at midnight and when clocks are changed."""

from datetime import UTC, date, datetime, timedelta
from uuid import UUID
from zoneinfo import ZoneInfo

import pytest
from sqlalchemy import update
from starlette.testclient import TestClient

from tests.conftest import CLOCK, HOST, TODAY, settings_for
from ulmatic.accounts.models import Workspace
from ulmatic.app import create_app
from ulmatic.platform.clock import MACHINE, Clock


def clock_at(moment: datetime) -> Clock:
    return Clock(moment - MACHINE.now())


@pytest.mark.parametrize(
    ("moment", "zone", "day"),
    [
        (datetime(2027, 12, 31, 23, 59, tzinfo=UTC), "UTC", date(2027, 12, 31)),
        (datetime(2027, 12, 31, 23, 1, tzinfo=UTC), "Europe/Amsterdam", date(2028, 1, 1)),
        (datetime(2028, 2, 29, 5, 30, tzinfo=UTC), "America/Chicago", date(2028, 2, 28)),
        (datetime(2028, 2, 28, 11, 30, tzinfo=UTC), "Pacific/Auckland", date(2028, 2, 29)),
        # On the night on which clocks go forward, and on that on which they go back.
        (datetime(2027, 3, 27, 22, 59, tzinfo=UTC), "Europe/Amsterdam", date(2027, 3, 27)),
        (datetime(2027, 3, 28, 22, 1, tzinfo=UTC), "Europe/Amsterdam", date(2027, 3, 29)),
        (datetime(2027, 10, 31, 22, 59, tzinfo=UTC), "Europe/Amsterdam", date(2027, 10, 31)),
        (datetime(2027, 10, 31, 23, 1, tzinfo=UTC), "Europe/Amsterdam", date(2027, 11, 1)),
    ],
)
def test_the_day_is_that_of_the_zone(moment, zone, day):
    assert clock_at(moment).today(ZoneInfo(zone)) == day


def test_a_workspace_counts_its_days_by_a_clock_of_its_own(owner, app):
    assert owner.reads("buying")
    before = owner.client.get(owner.site).json()["today"]
    with app.state.sessions.begin() as database:
        database.execute(update(Workspace).where(Workspace.id == UUID(owner.workspace_id)).values(days_ahead=111))
    assert before == TODAY.isoformat()
    assert owner.client.get(owner.site).json()["today"] == (TODAY + timedelta(days=111)).isoformat()
    owner.add_plot()
    assert owner.logs(TODAY + timedelta(days=111), kind="note").status_code == 201
    late = owner.logs(TODAY + timedelta(days=112), kind="note")
    assert late.status_code == 422
    assert late.json()["errors"][0]["field"] == "on"
    (workspace,) = owner.client.get("/api/v1/session").json()["workspaces"]
    assert workspace["clock_ahead_s"] == pytest.approx(CLOCK.ahead.total_seconds() + 111 * 86_400, abs=1e-3)


def test_a_demo_stands_on_the_day_that_was_asked_for(app):
    visitor = TestClient(app, base_url=HOST, headers={"Origin": HOST})
    session = visitor.post("/api/v1/session/demo", params={"on": "2028-02-29"}).json()
    sites = f"/api/v1/workspaces/{session['workspaces'][0]['id']}/sites"
    days = {visitor.get(f"{sites}/{site['site']['id']}").json()["today"] for site in visitor.get(sites).json()}
    assert days == {"2028-02-29"}
    assert (
        TestClient(app, base_url=HOST, headers={"Origin": HOST})
        .post("/api/v1/session/demo", params={"on": "1028-02-29"})
        .status_code
        == 422
    )


def test_the_settings_say_on_which_day_demos_stand(database_url):
    visitor = TestClient(
        create_app(settings_for(database_url, demo_on=date(2027, 3, 28))), base_url=HOST, headers={"Origin": HOST}
    )
    session = visitor.post("/api/v1/session/demo").json()
    sites = f"/api/v1/workspaces/{session['workspaces'][0]['id']}/sites"
    first = visitor.get(sites).json()[0]["site"]["id"]
    assert visitor.get(f"{sites}/{first}").json()["today"] == "2027-03-28"
