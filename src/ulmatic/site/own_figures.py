"""The parameters of a workspace: shipped ones, and the figures set in their place."""

from typing import Annotated
from uuid import UUID

from pydantic import BaseModel, Field, StringConstraints

from ulmatic.accounts.scope import CrewScope, Scope, ViewerScope
from ulmatic.core.figures import Parameter
from ulmatic.core.materials import CATALOGUE
from ulmatic.core.planning.register import FIXED, GENERAL, own_figure, settable, shipped
from ulmatic.core.units import MeasureError
from ulmatic.platform.problems import Problem, not_found
from ulmatic.platform.routing import api_router
from ulmatic.platform.typed import TypedEntry
from ulmatic.records.survey import SiteRow
from ulmatic.site.snapshot import workspace_parameters

router = api_router("parameters")
PARAMETERS = "/workspaces/{workspace_id}/parameters"
PACKAGES = ("recipe", "schedule", "survey", "work", "decay", "nitrogen", "supply")
"""In the order in which they are listed."""


class ParameterOut(BaseModel):
    """A parameter as it holds in the workspace, and as shipped.

    `group` is the part of the job it belongs to, or the material; `typed` how an own figure was written; `fixed` says
    why it cannot be set.
    """

    figure: Parameter
    shipped: Parameter
    group: str
    own: bool
    typed: str | None
    fixed: str | None


class FigureEntry(TypedEntry):
    """An own figure as typed."""

    figure: Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=60)] = Field(
        description="With or without its unit"
    )


def list_parameters(scope: Scope) -> list[ParameterOut]:
    """Return every parameter: those of the parts of the job in order, then those of materials."""
    parameters, own_figures = workspace_parameters(scope), scope.member.workspace.parameters

    def parameter_out(figure: Parameter, group: str) -> ParameterOut:
        return ParameterOut(
            figure=parameters.of(figure),
            shipped=figure,
            group=group,
            own=figure.key in parameters.by_key,
            typed=own_figures.get(figure.key, {}).get("typed"),
            fixed=FIXED.get(figure.key),
        )

    general = sorted(GENERAL, key=lambda figure: PACKAGES.index(figure.key.split(".")[0]))
    return [
        *(parameter_out(figure, figure.key.split(".")[0]) for figure in general),
        *(parameter_out(figure, material.name) for material in CATALOGUE.values() for figure in material.parameters()),
    ]


def set_parameter(scope: Scope, key: str, entry: FigureEntry) -> None:
    """Set a figure in place of a shipped one; the shipped figure itself takes it away again."""
    if key not in shipped():
        raise not_found("parameter")
    if not settable(key):
        raise Problem(409, FIXED[key], field="figure")
    try:
        value = own_figure(shipped()[key], entry.figure, entry.units)
    except MeasureError as error:
        raise Problem(422, str(error), field="figure") from None
    workspace = scope.member.workspace
    figures = {other: figure for other, figure in workspace.parameters.items() if other != key}
    if value != shipped()[key].value:
        figures[key] = {"value": value, "typed": entry.figure}
    workspace.parameters = figures


def reset_parameter(scope: Scope, key: str) -> None:
    """Let the shipped figure hold again."""
    workspace = scope.member.workspace
    workspace.parameters = {other: figure for other, figure in workspace.parameters.items() if other != key}


@router.get(PARAMETERS)
def read_parameters(scope: ViewerScope) -> list[ParameterOut]:
    """List every parameter as it holds in the workspace, with source, mark and range."""
    return list_parameters(scope)


@router.put(PARAMETERS + "/{key}", status_code=204)
def change_parameter(key: str, entry: FigureEntry, scope: CrewScope) -> None:
    """Set a figure in place of a shipped one."""
    set_parameter(scope, key, entry)
    scope.commit()


@router.delete(PARAMETERS + "/{key}", status_code=204)
def delete_parameter(key: str, scope: CrewScope) -> None:
    """Let the shipped figure hold again."""
    reset_parameter(scope, key)
    scope.commit()


@router.delete(PARAMETERS, status_code=204)
def delete_parameters(scope: CrewScope) -> None:
    """Let all shipped figures hold again."""
    scope.member.workspace.parameters = {}
    scope.commit()


@router.delete("/workspaces/{workspace_id}/sites/{site_id}/parameters", status_code=204)
def delete_site_parameters(site_id: UUID, scope: CrewScope) -> None:
    """Let the figures of the workspace hold at a site, in place of those that came with its archive."""
    row = scope.get(SiteRow, site_id, lock=True)
    row.parameters, row.version = {}, row.version + 1
    scope.commit()
