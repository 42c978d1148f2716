"""What is there on a day: every plot's layers and depth, every pile's volume and stage."""

from dataclasses import dataclass, replace
from datetime import date
from functools import cached_property
from typing import TYPE_CHECKING, NamedTuple
from uuid import UUID

import numpy as np
from numpy.typing import NDArray

from ulmatic.core.decay import (
    Cover,
    Depths,
    End,
    Learned,
    Stack,
    StackGround,
    day_number,
    fold,
    learned_from,
    spread,
)
from ulmatic.core.figures import Figure, entered
from ulmatic.core.log import DepthFound, LedgerEntry, Opening, in_order, openings_of
from ulmatic.core.materials import Hazard, Material
from ulmatic.core.schedule import (
    RowsDrawn,
    ScheduledPlot,
    drawn_rows,
    mulch_depth,
    plot_ground,
    settling_for,
    settling_on,
)
from ulmatic.core.site.ground import GroundPlan
from ulmatic.core.site.recipes import SiteRecipes
from ulmatic.core.site.remembered import remembered
from ulmatic.core.site.site import SitePlot
from ulmatic.core.stock import Lot, Store
from ulmatic.core.survey.shapes import trees_of

if TYPE_CHECKING:
    from ulmatic.core.site.plan import SitePlan
    from ulmatic.core.site.teaching import TaughtFigure

Array = NDArray[np.float64]
GROWING_YEARS = 22
"""Ground is followed as long as seasons are."""


class DepthRange(NamedTuple):
    """Settled depth in mm: 10th percentile, median, 90th."""

    low: float
    middle: float
    high: float


@dataclass(frozen=True)
class SiteState(SiteRecipes):
    """A site on a day: its weather, its recipes, and what lies there.

    Attributes
    ----------
    taught : tuple of TaughtFigure
        What its log teaches of loads, settling and pace.
    """

    taught: "tuple[TaughtFigure, ...]" = ()

    @cached_property
    def numbers(self) -> dict[UUID, int]:
        """Where each plot stands in the list."""
        return {plot.id: at for at, plot in enumerate(self.site.plots)}

    @cached_property
    def _laid_m2(self) -> dict[tuple[int, int], float]:
        return {}

    def laid_m2(self, plot: SitePlot, on: date) -> float:
        """Return the ground of a plot that is laid on a day: rings grow from the day on which they were measured."""
        years = max(0, (on - plot.surveyed_on).days) // 365
        recipe = self.planned(plot.plot)
        alike = (id(plot.plot), years)
        if alike not in self._laid_m2:
            self._laid_m2[alike] = plot_ground(plot.plot, recipe.laid_share, self.site.parameters, years).laid.value
        return self._laid_m2[alike]

    @cached_property
    def ledger(self) -> dict[UUID, list[LedgerEntry]]:
        """The entries of each plot until the day, in the order in which things happened."""
        ledger: dict[UUID, list[LedgerEntry]] = {plot.id: [] for plot in self.site.plots}
        for entry in (*self.site.ledger, *self.site.book_layings):
            if entry.on <= self.day and entry.plot_id is not None and entry.plot_id in ledger:
                ledger[entry.plot_id].append(entry)
        return {key: in_order(entries, self.site.zone) for key, entries in ledger.items()}

    @cached_property
    def openings(self) -> dict[UUID, list[Opening]]:
        """What was opened on each plot until the day, and how far it is."""
        return {key: openings for key, entries in self.ledger.items() if (openings := openings_of(entries, self.day))}

    def rows_drawn(self, opening: Opening) -> RowsDrawn:
        """Return where opened ground lies on its plot."""
        return drawn_rows(self.ground.outlines[opening.plot_id], opening.opened)

    def opened_m2(self, plot_id: UUID) -> float:
        """Return the ground of a plot that is open, or round plants that grow in opened rows."""
        return sum(self.rows_drawn(opening).area_m2 for opening in self.openings.get(plot_id, ()) if opening.there)

    @cached_property
    def learned(self) -> Learned:
        """What depth readings teach, with those that are asked about."""
        return self._learned_and_breaks[0]

    @cached_property
    def _learned_and_breaks(self) -> tuple[Learned, frozenset[UUID]]:
        return learned_from(self.ledger, self._shipped_ground_of, self.site.elsewhere)

    def _shipped_ground_of(self, plot_id: UUID) -> StackGround:
        return self._shipped_ground(self.site.plots[self.numbers[plot_id]])

    def shipped_stack(self, plot_id: UUID) -> Stack:
        """Return the layers of a plot as if its readings had taught nothing."""
        return fold(self.ledger[plot_id], self._shipped_ground_of(plot_id))

    @cached_property
    def stacks(self) -> dict[UUID, Stack]:
        """The layers of each plot, decaying as its readings teach."""
        return {plot.id: self._stack(plot) for plot in self.site.plots}

    def _stack(self, plot: SitePlot) -> Stack:
        learned, breaks = self._learned_and_breaks
        ground = self._shipped_ground(plot)
        if not learned.teaches:
            return fold(self.ledger[plot.id], ground, breaks)
        known: dict[str, Material | None] = {}

        def material(key: str) -> Material | None:
            if key not in known:
                shipped = self.site.materials.get(key)
                known[key] = None if shipped is None else learned.taught(plot.id, shipped)
            return known[key]

        taught = replace(ground, mulch=learned.taught(plot.id, ground.mulch), material=material)
        return fold(self.ledger[plot.id], taught, breaks)

    def _shipped_ground(self, plot: SitePlot) -> StackGround:
        return StackGround(
            mulch=self.planned(plot.plot).material,
            material=self.site.materials.get,
            settling=settling_on(plot.plot.use, self.site.parameters),
            area_m2=lambda on: self.laid_m2(plot, on),
            clock=self.clocks[self.irrigated(plot.plot)],
            trees=trees_of(plot.plot.shape),
        )

    @cached_property
    def cover(self) -> Cover:
        """What lies and lay on each plot, a row each."""
        cover = Cover(len(self.site.plots), self.clocks)
        for at, plot in enumerate(self.site.plots):
            number = int(self.irrigated(plot.plot))
            for layer in self.stacks[plot.id].layers:
                kind = cover.kind(layer.layer.material, layer.layer.settling, layer.layer.age_decay_time, number)
                cover.lay(
                    at,
                    kind,
                    day_number(layer.layer.on),
                    layer.layer.loose_mm * layer.weight,
                    since=-np.inf if layer.until is None and layer.as_laid else float(day_number(layer.since)),
                    until=np.inf if layer.until is None else float(day_number(layer.until)),
                    measured=np.nan if layer.measured_on is None else float(day_number(layer.measured_on)),
                )
        return cover

    def depths(self, days: Array, end: End = "value") -> Depths:
        """Return what lay on each plot at dates until the day, (plots, dates)."""
        return self.cover.depths(days, end)

    @cached_property
    def today(self) -> tuple[Array, Array, Array]:
        """Depth today of each plot: 10th percentile, median and 90th."""
        day = np.array([float(day_number(self.day))])
        middle = self.cover.depths(day).chips_mm[:, 0]
        slow, fast = (self.cover.depths(day, end).chips_mm[:, 0] for end in ("low", "high"))
        low, high = spread(middle, slow, fast)
        return np.where(middle > 0, low, 0.0), middle, np.where(middle > 0, high, 0.0)

    def depth(self, plot_id: UUID) -> DepthRange:
        """Return the depth of a plot today."""
        at = self.numbers[plot_id]
        return DepthRange(*(float(values[at]) for values in self.today))

    @cached_property
    def middle_mm(self) -> Array:
        """Median depth of each plot today."""
        return self.cover.depths(np.array([float(day_number(self.day))])).chips_mm[:, 0]

    def measurement(self, plot_id: UUID) -> LedgerEntry | None:
        """Return the last measurement of a plot."""
        return next((entry for entry in reversed(self.ledger[plot_id]) if isinstance(entry.entry, DepthFound)), None)

    def existing(self, plot_id: UUID) -> Figure:
        """Return the existing depth of a plot today."""
        last = self.measurement(plot_id)
        if last is not None and last.on == self.day and isinstance(last.entry, DepthFound) and last.entry.settled:
            entries = self.ledger[plot_id]
            if entries[-1].id == last.id:
                return last.entry.depth()
        depth = self.depth(plot_id)
        figure = entered("Existing depth, settled", depth.middle, "mm")
        return figure.model_copy(update={"low": depth.low, "high": depth.high})

    def worries(self, plot_id: UUID) -> frozenset[Hazard]:
        """Return what is feared of the loads that were laid on a plot."""
        loads = {entry.delivery_id for entry in self.ledger[plot_id] if entry.delivery_id is not None}
        own = [delivery.worries for delivery in self.site.deliveries if delivery.id in loads]
        return frozenset(worry for worries in own for worry in worries)

    # Stock.

    @cached_property
    def store(self) -> Store:
        """Piles, loads and book."""
        site = self.site
        return Store(site.piles, site.deliveries, site.lines, site.material, self.clocks[0])

    @cached_property
    def lots(self) -> list[Lot]:
        """What lies on piles."""
        return self.store.lots(self.day)

    @cached_property
    def expected(self) -> list[Lot]:
        """Loads that are still to come."""
        return self.store.expected(self.day)

    @cached_property
    def ground(self) -> GroundPlan:
        """Where plots lie, and how to get there."""
        return GroundPlan(self.site)

    # How its plots are scheduled.

    @cached_property
    def _scheduled(self) -> dict[int, ScheduledPlot]:
        return {}

    def scheduled(self, plot: SitePlot) -> ScheduledPlot:
        """Return a plot as it is scheduled."""
        if id(plot) not in self._scheduled:
            recipe, stack, parameters = self.planned(plot.plot), self.stacks[plot.id], self.site.parameters
            opened_m2 = self.opened_m2(plot.id)
            opened = mulch_depth(plot.plot, recipe, parameters, opened_m2).value if opened_m2 else None
            said = max([*stack.laid_on, *([stack.measured_on] if stack.measured_on else [])], default=self.day)
            self._scheduled[id(plot)] = ScheduledPlot(
                id=plot.id,
                target_mm=mulch_depth(plot.plot, recipe, parameters).value,
                least_mm=recipe.least_mm,
                material=self.learned.taught(plot.id, recipe.material),
                settling=settling_for(plot.plot.use, recipe.material, parameters).value,
                areas_m2=self._areas(plot),
                covered_m2=self.laid_m2(plot, said),
                rule=self.rule(plot),
                windows=self.windows_used(plot),
                stack=stack,
                clock=int(self.irrigated(plot.plot)),
                decisions=plot.decisions,
                digs_in=plot.plot.recipe.dug_in,
                opened_target_mm=opened,
            )
        return self._scheduled[id(plot)]

    def _areas(self, plot: SitePlot) -> tuple[float, ...]:
        """Return a plot's laid ground in each year ahead."""
        areas: list[float] = []
        for year in range(GROWING_YEARS):
            areas.append(self.laid_m2(plot, years_later(self.day, year)))
            if year and areas[-1] == areas[-2]:
                return tuple(areas[:-1])
        return tuple(areas)

    def with_plot(self, plot: SitePlot, entry: LedgerEntry | None = None) -> "SiteState":
        """Return the state with a plot, new or in place of the one with its id, and perhaps an entry on it.

        What was worked out for the other plots stays as it is.
        """
        state = SiteState(self.site.with_plot(plot, entry), self.day, self.taught)
        for other in self.site.plots:
            self.scheduled(other)
            self.accepts(other.plot)
        for name in ("_recipes", "_settings", "_laid_m2", "_accepts", "_scheduled"):
            vars(state)[name] = dict(getattr(self, name))
        vars(state)["_learned_and_breaks"] = self._learned_and_breaks
        vars(state)["stacks"] = {**self.stacks, plot.id: state._stack(plot)}
        return state

    @remembered
    def plan(self, years: int) -> "SitePlan":
        """Return what follows, so many years ahead; the same plan for the same years."""
        from ulmatic.core.site.plan import SitePlan  # noqa: PLC0415 - a state begets its plan

        return SitePlan(self, years)


def years_later(day: date, years: int) -> date:
    """Return the same day of a later year; 1 March where it has none.

    Parameters
    ----------
    day : date
    years : int
    """
    try:
        return day.replace(year=day.year + years)
    except ValueError:
        return date(day.year + years, 3, 1)
