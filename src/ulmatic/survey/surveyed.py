"""A site as it was measured: its rows, and all that follows from them."""

import pickle
from collections.abc import Sequence
from dataclasses import dataclass
from uuid import UUID

from ulmatic.accounts.scope import Scope
from ulmatic.core.recipe import PlannedPlot
from ulmatic.core.supply.need import PlotNeed, plot_need
from ulmatic.core.survey import Access, Outline, Place, Route, Tip, Way, access, arrange, routes
from ulmatic.core.survey import outline as drawn
from ulmatic.core.survey.shapes.base import XY
from ulmatic.platform.problems import Problem
from ulmatic.recipe.service import Around, around
from ulmatic.survey.models import LandmarkRow, PlotRow, SiteRow
from ulmatic.survey.schemas import LandmarkOut, SiteOut

MOST_CHECKED = 8192
_checked: dict[bytes, PlannedPlot] = {}
"""Plots by what is kept of them: nothing of whose they are."""
LANDMARK_KINDS = ("tip", "pile_place", "way")
"""In the order in which they are listed."""


def plot_rows(scope: Scope, site: SiteRow, *, lock: bool = False) -> Sequence[PlotRow]:
    """Return the rows of a site's plots in their order."""
    query = scope.select(PlotRow).where(PlotRow.site_id == site.id).order_by(PlotRow.ordinal, PlotRow.id)
    return scope.session.scalars(query.with_for_update() if lock else query).all()


def landmark_rows(scope: Scope, site: SiteRow) -> Sequence[LandmarkRow]:
    """Return the rows of a site's tips, pile places and ways."""
    query = scope.select(LandmarkRow).where(LandmarkRow.site_id == site.id)
    rows = scope.session.scalars(query.order_by(LandmarkRow.created_at, LandmarkRow.name, LandmarkRow.id)).all()
    return sorted(rows, key=lambda row: LANDMARK_KINDS.index(row.landmark["kind"]))


def plot_of(row: PlotRow) -> PlannedPlot:
    """Return a plot as it was kept; checked once, as long as it stays as it is."""
    kept = pickle.dumps([getattr(row, field) for field in PlannedPlot.model_fields])
    found = _checked.get(kept)
    if found is None:
        if len(_checked) >= MOST_CHECKED:
            _checked.clear()
        found = _checked[kept] = PlannedPlot.model_validate(row, from_attributes=True)
    return found


def around_site(scope: Scope, site: SiteRow) -> Around:
    """Return what the recipes of a site's plots depend on."""
    normals = SiteOut.model_validate(site).normals
    return around(scope, site.practice, site.material, site.fire_district, normals)


def one_plot(scope: Scope, site_id: UUID, plot_id: UUID, *, deleted: bool = False, lock: bool = False) -> PlotRow:
    """Return a plot's row if it lies on that site."""
    row = scope.one(PlotRow, plot_id, deleted=deleted, lock=lock)
    if row.site_id != scope.one(SiteRow, site_id).id:
        raise Problem(404, "There is no such plot here.")
    return row


def one_landmark(scope: Scope, site_id: UUID, landmark_id: UUID, *, deleted: bool = False) -> LandmarkRow:
    """Return a landmark's row, locked, if it lies on that site."""
    row = scope.one(LandmarkRow, landmark_id, deleted=deleted, lock=True)
    if row.site_id != scope.one(SiteRow, site_id).id:
        raise Problem(404, f"There is no such {LandmarkRow.noun} here.")
    return row


def needs_of(site: SiteRow, rows: Sequence[PlotRow], surround: Around) -> dict[UUID, tuple[PlannedPlot, PlotNeed]]:
    plots = {row.id: plot_of(row) for row in rows}
    return {key: (plot, plot_need(plot, site.spare, surround.setting(plot))) for key, plot in plots.items()}


@dataclass(frozen=True)
class Surveyed:
    """A site as measured, with all that follows from it: by plot id unless said otherwise."""

    row: SiteRow
    site: SiteOut
    rows: Sequence[PlotRow]
    around: Around
    plots: dict[UUID, PlannedPlot]
    needs: dict[UUID, PlotNeed]
    outlines: dict[UUID, Outline]
    places: dict[UUID, Place]
    middles: dict[UUID, XY]
    landmarks: list[LandmarkOut]
    ways: dict[UUID, Access]


def surveyed(scope: Scope, site_id: UUID) -> Surveyed:
    """Return a site with its plots placed, their needs and the ways to them."""
    row = scope.one(SiteRow, site_id)
    rows, surround = plot_rows(scope, row), around_site(scope, row)
    found = needs_of(row, rows, surround)
    plots = {key: plot for key, (plot, _) in found.items()}
    outlines = {key: drawn(plot.shape, plot.cut_outs) for key, plot in plots.items()}
    fixed = {one.id: Place.model_validate(one.place) for one in rows if one.place}
    middles = {key: outlines[key].middle_at(place) for key, place in fixed.items()}
    landmarks = [LandmarkOut.model_validate(one) for one in landmark_rows(scope, row)]
    walks = ways_in(landmarks, middles)
    names = {one.id: one.name for one in landmarks}
    return Surveyed(
        row=row,
        site=SiteOut.model_validate(row),
        rows=rows,
        around=surround,
        plots=plots,
        needs={key: need for key, (_, need) in found.items()},
        outlines=outlines,
        places=arrange(outlines, fixed),
        middles=middles,
        landmarks=landmarks,
        ways={key: access(plot.found, walks.get(key), names.__getitem__) for key, plot in plots.items()},
    )


def ways_in(landmarks: Sequence[LandmarkOut], middles: dict[UUID, XY]) -> dict[UUID, Route[UUID]]:
    """Return the walk from a tip to each plot that was put where it lies."""
    tips = {
        one.id: (one.landmark.place.x_m, one.landmark.place.y_m) for one in landmarks if isinstance(one.landmark, Tip)
    }
    return routes(tips, [one.landmark for one in landmarks if isinstance(one.landmark, Way)], middles)
