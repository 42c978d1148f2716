"""A process of its own for heavy work: bounded in time and memory, so that nobody else's request suffers by it."""

import os
import resource
import threading
import time
from collections.abc import Callable
from concurrent.futures import ProcessPoolExecutor
from concurrent.futures.process import BrokenProcessPool
from multiprocessing import get_context
from typing import Any, TypeVar

import structlog

from ulmatic.platform.problems import Problem

log = structlog.get_logger()

LONGEST_S = 60.0
MOST_BYTES = 2_000_000_000
"""Of address space; the program itself takes about half of it."""
WORKS_BEFORE_RENEWAL = 50
LOOKED_FOR_S = 2.0
Result = TypeVar("Result")


class Workshop:
    """Does one heavy piece of work after the other in a process of its own, which is made when it is first needed.

    Parameters
    ----------
    prepare : callable
        Runs once in the process.
    arguments : tuple
        For `prepare`.
    longest_s : float
        A piece of work that takes longer is given up.
    """

    def __init__(
        self, prepare: Callable[..., None], arguments: tuple[Any, ...] = (), longest_s: float = LONGEST_S
    ) -> None:
        self._prepare, self._arguments, self.longest_s = prepare, arguments, longest_s
        self._pool: ProcessPoolExecutor | None = None
        self._turn = threading.Lock()

    def do(self, work: Callable[..., Result], *arguments: Any) -> Result:
        """Have `work` done; raise the 422 problem where it takes too long or too much memory.

        Both have to be known by name to the process, and so has what is returned.
        """
        # One after the other: time spent waiting for another piece of work is not counted.
        with self._turn:
            pool = self._opened()
            try:
                return pool.submit(work, *arguments).result(self.longest_s)
            except (TimeoutError, BrokenProcessPool, MemoryError) as error:
                log.warning("workshop_gave_up", work=work.__name__, error=type(error).__name__)
                self._close(pool)
                raise Problem(422, "This takes longer than one minute. Split the file and send the parts.") from None

    def _opened(self) -> ProcessPoolExecutor:
        if self._pool is None:
            self._pool = ProcessPoolExecutor(
                1,
                get_context("spawn"),
                _bounded,
                (self._prepare, self._arguments),
                max_tasks_per_child=WORKS_BEFORE_RENEWAL,
            )
        return self._pool

    def _close(self, pool: ProcessPoolExecutor) -> None:
        self._pool = None
        for process in list((pool._processes or {}).values()):
            process.kill()
        pool.shutdown(wait=False, cancel_futures=True)


def _bounded(prepare: Callable[..., None], arguments: tuple[Any, ...]) -> None:
    _, most = resource.getrlimit(resource.RLIMIT_AS)
    bound = MOST_BYTES if most == resource.RLIM_INFINITY else min(MOST_BYTES, most)
    resource.setrlimit(resource.RLIMIT_AS, (bound, most))
    threading.Thread(target=_end_with, args=(os.getppid(),), daemon=True).start()
    prepare(*arguments)


def _end_with(parent: int) -> None:
    """End this process when the one that made it is gone, however that ended."""
    while os.getppid() == parent:
        time.sleep(LOOKED_FOR_S)
    os._exit(1)
