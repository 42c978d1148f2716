"""What happens to every request before and after its route: an id, the origin check, headers, one log line."""

import sys
import time
from uuid import uuid4

import structlog
from fastapi import FastAPI, Request, Response
from starlette.middleware.base import RequestResponseEndpoint
from starlette.middleware.gzip import GZipMiddleware
from starlette.middleware.trustedhost import TrustedHostMiddleware
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from ulmatic.accounts.guards import refuse_other_origins
from ulmatic.platform.gate import Gate
from ulmatic.platform.problems import Problem, answer
from ulmatic.platform.settings import Settings

log = structlog.get_logger()

MOST_BYTES = 5_000_000
"""Size of a request's body."""
LEAST_COMPRESSED = 1_000
"""Bytes of an answer from which on it is worth compressing."""

HTTPS_ONLY = "max-age=31536000"
_HEADERS = {
    "X-Content-Type-Options": "nosniff",
    "X-Frame-Options": "DENY",
    "Referrer-Policy": "same-origin",
    "Content-Security-Policy": (
        "default-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data: blob:; "
        "object-src 'none'; base-uri 'none'; frame-ancestors 'none'; form-action 'self'"
    ),
}


def install(app: FastAPI, settings: Settings) -> None:
    """Put the steps around every request of `app`."""
    app.add_middleware(GZipMiddleware, minimum_size=LEAST_COMPRESSED, compresslevel=4)
    app.add_middleware(Gate)
    app.add_middleware(TrustedHostMiddleware, allowed_hosts=settings.allowed_hosts)
    app.add_middleware(HeadAsGet)
    headers = _HEADERS | ({"Strict-Transport-Security": HTTPS_ONLY} if settings.secure_cookies else {})

    @app.middleware("http")
    async def _accompany(request: Request, call_next: RequestResponseEndpoint) -> Response:
        request.state.request_id = uuid4().hex[:16]
        structlog.contextvars.bind_contextvars(request_id=request.state.request_id)
        started = time.perf_counter()
        response = await _checked(request, call_next)
        response.headers["X-Request-ID"] = request.state.request_id
        for name, value in headers.items():
            response.headers.setdefault(name, value)
        if request.url.path.startswith("/api/"):
            response.headers.setdefault("Cache-Control", "no-store")
        log.info(
            "request",
            method=request.method,
            path=request.url.path,
            status=response.status_code,
            ms=round((time.perf_counter() - started) * 1e3, 1),
        )
        structlog.contextvars.clear_contextvars()
        return response

    async def _checked(request: Request, call_next: RequestResponseEndpoint) -> Response:
        try:
            refuse_other_origins(request, settings)
            size = request.headers.get("content-length", "0")
            if (
                "chunked" in request.headers.get("transfer-encoding", "")
                or not size.isdigit()
                or int(size) > MOST_BYTES
            ):
                raise Problem(413, "That is too much at once; 5 MB at most.")
            return await call_next(request)
        except Problem as problem:
            return answer(request, problem.status, problem.detail, problem.errors, problem.headers)
        except Exception:
            log.exception("unexpected")
            return answer(
                request, 500, "Something went wrong on our side. Nothing you typed is lost; please try again."
            )


class HeadAsGet:
    """Answers HEAD as GET without its body.

    Parameters
    ----------
    app : ASGIApp
    """

    def __init__(self, app: ASGIApp) -> None:
        self.app = app

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Answer a request."""
        if scope["type"] != "http" or scope["method"] != "HEAD":
            await self.app(scope, receive, send)
            return

        async def send_bare(message: Message) -> None:
            await send({**message, "body": b""} if message["type"] == "http.response.body" else message)

        await self.app({**scope, "method": "GET"}, receive, send_bare)


def configure_logging() -> None:
    """Write one JSON object a line to standard error."""
    structlog.configure(
        processors=[
            structlog.contextvars.merge_contextvars,
            structlog.processors.add_log_level,
            structlog.processors.TimeStamper(fmt="iso", utc=True),
            structlog.processors.format_exc_info,
            structlog.processors.JSONRenderer(),
        ],
        logger_factory=lambda *_: structlog.WriteLogger(sys.stderr),
        # Not kept: a logger writes to the stream there is when it writes, not to one that was closed since.
        cache_logger_on_first_use=False,
    )
