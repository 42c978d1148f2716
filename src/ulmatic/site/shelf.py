"""The materials that may be named in a workspace: shipped ones and its own."""

from collections.abc import Mapping

from ulmatic.accounts.scope import Scope
from ulmatic.core.materials.catalogue import CATALOGUE
from ulmatic.core.materials.material import Material
from ulmatic.platform.problems import Problem
from ulmatic.records.materials import MaterialRow

Shelf = Mapping[str, Material]


def shelf(scope: Scope) -> Shelf:
    """Return every material that a recipe of this workspace may name, own ones that were deleted included."""
    rows = [
        *scope.rows(MaterialRow),
        *scope.session.scalars(scope.select(MaterialRow, deleted=True)),
    ]
    return {**CATALOGUE, **{str(row.id): Material.model_validate(row.material) for row in rows}}


def material_of(materials: Shelf, key: str | None, field: str) -> Material | None:
    """Return the material of `key`, None for None; raise the 422 problem at `field` where there is none."""
    if key is None:
        return None
    if key not in materials:
        raise Problem(422, "This material does not exist. Please choose one from the list.", field=field)
    return materials[key]
