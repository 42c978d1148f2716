"""Tables of the ledger, of photos, and of what a site's readings teach the others."""

from datetime import date, datetime
from typing import Any
from uuid import UUID

from sqlalchemy import Index
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import Mapped, mapped_column

from ulmatic.platform.database import Base, Stamped, WorkspaceRow, of_site


class LedgerRow(WorkspaceRow, Stamped, Base):
    """Something that happened on a plot or a pile on a day: `entry` in SI, `typed` as it was written.

    An entry that `corrects` another stands in its place; the other is kept as deleted.
    """

    __tablename__ = "ledger_entries"
    noun = "entry"
    site_id: Mapped[UUID]
    plot_id: Mapped[UUID | None]
    pile_id: Mapped[UUID | None]
    trees: Mapped[dict[str, Any] | None]
    on: Mapped[date]
    entry: Mapped[dict[str, Any]]
    typed: Mapped[dict[str, Any]] = mapped_column(default=dict)
    by: Mapped[str]
    note: Mapped[str] = mapped_column(default="")
    photos: Mapped[list[Any]] = mapped_column(JSONB, default=list, server_default="[]")
    corrects: Mapped[UUID | None]
    __table_args__ = (
        of_site(),
        Index("ix_ledger_entries_site", "workspace_id", "site_id", "plot_id"),
    )


class PhotoRow(WorkspaceRow, Base):
    """A photo of a site; its content is in a file named by `hash`."""

    __tablename__ = "photos"
    noun = "photo"
    site_id: Mapped[UUID]
    hash: Mapped[str]
    width: Mapped[int]
    height: Mapped[int]
    size: Mapped[int]
    drawn: Mapped[bool] = mapped_column(default=False)
    location: Mapped[list[float] | None] = mapped_column(JSONB)
    by: Mapped[str]
    created_at: Mapped[datetime]
    __table_args__ = (
        of_site(),
        Index("ix_photos_site", "workspace_id", "site_id"),
        Index("ix_photos_hash", "hash"),
    )


class SiteLessonRow(WorkspaceRow, Base):
    """What the readings of a site say of materials by themselves: mean and variance by key. Its id is the site's."""

    __tablename__ = "site_lessons"
    noun = "lesson"
    site_id: Mapped[UUID]
    lessons: Mapped[dict[str, Any]]
    __table_args__ = (of_site(),)
