"""Tables of suppliers, offers, deliveries, piles, their books, and quotes."""

from datetime import date, datetime
from typing import Any
from uuid import UUID

from sqlalchemy import BigInteger, ForeignKeyConstraint, Identity, Index
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import Mapped, mapped_column

from ulmatic.platform.database import Base, Stamped, WorkspaceRow


def _of_workspace() -> ForeignKeyConstraint:
    return ForeignKeyConstraint(["workspace_id"], ["workspaces.id"], ondelete="CASCADE")


def _of_site() -> ForeignKeyConstraint:
    return ForeignKeyConstraint(["workspace_id", "site_id"], ["sites.workspace_id", "sites.id"], ondelete="CASCADE")


class SupplierRow(WorkspaceRow, Stamped, Base):
    """Somebody chips can be had from: `source` in SI, `typed` as it was written."""

    __tablename__ = "suppliers"
    noun = "supplier"
    name: Mapped[str]
    currency: Mapped[str]
    source: Mapped[dict[str, Any]]
    typed: Mapped[dict[str, Any]] = mapped_column(default=dict)
    __table_args__ = (_of_workspace(),)


class OfferRow(WorkspaceRow, Stamped, Base):
    """A load that a crew reported to the chip service: `offer` as it was last heard, `state` as it stands here."""

    __tablename__ = "offers"
    noun = "offer"
    reference: Mapped[str]
    state: Mapped[str]
    offer: Mapped[dict[str, Any]]
    heard_at: Mapped[datetime]
    expires_at: Mapped[datetime]
    site_id: Mapped[UUID | None]
    __table_args__ = (_of_workspace(), Index("uq_offers_reference", "workspace_id", "reference", unique=True))


class PileRow(WorkspaceRow, Stamped, Base):
    """A heap on a tip or pile place; what lies there follows from the books."""

    __tablename__ = "piles"
    noun = "pile"
    site_id: Mapped[UUID]
    landmark_id: Mapped[UUID | None]
    name: Mapped[str]
    __table_args__ = (_of_site(), Index("ix_piles_site", "workspace_id", "site_id"))


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
    typed: Mapped[dict[str, Any]] = mapped_column(default=dict)
    photo: Mapped[bytes | None] = mapped_column(deferred=True)
    has_photo: Mapped[bool] = mapped_column(default=False)
    __table_args__ = (_of_site(), Index("ix_deliveries_site", "workspace_id", "site_id"))


class EntryRow(WorkspaceRow, Base):
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
    __table_args__ = (_of_site(), Index("ix_book_entries_site", "workspace_id", "site_id", "ordinal"))


class QuoteRow(WorkspaceRow, Stamped, Base):
    """A quote as it was promised to somebody; never computed again."""

    __tablename__ = "quotes"
    noun = "quote"
    site_id: Mapped[UUID]
    number: Mapped[int]
    client: Mapped[str]
    words: Mapped[str]
    units: Mapped[str]
    quote: Mapped[dict[str, Any]] = mapped_column(JSONB)
    __table_args__ = (_of_site(), Index("ix_quotes_site", "workspace_id", "site_id"))
