"""What people say of tasks, and crops of their own."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

revision = "0015"
down_revision = "0014"
branch_labels = None
depends_on = None


def upgrade() -> None:
    """Go forward."""
    op.add_column("sites", sa.Column("tasks", JSONB(), server_default="[]", nullable=False))
    op.add_column("workspaces", sa.Column("crops", JSONB(), server_default="{}", nullable=False))


def downgrade() -> None:
    """Go back."""
    op.drop_column("workspaces", "crops")
    op.drop_column("sites", "tasks")
