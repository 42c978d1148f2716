"""Backups, any moment restored, a replica that is read from, and what lets the tables be spread over machines."""

import shutil
import tempfile
import time
from datetime import UTC
from pathlib import Path
from uuid import uuid4

import psycopg
import pytest
from sqlalchemy import Index, UniqueConstraint
from starlette.testclient import TestClient

from tests.conftest import CLOCK, HOST, PASSWORD, STARTS_WITHIN_S, bed, settings_for
from ulmatic.app import create_app
from ulmatic.migrations import upgrade
from ulmatic.platform import backup
from ulmatic.platform.cluster import Cluster
from ulmatic.platform.database import Base

NOT_OF_A_WORKSPACE = {"users", "sign_ins", "mailed_tokens", "letters", "attempts", "readiness"}
"""Kept whole on each machine, or on one: small, and looked up by what a stranger brings."""
LOOKED_UP = {"invitations": "token_hash"}


@pytest.fixture(scope="module")
def backed_up():
    """A server whose log is kept, with a site on it."""
    folder = Path(tempfile.mkdtemp(prefix="ulmatic-backup-"))
    folder.chmod(0o755)
    cluster = Cluster(folder / "server", backups=folder / "backups")
    upgrade(cluster.start())
    client = TestClient(create_app(settings_for(cluster.address("ulmatic"))), base_url=HOST, headers={"Origin": HOST})
    who = {"name": "Kim", "email": f"{uuid4().hex}@example.org", "password": PASSWORD}
    workspace = client.post("/api/v1/accounts", json=who).json()["workspaces"][0]["id"]
    site = {"id": str(uuid4()), "name": "Back garden", "units": "metric", "load_m3": "5 m3", "barrow_m3": "80 L"}
    address = f"/api/v1/workspaces/{workspace}/sites"
    assert client.post(address, json=site).status_code == 201
    assert client.post(f"{address}/{site['id']}/plots", json=bed()).status_code == 201
    yield cluster, client, f"{address}/{site['id']}"
    cluster.stop()
    shutil.rmtree(folder)


def test_a_restored_copy_is_identical(backed_up):
    cluster, _, _ = backed_up
    lines = []
    assert backup.rehearse(cluster, cluster.backups, lines.append)
    assert "plots: identical" in lines
    assert list(cluster.backups.glob("rehearsal-*")) == []


def test_what_was_there_before_an_accident_is_restored(backed_up):
    cluster, client, site = backed_up
    copy = backup.back_up(cluster, cluster.backups)
    assert client.post(f"{site}/plots", json=bed(name="After the backup")).status_code == 201
    before = client.get(site).json()
    with psycopg.connect(cluster.address("ulmatic"), autocommit=True) as connection:
        moment = connection.execute("SELECT clock_timestamp()").fetchone()[0]
        connection.execute("DELETE FROM plots")
        finished = connection.execute("SELECT pg_walfile_name(pg_switch_wal())").fetchone()[0]
    backup._wait_for(cluster.backups / backup.WAL / finished)
    into = cluster.folder.parent / "restored"
    log, password = cluster.backups / backup.WAL, cluster.folder / "password"
    restored = backup.restore(copy, log, password, into, moment.astimezone(UTC))
    try:
        app = create_app(settings_for(restored.address("ulmatic")))
        elsewhere = TestClient(app, base_url=HOST, cookies=client.cookies)
        assert elsewhere.get(site).json() == before
        app.state.engine.dispose()
    finally:
        restored.stop()


def test_a_replica_shows_sites_and_changes_nothing(backed_up):
    cluster, client, site = backed_up
    replica = backup.stand_by(cluster, cluster.folder.parent / "replica")
    try:
        app = create_app(settings_for(replica.address("ulmatic"), read_only=True))
        reader = TestClient(app, base_url=HOST, cookies=client.cookies, headers={"Origin": HOST})
        plot = bed(name=f"Written at {CLOCK.now():%H:%M:%S}")
        assert client.post(f"{site}/plots", json=plot).status_code == 201
        deadline = time.monotonic() + STARTS_WITHIN_S
        while reader.get(site).json() != client.get(site).json():
            assert time.monotonic() < deadline, "the replica does not follow"
            time.sleep(0.05)
        assert plot["id"] in [row["id"] for row in reader.get(site).json()["plots"]]
        refused = reader.post(f"{site}/plots", json=bed())
        assert (refused.status_code, "read-only" in refused.json()["detail"]) == (503, True)
        assert reader.get("/readyz").status_code == 200
        app.state.engine.dispose()
    finally:
        replica.stop()


def test_every_table_of_a_workspace_can_be_spread_by_it():
    """On a PostgreSQL that spreads rows over machines by `workspace_id`, each key has to hold it."""
    for table in Base.metadata.sorted_tables:
        if table.name in NOT_OF_A_WORKSPACE:
            continue
        column = "id" if table.name == "workspaces" else "workspace_id"
        assert next(iter(table.primary_key.columns)).name == column, table.name
        unique: list[Index | UniqueConstraint] = [index for index in table.indexes if index.unique]
        unique += [limit for limit in table.constraints if isinstance(limit, UniqueConstraint)]
        for key in unique:
            names = [part.name for part in key.columns]
            assert column in names or names == [LOOKED_UP.get(table.name)], f"{table.name}: {names}"
        for link in table.foreign_key_constraints:
            if link.referred_table.name not in NOT_OF_A_WORKSPACE:
                assert column in link.column_keys, f"{table.name}: {link.column_keys}"
