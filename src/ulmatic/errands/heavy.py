"""Errands that are done in the workshop's process."""

from typing import TYPE_CHECKING, Any
from uuid import UUID

from ulmatic.platform.settings import Settings

if TYPE_CHECKING:
    from ulmatic.errands.service import Errands

_errands: list["Errands"] = []


def prepare(settings: Settings) -> None:
    """Make what errands need, once in the process."""
    from ulmatic.app import create_app  # noqa: PLC0415 - the application asks for errands

    _errands.append(create_app(settings).state.errands)


def do(workspace_id: UUID, errand_id: UUID) -> tuple[dict[str, Any] | None, dict[str, Any] | None]:
    """Do an errand; return what came of it, and why it could not be done."""
    return _errands[0].carry_out(workspace_id, errand_id)
