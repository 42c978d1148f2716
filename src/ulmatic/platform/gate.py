"""How many requests are answered at once: a few, behind a short queue; the others are told at once to come again."""

import asyncio

from starlette.requests import Request
from starlette.types import ASGIApp, Receive, Scope, Send

from ulmatic.platform.problems import answer

AT_ONCE = 20
"""Below what the database pool gives, so that nobody who was let in waits for a connection."""
MOST_WAITING = 200
PATIENCE_S = 4.0
RETRY_AFTER_S = 2


class Gate:
    """Lets requests to the API through, a few at a time; pages and health checks pass freely.

    Parameters
    ----------
    app : ASGIApp
        What is behind it.
    at_once, most_waiting : int
    patience_s : float
        How long a request waits to be let in.
    """

    def __init__(
        self, app: ASGIApp, at_once: int = AT_ONCE, most_waiting: int = MOST_WAITING, patience_s: float = PATIENCE_S
    ) -> None:
        self.app, self.most_waiting, self.patience_s = app, most_waiting, patience_s
        self.waiting = 0
        self._places = asyncio.Semaphore(at_once)

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Answer a request, or say 503 with Retry-After."""
        if scope["type"] != "http" or not scope["path"].startswith("/api/"):
            await self.app(scope, receive, send)
            return
        if not await self._enters():
            words = "Too many people are asking just now. Nothing you typed is lost; please try again in a moment."
            headers = {"Retry-After": str(RETRY_AFTER_S)}
            await answer(Request(scope), 503, words, headers=headers)(scope, receive, send)
            return
        try:
            await self.app(scope, receive, send)
        finally:
            self._places.release()

    async def _enters(self) -> bool:
        if self._places.locked() and self.waiting >= self.most_waiting:
            return False
        self.waiting += 1
        try:
            async with asyncio.timeout(self.patience_s):
                await self._places.acquire()
        except TimeoutError:
            return False
        finally:
            self.waiting -= 1
        return True
