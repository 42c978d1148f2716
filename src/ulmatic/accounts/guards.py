"""Guards in front of the routes: attempts are limited, and other origins cannot change anything."""

from datetime import datetime, timedelta
from hashlib import sha256
from urllib.parse import urlsplit

from fastapi import Request
from limits import RateLimitItem, parse
from sqlalchemy import ColumnElement, delete, func, select
from sqlalchemy.orm import Session, sessionmaker

from ulmatic.accounts.models import Attempt
from ulmatic.platform.problems import Problem
from ulmatic.platform.settings import Settings

FORGOTTEN_AT_ONCE = 100
SAFE_METHODS = {"GET", "HEAD", "OPTIONS"}


class Attempts:
    """Counts attempts per network address and per account, in PostgreSQL, so that all processes count together.

    Parameters
    ----------
    sessions : sessionmaker
        Opens database sessions; each attempt is kept whatever becomes of its request.
    attempts : str
        Allowed per account, as `limits` writes it; per address three times as many.
    """

    def __init__(self, sessions: sessionmaker[Session], attempts: str) -> None:
        limit: RateLimitItem = parse(attempts)
        self._sessions = sessions
        self._amount, self._window_s = limit.amount, limit.get_expiry()

    def hit(self, address: str, account: str | None) -> None:
        """Count one attempt; raise the 429 problem when there were too many."""
        with self._sessions.begin() as session:
            within = self._counted(session, f"address {address}", 3 * self._amount)
            if account is not None:
                within = self._counted(session, f"account {account.lower()}", self._amount) and within
            self._forget(session)
        if not within:
            raise Problem(
                429,
                f"That was tried too often. Wait {max(1, self._window_s // 60)} minutes, then try again.",
                headers={"Retry-After": str(self._window_s)},
            )

    def _counted(self, session: Session, whose: str, most: int) -> bool:
        """Count an attempt where there were fewer than `most`; say whether that was so."""
        key = sha256(whose.encode(errors="replace")).hexdigest()
        # Held until the commit: of two attempts at the last place one gets it.
        session.execute(select(func.pg_advisory_xact_lock(func.hashtextextended(key, 0))))
        recent = select(func.count()).where(Attempt.key == key, Attempt.at > self._since())
        within = (session.scalar(recent) or 0) < most
        if within:
            session.add(Attempt(key=key))
            session.flush()
        return within

    def _since(self) -> ColumnElement[datetime]:
        return func.now() - timedelta(seconds=self._window_s)

    def _forget(self, session: Session) -> None:
        """Let go of a few attempts that count no more; those another process holds are left to it."""
        old = select(Attempt.id).where(Attempt.at <= self._since()).limit(FORGOTTEN_AT_ONCE)
        session.execute(delete(Attempt).where(Attempt.id.in_(old.with_for_update(skip_locked=True))))


def limit_attempts(request: Request, account: str | None = None) -> None:
    """Count an attempt at a secret from this request's address, and at this account."""
    attempts: Attempts = request.app.state.attempts
    attempts.hit(request.client.host if request.client else "", account)


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
        raise Problem(403, "This request came from another site and was refused.")


def _host_of(origin: str) -> str | None:
    try:
        return urlsplit(origin).netloc
    except ValueError:
        return None
