"""Asking a service outside that may be slow, down or wrong, without being hurt by it.

An exchange has one deadline for everything (connecting, headers, body, further tries) and a bound on what is read.
A few requests may wait for a service at once, the others are told at once that it does not answer; after a few
exchanges that ended in nothing it is left alone for a while.
"""

import asyncio
import threading
import time
from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

import httpx2
import structlog
from pydantic_core import from_json

log = structlog.get_logger()

TRIES = 3
PAUSE_S = 0.2
"""Before the second try; doubled before each further one."""
MOST_BYTES = 2_000_000
"""Read of an answer's body; 200 offers and 400 days of weather are under 100 kB."""
MOST_WAITING = 4
"""Requests that wait for a service at once."""
TROUBLES = 3
"""Exchanges in a row that ended in nothing, after which the service is left alone."""
REST_S = 30.0


@dataclass(frozen=True)
class Answer:
    """What a service said.

    Attributes
    ----------
    status_code : int
    content : bytes
    """

    status_code: int
    content: bytes

    def json(self) -> Any:
        """Return the body read as JSON.

        Raises
        ------
        ValueError
        """
        return from_json(self.content)


class _TooMuch(Exception):
    """The body is larger than anything this service has to say."""


class AskedService:
    """A service outside.

    Parameters
    ----------
    name : str
        As it stands in the log.
    url : str
        Its address.
    deadline_s : float
        For a whole exchange.
    transport : callable, optional
        Makes another way to reach it.
    """

    def __init__(
        self, name: str, url: str, deadline_s: float, transport: Callable[[], httpx2.AsyncBaseTransport] | None = None
    ) -> None:
        self.name, self.url, self.deadline_s, self.transport = name, url, deadline_s, transport
        self._verify = httpx2.create_ssl_context()
        self._waiting = threading.BoundedSemaphore(MOST_WAITING)
        self._lock = threading.Lock()
        self._troubles = 0
        self._left_alone_until = 0.0

    def ask(self, method: str, path: str, *, fits: Callable[[int], bool], **more: Any) -> Answer | None:
        """Return the first answer whose status fits, or None; only for what may be sent again.

        Parameters
        ----------
        method, path : str
        fits : callable
            Says of a status whether it is an answer.
        more
            As for `httpx2.AsyncClient.stream`.
        """
        if time.monotonic() < self._left_alone_until:
            return None
        if not self._waiting.acquire(blocking=False):
            log.warning("service_busy", service=self.name)
            return None
        try:
            answer = asyncio.run(self._exchange(method, path, fits, more))
        finally:
            self._waiting.release()
        self._remember(well=answer is not None)
        return answer

    def _remember(self, *, well: bool) -> None:
        with self._lock:
            self._troubles = 0 if well else self._troubles + 1
            if self._troubles >= TROUBLES:
                self._left_alone_until = time.monotonic() + REST_S
                log.warning("service_left_alone", service=self.name, seconds=REST_S)

    async def _exchange(
        self, method: str, path: str, fits: Callable[[int], bool], options: dict[str, Any]
    ) -> Answer | None:
        try:
            async with (
                asyncio.timeout(self.deadline_s),
                httpx2.AsyncClient(
                    base_url=self.url,
                    timeout=self.deadline_s,
                    headers={"Accept-Encoding": "identity"},
                    verify=self._verify,
                    transport=self.transport() if self.transport else None,
                ) as client,
            ):
                for attempt in range(1, TRIES + 1):
                    answer = await self._try(client, method, path, attempt, options)
                    if answer is not None and fits(answer.status_code):
                        return answer
                    if attempt < TRIES:
                        await asyncio.sleep(PAUSE_S * 2 ** (attempt - 1))
        except TimeoutError:
            log.warning("service_slow", service=self.name, seconds=self.deadline_s)
        return None

    async def _try(
        self, client: httpx2.AsyncClient, method: str, path: str, attempt: int, options: dict[str, Any]
    ) -> Answer | None:
        try:
            async with client.stream(method, path, **options) as response:
                # Compressed answers could be small on the way and huge here; they were not asked for.
                if response.headers.get("content-encoding", "identity") != "identity":
                    raise _TooMuch
                body = bytearray()
                async for part in response.aiter_bytes():
                    body += part
                    if len(body) > MOST_BYTES:
                        raise _TooMuch
        except (httpx2.HTTPError, httpx2.InvalidURL, _TooMuch) as error:
            log.warning("service_unreachable", service=self.name, error=type(error).__name__, attempt=attempt)
            return None
        if response.status_code >= 500 or response.status_code == 429:
            log.warning("service_trouble", service=self.name, status=response.status_code, attempt=attempt)
        return Answer(response.status_code, bytes(body))
