"""Weather of sites, what was laid and read on plots, rules of renewal."""

from typing import Any

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = "0008"
down_revision = "0007"
branch_labels = None
depends_on = None

_JSON = postgresql.JSONB()


def _keys(name: str) -> tuple[Any, ...]:
    return (
        sa.Column("workspace_id", sa.Uuid(), nullable=False),
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("site_id", sa.Uuid(), nullable=False),
        sa.Column("deleted_at", sa.DateTime(timezone=True), nullable=True),
        sa.ForeignKeyConstraint(
            ["workspace_id", "site_id"],
            ["sites.workspace_id", "sites.id"],
            name=f"fk_{name}_workspace_id",
            ondelete="CASCADE",
        ),
        sa.PrimaryKeyConstraint("workspace_id", "id", name=f"pk_{name}"),
    )


def upgrade() -> None:
    """Go forward."""
    op.add_column("sites", sa.Column("seasons", _JSON, server_default="{}", nullable=False))
    op.add_column("sites", sa.Column("weather_heard_at", sa.DateTime(timezone=True), nullable=True))
    op.add_column("sites", sa.Column("outlook", _JSON, server_default="[]", nullable=False))
    op.add_column("plots", sa.Column("renewal", _JSON, nullable=True))
    op.create_table(
        "weather_days",
        *_keys("weather_days"),
        sa.Column("day", sa.Date(), nullable=False),
        sa.Column("tmax_c", sa.Float(), nullable=False),
        sa.Column("tmin_c", sa.Float(), nullable=False),
        sa.Column("rain_mm", sa.Float(), nullable=False),
        sa.Column("source", sa.String(), nullable=False),
    )
    op.create_index("uq_weather_days_day", "weather_days", ["workspace_id", "site_id", "day"], unique=True)
    op.create_table(
        "plot_events",
        *_keys("plot_events"),
        sa.Column("plot_id", sa.Uuid(), nullable=False),
        sa.Column("on", sa.Date(), nullable=False),
        sa.Column("event", _JSON, nullable=False),
        sa.Column("typed", _JSON, nullable=False),
        sa.Column("by", sa.String(), nullable=False),
        sa.Column("version", sa.Integer(), nullable=False),
        sa.Column("created_at", sa.DateTime(timezone=True), server_default=sa.text("now()"), nullable=False),
        sa.Column("updated_at", sa.DateTime(timezone=True), server_default=sa.text("now()"), nullable=False),
    )
    op.create_index("ix_plot_events_site", "plot_events", ["workspace_id", "site_id", "plot_id"])


def downgrade() -> None:
    """Go back."""
    op.drop_table("plot_events")
    op.drop_table("weather_days")
    op.drop_column("plots", "renewal")
    for name in ("outlook", "weather_heard_at", "seasons"):
        op.drop_column("sites", name)
