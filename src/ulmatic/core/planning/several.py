"""Several sites that the same suppliers serve, by year and season."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from decimal import Decimal
from functools import cached_property

from ulmatic.core.planning.occasions import Occasion
from ulmatic.core.planning.outlook import Outlook, SeasonDemand, year_of_shortage
from ulmatic.core.supply.waiting import counts_on
from ulmatic.core.value import Value


class SeasonOfSites(Value):
    """The seasons of all sites that open in the same year and window: m³ by material, loads, hours by one person.

    `costs` by currency, as far as prices are known; `costs_known` says whether they all are.
    """

    name: str
    opens: date
    needed_m3: float
    by_material: dict[str, float]
    loads: int
    hours: float
    costs: dict[str, Decimal]
    costs_known: bool

    @classmethod
    def of(cls, group: Sequence[SeasonDemand]) -> "SeasonOfSites":
        """Take together the same season of several sites.

        Returns
        -------
        SeasonOfSites
        """
        by_material: dict[str, float] = {}
        costs: dict[str, Decimal] = {}
        for demand in group:
            for name, volume in demand.by_material.items():
                by_material[name] = by_material.get(name, 0.0) + volume
            figures = demand.figures
            if figures.cost is not None and figures.cost > 0:
                costs[figures.currency] = costs.get(figures.currency, Decimal(0)) + figures.cost
        return cls(
            name=group[0].figures.season,
            opens=min(demand.figures.opens for demand in group),
            needed_m3=sum(demand.figures.needed_m3 for demand in group),
            by_material=by_material,
            loads=sum(demand.figures.loads for demand in group),
            hours=sum(demand.figures.hours for demand in group),
            costs=costs,
            costs_known=all(demand.figures.cost is not None for demand in group),
        )


class SharedDay(Value):
    """A day on which work is planned at more than one site: person-hours in all, and the sites by name."""

    on: date
    hours: float
    sites: tuple[str, ...]


def shared_days(occasions: Sequence[tuple[str, Sequence[Occasion]]]) -> list[SharedDay]:
    """Return the days on which more than one site takes hours of the people there are.

    Parameters
    ----------
    occasions : sequence of (name of a site, what falls on its days)

    Returns
    -------
    list of SharedDay
    """
    by_day: dict[date, dict[int, float]] = {}
    for index, (_, occasions_of_site) in enumerate(occasions):
        for occasion in occasions_of_site:
            if occasion.hours:
                sites = by_day.setdefault(occasion.on, {})
                sites[index] = sites.get(index, 0.0) + occasion.hours
    return [
        SharedDay(on=on, hours=sum(sites.values()), sites=tuple(occasions[index][0] for index in sites))
        for on, sites in sorted(by_day.items())
        if len(sites) > 1
    ]


@dataclass(frozen=True)
class SeveralSites:
    """The outlooks of all sites of a workspace; they share its suppliers."""

    outlooks: Sequence[Outlook]

    @cached_property
    def years(self) -> list[int]:
        """The calendar years ahead."""
        if not self.outlooks:
            return []
        first = min(outlook.plan.day.year for outlook in self.outlooks)
        return list(range(first, first + max(outlook.plan.years for outlook in self.outlooks)))

    @cached_property
    def volumes_m3(self) -> list[list[float]]:
        """What each site wants in each of the years, with spare."""
        needs = [{demand.year: demand.volume_m3 for demand in outlook.years()} for outlook in self.outlooks]
        return [[volumes.get(year, 0.0) for year in self.years] for volumes in needs]

    @property
    def total_m3(self) -> list[float]:
        """What all want in each of the years."""
        return [sum(volumes[index] for volumes in self.volumes_m3) for index in range(len(self.years))]

    @property
    def supply_m3(self) -> float:
        """What can be counted on to come unasked in a year, to all of them together."""
        suppliers = self.outlooks[0].plan.state.assumed.suppliers if self.outlooks else ()
        return counts_on([supplier.source for supplier in suppliers])

    @property
    def breaks_in(self) -> int | None:
        """The first year that wants more than can be counted on."""
        return year_of_shortage(zip(self.years, self.total_m3, strict=True), self.supply_m3)

    def seasons(self) -> list[SeasonOfSites]:
        """Return the seasons of all sites, those of one year and window taken together.

        Returns
        -------
        list of SeasonOfSites
        """
        groups: dict[tuple[int, str], list[SeasonDemand]] = {}
        for outlook in self.outlooks:
            for season, demand in zip(outlook.plan.seasons, outlook.seasons(), strict=True):
                groups.setdefault((season.opens.year, season.window), []).append(demand)
        return sorted((SeasonOfSites.of(group) for group in groups.values()), key=lambda season: season.opens)
