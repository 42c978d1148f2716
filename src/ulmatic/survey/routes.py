"""Routes for sites and plots."""

from typing import Annotated
from uuid import UUID

from fastapi import Query, Response

from ulmatic.accounts.scope import CrewScope, OwnerScope
from ulmatic.core.climate import NEAREST, REGIONS, region_of
from ulmatic.core.climate.normals import ILLUSTRATIVE, ClimateClass, GenericClimate
from ulmatic.core.survey import Use
from ulmatic.platform.routing import api_router
from ulmatic.records.plots import one_landmark, one_plot
from ulmatic.records.survey import LandmarkRow, PlotRow, SiteRow
from ulmatic.records.writes import IfMatch, tagged
from ulmatic.site import ledger as log
from ulmatic.site.schemas import LandmarkOut, SiteOut
from ulmatic.site.views import SiteView, WorkView
from ulmatic.survey import service, sheets
from ulmatic.survey.schemas import (
    ClimateClassOut,
    DecisionEntry,
    Estimate,
    EstimateRequest,
    LandmarkEntry,
    LandmarkEstimate,
    NewLandmark,
    NewPlot,
    NewSite,
    Places,
    PlotChanges,
    PlotEntry,
    PlotOrder,
    PlotSaved,
    PlotSheet,
    RegionList,
    SiteEntry,
    SiteSheet,
    SiteSummary,
    UseOut,
    UsualDepthOut,
)

router = api_router("survey")
SITES = "/workspaces/{workspace_id}/sites"
LANDMARKS = SITES + "/{site_id}/landmarks"
PLOTS = SITES + "/{site_id}/plots"
PLOTS_A_PAGE = 500


@router.get("/uses", tags=["reference"])
def list_uses() -> list[UseOut]:
    """List the uses of ground."""
    return [UseOut(use=use, label=use.label, trodden=use.trodden) for use in Use]


@router.get(SITES + "/{site_id}/usual-depths")
def list_usual_depths(site_id: UUID, scope: SiteView) -> list[UsualDepthOut]:
    """List the target depths usual for each use at a site, in the words of its practice."""
    return sheets.usual_depths(scope, site_id)


@router.get("/climates", tags=["reference"])
def list_climates() -> list[ClimateClassOut]:
    """List the generic climates."""
    return [
        ClimateClassOut(
            name=climate, label=climate.label, source=ILLUSTRATIVE.text, normals=GenericClimate(name=climate).normals()
        )
        for climate in ClimateClass
    ]


@router.get("/regions", tags=["reference"])
def list_regions(
    time_zone: Annotated[str, Query(max_length=60, description="IANA name, from which the region is guessed")] = "",
) -> RegionList:
    """List the regions, each with what a site there begins with."""
    guess = region_of(time_zone)
    return RegionList(regions=REGIONS, guess=guess.key if guess else None, climate_source=NEAREST.text)


@router.get(SITES)
def list_sites(scope: SiteView) -> list[SiteSummary]:
    """List the sites."""
    return sheets.site_summaries(scope)


@router.post(SITES, status_code=201)
def add_site(entry: NewSite, scope: CrewScope, response: Response) -> SiteOut:
    """Keep a new site."""
    site = service.add_site(scope, entry)
    scope.commit()
    tagged(response, site.version)
    return site


@router.get(SITES + "/{site_id}")
def read_site(
    site_id: UUID,
    scope: SiteView,
    start: Annotated[int, Query(ge=0, le=100_000, description="Plots before the first that is sent")] = 0,
    count: Annotated[int, Query(ge=1, le=PLOTS_A_PAGE, description="Plots that are sent")] = PLOTS_A_PAGE,
) -> SiteSheet:
    """Return a site with its need and its plots, or as many of them as come at once."""
    return sheets.site_sheet(scope, site_id, slice(start, start + count))


@router.put(SITES + "/{site_id}")
def change_site(
    site_id: UUID, entry: SiteEntry, scope: CrewScope, response: Response, if_match: IfMatch = None
) -> SiteSheet:
    """Change a site."""
    site = service.change_site(scope, site_id, entry, if_match)
    scope.commit()
    tagged(response, site.version)
    return sheets.site_sheet(scope, site_id)


@router.delete(SITES + "/{site_id}", status_code=204)
def delete_site(site_id: UUID, scope: OwnerScope) -> None:
    """Delete a site; `restoration` takes it back."""
    scope.delete(scope.get(SiteRow, site_id))
    scope.commit()


@router.post(SITES + "/{site_id}/restoration", status_code=204)
def restore_site(site_id: UUID, scope: OwnerScope) -> None:
    """Take back the deletion of a site."""
    scope.restore(SiteRow, site_id)
    scope.commit()


@router.post(SITES + "/{site_id}/estimate")
def estimate(site_id: UUID, entry: EstimateRequest, scope: WorkView) -> Estimate:
    """Compute what is being typed, with the whole site; nothing is kept."""
    return sheets.estimate(scope, site_id, entry)


@router.put(SITES + "/{site_id}/places", status_code=204)
def put_places(site_id: UUID, entry: Places, scope: CrewScope) -> None:
    """Keep where plots lie on the plan."""
    service.put_places(scope, site_id, entry)
    scope.commit()


@router.put(SITES + "/{site_id}/order", status_code=204)
def put_order(site_id: UUID, entry: PlotOrder, scope: CrewScope) -> None:
    """Put plots in another order."""
    service.put_order(scope, site_id, entry)
    scope.commit()


@router.post(SITES + "/{site_id}/changes", status_code=204)
def change_plots(site_id: UUID, entry: PlotChanges, scope: CrewScope) -> None:
    """Make the same change to several plots."""
    service.change_plots(scope, site_id, entry)
    if entry.existing_mm is not None:
        typed = {"depth_mm": entry.typed().get("existing_mm"), "units": entry.units.value}
        log.measure_all(scope, site_id, entry.plots, entry.existing_mm, typed)
    scope.commit()


@router.post(PLOTS, status_code=201)
def add_plot(site_id: UUID, entry: NewPlot, scope: CrewScope, response: Response) -> PlotSaved:
    """Keep a new plot; what follows from it is read, not answered."""
    row = service.add_plots(scope, site_id, [entry])[entry.id]
    log.measure_plots(scope, site_id, [(entry.id, entry)])
    return _saved(scope, row, response)


def _saved(scope: CrewScope, row: PlotRow, response: Response) -> PlotSaved:
    saved = PlotSaved(id=row.id, version=row.version)
    scope.commit()
    tagged(response, saved.version)
    return saved


@router.get(PLOTS + "/{plot_id}")
def read_plot(site_id: UUID, plot_id: UUID, scope: SiteView, response: Response) -> PlotSheet:
    """Return one plot with its figures and their working."""
    sheet = sheets.plot_sheet(scope, site_id, plot_id)
    tagged(response, sheet.plot.version)
    return sheet


@router.put(PLOTS + "/{plot_id}")
def change_plot(
    site_id: UUID,
    plot_id: UUID,
    entry: PlotEntry,
    scope: CrewScope,
    response: Response,
    if_match: IfMatch = None,
) -> PlotSaved:
    """Change a plot; what follows from it is read, not answered."""
    row = service.change_plot(scope, site_id, plot_id, entry, if_match)
    log.measure_plots(scope, site_id, [(plot_id, entry)])
    return _saved(scope, row, response)


@router.put(PLOTS + "/{plot_id}/decision", status_code=204)
def decide(site_id: UUID, plot_id: UUID, entry: DecisionEntry, scope: CrewScope) -> None:
    """Lay a plot in a season although it may not be due, or on a day; or skip the season."""
    service.decide(scope, site_id, plot_id, entry)
    scope.commit()


@router.delete(PLOTS + "/{plot_id}", status_code=204)
def delete_plot(site_id: UUID, plot_id: UUID, scope: CrewScope) -> None:
    """Delete a plot; `restoration` takes it back."""
    scope.delete(one_plot(scope, site_id, plot_id))
    scope.commit()


@router.post(PLOTS + "/{plot_id}/restoration", status_code=204)
def restore_plot(site_id: UUID, plot_id: UUID, scope: CrewScope) -> None:
    """Take back the deletion of a plot."""
    one_plot(scope, site_id, plot_id, deleted=True)
    scope.restore(PlotRow, plot_id)
    scope.commit()


@router.post(LANDMARKS, status_code=201)
def add_landmark(site_id: UUID, entry: NewLandmark, scope: CrewScope, response: Response) -> LandmarkOut:
    """Keep a new tip, pile place or way."""
    landmark = service.add_landmark(scope, site_id, entry)
    scope.commit()
    tagged(response, landmark.version)
    return landmark


@router.post(SITES + "/{site_id}/landmark-estimate")
def estimate_landmark(site_id: UUID, entry: LandmarkEntry, scope: WorkView) -> LandmarkEstimate:
    """Read the tip, pile place or way being typed; nothing is kept."""
    scope.get(SiteRow, site_id)
    return LandmarkEstimate(landmark=entry.landmark, size=entry.landmark.size())


@router.put(LANDMARKS + "/{landmark_id}")
def change_landmark(
    site_id: UUID,
    landmark_id: UUID,
    entry: LandmarkEntry,
    scope: CrewScope,
    response: Response,
    if_match: IfMatch = None,
) -> LandmarkOut:
    """Change a tip, pile place or way."""
    landmark = service.change_landmark(scope, site_id, landmark_id, entry, if_match)
    scope.commit()
    tagged(response, landmark.version)
    return landmark


@router.delete(LANDMARKS + "/{landmark_id}", status_code=204)
def delete_landmark(site_id: UUID, landmark_id: UUID, scope: CrewScope) -> None:
    """Delete a tip, pile place or way; `restoration` takes it back."""
    scope.delete(one_landmark(scope, site_id, landmark_id))
    scope.commit()


@router.post(LANDMARKS + "/{landmark_id}/restoration", status_code=204)
def restore_landmark(site_id: UUID, landmark_id: UUID, scope: CrewScope) -> None:
    """Take back the deletion of a tip, pile place or way."""
    one_landmark(scope, site_id, landmark_id, deleted=True)
    scope.restore(LandmarkRow, landmark_id)
    scope.commit()
