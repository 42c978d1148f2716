"""Rows of plots and landmarks of a site."""

from collections.abc import Sequence
from uuid import UUID

from ulmatic.accounts.scope import Scope
from ulmatic.platform.problems import Problem
from ulmatic.records.survey import LandmarkRow, PlotRow, SiteRow


def plot_rows(scope: Scope, site: SiteRow, *, lock: bool = False) -> Sequence[PlotRow]:
    """Return the rows of a site's plots in their order."""
    query = scope.select(PlotRow).where(PlotRow.site_id == site.id).order_by(PlotRow.ordinal, PlotRow.id)
    return scope.session.scalars(query.with_for_update(key_share=True) if lock else query).all()


def one_plot(scope: Scope, site_id: UUID, plot_id: UUID, *, deleted: bool = False, lock: bool = False) -> PlotRow:
    """Return a plot's row if it lies on that site; locked after its site, as everywhere."""
    site = scope.get(SiteRow, site_id, lock=lock)
    row = scope.get(PlotRow, plot_id, deleted=deleted, lock=lock)
    if row.site_id != site.id:
        raise Problem(404, "This plot does not exist.")
    return row


def one_landmark(scope: Scope, site_id: UUID, landmark_id: UUID, *, deleted: bool = False) -> LandmarkRow:
    """Return a landmark's row, locked after its site, if it lies on that site."""
    site = scope.get(SiteRow, site_id, lock=True)
    row = scope.get(LandmarkRow, landmark_id, deleted=deleted, lock=True)
    if row.site_id != site.id:
        raise Problem(404, f"There is no such {LandmarkRow.noun} here.")
    return row
