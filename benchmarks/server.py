"""The real server on a throw-away PostgreSQL, for what is measured through it."""

import shutil
import tempfile
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from tests.browser.conftest import serve

from ulmatic.migrations import upgrade
from ulmatic.platform.cluster import Cluster


@contextmanager
def served(workers: int = 1) -> Iterator[str]:
    """Start both, give the address, and clear them away."""
    cluster = Cluster(Path(tempfile.mkdtemp(prefix="ulmatic-bench-")), throwaway=True)
    url = cluster.start()
    upgrade(url)
    try:
        yield from serve(url, workers)
    finally:
        cluster.stop()
        shutil.rmtree(cluster.folder)
