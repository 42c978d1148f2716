"""Tables of deliveries, piles and their book."""

from datetime import date, datetime
from typing import Any
from uuid import UUID

from sqlalchemy import BigInteger, Identity, Index
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import Mapped, mapped_column

from ulmatic.platform.database import Base, Stamped, WorkspaceRow, of_site


class PileRow(WorkspaceRow, Stamped, Base):
    """A pile on a tip or pile place; what lies there follows from the books."""

    __tablename__ = "piles"
    noun = "pile"
    site_id: Mapped[UUID]
    landmark_id: Mapped[UUID | None]
    name: Mapped[str]
    __table_args__ = (of_site(), Index("ix_piles_site", "workspace_id", "site_id"))


class DeliveryRow(WorkspaceRow, Stamped, Base):
    """A load that is expected, or came: as it was promised, and as it was found."""

    __tablename__ = "deliveries"
    noun = "delivery"
    site_id: Mapped[UUID]
    supplier_id: Mapped[UUID | None]
    offer_id: Mapped[UUID | None]
    name: Mapped[str]
    state: Mapped[str]
    material: Mapped[str]
    promised: Mapped[dict[str, Any]]
    expected_on: Mapped[date | None]
    received_on: Mapped[date | None]
    chipped_on: Mapped[date | None]
    measured: Mapped[dict[str, Any] | None]
    volume_m3: Mapped[float | None]
    cost: Mapped[float]
    currency: Mapped[str]
    note: Mapped[str] = mapped_column(default="")
    worries: Mapped[list[Any]] = mapped_column(JSONB, default=list, server_default="[]")
    typed: Mapped[dict[str, Any]] = mapped_column(default=dict)
    photo_id: Mapped[UUID | None]
    __table_args__ = (of_site(), Index("ix_deliveries_site", "workspace_id", "site_id"))


class BookRow(WorkspaceRow, Base):
    """A line in the books of a site's piles, in the order of `ordinal`; lines are never changed."""

    __tablename__ = "book_entries"
    noun = "entry"
    site_id: Mapped[UUID]
    ordinal: Mapped[int] = mapped_column(BigInteger, Identity(always=True))
    kind: Mapped[str]
    pile_id: Mapped[UUID]
    delivery_id: Mapped[UUID | None]
    plot_id: Mapped[UUID | None]
    to_pile_id: Mapped[UUID | None]
    volume_m3: Mapped[float]
    on: Mapped[date]
    by: Mapped[str]
    note: Mapped[str] = mapped_column(default="")
    created_at: Mapped[datetime]
    __table_args__ = (of_site(), Index("ix_book_entries_site", "workspace_id", "site_id", "ordinal"))
