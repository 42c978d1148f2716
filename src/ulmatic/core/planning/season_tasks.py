"""The tasks of a season: what each plot needs by its state and recipe, and what people said of that."""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import date, timedelta
from functools import cached_property
from uuid import UUID

from ulmatic.core.figures import Figure
from ulmatic.core.log import Moisture, TaskDone
from ulmatic.core.planning.conditions import Conditions
from ulmatic.core.planning.haul import SeasonHaul
from ulmatic.core.recipe import LayerRole
from ulmatic.core.schedule import LayerAmount, Laying, ScheduledPlot, Season, plot_ground
from ulmatic.core.site import SitePlot, SiteState
from ulmatic.core.survey.ground import Ground
from ulmatic.core.survey.shapes import trees_of
from ulmatic.core.work.task_changes import TaskChange
from ulmatic.core.work.task_kinds import TASKS, AmountUnit, TaskGround, TaskNeed, TaskRecord
from ulmatic.core.work.task_kinds.finishing import ADDED
from ulmatic.core.work.task_kinds.laying import BIOCHAR, CHIPS, COMPOST, GUARD, SHEET_LAID
from ulmatic.core.work.tasks import (
    Task,
    by_ground,
    hours_of_all,
    in_order,
    key_of,
)

SPECK_SHARE = 1e-6
DRY_DAYS, DRY_MM = 21, 8.0
"""So little rain in so many days, and ground is soaked before it is covered: a judgement."""
BENEATH = {
    LayerRole.SHEET: SHEET_LAID,
    LayerRole.COMPOST: COMPOST,
    LayerRole.BIOCHAR: BIOCHAR,
    LayerRole.GUARD: GUARD,
}


@dataclass(frozen=True)
class SeasonTasks:
    """The tasks of a season, plot by plot.

    Attributes
    ----------
    running : bool
        Whether its account is running.
    layings : sequence of Laying
        Of the season, as rules want.
    scheduled : sequence of ScheduledPlot
        Of each plot of the site.
    beneath : mapping of plot id to tuple of LayerAmount
    mulch_m3 : mapping of plot id to m³
        With spare.
    haul : SeasonHaul
    """

    state: SiteState
    season: Season
    running: bool
    layings: Sequence[Laying]
    scheduled: Sequence[ScheduledPlot]
    beneath: Mapping[UUID, tuple[LayerAmount, ...]]
    mulch_m3: Mapping[UUID, float]
    haul: SeasonHaul

    @property
    def first(self) -> date:
        """The earliest day of its work: today, or the season's opening."""
        return self.season.lays_on(self.state.day)

    @property
    def plots(self) -> Sequence[SitePlot]:
        """The plots of the site."""
        return self.state.site.plots

    @cached_property
    def changes(self) -> dict[str, TaskChange]:
        """What was said of its tasks, by their keys; tasks that were added by hand among them."""
        return {change.key: change for change in self.state.site.task_changes if change.season == self.season.key}

    @cached_property
    def done_shares(self) -> dict[str, float]:
        """The share of each task that was logged as done in this season, by its key."""
        season = self.season.key
        shares: dict[str, float] = {}
        for plot_id, entries in self.state.ledger.items():
            for entry in entries:
                if isinstance(entry.entry, TaskDone) and entry.entry.season == season:
                    key = key_of(plot_id, entry.entry.task, entry.entry.own)
                    shares[key] = shares.get(key, 0.0) + entry.entry.share
        return shares

    @cached_property
    def _plot_ids(self) -> frozenset[UUID]:
        return frozenset(plot.id for plot in self.plots)

    @cached_property
    def _laid_in_it(self) -> list[UUID]:
        """Plots on which chips were laid in this season: they are still to be finished."""
        season, state = self.season, self.state
        if not self.running:
            return []
        return [
            plot.id
            for plot in self.plots
            if any(season.account_from <= on <= season.closes for on in state.stacks[plot.id].laid_on)
            and any(key.startswith(f"{plot.id} ") for key in self.done_shares)
        ]

    @cached_property
    def tasks(self) -> dict[UUID, list[Task]]:
        """What is still to do on each plot, in its order; plots in no order."""
        beneath, laid = self.beneath, self._to_lay
        added = [change.plot_id for change in self.changes.values() if change.own and change.plot_id in self._plot_ids]
        tasks: dict[UUID, list[Task]] = {}
        for plot_id in dict.fromkeys([*laid, *added]):
            plot = self.plots[self.state.numbers[plot_id]]
            planned = self._added(plot_id)
            if plot_id in laid:
                planned += [*self._preparing(plot), *self._beneath(plot, beneath.get(plot_id, ())), *self._laying(plot)]
            left = [self._left(task) for task in in_order(planned)]
            if todo := [task for task in left if task is not None]:
                tasks[plot_id] = todo
        return tasks

    @cached_property
    def _to_lay(self) -> dict[UUID, None]:
        """Plots on which something is laid in this season, or was and is still to be finished."""
        laid = [self.plots[laying.plot].id for laying in self.layings]
        return dict.fromkeys([*self.haul.legs, *laid, *self._laid_in_it])

    def _added(self, plot_id: UUID) -> list[Task]:
        """Return the tasks that were added to a plot by hand.

        Returns
        -------
        list of Task
        """
        return [
            Task(
                plot_id,
                ADDED.key,
                change.hours or 0.0,
                "h",
                said_h=change.hours or 0.0,
                own=change.own,
                own_words=change.words,
            )
            for change in self.changes.values()
            if change.own is not None and change.plot_id == plot_id
        ]

    def _changed(self, task: Task) -> Task | None:
        """Return a task as people changed it; None where they left it out.

        Returns
        -------
        Task or None
        """
        change = self.changes.get(task.key)
        if change is None:
            return task
        if change.left_out:
            return None
        said_h = task.said_h if change.hours is None else change.hours
        return replace(task, on=change.on, said_h=said_h, crew=change.crew)

    def _left(self, planned: Task) -> Task | None:
        """Return what is left of a task; of chips the plan itself says what was laid.

        Returns
        -------
        Task or None
            None where nothing is.
        """
        task = self._changed(planned)
        if task is None:
            return None
        done_share = self.done_shares.get(task.key, 0.0)
        if done_share <= 0:
            return task
        if task.kind == CHIPS.key:
            return task if task.said_h is None else replace(task, said_h=task.said_h * max(0.0, 1 - done_share))
        return None if done_share >= 1 - SPECK_SHARE else task.scaled(1 - done_share)

    def _task_ground(self, plot: SitePlot) -> TaskGround:
        ground = self._ground(plot)
        return TaskGround(
            use=plot.plot.use,
            cover=plot.plot.site_conditions.cover,
            trees=trees_of(plot.plot.shape),
            area_m2=ground.area.value,
            edge_m=ground.edge.value,
            first=plot.id in self._covered_first,
            weeds=self.running and self.state.stacks[plot.id].weeds_on is not None,
            dry=self._dry(plot),
        )

    def _preparing(self, plot: SitePlot) -> list[Task]:
        if plot.id in self._laid_in_it:
            return []
        return self._needed(plot, lambda record: record.prepares)

    def _needed(self, plot: SitePlot, phase: Callable[[TaskRecord], TaskNeed | None]) -> list[Task]:
        """Return the tasks that a plot needs by its state, of those that belong before or after a laying.

        Returns
        -------
        list of Task
        """
        task_ground, tasks = self._task_ground(plot), []
        for record in TASKS.values():
            need = phase(record)
            needed = None if need is None else need(task_ground)
            if needed is not None:
                tasks.append(
                    by_ground(plot.id, record.key, needed.amount, needed.unit, self.state.parameters, *needed.cautions)
                )
        return tasks

    @cached_property
    def _covered_first(self) -> frozenset[UUID]:
        """Plots that are covered for the first time in this season: only they are prepared from the ground up."""
        first = [self.plots[laying.plot].id for laying in self.layings if laying.first]
        stacks, since = self.state.stacks, self.season.account_from
        # What was laid in this very season does not make its preparation needless before it is logged as done.
        return frozenset(plot for plot in first if not any(on < since for on in stacks[plot].laid_on))

    def _dry(self, plot: SitePlot) -> bool:
        """Say whether ground is soaked before it is covered: the log found it dry lately, or hardly any rain fell.

        Returns
        -------
        bool
        """
        state = self.state
        if not self.running or plot.irrigated:
            return False
        since = state.day - timedelta(days=DRY_DAYS)
        felt = [
            entry.entry.feel
            for entry in state.ledger[plot.id]
            if isinstance(entry.entry, Moisture) and entry.on >= since
        ]
        return felt[-1] == "dry" if felt else self._rainless

    @cached_property
    def _rainless(self) -> bool:
        """Whether hardly any rain fell lately, as far as was seen."""
        day, since = self.state.day, self.state.day - timedelta(days=DRY_DAYS)
        rains_mm = [weather.rain_mm for weather in self.state.site.weather if since < weather.day <= day]
        return len(rains_mm) >= DRY_DAYS // 2 and sum(rains_mm) < DRY_MM

    def _beneath(self, plot: SitePlot, amounts: tuple[LayerAmount, ...]) -> list[Task]:
        parameters, tasks = self.state.parameters, []
        for layer in amounts:
            record = BENEATH[layer.role]
            if layer.amount.unit == "m3":
                task = Task(
                    plot.id,
                    record.key,
                    layer.amount.value,
                    "m3",
                    legs=tuple(self.haul.legs.get(plot.id, ())),
                    tools=record.tools,
                    cautions=record.cautions,
                )
            else:
                unit: AmountUnit = "trees" if record is GUARD else "m2"
                task = by_ground(plot.id, record.key, layer.amount.value, unit, parameters)
            tasks.append(replace(task, material=layer.name, material_key=layer.material))
        return tasks

    def _laying(self, plot: SitePlot) -> list[Task]:
        legs = tuple(self.haul.legs.get(plot.id, ()))
        tasks: list[Task] = []
        if legs:
            carriers = {leg.carrier.value for leg in legs if leg.carrier is not None}
            fill = {"fork" if leg.surface == "soft" else "scoop" for leg in legs}
            material = self.scheduled[self.state.numbers[plot.id]].material
            share = self.mulch_m3.get(plot.id, 0.0) / self.haul.volumes[plot.id]
            tasks.append(
                Task(
                    plot.id,
                    CHIPS.key,
                    sum(leg.volume_m3 for leg in legs) * share,
                    "m3",
                    legs=legs,
                    tools=(*sorted(carriers), *sorted(fill), *CHIPS.tools),
                    cautions=self._conditions.laying(
                        plot, material, self.first.month, sum(leg.trips for leg in legs), carriers
                    ),
                    not_before=self._chips_from,
                    material=material.name,
                    material_key=material.key,
                )
            )
        return [*tasks, *self._needed(plot, lambda record: record.finishes)]

    @cached_property
    def _conditions(self) -> Conditions:
        return Conditions(self.state)

    def _ground(self, plot: SitePlot) -> Ground:
        state = self.state
        return plot_ground(plot.plot, state.recipe(plot).laid_share, state.parameters).ground

    @cached_property
    def _chips_from(self) -> date | None:
        """The day before which chips are not here: that of the load expected, where piles are empty."""
        state = self.state
        if not self.running or any(lot.volume_m3 > 0 for lot in state.lots):
            return None
        expected = min((lot.as_of for lot in state.expected), default=None)
        return None if expected is None or expected <= self.state.day else expected

    def task(self, plot_id: UUID, kind: str, own_id: UUID | None) -> Task | None:
        """Return a task that is still to do; None where there is none.

        Parameters
        ----------
        plot_id : UUID
        kind : str
        own_id : UUID or None
            Of one that was added by hand.

        Returns
        -------
        Task or None
        """
        key = key_of(plot_id, kind, own_id)
        return next((task for task in self.tasks.get(plot_id, ()) if task.key == key), None)

    def laid_beneath(self, task: Task, share: float) -> tuple[str, float | None] | None:
        """Return the material that lies beneath once a further share of a task is done, and its loose m³.

        None where the task lays nothing beneath the mulch, or not all of it lies there then; a sheet has no volume.

        Parameters
        ----------
        task : Task
        share : float
            Of the whole task, 0 to 1.

        Returns
        -------
        (str, float or None) or None
        """
        if not TASKS[task.kind].lays or task.kind == CHIPS.key:
            return None
        if self.done_shares.get(task.key, 0.0) + share < 1 - SPECK_SHARE:
            return None
        [layer] = [layer for layer in self.beneath[task.plot_id] if layer.material == task.material_key]
        spare = self.state.site.spare.value
        return layer.material, layer.amount.value / (1 + spare) if layer.amount.unit == "m3" else None

    @cached_property
    def hours_by_plot(self) -> dict[UUID, float]:
        """Person-hours of all that is still to do on each plot."""
        return {plot_id: sum(task.usual_h for task in tasks) for plot_id, tasks in self.tasks.items()}

    @property
    def hours(self) -> float:
        """Person-hours of all that is still to do: what the season says on every page, and what it costs."""
        return sum(self.hours_by_plot.values())

    def figure(self) -> Figure:
        """Return the hours of all that is still to do, with their range and working.

        Returns
        -------
        Figure
            Person-hours.
        """
        return hours_of_all(task for tasks in self.tasks.values() for task in tasks)
