"""How chips get from tips and piles to plots: legs, hours, the order of laying, and a second tip."""

from collections.abc import Iterator
from uuid import UUID, uuid5

from ulmatic.accounts.scope import Scope
from ulmatic.core.survey import PilePlace, Route, Tip, Way, routes
from ulmatic.core.survey.shapes.base import XY
from ulmatic.core.work.carriers import CARRIERS
from ulmatic.core.work.laying_order import Job, Turn, in_order
from ulmatic.core.work.moving import Fleet, Heap, Leg, Moving, Walk, move, second_tip
from ulmatic.supply.planning import Planning, planning
from ulmatic.supply.schemas import LegOut, MovingSheet, SecondTipOut, TurnOut
from ulmatic.survey.surveyed import Surveyed

TRUCK_WAY_M = 2.5
"""A truck needs a way this wide: common practice, no source."""
EVERY_M = 10.0
MOST_CANDIDATES = 12
ANYWHERE = UUID(int=0)


class Site:
    """A site's heaps, walks and fleet."""

    def __init__(self, plan: Planning) -> None:
        self.plan, self.has = plan, plan.has
        self.wanted = {want.plot: want.needs_m3 for want in plan.wants}
        buying = plan.buying
        self.fleet = Fleet(kinds=buying.carriers, barrow_m3=self.has.site.barrow_m3)
        self.heaps, self.spots = self._heaps()
        self.routes: dict[UUID, dict[UUID, Route[UUID]]] = {
            key: self.routes_from(key, spot) for key, spot in self.spots.items()
        }
        self.walks = {
            (heap.key, plot): self._walk(plot, self.routes.get(heap.key, {}).get(plot), noted=heap.key in self.tips)
            for heap in self.heaps
            for plot in self.wanted
        }

    @property
    def barred(self) -> set[tuple[UUID, UUID]]:
        """Piles, each with a plot that accepts none of what lies there."""
        stock, accepts = self.plan.stock, self.plan.accepts
        return {
            (pile, plot)
            for pile in stock.piles
            for plot in self.wanted
            if not accepts[plot] & stock.by_material(pile).keys()
        }

    @property
    def ways(self) -> list[Way]:
        """The ways drawn on the plan."""
        return [one.landmark for one in self.has.landmarks if isinstance(one.landmark, Way)]

    def routes_from(self, key: UUID, spot: XY) -> dict[UUID, Route[UUID]]:
        """Return the walks from one spot to every plot that was put where it lies."""
        return routes(
            {key: spot}, self.ways, {plot: at for plot, at in self.has.middles.items() if plot in self.wanted}
        )

    def _heaps(self) -> tuple[list[Heap[UUID]], dict[UUID, XY]]:
        places = {one.id: one for one in self.has.landmarks if isinstance(one.landmark, Tip | PilePlace)}
        spots = {
            key: (one.landmark.place.x_m, one.landmark.place.y_m)
            for key, one in places.items()
            if isinstance(one.landmark, Tip | PilePlace)
        }
        heaps: list[Heap[UUID]] = []
        at: dict[UUID, XY] = {}
        for key, pile in self.plan.stock.piles.items():
            there = self.plan.stock.books.stock(key)
            if there > 1e-6:
                place = places.get(pile.landmark_id) if pile.landmark_id else None
                surface = place.landmark.surface if place and isinstance(place.landmark, Tip) else "soft"
                heaps.append(Heap(key=key, name=f"the pile at {pile.name}", surface=surface, there_m3=there))
                if pile.landmark_id in spots:
                    at[key] = spots[pile.landmark_id]
        total = sum(self.wanted.values())
        self.tips = {key for key, one in places.items() if isinstance(one.landmark, Tip)}
        for key in self.tips:
            tip = places[key]
            surface = tip.landmark.surface if isinstance(tip.landmark, Tip) else "hard"
            heaps.append(Heap(key=key, name=f"what is tipped at {tip.name}", surface=surface, there_m3=total))
            at[key] = spots[key]
        if not self.tips:
            self.tips = {ANYWHERE}
            heaps.append(Heap(key=ANYWHERE, name="where it is tipped", there_m3=total))
        return heaps, at

    def _walk(self, plot: UUID, route: Route[UUID] | None, *, noted: bool) -> Walk:
        """Return the walk to a plot; what was noted of the plot is from the tip and goes before what the plan says."""
        found = self.has.plots[plot].found
        walk = {"width_m": found.way_width_m}
        if route is not None:
            walk |= {"walk_m": route.walk_m, "climb_m": route.climb_m, "known": True}
            walk["width_m"] = found.way_width_m or route.width_m
        if noted and found.walk_m is not None:
            walk |= {"walk_m": found.walk_m, "climb_m": found.climb_m or 0.0, "known": True}
        return Walk.model_validate(walk)

    def move(self) -> Moving[UUID]:
        """Share out what is there and what is tipped."""
        return move(self.heaps, self.wanted, self.walks, self.fleet, self.barred)

    def second_tip(self) -> tuple[XY, float, float] | None:
        """Return where a second tip would pay, with the hours now and then."""
        spots = {uuid5(ANYWHERE, str(spot)): spot for spot in _truck_spots(self.ways)}
        if not spots or self.tips == {ANYWHERE}:
            return None
        candidates = {
            key: {plot: self._walk(plot, route, noted=False) for plot, route in self.routes_from(key, spot).items()}
            for key, spot in spots.items()
        }
        found = second_tip(self.heaps, self.wanted, self.walks, candidates, self.fleet, self.barred)
        return (spots[found.place], found.hours_now, found.hours_then) if found else None


def _truck_spots(ways: list[Way]) -> list[XY]:
    """Return spots along ways that a truck gets to, evenly thinned to as many as are tried."""
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


def moving_sheet(scope: Scope, site_id: UUID) -> MovingSheet:
    """Say how a site's chips are moved, and in which order plots are laid."""
    site = Site(planning(scope, site_id))
    moving = site.move()
    legs: dict[UUID, list[Leg[UUID]]] = {}
    for leg in moving.legs:
        legs.setdefault(leg.plot, []).append(leg)
    turns = in_order([_job(site, plot, own) for plot, own in legs.items()])
    tip = site.second_tip()
    rate = site.plan.buying.labour_per_h
    return MovingSheet(
        turns=[_turn(site, turn, legs[turn.plot]) for turn in turns],
        hours=moving.hours,
        people=site.plan.buying.people,
        trips=moving.trips,
        walked_m=moving.walked_m,
        second_tip=SecondTipOut(
            at=tip[0], hours_now=tip[1], hours_then=tip[2], saves=(tip[1] - tip[2]) * rate if rate else None
        )
        if tip
        else None,
    )


def _job(site: Site, plot: UUID, legs: list[Leg[UUID]]) -> Job[UUID]:
    main = max(legs, key=lambda leg: leg.volume_m3)
    route = site.routes.get(main.heap, {}).get(plot)
    walk = site.walks[main.heap, plot].walk_m
    if route is None or plot not in site.has.middles:
        return Job(plot=plot, walk_m=walk)
    return Job(plot=plot, walk_m=walk, walk=route.points, outline=_placed(site.has, plot))


def _placed(has: Surveyed, plot: UUID) -> tuple[tuple[XY, ...], ...]:
    """Return a plot's outlines on the plan."""
    return has.outlines[plot].edges_at(has.places[plot])


def _turn(site: Site, turn: Turn[UUID], legs: list[Leg[UUID]]) -> TurnOut:
    names = {heap.key: heap.name for heap in site.heaps}
    plots = site.has.plots
    known = [site.walks[leg.heap, leg.plot] for leg in legs if leg.known]
    return TurnOut(
        plot_id=turn.plot, plot=plots[turn.plot].name, volume_m3=sum(leg.volume_m3 for leg in legs),
        walk_m=known[0].walk_m if known else None, before=[plots[one].name for one in turn.before],
        over=[plots[one].name for one in turn.over],
        legs=[
            LegOut(
                heap=names[leg.heap], volume_m3=leg.volume_m3, carrier=leg.carrier, trips=leg.trips,
                carrier_name=CARRIERS[leg.carrier].name if leg.carrier else "By hand", walked_m=leg.walked_m,
                hours=leg.hours, known=leg.known,
            )
            for leg in legs
        ],
    )  # fmt: skip
