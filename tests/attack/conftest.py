"""A server as it is run for others: processes of its own before a PostgreSQL of its own, that can be killed."""

import os
import shutil
import signal
import subprocess
import sys
import tempfile
from collections.abc import Iterator
from dataclasses import dataclass, field
from pathlib import Path
from uuid import uuid4

import httpx2
import pytest

from tests.conftest import PASSWORD, wait_for_answer
from ulmatic.migrations import upgrade
from ulmatic.platform.cluster import Cluster, free_port

LONG = os.environ.get("ULMATIC_ATTACK") == "long"


@dataclass
class Served:
    """The application in two processes, and its database."""

    cluster: Cluster
    port: int = field(default_factory=free_port)
    process: subprocess.Popen | None = None

    @property
    def address(self) -> str:
        return f"http://127.0.0.1:{self.port}"

    def start(self) -> None:
        environment = {
            **os.environ,
            "PYTHONPATH": "src",
            "ULMATIC_DATABASE_URL": self.cluster.address("ulmatic"),
            "ULMATIC_ATTEMPTS": "1000 per minute",
        }
        command = [sys.executable, "-m", "ulmatic", "serve", "--port", str(self.port), "--workers", "2"]
        self.process = subprocess.Popen(command, env=environment, stderr=subprocess.DEVNULL, start_new_session=True)
        wait_for_answer(f"{self.address}/readyz")

    def kill(self) -> None:
        """As a machine that loses its power would."""
        os.killpg(self.process.pid, signal.SIGKILL)
        self.process.wait()

    def kill_database(self) -> None:
        os.kill(int((self.cluster.data / "postmaster.pid").read_text().splitlines()[0]), signal.SIGKILL)

    def workers(self) -> list[int]:
        """Return the processes that answer requests."""
        children = Path(f"/proc/{self.process.pid}/task/{self.process.pid}/children").read_text().split()
        return [int(pid) for pid in children if b"spawn_main" in Path(f"/proc/{pid}/cmdline").read_bytes()]

    def client(self) -> httpx2.Client:
        return httpx2.Client(base_url=self.address, headers={"Origin": self.address}, timeout=120)

    def somebody(self) -> tuple[httpx2.Client, str]:
        """Return somebody with an account, and the address of their sites."""
        client = self.client()
        entry = {"email": f"{uuid4().hex}@example.org", "password": PASSWORD, "name": "Kim"}
        answer = client.post("/api/v1/accounts", json=entry)
        assert answer.status_code == 201, answer.text
        return client, f"/api/v1/workspaces/{answer.json()['workspaces'][0]['id']}/sites"


def new_site(client: httpx2.Client, sites: str) -> str:
    entry = {"id": str(uuid4()), "name": "Back garden", "units": "metric", "load_m3": "5 m3", "barrow_m3": "80 L"}
    assert client.post(sites, json=entry).status_code == 201
    return f"{sites}/{entry['id']}"


@pytest.fixture(scope="module")
def server() -> Iterator[Served]:
    folder = Path(tempfile.mkdtemp(prefix="ulmatic-attack-"))
    folder.chmod(0o755)
    server = Served(Cluster(folder / "server"))
    upgrade(server.cluster.start())
    server.start()
    yield server
    server.kill()
    server.cluster.stop()
    shutil.rmtree(folder)
