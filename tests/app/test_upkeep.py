"""The database's history, our own server, the demo's data and the health checks."""

import os
import signal
import stat
import subprocess
import sys
from datetime import timedelta
from pathlib import Path
from uuid import uuid4

import pytest
from alembic.autogenerate import compare_metadata
from alembic.migration import MigrationContext
from sqlalchemy import inspect, select, text, update
from starlette.testclient import TestClient

from tests.conftest import CLOCK, HOST, PASSWORD, settings_for
from ulmatic.accounts.models import User, Workspace
from ulmatic.accounts.purge import purge
from ulmatic.app import create_app
from ulmatic.migrations import downgrade, upgrade
from ulmatic.platform.cluster import Cluster
from ulmatic.platform.database import Base, engine_for
from ulmatic.records.survey import PlotRow, SiteRow


@pytest.fixture(scope="module")
def cluster(new_cluster) -> Cluster:
    fresh = new_cluster()
    fresh.start()
    return fresh


@pytest.fixture
def empty_url(cluster) -> str:
    with (
        engine_for(cluster.address("postgres")).connect().execution_options(isolation_level="AUTOCOMMIT") as connection
    ):
        connection.execute(text("DROP DATABASE IF EXISTS fresh WITH (FORCE)"))
        connection.execute(text("CREATE DATABASE fresh"))
    return cluster.address("fresh")


def test_migrations_go_up_and_down_and_match_the_models(empty_url):
    engine = engine_for(empty_url)
    for _ in range(2):
        upgrade(empty_url)
        with engine.connect() as connection:
            assert compare_metadata(MigrationContext.configure(connection), Base.metadata) == []
            assert connection.scalar(text("SELECT count(*) FROM readiness")) == 1, "what says whether it can be written"
        downgrade(empty_url, "base")
        assert set(inspect(engine).get_table_names()) == {"alembic_version"}


@pytest.fixture
def demo_app(empty_url):
    upgrade(empty_url)
    return create_app(settings_for(empty_url, demo_most=3))


def visitor_of(app) -> TestClient:
    return TestClient(app, base_url=HOST, headers={"Origin": HOST}, client=(uuid4().hex, 50_000))


def test_everybody_steps_into_a_demo_of_their_own(demo_app):
    first, second = visitor_of(demo_app), visitor_of(demo_app)
    session = first.post("/api/v1/session/demo").json()
    workspace = session["workspaces"][0]["id"]
    assert session["user"]["demo_until"]
    assert first.post("/api/v1/session/demo").json() == session, "who is in it stays in it"
    sites = first.get(f"/api/v1/workspaces/{workspace}/sites").json()
    assert [site["site"]["name"] for site in sites] == ["Marrow Street Library", "Quillet Holm"]
    assert all(site["now"]["needed_m3"] > 0 for site in sites)
    with demo_app.state.sessions() as database:
        shapes = {row.shape["kind"] for row in database.scalars(select(PlotRow))}
    assert shapes == {"rectangle", "path", "ring", "ring_row", "offsets", "ellipse", "triangle"}
    other = second.post("/api/v1/session/demo").json()
    assert other["workspaces"][0]["id"] != workspace
    assert second.get(f"/api/v1/workspaces/{workspace}/sites").status_code == 404


def test_visitors_have_copies_of_the_same_sites_and_neither_sees_what_the_other_changes(demo_app):
    def archives(client: TestClient) -> list[str]:
        workspace = client.get("/api/v1/session").json()["workspaces"][0]["id"]
        addresses = [
            f"/api/v1/workspaces/{workspace}/sites/{site['site']['id']}"
            for site in client.get(f"/api/v1/workspaces/{workspace}/sites").json()
        ]
        return [client.get(f"{address}/file.json").text for address in addresses]

    first, second, third = (visitor_of(demo_app) for _ in range(3))
    first.post("/api/v1/session/demo")
    as_loaded = archives(first)
    workspace = first.get("/api/v1/session").json()["workspaces"][0]["id"]
    site = first.get(f"/api/v1/workspaces/{workspace}/sites").json()[0]["site"]["id"]
    assert first.delete(f"/api/v1/workspaces/{workspace}/sites/{site}").status_code == 204
    for visitor in (second, third):
        visitor.post("/api/v1/session/demo")
        assert archives(visitor) == as_loaded
    assert len(archives(first)) == 1


def test_nobody_slips_their_own_sites_under_the_demo(demo_app):
    """Under the name and the workspace of the one whose rows are copied."""
    stranger, visitor = visitor_of(demo_app), visitor_of(demo_app)
    visitor_of(demo_app).post("/api/v1/session/demo")
    with demo_app.state.sessions() as database:
        [filled] = database.scalars(select(Workspace).where(Workspace.name.startswith("Demo of ")))
        name = filled.name
        database.delete(filled)
        database.commit()
    account = {"name": "Demo", "email": f"{uuid4().hex}@example.org", "password": PASSWORD}
    assert stranger.post("/api/v1/accounts", json=account).status_code == 201
    assert stranger.post("/api/v1/workspaces", json={"name": name}).status_code == 201
    workspace = visitor.post("/api/v1/session/demo").json()["workspaces"][0]["id"]
    assert len(visitor.get(f"/api/v1/workspaces/{workspace}/sites").json()) == 2


def test_a_demo_cannot_be_taken_over(demo_app):
    client = visitor_of(demo_app)
    session = client.post("/api/v1/session/demo").json()
    workspace = f"/api/v1/workspaces/{session['workspaces'][0]['id']}"
    owner = visitor_of(demo_app)
    owner.post("/api/v1/accounts", json={"name": "Kim", "email": f"{uuid4().hex}@example.org", "password": PASSWORD})
    workspace_id = owner.get("/api/v1/session").json()["workspaces"][0]["id"]
    token = owner.post(f"/api/v1/workspaces/{workspace_id}/invitations", json={"role": "crew"}).json()["token"]
    refused = [
        client.patch("/api/v1/account", json={"name": "Mine now"}),
        client.post("/api/v1/account/password", json={"current": "x", "new": PASSWORD}),
        client.post("/api/v1/account/departure", json={"password": "x"}),
        client.post("/api/v1/workspaces", json={"name": "More"}),
        client.post(f"{workspace}/invitations", json={"role": "owner"}),
        client.post(f"{workspace}/departure"),
        client.post("/api/v1/invitation/acceptance", json={"token": token}),
    ]
    assert [answer.status_code for answer in refused] == [403] * len(refused)
    assert client.delete(f"{workspace}/members/{session['user']['id']}").status_code == 409
    assert client.get("/api/v1/session").json() == session


def test_demos_are_limited_and_go_again(demo_app):
    clients = [visitor_of(demo_app) for _ in range(4)]
    assert [client.post("/api/v1/session/demo").status_code for client in clients] == [200, 200, 200, 503]
    with demo_app.state.sessions() as database:
        database.execute(update(User).values(demo_until=CLOCK.now() - timedelta(minutes=1)))
        database.commit()
        counts = purge(database)
    assert (counts["demos"], counts["users"]) == (4, 4), "three visitors, and what they had copies of"
    assert clients[0].get("/api/v1/session").json()["user"] is None
    assert clients[3].post("/api/v1/session/demo").status_code == 200
    with demo_app.state.sessions() as database:
        assert len(database.scalars(select(SiteRow)).all()) == 4
    closed = create_app(settings_for(demo_app.state.settings.database_url, demo=False))
    assert visitor_of(closed).post("/api/v1/session/demo").status_code == 404


def test_our_server_listens_on_loopback_only_and_wants_its_password(cluster):
    address = cluster.address("ulmatic")
    with engine_for(address).connect() as connection:
        assert connection.execute(text("SHOW listen_addresses")).scalar() == "127.0.0.1"
        assert connection.execute(text("SHOW unix_socket_directories")).scalar() == ""
    assert stat.S_IMODE(os.stat(cluster.folder / "password").st_mode) == 0o600
    assert (cluster.folder / "password").read_text() not in address
    refused = address.split("?")[0].replace("ulmatic@", "ulmatic:guess@")
    with pytest.raises(Exception, match="password"), engine_for(refused).connect():
        pass
    assert cluster.start() == address


def test_our_server_keeps_its_port_and_is_not_misled_by_what_a_crash_left(new_cluster):
    cluster = new_cluster()
    address = cluster.start()
    pid = int((cluster.data / "postmaster.pid").read_text().splitlines()[0])
    os.kill(pid, signal.SIGKILL)
    while Path(f"/proc/{pid}").exists() and Path(f"/proc/{pid}/stat").read_text().split()[2] != "Z":
        os.sched_yield()
    left = (cluster.data / "postmaster.pid").read_text()
    assert cluster.port() is None
    # After a reboot another process can have that number.
    (cluster.data / "postmaster.pid").write_text(left.replace(str(pid), str(os.getpid()), 1))
    assert cluster.port() is None
    assert cluster.start() == address


def test_an_interrupted_first_start_is_made_good(new_cluster):
    cluster = new_cluster()
    cluster.data.mkdir()
    (cluster.data / "half").write_text("made")
    assert cluster.start().startswith("postgresql://ulmatic@127.0.0.1:")


@pytest.mark.skipif(os.geteuid() != 0, reason="only root hands its folder to postgres")
def test_a_folder_that_postgres_cannot_enter_is_said_plainly(tmp_path):
    closed = tmp_path / "closed"
    closed.mkdir(mode=0o700)
    run = subprocess.run(
        [sys.executable, "-m", "ulmatic", "start-database"],
        env={**os.environ, "PYTHONPATH": "src", "ULMATIC_DATA": str(closed / "data")},
        capture_output=True,
        text=True,
        check=False,
    )
    assert run.returncode == 1
    assert "cannot enter" in run.stderr
    assert "Traceback" not in run.stderr


def test_health_and_readiness(stranger, database_url):
    assert stranger.client.get("/healthz").json()["status"] == "alive"
    assert stranger.client.get("/readyz").json() == {"status": "ready"}
    settings = settings_for(database_url.rsplit("@", 1)[0] + "@127.0.0.1:9/none")
    client = TestClient(create_app(settings), base_url=HOST)
    assert client.get("/healthz").status_code == 200
    problem = client.get("/readyz")
    assert (problem.status_code, problem.headers["retry-after"]) == (503, "2")
    assert "Nothing you typed is lost" in problem.json()["detail"]
