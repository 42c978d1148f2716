"""The one way to a customer's rows.

A `Scope` is a signed-in member's view of one workspace. Services get one and reach every row through it; nothing
else in the application selects from a table that belongs to a workspace.
"""

from collections.abc import Callable, Sequence
from functools import cache
from typing import Annotated, Any, TypeVar
from uuid import UUID

from fastapi import Depends, Request
from sqlalchemy import Select, bindparam, func, select
from sqlalchemy.orm import Session

from ulmatic.accounts.models import Membership, Role, User, Workspace
from ulmatic.accounts.service import user_of
from ulmatic.platform.database import Database, WorkspaceRow, clock_of
from ulmatic.platform.problems import Problem, not_found

COOKIE = "ulmatic_session"

Row = TypeVar("Row", bound=WorkspaceRow)


@cache
def query_once(model: Any, *, of_site: bool) -> Any:
    """Return the query for a workspace's rows of `model` that are not deleted, to be asked with `Scope.of_site`.

    To build a query takes longer than to answer it; what every page asks is therefore built once.
    """
    query = select(model).where(model.workspace_id == bindparam("workspace_id"), model.deleted_at.is_(None))
    site = getattr(model, "site_id", model.id)
    return query.where(site == bindparam("site_id")) if of_site else query


@cache
def _rows_query(model: Any, order: tuple[Any, ...], *, of_site: bool) -> Any:
    return query_once(model, of_site=of_site).order_by(*order)


class Scope:
    """A member's view of a workspace, with the clock by which its days are counted."""

    def __init__(self, session: Session, member: Membership) -> None:
        self.session = session
        self.member = member
        self.workspace_id = member.workspace_id
        self.role = Role(member.role)
        self.clock = clock_of(session).turned(member.workspace.days_ahead)

    def select(self, model: type[Row], *, deleted: bool = False) -> Select[Row]:
        """Return a query for this workspace's rows of `model` that are not deleted (or that are)."""
        query = select(model).where(model.workspace_id == self.workspace_id)
        return query.where(model.deleted_at.is_not(None) if deleted else model.deleted_at.is_(None))

    def rows(self, model: type[Row], *order: Any, site_id: UUID | None = None) -> Sequence[Row]:
        """Return this workspace's rows of `model` that are not deleted, or those of one site, in an order."""
        query = _rows_query(model, order, of_site=site_id is not None)  # type: ignore[arg-type]
        return self.session.scalars(query, self.of_site(site_id)).all()

    def of_site(self, site_id: UUID | None) -> dict[str, UUID | None]:
        """Return the parameters of a query that is built once: this workspace, and a site of it."""
        return {"workspace_id": self.workspace_id, "site_id": site_id}

    def get(self, model: type[Row], row_id: UUID, *, deleted: bool = False, lock: bool = False) -> Row:
        """Return this workspace's row of `model`, or raise the 404 problem; `lock` holds it until the commit."""
        query = self.select(model, deleted=deleted).where(model.id == row_id)
        # Rows that refer to a locked one can still be written: no key is changed.
        row = self.session.scalar(query.with_for_update(key_share=True) if lock else query)
        if row is None:
            raise not_found(model.noun)
        return row

    def hold(self) -> None:
        """Hold the workspace until the commit: what is counted in it is counted by one after the other."""
        workspace = select(Workspace.id).where(Workspace.id == self.workspace_id)
        self.session.execute(workspace.with_for_update(key_share=True))

    def check_quota(self, model: type[Row], quota: int) -> None:
        """Raise the 409 problem where the workspace holds as many rows of `model` as it may."""
        if (self.session.scalar(self.select(model).with_only_columns(func.count())) or 0) >= quota:
            raise Problem(409, f"A workspace holds {quota:,} {model.noun}s at most. Delete what is not needed first.")

    def add(self, row: Row) -> Row:
        """Put a new row into this workspace."""
        row.workspace_id = self.workspace_id
        self.session.add(row)
        self.session.flush()
        return row

    def add_all(self, rows: Sequence[Row]) -> None:
        """Put many new rows into this workspace."""
        for row in rows:
            row.workspace_id = self.workspace_id
        self.session.add_all(rows)
        self.session.flush()

    def delete(self, row: WorkspaceRow) -> None:
        """Mark a row as deleted; `restore` takes that back."""
        row.deleted_at = clock_of(self.session).now()

    def restore(self, model: type[Row], row_id: UUID) -> Row:
        """Take back a deletion."""
        row = self.get(model, row_id, deleted=True)
        row.deleted_at = None
        return row

    def commit(self) -> None:
        """Make what was done in this request lasting."""
        self.session.commit()


def signed_in(request: Request, database: Database) -> User:
    """Return the signed-in user or raise the 401 problem."""
    user = user_of(database, request.cookies.get(COOKIE))
    if user is None:
        raise Problem(401, "Please sign in first.")
    return user


def is_member(request: Request) -> bool:
    """Say whether somebody with an account asks."""
    token = request.cookies.get(COOKIE)
    if token is None:
        return False
    with request.app.state.sessions() as database:
        return user_of(database, token) is not None


SignedIn = Annotated[User, Depends(signed_in)]


def account_holder(user: SignedIn) -> User:
    """Return the signed-in user, or raise the 403 problem for a visitor of the demo."""
    if user.demo_until is not None:
        raise Problem(403, "This is not possible in the demo. Create your own account.")
    return user


AccountHolder = Annotated[User, Depends(account_holder)]


def _at_least(role: Role) -> Callable[..., Scope]:
    def scope(workspace_id: UUID, user: SignedIn, database: Database) -> Scope:
        member = database.get(Membership, (workspace_id, user.id))
        if member is None:
            raise not_found("workspace")
        if Role(member.role).rank < role.rank:
            role_words = "an owner" if role is Role.OWNER else "crew or an owner"
            raise Problem(403, f"Only {role_words} of this workspace can do this; you are a {member.role} here.")
        return Scope(database, member)

    return scope


ViewerScope = Annotated[Scope, Depends(_at_least(Role.VIEWER))]
CrewScope = Annotated[Scope, Depends(_at_least(Role.CREW))]
OwnerScope = Annotated[Scope, Depends(_at_least(Role.OWNER))]
