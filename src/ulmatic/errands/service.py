"""Errands: kept in PostgreSQL, done one after the other by a few threads of each process."""

from collections.abc import Callable, Collection, Sequence
from datetime import timedelta
from typing import Any
from uuid import UUID, uuid4

import structlog
from fastapi import Request
from sqlalchemy import delete, func, or_, select
from sqlalchemy.exc import DBAPIError
from sqlalchemy.orm import Session, aliased, sessionmaker

from ulmatic.accounts.models import Membership
from ulmatic.accounts.scope import Scope
from ulmatic.platform.background import background_of
from ulmatic.platform.database import clock_of
from ulmatic.platform.problems import Problem
from ulmatic.platform.workshop import Workshop
from ulmatic.records.errands import ErrandRow

log = structlog.get_logger()

MOST_OPEN = 20
"""Errands of one workspace that wait or run."""
GIVEN_UP_S = 300
"""An errand that runs longer was left by a process that ended; another takes it up."""
KEPT = timedelta(days=1)
Tell = Callable[[int, int], None]
"""Takes how many pieces of how many are done."""
Told = dict[str, Any] | None
Doing = Callable[[Scope, ErrandRow, Tell], Told]
"""Does an errand for a member: gets it and what tells how far it is, returns what came of it."""


class Errands:
    """Does errands in the background.

    Parameters
    ----------
    sessions : sessionmaker
    kinds : dict
        What does an errand, by its kind.
    heavy : set of str
        Kinds that are done in the workshop.
    workshop : Workshop, optional
        Where there is none nothing is heavy.
    """

    def __init__(
        self,
        sessions: sessionmaker[Session],
        kinds: dict[str, Doing],
        heavy: Collection[str] = (),
        workshop: Workshop | None = None,
    ) -> None:
        self.sessions, self.kinds, self.heavy, self.workshop = sessions, kinds, heavy, workshop

    def do_waiting(self) -> None:
        """Do what waits, one after the other."""
        while self._next():
            pass

    def _next(self) -> bool:
        """Do the errand of whom none was begun for the longest time; return whether there was one.

        Workspaces take turns, each with what has waited longest: who asks for one thing does not wait for the twenty
        of somebody else.
        """
        with self.sessions() as session:
            now = clock_of(session).now()
            # Across workspaces, as the only query of its kind: what is done below goes through the member's scope.
            left = (ErrandRow.state == "running") & (ErrandRow.started_at < now - timedelta(seconds=GIVEN_UP_S))
            other = aliased(ErrandRow)
            last_begun = (
                select(func.max(other.started_at)).where(other.workspace_id == ErrandRow.workspace_id).scalar_subquery()
            )
            query = select(ErrandRow).where(or_(ErrandRow.state == "waiting", left))
            query = query.order_by(last_begun.nulls_first(), ErrandRow.created_at).limit(1)
            row = session.scalar(query.with_for_update(skip_locked=True, of=ErrandRow))
            if row is None:
                return False
            row.state, row.started_at = "running", now
            session.execute(delete(ErrandRow).where(ErrandRow.created_at < now - KEPT))
            session.commit()
        self._do(row)
        return True

    def _do(self, row: ErrandRow) -> None:
        try:
            if self.workshop is not None and row.kind in self.heavy:
                result, problem = self.workshop.do(run_in_worker, row.workspace_id, row.id)
            else:
                result, problem = self.carry_out(row.workspace_id, row.id)
        except Problem as refusal:
            result, problem = None, _told(refusal)
        state = "refused" if problem else "done"
        self._keep(row, state=state, problem=problem, result=result, content=None)

    def carry_out(self, workspace_id: UUID, errand_id: UUID) -> tuple[Told, Told]:
        """Do an errand in this thread; return what came of it, and why it could not be done."""
        row: ErrandRow | None = None
        try:
            with self.sessions() as session:
                row = session.get(ErrandRow, (workspace_id, errand_id))
                member = None if row is None else session.get(Membership, (workspace_id, row.user_id))
                if row is None or member is None:
                    raise Problem(404, "There is no such workspace here.")
                session.commit()
                result = self.kinds[row.kind](Scope(session, member), row, self._progress(row))
                session.commit()
        except Problem as refusal:
            return None, _told(refusal)
        except DBAPIError as error:
            log.warning("errand_without_database", kind=row and row.kind, error=type(error).__name__)
            return None, _told(
                Problem(503, "The server cannot reach its database. Nothing was changed. Please try again.")
            )
        except Exception:
            log.exception("errand_failed", kind=row and row.kind)
            return None, _told(Problem(500, "The server failed. Nothing was changed. Please try again."))
        return result, None

    def _progress(self, row: ErrandRow) -> Tell:
        return lambda count, of: self._keep(row, done=count, of=of)

    def _keep(self, row: ErrandRow, **values: Any) -> None:
        with self.sessions() as session:
            current = session.get(ErrandRow, (row.workspace_id, row.id))
            if current is not None:
                for name, value in values.items():
                    setattr(current, name, value)
                session.commit()


_of_this_worker: list[Errands] = []


def prepare_worker(errands: Errands) -> None:
    """Keep what does errands in a process of the workshop, once."""
    _of_this_worker.append(errands)


def run_in_worker(workspace_id: UUID, errand_id: UUID) -> tuple[Told, Told]:
    """Do an errand in a process of the workshop; return what came of it, and why it could not be done."""
    return _of_this_worker[0].carry_out(workspace_id, errand_id)


def _told(problem: Problem) -> dict[str, Any]:
    errors = [error.model_dump() for error in problem.errors]
    return {"status": problem.status, "detail": problem.detail, "errors": errors}


def ask(scope: Scope, request: Request, kind: str, subject: dict[str, Any], content: bytes | None = None) -> ErrandRow:
    """Have something done after the request; what is asked for already and has not begun is not asked for twice.

    Parameters
    ----------
    scope : Scope
    request : Request
    kind : str
    subject : dict
        What it is about, as JSON keeps it.
    content : bytes, optional
        A file that goes with it, kept until it is done.
    """
    scope.hold()
    open_rows = _open(scope)
    row = None
    if content is None:
        key = (kind, subject, "waiting")
        row = next((row for row in open_rows if (row.kind, row.subject, row.state) == key), None)
    if row is None:
        if len(open_rows) >= MOST_OPEN:
            raise Problem(429, "Too many tasks are running in this workspace. Wait a moment, then try again.")
        row = scope.add(
            ErrandRow(
                id=uuid4(),
                kind=kind,
                user_id=scope.member.user_id,
                subject=subject,
                state="waiting",
                done=0,
                of=0,
                created_at=clock_of(scope.session).now(),
                content=content,
            )
        )
    scope.commit()
    background_of(request).start()
    return row


def _open(scope: Scope) -> Sequence[ErrandRow]:
    query = scope.select(ErrandRow).where(ErrandRow.state.in_(("waiting", "running")))
    return scope.session.scalars(query.order_by(ErrandRow.created_at)).all()


def is_open(scope: Scope, kind: str, **subject: Any) -> bool:
    """Say whether something of this kind and subject, or a subject that holds more, is still to be done."""
    return any(row.kind == kind and subject.items() <= row.subject.items() for row in _open(scope))
