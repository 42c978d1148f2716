"""The work of a season: its tasks in the order of laying, and the days on which they get done."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import date, timedelta
from functools import cached_property
from uuid import UUID

from ulmatic.core.planning.opened_rows import OpenedGround
from ulmatic.core.planning.season_tasks import SeasonTasks
from ulmatic.core.schedule import closed_days
from ulmatic.core.site import SiteState
from ulmatic.core.work import Turn
from ulmatic.core.work.calendar import MOST_DAYS, Break, Crew, Crossing, WorkDay, breaks_of, schedule_days
from ulmatic.core.work.task_kinds import WORKDAY
from ulmatic.core.work.tasks import Task


@dataclass(frozen=True)
class SeasonWork(SeasonTasks):
    """The tasks of a season in the order of laying, and the days for them.

    Attributes
    ----------
    opened : OpenedGround
        Rows take hours of the same people.
    """

    opened: OpenedGround

    @cached_property
    def _turns(self) -> list[Turn[UUID]]:
        return self.haul.turns()

    @cached_property
    def by_plot(self) -> dict[UUID, list[Task]]:
        """What is still to do on each plot, in order; the plots in the order in which they are laid."""
        plots = dict.fromkeys([*(turn.plot for turn in self._turns), *self.tasks])
        return {plot_id: self.tasks[plot_id] for plot_id in plots if plot_id in self.tasks}

    @property
    def each_h(self) -> float:
        """Hours of all tasks for each of the site's people."""
        return self.hours / self.crew.people

    @cached_property
    def crew(self) -> Crew:
        """The site's people, the hours each works in a day, and the days on which nobody does."""
        fixed = {key: change.on for key, change in self.changes.items() if change.on is not None}
        return replace(crew_of(self.state, self.first), fixed=fixed, hours_taken=self.opened.hours_by_day)

    @cached_property
    def days(self) -> Sequence[WorkDay]:
        """The days of work, from today or the season's opening on."""
        return schedule_days(list(self.by_plot.values()), self.crew, self.first, self.season.closes)

    @cached_property
    def breaks(self) -> list[Break]:
        """What these days break."""
        names = {plot.id: plot.plot.name for plot in self.plots}
        crossings = [
            Crossing(turn.plot, other, f"The way to {names[turn.plot]} crosses {names[other]}, which is laid by then.")
            for turn in self._turns
            for other in turn.before
        ]
        return breaks_of(list(self.by_plot.values()), self.days, self.crew, self.season.closes, crossings)


def crew_of(state: SiteState, first: date) -> Crew:
    """Return a site's people, the hours each works in a day, and the days on which nobody does.

    Parameters
    ----------
    state : SiteState
    first : date
        From which on days are looked at.

    Returns
    -------
    Crew
    """
    site = state.site
    return Crew(
        people=max(1, site.buying.people),
        hours=state.parameters.of(WORKDAY).value,
        closed=closed_days(site.overrides.closures, first, first + timedelta(days=MOST_DAYS)),
        people_on=dict(site.overrides.people),
    )
