"""Serving in several processes, each with an ear of its own: the kernel gives each of them its share of connections."""

import os
import socket
import tempfile
from typing import Any

import uvicorn
from uvicorn.supervisors import Multiprocess

from ulmatic.platform.metrics import SHARED


class OwnEar(socket.socket):
    """Stands for a socket in the parent, and becomes one in each process it is handed to.

    Of one socket that all share, the process that wakes first would take every connection that waits.
    """

    def __init__(self, host: str, port: int) -> None:
        super().__init__()
        self.where = (host, port)

    def __reduce__(self) -> tuple[Any, ...]:
        """Be handed over as what makes another."""
        return _listening, (*self.where,)


IDLE_S = 75
"""So long an idle connection stays open, s: longer than browsers and gateways keep theirs, so that they close it and no
request meets a connection that is being closed here. Common practice, no source."""


def serve(application: str, host: str, port: int, workers: int, **settings: Any) -> None:
    """Serve an application in so many processes; one that dies is replaced.

    Parameters
    ----------
    application : str
        Where a function is that builds it, as ``module:function``.
    host, port, workers
    settings
        As for `uvicorn.Config`.

    Raises
    ------
    OSError
        The port is taken.
    """
    # Numbers are crunched by processes here, not by threads of theirs that get into each other's way.
    for library in ("OPENBLAS_NUM_THREADS", "OMP_NUM_THREADS", "MKL_NUM_THREADS"):
        os.environ.setdefault(library, "1")
    config = uvicorn.Config(
        application,
        factory=True,
        host=host,
        port=port,
        workers=workers,
        log_level="warning",
        access_log=False,
        timeout_graceful_shutdown=20,
        timeout_keep_alive=IDLE_S,
        **settings,
    )
    _listening(host, port, shared=False).close()
    if workers == 1:
        uvicorn.Server(config).run()
        return
    with tempfile.TemporaryDirectory(prefix="ulmatic-measures-") as shared:
        os.environ[SHARED] = shared
        Multiprocess(config, sockets=[OwnEar(host, port)]).run()


def _listening(host: str, port: int, *, shared: bool = True) -> socket.socket:
    family = socket.AF_INET6 if ":" in host else socket.AF_INET
    ear = socket.socket(family)
    ear.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
    if shared:
        ear.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEPORT, 1)
    ear.bind((host, port))
    ear.set_inheritable(True)
    return ear
