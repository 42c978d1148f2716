"""Own materials; the practice of workspaces, sites and plots; recipes."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = "0005"
down_revision = "0004"
branch_labels = None
depends_on = None


def _empty(name: str) -> sa.Column[object]:
    return sa.Column(name, postgresql.JSONB(), server_default="{}", nullable=False)


def upgrade() -> None:
    """Go forward."""
    op.add_column("workspaces", _empty("practice"))
    op.add_column("sites", _empty("practice"))
    op.add_column("sites", sa.Column("material", sa.String(), nullable=True))
    op.add_column("sites", sa.Column("fire_district", sa.Boolean(), server_default=sa.false(), nullable=False))
    op.add_column("plots", _empty("recipe"))
    op.create_table(
        "materials",
        sa.Column("workspace_id", sa.Uuid(), nullable=False),
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("name", sa.String(), nullable=False),
        sa.Column("material", postgresql.JSONB(), nullable=False),
        sa.Column("entry", postgresql.JSONB(), nullable=False),
        sa.Column("deleted_at", sa.DateTime(timezone=True), nullable=True),
        sa.Column("version", sa.Integer(), nullable=False),
        sa.Column("created_at", sa.DateTime(timezone=True), server_default=sa.text("now()"), nullable=False),
        sa.Column("updated_at", sa.DateTime(timezone=True), server_default=sa.text("now()"), nullable=False),
        sa.ForeignKeyConstraint(
            ["workspace_id"], ["workspaces.id"], name="fk_materials_workspace_id", ondelete="CASCADE"
        ),
        sa.PrimaryKeyConstraint("workspace_id", "id", name="pk_materials"),
    )


def downgrade() -> None:
    """Go back."""
    op.drop_table("materials")
    op.drop_column("plots", "recipe")
    for name in ("fire_district", "material", "practice"):
        op.drop_column("sites", name)
    op.drop_column("workspaces", "practice")
