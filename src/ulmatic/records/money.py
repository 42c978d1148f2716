"""Table of quotes."""

from datetime import datetime
from typing import Any
from uuid import UUID

from sqlalchemy import Index
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import Mapped, mapped_column

from ulmatic.platform.database import Base, Stamped, WorkspaceRow, of_site


class QuoteRow(WorkspaceRow, Stamped, Base):
    """A quote as it was promised to a client; never computed again. Accepted when, and by whom."""

    __tablename__ = "quotes"
    noun = "quote"
    site_id: Mapped[UUID]
    number: Mapped[int]
    client: Mapped[str]
    words: Mapped[str]
    units: Mapped[str]
    quote: Mapped[dict[str, Any]] = mapped_column(JSONB)
    accepted_at: Mapped[datetime | None]
    accepted_by: Mapped[str | None]
    __table_args__ = (of_site(), Index("ix_quotes_site", "workspace_id", "site_id"))
