"""Workspaces may stand on a day of their own."""

import sqlalchemy as sa
from alembic import op

revision = "0016"
down_revision = "0015"
branch_labels = None
depends_on = None


def upgrade() -> None:
    """Go forward."""
    op.add_column("workspaces", sa.Column("days_ahead", sa.Integer(), server_default="0", nullable=False))


def downgrade() -> None:
    """Go back."""
    op.drop_column("workspaces", "days_ahead")
