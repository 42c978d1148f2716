"""Tables of suppliers and offers."""

from datetime import datetime
from typing import Any
from uuid import UUID

from sqlalchemy import Index
from sqlalchemy.orm import Mapped, mapped_column

from ulmatic.platform.database import Base, Stamped, WorkspaceRow, of_workspace


class SupplierRow(WorkspaceRow, Stamped, Base):
    """Somebody chips can be had from: `source` in SI, `typed` as it was written."""

    __tablename__ = "suppliers"
    named_later = True
    noun = "supplier"
    name: Mapped[str]
    currency: Mapped[str]
    source: Mapped[dict[str, Any]]
    typed: Mapped[dict[str, Any]] = mapped_column(default=dict)
    __table_args__ = (of_workspace(),)


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
    __table_args__ = (of_workspace(), Index("uq_offers_reference", "workspace_id", "reference", unique=True))
