"""Entries of piles, trees, notes and photos; corrections; photos in files; what other sites teach."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

from ulmatic.formats.photos import photo
from ulmatic.platform.photos import keep_photo

revision = "0013"
down_revision = "0012"
branch_labels = None
depends_on = None

_MOMENT = sa.DateTime(timezone=True)


def upgrade() -> None:
    """Go forward."""
    op.alter_column("ledger_entries", "plot_id", nullable=True)
    op.add_column("ledger_entries", sa.Column("pile_id", sa.Uuid()))
    op.add_column("ledger_entries", sa.Column("trees", JSONB()))
    op.add_column("ledger_entries", sa.Column("note", sa.String(), server_default="", nullable=False))
    op.add_column("ledger_entries", sa.Column("photos", JSONB(), server_default="[]", nullable=False))
    op.add_column("ledger_entries", sa.Column("corrects", sa.Uuid()))
    op.create_table(
        "photos",
        sa.Column("workspace_id", sa.Uuid(), nullable=False),
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("site_id", sa.Uuid(), nullable=False),
        sa.Column("hash", sa.String(), nullable=False),
        sa.Column("width", sa.Integer(), nullable=False),
        sa.Column("height", sa.Integer(), nullable=False),
        sa.Column("size", sa.Integer(), nullable=False),
        sa.Column("drawn", sa.Boolean(), server_default="false", nullable=False),
        sa.Column("location", JSONB()),
        sa.Column("by", sa.String(), nullable=False),
        sa.Column("created_at", _MOMENT, nullable=False),
        sa.Column("deleted_at", _MOMENT),
        sa.ForeignKeyConstraint(
            ["workspace_id", "site_id"],
            ["sites.workspace_id", "sites.id"],
            name="fk_photos_workspace_id_site_id",
            ondelete="CASCADE",
        ),
        sa.PrimaryKeyConstraint("workspace_id", "id", name="pk_photos"),
    )
    op.create_index("ix_photos_site", "photos", ["workspace_id", "site_id"])
    op.create_index("ix_photos_hash", "photos", ["hash"])
    op.create_table(
        "site_lessons",
        sa.Column("workspace_id", sa.Uuid(), nullable=False),
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("site_id", sa.Uuid(), nullable=False),
        sa.Column("lessons", JSONB(), nullable=False),
        sa.Column("deleted_at", _MOMENT),
        sa.ForeignKeyConstraint(
            ["workspace_id", "site_id"],
            ["sites.workspace_id", "sites.id"],
            name="fk_site_lessons_workspace_id_site_id",
            ondelete="CASCADE",
        ),
        sa.PrimaryKeyConstraint("workspace_id", "id", name="pk_site_lessons"),
    )
    _photos_of_loads()


def _photos_of_loads() -> None:
    """Move the photos of loads out of their table."""
    op.add_column("deliveries", sa.Column("photo_id", sa.Uuid()))
    connection = op.get_bind()
    loads = connection.execute(
        sa.text("SELECT workspace_id, id, site_id, photo, created_at FROM deliveries WHERE photo IS NOT NULL")
    )
    for load in loads.all():
        picture = photo(bytes(load.photo))
        name = keep_photo(picture)
        connection.execute(
            sa.text(
                "INSERT INTO photos (workspace_id, id, site_id, hash, width, height, size, by, created_at)"
                " VALUES (:workspace, :id, :site, :hash, :width, :height, :size, '', :created)"
            ),
            {
                "workspace": load.workspace_id,
                "id": load.id,
                "site": load.site_id,
                "hash": name,
                "width": picture.width,
                "height": picture.height,
                "size": len(picture.jpeg),
                "created": load.created_at,
            },
        )
        connection.execute(
            sa.text("UPDATE deliveries SET photo_id = id WHERE workspace_id = :workspace AND id = :id"),
            {"workspace": load.workspace_id, "id": load.id},
        )
    op.drop_column("deliveries", "photo")
    op.drop_column("deliveries", "has_photo")


def downgrade() -> None:
    """Go back; photos stay in their files."""
    op.drop_column("deliveries", "photo_id")
    op.add_column("deliveries", sa.Column("photo", sa.LargeBinary()))
    op.add_column("deliveries", sa.Column("has_photo", sa.Boolean(), server_default="false", nullable=False))
    op.drop_table("site_lessons")
    op.drop_table("photos")
    op.execute("DELETE FROM ledger_entries WHERE plot_id IS NULL")
    for column in ("corrects", "photos", "note", "trees", "pile_id"):
        op.drop_column("ledger_entries", column)
    op.alter_column("ledger_entries", "plot_id", nullable=False)
