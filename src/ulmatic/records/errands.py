"""The table of errands."""

from datetime import datetime
from typing import Any
from uuid import UUID

from sqlalchemy import Index
from sqlalchemy.orm import Mapped, mapped_column

from ulmatic.platform.database import Base, WorkspaceRow, of_workspace


class ErrandRow(WorkspaceRow, Base):
    """Something to be done for a member: `subject` is what it is about, `problem` why it could not be done.

    `content` is a file that goes with it, until it is done.
    """

    __tablename__ = "errands"
    noun = "errand"
    kind: Mapped[str]
    user_id: Mapped[UUID]
    subject: Mapped[dict[str, Any]]
    state: Mapped[str] = mapped_column(default="waiting")
    done: Mapped[int] = mapped_column(default=0)
    of: Mapped[int] = mapped_column(default=0)
    problem: Mapped[dict[str, Any] | None]
    result: Mapped[dict[str, Any] | None]
    content: Mapped[bytes | None] = mapped_column(deferred=True)
    created_at: Mapped[datetime]
    started_at: Mapped[datetime | None]
    __table_args__ = (of_workspace(), Index("ix_errands_state_created_at", "state", "created_at"))
