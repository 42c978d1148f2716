"""Where a truck can tip, where a pile can stand, and the ways by which chips get from there to each plot."""

import heapq
import itertools
import math
from collections.abc import Callable, Hashable, Mapping, Sequence
from typing import Annotated, Generic, Literal, TypeVar

import numpy as np
from pydantic import BeforeValidator, ConfigDict, Field, model_validator
from shapely import LineString, Point, distance, get_coordinates

from ulmatic.core.figures import Figure, Mark, Source, entered, formula
from ulmatic.core.survey.place import Place
from ulmatic.core.survey.shapes.base import XY, wrong
from ulmatic.core.survey.shapes.plain import read_corners
from ulmatic.core.survey.site_conditions import SiteConditions
from ulmatic.core.units import LENGTH, Coordinate, Length, Offset
from ulmatic.core.value import Value

AS_GOOD_AS_NEAREST = 1.1
"""Of ways hardly farther off than the nearest, the one with the shorter walk is taken."""
JOINED_WITHIN_M = 0.5
"""Ends of ways that come this near to another way, beyond half its width, are taken to meet it."""


_ON_PLAN = Source(mark=Mark.DEFINITION, text="Measured on the plan, along the ways drawn there.")


def _on_plan(name: str, value: float) -> Figure:
    return Figure(name=name, value=value, unit="m", source=_ON_PLAN)


class _Stand(Value):
    """Ground where chips lie for a while: `place` is its middle, `to_wall_m` how far its edge is from a wall."""

    model_config = ConfigDict(extra="forbid")
    place: Place
    length_m: Length
    width_m: Length
    to_wall_m: Offset | None = None

    def size(self) -> Figure:
        """Return its ground in m².

        Returns
        -------
        Figure
        """
        sides = {"l": entered("Length", self.length_m, "m"), "b": entered("Width", self.width_m, "m")}
        return formula("l * b").work("Ground", "m2", sides)


class Tip(_Stand):
    """Where a truck can tip; a hard surface can be scooped from, on a soft one it takes a fork."""

    kind: Literal["tip"] = "tip"
    surface: Literal["hard", "soft"] = "hard"


class PilePlace(_Stand):
    """Where a pile can stand for longer."""

    kind: Literal["pile_place"] = "pile_place"


class Way(Value):
    """A way that a barrow takes: its middle line, its narrowest width, and how far its end lies above its start."""

    model_config = ConfigDict(extra="forbid")
    kind: Literal["way"] = "way"
    points_m: Annotated[
        tuple[XY, ...], BeforeValidator(read_corners, json_schema_input_type=str | list[XY]), Field(max_length=500)
    ]
    width_m: Length
    climb_m: Coordinate = Field(default=0.0, ge=-1_000, le=1_000, allow_inf_nan=False)

    @model_validator(mode="after")
    def _leads_somewhere(self) -> "Way":
        if len(self.points_m) < 2:
            raise wrong("A way needs at least two points: its start and its end.", "points_m")
        if any(not math.isfinite(part) or abs(part) > LENGTH.most for point in self.points_m for part in point):
            raise wrong("A point is too far away. Is the unit right?", "points_m")
        if self.line().length <= 0:
            raise wrong("All points of this way are the same.", "points_m")
        return self

    def line(self) -> LineString:
        """Return its middle line, in metres on the plan.

        Returns
        -------
        LineString
        """
        return LineString(self.points_m)

    def size(self) -> Figure:
        """Return its length in m.

        Returns
        -------
        Figure
        """
        return _on_plan("Length", self.line().length)


def crossings(way: Way, others: Sequence[Way]) -> int:
    """Return how often a way crosses others.

    Parameters
    ----------
    way : Way
    others : sequence of Way

    Returns
    -------
    int
    """
    line = way.line()
    return sum(len(get_coordinates(line.intersection(other.line()))) for other in others)


Landmark = Annotated[Tip | PilePlace | Way, Field(discriminator="kind")]

Key = TypeVar("Key", bound=Hashable)


class Route(Value, Generic[Key]):
    """The shortest walk from a tip to the middle of a plot.

    Attributes
    ----------
    tip : key
        Where it starts.
    to_way_m, along_m, from_way_m : float
        Straight to the ways, along them, and straight on to the plot; off the ways alone when `along_m` is 0.
    climb_m : float
        All that goes up between tip and plot, in metres.
    width_m : float or None
        Of the narrowest way used.
    points : tuple of (x, y)
        To be drawn.
    """

    tip: Key
    to_way_m: float
    along_m: float
    from_way_m: float
    climb_m: float
    width_m: float | None
    points: tuple[XY, ...]

    @property
    def walk_m(self) -> float:
        """One way, in metres."""
        return self.to_way_m + self.along_m + self.from_way_m


class Net:
    """Points joined by pieces of ways, each with its length, its climb and its width."""

    def __init__(self, ways: Sequence[Way]) -> None:
        self.points: list[XY] = []
        self._number: dict[tuple[int, int], int] = {}
        self.pieces: dict[tuple[int, int], tuple[float, float, float | None]] = {}
        self.ways = [(way, way.line()) for way in ways]
        self._stops: list[set[float]] = [self._corners(line) for _, line in self.ways]

    @staticmethod
    def _corners(line: LineString) -> set[float]:
        steps = [math.dist(a, b) for a, b in itertools.pairwise(line.coords)]
        return {0.0, *itertools.accumulate(steps[:-1]), line.length}

    def node(self, point: XY) -> int:
        """Return the number of the node at a point, to the millimetre.

        Returns
        -------
        int
        """
        millimetres = round(point[0] * 1000), round(point[1] * 1000)
        if millimetres not in self._number:
            self._number[millimetres] = len(self.points)
            self.points.append(point)
        return self._number[millimetres]

    def join(self, start: int, end: int, length: float, climb: float, width: float | None) -> None:
        """Join two nodes; of two pieces between the same nodes the shorter counts."""
        if (start != end and (start, end) not in self.pieces) or self.pieces.get((start, end), (0.0,))[0] > length:
            self.pieces[start, end] = (length, climb, width)
            self.pieces[end, start] = (length, -climb, width)

    def stop_at(self, index: int, point: XY) -> XY:
        """Let a way have a node where it is nearest to `point`; return that.

        Returns
        -------
        XY
        """
        line = self.ways[index][1]
        position_m = line.project(Point(point))
        self._stops[index].add(position_m)
        spot = line.interpolate(position_m)
        return spot.x, spot.y

    def nearest(self, points: Sequence[XY]) -> list[list[tuple[int, float]]]:
        """Return for each point the ways that are as good as nearest to it, each with how far off it is.

        Returns
        -------
        list of list of (int, float)
            Numbers of ways, with metres.
        """
        lines = np.array([line for _, line in self.ways])
        spots = np.array([Point(point) for point in points])
        distances = distance(lines[:, None], spots[None, :])
        enough = distances.min(axis=0) * AS_GOOD_AS_NEAREST + JOINED_WITHIN_M
        return [
            [(int(way), float(distances[way, index])) for way in np.flatnonzero(distances[:, index] <= enough[index])]
            for index in range(len(points))
        ]

    def meet(self) -> None:
        """Join ways where they cross, and where one ends beside another."""
        for (this, (first, a)), (two, (second, b)) in itertools.combinations(enumerate(self.ways), 2):
            for x, y in get_coordinates(a.intersection(b)):
                self.stop_at(this, (float(x), float(y)))
                self.stop_at(two, (float(x), float(y)))
            reach_m = max(first.width_m, second.width_m) / 2 + JOINED_WITHIN_M
            for index, line, ends in ((two, b, a.coords), (this, a, b.coords)):
                for x, y in (ends[0], ends[-1]):
                    end = (x, y)
                    distance_m = line.distance(Point(end))
                    if 0 < distance_m <= reach_m:
                        self.join(self.node(end), self.node(self.stop_at(index, end)), distance_m, 0.0, None)

    def lay(self) -> None:
        """Turn the ways into pieces between their stops."""
        for (way, line), stops in zip(self.ways, self._stops, strict=True):
            places = sorted(stops)
            nodes = [self.node((spot.x, spot.y)) for spot in (line.interpolate(position_m) for position_m in places)]
            rise = way.climb_m / line.length
            for (start, end), (low, high) in zip(itertools.pairwise(nodes), itertools.pairwise(places), strict=True):
                self.join(start, end, high - low, rise * (high - low), way.width_m)

    def shortest(self, starts: Sequence[int]) -> tuple[list[float], dict[int, int]]:
        """Return how far each node is from the nearest start, and the node before it on the way.

        Returns
        -------
        (list of float, dict of int to int)
            Metres, infinite where no way leads; starts have none before them.

        References
        ----------
        E. W. Dijkstra (1959), A note on two problems in connexion with graphs, Numerische Mathematik 1, 269-271.
        """
        neighbours: dict[int, list[tuple[int, float]]] = {}
        for (start, end), (length_m, _, _) in self.pieces.items():
            neighbours.setdefault(start, []).append((end, length_m))
        walk, before = [math.inf] * len(self.points), dict[int, int]()
        for start in starts:
            walk[start] = 0.0
        ahead = [(0.0, start) for start in starts]
        while ahead:
            walked_m, node = heapq.heappop(ahead)
            for neighbour, length_m in neighbours.get(node, ()) if walked_m <= walk[node] else ():
                if walked_m + length_m < walk[neighbour]:
                    walk[neighbour], before[neighbour] = walked_m + length_m, node
                    heapq.heappush(ahead, (walk[neighbour], neighbour))
        return walk, before


def routes(tips: Mapping[Key, XY], ways: Sequence[Way], ends: Mapping[Key, XY]) -> dict[Key, Route[Key]]:
    """Find the shortest walk from any tip to each plot.

    One leaves the ways at the point nearest to the plot's middle and goes straight on; where the plot is nearer than
    the ways are, one goes straight to it. Without ways every walk is straight. Shortest walks by Dijkstra's algorithm.

    Parameters
    ----------
    tips, ends : mapping of key to (x, y)
        Middles of tips and plots in metres on the plan.
    ways : sequence of Way

    Returns
    -------
    dict of key to Route
        One for each of `ends`; empty without tips.
    """
    if not tips or not ends:
        return {}
    straight = {end: _straight(tips, point) for end, point in ends.items()}
    if not ways:
        return straight
    net = Net(ways)
    net.meet()
    for (tip, point), neighbours in zip(tips.items(), net.nearest(list(tips.values())), strict=True):
        for index, distance_m in neighbours:
            net.join(net.node(tips[tip]), net.node(net.stop_at(index, point)), distance_m, 0.0, None)
    exits = {
        end: [(net.node(net.stop_at(index, ends[end])), distance_m) for index, distance_m in neighbours]
        for end, neighbours in zip(ends, net.nearest(list(ends.values())), strict=True)
    }
    net.lay()
    sources = {net.node(point): tip for tip, point in tips.items()}
    walk, before = net.shortest(list(sources))
    by_end: dict[Key, Route[Key]] = {}
    for end, point in ends.items():
        node, distance_m = min(exits[end], key=lambda way_out: walk[way_out[0]] + way_out[1])
        route = straight[end]
        if math.isfinite(walk[node]):
            by_way = _along(net, before, node, sources, distance_m, point)
            if route.walk_m > by_way.to_way_m + by_way.from_way_m:
                route = by_way
        by_end[end] = route
    return by_end


def _straight(tips: Mapping[Key, XY], point: XY) -> Route[Key]:
    tip = min(tips, key=lambda key: math.dist(tips[key], point))
    return Route(
        tip=tip,
        to_way_m=math.dist(tips[tip], point),
        along_m=0.0,
        from_way_m=0.0,
        climb_m=0.0,
        width_m=None,
        points=(tips[tip], point),
    )


def _along(
    net: Net, before: Mapping[int, int], node: int, sources: Mapping[int, Key], from_way: float, point: XY
) -> Route[Key]:
    passed = [node]
    while passed[-1] in before:
        passed.append(before[passed[-1]])
    passed.reverse()
    pieces = [net.pieces[pair] for pair in itertools.pairwise(passed)]
    to_way = pieces[0][0] if pieces and pieces[0][2] is None else 0.0
    widths = [width for _, _, width in pieces if width is not None]
    return Route(
        tip=sources[passed[0]],
        to_way_m=to_way,
        along_m=sum(length for length, _, _ in pieces) - to_way,
        from_way_m=from_way,
        climb_m=sum(max(0.0, climb) for _, climb, _ in pieces),
        width_m=min(widths, default=None),
        points=(*(net.points[node] for node in passed), point),
    )


class Access(Value):
    """How chips get to a plot: given, or measured on the plan.

    Attributes
    ----------
    tip : str or None
        The name of the tip the walk was measured from.
    walk, climb, width : Figure or None
        m one way from tip to plot, m up, and m of the narrowest way; None where not known.
    points : tuple of (x, y)
        The walk to be drawn, in metres on the plan; empty where the walk was given.
    """

    tip: str | None = None
    walk: Figure | None = None
    climb: Figure | None = None
    width: Figure | None = None
    points: tuple[XY, ...] = ()


def access(ground: SiteConditions, route: Route[Key] | None, name_of: Callable[[Key], str]) -> Access:
    """Return how chips get to a plot: what was noted goes before what the plan says.

    Parameters
    ----------
    ground : SiteConditions
        Of the plot.
    route : Route or None
        None where there is no tip, or the plot has not been put where it lies.
    name_of : callable
        The name of a tip.

    Returns
    -------
    Access
    """
    limits = {
        "walk": ("Walk from the tip, one way", ground.walk_m),
        "climb": ("Climb from the tip", ground.climb_m),
        "width": ("Narrowest way in", ground.way_width_m),
    }
    figures = {key: entered(name, value, "m") for key, (name, value) in limits.items() if value is not None}
    if route is None:
        return Access.model_validate(figures)
    measured: dict[str, Figure] = {"walk": _walk(route)}
    if route.along_m > 0:
        measured["climb"] = _on_plan("Climb from the tip", route.climb_m)
    if route.width_m is not None:
        measured["width"] = _on_plan("Narrowest way in", route.width_m)
    drawn = {} if ground.walk_m is not None else {"tip": name_of(route.tip), "points": route.points}
    return Access.model_validate({**measured, **figures, **drawn})


def _walk(route: Route[Key]) -> Figure:
    name = "Walk from the tip, one way"
    if route.along_m <= 0:
        note = "Straight line from the tip to the middle of the plot, because no way is nearer."
        return formula("D").work(name, "m", {"D": _on_plan("Straight", route.to_way_m)}, note=note, source=_ON_PLAN)
    terms = {
        "a": _on_plan("Tip to the nearest way", route.to_way_m),
        "b": _on_plan("Along the ways", route.along_m),
        "c": _on_plan("From the ways to the middle of the plot", route.from_way_m),
    }
    return formula("a + b + c").work(name, "m", terms, source=_ON_PLAN)
