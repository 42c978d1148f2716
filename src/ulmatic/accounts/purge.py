"""What is deleted for good, some time after it was given up."""

from datetime import timedelta

from sqlalchemy import delete, func, select
from sqlalchemy.orm import Session

from ulmatic.accounts.models import Invitation, Letter, MailedToken, Membership, SignIn, User, Workspace
from ulmatic.platform.database import Base, WorkspaceRow, clock_of

KEPT = timedelta(days=30)
"""What was deleted can be taken back for so long."""
UNSENT = timedelta(days=7)
"""A letter that nobody sent by then is of no use."""
_LOCK = 7_420_115


def purge(database: Session) -> dict[str, int]:
    """Delete what nobody can want back: visitors of the demo, those who left, what was deleted long ago, old secrets.

    One process does it at a time; the others find nothing to do. Returns how many rows went, by table.
    """
    if not database.scalar(select(func.pg_try_advisory_xact_lock(_LOCK))):
        return {}
    now = clock_of(database).now()
    deletions = {
        "sign_ins": delete(SignIn).where(SignIn.expires_at < now),
        "mailed_tokens": delete(MailedToken).where(MailedToken.expires_at < now),
        "letters": delete(Letter).where(Letter.due_at < now - UNSENT),
        "invitations": delete(Invitation).where(Invitation.expires_at < now),
        "workspaces": delete(Workspace).where(Workspace.leaves_at < now),
        "demos": delete(Workspace).where(
            Workspace.id.in_(select(Membership.workspace_id).join(User).where(User.demo_until < now))
        ),
        "users": delete(User).where((User.leaves_at < now) | (User.demo_until < now)),
    }
    classes = {mapper.local_table: mapper.class_ for mapper in Base.registry.mappers}
    for table in reversed(Base.metadata.sorted_tables):
        model = classes.get(table)
        if model is not None and issubclass(model, WorkspaceRow) and not model.named_later:
            deletions[table.name] = delete(model).where(model.deleted_at < now - KEPT)
    counts = {}
    for name, statement in deletions.items():
        counts[name] = database.execute(statement).rowcount  # type: ignore[attr-defined]
    database.commit()
    return counts
