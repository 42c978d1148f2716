"""What all tests share: a throw-away PostgreSQL, the application on it, people with accounts."""

import atexit
import json
import os
import re
import shutil
import tempfile
import time
from collections.abc import Callable, Iterator
from dataclasses import dataclass, field
from datetime import UTC, date, datetime
from functools import cache
from pathlib import Path
from typing import Any
from urllib.request import urlopen
from uuid import uuid4

import psycopg
import pytest
from anyio.from_thread import start_blocking_portal
from hypothesis import HealthCheck
from hypothesis import settings as hypothesis_settings
from starlette.testclient import TestClient

from tests.sharing import make_once, pytest_configure, pytest_unconfigure, pytest_xdist_make_scheduler
from ulmatic.accounts import service as accounts
from ulmatic.accounts.models import User
from ulmatic.accounts.passwords import hashes
from ulmatic.accounts.scope import COOKIE
from ulmatic.app import create_app
from ulmatic.migrations import upgrade
from ulmatic.platform.clock import MACHINE, Clock
from ulmatic.platform.cluster import Cluster
from ulmatic.platform.settings import Settings

__all__ = ["pytest_configure", "pytest_unconfigure", "pytest_xdist_make_scheduler"]
"""Taken over for pytest, which looks for them here."""
LONG = bool(os.environ.get("ULMATIC_SEARCH_LONG"))
"""Whether random searches are long and really random: `scripts/test-long` prints the seed."""
# A machine that is busy elsewhere is slow, not wrong.
hypothesis_settings.register_profile(
    "default",
    deadline=None,
    derandomize=not LONG,
    suppress_health_check=[HealthCheck.too_slow, HealthCheck.filter_too_much],
)
hypothesis_settings.load_profile("default")


def examples(count: int) -> int:
    """Return how many cases a random search tries: so many, and twenty times as many in the long form."""
    return count * 20 if LONG else count


def pytest_collection_modifyitems(items) -> None:
    """Mark random searches, so that they can be run by themselves."""
    for item in items:
        if hasattr(getattr(item, "function", None), "hypothesis"):
            item.add_marker("search")


os.environ["ULMATIC_PHOTOS"] = tempfile.mkdtemp(prefix="ulmatic-photos-")
atexit.register(shutil.rmtree, os.environ["ULMATIC_PHOTOS"], ignore_errors=True)
BINARY = {"Content-Type": "application/octet-stream"}
HOST = "http://testserver"
STARTS_WITHIN_S = 120
UUIDS = r"[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}"
PASSWORD = "four ordinary words here"
TODAY = date.fromisoformat(os.environ.get("ULMATIC_TEST_ON", "2026-11-10"))
"""The day on which the tests stand, wherever the machine's clock is; `scripts/test-long` names others."""
CLOCK = Clock(datetime(TODAY.year, TODAY.month, TODAY.day, 9, tzinfo=UTC) - MACHINE.now())
"""Morning of that day when the tests begin; handed to every server and command through the settings."""
in_autumn = pytest.mark.skipif(
    not (11, 6) <= (TODAY.month, TODAY.day) <= (12, 12), reason="Stands in the season of laying in autumn"
)
os.environ["ULMATIC_CLOCK_AHEAD_S"] = str(CLOCK.ahead.total_seconds())


def described_api() -> dict[str, Any]:
    """Return the OpenAPI document, which takes seconds to write."""
    return json.loads(make_once("openapi.json", lambda _: json.dumps(create_app().openapi())))


def wait_for_answer(url: str) -> None:
    """Wait until a server that was started answers."""
    deadline = time.monotonic() + STARTS_WITHIN_S
    while True:
        try:
            urlopen(url)
        except OSError:
            if time.monotonic() > deadline:
                raise
            time.sleep(0.05)
        else:
            return


@pytest.fixture(scope="session")
def new_cluster() -> Iterator[Callable[[], Cluster]]:
    """Make throw-away clusters, and clear them away at the end."""
    clusters: list[Cluster] = []

    def make() -> Cluster:
        clusters.append(Cluster(Path(tempfile.mkdtemp(prefix="ulmatic-test-")), throwaway=True))
        return clusters[-1]

    yield make
    for cluster in clusters:
        cluster.stop()
        shutil.rmtree(cluster.folder)


def _start_cluster(folder: Path) -> str:
    cluster = Cluster(folder / "cluster", throwaway=True)
    upgrade(cluster.start())
    return str(cluster.folder)


@pytest.fixture(scope="session")
def new_database() -> Callable[[], str]:
    """Make databases with all tables, each a copy of one that was migrated once for all workers."""
    cluster = Cluster(Path(make_once("cluster", _start_cluster)), throwaway=True)

    def make() -> str:
        name = f"copy_{uuid4().hex}"
        with psycopg.connect(cluster.address("postgres"), autocommit=True) as connection:
            connection.execute(f'CREATE DATABASE "{name}" TEMPLATE ulmatic')
        return cluster.address(name)

    return make


@pytest.fixture(scope="session")
def database_url(new_database) -> str:
    return new_database()


WIDE_OPEN: dict[str, Any] = {"attempts": "1000 per minute", "demo": True}


def settings_for(url: str, **changes: Any) -> Settings:
    dist = Path(os.environ.get("ULMATIC_WEB_DIST", Settings().web_dist))
    return Settings(
        database_url=url,
        allowed_hosts=["testserver"],
        **{**WIDE_OPEN, "web_dist": dist, **changes},
    )


@pytest.fixture(scope="session")
def app(database_url):
    return create_app(settings_for(database_url))


@dataclass
class Came:
    """What came of a file that was sent: as if the request itself had been answered with it."""

    status_code: int
    body: dict

    def json(self) -> dict:
        return self.body

    @property
    def text(self) -> str:
        return json.dumps(self.body, ensure_ascii=False)


@dataclass
class Person:
    """Somebody with an account, and a client that carries their cookie."""

    client: TestClient
    workspace_id: str = ""
    site_id: str = ""
    plot_ids: list[str] = field(default_factory=list)

    @property
    def sites(self) -> str:
        return f"/api/v1/workspaces/{self.workspace_id}/sites"

    @property
    def site(self) -> str:
        return f"{self.sites}/{self.site_id}"

    def add_site(self, **changes) -> dict:
        entry = {"id": str(uuid4()), "name": "Back garden", "units": "metric", "load_m3": "5 m3", "barrow_m3": "80 L"}
        answer = self.client.post(self.sites, json=entry | changes)
        assert answer.status_code == 201, answer.text
        self.site_id = answer.json()["id"]
        return answer.json()

    def add_plot(self, **changes) -> dict:
        answer = self.client.post(f"{self.site}/plots", json=bed() | changes)
        assert answer.status_code == 201, answer.text
        plot_id = answer.json()["id"]
        self.plot_ids.append(plot_id)
        return self.client.get(f"{self.site}/plots/{plot_id}").json()

    def add_landmark(self, **changes) -> dict:
        tip = {"kind": "tip", "place": {"x_m": "0", "y_m": "0"}, "length_m": "6 m", "width_m": "4 m"}
        entry = {"id": str(uuid4()), "name": "Yard", "units": "metric", "landmark": tip} | changes
        answer = self.client.post(f"{self.site}/landmarks", json=entry)
        assert answer.status_code == 201, answer.text
        return answer.json()

    def add_material(self, **changes) -> dict:
        entry = {"id": str(uuid4()), "name": "Our chips", "units": "metric", "base": "arborist_leafy"} | changes
        answer = self.client.post(f"/api/v1/workspaces/{self.workspace_id}/materials", json=entry)
        assert answer.status_code == 201, answer.text
        return answer.json()

    def add_supplier(self, **changes) -> dict:
        source = {
            "kind": "merchant",
            "material": "arborist_leafy",
            "truck_m3": "15 m3",
            "per_m3": "30",
            "per_load": "60",
        }
        entry = {"id": str(uuid4()), "name": "Quarry Lane", "units": "metric", "currency": "EUR", "source": source}
        answer = self.client.post(f"/api/v1/workspaces/{self.workspace_id}/suppliers", json=entry | changes)
        assert answer.status_code == 201, answer.text
        return answer.json()

    def buys(self, **changes) -> dict:
        version = self.client.get(self.site).json()["site"]["version"]
        entry = {"units": "metric", "currency": "EUR"} | changes
        answer = self.client.put(f"{self.site}/buying", json=entry, headers={"If-Match": f'"{version}"'})
        assert answer.status_code == 200, answer.text
        return answer.json()

    def receives(self, volume: str = "6 m3", **changes) -> dict:
        """Receive a load that nobody expected; answer its pile."""
        entry = {
            "id": str(uuid4()),
            "name": "A load",
            "units": "metric",
            "received_on": TODAY.isoformat(),
            "material": "arborist_leafy",
            "measured": {"kind": "stated", "volume_m3": volume},
        } | changes
        answer = self.client.post(f"{self.site}/arrivals", json=entry)
        assert answer.status_code == 201, answer.text
        return answer.json()["piles"][-1]

    def enters(self, pile_id: str, kind: str, volume: str | None = None, **changes):
        """Write a line into the book; answer what came."""
        measured = {"kind": "stated", "volume_m3": volume} if volume else None
        entry = {
            "id": str(uuid4()),
            "units": "metric",
            "kind": kind,
            "on": TODAY.isoformat(),
            "measured": measured,
        } | changes
        return self.client.post(f"{self.site}/piles/{pile_id}/lines", json=entry)

    def logs(self, on: date, plot_id: str | None = None, **entry):
        """Write into the log of a plot, the last one where none is named; answer what came."""
        line = {
            "id": str(uuid4()),
            "plot_id": plot_id or self.plot_ids[-1],
            "on": on.isoformat(),
            "units": "metric",
            "entry": entry,
        }
        return self.client.post(f"{self.site}/log", json=line)

    def corrects(self, original: dict, on: date, **more):
        """Write an entry in the place of one that was written; answer what came."""
        line = {"id": str(uuid4()), "plot_id": self.plot_ids[-1], "on": on.isoformat(), "units": "metric"}
        return self.client.post(f"{self.site}/log", json=line | {"corrects": original["id"], **more})

    def now(self) -> dict:
        """Return the account of the season that runs."""
        return self.client.get(self.site).json()["now"]

    def reads(self, part: str) -> dict:
        answer = self.client.get(f"{self.site}/{part}")
        assert answer.status_code == 200, answer.text
        return answer.json()

    def awaits(self, answer) -> dict:
        """Wait until an errand that was asked for has been done; return how it went."""
        assert answer.status_code == 202, answer.text
        address = f"/api/v1/workspaces/{self.workspace_id}/errands/{answer.json()['id']}"
        deadline = time.monotonic() + STARTS_WITHIN_S
        while True:
            errand = self.client.get(address).json()
            if errand["state"] in ("done", "refused"):
                return errand
            assert time.monotonic() < deadline, errand
            time.sleep(0.02)

    def sends(self, address: str, content: bytes | str, **params) -> Came:
        """Send a file that is read afterwards; wait for what comes of it."""
        content = content.encode() if isinstance(content, str) else content
        answer = self.client.post(address, params=params, content=content, headers=BINARY)
        if answer.status_code != 202:
            return Came(answer.status_code, answer.json())
        errand = self.awaits(answer)
        return (
            Came(errand["problem"]["status"], errand["problem"]) if errand["problem"] else Came(200, errand["result"])
        )

    def restores(self, site_id: str, content: bytes | str) -> Came:
        """Make a site from an archive."""
        return self.sends(f"/api/v1/workspaces/{self.workspace_id}/archives", content, site_id=site_id)

    def joins(self, owner: "Person", role: str) -> "Person":
        """Become a member of `owner`'s workspace."""
        invited = owner.client.post(f"/api/v1/workspaces/{owner.workspace_id}/invitations", json={"role": role})
        answer = self.client.post("/api/v1/invitation/acceptance", json={"token": invited.json()["token"]})
        assert answer.json()["role"] == role
        return self


def bed(**changes) -> dict:
    """Return a new plot."""
    return {"id": str(uuid4())} | typed_bed() | changes


def typed_bed(**changes) -> dict:
    """Return a plot as it is typed, or typed anew."""
    return {
        "name": "Rose bed",
        "use": "perennials",
        "units": "metric",
        "shape": {"kind": "rectangle", "length_m": "6 m", "width_m": "2 m"},
        "existing_mm": "0",
        "wanted_mm": "75 mm",
    } | changes


@pytest.fixture(scope="session")
def new_client(app) -> Iterator[Callable[[], TestClient]]:
    """Make clients that share one event loop, as those of a server do; else each request starts one of its own."""

    def make() -> TestClient:
        client = TestClient(app, base_url=HOST, headers={"Origin": HOST}, raise_server_exceptions=False)
        client.portal = portal
        return client

    with start_blocking_portal("asyncio", {"use_uvloop": True}) as portal:
        yield make


@pytest.fixture
def stranger(new_client) -> Person:
    return Person(new_client())


@cache
def password_hash() -> str:
    return hashes.hash(PASSWORD)


@pytest.fixture(scope="session")
def new_person(app, new_client):
    def make(workspace: str = "Own ground") -> Person:
        person = Person(new_client())
        # How people sign up is in test_accounts; here a password is not hashed anew each time.
        with app.state.sessions() as session:
            user = User(email=f"{uuid4().hex}@example.org", name="Pat", password_hash=password_hash())
            session.add(user)
            session.flush()
            person.workspace_id = str(accounts.found_workspace(session, user, workspace).workspace_id)
            token = accounts.start_session(session, user, days=30, device="")
            session.commit()
        person.client.cookies.set(COOKIE, token, domain="testserver.local", path="/")
        return person

    return make


@pytest.fixture
def owner(new_person) -> Person:
    person = new_person()
    person.add_site()
    return person


def without_ids(content: bytes | str) -> str:
    """Return a file with every id replaced by its turn, so that two copies can be compared."""
    text = content if isinstance(content, str) else content.decode()
    turns: dict[str, str] = {}
    return re.sub(UUIDS, lambda match: turns.setdefault(match.group(), f"id {len(turns)}"), text)
