"""The database's history, our own server, the demo's data and the health checks."""

import os
import stat
import subprocess
import sys

import pytest
from alembic.autogenerate import compare_metadata
from alembic.migration import MigrationContext
from sqlalchemy import inspect, select, text
from starlette.testclient import TestClient

from tests.conftest import HOST, settings_for
from ulmatic.app import create_app
from ulmatic.demo.load import load
from ulmatic.migrations import downgrade, upgrade
from ulmatic.platform.cluster import Cluster
from ulmatic.platform.database import Base, engine_for, sessions_for
from ulmatic.survey.models import PlotRow


@pytest.fixture(scope="module")
def cluster(new_cluster) -> Cluster:
    made = new_cluster()
    made.start()
    return made


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
        downgrade(empty_url, "base")
        assert set(inspect(engine).get_table_names()) == {"alembic_version"}


def test_loading_the_demo_twice_changes_nothing(empty_url):
    upgrade(empty_url)

    def everything() -> list:
        with engine_for(empty_url).connect() as connection:
            tables = sorted(Base.metadata.tables)
            return [connection.execute(text(f"SELECT * FROM {name} ORDER BY 1, 2")).all() for name in tables]  # noqa: S608

    with sessions_for(engine_for(empty_url))() as session:
        load(session)
        once = everything()
        load(session)
        assert everything() == once
        shapes = {row.shape["kind"] for row in session.scalars(select(PlotRow))}
    assert shapes == {"rectangle", "path", "ring", "ring_row", "offsets", "ellipse", "triangle"}
    client = TestClient(create_app(settings_for(empty_url)), base_url=HOST, headers={"Origin": HOST})
    visitor = client.post("/api/v1/session/demo").json()
    sites = client.get(f"/api/v1/workspaces/{visitor['workspaces'][0]['id']}/sites").json()
    assert [one["site"]["name"] for one in sites] == ["Marrow Street Library", "Quillet Holm"]
    assert all(one["now"]["needed_m3"] > 0 for one in sites)
    closed = TestClient(create_app(settings_for(empty_url, demo=False)), base_url=HOST, headers={"Origin": HOST})
    assert closed.post("/api/v1/session/demo").status_code == 404


def test_our_server_listens_on_loopback_only_and_wants_its_password(cluster):
    address = cluster.address("ulmatic")
    with engine_for(address).connect() as connection:
        assert connection.execute(text("SHOW listen_addresses")).scalar() == "127.0.0.1"
        assert connection.execute(text("SHOW unix_socket_directories")).scalar() == ""
    assert stat.S_IMODE(os.stat(cluster.folder / "password").st_mode) == 0o600
    refused = address.replace(address.split(":")[2].split("@")[0], "guess")
    with pytest.raises(Exception, match="password"), engine_for(refused).connect():
        pass
    assert cluster.start() == address


def test_an_interrupted_first_start_is_made_good(new_cluster):
    cluster = new_cluster()
    cluster.data.mkdir()
    (cluster.data / "half").write_text("made")
    assert cluster.start().startswith("postgresql://ulmatic:")


@pytest.mark.skipif(os.geteuid() != 0, reason="only root hands its folder to postgres")
def test_a_folder_that_postgres_cannot_enter_is_said_plainly(tmp_path):
    closed = tmp_path / "closed"
    closed.mkdir(mode=0o700)
    run = subprocess.run(
        [sys.executable, "-m", "ulmatic", "start-database"],
        env={**os.environ, "PYTHONPATH": "src", "ULMATIC_DATA": str(closed / "data")},
        capture_output=True, text=True, check=False,
    )  # fmt: skip
    assert run.returncode == 1
    assert "cannot enter" in run.stderr
    assert "Traceback" not in run.stderr


def test_health_and_readiness(stranger, database_url):
    assert stranger.client.get("/healthz").json()["status"] == "alive"
    assert stranger.client.get("/readyz").json() == {"status": "ready"}
    away = settings_for(database_url.rsplit("@", 1)[0] + "@127.0.0.1:9/none")
    client = TestClient(create_app(away), base_url=HOST)
    assert client.get("/healthz").status_code == 200
    problem = client.get("/readyz")
    assert (problem.status_code, problem.headers["retry-after"]) == (503, "2")
    assert "Nothing you typed is lost" in problem.json()["detail"]
