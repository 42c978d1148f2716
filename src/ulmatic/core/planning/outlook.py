"""A site through a year back and some ahead, week by week; and what rules and supplies would do."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from datetime import date, timedelta
from functools import cached_property
from uuid import UUID

import numpy as np
from numpy.typing import NDArray

from ulmatic.core.climate import SeasonOfYear
from ulmatic.core.decay import YEAR_DAYS, End, day_number, pile_left, reaches, spread
from ulmatic.core.materials import Stage
from ulmatic.core.planning.plan import SitePlan
from ulmatic.core.planning.scheduling import schedule_of, suppliers_in_currency
from ulmatic.core.planning.season_figures import SeasonFigures
from ulmatic.core.planning.weeks import Weeks
from ulmatic.core.recipe.proposal import LEAST_SHARE
from ulmatic.core.schedule import (
    RULE_WORDS,
    Every,
    Harvest,
    Keep,
    Laying,
    Quarter,
    Rule,
    Schedule,
    ScheduledPlot,
    Thin,
)
from ulmatic.core.supply.suppliers import price_of_m3
from ulmatic.core.supply.waiting import counts_on
from ulmatic.core.survey import Use
from ulmatic.core.value import Value

Array = NDArray[np.float64]
EVERY = 4
"""Ranges are worked out for every fourth week."""
CARBON = 0.5
"""Share of carbon in dry humus: common practice, no source."""
RANGED_PLOTS = 80
MOST_HELD_MM = 300.0
TELLING_M3 = 0.05
"""A shortage of less is none: a judgement, no source."""
RIPE = frozenset({Stage.DECOMPOSED})


class SoilMade(Value):
    """The humus on all laid ground after so many years, with what harvests dug out: depth, dry mass, carbon.

    Depth and mass are means over the ground, carbon is that of the whole site; ranges are those of slow and fast rates.
    """

    years: int
    humus_mm: float
    humus_kg_m2: float
    low_kg_m2: float
    high_kg_m2: float
    carbon_kg: float
    low_carbon_kg: float
    high_carbon_kg: float


class PileFuture(Value):
    """What becomes of a pile: m³ left in half a year and a year, and about when it is ripe to sift."""

    pile: str
    volume_m3: float
    in_half_a_year_m3: float
    in_a_year_m3: float
    ripe: SeasonOfYear | None


class SeasonDemand(Value):
    """A season in numbers, with what is laid by material and the humus that is dug out before."""

    figures: SeasonFigures
    by_material: dict[str, float]
    humus_m3: float


class YearDemand(Value):
    """What rules want in a year with its range, what can be counted on to come unasked, and what is laid."""

    year: int
    volume_m3: float
    laid_m3: float
    low_m3: float
    high_m3: float
    supply_m3: float
    short: bool


class RuleCompared(Value):
    """A rule over the years ahead: yearly means, least depth after the first year, humus at the end."""

    rule: Rule
    words: str
    volume_m3: float
    hours: float
    cost: float | None
    layings: int
    least_mm: float
    mean_mm: float
    humus_kg_m2: float


class SupplyHeld(Value):
    """The target depth that so many m³ a year can hold on all plots that keep their recipe; `more` where it is more."""

    supply_m3: float
    depth_mm: float | None
    needed_m3: float
    more: bool = False


@dataclass(frozen=True)
class Outlook:
    """A plan through the weeks."""

    plan: SitePlan

    @property
    def weeks(self) -> Weeks:
        """The weeks."""
        return self.plan.weeks

    @property
    def days(self) -> Array:
        """All weeks, as days since 1970."""
        return self.weeks.days

    def _through(self, part: slice, end: End) -> tuple[Array, Array, Array]:
        """Return chips, humus and its dry mass of plots through some of the weeks.

        Returns
        -------
        (ndarray, ndarray, ndarray)
            Settled mm, settled mm and kg/m², each (plots, weeks).
        """
        days = self.days[part]
        past = days <= day_number(self.plan.day)
        before = self.plan.state.depths(days[past], end)
        after = self.plan.by_supply.depths(days[~past], end)
        chips = np.concatenate([before.chips_mm, after.chips_mm], axis=1)
        humus = np.concatenate([before.humus_mm, after.humus_mm], axis=1)
        mass = np.concatenate([before.humus_kg_m2, after.humus_kg_m2], axis=1)
        return chips, humus, mass

    @cached_property
    def _middle(self) -> tuple[Array, Array, Array]:
        return self._through(slice(None), "value")

    @cached_property
    def _ends(self) -> tuple[tuple[Array, Array, Array], tuple[Array, Array, Array]]:
        return self._through(slice(None, None, EVERY), "low"), self._through(slice(None, None, EVERY), "high")

    @property
    def held_mm(self) -> Array:
        """Depth of chips of each plot, (plots, weeks)."""
        return self._middle[0]

    @cached_property
    def humus_mm(self) -> Array:
        """Humus that lies there, less what was and will be taken."""
        humus = self._middle[1].copy()
        removals = [
            (self.plan.state.numbers[plot], on, mm)
            for plot, stack in self.plan.state.stacks.items()
            for on, mm in stack.humus_taken
        ]
        for index, on, mm in [*removals, *self.plan.by_supply.humus_taken]:
            humus[index, self.days >= day_number(on)] -= mm
        return np.maximum(humus, 0.0)

    @cached_property
    def band_mm(self) -> tuple[Array, Array]:
        """The 80 % range of the depth, every fourth week."""
        slow, fast = self._ends
        return spread(self.held_mm[:, ::EVERY], slow[0], fast[0])

    @cached_property
    def humus_kg_m2(self) -> Array:
        """Dry humus made on each plot by the end of each year ahead, dug out or not."""
        return self._middle[2][:, self.weeks.year_ends]

    def soil_made(self) -> list[SoilMade]:
        """Return the soil made by the end of each year.

        Returns
        -------
        list of SoilMade
        """
        state = self.plan.state
        areas = np.array([state.laid_m2(plot, self.plan.day) for plot in self.plan.plots])
        total_m2 = float(areas.sum())

        def mean(values: Array) -> float:
            return float((values * areas).sum()) / total_m2 if total_m2 > 0 else 0.0

        slow, fast = self._ends
        soil = []
        for years, week in enumerate(self.weeks.year_ends, 1):
            mass = mean(self._middle[2][:, week])
            low, high = sorted((mean(slow[2][:, week // EVERY]), mean(fast[2][:, week // EVERY])))
            low, high = min(low, mass), max(high, mass)
            soil.append(
                SoilMade(
                    years=years,
                    humus_mm=mean(self._middle[1][:, week]),
                    humus_kg_m2=mass,
                    low_kg_m2=low,
                    high_kg_m2=high,
                    carbon_kg=CARBON * mass * total_m2,
                    low_carbon_kg=CARBON * low * total_m2,
                    high_carbon_kg=CARBON * high * total_m2,
                )
            )
        return soil

    def piles(self) -> list[PileFuture]:
        """Return what becomes of piles.

        Returns
        -------
        list of PileFuture
        """
        state, day = self.plan.state, self.plan.day
        half, year = day + timedelta(days=182), day + timedelta(days=365)
        piles = []
        for pile in state.site.piles:
            lots = [lot for lot in state.lots if lot.pile_id == pile.id]
            if not lots:
                continue
            clock = state.climate.clocks[0]
            ripe = [reaches(lot.material, lot.born, clock, RIPE, day) for lot in lots]
            latest = None if None in ripe else max(day for day in ripe if day is not None)
            piles.append(
                PileFuture(
                    pile=pile.name,
                    volume_m3=sum(lot.volume_m3 for lot in lots),
                    in_half_a_year_m3=sum(lot.on(half, clock).volume_m3 for lot in lots),
                    in_a_year_m3=sum(
                        lot.volume_m3 * pile_left(lot.material, lot.born, clock, day, year) for lot in lots
                    ),
                    ripe=state.climate.normals.season_of(latest) if latest and latest <= self.weeks.dates[-1] else None,
                )
            )
        return piles

    def seasons(self) -> list[SeasonDemand]:
        """Return every season in numbers.

        Returns
        -------
        list of SeasonDemand
            The first is that which runs or opens next.
        """
        demands = []
        for number in range(len(self.plan.seasons)):
            by_material: dict[str, float] = {}
            for laying in self.plan.layings(number):
                name = self.plan.scheduled[laying.plot].material.name
                by_material[name] = by_material.get(name, 0.0) + self.plan.ordered_m3(laying)
            humus = sum(laying.humus_m3 for laying in self.plan.layings(number))
            figures = self.plan.figures(number)
            demands.append(SeasonDemand(figures=figures, by_material=by_material, humus_m3=humus))
        return demands

    @property
    def supply_m3(self) -> float:
        """What can be counted on to come unasked in a whole year."""
        return counts_on([supplier.source for supplier in suppliers_in_currency(self.plan.state)])

    def years(self) -> list[YearDemand]:
        """Return what rules want by calendar year, with its range on sites of up to 80 plots.

        Returns
        -------
        list of YearDemand
        """
        needs, laid = self._by_year(self.plan.by_rules.layings), self._by_year(self.plan.by_supply.layings)
        low = high = needs
        if len(self.plan.plots) <= RANGED_PLOTS:
            low, high = (self._by_year(self._at_rate(end).layings) for end in ("low", "high"))
        supply = self.supply_m3
        demands = []
        for year in range(self.plan.day.year, self.plan.day.year + self.plan.years):
            ends = (low.get(year, 0.0), high.get(year, 0.0), needs.get(year, 0.0))
            demands.append(
                YearDemand(
                    year=year,
                    volume_m3=needs.get(year, 0.0),
                    laid_m3=laid.get(year, 0.0),
                    low_m3=min(ends),
                    high_m3=max(ends),
                    supply_m3=supply,
                    short=_short(needs.get(year, 0.0), supply),
                )
            )
        return demands

    @property
    def breaks_in(self) -> int | None:
        """The first year in which rules want more than can be counted on."""
        return year_of_shortage(((demand.year, demand.volume_m3) for demand in self.years()), self.supply_m3)

    def _by_year(self, layings: Sequence[Laying]) -> dict[int, float]:
        volumes: dict[int, float] = {}
        for laying in layings:
            volumes[laying.on.year] = volumes.get(laying.on.year, 0.0) + self.plan.ordered_m3(laying)
        return volumes

    def _at_rate(self, end: str) -> Schedule:
        """Return what rules want where all that is laid from now on rots slowly, or fast.

        Returns
        -------
        Schedule
        """
        return self._scheduled([_faster(plot, end) for plot in self.plan.scheduled])

    def _scheduled(self, plots: Sequence[ScheduledPlot], seasons: int | None = None) -> Schedule:
        return schedule_of(self.plan.state, plots, seasons or len(self.plan.seasons))

    def _price(self) -> float | None:
        """Return what a m³ of the cheapest supplier costs; None where nobody names a price.

        Returns
        -------
        float or None
            In the site's currency.
        """
        terms = [supplier.source for supplier in suppliers_in_currency(self.plan.state)]
        return min((price for source in terms if (price := price_of_m3(source)) is not None), default=None)

    def compare_rules(self, plot_id: UUID) -> list[RuleCompared]:
        """Set rules side by side on one plot: its own, and the usual ones.

        Returns
        -------
        list of RuleCompared
        """
        number = self.plan.state.numbers[plot_id]
        present, plot = self.plan.scheduled[number], self.plan.plots[number]
        rules: list[Rule] = [present.rule, Keep(), Thin(), Every(years=3)]
        if plot.plot.use in (Use.YOUNG_TREE, Use.ESTABLISHED_TREE):
            rules.append(Quarter())
        if plot.plot.use in (Use.FOOT_PATH, Use.VEHICLE_PATH):
            rules.append(Harvest(years=2))
        price, pace, years = self._price(), self.plan.haul(0).hours_per_m3(plot_id), self.plan.years
        weeks = self.days[self.weeks.today_index + 1 :]
        every = frozenset(window.key for window in self.plan.state.climate.windows)
        compared = []
        for rule in dict.fromkeys(rules):
            windows = every if isinstance(rule, Thin) else present.windows
            schedule = self._scheduled([replace(present, rule=rule, windows=windows)])
            depths = schedule.depths(weeks)
            volume = sum(self.plan.ordered_m3(laying) for laying in schedule.layings) / years
            chips_mm = depths.chips_mm[0]
            compared.append(
                RuleCompared(
                    rule=rule,
                    words=RULE_WORDS[rule.kind],
                    volume_m3=volume,
                    hours=volume * pace,
                    cost=None if price is None else volume * price,
                    layings=len(schedule.layings),
                    least_mm=float(chips_mm[52:].min()) if chips_mm.size > 52 else float(chips_mm.min()),
                    mean_mm=float(chips_mm[52:].mean()) if chips_mm.size > 52 else float(chips_mm.mean()),
                    humus_kg_m2=float(depths.humus_kg_m2[0, -1]),
                )
            )
        return compared

    def held_by(self, supply_m3: float) -> SupplyHeld:
        """Return the target depth that a yearly supply can hold on all plots that keep their recipe.

        Returns
        -------
        SupplyHeld
        """
        holding = [plot for plot in self.plan.scheduled if isinstance(plot.rule, Keep)]
        years = self.plan.years
        late = date(self.plan.day.year + 2, self.plan.day.month, min(28, self.plan.day.day))

        def yearly(plots: list[ScheduledPlot]) -> float:
            # What is to be made good in the first years says nothing of those that follow.
            layings_by_plot: dict[int, list[Laying]] = {}
            for laying in self._scheduled(plots).layings:
                if laying.on > late:
                    layings_by_plot.setdefault(laying.plot, []).append(laying)
            return sum(self._yearly_m3(layings, years - 2) for layings in layings_by_plot.values())

        def to_depth(depth_mm: float) -> list[ScheduledPlot]:
            return [
                replace(plot, target_mm=depth_mm, least_mm=min(plot.least_mm, LEAST_SHARE * depth_mm))
                for plot in holding
            ]

        needed = yearly(holding) if holding else 0.0
        if not holding or supply_m3 <= 0:
            return SupplyHeld(supply_m3=supply_m3, depth_mm=None, needed_m3=needed)
        low, high = 0.0, MOST_HELD_MM
        if yearly(to_depth(high)) <= supply_m3:
            return SupplyHeld(supply_m3=supply_m3, depth_mm=high, needed_m3=needed, more=True)
        for _ in range(8):
            middle = (low + high) / 2
            low, high = (middle, high) if yearly(to_depth(middle)) <= supply_m3 else (low, middle)
        return SupplyHeld(supply_m3=supply_m3, depth_mm=low, needed_m3=needed)

    def _yearly_m3(self, layings: Sequence[Laying], years: float) -> float:
        """Return what the layings of a plot need in a year: each makes good what rotted since the one before.

        Returns
        -------
        float
        """
        since_days = (layings[-1].on - layings[0].on).days
        if since_days < YEAR_DAYS:
            return sum(map(self.plan.ordered_m3, layings)) / years
        return sum(map(self.plan.ordered_m3, layings[1:])) / since_days * YEAR_DAYS


def _faster(plot: ScheduledPlot, end: str) -> ScheduledPlot:
    rate = plot.material.rate
    value = getattr(rate, end) or rate.value
    return replace(plot, material=plot.material.model_copy(update={"rate": rate.model_copy(update={"value": value})}))


def _short(wanted_m3: float, supply_m3: float) -> bool:
    return wanted_m3 > supply_m3 + TELLING_M3


def year_of_shortage(needs: Iterable[tuple[int, float]], supply_m3: float) -> int | None:
    """Return the first year that wants more than can be counted on.

    Parameters
    ----------
    needs : iterable of tuple
        Years, each with its m³.
    supply_m3 : float
        In each of them.

    Returns
    -------
    int or None
    """
    return next((year for year, volume in needs if _short(volume, supply_m3)), None)
