"""Least and most that one load holds."""

import sqlalchemy as sa
from alembic import op

revision = "0006"
down_revision = "0005"
branch_labels = None
depends_on = None


def upgrade() -> None:
    """Go forward."""
    op.add_column("sites", sa.Column("load_least_m3", sa.Float(), nullable=True))
    op.add_column("sites", sa.Column("load_most_m3", sa.Float(), nullable=True))


def downgrade() -> None:
    """Go back."""
    op.drop_column("sites", "load_most_m3")
    op.drop_column("sites", "load_least_m3")
