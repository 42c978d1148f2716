"""Labels for the stakes of a site's plots."""

from uuid import UUID

from ulmatic.accounts.scope import Scope
from ulmatic.core.units import UnitSystem
from ulmatic.platform.settings import settings
from ulmatic.records.plots import plot_rows
from ulmatic.records.survey import SiteRow


def stake_labels(scope: Scope, site_id: UUID, address: str) -> bytes:
    """Return the labels of a site's plots as PDF, on US letter where the site is in US units.

    Parameters
    ----------
    scope : Scope
    site_id : UUID
    address : str
        Under which the application was asked, where no origin is set.
    """
    from ulmatic.formats.label_sheets import StakeLabel, label_sheet

    site = scope.get(SiteRow, site_id)
    origin = settings().public_origin or address
    labels = [
        StakeLabel(name=plot.name, site=site.name, address=f"{origin}/field?site={site.id}&of={plot.id}")
        for plot in plot_rows(scope, site)
    ]
    return label_sheet(labels, letter=site.units == UnitSystem.US)
