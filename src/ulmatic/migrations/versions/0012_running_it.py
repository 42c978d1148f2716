"""Whether the database can be written, errands, devices, letters, and when accounts and workspaces go."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

revision = "0012"
down_revision = "0011"
branch_labels = None
depends_on = None

_MOMENT = sa.DateTime(timezone=True)


def upgrade() -> None:
    """Go forward."""
    op.create_table(
        "readiness",
        sa.Column("id", sa.Integer(), autoincrement=False, nullable=False),
        sa.Column("at", _MOMENT, nullable=False),
        sa.PrimaryKeyConstraint("id", name="pk_readiness"),
    )
    op.create_table(
        "errands",
        sa.Column("workspace_id", sa.Uuid(), nullable=False),
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("kind", sa.String(), nullable=False),
        sa.Column("user_id", sa.Uuid(), nullable=False),
        sa.Column("subject", JSONB(), nullable=False),
        sa.Column("state", sa.String(), nullable=False),
        sa.Column("done", sa.Integer(), nullable=False),
        sa.Column("of", sa.Integer(), nullable=False),
        sa.Column("problem", JSONB()),
        sa.Column("result", JSONB()),
        sa.Column("content", sa.LargeBinary()),
        sa.Column("created_at", _MOMENT, nullable=False),
        sa.Column("started_at", _MOMENT),
        sa.Column("deleted_at", _MOMENT),
        sa.ForeignKeyConstraint(
            ["workspace_id"], ["workspaces.id"], name="fk_errands_workspace_id", ondelete="CASCADE"
        ),
        sa.PrimaryKeyConstraint("workspace_id", "id", name="pk_errands"),
    )
    op.create_index("ix_errands_state_created_at", "errands", ["state", "created_at"])
    op.execute("INSERT INTO readiness (id, at) VALUES (1, now())")


def downgrade() -> None:
    """Go back."""
    op.drop_table("errands")
    op.drop_table("readiness")
