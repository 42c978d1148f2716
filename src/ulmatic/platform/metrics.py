"""What is measured of the running application, for whoever watches it: `/metrics` as Prometheus reads it."""

import os

from prometheus_client import (
    CollectorRegistry,
    Counter,
    Gauge,
    Histogram,
    generate_latest,
)
from prometheus_client.multiprocess import MultiProcessCollector
from prometheus_client.registry import REGISTRY
from sqlalchemy import QueuePool

SHARED = "PROMETHEUS_MULTIPROC_DIR"
"""Names the folder through which several processes are measured as one."""

_requests = Counter("ulmatic_requests", "Answered requests", ["method", "route", "status"])
_seconds = Histogram("ulmatic_seconds", "Time to an answer", ["route"], buckets=(0.01, 0.03, 0.1, 0.3, 1, 3, 10, 30))
_connections = Gauge("ulmatic_connections", "Connections to the database in use", multiprocess_mode="livesum")


def measure(method: str, route: str, status: int, took_s: float, pool: QueuePool) -> None:
    """Count one answered request."""
    _requests.labels(method, route, str(status)).inc()
    _seconds.labels(route).observe(took_s)
    _connections.set(pool.checkedout())


def exposition() -> bytes:
    """Return what was measured, in the text format of Prometheus; by all processes, where there are several."""
    if SHARED not in os.environ:
        return generate_latest(REGISTRY)
    registry = CollectorRegistry()
    MultiProcessCollector(registry)  # type: ignore[no-untyped-call]
    return generate_latest(registry)
