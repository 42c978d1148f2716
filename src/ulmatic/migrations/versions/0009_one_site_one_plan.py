"""The existing depth becomes a measurement; rules and windows go by season; choices and decisions are kept."""

import json
from datetime import UTC, date, datetime
from typing import Any
from uuid import uuid4

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

from ulmatic.formats.older import chosen_loads, entry_of, is_southern, measurement, rule_of, seasons_of

revision = "0009"
down_revision = "0008"
branch_labels = None
depends_on = None

_JSON = postgresql.JSONB()
Row = Any


def upgrade() -> None:
    """Go forward."""
    op.add_column("sites", sa.Column("time_zone", sa.String(), server_default="UTC", nullable=False))
    op.add_column("sites", sa.Column("chosen", _JSON, server_default="[]", nullable=False))
    op.rename_table("plot_events", "ledger_entries")
    op.execute("ALTER INDEX ix_plot_events_site RENAME TO ix_ledger_entries_site")
    op.alter_column("ledger_entries", "event", new_column_name="entry")
    op.alter_column("plots", "renewal", new_column_name="rule")
    op.add_column("plots", sa.Column("decisions", _JSON, server_default="{}", nullable=False))
    op.add_column("plots", sa.Column("surveyed_on", sa.Date(), nullable=True))
    southern = _sites()
    _plots(southern)
    _ledger()
    op.alter_column("plots", "surveyed_on", nullable=False)
    op.drop_column("plots", "existing_mm")
    op.drop_column("plots", "existing_at")
    op.drop_column("sites", "loads_chosen")


def _rows(query: str) -> list[Row]:
    return list(op.get_bind().execute(sa.text(query)))


def _write(query: str, **values: object) -> None:
    written = {key: json.dumps(value) if isinstance(value, dict | list) else value for key, value in values.items()}
    op.get_bind().execute(sa.text(query), written)


def _sites() -> dict[tuple[object, object], bool]:
    southern = {}
    for site in _rows("SELECT workspace_id, id, climate, seasons, loads_chosen, updated_at FROM sites"):
        key = (site.workspace_id, site.id)
        southern[key] = is_southern(site.climate)
        seasons = seasons_of(site.seasons or {}, southern=southern[key])
        loads = site.loads_chosen
        chosen = [] if loads is None else [chosen_loads(loads, site.updated_at.astimezone(UTC).date())]
        _write(
            "UPDATE sites SET seasons = CAST(:seasons AS jsonb), chosen = CAST(:chosen AS jsonb) "
            "WHERE workspace_id = :workspace_id AND id = :id",
            seasons=seasons,
            chosen=chosen,
            workspace_id=key[0],
            id=key[1],
        )
    return southern


def _plots(southern: dict[tuple[object, object], bool]) -> None:
    query = (
        "SELECT workspace_id, id, site_id, found, typed, rule, existing_mm, wanted_mm, existing_at, created_at "
        "FROM plots"
    )
    for plot in _rows(query):
        ground, typed = dict(plot.found or {}), dict(plot.typed or {})
        entry, written = measurement({"existing_mm": plot.existing_mm}, ground, typed)
        south = southern.get((plot.workspace_id, plot.site_id), False)
        rule = None if plot.rule is None else rule_of(plot.rule, plot.wanted_mm, southern=south)
        _write(
            "UPDATE plots SET found = CAST(:found AS jsonb), typed = CAST(:typed AS jsonb), "
            "rule = CAST(:rule AS jsonb), "
            "surveyed_on = :surveyed_on WHERE workspace_id = :workspace_id AND id = :id",
            found=ground,
            typed=typed,
            rule=rule,
            surveyed_on=plot.created_at.astimezone(UTC).date(),
            workspace_id=plot.workspace_id,
            id=plot.id,
        )
        _measure(plot, entry, written, plot.existing_at)


def _measure(plot: Row, entry: dict[str, Any], typed: dict[str, Any], at: datetime) -> None:
    on: date = at.astimezone(UTC).date()
    _write(
        'INSERT INTO ledger_entries (workspace_id, id, site_id, plot_id, "on", entry, typed, by, version, created_at, '
        "updated_at) VALUES (:workspace_id, :id, :site_id, :plot_id, :on, CAST(:entry AS jsonb), "
        "CAST(:typed AS jsonb), "
        "'', 1, :at, :at)",
        workspace_id=plot.workspace_id,
        id=uuid4(),
        site_id=plot.site_id,
        plot_id=plot.id,
        on=on,
        entry=entry,
        typed=typed,
        at=at,
    )


def _ledger() -> None:
    for row in _rows("SELECT workspace_id, id, entry FROM ledger_entries"):
        entry = entry_of(row.entry)
        if entry != row.entry:
            _write(
                "UPDATE ledger_entries SET entry = CAST(:entry AS jsonb) "
                "WHERE workspace_id = :workspace_id AND id = :id",
                entry=entry,
                workspace_id=row.workspace_id,
                id=row.id,
            )


def downgrade() -> None:
    """Go back: the last measurement of a plot is its existing depth; rules by season and choices are forgotten."""
    op.add_column("sites", sa.Column("loads_chosen", sa.Integer(), nullable=True))
    op.add_column("plots", sa.Column("existing_mm", sa.Float(), server_default="0", nullable=False))
    op.add_column(
        "plots", sa.Column("existing_at", sa.DateTime(timezone=True), server_default=sa.text("now()"), nullable=False)
    )
    op.execute(
        "UPDATE plots SET existing_mm = COALESCE((last.entry->>'depth_mm')::float, 0), "
        "existing_at = last.created_at FROM "
        "(SELECT DISTINCT ON (workspace_id, plot_id) workspace_id, plot_id, entry, created_at FROM ledger_entries "
        "WHERE entry->>'kind' = 'measured' AND deleted_at IS NULL ORDER BY workspace_id, plot_id, \"on\" DESC, "
        "created_at DESC) AS last WHERE plots.workspace_id = last.workspace_id AND plots.id = last.plot_id"
    )
    op.execute("DELETE FROM ledger_entries WHERE entry->>'kind' IN ('measured', 'removed', 'observed')")
    op.execute(
        "UPDATE ledger_entries SET entry = jsonb_set(entry, '{kind}', '\"mixed\"') WHERE entry->>'kind' = 'dug_in'"
    )
    op.execute("UPDATE plots SET rule = NULL")
    op.execute("UPDATE sites SET seasons = seasons - 'windows'")
    op.alter_column("ledger_entries", "entry", new_column_name="event")
    op.execute("ALTER INDEX ix_ledger_entries_site RENAME TO ix_plot_events_site")
    op.rename_table("ledger_entries", "plot_events")
    op.alter_column("plots", "rule", new_column_name="renewal")
    op.drop_column("plots", "decisions")
    op.drop_column("plots", "surveyed_on")
    op.drop_column("sites", "chosen")
    op.drop_column("sites", "time_zone")
