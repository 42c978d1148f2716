"""All that a workspace holds, as one file: a ZIP of site archives, tables of the rest in JSON, and photos."""

import json
import re
import zipfile
from collections.abc import Sequence
from tempfile import SpooledTemporaryFile
from typing import IO, Any

from sqlalchemy import inspect

from ulmatic.accounts import service as accounts
from ulmatic.accounts.scope import Scope
from ulmatic.platform.database import WorkspaceRow
from ulmatic.platform.photos import photo_content
from ulmatic.records.log import PhotoRow
from ulmatic.records.materials import MaterialRow
from ulmatic.records.money import QuoteRow
from ulmatic.records.stock import BookRow, DeliveryRow, PileRow
from ulmatic.records.supply import OfferRow, SupplierRow
from ulmatic.records.survey import SiteRow
from ulmatic.site import archives

IN_MEMORY = 10_000_000
TABLES: dict[str, type[WorkspaceRow]] = {
    "materials": MaterialRow,
    "suppliers": SupplierRow,
    "offers": OfferRow,
    "deliveries": DeliveryRow,
    "piles": PileRow,
    "book": BookRow,
    "quotes": QuoteRow,
}
_NOT_TOLD = {"workspace_id", "deleted_at"}


def workspace_file(scope: Scope) -> IO[bytes]:
    """Return a ZIP of everything in the workspace, to be read from its beginning.

    `sites/` holds an archive for each site, as `ulmatic plan` and “Bring in a site” read it.
    """
    file: IO[bytes] = SpooledTemporaryFile(IN_MEMORY)  # noqa: SIM115 - given to who sends it
    with zipfile.ZipFile(file, "w", zipfile.ZIP_DEFLATED) as zipped:
        zipped.writestr("workspace.json", _json(_particulars(scope)))
        for name, model in TABLES.items():
            zipped.writestr(f"{name}.json", _json(_rows(scope.session.scalars(scope.select(model)).all())))
        for site in scope.session.scalars(scope.select(SiteRow).order_by(SiteRow.name, SiteRow.id)).all():
            plain = re.sub(r"[^A-Za-z0-9]+", "-", site.name).strip("-")[:60] or "site"
            zipped.writestr(f"sites/{plain}-{str(site.id)[:8]}.json", archives.archive(scope, site.id))
        for name in scope.session.scalars(scope.select(PhotoRow).with_only_columns(PhotoRow.hash).distinct()).all():
            jpeg = photo_content(name)
            if jpeg is not None:
                zipped.writestr(f"photos/{name}.jpg", jpeg)
    file.seek(0)
    return file


def _particulars(scope: Scope) -> dict[str, Any]:
    workspace = scope.member.workspace
    people = accounts.members(scope.session, scope.workspace_id)
    return {
        "name": workspace.name,
        "practice": workspace.practice,
        "parameters": workspace.parameters,
        "members": [{"name": member.user.name, "email": member.user.email, "role": member.role} for member in people],
    }


def _rows(rows: Sequence[WorkspaceRow]) -> list[dict[str, Any]]:
    return [
        {
            column.key: getattr(row, column.key)
            for column in inspect(type(row)).column_attrs
            if column.key not in _NOT_TOLD
        }
        for row in rows
    ]


def _json(value: object) -> str:
    return json.dumps(value, ensure_ascii=False, indent=1, default=str)
