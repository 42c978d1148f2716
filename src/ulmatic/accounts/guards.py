"""Guards in front of the routes: attempts are limited, and other origins cannot change anything."""

from urllib.parse import urlsplit

from fastapi import Request
from limits import RateLimitItem, parse
from limits.storage import MemoryStorage
from limits.strategies import MovingWindowRateLimiter

from ulmatic.platform.problems import Problem
from ulmatic.platform.settings import Settings

SAFE_METHODS = {"GET", "HEAD", "OPTIONS"}


class Attempts:
    """Counts attempts per network address and per account, in this process."""

    def __init__(self, settings: Settings) -> None:
        self._limiter = MovingWindowRateLimiter(MemoryStorage())
        self._per_account: RateLimitItem = parse(settings.attempts)
        self._per_address: RateLimitItem = parse(settings.attempts)
        self._per_address.amount *= 3

    def hit(self, address: str, account: str | None) -> None:
        """Count one attempt; raise the 429 problem when there were too many."""
        within = self._limiter.hit(self._per_address, "address", address)
        if account is not None:
            within = self._limiter.hit(self._per_account, "account", account.lower()) and within
        if not within:
            wait = int(self._per_account.get_expiry() // 60)
            raise Problem(
                429,
                f"That was tried too often. Wait {wait} minutes, then try again.",
                headers={"Retry-After": str(self._per_account.get_expiry())},
            )


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
