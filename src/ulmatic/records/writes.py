"""What writing rows has in common: versions, and rows sent twice."""

from collections.abc import Sequence
from typing import Annotated, TypeVar

from fastapi import Header, Query, Response
from sqlalchemy.exc import IntegrityError

from ulmatic.accounts.scope import Scope
from ulmatic.platform.database import Stamped, WorkspaceRow
from ulmatic.platform.problems import Problem

Row = TypeVar("Row", bound=WorkspaceRow)
IfMatch = Annotated[str | None, Header()]
SeasonKey = Annotated[
    str | None, Query(max_length=40, description="Such as “autumn 2026”; the running one where left out")
]


def tagged(response: Response, version: int) -> None:
    """Let the answer say which version it shows."""
    response.headers["ETag"] = f'"{version}"'


def next_version(row: Stamped, if_match: str | None) -> None:
    """Count up the version of a locked row; raise the 428 or 412 problem unless `if_match` names the one it is in."""
    if if_match is None:
        raise Problem(428, "The version is missing. Reload, then save again.")
    if if_match.strip().removeprefix("W/").strip('"') != str(row.version):
        raise Problem(412, "Somebody else has changed this. Check the new version, then save again.")
    row.version += 1


def added(scope: Scope, row: Row) -> Row:
    """Put a new row into the workspace; return the one that is there where somebody was quicker with the same id.

    Raise the 409 problem where a row of that id was deleted, or something else it needs is gone.
    """
    try:
        with scope.session.begin_nested():
            return scope.add(row)
    except IntegrityError:
        kept_row = scope.session.get(type(row), (scope.workspace_id, row.id))
        if kept_row is not None and kept_row.deleted_at is None:
            return kept_row
        raise Problem(409, "This was deleted in the meantime. Please reload.") from None


def added_all(scope: Scope, rows: Sequence[Row]) -> list[Row]:
    """Put new rows into the workspace at once; where somebody was quicker with one of them, one after the other."""
    try:
        with scope.session.begin_nested():
            scope.add_all(rows)
    except IntegrityError:
        return [added(scope, row) for row in rows]
    return list(rows)
