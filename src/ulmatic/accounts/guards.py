"""Guards in front of the routes: attempts are limited, and other origins cannot change anything."""

from datetime import datetime, timedelta
from hashlib import sha256

from fastapi import Request
from limits import RateLimitItem, parse
from sqlalchemy import ColumnElement, Select, delete, func, select
from sqlalchemy.orm import Session, sessionmaker
from starlette.concurrency import run_in_threadpool

from ulmatic.accounts.models import Attempt
from ulmatic.platform.gate import PLACE, RequestSlot
from ulmatic.platform.problems import Problem

FORGOTTEN_AT_ONCE = 100
FIRST_DELAY_S, LONGEST_DELAY_S = 0.5, 8.0
MOST_DOUBLED = 10
"""Beyond it a delay is the longest anyway, and a power of thousands is no number any more."""


class Attempts:
    """Counts attempts in PostgreSQL, so that all processes count together.

    A network address is refused after some; an account never is: whoever guesses at it, its owner gets in, but each
    wrong password makes the next answer come later.

    Parameters
    ----------
    sessions : sessionmaker
        Opens database sessions; each attempt is kept whatever becomes of its request.
    attempts : str
        Allowed for one thing, as `limits` writes it; from one address three times as many.
    """

    def __init__(self, sessions: sessionmaker[Session], attempts: str) -> None:
        limit: RateLimitItem = parse(attempts)
        self._sessions = sessions
        self._amount, self._window_s = limit.amount, limit.get_expiry()

    def hit(self, address: str, what: str | None = None) -> None:
        """Count an attempt from an address, and at one thing; raise the 429 problem when there were too many."""
        with self._sessions.begin() as session:
            is_below_limit = self._counted(session, f"address {address}", 3 * self._amount)
            if what is not None:
                is_below_limit = self._counted(session, what, self._amount) and is_below_limit
            self._forget(session)
        if not is_below_limit:
            raise Problem(
                429,
                f"Too many attempts. Wait {max(1, self._window_s // 60)} minutes, then try again.",
                headers={"Retry-After": str(self._window_s)},
            )

    def failed(self, account: str) -> None:
        """Remember a wrong password."""
        with self._sessions.begin() as session:
            session.add(Attempt(key=_key(_wrong(account))))
            self._forget(session)

    def succeeded(self, account: str) -> None:
        """Forget the wrong passwords of an account: its owner is there."""
        with self._sessions.begin() as session:
            session.execute(delete(Attempt).where(Attempt.key == _key(_wrong(account))))

    def delay_s(self, account: str) -> float:
        """Return how long the next answer to a password has to wait."""
        with self._sessions() as session:
            wrong = session.scalar(self._recent(_key(_wrong(account)))) or 0
        more = wrong - self._amount // 2
        return 0.0 if more < 0 else min(LONGEST_DELAY_S, FIRST_DELAY_S * 2 ** min(more, MOST_DOUBLED))

    def _recent(self, key: str) -> Select[int]:
        return select(func.count()).where(Attempt.key == key, Attempt.at > self._since())

    def _counted(self, session: Session, whose: str, limit: int) -> bool:
        """Count an attempt where there were fewer than `most`; say whether that was so."""
        key = _key(whose)
        # Held until the commit: of two attempts at the last place one gets it.
        session.execute(select(func.pg_advisory_xact_lock(func.hashtextextended(key, 0))))
        is_below_limit = (session.scalar(self._recent(key)) or 0) < limit
        if is_below_limit:
            session.add(Attempt(key=key))
            session.flush()
        return is_below_limit

    def _since(self) -> ColumnElement[datetime]:
        return func.now() - timedelta(seconds=self._window_s)

    def _forget(self, session: Session) -> None:
        """Let go of a few attempts that count no more; those another process holds are left to it."""
        old = select(Attempt.id).where(Attempt.at <= self._since()).limit(FORGOTTEN_AT_ONCE)
        session.execute(delete(Attempt).where(Attempt.id.in_(old.with_for_update(skip_locked=True))))


def _key(whose: str) -> str:
    return sha256(whose.encode(errors="replace")).hexdigest()


def _wrong(account: str) -> str:
    return f"wrong password of {account.lower()}"


def attempts_of(request: Request) -> Attempts:
    """Return what counts attempts."""
    attempts: Attempts = request.app.state.attempts
    return attempts


def limit_attempts(request: Request, what: str | None = None) -> None:
    """Count an attempt from this request's address, and at one thing."""
    attempts_of(request).hit(request.client.host if request.client else "", what)


async def slow_down(request: Request, account: str) -> None:
    """Let an answer to a password wait where wrong ones came before; meanwhile it holds no place."""
    await run_in_threadpool(limit_attempts, request)
    seconds = await run_in_threadpool(attempts_of(request).delay_s, account)
    place: RequestSlot = request.scope[PLACE]
    await place.pause(seconds)
