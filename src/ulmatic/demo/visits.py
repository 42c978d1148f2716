"""A demo for everybody who steps in: a user and a workspace of their own that go again.

The sites are loaded once an hour, into a workspace that nobody can enter; visitors get a copy of its rows.
"""

from datetime import date, timedelta
from uuid import UUID, uuid4

from sqlalchemy import func, insert, literal, select
from sqlalchemy.orm import Session

from ulmatic.accounts import passwords
from ulmatic.accounts import service as accounts
from ulmatic.accounts.models import Membership, User, Workspace
from ulmatic.accounts.scope import Scope
from ulmatic.demo.load import load
from ulmatic.platform.database import Base, WorkspaceRow, clock_of
from ulmatic.platform.problems import Problem
from ulmatic.platform.settings import Settings

DOMAIN = "demo.invalid"
VISITOR, NOBODY = "Demo visitor", "Demo"
_LOCK = 7_420_116


def new_visitor(database: Session, settings: Settings, on: date | None) -> User:
    """Make a visitor with a workspace of the demo's sites that stands on a day; today where None.

    Raises the 503 problem where as many are there as may be.
    """
    now = clock_of(database).now()
    present = select(func.count()).where(User.demo_until > now, User.name == VISITOR)
    if (database.scalar(present) or 0) >= settings.demo_most:
        words = "The demo is full. Come back in one hour, or create an account."
        raise Problem(503, words, headers={"Retry-After": "3600"}, fault="busy")
    member = _member(database, settings, VISITOR, "Demo ground", on)
    _copy_rows(database, _filled(database, settings, on).workspace_id, member.workspace_id)
    return member.user


def _member(database: Session, settings: Settings, name: str, workspace: str, on: date | None) -> Membership:
    """Make a user of the demo with a workspace that stands on a day."""
    now = clock_of(database).now()
    user = User(
        email=f"{uuid4().hex}@{DOMAIN}",
        name=name,
        password_hash=passwords.unguessable(),
        demo_until=now + timedelta(hours=settings.demo_hours),
    )
    database.add(user)
    database.flush()
    member = accounts.found_workspace(database, user, workspace)
    if on is not None:
        member.workspace.days_ahead = (on - now.date()).days
    return member


def _filled(database: Session, settings: Settings, on: date | None) -> Membership:
    """Return the member of the workspace that holds the demo's sites as they stand this hour."""
    workspace = f"Demo of {clock_of(database).now():%Y-%m-%d %H} h as {on or 'today'}"
    # Whoever signs up can call themselves and their workspace what they like, but no account of theirs is of the demo.
    nobodys = (User.name == NOBODY) & User.demo_until.is_not(None) & (Workspace.name == workspace)
    filled = select(Membership).join(User).join(Workspace).where(nobodys)
    member = database.scalar(filled)
    if member is None:
        # One loads them; whoever came meanwhile waits and finds them.
        database.execute(select(func.pg_advisory_xact_lock(_LOCK)))
        member = database.scalar(filled)
    if member is None:
        member = _member(database, settings, NOBODY, workspace, on)
        load(Scope(database, member))
        database.flush()
    return member


def _copy_rows(database: Session, source: UUID, target: UUID) -> None:
    """Copy all that a workspace holds into an empty one."""
    tables = {mapper.local_table for mapper in Base.registry.mappers if issubclass(mapper.class_, WorkspaceRow)}
    for table in Base.metadata.sorted_tables:
        if table in tables:
            # What the database numbers is numbered anew, in the same order.
            numbered = [column for column in table.columns if column.identity is not None]
            names = [column.name for column in table.columns if column.identity is None]
            values = [literal(target) if name == "workspace_id" else table.c[name] for name in names]
            rows = select(*values).where(table.c.workspace_id == source).order_by(*numbered)
            database.execute(insert(table).from_select(names, rows))
