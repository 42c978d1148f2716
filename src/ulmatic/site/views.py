"""Looking at a site: whoever has seen it as it is, is told so; for the others it is worked out, a few at a time."""

import hashlib
from functools import lru_cache
from pathlib import Path
from typing import Annotated
from uuid import UUID

from fastapi import Depends, HTTPException, Request

import ulmatic
from ulmatic.accounts.scope import Scope, ViewerScope
from ulmatic.platform.gate import working
from ulmatic.site.snapshot import versions


@lru_cache
def _program() -> float:
    """Return when the program was last changed: another program may show the same site otherwise."""
    return max(path.stat().st_mtime for path in Path(ulmatic.__file__).parent.rglob("*.py"))


def _tag(request: Request, scope: Scope, site_id: UUID | None) -> str:
    state = (ulmatic.__version__, _program(), request.url.path, request.url.query, versions(scope, site_id))
    return f'"{hashlib.sha256(repr(state).encode()).hexdigest()[:24]}"'


def _seen(request: Request, tag: str) -> bool:
    tags = request.headers.get("if-none-match", "")[:2_000].split(",")
    return tag in {known.strip().removeprefix("W/") for known in tags}


def _compared(request: Request, scope: ViewerScope) -> Scope:
    """Answer 304 where nothing of the site, or of any site, is another than when it was last sent."""
    site_id = request.path_params.get("site_id")
    # Kept before the site is read: what is written in between makes the next answer a new one.
    request.state.tag = tag = _tag(request, scope, UUID(site_id) if site_id else None)
    if _seen(request, tag):
        raise HTTPException(304)
    # The connection is given back while this waits for a place.
    scope.session.commit()
    return scope


def _released(scope: ViewerScope) -> Scope:
    scope.session.commit()
    return scope


async def _viewed(request: Request, scope: Annotated[Scope, Depends(_compared)]) -> Scope:
    await working(request)
    return scope


async def _worked(request: Request, scope: Annotated[Scope, Depends(_released)]) -> Scope:
    await working(request)
    return scope


SiteView = Annotated[Scope, Depends(_viewed)]
"""For what shows a site, or all of them, and nothing besides."""
WorkView = Annotated[Scope, Depends(_worked)]
"""For what is worked out of a site with something else."""
