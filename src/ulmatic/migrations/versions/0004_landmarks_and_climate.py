"""Tips, pile places and ways; the climate of a site."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = "0004"
down_revision = "0003"
branch_labels = None
depends_on = None


def upgrade() -> None:
    """Go forward."""
    op.add_column("sites", sa.Column("climate", postgresql.JSONB(), nullable=True))
    op.create_table(
        "landmarks",
        sa.Column("workspace_id", sa.Uuid(), nullable=False),
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("site_id", sa.Uuid(), nullable=False),
        sa.Column("name", sa.String(), nullable=False),
        sa.Column("landmark", postgresql.JSONB(), nullable=False),
        sa.Column("typed", postgresql.JSONB(), nullable=False),
        sa.Column("deleted_at", sa.DateTime(timezone=True), nullable=True),
        sa.Column("version", sa.Integer(), nullable=False),
        sa.Column("created_at", sa.DateTime(timezone=True), server_default=sa.text("now()"), nullable=False),
        sa.Column("updated_at", sa.DateTime(timezone=True), server_default=sa.text("now()"), nullable=False),
        sa.ForeignKeyConstraint(
            ["workspace_id", "site_id"],
            ["sites.workspace_id", "sites.id"],
            name="fk_landmarks_workspace_id",
            ondelete="CASCADE",
        ),
        sa.PrimaryKeyConstraint("workspace_id", "id", name="pk_landmarks"),
    )
    op.create_index("ix_landmarks_site", "landmarks", ["workspace_id", "site_id"])


def downgrade() -> None:
    """Go back."""
    op.drop_table("landmarks")
    op.drop_column("sites", "climate")
