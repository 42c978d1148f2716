"""What is there on a day: every plot's layers and depth, every pile's volume and stage."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date
from typing import NamedTuple
from uuid import UUID

import numpy as np
from numpy.typing import NDArray

from ulmatic.core.decay import Depths, End, LayerTable, Stack
from ulmatic.core.figures import Figure, entered
from ulmatic.core.log import DepthFound, LedgerEntry, Opening
from ulmatic.core.materials import Hazard, Material
from ulmatic.core.parameters import Parameters
from ulmatic.core.recipe import Practice, Recipe, Setting
from ulmatic.core.schedule import RowsDrawn, Rule, WindowKey, drawn_rows
from ulmatic.core.site.areas import LaidAreas
from ulmatic.core.site.assumed import Assumed
from ulmatic.core.site.climate import SiteClimate
from ulmatic.core.site.ground_plan import GroundPlan
from ulmatic.core.site.site import Site, SitePlot, material_of
from ulmatic.core.stock import Lot, Store

Array = NDArray[np.float64]


class ForecastDepth(NamedTuple):
    """Settled depth in mm: 10th percentile, median, 90th."""

    low: float
    middle: float
    high: float


class PlotRecipe(NamedTuple):
    """What a plot gets, what that depends on, and by which rule and in which windows it is laid."""

    setting: Setting
    recipe: Recipe
    rule: Rule
    windows: frozenset[WindowKey]


@dataclass(frozen=True)
class SiteState:
    """A site on a day: what is known of it, what is assumed, and what lies there.

    Attributes
    ----------
    numbers : mapping of plot id to int
        Where each plot stands in the list, and its row in arrays.
    ledger : mapping of plot id to list of LedgerEntry
        Of each plot until the day, in the order in which things happened.
    openings : mapping of plot id to list of Opening
        What was opened on each plot until the day, and how far it is.
    stacks : mapping of plot id to Stack
        The layers of each plot, decaying as its readings teach.
    layers : LayerTable
        What lies and lay on each plot, a row each.
    depths_mm : (ndarray, ndarray, ndarray)
        Settled depth today of each plot: 10th percentile, median and 90th, each of shape (plots,).
    lots : list of Lot
        What lies on piles.
    expected : list of Lot
        Loads that are still to come.
    """

    site: Site
    assumed: Assumed
    climate: SiteClimate
    ground: GroundPlan
    recipes: Mapping[UUID, PlotRecipe]
    areas: LaidAreas
    numbers: Mapping[UUID, int]
    ledger: Mapping[UUID, Sequence[LedgerEntry]]
    openings: Mapping[UUID, Sequence[Opening]]
    stacks: Mapping[UUID, Stack]
    layers: LayerTable
    depths_mm: tuple[Array, Array, Array]
    store: Store
    lots: Sequence[Lot]
    expected: Sequence[Lot]

    @property
    def day(self) -> date:
        """The day."""
        return self.assumed.day

    @property
    def parameters(self) -> Parameters:
        """The parameters that hold here, as the log teaches."""
        return self.assumed.parameters

    def material(self, key: str) -> Material:
        """Return a material; the usual one where a key is not known.

        Returns
        -------
        Material
        """
        return material_of(key, self.assumed.materials, self.site.usual, self.parameters)

    # What its plots get.

    def setting(self, plot: SitePlot) -> Setting:
        """Return what the recipe of a plot depends on.

        Returns
        -------
        Setting
        """
        return self.recipes[plot.id].setting

    def recipe(self, plot: SitePlot) -> Recipe:
        """Return the recipe of a plot, from bare ground.

        Returns
        -------
        Recipe
        """
        return self.recipes[plot.id].recipe

    def practice(self, plot: SitePlot) -> Practice:
        """Return the practice that holds for a plot.

        Returns
        -------
        Practice
        """
        return self.setting(plot).practice

    # What lies on its plots.

    def laid_m2(self, plot: SitePlot, on: date) -> float:
        """Return the ground of a plot that is laid on a day, m².

        Returns
        -------
        float
        """
        return self.areas.on(plot, on)

    def depths(self, days: Array, end: End = "value") -> Depths:
        """Return what lay on each plot at dates until the day, (plots, dates).

        Returns
        -------
        Depths
            Each (plots, dates).
        """
        return self.layers.depths(days, end)

    def depth(self, plot_id: UUID) -> ForecastDepth:
        """Return the depth of a plot today.

        Returns
        -------
        ForecastDepth
            Settled mm with its range.
        """
        row = self.numbers[plot_id]
        return ForecastDepth(*(float(depths[row]) for depths in self.depths_mm))

    def measurement(self, plot_id: UUID) -> LedgerEntry | None:
        """Return the last measurement of a plot.

        Returns
        -------
        LedgerEntry or None
            None where nothing was measured.
        """
        return next((entry for entry in reversed(self.ledger[plot_id]) if isinstance(entry.entry, DepthFound)), None)

    def existing(self, plot_id: UUID) -> Figure:
        """Return the existing depth of a plot today.

        Returns
        -------
        Figure
            Settled mm.
        """
        last = self.measurement(plot_id)
        if (
            last is not None
            and last.on == self.day
            and isinstance(last.entry, DepthFound)
            and last.entry.settled_already
        ):
            entries = self.ledger[plot_id]
            if entries[-1].id == last.id:
                return last.entry.depth()
        depth = self.depth(plot_id)
        figure = entered("Existing depth, settled", depth.middle, "mm")
        return figure.model_copy(update={"low": depth.low, "high": depth.high})

    def worries(self, plot_id: UUID) -> frozenset[Hazard]:
        """Return what is feared of the loads that were laid on a plot.

        Returns
        -------
        frozenset of Hazard
        """
        loads = {entry.delivery_id for entry in self.ledger[plot_id] if entry.delivery_id is not None}
        return frozenset(
            worry for delivery in self.site.deliveries if delivery.id in loads for worry in delivery.worries
        )

    # What is open on its plots.

    def rows_drawn(self, opening: Opening) -> RowsDrawn:
        """Return where opened ground lies on its plot.

        Returns
        -------
        RowsDrawn
        """
        return drawn_rows(self.ground.outlines[opening.plot_id], opening.opened)

    def opened_m2(self, plot_id: UUID) -> float:
        """Return the ground of a plot that is open, or round plants that grow in opened rows.

        Returns
        -------
        float
            m².
        """
        return sum(self.rows_drawn(opening).area_m2 for opening in self.openings.get(plot_id, ()) if opening.is_open)
