"""The workspace's shelf: the catalogue and its own materials."""

from uuid import UUID

from pydantic import ValidationError

from ulmatic.accounts.scope import Scope
from ulmatic.core.materials import CATALOGUE, Material, identify, mix, with_figures
from ulmatic.core.materials.pile_mix import (
    carbon_to_nitrogen,
    missing_for_moisture,
    missing_for_ratio,
    moisture,
    portion,
)
from ulmatic.materials.schemas import (
    Bucket,
    MaterialEntry,
    MaterialOut,
    NewMaterial,
    PileMixAddition,
    PileMixEntry,
    PileMixOut,
)
from ulmatic.platform.problems import Problem
from ulmatic.records.materials import MaterialRow
from ulmatic.records.writes import added, next_version
from ulmatic.site.shelf import material_of, shelf

MOST_MATERIALS = 300


def _read(row: MaterialRow) -> Material:
    return Material.model_validate(row.material)


def _out(material: Material, row: MaterialRow | None = None) -> MaterialOut:
    return MaterialOut(
        material=material,
        own=row is not None,
        version=row.version if row else 0,
        wet_density=material.wet_density(),
        nitrogen=material.nitrogen(),
        entry=row.entry if row else {},
    )


def list_materials(scope: Scope) -> list[MaterialOut]:
    """Return own materials by name, then the catalogue."""
    rows = scope.session.scalars(scope.select(MaterialRow).order_by(MaterialRow.name, MaterialRow.id)).all()
    return [*(_out(_read(row), row) for row in rows), *(_out(material) for material in CATALOGUE.values())]


def _material(scope: Scope, key: UUID, entry: MaterialEntry) -> Material:
    materials = shelf(scope)
    if entry.parts:
        parts = [
            (material_of(materials, part.material, f"parts.{index}.material") or CATALOGUE[part.material], part.share)
            for index, part in enumerate(entry.parts)
        ]
        base = mix(parts, str(key), entry.name)
    elif entry.found is not None:
        finding = identify(entry.found)
        if finding is None:
            raise Problem(422, "Answer at least one question that distinguishes materials.", field="found")
        base = finding.material
    else:
        chosen = material_of(materials, entry.base, "base")
        if chosen is None:
            raise Problem(422, "Please choose the material to start from.", field="base")
        base = chosen
    try:
        return Material.model_validate(with_figures(base, str(key), entry.name, entry.figures.typed_figures()))
    except ValidationError:
        raise Problem(422, "These values do not fit together.", field="figures") from None


def add_material(scope: Scope, entry: NewMaterial) -> MaterialOut:
    """Keep a new own material; the same id again returns the one that is there."""
    row = scope.session.scalar(scope.select(MaterialRow).where(MaterialRow.id == entry.id))
    if row is None:
        if len(scope.session.scalars(scope.select(MaterialRow)).all()) >= MOST_MATERIALS:
            raise Problem(409, f"A workspace keeps {MOST_MATERIALS} own materials at most.")
        material = _material(scope, entry.id, entry)
        row = added(scope, MaterialRow(id=entry.id, name=entry.name, **_values(entry, material)))
    return _out(_read(row), row)


def _values(entry: MaterialEntry, material: Material) -> dict[str, object]:
    origin = {**entry.model_dump(mode="json", exclude={"id", "name"}), "typed": entry.typed()}
    return {"material": material.model_dump(mode="json"), "entry": origin}


def change_material(scope: Scope, material_id: UUID, entry: MaterialEntry, if_match: str | None) -> MaterialOut:
    """Change an own material; what it stands in is computed anew."""
    row = scope.get(MaterialRow, material_id, lock=True)
    next_version(row, if_match)
    if entry.base == str(material_id) or any(part.material == str(material_id) for part in entry.parts):
        raise Problem(422, "A material cannot be based on itself.", field="base")
    row.name = entry.name
    for field, value in _values(entry, _material(scope, material_id, entry)).items():
        setattr(row, field, value)
    scope.session.flush()
    return _out(_read(row), row)


def mix_pile(scope: Scope, entry: PileMixEntry) -> PileMixOut:
    """Mix a pile."""
    materials = shelf(scope)
    chosen = [
        material_of(materials, part.material, f"parts.{index}.material") for index, part in enumerate(entry.parts)
    ]
    filled = [
        (material, amount) for material, amount in zip(chosen, entry.amounts(), strict=True) if material and amount > 0
    ]
    if not filled:
        raise Problem(422, "Type at least one amount.", field="parts.0.amount")
    portions = [portion(material, amount, entry.by) for material, amount in filled]
    volumes = [portions[index].kg / material.wet_density().value for index, (material, _) in enumerate(filled)]
    least = min(volumes)
    add = material_of(materials, entry.add, "add")
    return PileMixOut(
        cn=carbon_to_nitrogen(portions),
        moisture=moisture(portions),
        buckets=[
            Bucket(name=portion.name, buckets=volume / least, kg=part.kg, m3=volume)
            for portion, part, volume in zip(portions, portions, volumes, strict=True)
        ],
        for_ratio=_addition(add, missing_for_ratio(portions, portion(add, 1, "kg"), entry.ratio)) if add else None,
        for_moisture=(
            _addition(add, missing_for_moisture(portions, portion(add, 1, "kg"), entry.moisture)) if add else None
        ),
    )


def _addition(material: Material, kg: float | None) -> PileMixAddition:
    return PileMixAddition(kg=kg, m3=None if kg is None else kg / material.wet_density().value)
