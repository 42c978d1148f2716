"""Links without an account: a calendar to subscribe to, a site for a client; quotes that were accepted."""

import sqlalchemy as sa
from alembic import op

revision = "0014"
down_revision = "0013"
branch_labels = None
depends_on = None

_MOMENT = sa.DateTime(timezone=True)


def upgrade() -> None:
    """Go forward."""
    op.create_table(
        "links",
        sa.Column("workspace_id", sa.Uuid(), nullable=False),
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("site_id", sa.Uuid(), nullable=False),
        sa.Column("kind", sa.String(), nullable=False),
        sa.Column("user_id", sa.Uuid(), nullable=False),
        sa.Column("token_hash", sa.LargeBinary(), nullable=False),
        sa.Column("expires_at", _MOMENT, nullable=False),
        sa.Column("created_at", _MOMENT, nullable=False),
        sa.Column("deleted_at", _MOMENT),
        sa.ForeignKeyConstraint(
            ["workspace_id", "site_id"],
            ["sites.workspace_id", "sites.id"],
            name="fk_links_workspace_id_site_id",
            ondelete="CASCADE",
        ),
        sa.PrimaryKeyConstraint("workspace_id", "id", name="pk_links"),
    )
    op.create_index("ix_links_token_hash", "links", ["token_hash"])
    op.add_column("quotes", sa.Column("accepted_at", _MOMENT))
    op.add_column("quotes", sa.Column("accepted_by", sa.String()))


def downgrade() -> None:
    """Go back."""
    op.drop_column("quotes", "accepted_by")
    op.drop_column("quotes", "accepted_at")
    op.drop_table("links")
