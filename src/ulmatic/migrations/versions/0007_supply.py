"""Suppliers, offers, deliveries, piles and their books, quotes; buying of a site, priority of a plot."""

from typing import Any

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = "0007"
down_revision = "0006"
branch_labels = None
depends_on = None

_JSON = postgresql.JSONB()
_INSTANT = sa.DateTime(timezone=True)


def _needed(name: str, kind: sa.types.TypeEngine[Any]) -> sa.Column[Any]:
    return sa.Column(name, kind, nullable=False)


def _open(name: str, kind: sa.types.TypeEngine[Any]) -> sa.Column[Any]:
    return sa.Column(name, kind, nullable=True)


def _now(name: str) -> sa.Column[Any]:
    return sa.Column(name, _INSTANT, server_default=sa.text("now()"), nullable=False)


def _table(name: str, *columns: sa.Column[Any], of_site: bool, stamped: bool = True) -> None:
    """Make a table of a workspace's rows, which go with their site or workspace."""
    own, theirs = ["workspace_id"], ["workspaces.id"]
    if of_site:
        own, theirs = ["workspace_id", "site_id"], ["sites.workspace_id", "sites.id"]
    stamps = [_needed("version", sa.Integer()), _now("created_at"), _now("updated_at")] if stamped else []
    op.create_table(
        name,
        _needed("workspace_id", sa.Uuid()),
        _needed("id", sa.Uuid()),
        *([_needed("site_id", sa.Uuid())] if of_site else []),
        *columns,
        _open("deleted_at", _INSTANT),
        *stamps,
        sa.ForeignKeyConstraint(own, theirs, name=f"fk_{name}_workspace_id", ondelete="CASCADE"),
        sa.PrimaryKeyConstraint("workspace_id", "id", name=f"pk_{name}"),
    )


def upgrade() -> None:
    """Go forward."""
    op.add_column("sites", sa.Column("buying", _JSON, server_default="{}", nullable=False))
    op.add_column("plots", sa.Column("priority", sa.Integer(), server_default="2", nullable=False))
    op.add_column("plots", _now("existing_at"))
    _table(
        "suppliers",
        _needed("name", sa.String()),
        _needed("currency", sa.String()),
        _needed("source", _JSON),
        _needed("typed", _JSON),
        of_site=False,
    )
    _table(
        "offers",
        _needed("reference", sa.String()),
        _needed("state", sa.String()),
        _needed("offer", _JSON),
        _needed("heard_at", _INSTANT),
        _needed("expires_at", _INSTANT),
        _open("site_id", sa.Uuid()),
        of_site=False,
    )
    op.create_index("uq_offers_reference", "offers", ["workspace_id", "reference"], unique=True)
    _table("piles", _open("landmark_id", sa.Uuid()), _needed("name", sa.String()), of_site=True)
    op.create_index("ix_piles_site", "piles", ["workspace_id", "site_id"])
    _table(
        "deliveries",
        _open("supplier_id", sa.Uuid()),
        _open("offer_id", sa.Uuid()),
        _needed("name", sa.String()),
        _needed("state", sa.String()),
        _needed("material", sa.String()),
        _needed("promised", _JSON),
        _open("expected_on", sa.Date()),
        _open("received_on", sa.Date()),
        _open("chipped_on", sa.Date()),
        _open("measured", _JSON),
        _open("volume_m3", sa.Float()),
        _needed("cost", sa.Float()),
        _needed("currency", sa.String()),
        _needed("note", sa.String()),
        _needed("typed", _JSON),
        _open("photo", sa.LargeBinary()),
        _needed("has_photo", sa.Boolean()),
        of_site=True,
    )
    op.create_index("ix_deliveries_site", "deliveries", ["workspace_id", "site_id"])
    _table(
        "book_entries",
        sa.Column("ordinal", sa.BigInteger(), sa.Identity(always=True), nullable=False),
        _needed("kind", sa.String()),
        _needed("pile_id", sa.Uuid()),
        _open("delivery_id", sa.Uuid()),
        _open("plot_id", sa.Uuid()),
        _open("to_pile_id", sa.Uuid()),
        _needed("volume_m3", sa.Float()),
        _needed("on", sa.Date()),
        _needed("by", sa.String()),
        _needed("note", sa.String()),
        _needed("created_at", _INSTANT),
        of_site=True,
        stamped=False,
    )
    op.create_index("ix_book_entries_site", "book_entries", ["workspace_id", "site_id", "ordinal"])
    _table(
        "quotes",
        _needed("number", sa.Integer()),
        _needed("client", sa.String()),
        _needed("words", sa.String()),
        _needed("units", sa.String()),
        _needed("quote", _JSON),
        of_site=True,
    )
    op.create_index("ix_quotes_site", "quotes", ["workspace_id", "site_id"])


def downgrade() -> None:
    """Go back."""
    for name in ("quotes", "book_entries", "deliveries", "piles", "offers", "suppliers"):
        op.drop_table(name)
    for name in ("existing_at", "priority"):
        op.drop_column("plots", name)
    op.drop_column("sites", "buying")
