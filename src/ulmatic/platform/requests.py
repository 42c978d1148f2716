"""What happens to every request before and after its route: an id, the origin check, headers, a log line, measures."""

import re
import sys
import time
from uuid import uuid4

import structlog
from fastapi import FastAPI
from sqlalchemy import QueuePool
from starlette.datastructures import MutableHeaders
from starlette.middleware.gzip import GZipMiddleware
from starlette.middleware.trustedhost import TrustedHostMiddleware
from starlette.requests import Request
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from ulmatic.platform.bodies import Bodies, IsMember
from ulmatic.platform.gate import Gate
from ulmatic.platform.metrics import measure
from ulmatic.platform.origins import SAFE_METHODS, refuse_other_origins
from ulmatic.platform.problems import Problem, answer
from ulmatic.platform.settings import Settings

log = structlog.get_logger()

LEAST_COMPRESSED = 1_000
"""Bytes of an answer from which on it is worth compressing."""

BY_ADDRESS = ("/healthz", "/readyz", "/metrics")
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


def install(app: FastAPI, settings: Settings, is_member: IsMember) -> None:
    """Put the steps around every request of `app`; the last is met first.

    `is_member` says whether somebody with an account asks: of strangers only small bodies are read.
    """
    app.add_middleware(GZipMiddleware, minimum_size=LEAST_COMPRESSED, compresslevel=4)
    app.add_middleware(Gate)
    app.add_middleware(Bodies, is_member=is_member)
    app.add_middleware(KnownHosts, allowed_hosts=settings.allowed_hosts)
    app.add_middleware(HeadAsGet)
    app.add_middleware(Accompaniment, settings=settings, pool=app.state.engine.pool)


_SECRETS = re.compile(r"/(calendars|client-links)/[^/]+")


def bare_path(path: str) -> str:
    """Return a path as it is logged: the secrets of links stand in theirs, and are left out."""
    return _SECRETS.sub(r"/\1/…", path)


class Accompaniment:
    """Goes with every request: no answer leaves without headers and a line in the log, none is an exception.

    Parameters
    ----------
    app : ASGIApp
    settings : Settings
    pool : QueuePool
        Connections to the database, to be measured.
    """

    def __init__(self, app: ASGIApp, settings: Settings, pool: QueuePool) -> None:
        self.app, self.settings, self.pool = app, settings, pool
        https = {"Strict-Transport-Security": HTTPS_ONLY} if settings.secure_cookies else {}
        self.headers = _HEADERS | https

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Answer a request."""
        if scope["type"] != "http":
            await self.app(scope, receive, send)
            return
        request_id, started, method, status = uuid4().hex[:16], time.perf_counter(), scope["method"], 0
        state = scope["state"] = {**scope.get("state", {}), "request_id": request_id}
        structlog.contextvars.bind_contextvars(request_id=request_id)

        async def send_with_headers(message: Message) -> None:
            nonlocal status
            if message["type"] == "http.response.start":
                status = message["status"]
                self._complete(MutableHeaders(scope=message), scope, status)
            await send(message)

        request = Request(scope, receive)
        try:
            refuse_other_origins(request, self.settings)
            if self.settings.read_only and request.method not in SAFE_METHODS:
                raise Problem(503, "This server is read-only. Nothing was changed.", headers={"Retry-After": "60"})
            await self.app(scope, receive, send_with_headers)
        except Exception as error:
            problem = error if isinstance(error, Problem) else None
            if problem is None:
                log.exception("unexpected")
            fault = problem.fault if problem else "program"
            if fault:
                state["fault"] = fault
            if status:
                raise
            words = "The server failed. Nothing you typed is lost. Please try again."
            refusal = (
                answer(request, problem.status, problem.detail, problem.errors, problem.headers)
                if problem
                else answer(request, 500, words)
            )
            await refusal(scope, receive, send_with_headers)
        finally:
            took_s, route = time.perf_counter() - started, getattr(scope.get("route"), "path", "none")
            measure(method, route, status, took_s, self.pool)
            faults = {"fault": state["fault"]} if "fault" in state else {}
            path, took_ms = bare_path(scope["path"]), round(took_s * 1e3, 1)
            log.info("request", method=method, path=path, status=status, ms=took_ms, **faults)
            structlog.contextvars.clear_contextvars()

    def _complete(self, headers: MutableHeaders, scope: Scope, status: int) -> None:
        headers["X-Request-ID"] = scope["state"]["request_id"]
        for name, value in self.headers.items():
            headers.setdefault(name, value)
        if not scope["path"].startswith("/api/"):
            return
        tag = scope["state"].get("tag")
        if tag is not None and status in (200, 304):
            headers["ETag"] = tag
            headers["Cache-Control"] = "private, no-cache"
            headers.add_vary_header("Cookie")
        headers.setdefault("Cache-Control", "no-store")


class KnownHosts(TrustedHostMiddleware):
    """Refuses hosts that are not served; whoever looks after the machine asks for its health by address."""

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Answer a request."""
        if scope["type"] == "http" and scope["path"] in BY_ADDRESS:
            await self.app(scope, receive, send)
        else:
            await super().__call__(scope, receive, send)


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

        scope["method"] = "GET"
        await self.app(scope, receive, send_bare)


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
