"""How a season's chips get from piles and tips to the plots."""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from functools import cached_property
from uuid import UUID, uuid5

from ulmatic.core.site import SiteState
from ulmatic.core.site.ground_plan import GroundPlan
from ulmatic.core.site.site import SitePlot
from ulmatic.core.stock.books import SPECK_M3
from ulmatic.core.supply.order import SeasonOrder
from ulmatic.core.survey import Route, Tip, Way
from ulmatic.core.survey.shapes.base import XY
from ulmatic.core.work import TIPPED, Fleet, Job, Leg, LoadingPlace, Moving, Turn, Walk, in_order, move, second_tip

TRUCK_WAY_M = 2.5
"""A truck needs a way this wide: common practice, no source."""
EVERY_M = 10.0
MOST_CANDIDATES = 12
ANYWHERE = UUID(int=0)


def tips_of(ground: GroundPlan) -> set[UUID]:
    """Return the tips of a site; one that is nowhere, where it has none.

    Parameters
    ----------
    ground : GroundPlan

    Returns
    -------
    set of UUID
    """
    return set(ground.tips) or {ANYWHERE}


def walk_to(plot: SitePlot, route: Route[UUID] | None, *, noted: bool) -> Walk:
    """Return the walk to a plot; what was noted of the plot is from the tip and goes before what the plan says.

    Parameters
    ----------
    plot : SitePlot
    route : Route or None
    noted : bool
        Whether the walk is from the tip.

    Returns
    -------
    Walk
        Up to the plot's edge, m, with its climb and its surface.
    """
    conditions = plot.plot.site_conditions
    width, walk_m, climb_m, known = conditions.way_width_m, None, 0.0, False
    if route is not None:
        walk_m, climb_m, known, width = route.walk_m, route.climb_m, True, width or route.width_m
    if noted and conditions.walk_m is not None:
        walk_m, climb_m, known = conditions.walk_m, conditions.climb_m or 0.0, True
    if walk_m is None:
        return Walk(width_m=width)
    return Walk.model_construct(walk_m=walk_m, climb_m=climb_m, width_m=width, known=known)


def hours_per_m3(ground: GroundPlan, fleet: Fleet, plot: SitePlot) -> float:
    """Return the person-hours that a m³ takes to a plot from the nearest tip.

    Parameters
    ----------
    ground : GroundPlan
    fleet : Fleet
    plot : SitePlot

    Returns
    -------
    float
    """
    walks = [
        walk_to(plot, ground.routes_from({key: spot}).get(plot.id), noted=True)
        for key in tips_of(ground)
        if (spot := ground.spots.get(key)) is not None
    ] or [walk_to(plot, None, noted=True)]
    return min(fleet.minutes_per_m3(walk) for walk in walks) / 60


@dataclass(frozen=True)
class SeasonHaul:
    """The loading places, walks and legs of a season.

    Attributes
    ----------
    volumes : mapping of plot to m³
        With spare, and with what is laid beneath.
    """

    state: SiteState
    order: SeasonOrder
    volumes: Mapping[UUID, float]
    fleet: Fleet

    @cached_property
    def tip_ids(self) -> set[UUID]:
        """The tips; one that is nowhere, where the site has none."""
        return tips_of(self.state.ground)

    @cached_property
    def places(self) -> list[LoadingPlace[UUID]]:
        """The piles that may be drawn from, and the tips with what is tipped: as much as piles do not give."""
        available, drawn = dict(self._on_piles), 0.0
        for index, number, flow in self.order.flows:
            if self.order.lots[index].pile_id is not None:
                drawn += flow * self.order.groups[number].worth(self.order.lots[index].material)
        for index, volume in self.order.beneath_served.items():
            pile_id = self.order.lots[index].pile_id
            if pile_id is not None:
                available[pile_id] = available.get(pile_id, 0.0) + volume
                drawn += volume
        landmarks = {landmark.id: landmark for landmark in self.state.site.landmarks}
        places: list[LoadingPlace[UUID]] = []
        for pile in self.state.site.piles:
            if available.get(pile.id, 0.0) > SPECK_M3:
                landmark = landmarks.get(pile.landmark_id) if pile.landmark_id else None
                surface = landmark.landmark.surface if landmark and isinstance(landmark.landmark, Tip) else "soft"
                places.append(
                    LoadingPlace(
                        key=pile.id, name=f"the pile at {pile.name}", surface=surface, available_m3=available[pile.id]
                    )
                )
        tipped = max(0.0, sum(self.volumes.values()) - drawn)
        if tipped <= SPECK_M3:
            return places
        for key in sorted(self.tip_ids):
            if key == ANYWHERE:
                places.append(LoadingPlace(key=key, name="where it is tipped", available_m3=tipped, pool=TIPPED))
            else:
                tip = self.state.ground.tips[key]
                name = f"what is tipped at {landmarks[key].name}"
                places.append(LoadingPlace(key=key, name=name, surface=tip.surface, available_m3=tipped, pool=TIPPED))
        return places

    @cached_property
    def _on_piles(self) -> dict[UUID, float]:
        """What lies on each pile and layings of the season accept."""
        available: dict[UUID, float] = {}
        for index, lot in enumerate(self.order.lots):
            if lot.pile_id is not None and (volume := self.order.accepted_m3(index)) > 0:
                available[lot.pile_id] = available.get(lot.pile_id, 0.0) + volume
        return available

    def _spot(self, place: UUID) -> XY | None:
        """Return where a loading place lies.

        Returns
        -------
        XY or None
            Metres on the plan; None where it was put nowhere.
        """
        if place in self.state.ground.spots:
            return self.state.ground.spots[place]
        pile = next((pile for pile in self.state.site.piles if pile.id == place), None)
        return self.state.ground.spots.get(pile.landmark_id) if pile and pile.landmark_id else None

    @cached_property
    def routes(self) -> dict[UUID, dict[UUID, Route[UUID]]]:
        """The walk from each loading place to each plot."""
        routes = {}
        for place in self.places:
            spot = self._spot(place.key)
            routes[place.key] = self.state.ground.routes_from({place.key: spot}) if spot else {}
        return routes

    @cached_property
    def walks(self) -> dict[tuple[UUID, UUID], Walk]:
        """The walk of each pair of loading place and plot."""
        return {
            (place.key, plot): self.walk(plot, self.routes[place.key].get(plot), noted=place.key in self.tip_ids)
            for place in self.places
            for plot in self.volumes
        }

    def walk(self, plot: UUID, route: Route[UUID] | None, *, noted: bool) -> Walk:
        """Return the walk to a plot.

        Returns
        -------
        Walk
        """
        return walk_to(self._plot(plot), route, noted=noted)

    def hours_per_m3(self, plot: UUID) -> float:
        """Return the person-hours that a m³ takes from the nearest tip.

        Returns
        -------
        float
        """
        return hours_per_m3(self.state.ground, self.fleet, self._plot(plot))

    def _plot(self, plot: UUID) -> SitePlot:
        return self.state.site.plots[self.state.numbers[plot]]

    @cached_property
    def barred(self) -> set[tuple[UUID, UUID]]:
        """Piles, each with a plot that takes nothing of what lies there."""
        takes: set[tuple[UUID, UUID]] = set()
        for index, lot in enumerate(self.order.lots):
            if lot.pile_id is not None:
                groups = [self.order.groups[number] for number in self.order.takers(index)]
                takes |= {(lot.pile_id, self.state.site.plots[plot].id) for group in groups for plot in group.plots}
        for index in self.order.beneath_served:
            pile = self.order.lots[index].pile_id
            if pile is not None:
                takes |= {(pile, plot) for plot in self.volumes}
        piles = {pile.id for pile in self.state.site.piles}
        return {
            (place.key, plot)
            for place in self.places
            if place.key in piles
            for plot in self.volumes
            if (place.key, plot) not in takes
        }

    @cached_property
    def moving(self) -> Moving[UUID]:
        """All legs."""
        return move(self.places, self.volumes, self.walks, self.fleet, self.barred)

    @property
    def each_h(self) -> float:
        """Hours of moving and laying for each of the site's people."""
        return self.moving.usual_h / max(1, self.state.site.buying.people)

    @cached_property
    def legs(self) -> dict[UUID, list[Leg[UUID]]]:
        """The legs to each plot."""
        legs: dict[UUID, list[Leg[UUID]]] = {}
        for leg in self.moving.legs:
            legs.setdefault(leg.plot, []).append(leg)
        return legs

    def turns(self) -> list[Turn[UUID]]:
        """Return the plots in the order in which they are laid.

        Returns
        -------
        list of Turn
        """
        return in_order([self._job(plot, legs) for plot, legs in self.legs.items()])

    def _job(self, plot: UUID, legs: list[Leg[UUID]]) -> Job[UUID]:
        main = max(legs, key=lambda leg: leg.volume_m3)
        route = self.routes[main.place].get(plot)
        if route is None or plot not in self.state.ground.middles:
            return Job(plot=plot, walk_m=main.walk.walk_m)
        outline = self.state.ground.outlines[plot].edges_at(self.state.ground.places[plot])
        return Job(plot=plot, walk_m=main.walk.walk_m, walk=route.points, outline=outline)

    def second_tip(self) -> tuple[XY, float, float] | None:
        """Return where a second tip would pay, with the hours now and then.

        Returns
        -------
        (XY, float, float) or None
            Its place on the plan, and person-hours of the season; None where none saves enough.
        """
        spots = {uuid5(ANYWHERE, str(spot)): spot for spot in _truck_spots(self.state.ground.ways)}
        if not spots or self.tip_ids == {ANYWHERE}:
            return None
        candidates = {
            key: {
                plot: self.walk(plot, route, noted=False)
                for plot, route in self.state.ground.routes_from({key: spot}).items()
                if plot in self.volumes
            }
            for key, spot in spots.items()
        }
        tip = second_tip(self.places, self.volumes, self.walks, candidates, self.fleet, self.barred)
        return (spots[tip.place], tip.hours_now, tip.hours_then) if tip else None


def _truck_spots(ways: list[Way]) -> list[XY]:
    """Return spots along ways that a truck gets to, evenly thinned to as many as are tried.

    Returns
    -------
    list of XY
        Metres on the plan.
    """
    spots = list(_along([way for way in ways if way.width_m >= TRUCK_WAY_M - 1e-9]))
    step = max(1, -(-len(spots) // MOST_CANDIDATES))
    return spots[::step]


def _along(ways: list[Way]) -> Iterator[XY]:
    for way in ways:
        line = way.line()
        count = max(1, int(line.length // EVERY_M))
        for step in range(count + 1):
            spot = line.interpolate(step / count, normalized=True)
            yield spot.x, spot.y
