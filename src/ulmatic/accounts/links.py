"""Who comes by a link, without an account."""

from sqlalchemy import select

from ulmatic.accounts.models import LinkRow, Membership
from ulmatic.accounts.scope import Scope
from ulmatic.accounts.tokens import digest
from ulmatic.platform.database import Database, clock_of
from ulmatic.platform.problems import Problem


def linked(database: Database, token: str, kind: str) -> tuple[Scope, LinkRow]:
    """Return what a link shows; raise the 404 problem where it expired, was revoked, or its maker has left."""
    row = database.scalar(select(LinkRow).where(LinkRow.token_hash == digest(token)))
    member = None if row is None else database.get(Membership, (row.workspace_id, row.user_id))
    if row is None or row.kind != kind or row.deleted_at is not None or member is None:
        raise Problem(404, "This link does not work any more. Ask for a new one.")
    if row.expires_at < clock_of(database).now():
        raise Problem(404, "This link has expired. Ask for a new one.")
    return Scope(database, member), row
