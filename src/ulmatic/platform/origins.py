"""Requests that change something come from our own pages only."""

from urllib.parse import urlsplit

from starlette.requests import Request

from ulmatic.platform.problems import Problem
from ulmatic.platform.settings import Settings

SAFE_METHODS = {"GET", "HEAD", "OPTIONS"}


def refuse_other_origins(request: Request, settings: Settings) -> None:
    """Raise the 403 problem for a state-changing request that does not come from our own pages.

    A browser states the origin of every such request. Where none is stated, the request is no browser's; it is let
    through only when it carries no cookie.
    """
    if request.method in SAFE_METHODS:
        return
    origin = request.headers.get("origin")
    site = request.headers.get("sec-fetch-site")
    if origin is None:
        refused = bool(request.cookies) if site is None else site not in ("same-origin", "none")
    elif settings.public_origin:
        refused = origin != settings.public_origin
    else:
        refused = _host_of(origin) != request.headers.get("host")
    if refused:
        raise Problem(403, "This request came from another website and was refused.")


def _host_of(origin: str) -> str | None:
    try:
        return urlsplit(origin).netloc
    except ValueError:
        return None
