"""The ledger of a site plot by plot, and the ground on which it is folded."""

from collections.abc import Mapping, Sequence
from datetime import date
from uuid import UUID

from ulmatic.core.decay import StackGround
from ulmatic.core.log import LedgerEntry, in_order
from ulmatic.core.schedule import settling_on
from ulmatic.core.site import Assumed, LaidAreas, PlotRecipe, Site, SiteClimate, SitePlot
from ulmatic.core.survey.shapes import trees_of

PlotLedgers = Mapping[UUID, Sequence[LedgerEntry]]
"""The entries of each plot by its id, in the order in which things happened."""


def plot_ledgers(site: Site, until: date) -> dict[UUID, list[LedgerEntry]]:
    """Return the entries of each plot until a day, what piles' books say of layings among them.

    Parameters
    ----------
    site : Site
    until : date
        Included.

    Returns
    -------
    dict of plot id to list of LedgerEntry
        In the order in which things happened.
    """
    ledgers: dict[UUID, list[LedgerEntry]] = {plot.id: [] for plot in site.plots}
    for entry in (*site.ledger, *site.book_layings):
        if entry.on <= until and entry.plot_id is not None and entry.plot_id in ledgers:
            ledgers[entry.plot_id].append(entry)
    return {key: in_order(entries, site.zone) for key, entries in ledgers.items()}


def stack_ground(
    plot: SitePlot, recipe: PlotRecipe, areas: LaidAreas, climate: SiteClimate, assumed: Assumed
) -> StackGround:
    """Return what the fold of a plot's ledger needs, with materials that rot as shipped.

    Parameters
    ----------
    plot : SitePlot
    recipe : PlotRecipe
    areas : LaidAreas
    climate : SiteClimate
    assumed : Assumed

    Returns
    -------
    StackGround
    """
    return StackGround(
        mulch=recipe.recipe.material,
        material=assumed.materials.get,
        settling=settling_on(plot.plot.use, assumed.parameters),
        area_m2=lambda on: areas.on(plot, on),
        clock=climate.clocks[plot.irrigated],
        trees=trees_of(plot.plot.shape),
    )
