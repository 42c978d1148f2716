"""Own figures in place of shipped parameters, spare that is left to them, and worries about a load."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = "0010"
down_revision = "0009"
branch_labels = None
depends_on = None

_JSON = postgresql.JSONB()
USUAL_SPARE = 0.1


def upgrade() -> None:
    """Go forward."""
    op.add_column("workspaces", sa.Column("parameters", _JSON, server_default="{}", nullable=False))
    op.add_column("sites", sa.Column("parameters", _JSON, server_default="{}", nullable=False))
    op.add_column("deliveries", sa.Column("worries", _JSON, server_default="[]", nullable=False))
    op.alter_column("sites", "spare", nullable=True)
    op.execute(
        sa.text("UPDATE sites SET spare = NULL, typed = typed - 'spare' WHERE spare = :usual").bindparams(
            usual=USUAL_SPARE
        )
    )


def downgrade() -> None:
    """Go back: own figures and worries are forgotten."""
    op.execute(sa.text("UPDATE sites SET spare = :usual WHERE spare IS NULL").bindparams(usual=USUAL_SPARE))
    op.alter_column("sites", "spare", nullable=False)
    op.drop_column("deliveries", "worries")
    op.drop_column("sites", "parameters")
    op.drop_column("workspaces", "parameters")
