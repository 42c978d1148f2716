"""Passwords: hashed with Argon2, and refused where they are among those that are guessed first."""

import secrets
from functools import cache

from pwdlib import PasswordHash

from ulmatic.platform.problems import Problem

LEAST_SCORE = 3
"""Of 0 to 4, as zxcvbn counts guesses (Wheeler 2016, USENIX Security): 3 is safe from guessing without the hash."""
LONGEST_LOOKED_AT = 72
"""Characters that are looked at; what comes after only makes a password better."""

hashes = PasswordHash.recommended()


def hashed(password: str, field: str, *about: str) -> str:
    """Return a password as it is kept, or raise the 422 problem for one that is guessed easily.

    Parameters
    ----------
    password : str
    field : str
        Where it was typed.
    about : str
        What anybody knows of its owner: name, e-mail address.
    """
    from zxcvbn import zxcvbn

    known = [word for text in about for word in {text, *text.replace("@", " ").replace(".", " ").split()}]
    if zxcvbn(password[:LONGEST_LOOKED_AT], user_inputs=known, max_length=LONGEST_LOOKED_AT)["score"] < LEAST_SCORE:
        sentence = "This password is easy to guess. Use four ordinary words that do not belong together."
        raise Problem(422, sentence, field=field)
    return hashes.hash(password)


@cache
def unguessable() -> str:
    """Return the hash of a password that nobody knows: worked out once in a process, as nobody can sign in by it."""
    return hashes.hash(secrets.token_hex())


def checked(password: str, password_hash: str | None) -> tuple[bool, str | None]:
    """Say whether a password is right, and its hash anew where the kept one is outdated.

    It takes as long where there is no hash to compare with.
    """
    nobody = unguessable()
    right, renewed = hashes.verify_and_update(password, password_hash or nobody)
    return right and password_hash is not None, renewed
