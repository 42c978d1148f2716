import json
from uuid import uuid4

import pytest
from sqlalchemy import text
from starlette.testclient import TestClient

from tests.conftest import HOST, PASSWORD, settings_for
from ulmatic.app import create_app


def entry(**changes) -> dict:
    return {"name": "Kim", "email": f"{uuid4().hex}@example.org", "password": PASSWORD} | changes


def test_sign_up_in_and_out(stranger):
    who = entry()
    answer = stranger.client.post("/api/v1/accounts", json=who)
    assert answer.json()["workspaces"][0]["name"] == "Kim’s ground"
    assert stranger.client.delete("/api/v1/session").status_code == 204
    assert stranger.client.get("/api/v1/session").json()["user"] is None
    wrong = stranger.client.post("/api/v1/session", json={"email": who["email"], "password": "not this one"})
    assert wrong.status_code == 401
    unknown = stranger.client.post("/api/v1/session", json={"email": "nobody@example.org", "password": "not this one"})
    assert unknown.json()["detail"] == wrong.json()["detail"]
    right = stranger.client.post("/api/v1/session", json={"email": who["email"].upper(), "password": PASSWORD})
    assert right.json()["user"]["name"] == "Kim"


def test_the_cookie_is_kept_from_scripts_and_other_sites_and_the_token_from_the_database(stranger, app):
    answer = stranger.client.post("/api/v1/accounts", json=entry())
    cookie = answer.headers["set-cookie"].lower()
    assert "httponly" in cookie
    assert "samesite=lax" in cookie
    token = stranger.client.cookies["ulmatic_session"]
    with app.state.sessions() as database:
        token_hashes = database.execute(text("SELECT token_hash::text FROM sign_ins")).scalars().all()
        hashes = database.execute(text("SELECT password_hash FROM users")).scalars().all()
    assert all(token not in stored for stored in token_hashes)
    assert all(hash.startswith("$argon2id$") for hash in hashes)


def test_a_session_ends_when_signed_out_even_if_the_cookie_was_copied(stranger, app):
    stranger.client.post("/api/v1/accounts", json=entry())
    thief = TestClient(app, base_url=HOST, cookies=dict(stranger.client.cookies))
    assert thief.get("/api/v1/session").json()["user"]
    stranger.client.delete("/api/v1/session")
    assert thief.get("/api/v1/session").json()["user"] is None


@pytest.mark.parametrize(
    ("changes", "field"),
    [
        ({"email": "not an address"}, "email"),
        ({"password": "short"}, "password"),
        ({"name": ""}, "name"),
        ({"name": "a\x00b"}, "name"),
        ({"password": "x" * 300}, "password"),
        ({"email": "a\ud800@b.c"}, "email"),
    ],
)
def test_a_bad_entry_is_answered_at_its_field(stranger, changes, field):
    body = json.dumps(entry(**changes))
    answer = stranger.client.post("/api/v1/accounts", content=body, headers={"Content-Type": "application/json"})
    assert answer.status_code == 422
    assert [error["field"] for error in answer.json()["errors"]] == [field]


def test_an_address_has_one_account(stranger):
    who = entry()
    stranger.client.post("/api/v1/accounts", json=who)
    second = stranger.client.post("/api/v1/accounts", json=who | {"email": who["email"].upper()})
    assert (second.status_code, second.json()["errors"][0]["field"]) == (409, "email")


def test_attempts_are_limited_per_address(database_url):
    client = TestClient(
        create_app(settings_for(database_url, attempts="3 per minute")),
        base_url=HOST,
        headers={"Origin": HOST},
        client=(uuid4().hex, 50_000),
    )
    guess = lambda: {"email": f"{uuid4().hex}@example.org", "password": "a guess"}  # noqa: E731
    statuses = [client.post("/api/v1/session", json=guess()).status_code for _ in range(11)]
    assert statuses == [401] * 9 + [429] * 2
    assert client.post("/api/v1/session", json=guess()).headers["retry-after"] == "60"


@pytest.mark.parametrize(
    "headers",
    [{"Origin": "https://elsewhere.example"}, {"Origin": "null"}, {"Origin": ""}, {"Sec-Fetch-Site": "cross-site"}],
)
def test_other_origins_change_nothing(owner, headers):
    if "Origin" not in headers:
        del owner.client.headers["Origin"]
    assert owner.client.post(owner.sites, json={}, headers=headers).status_code == 403
    assert owner.client.get(owner.sites).status_code == 200


def test_a_cookie_without_an_origin_changes_nothing(owner):
    del owner.client.headers["Origin"]
    assert owner.client.delete(owner.site).status_code == 403


def test_an_unknown_host_is_not_served(stranger):
    for path in ("/", "/api/v1/session"):
        assert stranger.client.get(path, headers={"Host": "rebound.example"}).status_code == 400
    for path in ("/healthz", "/readyz"):
        assert stranger.client.get(path, headers={"Host": "10.0.0.5:8420"}).status_code == 200, "asked by address"


def test_an_invitation_works_once_and_never_lowers_a_role(owner, new_person):
    invited = owner.client.post(f"/api/v1/workspaces/{owner.workspace_id}/invitations", json={"role": "crew"}).json()
    link, address = {"token": invited["token"]}, "/api/v1/invitation"
    assert owner.client.post(address, json=link).json() == {"workspace": "Own ground", "role": "crew"}
    assert owner.client.post(f"{address}/acceptance", json=link).json()["role"] == "owner"
    assert new_person().client.post(f"{address}/acceptance", json=link).status_code == 404


def test_somebody_new_joins_by_signing_up_with_an_invitation(owner, stranger):
    invited = owner.client.post(f"/api/v1/workspaces/{owner.workspace_id}/invitations", json={"role": "viewer"}).json()
    joined = stranger.client.post("/api/v1/accounts", json=entry(invitation=invited["token"])).json()
    assert [(workspace["id"], workspace["role"]) for workspace in joined["workspaces"]] == [
        (owner.workspace_id, "viewer")
    ]


def test_a_workspace_keeps_an_owner(owner, new_person):
    me = owner.client.get("/api/v1/session").json()["user"]["id"]
    members = f"/api/v1/workspaces/{owner.workspace_id}/members"
    assert owner.client.patch(f"{members}/{me}", json={"role": "crew"}).status_code == 409
    assert owner.client.delete(f"{members}/{me}").status_code == 409
    other = new_person().joins(owner, "crew")
    them = other.client.get("/api/v1/session").json()["user"]["id"]
    assert owner.client.patch(f"{members}/{them}", json={"role": "owner"}).json()["role"] == "owner"
    assert owner.client.delete(f"{members}/{me}").status_code == 204
    assert owner.client.get(owner.sites).status_code == 404


def test_a_new_password_signs_other_devices_out(owner, app):
    elsewhere = TestClient(app, base_url=HOST, cookies=dict(owner.client.cookies))
    email = owner.client.get("/api/v1/session").json()["user"]["email"]
    other = TestClient(app, base_url=HOST, headers={"Origin": HOST})
    other.post("/api/v1/session", json={"email": email, "password": PASSWORD})
    wrong = owner.client.post("/api/v1/account/password", json={"current": "no", "new": "another four words"})
    assert wrong.json()["errors"][0]["field"] == "current"
    change = {"current": PASSWORD, "new": "another four words"}
    assert owner.client.post("/api/v1/account/password", json=change).status_code == 204
    assert other.get("/api/v1/session").json()["user"] is None
    assert elsewhere.get("/api/v1/session").json()["user"]


def test_units_are_remembered_per_person(owner):
    owner.client.patch("/api/v1/account", json={"name": "Pat Two", "units": "us"})
    user = owner.client.get("/api/v1/session").json()["user"]
    assert (user["name"], user["units"]) == ("Pat Two", "us")
