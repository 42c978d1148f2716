"""Routes for weather, forecasts, rules of renewal, demand, and what was done on plots."""

from typing import Annotated
from uuid import UUID

from fastapi import APIRouter, Body, Query, Request, Response

from ulmatic.accounts.scope import CrewScope, ViewerScope
from ulmatic.core.renewal import Overrides
from ulmatic.log import service as log
from ulmatic.log.schemas import EventEntry, EventOut
from ulmatic.platform.writes import IfMatch
from ulmatic.recipe.service import NO_CLIMATE
from ulmatic.schedule import demand, forecast, weather
from ulmatic.schedule.schemas import (
    AllDemand,
    LayersSheet,
    RuleCompared,
    RuleEntry,
    SeasonsSheet,
    SupplyHeld,
    WeatherImport,
)
from ulmatic.schedule.weather import WeatherService
from ulmatic.survey.models import SiteRow
from ulmatic.survey.schemas import SiteOut

router = APIRouter(tags=["renewal"])
SITE = "/workspaces/{workspace_id}/sites/{site_id}"
Years = Annotated[int, Query(ge=1, le=10)]


def _written(sheet: SeasonsSheet) -> Response:
    """Return a sheet as it is: it was validated when it was made, and large ones take as long again to check twice."""
    return Response(sheet.model_dump_json(), media_type="application/json")


@router.get(SITE + "/seasons", response_model=SeasonsSheet)
def read_seasons(site_id: UUID, scope: ViewerScope, years: Years = 5) -> Response:
    """Return the site through a year back and some ahead."""
    return _written(forecast.seasons_sheet(scope, site_id, years))


@router.put(SITE + "/seasons", status_code=204)
def change_seasons(site_id: UUID, entry: Overrides, scope: CrewScope) -> None:
    """Override frost dates, hardiness zone, and months for laying."""
    forecast.change_seasons(scope, site_id, entry)
    scope.commit()


@router.get(SITE + "/held")
def read_held(
    site_id: UUID, scope: ViewerScope, supply_m3: Annotated[float, Query(ge=0, le=100_000, allow_inf_nan=False)]
) -> SupplyHeld:
    """Return the depth that a yearly supply can hold."""
    return demand.held_by(scope, site_id, supply_m3)


@router.get("/workspaces/{workspace_id}/demand")
def read_demand(scope: ViewerScope) -> AllDemand:
    """Return what all sites take in coming years."""
    return demand.all_sites(scope)


@router.get(SITE + "/plots/{plot_id}/layers")
def read_layers(site_id: UUID, plot_id: UUID, scope: ViewerScope, years: Years = 5) -> LayersSheet:
    """Return the layers of a plot through time."""
    return forecast.layers_sheet(scope, site_id, plot_id, years)


@router.put(SITE + "/plots/{plot_id}/rule", status_code=204)
def change_rule(site_id: UUID, plot_id: UUID, entry: RuleEntry, scope: CrewScope, if_match: IfMatch = None) -> None:
    """Give a plot a rule of its own, or the proposed one back."""
    forecast.change_rule(scope, site_id, plot_id, entry, if_match)
    scope.commit()


@router.get(SITE + "/plots/{plot_id}/rules")
def compare_rules(site_id: UUID, plot_id: UUID, scope: ViewerScope) -> list[RuleCompared]:
    """Set rules side by side on a plot, over ten years."""
    return demand.compare_rules(scope, site_id, plot_id)


@router.post(SITE + "/weather/refresh", response_model=SeasonsSheet)
def refresh_weather(site_id: UUID, scope: CrewScope, request: Request, years: Years = 5) -> Response:
    """Ask the weather service, then return the seasons."""
    service: WeatherService | None = request.app.state.weather
    site = SiteOut.model_validate(scope.one(SiteRow, site_id))
    trouble = weather.refresh(scope, service, site_id, site.normals or NO_CLIMATE)
    scope.commit()
    return _written(forecast.seasons_sheet(scope, site_id, years, trouble))


@router.put(SITE + "/weather")
def import_weather(
    site_id: UUID, scope: CrewScope, content: Annotated[bytes, Body(media_type="application/octet-stream")]
) -> WeatherImport:
    """Keep daily weather from CSV: date, tmax, tmin, precipitation."""
    kept = weather.bring_in(scope, site_id, content)
    scope.commit()
    return kept


@router.delete(SITE + "/weather", status_code=204)
def clear_weather(site_id: UUID, scope: CrewScope) -> None:
    """Forget all observed days."""
    weather.clear(scope, site_id)
    scope.commit()


@router.post(SITE + "/events", status_code=201, tags=["log"])
def add_event(site_id: UUID, entry: EventEntry, scope: CrewScope) -> EventOut:
    """Write down what was laid or read."""
    kept = log.add_event(scope, site_id, entry)
    scope.commit()
    return kept


@router.delete(SITE + "/events/{event_id}", status_code=204, tags=["log"])
def delete_event(site_id: UUID, event_id: UUID, scope: CrewScope) -> None:
    """Delete an entry; `restoration` takes it back."""
    log.delete_event(scope, site_id, event_id)
    scope.commit()


@router.post(SITE + "/events/{event_id}/restoration", status_code=204, tags=["log"])
def restore_event(site_id: UUID, event_id: UUID, scope: CrewScope) -> None:
    """Take back the deletion of an entry."""
    log.restore_event(scope, site_id, event_id)
    scope.commit()
