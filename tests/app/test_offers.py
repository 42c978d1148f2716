"""The inbox against the chip service that ships: over HTTP, with changes, withdrawals, slowness and silence."""

from datetime import UTC, date, datetime, timedelta
from socket import create_server
from threading import Thread
from uuid import UUID

import httpx2
import pytest
import uvicorn
from sqlalchemy import update

from tests.conftest import CLOCK
from ulmatic.accounts.models import Workspace
from ulmatic.platform import asking
from ulmatic.platform.cluster import free_port
from ulmatic.standins.chips import create_service, offers_of
from ulmatic.supply import crews as client
from ulmatic.supply.crews import Crews


class Stand:
    """The stand-in on a port of its own, with a clock that the test moves."""

    def __init__(self, seed=7, **options):
        self.now = CLOCK.now()
        self.app = create_service(seed, lambda: self.now, **options)
        # The socket listens before the server runs: what asks early is queued, and nobody has to wait.
        listening = create_server(("127.0.0.1", 0))
        self.port = listening.getsockname()[1]
        self.server = uvicorn.Server(uvicorn.Config(self.app, log_level="critical"))
        self.thread = Thread(target=self.server.run, args=([listening],), daemon=True)
        self.thread.start()

    @property
    def url(self) -> str:
        return f"http://127.0.0.1:{self.port}"

    @property
    def service(self):
        return self.app.state.service

    def offer(self, **changes):
        """Put one offer there, and nothing else."""
        (offer, *_) = offers_of(self.now.date(), 7)
        fields = {
            "id": "one",
            "crew": "Two Saws",
            "species": ["lime"],
            "likely_m3": 8.0,
            "posted": self.now - timedelta(hours=1),
            "expires": self.now + timedelta(hours=20),
            "changes_at": None,
            "withdrawn_at": None,
            "fee": 20.0,
            "ready_on": date(self.now.year + 1, 6, 1),
        } | changes
        for name, value in fields.items():
            setattr(offer, name, value)
        self.service.days = {self.now.date() - timedelta(days=days_back): [] for days_back in range(3)}
        self.service.days[self.now.date()] = [offer]
        return offer

    def stop(self):
        self.server.should_exit = True
        self.thread.join()


@pytest.fixture
def stand(app):
    service = Stand()
    before, app.state.crews = app.state.crews, Crews(service.url)
    yield service
    service.stop()
    app.state.crews = before


def heard(person) -> str | None:
    """Have the service asked; return what was wrong."""
    errand = person.awaits(person.client.post(f"/api/v1/workspaces/{person.workspace_id}/offers/refresh"))
    return errand["problem"] and errand["problem"]["detail"]


def inbox(person, refresh=True) -> list[dict]:
    """Return the offers, asked for first unless what was heard will do."""
    if refresh:
        assert heard(person) is None
    address = f"/api/v1/workspaces/{person.workspace_id}/offers"
    answer = person.client.get(address, params={"site_id": person.site_id})
    assert answer.status_code == 200, answer.text
    assert answer.json()["simulated"] is True
    return answer.json()["offers"]


def accept(person, offer) -> dict | None:
    """Have an offer taken; return the problem."""
    address = f"/api/v1/workspaces/{person.workspace_id}/offers/{offer['id']}/acceptance"
    return person.awaits(person.client.post(address, json={"site_id": person.site_id}))["problem"]


def decline(person, offer):
    return person.client.post(f"/api/v1/workspaces/{person.workspace_id}/offers/{offer['id']}/refusal")


def test_an_offer_says_what_it_would_do_and_once_taken_is_expected(owner, stand):
    owner.add_plot()
    owner.add_landmark()
    stand.offer()
    (offer,) = inbox(owner)
    assert (offer["crew"], offer["size"], offer["state"]) == (
        "Two Saws",
        {"least_m3": 5.6, "likely_m3": 8.0, "most_m3": 10.0},
        "open",
    )
    effect = offer["effect"]
    assert (effect["material"], effect["whole"]) == ("arborist_leafy", ["Rose bed"]), "lime in June is in leaf"
    assert effect["over_m3"] == pytest.approx((5.6 + 8 + 10) / 3 - effect["short_before_m3"])
    assert effect["tips"][0]["fits"] is True
    assert accept(owner, offer) is None
    (load,) = owner.reads("stock")["deliveries"]
    assert (load["name"], load["cost"], load["from_offer"]) == ("Two Saws", 20, True)
    assert stand.service.listed()[0]["state"] == "taken"
    assert accept(owner, offer) is None, "accepting twice takes it once"
    assert len(owner.reads("stock")["deliveries"]) == 1


def test_a_load_that_falls_through_is_expected_no_more(owner, stand):
    offer = stand.offer()
    assert accept(owner, inbox(owner)[0]) is None
    offer.withdrawn_at = stand.now
    assert inbox(owner)[0]["state"] == "fell_through"
    (load,) = owner.reads("stock")["deliveries"]
    assert (load["state"], load["note"]) == ("cancelled", "lime The crew cancelled it.")


def test_an_offer_that_was_changed_must_be_looked_at_again(owner, stand):
    offer = stand.offer()
    (entry,) = inbox(owner)
    offer.changes_at = stand.now
    refused = accept(owner, entry)
    assert refused["status"] == 409
    assert "changed this offer" in refused["detail"]
    (now,) = inbox(owner, refresh=False)
    assert (now["changed"], now["size"]["likely_m3"]) == (True, 5.6)
    assert accept(owner, now) is None


def test_an_offer_another_took_or_that_is_gone_is_refused(owner, stand):
    offer = stand.offer()
    (entry,) = inbox(owner)
    offer.taken_with.add("another")
    assert accept(owner, entry)["status"] == 409
    assert inbox(owner, refresh=False)[0]["state"] == "fell_through"
    assert owner.reads("stock")["deliveries"] == []


def test_what_is_no_longer_listed_fell_through_and_what_is_over_expired(owner, stand, app):
    stand.offer()
    inbox(owner)
    stand.service.days[stand.now.date()] = []
    assert inbox(owner)[0]["state"] == "fell_through"
    stand.offer(id="two", expires=stand.now + timedelta(hours=1))
    two = next(offer for offer in inbox(owner) if offer["state"] == "open")
    with app.state.sessions.begin() as database:
        database.execute(update(Workspace).where(Workspace.id == UUID(owner.workspace_id)).values(days_ahead=1))
    states = {offer["id"]: offer["state"] for offer in inbox(owner, refresh=False)}
    assert states[two["id"]] == "expired"
    assert accept(owner, two)["status"] == 409


def test_a_declined_offer_stays_declined(owner, stand):
    stand.offer()
    (offer,) = inbox(owner)
    assert decline(owner, offer).status_code == 204
    assert inbox(owner)[0]["state"] == "declined"
    assert accept(owner, offer)["status"] == 409


def test_each_workspace_has_an_inbox_of_its_own(owner, new_person, stand):
    stand.offer()
    other = new_person()
    other.add_site()
    ours, theirs = inbox(owner)[0], inbox(other)[0]
    assert ours["id"] != theirs["id"]
    address = f"/api/v1/workspaces/{other.workspace_id}/offers/{ours['id']}/acceptance"
    assert other.client.post(address, json={"site_id": other.site_id}).status_code == 404
    assert accept(owner, ours) is None
    assert accept(other, theirs)["status"] == 409, "the crew has one load"


def test_a_service_that_fails_now_and_then_is_asked_again(owner, app, monkeypatch):
    monkeypatch.setattr(asking, "PAUSE_S", 0.01)
    stand = Stand()
    stand.offer()
    fails = iter([True, True, False, True, False])
    monkeypatch.setattr(stand.service, "fails", lambda: next(fails))
    before, app.state.crews = app.state.crews, Crews(stand.url)
    try:
        (offer,) = inbox(owner)
        assert accept(owner, offer) is None
        assert len(owner.reads("stock")["deliveries"]) == 1
    finally:
        app.state.crews = before
        stand.stop()


def test_an_answer_that_was_lost_takes_the_load_once(owner, app, stand):
    """The service takes the load, but its answer never arrives; accepting again makes one delivery."""
    stand.offer()
    (offer,) = inbox(owner)
    lost = []

    class Lossy(httpx2.AsyncHTTPTransport):
        async def handle_async_request(self, request):
            response = await super().handle_async_request(request)
            if request.method == "POST" and len(lost) < 3:
                lost.append(response)
                await response.aclose()
                raise httpx2.ReadTimeout("lost on the way", request=request)
            return response

    app.state.crews = Crews(stand.url, Lossy)
    assert accept(owner, offer)["status"] == 502
    assert stand.service.listed()[0]["state"] == "taken"
    assert owner.reads("stock")["deliveries"] == []
    assert accept(owner, offer) is None
    assert len(owner.reads("stock")["deliveries"]) == 1
    assert len(lost) == 3


def test_a_service_that_is_slow_or_silent_leaves_what_was_heard(owner, app, stand, monkeypatch):
    stand.offer()
    (offer,) = inbox(owner)
    monkeypatch.setattr(client, "DEADLINE_S", 0.3)
    monkeypatch.setattr(asking, "PAUSE_S", 0.01)
    slow = Stand(slow_s=0.6)
    app.state.crews = Crews(slow.url)
    assert "does not answer" in heard(owner)
    assert [offer["id"] for offer in inbox(owner, refresh=False)] == [offer["id"]]
    assert accept(owner, offer)["status"] == 502
    assert inbox(owner, refresh=False)[0]["state"] == "open"
    slow.stop()
    app.state.crews = Crews(f"http://127.0.0.1:{free_port()}")
    assert "does not answer" in heard(owner)
    app.state.crews = None
    assert heard(owner) == "No chip service is set up."


@pytest.mark.parametrize("content", [b"nonsense", b"{}", b'{"offers": [{"id": "x"}]}', b'{"offers": 3}', b"[]"])
def test_a_service_that_talks_nonsense_breaks_nothing(owner, app, content):
    before = app.state.crews
    app.state.crews = Crews(
        "http://chips", lambda: httpx2.MockTransport(lambda _: httpx2.Response(200, content=content))
    )
    try:
        assert heard(owner) == "The answer of the chip service cannot be read."
    finally:
        app.state.crews = before


def test_the_same_seed_and_day_offer_the_same_loads():
    day = date(2026, 11, 25)
    assert [vars(offer) for offer in offers_of(day, 7)] == [vars(offer) for offer in offers_of(day, 7)]
    months = [offer for days_back in range(60) for offer in offers_of(day - timedelta(days=days_back), 7)]
    assert {1, 2} <= {month.status_at(datetime(2027, 1, 1, tzinfo=UTC))["revision"] for month in months}
    assert {"open", "withdrawn"} <= {month.status_at(datetime(2027, 1, 1, tzinfo=UTC))["state"] for month in months}
