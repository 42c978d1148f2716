"""Files that are read after their request: in the workshop, as they may hold much."""

from typing import Any
from uuid import UUID

from ulmatic.accounts.scope import Scope
from ulmatic.core.survey import Use
from ulmatic.errands.service import Tell
from ulmatic.records.errands import ErrandRow
from ulmatic.site import restoring
from ulmatic.survey import exchange


def import_plots(scope: Scope, errand: ErrandRow, tell: Tell) -> dict[str, Any]:
    """Read plots from a file; return what was read."""
    subject = errand.subject
    imported = exchange.import_plots(
        scope,
        UUID(subject["site_id"]),
        UUID(subject["import_id"]),
        subject["name"],
        errand.content or b"",
        Use(subject["use"]),
        keep=subject["keep"],
        columns=subject["columns"],
        tell=tell,
    )
    return imported.model_dump(mode="json")


def restore_archive(scope: Scope, errand: ErrandRow, _tell: Tell) -> dict[str, Any]:
    """Make a site from an archive; return it."""
    site = restoring.restore_archive(scope, UUID(errand.subject["site_id"]), errand.content or b"")
    return site.model_dump(mode="json")
