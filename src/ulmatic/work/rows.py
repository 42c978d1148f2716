"""Opened rows of a site: how they stand, what they come to before they are opened, and crops of the workspace."""

from datetime import date, timedelta
from uuid import UUID

from ulmatic.accounts.scope import Scope
from ulmatic.core.log import Opened
from ulmatic.core.planning import SitePlan
from ulmatic.core.planning.opened_rows import RowFigures
from ulmatic.core.site import SitePlot
from ulmatic.core.survey import Use
from ulmatic.core.work import CROPS, Crop, Lanes, instead, lanes
from ulmatic.platform.problems import Problem, not_found
from ulmatic.site.snapshot import snapshot_of, workspace_crops
from ulmatic.work.row_schemas import (
    CropEntry,
    LaneEntry,
    NewCrop,
    PlotHolds,
    RowSheet,
    RowTrial,
    TimeSheet,
)

MOST_CROPS = 200


def row_sheet(scope: Scope, site_id: UUID) -> RowSheet:
    """Return the opened ground of a site, crops, and what is watered until it has rooted."""
    snapshot = snapshot_of(scope, site_id)
    plan = snapshot.plan()
    rows, year = plan.opened, plan.state.climate.place_year
    frost = None
    if year.first_frost is not None:
        frost = date(snapshot.today.year, 1, 1) + timedelta(days=year.first_frost - 1)
        if frost < snapshot.today:
            frost = date(snapshot.today.year + 1, 1, 1) + timedelta(days=year.first_frost - 1)
    return RowSheet(
        today=snapshot.today,
        first_frost=frost,
        frost_observed=year.observed,
        count=rows.count,
        rows=rows.opened,
        plots=[
            PlotHolds(
                plot_id=plot.id,
                plot=plot.plot.name,
                depth_mm=plan.state.depth(plot.id).middle,
                growing_mm=plan.state.recipe(plot).growing_mm,
                length_m=max(sides),
                width_m=min(sides),
                holds=rows.holds(plot),
            )
            for plot in plan.plots
            if plot.plot.use not in (Use.PILE_GROUND, Use.PLAY)
            for outline in (plan.state.ground.outlines[plot.id],)
            for sides in ((outline.width_m, outline.height_m),)
        ],
        crops=list(snapshot.site.crops.values()),
        own=list(scope.member.workspace.crops),
        waterings=rows.waterings,
    )


def _crop(scope: Scope, key: str, field: str) -> Crop:
    crop = workspace_crops(scope).get(key)
    if crop is None:
        raise Problem(422, "This crop does not exist. Please choose one from the list.", field=field)
    return crop


def time_sheet(scope: Scope, site_id: UUID, key: str, on: date) -> TimeSheet:
    """Return whether there is time for a crop from a day on, and what can be sown instead."""
    snapshot = snapshot_of(scope, site_id)
    crop, rows = _crop(scope, key, "crop"), snapshot.plan().opened
    left = rows.year.time_left(crop, on)
    others = [other for other in snapshot.site.crops.values() if other.key != key]
    return TimeSheet(time=left, in_time=left.in_time, instead=instead(rows.year, others, on))


def _planned(plan: SitePlan, plot_id: UUID) -> SitePlot:
    number = plan.state.numbers.get(plot_id)
    if number is None:
        raise Problem(422, "This plot does not exist any more.", field="plot_id")
    return plan.plots[number]


def try_rows(scope: Scope, site_id: UUID, trial: RowTrial) -> RowFigures:
    """Return what opening rows comes to, before they are opened."""
    plan = snapshot_of(scope, site_id).plan()
    plot = _planned(plan, trial.plot_id)
    if not isinstance(trial.entry, Opened):
        raise Problem(422, "Only rows that are to be opened can be tried.", field="entry")
    if trial.entry.crop is not None:
        _crop(scope, trial.entry.crop, "entry.crop")
    return plan.opened.figures(plot, trial.entry)


def try_lanes(scope: Scope, entry: LaneEntry) -> Lanes:
    """Return how many lanes a block takes for a cover crop, and its seed."""
    crop = _crop(scope, entry.crop, "crop")
    if entry.lane_m > entry.apart_m:
        raise Problem(422, "A lane cannot be wider than the lanes are apart.", field="lane_m")
    return lanes(crop, entry.length_m, entry.width_m, entry.apart_m, entry.lane_m)


def add_crop(scope: Scope, entry: NewCrop) -> Crop:
    """Keep a crop of the workspace's own; the same id again returns the one that is there."""
    workspace = scope.member.workspace
    key = str(entry.id)
    if key in workspace.crops:
        return Crop.model_validate(workspace.crops[key])
    if len(workspace.crops) >= MOST_CROPS:
        raise Problem(409, f"A workspace keeps {MOST_CROPS} own crops at most.")
    return _keep(scope, key, entry)


def change_crop(scope: Scope, key: str, entry: CropEntry) -> Crop:
    """Change a crop of the workspace's own; the 404 problem for others."""
    if key not in scope.member.workspace.crops:
        raise not_found("crop")
    return _keep(scope, key, entry)


def _keep(scope: Scope, key: str, entry: CropEntry) -> Crop:
    workspace = scope.member.workspace
    if entry.marker is not None and entry.marker not in workspace_crops(scope):
        raise Problem(422, "This crop does not exist. Please choose one from the list.", field="marker")
    source = {"mark": "entered", "text": "As you said."}
    crop = Crop.model_validate({**entry.model_dump(exclude={"id"}), "key": key, "source": source})
    workspace.crops = {**workspace.crops, key: crop.model_dump(mode="json")}
    scope.session.flush()
    return crop


def delete_crop(scope: Scope, key: str) -> None:
    """Take a crop of the workspace's own away; rows in which it grows keep it by its key."""
    workspace = scope.member.workspace
    if key in CROPS or key not in workspace.crops:
        raise not_found("crop")
    workspace.crops = {other: crop for other, crop in workspace.crops.items() if other != key}
    scope.session.flush()
