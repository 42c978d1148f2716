"""Secrets that are told once and kept as a digest."""

import hashlib
import secrets


def new_token() -> str:
    """Return a secret that can stand in a link or a cookie."""
    return secrets.token_urlsafe(32)


def digest(token: str) -> bytes:
    """Return what is kept of a secret."""
    return hashlib.sha256(token.encode()).digest()
