"""What follows for a site: layings by season, the order of a season, its haul, hours and cost."""

from dataclasses import dataclass
from datetime import date
from functools import cached_property
from uuid import UUID

from ulmatic.core.money import Quote
from ulmatic.core.planning.agenda import Agenda
from ulmatic.core.planning.cached import cached_by_argument
from ulmatic.core.planning.haul import SeasonHaul
from ulmatic.core.planning.inventory import state_on
from ulmatic.core.planning.nitrogen import PlotAccount
from ulmatic.core.planning.opened_rows import OpenedGround
from ulmatic.core.planning.scheduling import (
    accepted_by_plots,
    plantable_from,
    schedule_by_supply,
    schedule_of,
    scheduled_plot,
    waits_for_chips,
)
from ulmatic.core.planning.season_figures import Now, SeasonFigures, next_season, season_figures
from ulmatic.core.planning.season_layings import (
    beneath_by_plot,
    carried_by_plot,
    mulch_by_plot,
    ordered_m3,
    wants_of,
)
from ulmatic.core.planning.season_order import order_of, quote_of
from ulmatic.core.planning.season_work import SeasonWork
from ulmatic.core.planning.steps import Step, steps_of
from ulmatic.core.planning.weeks import Weeks
from ulmatic.core.recipe import Accepted
from ulmatic.core.schedule import LayerAmount, Laying, Schedule, ScheduledPlot, Season
from ulmatic.core.site import Site, SitePlot, SiteState, years_later
from ulmatic.core.supply.order import SeasonOrder
from ulmatic.core.supply.wanted import Wanted
from ulmatic.core.work import Fleet, Moving

MOST_YEARS = 10


@dataclass(frozen=True)
class SitePlan:
    """A site's plan: each attribute calls one planning function, once, when it is read first.

    Attributes
    ----------
    years : int
        Ahead.
    """

    state: SiteState
    years: int

    @property
    def day(self) -> date:
        """The day it is made for."""
        return self.state.day

    @property
    def plots(self) -> tuple[SitePlot, ...]:
        """The site's plots."""
        return self.state.site.plots

    @cached_property
    def seasons(self) -> list[Season]:
        """The running season, and those that open within the years asked for."""
        last = years_later(self.day, self.years)
        return [season for index, season in enumerate(self.state.climate.seasons) if index == 0 or season.opens <= last]

    def number(self, key: str) -> int | None:
        """Return which of the seasons has a key; None where none has.

        Returns
        -------
        int or None
            From 0; of those that the plan looks at.
        """
        return next((number for number, season in enumerate(self.seasons) if season.key == key), None)

    @cached_property
    def weeks(self) -> Weeks:
        """The weeks through which it is looked at."""
        return Weeks(self.day, self.years)

    # What is laid.

    @cached_property
    def scheduled(self) -> list[ScheduledPlot]:
        """The plots as they are scheduled."""
        return [scheduled_plot(self.state, plot) for plot in self.plots]

    @cached_property
    def by_rules(self) -> Schedule:
        """What rules want, if there are chips when they are wanted."""
        return schedule_of(self.state, self.scheduled, len(self.seasons))

    @cached_property
    def waits(self) -> bool:
        """Whether what is short waits for chips that come unasked."""
        return waits_for_chips(self.state)

    @cached_property
    def by_supply(self) -> Schedule:
        """What is laid: as rules want, or as chips come where the site waits for them."""
        if not self.waits:
            return self.by_rules
        return schedule_by_supply(self.state, self.scheduled, self.accepts, len(self.seasons))

    @cached_property
    def accepts(self) -> list[Accepted]:
        """What may be laid on each plot."""
        return accepted_by_plots(self.state)

    def layings(self, number: int) -> list[Laying]:
        """Return what rules want in a season.

        Returns
        -------
        list of Laying
        """
        return self._by_season[number]

    @cached_property
    def _by_season(self) -> list[list[Laying]]:
        by_season: list[list[Laying]] = [[] for _ in self.seasons]
        for laying in self.by_rules.layings:
            by_season[laying.season].append(laying)
        return by_season

    @cached_property
    def next_layings(self) -> dict[int, tuple[Laying, date | None]]:
        """The next laying of each plot, and how long it lasts."""
        layings: dict[int, tuple[Laying, date | None]] = {}
        for laying, until in zip(self.by_rules.layings, self.by_rules.lasts_until, strict=True):
            layings.setdefault(laying.plot, (laying, until))
        return layings

    def ordered_m3(self, laying: Laying) -> float:
        """Return what a laying takes, with spare.

        Returns
        -------
        float
            Loose m³.
        """
        return ordered_m3(self.state, laying)

    @cached_by_argument
    def planned_m3(self, number: int) -> dict[UUID, float]:
        """Return what a season lays of mulch on each plot, with spare.

        Returns
        -------
        dict of UUID to float
            Loose m³ by plot.
        """
        return mulch_by_plot(self.state, self.layings(number))

    @cached_by_argument
    def carried_m3(self, number: int) -> dict[UUID, float]:
        """Return what is carried to each plot in a season: mulch, and what is laid beneath it.

        Returns
        -------
        dict of UUID to float
            Loose m³ by plot.
        """
        return carried_by_plot(self.planned_m3(number), self.beneath(number))

    @cached_by_argument
    def beneath(self, number: int) -> dict[UUID, tuple[LayerAmount, ...]]:
        """Return what is laid beneath the mulch in a season.

        Returns
        -------
        dict of UUID to tuple of LayerAmount
            By plot.
        """
        return beneath_by_plot(self.state, self.layings(number))

    @cached_property
    def plantable_from(self) -> dict[UUID, date | None]:
        """When ground that is built up can be planted into; None where not within ten years."""
        return plantable_from(self.state, self.by_rules)

    # What is ordered.

    @cached_by_argument
    def wants(self, number: int) -> list[Wanted]:
        """Return what a season's layings want of mulch.

        Returns
        -------
        list of Wanted
        """
        return wants_of(self.state, self.layings(number), self.scheduled, self.accepts)

    @cached_by_argument
    def order(self, number: int) -> SeasonOrder:
        """Return the order of a season; later seasons begin with what earlier ones leave.

        Returns
        -------
        SeasonOrder
        """
        before = number - 1
        lying = self.order(before).left_lots(self.seasons[before].closes) if number else self.state.lots
        season, wants = self.seasons[number], self.wants(number)
        return order_of(self.state, season, lying, wants, self.beneath(number), running=number == 0)

    def order_by(self, number: int) -> date:
        """Return the last day to order for a season, today at the earliest.

        Returns
        -------
        date
        """
        return max(self.day, self.order(number).order_by(self.seasons[number].lays_on(self.day)))

    # How it is moved, and what it costs.

    @cached_by_argument
    def haul(self, number: int) -> SeasonHaul:
        """Return how a season's chips get to the plots.

        Returns
        -------
        SeasonHaul
        """
        site = self.state.site
        fleet = Fleet(kinds=site.buying.carriers, barrow_m3=site.barrow_m3, parameters=self.state.parameters)
        return SeasonHaul(self.state, self.order(number), self.carried_m3(number), fleet)

    def moving(self, number: int) -> Moving[UUID]:
        """Return the legs of a season, with trips and the person-hours of moving and laying.

        Returns
        -------
        Moving
        """
        return self.haul(number).moving

    @cached_property
    def opened(self) -> OpenedGround:
        """Ground that is open, and what was planted there."""
        return OpenedGround(self.state, self.plantable_from)

    @cached_by_argument
    def work(self, number: int) -> SeasonWork:
        """Return the tasks of a season, and the days for them.

        Returns
        -------
        SeasonWork
        """
        return SeasonWork(
            state=self.state,
            season=self.seasons[number],
            running=number == 0,
            layings=self.layings(number),
            scheduled=self.scheduled,
            beneath=self.beneath(number),
            mulch_m3=self.planned_m3(number),
            haul=self.haul(number),
            opened=self.opened,
        )

    def quote(self, number: int, on: date) -> Quote | None:
        """Return what a season costs, line by line and plot by plot; None where a price is not known.

        Returns
        -------
        Quote or None
        """
        hours = self.work(number).hours_by_plot
        return quote_of(self.state, self.order(number), self.carried_m3(number), hours, on)

    # What is said of a season.

    @cached_by_argument
    def figures(self, number: int) -> SeasonFigures:
        """Return a season in numbers.

        Returns
        -------
        SeasonFigures
        """
        order, trips, hours = self.order(number), self.moving(number).trips, self.work(number).hours
        return season_figures(self.state.site, self.seasons[number], order, self.beneath(number), trips, hours)

    @cached_property
    def all_seasons(self) -> list[SeasonFigures]:
        """Every season in numbers, the running one first."""
        return [self.figures(number) for number in range(len(self.seasons))]

    @cached_property
    def now(self) -> Now:
        """The season whose account is running, in numbers."""
        needed = [sum(self.planned_m3(number).values()) for number in range(len(self.seasons))]
        return Now(**dict(self.figures(0)), next=next_season(self.day, self.seasons, needed))

    @cached_property
    def steps(self) -> tuple[Step, ...]:
        """What to do next, the most useful first."""
        return steps_of(self.state, self.now, self.order_by(0))

    @cached_by_argument
    def account(self, row: int) -> PlotAccount:
        """Return the nitrogen account of a plot, by where it stands in the list.

        Returns
        -------
        PlotAccount
        """
        return PlotAccount(
            state=self.state,
            weeks=self.weeks,
            plot=self.plots[row],
            scheduled=self.scheduled[row],
            by_rules=[laying for laying in self.by_rules.layings if laying.plot == row],
            by_supply=[laying for laying in self.by_supply.layings if laying.plot == row],
        )

    @cached_property
    def agenda(self) -> Agenda:
        """What falls on the days of the year ahead."""
        return Agenda(self.state, self.seasons, self.work, self.order, self.order_by, self.opened, self.account)


def plan_of(state: SiteState, years: int) -> SitePlan:
    """Return what follows from what is there, so many years ahead.

    Parameters
    ----------
    state : SiteState
    years : int
        1 to 10.

    Returns
    -------
    SitePlan
    """
    return SitePlan(state, years)


def plan_on(site: Site, day: date, years: int) -> SitePlan:
    """Return the plan of a site on a day, from what is known of it: assumed, then counted, then planned.

    Parameters
    ----------
    site : Site
    day : date
    years : int
        1 to 10.

    Returns
    -------
    SitePlan

    Examples
    --------
    >>> from uuid import UUID
    >>> from ulmatic.core.climate import ClimateClass, GenericClimate
    >>> from ulmatic.core.recipe import PlannedPlot
    >>> from ulmatic.core.site import SitePlot, Terms
    >>> from ulmatic.core.survey import Rectangle, Use
    >>> from ulmatic.core.units import UnitSystem
    >>> bed = PlannedPlot(
    ...     name="Rose bed", use=Use.PERENNIALS, shape=Rectangle(length_m=6, width_m=2), wanted_mm=75
    ... )
    >>> site = Site(
    ...     name="Back garden",
    ...     units=UnitSystem.METRIC,
    ...     terms=Terms(spare=0.1, load_m3=5, barrow_m3=0.1),
    ...     plots=(SitePlot(id=UUID(int=1), plot=bed, surveyed_on=date(2026, 11, 1)),),
    ...     climate=GenericClimate(name=ClimateClass.COOL_MARITIME),
    ... )
    >>> plan = plan_on(site, date(2026, 11, 10), 1)
    >>> round(plan.now.needed_m3, 2)
    1.27
    """
    return plan_of(state_on(site, day), years)
