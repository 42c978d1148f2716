"""What a process does besides answering: a few threads that look for what is to be done, and are woken for it."""

import threading
import time
from collections.abc import Callable
from dataclasses import dataclass

import structlog
from fastapi import Request
from sqlalchemy.exc import DBAPIError

log = structlog.get_logger()

THREADS = 2
LOOKED_FOR_S = 5.0
"""How often is looked without being woken: for what another process left."""


@dataclass
class Chore:
    """Something that is looked for and done.

    Attributes
    ----------
    do : callable
    every_s : float
        How often at most; 0 for whenever somebody asks.
    """

    do: Callable[[], object]
    every_s: float = 0.0
    due_at: float = 0.0


class Background:
    """Does chores; what one of them meets stops none of the others.

    Parameters
    ----------
    chores : list of Chore
    """

    def __init__(self, chores: list[Chore]) -> None:
        self.chores = chores
        self._wake = threading.Condition()
        self._threads: list[threading.Thread] = []

    def start(self) -> None:
        """Look for what is to be done, from now on and at once."""
        with self._wake:
            if not self._threads:
                self._threads = [threading.Thread(target=self._work, daemon=True) for _ in range(THREADS)]
                for thread in self._threads:
                    thread.start()
            self._wake.notify_all()

    def stop(self) -> None:
        """Do nothing more, once what has begun is done."""
        with self._wake:
            threads, self._threads = self._threads, []
            self._wake.notify_all()
        for thread in threads:
            thread.join()

    def _work(self) -> None:
        while threading.current_thread() in self._threads:
            for chore in self.chores:
                self._look(chore)
            with self._wake:
                if threading.current_thread() in self._threads:
                    self._wake.wait(LOOKED_FOR_S)

    def _look(self, chore: Chore) -> None:
        with self._wake:
            now = time.monotonic()
            if now < chore.due_at:
                return
            chore.due_at = now + chore.every_s
        try:
            chore.do()
        except DBAPIError as error:
            log.warning("chore_without_database", error=type(error).__name__)
        except Exception:
            log.exception("chore_failed")


def background_of(request: Request) -> Background:
    """Return what does chores in this process."""
    background: Background = request.app.state.background
    return background
