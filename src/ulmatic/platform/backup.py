"""Backups of our own PostgreSQL: a copy of its files with the log of what was written since, to any point in time.

The same works by hand on any PostgreSQL 15 (docs/operations.md); these are the steps for the server of
`ulmatic.platform.cluster`, and a rehearsal that proves a restored copy identical.
"""

import hashlib
import os
import shutil
import time
from collections.abc import Callable
from datetime import datetime
from pathlib import Path

import psycopg
from psycopg import sql

from ulmatic.platform.clock import MACHINE
from ulmatic.platform.cluster import Cluster, ClusterError

ARCHIVED_WITHIN_S = 120.0
WAL = "wal"
"""Folder beside the backups that holds the log."""


def back_up(cluster: Cluster, folder: Path) -> Path:
    """Copy the running server's files into a new folder below `folder`, checked; return that folder.

    Together with the log in ``folder/wal`` it can be restored to any moment after it was made.
    """
    if cluster.port() is None:
        raise ClusterError("The server does not run: start it first.")
    copy = folder / f"base-{MACHINE.now():%Y%m%d-%H%M%S}"
    cluster.own_folder(folder)
    cluster.run("pg_basebackup", "-d", cluster.address("postgres"), "-D", str(copy), "-X", "stream", "-c", "fast")
    cluster.run("pg_verifybackup", "-q", str(copy))
    return copy


def restore(copy: Path, log: Path | None, password: Path, into: Path, until: datetime | None = None) -> Cluster:
    """Make a server in a new folder from a backup, as it was at a moment or as late as the log goes, and start it.

    Parameters
    ----------
    copy : Path
        A folder made by `back_up`.
    log : Path or None
        Folder of the log; without it the state is that of the backup.
    password : Path
        The password file of the server that was backed up.
    into : Path
        Must not exist.
    until : datetime, optional
    """
    if into.exists():
        raise ClusterError(f"{into} is there already. Restore into a folder of its own.")
    restored = Cluster(into)
    restored.own_folder(into)
    shutil.copy2(password, into / "password")
    restored.hand_over(into / "password")
    restored.run("cp", "-a", str(copy), str(restored.data))
    settings = ["recovery_target_action = 'promote'", "archive_mode = off"]
    if log is not None:
        settings.append(f"restore_command = 'cp {log}/%f \"%p\"'")
        if until is not None:
            settings.append(f"recovery_target_time = '{until.isoformat()}'")
        (restored.data / "recovery.signal").touch()
        restored.hand_over(restored.data / "recovery.signal")
    with (restored.data / "postgresql.auto.conf").open("a") as file:
        file.write("\n" + "\n".join(settings) + "\n")
    (into / "made").touch()
    restored.start()
    return restored


def digests(address: str) -> dict[str, str]:
    """Return a digest of all rows of each table, to compare two servers by."""
    by_table = {}
    with psycopg.connect(address) as connection:
        query = "SELECT tablename FROM pg_tables WHERE schemaname = 'public' ORDER BY tablename"
        for (table,) in connection.execute(query).fetchall():
            rows = sql.SQL("SELECT t::text FROM {} t ORDER BY 1").format(sql.Identifier(table))
            digest = hashlib.sha256()
            for (row,) in connection.execute(rows):
                digest.update(row.encode() + b"\n")
            by_table[table] = digest.hexdigest()
    return by_table


def _wait_for(file: Path) -> None:
    deadline = time.monotonic() + ARCHIVED_WITHIN_S
    while not file.exists():
        if time.monotonic() > deadline:
            raise ClusterError(f"The log was not kept within {ARCHIVED_WITHIN_S:.0f} s: {file} is not there.")
        time.sleep(0.1)


def stand_by(cluster: Cluster, into: Path) -> Cluster:
    """Make a replica of the running server in a new folder: it follows each write, and answers what only reads."""
    replica = Cluster(into)
    replica.own_folder(into)
    shutil.copy2(cluster.folder / "password", into / "password")
    replica.hand_over(into / "password")
    cluster.run(
        "pg_basebackup", "-d", cluster.address("postgres"), "-D", str(replica.data), "-X", "stream", "-R", "-c", "fast"
    )
    (into / "made").touch()
    replica.start()
    return replica


def rehearse(cluster: Cluster, folder: Path, say: Callable[[str], None]) -> bool:
    """Back up, restore beside the running server to this moment, compare every table; return whether all are alike.

    Nothing of the running server is changed; the restored copy is removed again.
    """
    if not (folder / WAL).is_dir():
        raise ClusterError(f"There is no log in {folder / WAL}. Start the server with ULMATIC_BACKUPS={folder} first.")
    copy = back_up(cluster, folder)
    say(f"Backed up to {copy}")
    address = cluster.address("ulmatic")
    before = digests(address)
    with psycopg.connect(address, autocommit=True) as connection:
        moment = connection.execute("SELECT now()").fetchone()
        connection.execute("UPDATE readiness SET at = now()")
        finished = connection.execute("SELECT pg_walfile_name(pg_switch_wal())").fetchone()
    assert moment is not None  # noqa: S101 - a SELECT of a value has a row
    assert finished is not None  # noqa: S101
    _wait_for(folder / WAL / finished[0])
    into = folder / f"rehearsal-{os.getpid()}"
    restored = restore(copy, folder / WAL, cluster.folder / "password", into, moment[0])
    try:
        after = digests(restored.address("ulmatic"))
    finally:
        restored.stop()
        shutil.rmtree(into)
    for table in before:
        say(f"{table}: {'identical' if before[table] == after.get(table) else 'NOT identical'}")
    return before == after
