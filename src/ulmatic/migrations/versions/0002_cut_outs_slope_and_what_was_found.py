"""Cut-outs, slope and what was found."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = "0002"
down_revision = "0001"
branch_labels = None
depends_on = None


def upgrade() -> None:
    """Go forward."""
    op.add_column("plots", sa.Column("cut_outs", postgresql.JSONB(), server_default="[]", nullable=False))
    op.add_column("plots", sa.Column("slope", postgresql.JSONB(), nullable=True))
    op.add_column("plots", sa.Column("found", postgresql.JSONB(), server_default="{}", nullable=False))


def downgrade() -> None:
    """Go back."""
    for name in ("found", "slope", "cut_outs"):
        op.drop_column("plots", name)
