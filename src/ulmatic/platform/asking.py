"""Asking a service outside that may be slow, down or wrong."""

import time
from collections.abc import Callable
from typing import Any

import httpx2
import structlog

log = structlog.get_logger()

TRIES = 3
PAUSE_S = 0.2
"""Before the second try; doubled before each further one."""


def ask(
    client: httpx2.Client, service: str, method: str, path: str, *, fits: Callable[[int], bool], **more: Any
) -> httpx2.Response | None:
    """Return the first answer whose status fits, or None after a few tries; only for what may be sent again.

    Parameters
    ----------
    client : httpx2.Client
    service : str
        Its name in the log.
    method, path : str
    fits : callable
        Says of a status whether it is an answer.
    more
        As for `httpx2.Client.request`.
    """
    for attempt in range(1, TRIES + 1):
        try:
            response = client.request(method, path, **more)
            if fits(response.status_code):
                return response
            log.warning("service_trouble", service=service, status=response.status_code, attempt=attempt)
        except httpx2.HTTPError as error:
            log.warning("service_unreachable", service=service, error=type(error).__name__, attempt=attempt)
        if attempt < TRIES:
            time.sleep(PAUSE_S * 2 ** (attempt - 1))
    return None
