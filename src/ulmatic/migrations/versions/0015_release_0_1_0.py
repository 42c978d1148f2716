"""The tables of release 0.1.0, the first that anybody has."""

import re
from pathlib import Path

from alembic import op

revision = "0015"
down_revision = None
branch_labels = None
depends_on = None
TABLES = Path(__file__).with_name("release_0_1_0.sql").read_text()


def upgrade() -> None:
    """Go forward."""
    op.get_bind().exec_driver_sql(TABLES)


def downgrade() -> None:
    """Go back."""
    names = ", ".join(re.findall(r"^CREATE TABLE (\w+)", TABLES, re.MULTILINE))
    op.execute(f"DROP TABLE {names}")
