"""Whether the database can be written, errands, devices, letters, and when accounts and workspaces go."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

revision = "0012"
down_revision = "0011"
branch_labels = None
depends_on = None

_MOMENT = sa.DateTime(timezone=True)


def upgrade() -> None:
    """Go forward."""
    op.create_table(
        "readiness",
        sa.Column("id", sa.Integer(), autoincrement=False, nullable=False),
        sa.Column("at", _MOMENT, nullable=False),
        sa.PrimaryKeyConstraint("id", name="pk_readiness"),
    )
    op.create_table(
        "errands",
        sa.Column("workspace_id", sa.Uuid(), nullable=False),
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("kind", sa.String(), nullable=False),
        sa.Column("user_id", sa.Uuid(), nullable=False),
        sa.Column("subject", JSONB(), nullable=False),
        sa.Column("state", sa.String(), nullable=False),
        sa.Column("done", sa.Integer(), nullable=False),
        sa.Column("of", sa.Integer(), nullable=False),
        sa.Column("problem", JSONB()),
        sa.Column("result", JSONB()),
        sa.Column("content", sa.LargeBinary()),
        sa.Column("created_at", _MOMENT, nullable=False),
        sa.Column("started_at", _MOMENT),
        sa.Column("deleted_at", _MOMENT),
        sa.ForeignKeyConstraint(
            ["workspace_id"], ["workspaces.id"], name="fk_errands_workspace_id", ondelete="CASCADE"
        ),
        sa.PrimaryKeyConstraint("workspace_id", "id", name="pk_errands"),
    )
    op.add_column("users", sa.Column("verified_at", _MOMENT))
    op.add_column("users", sa.Column("demo_until", _MOMENT))
    op.add_column("users", sa.Column("leaves_at", _MOMENT))
    # The visitor whom all shared goes: everybody has a demo of their own.
    op.execute("UPDATE users SET demo_until = now() WHERE email = 'visitor@demo.invalid'")
    op.create_index("ix_users_demo_until", "users", ["demo_until"])
    op.create_index("ix_users_leaves_at", "users", ["leaves_at"])
    op.add_column("workspaces", sa.Column("leaves_at", _MOMENT))
    op.create_index("ix_workspaces_leaves_at", "workspaces", ["leaves_at"])
    op.add_column("sign_ins", sa.Column("id", sa.Uuid(), server_default=sa.func.gen_random_uuid(), nullable=False))
    op.add_column("sign_ins", sa.Column("device", sa.String(), server_default="", nullable=False))
    op.add_column("sign_ins", sa.Column("started_at", _MOMENT, server_default=sa.func.now(), nullable=False))
    op.add_column("sign_ins", sa.Column("seen_at", _MOMENT, server_default=sa.func.now(), nullable=False))
    op.create_unique_constraint("uq_sign_ins_id", "sign_ins", ["id"])
    op.create_table(
        "mailed_tokens",
        sa.Column("token_hash", sa.LargeBinary(), nullable=False),
        sa.Column("user_id", sa.Uuid(), nullable=False),
        sa.Column("purpose", sa.String(), nullable=False),
        sa.Column("expires_at", _MOMENT, nullable=False),
        sa.ForeignKeyConstraint(["user_id"], ["users.id"], name="fk_mailed_tokens_user_id", ondelete="CASCADE"),
        sa.PrimaryKeyConstraint("token_hash", name="pk_mailed_tokens"),
    )
    op.create_index("ix_mailed_tokens_user_id", "mailed_tokens", ["user_id"])
    op.create_index("ix_mailed_tokens_expires_at", "mailed_tokens", ["expires_at"])
    op.create_table(
        "letters",
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("purpose", sa.String(), nullable=False),
        sa.Column("to", sa.String(), nullable=False),
        sa.Column("user_id", sa.Uuid()),
        sa.Column("workspace_id", sa.Uuid()),
        sa.Column("invitation_id", sa.Uuid()),
        sa.Column("tries", sa.Integer(), nullable=False),
        sa.Column("due_at", _MOMENT, nullable=False),
        sa.ForeignKeyConstraint(["user_id"], ["users.id"], name="fk_letters_user_id", ondelete="CASCADE"),
        sa.PrimaryKeyConstraint("id", name="pk_letters"),
    )
    op.create_index("ix_letters_user_id", "letters", ["user_id"])
    op.create_index("ix_letters_due_at", "letters", ["due_at"])
    op.create_index("ix_errands_state_created_at", "errands", ["state", "created_at"])
    op.execute("INSERT INTO readiness (id, at) VALUES (1, now())")


def downgrade() -> None:
    """Go back."""
    op.drop_table("letters")
    op.drop_table("mailed_tokens")
    for column in ("seen_at", "started_at", "device", "id"):
        op.drop_column("sign_ins", column)
    op.drop_column("workspaces", "leaves_at")
    for column in ("leaves_at", "demo_until", "verified_at"):
        op.drop_column("users", column)
    op.drop_table("errands")
    op.drop_table("readiness")
