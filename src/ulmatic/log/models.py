"""Table of the ledger of plots."""

from datetime import date
from typing import Any
from uuid import UUID

from sqlalchemy import Index
from sqlalchemy.orm import Mapped, mapped_column

from ulmatic.platform.database import Base, Stamped, WorkspaceRow, of_site


class LedgerRow(WorkspaceRow, Stamped, Base):
    """Something that happened on a plot on a day: `entry` in SI, `typed` as it was written."""

    __tablename__ = "ledger_entries"
    noun = "entry"
    site_id: Mapped[UUID]
    plot_id: Mapped[UUID]
    on: Mapped[date]
    entry: Mapped[dict[str, Any]]
    typed: Mapped[dict[str, Any]] = mapped_column(default=dict)
    by: Mapped[str]
    __table_args__ = (
        of_site(),
        Index("ix_ledger_entries_site", "workspace_id", "site_id", "plot_id"),
    )
