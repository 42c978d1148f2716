"""Attempts at a secret, counted together by all processes."""

import sqlalchemy as sa
from alembic import op

revision = "0011"
down_revision = "0010"
branch_labels = None
depends_on = None


def upgrade() -> None:
    """Go forward."""
    op.create_table(
        "attempts",
        sa.Column("id", sa.BigInteger(), nullable=False),
        sa.Column("key", sa.String(), nullable=False),
        sa.Column("at", sa.DateTime(timezone=True), server_default=sa.func.now(), nullable=False),
        sa.PrimaryKeyConstraint("id", name="pk_attempts"),
    )
    op.create_index("ix_attempts_key_at", "attempts", ["key", "at"])
    op.create_index("ix_attempts_at", "attempts", ["at"])


def downgrade() -> None:
    """Go back: attempts are forgotten."""
    op.drop_table("attempts")
