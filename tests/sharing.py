"""What all workers of a run share: one folder, what was made in it once, and who takes which tests."""

import fcntl
import json
import os
import shutil
import signal
import tempfile
from collections.abc import Callable
from contextlib import suppress
from pathlib import Path

from xdist.scheduler import LoadScopeScheduling

from ulmatic.platform.cluster import Cluster

SHARED = "ULMATIC_TEST_SHARED"
"""Names the folder of what all workers share."""


def pytest_configure(config) -> None:
    """Make that folder, before workers are started."""
    if not hasattr(config, "workerinput"):
        os.environ[SHARED] = tempfile.mkdtemp(prefix="ulmatic-shared-")
        Path(os.environ[SHARED]).chmod(0o755)


def pytest_unconfigure(config) -> None:
    """End what the workers have started together."""
    if not hasattr(config, "workerinput"):
        folder = Path(os.environ[SHARED])
        for started in folder.glob("*.processes"):
            for process in json.loads(started.read_text()):
                with suppress(ProcessLookupError):
                    os.kill(process, signal.SIGTERM)
        if (folder / "cluster").exists():
            Cluster(folder / "cluster", throwaway=True).stop()
        shutil.rmtree(folder)


FILES_SET_UP_ONCE = (
    "app/test_backup",
    "app/test_upkeep",
    "attack/test_attack",
    "browser/test_kinds",
    "browser/test_outage",
)
"""Files whose tests share what takes long to set up."""


class SetUpOnce(LoadScopeScheduling):
    """Hands tests that share a set-up to one worker, and all others to who is free.

    What `--dist loadgroup` would do, if its groups still came through: since pytest 9 it writes them where nobody reads.
    """

    def _split_scope(self, nodeid: str) -> str:
        file, _, test = nodeid.partition(".py::")
        if file == "tests/consistency/test_one_plan":
            return test.partition("[")[2] or nodeid
        return file if file.removeprefix("tests/") in FILES_SET_UP_ONCE else nodeid


def pytest_xdist_make_scheduler(config, log) -> SetUpOnce:
    """Share out the tests among workers."""
    return SetUpOnce(config, log)


def make_once(name: str, make: Callable[[Path], str]) -> str:
    """Return what the worker that asked first has made; the others wait for it."""
    folder = Path(os.environ[SHARED])
    content = folder / f"{name}.made"
    with (folder / f"{name}.lock").open("w") as lock:
        fcntl.flock(lock, fcntl.LOCK_EX)
        if not content.exists():
            content.write_text(make(folder))
    return content.read_text()
