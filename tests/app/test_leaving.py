"""Where somebody is signed in, slow answers to guesses, what is taken out, and going for good."""

import io
import json
import time
import zipfile
from datetime import timedelta
from uuid import uuid4

import pytest
from sqlalchemy import func, select, update
from starlette.testclient import TestClient

from tests.app.test_stock import picture
from tests.conftest import CLOCK, HOST, PASSWORD, TODAY, settings_for
from ulmatic.accounts import guards
from ulmatic.accounts.models import Attempt, User, Workspace
from ulmatic.accounts.purge import purge
from ulmatic.app import create_app
from ulmatic.formats.archive import read_archive
from ulmatic.records.survey import PlotRow


def at_another_place(app, owner) -> TestClient:
    client = TestClient(app, base_url=HOST, headers={"Origin": HOST, "User-Agent": "Firefox on a phone"})
    email = owner.client.get("/api/v1/session").json()["user"]["email"]
    assert client.post("/api/v1/session", json={"email": email, "password": PASSWORD}).status_code == 200
    return client


def test_one_sees_where_one_is_signed_in_and_signs_out_there(app, owner, new_person):
    phone = at_another_place(app, owner)
    devices = {row["device"]: row for row in owner.client.get("/api/v1/account/sign-ins").json()}
    assert [row["here"] for row in devices.values()].count(True) == 1
    address = f"/api/v1/account/sign-ins/{devices['Firefox on a phone']['id']}"
    assert new_person().client.delete(address).status_code == 404
    assert owner.client.delete(address).status_code == 204
    assert phone.get("/api/v1/session").json()["user"] is None
    assert owner.client.get("/api/v1/session").json()["user"]


def test_wrong_passwords_slow_an_account_down_and_never_lock_its_owner_out(database_url, monkeypatch):
    monkeypatch.setattr(guards, "LONGEST_DELAY_S", 0.3)
    app = create_app(settings_for(database_url, attempts="10 per hour"))
    client = lambda: TestClient(app, base_url=HOST, headers={"Origin": HOST}, client=(uuid4().hex, 50_000))  # noqa: E731
    who = {"email": f"{uuid4().hex}@example.org", "password": PASSWORD}
    client().post("/api/v1/accounts", json=who | {"name": "Kim"})
    guessed = select(Attempt.key).group_by(Attempt.key).having(func.count() == 12)
    with app.state.sessions.begin() as database:
        others = set(database.scalars(guessed))
    statuses = [client().post("/api/v1/session", json=who | {"password": "a guess"}).status_code for _ in range(12)]
    assert statuses == [401] * 12
    assert app.state.attempts.delay_s(who["email"].upper()) == 0.3
    with app.state.sessions.begin() as database:
        (key,) = set(database.scalars(guessed)) - others
        database.add_all([Attempt(key=key) for _ in range(2_000)])
    assert app.state.attempts.delay_s(who["email"]) == 0.3, "however many there are"
    started = time.monotonic()
    assert client().post("/api/v1/session", json=who).status_code == 200
    assert time.monotonic() - started >= 0.3
    assert app.state.attempts.delay_s(who["email"]) == 0


@pytest.mark.parametrize("password", ["password123", "1234567890", "qwertzuiop", "kim@example", "aaaaaaaaaaaaaaaa"])
def test_what_is_guessed_first_is_no_password(stranger, password):
    entry = {"name": "Kim", "email": "kim@example.org", "password": password}
    answer = stranger.client.post("/api/v1/accounts", json=entry)
    assert (answer.status_code, answer.json()["errors"][0]["field"]) == (422, "password")


def test_a_workspace_is_taken_out_whole(owner):
    owner.add_plot(name="=cmd()")
    owner.add_supplier(name="Quarry Lane")
    owner.add_landmark()
    owner.receives(name="Big load")
    (delivery,) = owner.reads("stock")["deliveries"]
    photo_id = uuid4()
    address = f"{owner.site}/deliveries/{delivery['id']}/photos/{photo_id}"
    assert owner.client.put(address, content=picture()).status_code == 204
    answer = owner.client.get(f"/api/v1/workspaces/{owner.workspace_id}/export.zip")
    with zipfile.ZipFile(io.BytesIO(answer.content)) as file:
        names = file.namelist()
        (site,) = [name for name in names if name.startswith("sites/")]
        assert read_archive(file.read(site), TODAY).to_site().plots[0].plot.name == "=cmd()"
        [photo] = [name for name in names if name.startswith("photos/")]
        assert file.read(photo).startswith(b"\xff\xd8")
        assert [row["name"] for row in json.loads(file.read("suppliers.json"))] == ["Quarry Lane"]
        assert json.loads(file.read("workspace.json"))["members"][0]["role"] == "owner"
        assert [row["kind"] for row in json.loads(file.read("book.json"))]


def test_who_leaves_can_come_back_for_a_while_and_is_then_gone(app, owner):
    wrong = owner.client.post("/api/v1/account/departure", json={"password": "not mine"})
    assert (wrong.status_code, wrong.json()["errors"][0]["field"]) == (422, "password")
    email = owner.client.get("/api/v1/session").json()["user"]["email"]
    who = {"email": email, "password": PASSWORD}
    assert owner.client.post("/api/v1/account/departure", json={"password": PASSWORD}).status_code == 200
    assert owner.client.get(owner.sites).status_code == 401
    session = owner.client.post("/api/v1/session", json=who).json()
    assert session["workspaces"][0]["leaves_at"] is None, "signing in takes it back"
    owner.client.post("/api/v1/account/departure", json={"password": PASSWORD})
    with app.state.sessions() as database:
        deadline = CLOCK.now() - timedelta(seconds=1)
        database.execute(update(User).where(User.email == email).values(leaves_at=deadline))
        database.execute(update(Workspace).where(Workspace.id == owner.workspace_id).values(leaves_at=deadline))
        database.commit()
        purge(database)
        assert database.get(Workspace, owner.workspace_id) is None
    assert owner.client.post("/api/v1/session", json=who).status_code == 401


def test_nobody_leaves_others_without_an_owner(owner, new_person):
    other = new_person().joins(owner, "crew")
    refused = owner.client.post("/api/v1/account/departure", json={"password": PASSWORD})
    assert (refused.status_code, "Make another member owner" in refused.json()["detail"]) == (409, True)
    assert other.client.get(owner.sites).status_code == 200


def test_a_workspace_goes_after_a_while_and_an_owner_can_keep_it(owner):
    address = f"/api/v1/workspaces/{owner.workspace_id}"
    leaves_at = owner.client.post(f"{address}/departure").json()["leaves_at"]
    assert owner.client.get("/api/v1/session").json()["workspaces"][0]["leaves_at"] == leaves_at
    assert owner.client.post(f"{address}/restoration").json()["leaves_at"] is None


def test_what_was_deleted_a_month_ago_is_purged_and_what_was_yesterday_is_not(app, owner):
    plots = [owner.add_plot(name=name)["plot"]["id"] for name in ("Old", "New", "There")]
    for plot, days in zip(plots, (31, 1), strict=False):
        owner.client.delete(f"{owner.site}/plots/{plot}")
        with app.state.sessions.begin() as database:
            deleted_at = CLOCK.now() - timedelta(days=days)
            database.execute(update(PlotRow).where(PlotRow.id == plot).values(deleted_at=deleted_at))
    with app.state.sessions() as database:
        purge(database)
    assert owner.client.post(f"{owner.site}/plots/{plots[0]}/restoration").status_code == 404
    assert owner.client.post(f"{owner.site}/plots/{plots[1]}/restoration").status_code in (200, 204)
    assert {plot["name"] for plot in owner.client.get(owner.site).json()["plots"]} == {"New", "There"}
