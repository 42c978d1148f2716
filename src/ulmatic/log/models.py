"""Table of what was seen and done on plots."""

from datetime import date
from typing import Any
from uuid import UUID

from sqlalchemy import ForeignKeyConstraint, Index
from sqlalchemy.orm import Mapped, mapped_column

from ulmatic.platform.database import Base, Stamped, WorkspaceRow


class EventRow(WorkspaceRow, Stamped, Base):
    """Something laid on a plot or read there on a day: `event` in SI, `typed` as it was written."""

    __tablename__ = "plot_events"
    noun = "entry"
    site_id: Mapped[UUID]
    plot_id: Mapped[UUID]
    on: Mapped[date]
    event: Mapped[dict[str, Any]]
    typed: Mapped[dict[str, Any]] = mapped_column(default=dict)
    by: Mapped[str]
    __table_args__ = (
        ForeignKeyConstraint(["workspace_id", "site_id"], ["sites.workspace_id", "sites.id"], ondelete="CASCADE"),
        Index("ix_plot_events_site", "workspace_id", "site_id", "plot_id"),
    )
