"""Errands that are done in a process of the workshop, which knows the database and nothing of the web."""

from ulmatic.errands.service import Doing, Errands, prepare_worker
from ulmatic.platform import requests
from ulmatic.platform.clock import Clock
from ulmatic.platform.database import engine_for, sessions_for
from ulmatic.platform.settings import Settings
from ulmatic.platform.workshop import Workshop
from ulmatic.survey import exchange_errands

HEAVY: dict[str, Doing] = {
    "import_plots": exchange_errands.import_plots,
    "restore_archive": exchange_errands.restore_archive,
}


def workshop_of(settings: Settings) -> Workshop:
    """Return the workshop for heavy errands; its process is made with the first of them."""
    return Workshop(_prepare, (settings,))


def _prepare(settings: Settings) -> None:
    requests.configure_logging()
    clock = Clock.configured()
    sessions = sessions_for(engine_for(settings.database_url), read_only=settings.read_only, clock=clock)
    prepare_worker(Errands(sessions, HEAVY))
