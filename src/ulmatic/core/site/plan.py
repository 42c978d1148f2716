"""What follows for a site: layings by season, the order of a season, its haul, hours and cost."""

from dataclasses import dataclass, replace
from datetime import date, timedelta
from functools import cached_property
from typing import TYPE_CHECKING
from uuid import UUID

import numpy as np

from ulmatic.core.decay import day_number
from ulmatic.core.money import Bought, PlotShare, Quote, Rates, quote
from ulmatic.core.recipe import HUMUS_TO_PLANT, Accepted
from ulmatic.core.schedule import (
    LayerAmount,
    Laying,
    Schedule,
    ScheduledPlot,
    Season,
    beneath,
    settling_on,
)
from ulmatic.core.site.figures import NextSeason, Now, SeasonFigures, season_figures
from ulmatic.core.site.haul import SeasonHaul
from ulmatic.core.site.remembered import remembered
from ulmatic.core.site.site import SitePlot
from ulmatic.core.site.state import SiteState, years_later
from ulmatic.core.site.steps import Step, steps_of
from ulmatic.core.stock import holds
from ulmatic.core.stock.books import SPECK_M3
from ulmatic.core.supply.booked import booked_loads
from ulmatic.core.supply.chosen import ChosenLoads
from ulmatic.core.supply.market import Market
from ulmatic.core.supply.order import SeasonOrder
from ulmatic.core.supply.suppliers import Supplier
from ulmatic.core.supply.waiting import Waiting, counts_on, sells
from ulmatic.core.supply.wanted import Wanted, groups_of
from ulmatic.core.units import UnitSystem
from ulmatic.core.units.money import YARD3_M3
from ulmatic.core.work import Fleet, Moving

if TYPE_CHECKING:
    from ulmatic.core.site.agenda import Agenda
    from ulmatic.core.site.season_work import SeasonWork

MOST_YEARS = 10
WEEK_DAYS, HORIZON_WEEKS = 7, 520


@dataclass(frozen=True)
class SitePlan:
    """A site's plan; each part is worked out when it is read."""

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
        return [season for at, season in enumerate(self.state.seasons) if at == 0 or season.opens <= last]

    def number(self, key: str) -> int | None:
        """Return which of the seasons has a key; None where none has."""
        return next((at for at, season in enumerate(self.seasons) if season.key == key), None)

    # What is laid.

    @cached_property
    def scheduled(self) -> list[ScheduledPlot]:
        """The plots as they are scheduled."""
        return [self.state.scheduled(plot) for plot in self.plots]

    @cached_property
    def wanted(self) -> Schedule:
        """What rules want, if there are chips when they are wanted."""
        return Schedule(self.scheduled, self.state.clocks, self.state.seasons, len(self.seasons), self.day)

    @property
    def waits(self) -> bool:
        """Whether what is short waits for chips that come unasked: as was said, or where nobody sells any."""
        said = self.state.site.overrides.waits
        if said is not None:
            return said
        terms = [supplier.source for supplier in self._counted]
        return counts_on(terms) > 0 and not sells(terms)

    @property
    def _counted(self) -> list[Supplier]:
        currency = self.state.site.buying.currency
        return [supplier for supplier in self.state.site.suppliers if supplier.currency == currency]

    @cached_property
    def served(self) -> Schedule:
        """What is laid: as rules want, or as chips come where the site waits for them."""
        if not self.waits:
            return self.wanted
        state = self.state
        waiting = Waiting(
            lots=[*state.lots, *state.expected],
            suppliers=[supplier.source for supplier in self._counted],
            material=state.site.material,
            clock=state.clocks[0],
            seasons=self.state.seasons,
            today=self.day,
            accepts=[self.accepted(at) for at in range(len(self.plots))],
            priorities=[plot.priority for plot in self.plots],
            spare=state.site.spare.value,
        )
        return Schedule(self.scheduled, state.clocks, state.seasons, len(self.seasons), self.day, serve=waiting.serve)

    def layings(self, number: int) -> list[Laying]:
        """Return what rules want in a season."""
        return self._by_season[number]

    @cached_property
    def _by_season(self) -> list[list[Laying]]:
        by_season: list[list[Laying]] = [[] for _ in self.seasons]
        for laying in self.wanted.layings:
            by_season[laying.season].append(laying)
        return by_season

    @cached_property
    def next_layings(self) -> dict[int, tuple[Laying, date | None]]:
        """The next laying of each plot, and how long it lasts."""
        layings: dict[int, tuple[Laying, date | None]] = {}
        for laying, until in zip(self.wanted.layings, self.wanted.lasts_until, strict=True):
            layings.setdefault(laying.plot, (laying, until))
        return layings

    def ordered_m3(self, laying: Laying) -> float:
        """Return what a laying takes, with spare."""
        return laying.loose_m3 * (1 + self.state.site.spare.value)

    def planned_m3(self, number: int) -> dict[UUID, float]:
        """Return what a season lays of mulch on each plot, with spare."""
        return self._planned_m3[number]

    @cached_property
    def _planned_m3(self) -> list[dict[UUID, float]]:
        volumes: list[dict[UUID, float]] = [{} for _ in self.seasons]
        for laying in self.wanted.layings:
            key, own = self.plots[laying.plot].id, volumes[laying.season]
            own[key] = own.get(key, 0.0) + self.ordered_m3(laying)
        return volumes

    def carried_m3(self, number: int) -> dict[UUID, float]:
        """Return what is carried to each plot in a season: mulch, and what is laid beneath it."""
        volumes = dict(self.planned_m3(number))
        for key, amounts in self.beneath(number).items():
            beneath_m3 = sum(amount.amount.value for amount in amounts if amount.amount.unit == "m3")
            volumes[key] = volumes.get(key, 0.0) + beneath_m3
        return volumes

    @remembered
    def beneath(self, number: int) -> dict[UUID, tuple[LayerAmount, ...]]:
        """Return what is laid beneath the mulch in a season: with a plot's first laying, where it is not there yet."""
        layers: dict[UUID, tuple[LayerAmount, ...]] = {}
        for laying in self.layings(number):
            if not laying.first:
                continue
            plot = self.plots[laying.plot]
            recipe = self.state.planned(plot.plot)
            if len(recipe.layers) < 2 and not recipe.guards:
                continue
            laid = self.state.stacks[plot.id].beneath
            amounts = tuple(
                amount
                for amount in beneath(plot.plot, recipe, self.state.site.spare, self.state.site.parameters)
                if amount.material not in laid
            )
            if amounts:
                layers[plot.id] = amounts
        return layers

    # What is ordered.

    @remembered
    def accepted(self, number: int) -> Accepted:
        """Return what a plot accepts."""
        return self.state.accepts(self.plots[number].plot)

    def wants(self, number: int) -> list[Wanted]:
        """Return what a season's layings take of mulch."""
        wants = []
        for laying in self.layings(number):
            plot = self.plots[laying.plot]
            wants.append(
                Wanted(
                    plot=laying.plot,
                    on=laying.on,
                    volume_m3=self.ordered_m3(laying),
                    material=self.scheduled[laying.plot].material,
                    accepts=self.accepted(laying.plot),
                    settling=settling_on(plot.plot.use, self.state.site.parameters),
                    priority=plot.priority,
                )
            )
        return wants

    @remembered
    def order(self, number: int) -> SeasonOrder:
        """Return the order of a season; later seasons begin with what earlier ones leave."""
        season, state = self.seasons[number], self.state
        day = season.lays_on(self.day)
        before = number - 1
        there = self.order(before).left_lots(self.seasons[before].closes) if number else state.lots
        lots = [lot.on(day, state.clocks[0]) for lot in there]
        first = self.day if number == 0 else season.account_from
        for lot in state.expected:
            if (number == 0 or lot.as_of >= first) and lot.as_of <= season.closes:
                # What comes while the window is open counts as there on the day on which is laid.
                lots.append(replace(lot, as_of=min(lot.as_of, day)))
        groups = groups_of(self.wants(number))
        sheets: dict[str, float] = {}
        for amounts in self.beneath(number).values():
            for amount in amounts:
                if amount.amount.unit == "m3":
                    sheets[amount.material] = sheets.get(amount.material, 0.0) + amount.amount.value
        return SeasonOrder(
            groups=groups,
            beneath=sheets,
            lots=lots,
            market=self._market(number, season),
            chosen=self._chosen(season),
            booked=booked_loads(state.site.deliveries, self.day, season.account_from, season.closes),
        )

    def _market(self, number: int, season: Season) -> Market:
        state, site = self.state, self.state.site
        buying, first = site.buying, self.day if number == 0 else season.account_from
        last = season.closes
        if number == 0 and buying.wanted_by is not None and self.day <= buying.wanted_by < last:
            last = buying.wanted_by
        count = min(12, (last.year - first.year) * 12 + last.month - first.month + 1)
        return Market(
            suppliers=site.suppliers,
            material=site.material,
            clock=state.clocks[0],
            today=first,
            months=tuple((first.month - 1 + step) % 12 + 1 for step in range(count)),
            currency=buying.currency,
            sure=buying.sure / 100,
            load_m3=site.terms.load_m3,
            load_size=site.terms.load_size(),
            tip_m3=max((holds(tip.length_m, tip.width_m) for tip in state.ground.tips.values()), default=None),
            budget=buying.budget if number == 0 else None,
            step_m3=self.step_m3,
        )

    def _chosen(self, season: Season) -> ChosenLoads | None:
        """Return the user's own choice for a season, the latest."""
        latest = None
        for chosen in self.state.site.chosen:
            own = chosen.season == season.key
            running = chosen.season is None and season.account_from <= chosen.chosen_on <= season.closes
            if (own or running) and (latest is None or chosen.chosen_on >= latest.chosen_on):
                latest = chosen
        return latest

    def order_by(self, number: int) -> date:
        """Return the last day to order for a season, today at the earliest."""
        return max(self.day, self.order(number).order_by(self.seasons[number].lays_on(self.day)))

    # How it is moved, and what it costs.

    @remembered
    def haul(self, number: int) -> SeasonHaul:
        """Return how a season's chips get to the plots."""
        site = self.state.site
        fleet = Fleet(kinds=site.buying.carriers, barrow_m3=site.barrow_m3, parameters=site.parameters)
        return SeasonHaul(self.state, self.order(number), self.carried_m3(number), fleet)

    def moving(self, number: int) -> Moving[UUID]:
        """Return the legs of a season, with trips and the person-hours of moving and laying."""
        return self.haul(number).moving

    @property
    def rates(self) -> Rates:
        """Prices of the site's own work."""
        buying = self.state.site.buying
        return Rates(labour_per_h=buying.labour_per_h, markup=buying.markup, disposal=buying.disposal, tax=buying.tax)

    @property
    def step_m3(self) -> float:
        """What bulk is measured out by: a tenth of a m³ or of a cubic yard."""
        return 0.1 * (YARD3_M3 if self.state.site.units is UnitSystem.US else 1.0)

    def bought(self, number: int) -> list[Bought] | None:
        """Return what a season buys; None where a price is not known."""
        order = self.order(number)
        bought = []
        for line in order.lines:
            offered = order.offered.get(line.source)
            if offered is None:
                return None
            bought.append(
                Bought(
                    name=line.name,
                    material=line.material_name,
                    loads=line.loads,
                    volume_m3=line.volume_m3,
                    source=offered.source,
                )
            )
        return bought

    def quote(self, number: int, on: date) -> Quote | None:
        """Return what a season costs, line by line and plot by plot; None where a price is not known."""
        bought = self.bought(number)
        if bought is None:
            return None
        hours = self.work(number).hours_by_plot
        volumes = self.carried_m3(number)
        plots = [
            PlotShare(
                key=str(plot.id),
                plot=plot.plot.name,
                area_m2=self.state.laid_m2(plot, self.day),
                volume_m3=volumes.get(plot.id, 0.0),
                hours=hours.get(plot.id, 0.0),
            )
            for plot in self.plots
            if plot.id in volumes or plot.id in hours
        ]
        spare = self.state.site.spare.value
        needed = sum(volumes.values())
        over = max(0.0, sum(line.volume_m3 for line in bought) - self.order(number).to_order_m3)
        return quote(
            self.state.site.buying.currency,
            on,
            bought,
            plots,
            self.rates,
            spare_m3=over + needed * spare / (1 + spare),
        )

    # What is said of a season.

    @remembered
    def figures(self, number: int) -> SeasonFigures:
        """Return a season in numbers."""
        return season_figures(self, number)

    @cached_property
    def plantable_from(self) -> dict[UUID, date | None]:
        """When ground that is built up holds humus enough to plant into; None where it does not within ten years."""
        building = [(at, plot) for at, plot in enumerate(self.plots) if self.state.planned(plot.plot).builds_up]
        if not building:
            return {}
        needed_mm = self.state.site.parameters.of(HUMUS_TO_PLANT).value
        days = day_number(self.day) + WEEK_DAYS * np.arange(HORIZON_WEEKS)
        humus = self.wanted.depths(days.astype(float)).mould_mm
        ripe: dict[UUID, date | None] = {}
        for at, plot in building:
            enough = np.flatnonzero(humus[at] >= needed_mm)
            ripe[plot.id] = self.day + timedelta(days=int(enough[0]) * WEEK_DAYS) if enough.size else None
        return ripe

    @cached_property
    def now(self) -> Now:
        """The season whose account is running, in numbers."""
        later = None
        if self.order(0).needed_m3 <= SPECK_M3:
            within = years_later(self.day, 1)
            coming = enumerate(self.seasons[1:], 1)
            at = next((at for at, season in coming if season.opens <= within and self.layings(at)), None)
            if at is not None:
                season = self.seasons[at]
                later = NextSeason(
                    season=season.name,
                    key=season.key,
                    opens=season.opens,
                    closes=season.closes,
                    needed_m3=sum(self.planned_m3(at).values()),
                )
        return Now(**dict(self.figures(0)), next=later)

    @cached_property
    def steps(self) -> tuple[Step, ...]:
        """What to do next, the most useful first."""
        return steps_of(self)

    @remembered
    def work(self, number: int) -> "SeasonWork":
        """Return the tasks of a season, and the days for them."""
        from ulmatic.core.site.season_work import SeasonWork  # noqa: PLC0415 - a plan begets its work

        return SeasonWork(self, number)

    @cached_property
    def agenda(self) -> "Agenda":
        """What falls on the days of the year ahead."""
        from ulmatic.core.site.agenda import Agenda  # noqa: PLC0415 - a plan begets its agenda

        return Agenda(self)

    @cached_property
    def all_seasons(self) -> list[SeasonFigures]:
        """Every season in numbers, the running one first."""
        return [self.figures(number) for number in range(len(self.seasons))]
