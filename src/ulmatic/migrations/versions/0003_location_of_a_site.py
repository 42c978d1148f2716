"""Location of a site."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = "0003"
down_revision = "0002"
branch_labels = None
depends_on = None


def upgrade() -> None:
    """Go forward."""
    op.add_column("sites", sa.Column("location_deg", postgresql.JSONB(), nullable=True))


def downgrade() -> None:
    """Go back."""
    op.drop_column("sites", "location_deg")
