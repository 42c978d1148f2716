"""How many requests are answered at once: a few, behind short queues; the others are told at once to come again.

Every request to the API has a place among those that are let in. What takes long (a site that is worked out) gives
that place back and takes one of the few for work, so that who only asks whether something changed need not wait for it.
"""

import asyncio
import threading
from collections import deque
from dataclasses import dataclass, field

from prometheus_client import Gauge
from starlette.requests import Request
from starlette.types import ASGIApp, Receive, Scope, Send

from ulmatic.platform.problems import Problem

AT_ONCE = 20
"""With those at work below what the database pool gives, so that nobody who was let in waits for a connection."""
AT_WORK = 2
"""Sites worked out at once in one process; more would only share its time."""
MOST_WAITING = 400
MOST_WAITING_FOR_WORK = 24
MOST_PAUSING = 200
PATIENCE_S = 4.0
RETRY_AFTER_S = 2
PLACE = "ulmatic.place"

_waiting = Gauge(
    "ulmatic_waiting", "Requests that wait to be let in, or to be worked out", ["lane"], multiprocess_mode="livesum"
)
_inside = Gauge("ulmatic_inside", "Requests that are let in, or worked out", ["lane"], multiprocess_mode="livesum")


@dataclass
class Lane:
    """Places for a few requests, in the order in which they come; used from any thread and any event loop.

    Parameters
    ----------
    name : str
        As it is measured.
    places, most_waiting : int
    patience_s : float
        How long a request waits for a place.
    """

    name: str
    places: int
    most_waiting: int
    patience_s: float = PATIENCE_S
    expected: int = 0
    _queue: deque[asyncio.Future[None]] = field(default_factory=deque)
    _lock: threading.Lock = field(default_factory=threading.Lock)

    def __post_init__(self) -> None:
        """Show the lane in the measures before anybody has come."""
        for gauge in (_waiting, _inside):
            gauge.labels(self.name)

    @property
    def waiting(self) -> int:
        """How many wait."""
        return len(self._queue)

    def expect(self) -> bool:
        """Count somebody who is on the way; return whether there is room for one more to wait."""
        with self._lock:
            if self.expected + len(self._queue) >= self.most_waiting:
                return False
            self.expected += 1
            return True

    def arrived(self) -> None:
        """Count somebody no more who was on the way."""
        with self._lock:
            self.expected -= 1

    async def enter(self) -> bool:
        """Take a place; return whether there was one in time."""
        loop = asyncio.get_running_loop()
        with self._lock:
            if self.places > 0:
                self.places -= 1
                _inside.labels(self.name).inc()
                return True
            if len(self._queue) >= self.most_waiting:
                return False
            turn = loop.create_future()
            self._queue.append(turn)
            _waiting.labels(self.name).inc()
        try:
            async with asyncio.timeout(self.patience_s):
                await asyncio.shield(turn)
        except BaseException as error:
            with self._lock:
                waited = turn in self._queue
                if waited:
                    self._queue.remove(turn)
                    _waiting.labels(self.name).dec()
            if not waited:
                self.leave()
            if isinstance(error, TimeoutError):
                return False
            raise
        return True

    def leave(self) -> None:
        """Give a place back: to the first who waits."""
        with self._lock:
            _inside.labels(self.name).dec()
            while self._queue:
                turn = self._queue.popleft()
                _waiting.labels(self.name).dec()
                try:
                    turn.get_loop().call_soon_threadsafe(_call, turn)
                except RuntimeError:  # its loop was closed
                    continue
                _inside.labels(self.name).inc()
                return
            self.places += 1


def _call(turn: asyncio.Future[None]) -> None:
    if not turn.done():
        turn.set_result(None)


class RequestSlot:
    """Where one request is: among all, then perhaps among those at work."""

    def __init__(self, gate: "Gate") -> None:
        self._gate = gate
        self._lane: Lane | None = None
        self._on_the_way = False

    def expect_work(self) -> bool:
        """Say that this will want to be worked out; return whether there is room for that."""
        self._on_the_way = self._gate.work.expect()
        return self._on_the_way

    async def take(self, lane: Lane) -> bool:
        """Give back what is held and wait for a place in `lane`."""
        self.leave()
        if not await lane.enter():
            return False
        self._lane = lane
        return True

    async def work(self) -> None:
        """Wait for a place among those at work; raise the 503 problem where there is none."""
        self._arrive()
        if self._lane is not self._gate.work and not await self.take(self._gate.work):
            raise too_many()

    async def pause(self, seconds: float) -> None:
        """Wait without a place, then take one again; raise the 503 problem where many wait so."""
        if seconds <= 0:
            return
        self.leave()
        if self._gate.pausing >= MOST_PAUSING:
            raise too_many()
        self._gate.pausing += 1
        try:
            await asyncio.sleep(seconds)
        finally:
            self._gate.pausing -= 1
        if not await self.take(self._gate.entry):
            raise too_many()

    def _arrive(self) -> None:
        if self._on_the_way:
            self._gate.work.arrived()
            self._on_the_way = False

    def end(self) -> None:
        """Give back everything."""
        self._arrive()
        self.leave()

    def leave(self) -> None:
        """Give back the place that is held."""
        if self._lane is not None:
            self._lane.leave()
            self._lane = None


def too_many() -> Problem:
    """Return what somebody is told for whom there is no place."""
    words = "The server is busy. Nothing you typed is lost. Please try again in a moment."
    return Problem(503, words, headers={"Retry-After": str(RETRY_AFTER_S)}, fault="busy")


def _asks_for_a_page(scope: Scope) -> bool:
    """Say whether a request is for a site that would have to be worked out."""
    headers = {name for name, _ in scope["headers"]}
    return scope["method"] == "GET" and "/sites" in scope["path"] and b"if-none-match" not in headers


class Gate:
    """Lets requests to the API through, a few at a time; pages and health checks pass freely.

    Parameters
    ----------
    app : ASGIApp
        What is behind it.
    entry, work : Lane, optional
        Places for all requests, and for those that are worked out.
    """

    def __init__(self, app: ASGIApp, entry: Lane | None = None, work: Lane | None = None) -> None:
        self.app = app
        self.entry = entry or Lane("entry", AT_ONCE, MOST_WAITING)
        self.work = work or Lane("work", AT_WORK, MOST_WAITING_FOR_WORK)
        self.pausing = 0

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Answer a request, or say 503 with Retry-After."""
        if scope["type"] != "http" or not scope["path"].startswith("/api/"):
            await self.app(scope, receive, send)
            return
        place = RequestSlot(self)
        # Before anything is looked up: who has no chance costs next to nothing.
        if _asks_for_a_page(scope) and not place.expect_work():
            raise too_many()
        try:
            if not await place.take(self.entry):
                raise too_many()
            scope[PLACE] = place
            await self.app(scope, receive, send)
        finally:
            place.end()


async def working(request: Request) -> None:
    """Take a place among those at work, for a route that takes long."""
    place: RequestSlot = request.scope[PLACE]
    await place.work()
