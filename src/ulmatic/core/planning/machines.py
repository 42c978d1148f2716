"""Machine or hand: hours and cost of each way to move a site's chips, over a season and over years."""

from dataclasses import dataclass, replace
from functools import cached_property
from math import ceil
from typing import Literal

from ulmatic.core.figures import Figure, entered, formula
from ulmatic.core.money import Hire
from ulmatic.core.planning.haul import SeasonHaul
from ulmatic.core.planning.lessons import upkeep
from ulmatic.core.planning.plan import SitePlan
from ulmatic.core.stock.books import SPECK_M3
from ulmatic.core.survey.shapes import RingRow
from ulmatic.core.tables import read_parameter
from ulmatic.core.value import Value
from ulmatic.core.work import CarrierKind, Fleet
from ulmatic.core.work.task_kinds import WORKDAY

Way = Literal["barrow", "cart", "loader", "blower"]
WAYS: dict[Way, tuple[CarrierKind, ...]] = {
    "barrow": (CarrierKind.BARROW,),
    "cart": (CarrierKind.BARROW, CarrierKind.CART),
    "loader": (CarrierKind.BARROW, CarrierKind.LOADER),
}
"""What each way has; where the machine does not fit through, a barrow goes."""
BLOWER = read_parameter("work.blower")
MOWINGS = read_parameter("work.mowings")
MOWER_PACE = read_parameter("work.mower_pace")
PARAMETERS = (BLOWER, MOWINGS, MOWER_PACE)
MONTHS = 12


class WayOut(Value):
    """One way to move a season's chips.

    Attributes
    ----------
    hours : Figure
        Person-hours of the season.
    days : int
        For which something is hired: with the people there are.
    cost : float or None
        Of hours and hire in the season; None where an hour, or what is hired, has no price.
    years_h, years_cost : float
        Of all seasons in the years ahead, by the same hours for a m³.
    """

    way: Way
    hours: Figure
    days: int
    cost: float | None
    years_h: float
    years_cost: float | None


class MowingSaved(Value):
    """Passes of a mower that are saved in a year where rings are laid as one strip: two in an alley, not three."""

    plot: str
    hours: Figure


class UpkeepSaved(Value):
    """Hours of upkeep in a year before mulching and since, as logged, against what laying takes in a year."""

    before_h: float
    since_h: float
    laying_h: float
    laying_cost: float | None


class MachineSheet(Value):
    """Ways to move a season's chips, side by side; `best` costs least, or takes least time without prices.

    What is not the site's own and has no price of `hire` has no cost either.
    """

    season: str
    volume_m3: float
    years: int
    years_m3: float
    ways: tuple[WayOut, ...]
    best: Way | None
    mowing: tuple[MowingSaved, ...]
    upkeep: UpkeepSaved | None
    currency: str
    hire: Hire


@dataclass(frozen=True)
class Machines:
    """Ways to move the chips of a season.

    Attributes
    ----------
    number : int
        Of the season in the plan.
    """

    plan: SitePlan
    number: int

    @cached_property
    def _volumes(self) -> tuple[float, float]:
        """What is moved in the season, and in all of the years ahead."""
        every = [sum(self.plan.carried_m3(index).values()) for index in range(len(self.plan.seasons))]
        return every[self.number], sum(every)

    def _hours(self, way: Way) -> Figure:
        if way == "blower":
            terms = {
                "V": entered("Volume to move", self._volumes[0], "m3"),
                "b": self.plan.state.parameters.of(BLOWER),
            }
            return formula("V * b / 60").work("Hours of two people together", "h", terms)
        haul = self.plan.haul(self.number)
        fleet: Fleet = haul.fleet.model_copy(update={"kinds": WAYS[way]})
        fleet_haul: SeasonHaul = replace(haul, fleet=fleet)
        return fleet_haul.moving.figure()

    def _cost(self, way: Way, hours: float, days: int) -> float | None:
        buying = self.plan.state.site.buying
        has_machine = way == "barrow" or way in buying.carriers
        per_day = 0.0 if way == "barrow" else getattr(buying.hire, way)
        if not buying.labour_per_h or (per_day is None and not has_machine):
            return None
        return hours * buying.labour_per_h + days * (per_day or 0.0)

    def _days(self, hours: float) -> int:
        site = self.plan.state.site
        return ceil(hours / (max(1, site.buying.people) * self.plan.state.parameters.of(WORKDAY).value) - 1e-9)

    def _way(self, way: Way) -> WayOut:
        hours = self._hours(way)
        season_m3, years_m3 = self._volumes
        times = years_m3 / season_m3
        days, years_h = self._days(hours.value), hours.value * times
        return WayOut(
            way=way,
            hours=hours,
            days=days,
            cost=self._cost(way, hours.value, days),
            years_h=years_h,
            years_cost=self._cost(way, years_h, self._days(years_h)),
        )

    @property
    def _mowing(self) -> list[MowingSaved]:
        saved = []
        parameters = self.plan.state.parameters
        for plot in self.plan.plots:
            shape = plot.plot.shape
            if not isinstance(shape, RingRow) or shape.trees < 2:
                continue
            terms = {
                "l": entered("Length of the row", shape.trees * shape.spacing_m, "m"),
                "n": parameters.of(MOWINGS),
                "p": parameters.of(MOWER_PACE),
            }
            hours = formula("l * n / p / 60").work("Mowing saved in a year", "h", terms)
            saved.append(MowingSaved(plot=plot.plot.name, hours=hours))
        return saved

    @property
    def _upkeep(self) -> UpkeepSaved | None:
        rows = upkeep(self.plan.state)
        before = [row.before_h for row in rows if row.before_h is not None]
        since = [row.since_h for row in rows if row.since_h is not None]
        if not before or not since:
            return None
        hours = sum(self.plan.work(index).hours for index in range(len(self.plan.seasons))) / self.plan.years
        return UpkeepSaved(
            before_h=sum(before) * MONTHS,
            since_h=sum(since) * MONTHS,
            laying_h=hours,
            laying_cost=self._cost("barrow", hours, 0),
        )

    @cached_property
    def sheet(self) -> MachineSheet:
        """All ways side by side."""
        season_m3, years_m3 = self._volumes
        ways: tuple[Way, ...] = ("barrow", "cart", "loader", "blower")
        sheets = tuple(self._way(way) for way in ways) if season_m3 > SPECK_M3 else ()
        priced = [way for way in sheets if way.cost is not None]
        best = min(priced or sheets, key=lambda way: way.hours.value if way.cost is None else way.cost, default=None)
        return MachineSheet(
            season=self.plan.seasons[self.number].name,
            volume_m3=season_m3,
            years=self.plan.years,
            years_m3=years_m3,
            ways=sheets,
            best=None if best is None else best.way,
            mowing=tuple(self._mowing),
            upkeep=self._upkeep,
            currency=self.plan.state.site.buying.currency,
            hire=self.plan.state.site.buying.hire,
        )
