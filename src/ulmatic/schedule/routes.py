"""Routes for weather, seasons, rules and the years ahead."""

from typing import Annotated
from uuid import UUID

from fastapi import Body, Query, Request, Response

from ulmatic.accounts.scope import CrewScope
from ulmatic.core.planning.outlook import RuleCompared, SupplyHeld
from ulmatic.core.schedule import Overrides
from ulmatic.errands import service as errands
from ulmatic.errands.schemas import ErrandOut, errand_out
from ulmatic.platform.routing import api_router
from ulmatic.records.survey import SiteRow
from ulmatic.records.writes import IfMatch
from ulmatic.schedule import service, weather
from ulmatic.schedule.schemas import AllSites, LayersSheet, RuleEntry, SeasonsSheet, WeatherImport, YearsSheet
from ulmatic.site.views import SiteView

router = api_router("schedule")
SITE = "/workspaces/{workspace_id}/sites/{site_id}"
Years = Annotated[int, Query(ge=1, le=10)]


def _written(sheet: SeasonsSheet) -> Response:
    """Return a sheet as it is: it was validated when it was made, and large ones take as long again to check twice."""
    return Response(sheet.model_dump_json(by_alias=True), media_type="application/json")


@router.get(SITE + "/seasons", response_model=SeasonsSheet)
def read_seasons(site_id: UUID, scope: SiteView, years: Years = 5) -> Response:
    """Return the site through a year back and some ahead."""
    return _written(service.seasons_sheet(scope, site_id, years))


@router.put(SITE + "/seasons", status_code=204)
def change_seasons(site_id: UUID, entry: Overrides, scope: CrewScope) -> None:
    """Override frost dates, hardiness zone, and the dates of windows."""
    service.change_seasons(scope, site_id, entry)
    scope.commit()


@router.get(SITE + "/years")
def read_years(site_id: UUID, scope: SiteView, years: Years = 5) -> YearsSheet:
    """Return the seasons and years ahead in numbers."""
    return service.years_sheet(scope, site_id, years)


@router.get(SITE + "/held")
def read_held(
    site_id: UUID, scope: SiteView, supply_m3: Annotated[float, Query(ge=0, le=100_000, allow_inf_nan=False)]
) -> SupplyHeld:
    """Return the target depth that a yearly supply can hold."""
    return service.held_by(scope, site_id, supply_m3)


@router.get("/workspaces/{workspace_id}/years")
def read_all_sites(scope: SiteView) -> AllSites:
    """Return what all sites take in coming years."""
    return service.all_sites(scope)


@router.get(SITE + "/plots/{plot_id}/layers")
def read_layers(site_id: UUID, plot_id: UUID, scope: SiteView, years: Years = 5) -> LayersSheet:
    """Return the layers of a plot through time."""
    return service.layers_sheet(scope, site_id, plot_id, years)


@router.put(SITE + "/plots/{plot_id}/rule", status_code=204)
def change_rule(site_id: UUID, plot_id: UUID, entry: RuleEntry, scope: CrewScope, if_match: IfMatch = None) -> None:
    """Give a plot a rule of its own, or the proposed one back."""
    service.change_rule(scope, site_id, plot_id, entry, if_match)
    scope.commit()


@router.get(SITE + "/plots/{plot_id}/rules")
def compare_rules(site_id: UUID, plot_id: UUID, scope: SiteView) -> list[RuleCompared]:
    """Set rules side by side on a plot, over ten years."""
    return service.compare_rules(scope, site_id, plot_id)


@router.post(SITE + "/weather/refresh", status_code=202)
def refresh_weather(site_id: UUID, scope: CrewScope, request: Request) -> ErrandOut:
    """Have the weather service asked; when that is done, the seasons go by what it says."""
    scope.get(SiteRow, site_id)
    return errand_out(errands.ask(scope, request, "hear_weather", {"site_id": str(site_id)}))


@router.put(SITE + "/weather")
def import_weather(
    site_id: UUID, scope: CrewScope, content: Annotated[bytes, Body(media_type="application/octet-stream")]
) -> WeatherImport:
    """Keep daily weather from CSV: date, tmax, tmin, precipitation."""
    imported = weather.bring_in(scope, site_id, content)
    scope.commit()
    return imported


@router.delete(SITE + "/weather", status_code=204)
def clear_weather(site_id: UUID, scope: CrewScope) -> None:
    """Forget all observed days."""
    weather.clear(scope, site_id)
    scope.commit()
