"""The history of the tables, kept by Alembic."""

from pathlib import Path

from alembic import command
from alembic.config import Config


def config(url: str) -> Config:
    """Return Alembic's configuration for the database at `url`."""
    settings = Config()
    settings.set_main_option("script_location", str(Path(__file__).parent))
    settings.attributes["url"] = url
    return settings


def upgrade(url: str, revision: str = "head") -> None:
    """Bring the tables up to `revision`."""
    command.upgrade(config(url), revision)


def downgrade(url: str, revision: str) -> None:
    """Take the tables back to `revision`; "base" is none at all."""
    command.downgrade(config(url), revision)
