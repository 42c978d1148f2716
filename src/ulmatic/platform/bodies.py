"""What comes with a request, read whole and in time before anybody waits for it; from strangers only little."""

import asyncio
from collections.abc import Callable

from starlette.concurrency import run_in_threadpool
from starlette.requests import Request
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from ulmatic.platform.gate import too_many
from ulmatic.platform.problems import Problem

MOST_BYTES = 5_000_000
"""Size of a request's body."""
MOST_BYTES_OF_ARCHIVES = 60_000_000
"""Of an archive, which may hold photos."""
MOST_BYTES_OF_STRANGERS = 20_000
"""Enough to sign in or up; more is not read from anybody else."""
MOST_BYTES_AT_ONCE = 100_000_000
"""Of all bodies that are held in one process."""
SLOWEST_S = 20.0
IsMember = Callable[[Request], bool]


class Bodies:
    """Reads bodies before the gate, so that a slow one holds no place; refuses large and slow ones.

    Parameters
    ----------
    app : ASGIApp
    is_member : callable
        Says of a request whether somebody with an account sends it: who sends much is looked up.
    slowest_s : float
        A body has to be here by then.
    """

    def __init__(self, app: ASGIApp, is_member: IsMember, slowest_s: float = SLOWEST_S) -> None:
        self.app, self.is_member, self.slowest_s = app, is_member, slowest_s
        self.held = 0

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Answer a request."""
        if scope["type"] != "http":
            await self.app(scope, receive, send)
            return
        request = Request(scope)
        size = await self._size(request)
        if size == 0:
            await self.app(scope, receive, send)
            return
        if self.held + size > MOST_BYTES_AT_ONCE:
            raise too_many()
        self.held += size
        try:
            body = await self._read(receive)
            await self.app(scope, _again(body, receive), send)
        finally:
            self.held -= size

    async def _size(self, request: Request) -> int:
        if "chunked" in request.headers.get("transfer-encoding", ""):
            raise Problem(411, "The length of the request is missing.")
        size = request.headers.get("content-length", "0")
        most = MOST_BYTES_OF_ARCHIVES if request.url.path.endswith("/archives") else MOST_BYTES
        if not (size.isascii() and size.isdigit()) or len(size) > 12 or int(size) > most:
            raise Problem(413, f"This is too large: {most // 1_000_000} MB at most.")
        if int(size) > MOST_BYTES_OF_STRANGERS and not await run_in_threadpool(self.is_member, request):
            raise Problem(401, "Please sign in first.")
        return int(size)

    async def _read(self, receive: Receive) -> bytes:
        parts: list[bytes] = []
        try:
            async with asyncio.timeout(self.slowest_s):
                while True:
                    message = await receive()
                    if message["type"] == "http.disconnect":
                        raise Problem(400, "The request did not arrive completely.")
                    parts.append(message.get("body", b""))
                    if not message.get("more_body", False):
                        return b"".join(parts)
        except TimeoutError:
            raise Problem(
                408,
                "The request was too slow. Nothing you typed is lost. Please try again.",
                headers={"Connection": "close"},
            ) from None


def _again(body: bytes, receive: Receive) -> Receive:
    delivered = False

    async def read() -> Message:
        nonlocal delivered
        if delivered:
            return await receive()
        delivered = True
        return {"type": "http.request", "body": body, "more_body": False}

    return read
