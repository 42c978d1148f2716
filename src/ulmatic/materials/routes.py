"""Routes for materials, guessing a load, and mixing a pile."""

from uuid import UUID

from fastapi import Response

from ulmatic.accounts.scope import CrewScope, ViewerScope
from ulmatic.core.materials import QUESTIONS, Finding, Findings, LoadQuestion, identify
from ulmatic.materials import service
from ulmatic.materials.schemas import MaterialEntry, MaterialOut, NewMaterial, PileMixEntry, PileMixOut
from ulmatic.platform.routing import api_router
from ulmatic.records.materials import MaterialRow
from ulmatic.records.writes import IfMatch, tagged

router = api_router("materials")
MATERIALS = "/workspaces/{workspace_id}/materials"


@router.get("/load-questions")
def list_load_questions() -> list[LoadQuestion]:
    """List what is asked of a nameless load."""
    return list(QUESTIONS)


@router.post("/load-guess")
def guess_load(findings: Findings) -> Finding | None:
    """Say what a nameless load most likely is; null while nothing tells materials apart."""
    return identify(findings)


@router.get(MATERIALS)
def list_materials(scope: ViewerScope) -> list[MaterialOut]:
    """List own materials, then the catalogue."""
    return service.list_materials(scope)


@router.post(MATERIALS, status_code=201)
def add_material(entry: NewMaterial, scope: CrewScope, response: Response) -> MaterialOut:
    """Keep an own material."""
    material = service.add_material(scope, entry)
    scope.commit()
    tagged(response, material.version)
    return material


@router.put(MATERIALS + "/{material_id}")
def change_material(
    material_id: UUID, entry: MaterialEntry, scope: CrewScope, response: Response, if_match: IfMatch = None
) -> MaterialOut:
    """Change an own material."""
    material = service.change_material(scope, material_id, entry, if_match)
    scope.commit()
    tagged(response, material.version)
    return material


@router.delete(MATERIALS + "/{material_id}", status_code=204)
def delete_material(material_id: UUID, scope: CrewScope) -> None:
    """Delete an own material; recipes that name it keep it, and `restoration` takes it back."""
    scope.delete(scope.get(MaterialRow, material_id))
    scope.commit()


@router.post(MATERIALS + "/{material_id}/restoration", status_code=204)
def restore_material(material_id: UUID, scope: CrewScope) -> None:
    """Take back the deletion of an own material."""
    scope.restore(MaterialRow, material_id)
    scope.commit()


@router.post("/workspaces/{workspace_id}/pile-mix")
def mix_pile(entry: PileMixEntry, scope: ViewerScope) -> PileMixOut:
    """Compute C:N and moisture of a pile, and how much of something is missing; nothing is kept."""
    return service.mix_pile(scope, entry)
