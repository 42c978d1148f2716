"""Keeping suppliers, and how a site buys."""

from collections.abc import Sequence
from uuid import UUID

from sqlalchemy import func

from ulmatic.accounts.scope import Scope
from ulmatic.platform.problems import Problem
from ulmatic.records.supply import SupplierRow
from ulmatic.records.writes import added, next_version
from ulmatic.site.shelf import material_of, shelf
from ulmatic.supply.schemas import NewSupplier, SupplierEntry, SupplierOut

MOST_SUPPLIERS = 200


def supplier_rows(scope: Scope) -> Sequence[SupplierRow]:
    """Return the rows of the workspace's suppliers by name."""
    return scope.session.scalars(scope.select(SupplierRow).order_by(func.lower(SupplierRow.name), SupplierRow.id)).all()


def list_suppliers(scope: Scope) -> list[SupplierOut]:
    """Return the suppliers by name."""
    return [SupplierOut.model_validate(row) for row in supplier_rows(scope)]


def _values(scope: Scope, entry: SupplierEntry) -> dict[str, object]:
    material_of(shelf(scope), entry.source.material, "source.material")
    return {
        "name": entry.name,
        "currency": entry.currency,
        "source": entry.source.model_dump(mode="json"),
        "typed": {**entry.typed(), "units": entry.units.value},
    }


def add_supplier(scope: Scope, entry: NewSupplier) -> SupplierOut:
    """Keep a new supplier; the same id again returns the one that is there."""
    row = scope.session.scalar(scope.select(SupplierRow).where(SupplierRow.id == entry.id))
    if row is None:
        if len(supplier_rows(scope)) >= MOST_SUPPLIERS:
            raise Problem(409, f"A workspace keeps {MOST_SUPPLIERS} suppliers at most.")
        row = added(scope, SupplierRow(id=entry.id, **_values(scope, entry)))
    return SupplierOut.model_validate(row)


def change_supplier(scope: Scope, supplier_id: UUID, entry: SupplierEntry, if_match: str | None) -> SupplierOut:
    """Change a supplier."""
    row = scope.get(SupplierRow, supplier_id, lock=True)
    next_version(row, if_match)
    for field, value in _values(scope, entry).items():
        setattr(row, field, value)
    scope.session.flush()
    return SupplierOut.model_validate(row)
