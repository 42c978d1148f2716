"""Walks every route of the OpenAPI document as everybody who must not get through."""

from datetime import UTC, datetime
from uuid import uuid4

import pytest

from tests.app.test_stock import picture
from tests.conftest import CLOCK, TODAY, described_api
from ulmatic.records.supply import OfferRow

PUBLIC = {
    ("get", "/api/v1/session"),
    ("post", "/api/v1/session"),
    ("delete", "/api/v1/session"),
    ("post", "/api/v1/session/demo"),
    ("post", "/api/v1/accounts"),
    ("post", "/api/v1/invitation"),
    ("post", "/api/v1/account/verification"),
    ("post", "/api/v1/password-letters"),
    ("post", "/api/v1/passwords"),
    ("get", "/api/v1/uses"),
    ("get", "/api/v1/kinds"),
    ("get", "/api/v1/carriers"),
    ("get", "/api/v1/climates"),
    ("get", "/api/v1/regions"),
    ("get", "/api/v1/practices"),
    ("get", "/api/v1/load-questions"),
    ("post", "/api/v1/load-guess"),
    ("get", "/api/v1/plot-template.{ending}"),
    ("get", "/api/v1/site-archive.schema.json"),
    ("get", "/api/v1/calendars/{token}.ics"),
    ("get", "/api/v1/client-links/{token}"),
    ("get", "/api/v1/client-links/{token}/photos/{photo_id}"),
    ("post", "/api/v1/client-links/{token}/acceptance"),
}
COMPUTES_ONLY = {
    "/api/v1/workspaces/{workspace_id}/sites/{site_id}/estimate",
    "/api/v1/workspaces/{workspace_id}/sites/{site_id}/landmark-estimate",
    "/api/v1/workspaces/{workspace_id}/pile-mix",
    "/api/v1/workspaces/{workspace_id}/sites/{site_id}/receipt-estimate",
    "/api/v1/workspaces/{workspace_id}/sites/{site_id}/log/estimate",
    "/api/v1/workspaces/{workspace_id}/sites/{site_id}/rows/trial",
    "/api/v1/workspaces/{workspace_id}/lanes",
}
OWNERS_ONLY = {
    ("patch", "/api/v1/workspaces/{workspace_id}"),
    ("patch", "/api/v1/workspaces/{workspace_id}/members/{user_id}"),
    ("delete", "/api/v1/workspaces/{workspace_id}/members/{user_id}"),
    ("get", "/api/v1/workspaces/{workspace_id}/invitations"),
    ("post", "/api/v1/workspaces/{workspace_id}/invitations"),
    ("delete", "/api/v1/workspaces/{workspace_id}/invitations/{invitation_id}"),
    ("delete", "/api/v1/workspaces/{workspace_id}/sites/{site_id}"),
    ("post", "/api/v1/workspaces/{workspace_id}/departure"),
    ("post", "/api/v1/workspaces/{workspace_id}/restoration"),
    ("get", "/api/v1/workspaces/{workspace_id}/export.zip"),
    ("post", "/api/v1/workspaces/{workspace_id}/sites/{site_id}/restoration"),
}
SECRET = "Nobody-else-may-read-this"


@pytest.fixture
def routes():
    operations = [(method, path) for path, item in described_api()["paths"].items() for method in item]
    assert len(operations) >= 30
    return operations


@pytest.fixture
def victim(new_person, app):
    person = new_person(SECRET)
    person.add_site(name=SECRET)
    person.add_plot(name=SECRET)
    person.material_id = person.add_material(name=SECRET)["material"]["key"]
    person.landmark_id = person.add_landmark(name=SECRET)["id"]
    person.supplier_id = person.add_supplier(name=SECRET)["id"]
    person.pile_id = person.receives(name=SECRET, landmark_id=person.landmark_id)["id"]
    stock = person.reads("stock")
    person.delivery_id, person.line_id = stock["deliveries"][0]["id"], stock["lines"][0]["id"]
    person.photo_id = str(uuid4())
    address = f"{person.site}/deliveries/{person.delivery_id}/photos/{person.photo_id}"
    assert person.client.put(address, content=picture()).status_code == 204
    quote = person.client.post(f"{person.site}/quotes", json={"id": str(uuid4()), "client": SECRET})
    assert quote.status_code == 201, quote.text
    person.quote_id = quote.json()["id"]
    person.entry_id = person.logs(TODAY, kind="measured", depth_mm="40").json()["id"]
    person.link_id = person.client.post(f"{person.site}/links", json={"kind": "client"}).json()["id"]
    person.own_id = str(uuid4())
    change = {
        "season": person.reads("tasks")["season_key"],
        "plot_id": person.plot_ids[0],
        "task": "own",
        "own": person.own_id,
        "words": SECRET,
        "hours": 1,
    }
    assert person.client.put(f"{person.site}/task-changes", json={"changes": [change]}).status_code == 200
    person.offer_id = str(uuid4())
    with app.state.sessions() as session:
        offer = {
            "id": "1",
            "revision": 1,
            "crew": SECRET,
            "species": [],
            "least_m3": 4,
            "likely_m3": 5,
            "most_m3": 6,
            "distance_km": 3,
            "ready_on": "2030-01-01",
            "expires_at": "2030-01-01T00:00:00Z",
            "state": "open",
        }
        session.add(
            OfferRow(
                workspace_id=person.workspace_id,
                id=person.offer_id,
                reference=person.offer_id,
                offer=offer,
                state="open",
                heard_at=CLOCK.now(),
                expires_at=datetime(2030, 1, 1, tzinfo=UTC),
            )
        )
        session.commit()
    address = f"/api/v1/workspaces/{person.workspace_id}/invitations"
    person.invitation_id = person.client.post(address, json={"role": "crew"}).json()["id"]
    person.errand_id = person.client.post(f"{person.site}/weather/refresh").json()["id"]
    person.sign_in_id = person.client.get("/api/v1/account/sign-ins").json()[0]["id"]
    person.user_id = person.client.get("/api/v1/session").json()["user"]["id"]
    return person


def endings(path: str) -> str:
    return "csv" if "quotes" in path or "template" in path else "json"


def addressed(path: str, victim, workspace_id: str | None = None) -> str:
    """Fill a route's path with what belongs to the victim."""
    return path.format(
        workspace_id=workspace_id or victim.workspace_id,
        site_id=victim.site_id,
        plot_id=victim.plot_ids[0],
        material_id=victim.material_id,
        landmark_id=victim.landmark_id,
        supplier_id=victim.supplier_id,
        pile_id=victim.pile_id,
        delivery_id=victim.delivery_id,
        entry_id=victim.entry_id,
        photo_id=victim.photo_id,
        errand_id=victim.errand_id,
        quote_id=victim.quote_id,
        offer_id=victim.offer_id,
        line_id=victim.line_id,
        user_id=victim.user_id,
        invitation_id=victim.invitation_id,
        sign_in_id=victim.sign_in_id,
        key="schedule.spare",
        link_id=victim.link_id,
        own_id=victim.own_id,
        token="not-a-token-that-anybody-has-been-given",
        ending=endings(path),
    )


def walk(client, victim, routes, workspace_id=None):
    """Call every route on the victim's rows and give back what came."""
    for method, path in routes:
        address = addressed(path, victim, workspace_id)
        body = None if method in ("get", "delete") else {}
        answer = client.request(method, address, json=body, headers={"If-Match": '"1"'})
        assert SECRET not in answer.text, f"{method} {path} leaks"
        assert answer.status_code < 500, f"{method} {path}: {answer.text}"
        yield method, path, answer


def state(victim):
    parts = ("stock", "orders", "quotes", "seasons", "log")
    offers = victim.client.get(f"/api/v1/workspaces/{victim.workspace_id}/offers").json()
    answers = [victim.reads(part) for part in parts]
    return victim.client.get(victim.site).json(), victim.client.get(victim.sites).json(), answers, offers


def test_a_stranger_gets_nowhere(stranger, victim, routes):
    before = state(victim)
    for method, path, answer in walk(stranger.client, victim, routes):
        if (method, path) not in PUBLIC:
            assert answer.status_code == 401, f"{method} {path}"
        stranger.client.cookies.clear()
    assert state(victim) == before


def test_an_owner_of_another_workspace_finds_nothing_there(owner, victim, routes):
    before = state(victim)
    others = [(method, path) for method, path in routes if "{workspace_id}" in path]
    for method, path, answer in walk(owner.client, victim, others):
        assert answer.status_code == 404, f"{method} {path}"
    assert state(victim) == before


def test_nobody_reaches_anothers_rows_through_their_own_workspace(owner, victim, routes):
    before = state(victim)
    nested = [(method, path) for method, path in routes if path.replace("{key}", "").count("{") > 1]
    for method, path, answer in walk(owner.client, victim, nested, owner.workspace_id):
        assert answer.status_code in (404, 422), f"{method} {path}: {answer.status_code}"
    assert state(victim) == before


def test_a_viewer_only_reads(new_person, victim, routes):
    viewer = new_person().joins(victim, "viewer")
    of_workspaces = [(method, path) for method, path in routes if "{workspace_id}" in path]
    before = state(victim)
    for method, path in of_workspaces:
        address = addressed(path, victim)
        answer = viewer.client.request(method, address, json={} if method not in ("get", "delete") else None)
        if (method, path) in OWNERS_ONLY or (method != "get" and path not in COMPUTES_ONLY):
            assert answer.status_code == 403, f"{method} {path}"
        else:
            assert answer.status_code in (200, 422), f"{method} {path}"
    assert state(victim) == before


def test_crew_edits_and_leaves_the_rest_to_owners(new_person, victim):
    crew = new_person().joins(victim, "crew")
    crew.workspace_id, crew.site_id = victim.workspace_id, victim.site_id
    crew.add_plot(name="By the crew")
    for method, path in OWNERS_ONLY:
        address = addressed(path, victim)
        answer = crew.client.request(method, address, json={} if method not in ("get", "delete") else None)
        assert answer.status_code == 403, f"{method} {path}"
