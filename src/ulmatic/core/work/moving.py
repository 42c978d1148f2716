"""Moving it all: which tip or pile serves which plot, with what, for how long; and where a second tip would pay."""

from collections.abc import Collection, Hashable, Mapping, Sequence
from dataclasses import dataclass
from typing import Generic, Literal, NamedTuple, TypeVar

import numpy as np
from numpy.typing import NDArray

from ulmatic.core.figures import Figure, Mark, Parameter, Source, ceil, entered, formula
from ulmatic.core.parameters import SHIPPED, Parameters
from ulmatic.core.programmes import minimum, shared_rows
from ulmatic.core.stock.books import SPECK_M3
from ulmatic.core.value import Value
from ulmatic.core.work.carriers import CARRIERS, Carrier, CarrierKind
from ulmatic.core.work.rates import FORK, PACE, SCOOP, SPREAD, UNKNOWN_WALK_M, UPHILL

Key = TypeVar("Key", bound=Hashable)
Array = NDArray[np.float64]
Surface = Literal["hard", "soft"]
LEAST_SAVED_H = 1.0
LEAST_SAVED_SHARE = 0.15
"""A second tip is suggested from this on: a judgement, no source."""
HOURS = formula("(V * (f + s) + n * (2 * d + u * k) / p) / 60")
_SUM = Source(mark=Mark.COMPUTED, text="The sum of its legs, by one person.")


class Walk(Value):
    """The walk from a tip or pile to a plot: m one way, m up, and m of its narrowest way (None where not known)."""

    walk_m: float = UNKNOWN_WALK_M
    climb_m: float = 0.0
    width_m: float | None = None
    known: bool = False


USUAL_WALK = Walk()
TIPPED = "tipped"
"""The pool of what is still to be tipped, wherever that will be."""


class LoadingPlace(Value, Generic[Key]):
    """Where chips lie or will be tipped, and how many m³; places of one pool hold that together."""

    key: Key
    name: str
    surface: Surface = "hard"
    available_m3: float
    pool: str = ""


class PersonHours(NamedTuple):
    """Person-hours with their range."""

    low: float
    value: float
    high: float


@dataclass(frozen=True)
class Leg(Generic[Key]):
    """So many m³ from a loading place to a plot, with what carries it; `carrier` is None where nothing fits through."""

    place: Key
    plot: Key
    volume_m3: float
    carrier: CarrierKind | None
    trips: int
    walk: Walk
    surface: Surface
    parameters: Parameters = SHIPPED

    @property
    def walked_m(self) -> float:
        """There and back."""
        return 2 * self.trips * self.walk.walk_m

    def hours_at(self, end: int) -> float:
        """Return the person-hours at the low ends of its rates, their values, or the high ends.

        Parameters
        ----------
        end : int
            0, 1 or 2.

        Returns
        -------
        float
        """
        fill, spread, uphill, pace = self._rates
        return HOURS(
            V=self.volume_m3,
            f=ends(fill)[end],
            s=ends(spread)[end],
            n=self.trips,
            d=self.walk.walk_m,
            u=self.walk.climb_m,
            k=ends(uphill)[end],
            p=ends(pace)[2 - end],
        )

    @property
    def usual_h(self) -> float:
        """Person-hours at usual rates."""
        return self.hours_at(1)

    @property
    def hours(self) -> PersonHours:
        """Person-hours; slow and fast rates at their ends."""
        return PersonHours(*map(self.hours_at, range(3)))

    def figure(self) -> Figure:
        """Return its hours with their working.

        Returns
        -------
        Figure
            Person-hours.
        """
        fill, spread, uphill, pace = self._rates
        terms = {
            "V": entered("Volume to move", self.volume_m3, "m3"),
            "f": fill,
            "s": spread,
            "n": entered("Trips", self.trips, "trips"),
            "d": entered("Walk, one way", self.walk.walk_m, "m"),
            "u": entered("Climb", self.walk.climb_m, "m"),
            "k": uphill,
            "p": pace,
        }
        note = "" if self.walk.known else "The walking distance is not known; the usual one is used."
        return HOURS.work("Hours by one person", "h", terms, note=note)

    @property
    def _rates(self) -> tuple[Parameter, Parameter, Parameter, Parameter]:
        """Filling, spreading, climbing and pace."""
        parameters = self.parameters
        carrier = CARRIERS[self.carrier or CarrierKind.BARROW].with_parameters(parameters)
        pace = carrier.pace if self.carrier else parameters.of(PACE)
        return _fill(carrier, self.surface, parameters), parameters.of(SPREAD), parameters.of(UPHILL), pace


def ends(rate: Parameter) -> tuple[float, float, float]:
    """Return a rate's low end, its value and its high end.

    Parameters
    ----------
    rate : Parameter

    Returns
    -------
    (float, float, float)
    """
    low, high = rate.low, rate.high
    return rate.value if low is None else low, rate.value, rate.value if high is None else high


@dataclass(frozen=True)
class Moving(Generic[Key]):
    """All legs, with their trips and person-hours."""

    legs: tuple[Leg[Key], ...]

    @property
    def trips(self) -> int:
        """Of all legs."""
        return sum(leg.trips for leg in self.legs)

    @property
    def walked_m(self) -> float:
        """Of all legs."""
        return sum(leg.walked_m for leg in self.legs)

    def hours_at(self, end: int) -> float:
        """Return the person-hours of all legs at the low ends of their rates, their values, or the high ends.

        Parameters
        ----------
        end : int
            0, 1 or 2.

        Returns
        -------
        float
        """
        return sum(leg.hours_at(end) for leg in self.legs)

    @property
    def usual_h(self) -> float:
        """Person-hours of all legs at usual rates."""
        return self.hours_at(1)

    @property
    def hours(self) -> PersonHours:
        """Of all legs, slow and fast together."""
        return PersonHours(*map(self.hours_at, range(3)))

    def figure(self) -> Figure:
        """Return the hours in all with their range.

        Returns
        -------
        Figure
            Person-hours.
        """
        hours = self.hours
        return Figure(
            name="Hours of hauling and raking", value=hours.value, low=hours.low, high=hours.high, unit="h", source=_SUM
        )


class Fleet(Value):
    """The carriers there are, and what the site's own barrow holds."""

    kinds: tuple[CarrierKind, ...] = (CarrierKind.BARROW,)
    barrow_m3: float = CARRIERS[CarrierKind.BARROW].volume.value
    parameters: Parameters = SHIPPED

    def carrier(self, kind: CarrierKind) -> Carrier:
        """Return a carrier with the figures that hold here.

        Returns
        -------
        Carrier
        """
        return CARRIERS[kind].with_parameters(self.parameters)

    def holds(self, kind: CarrierKind) -> float:
        """Return what a carrier holds in m³.

        Returns
        -------
        float
        """
        return self.barrow_m3 if kind is CarrierKind.BARROW else self.carrier(kind).volume.value

    def minutes_per_m3(self, walk: Walk, surface: Surface = "hard") -> float:
        """Return the minutes that a m³ takes on a walk.

        Returns
        -------
        float
        """
        width = np.inf if walk.width_m is None else walk.width_m
        minutes, _ = self.best(np.array([walk.walk_m]), np.array([walk.climb_m]), np.array([width]), surface)
        return float(minutes[0])

    def best(self, walk_m: Array, climb_m: Array, width_m: Array, surface: Surface) -> tuple[Array, NDArray[np.int_]]:
        """Return the minutes that a m³ takes on each walk, and the fastest carrier that fits through.

        Parameters
        ----------
        walk_m, climb_m, width_m : ndarray, shape (n,)
            Widths are infinite where they are not known.
        surface : {"hard", "soft"}

        Returns
        -------
        minutes : ndarray, shape (n,)
        carrier : ndarray of int, shape (n,)
            Index into `kinds`; −1 where nothing fits, which is then counted as a barrow's work.
        """
        each = np.array(
            [
                np.where(
                    self.carrier(kind).width.value <= width_m + 1e-9,
                    self._minutes(kind, walk_m, climb_m, surface),
                    np.inf,
                )
                for kind in self.kinds
            ]
        )
        minutes, carrier = each.min(axis=0), each.argmin(axis=0)
        by_hand = self._minutes(CarrierKind.BARROW, walk_m, climb_m, surface)
        nothing = np.isinf(minutes)
        return np.where(nothing, by_hand, minutes), np.where(nothing, -1, carrier)

    def _minutes(self, kind: CarrierKind, walk_m: Array, climb_m: Array, surface: Surface) -> Array:
        """Return the minutes that a m³ takes.

        Returns
        -------
        ndarray
            Of the shape of `walk_m`.
        """
        carrier, parameters = self.carrier(kind), self.parameters
        walked = (2 * walk_m + parameters.of(UPHILL).value * climb_m) / carrier.pace.value / self.holds(kind)
        minutes: Array = _fill(carrier, surface, parameters).value + parameters.of(SPREAD).value + walked
        return minutes


def _fill(carrier: Carrier, surface: Surface, parameters: Parameters) -> Parameter:
    return carrier.own_fill or parameters.of(SCOOP if surface == "hard" else FORK)


def move(
    places: Sequence[LoadingPlace[Key]],
    volumes: Mapping[Key, float],
    walks: Mapping[tuple[Key, Key], Walk],
    fleet: Fleet,
    barred: Collection[tuple[Key, Key]] = (),
) -> Moving[Key]:
    """Share out what lies on tips and piles among plots so that it takes the least time.

    The transport problem, by linear programming.

    Parameters
    ----------
    places : sequence of LoadingPlace
    volumes : mapping of plot to m³
    walks : mapping of (place, plot) to Walk
        Those left out are taken as usual.
    fleet : Fleet
    barred : collection of (place, plot)
        Loading places that plots do not accept.

    Returns
    -------
    Moving
        A plot that two places serve has two legs.
    """
    plots = [plot for plot, volume in volumes.items() if volume > SPECK_M3]
    if not places or not plots:
        return Moving(())
    pairs = [[walks.get((place.key, plot), USUAL_WALK) for plot in plots] for place in places]
    minutes, carriers = np.empty((len(places), len(plots))), np.empty((len(places), len(plots)), dtype=int)
    for index, (place, row) in enumerate(zip(places, pairs, strict=True)):
        walk, climb = np.array([walked.walk_m for walked in row]), np.array([walked.climb_m for walked in row])
        width = np.array([np.inf if walked.width_m is None else walked.width_m for walked in row])
        minutes[index], carriers[index] = fleet.best(walk, climb, width, place.surface)
    if barred:
        closed = set(barred)
        bars = [[(place.key, plot) in closed for plot in plots] for place in places]
        minutes = np.where(bars, np.inf, minutes)
    pools: dict[object, float] = {place.pool or place.key: place.available_m3 for place in places}
    names = list(pools)
    of_pool = np.array([names.index(place.pool or place.key) for place in places])
    flow = transported(list(pools.values()), of_pool, [volumes[plot] for plot in plots], minutes)
    legs = []
    for i, j in np.argwhere(flow > SPECK_M3):
        kind = fleet.kinds[carriers[i, j]] if carriers[i, j] >= 0 else None
        volume = float(flow[i, j])
        legs.append(
            Leg(
                place=places[i].key,
                plot=plots[j],
                volume_m3=volume,
                carrier=kind,
                trips=ceil(volume / fleet.holds(kind or CarrierKind.BARROW)),
                walk=pairs[i][j],
                surface=places[i].surface,
                parameters=fleet.parameters,
            )
        )
    return Moving(tuple(legs))


def transported(
    available_m3: Sequence[float], of_pool: NDArray[np.int_], volumes: Sequence[float], cost: Array
) -> Array:
    """Return what goes from each source to each sink so that as much as can be is served, at least cost.

    Parameters
    ----------
    available_m3 : sequence of float, length p
        What each pool of sources holds.
    of_pool : ndarray of int, shape (m,)
        The pool of each source.
    volumes : sequence of float, length n
    cost : ndarray, shape (m, n)
        For each m³; infinite where nothing may go.

    Returns
    -------
    ndarray, shape (m, n)
    """
    sources, sinks = np.nonzero(np.isfinite(cost))
    flow = np.zeros(cost.shape)
    if not sources.size:
        return flow
    bounds = np.array([*available_m3, *volumes])
    rows = shared_rows(of_pool[sources], sinks, np.ones(sources.size), len(available_m3), bounds.size)
    price = cost[sources, sinks]
    # Whatever it costs, what can be served is served.
    worth = 10 * (1 + price.max())
    flow[sources, sinks] = minimum(price - worth, rows, -np.inf, bounds).point
    return flow


class SecondTip(Value, Generic[Key]):
    """Where one tip more would save most: its place, and the hours by one person without and with it."""

    place: Key
    hours_now: float
    hours_then: float

    @property
    def saves_h(self) -> float:
        """Hours saved."""
        return self.hours_now - self.hours_then


def second_tip(
    places: Sequence[LoadingPlace[Key]],
    volumes: Mapping[Key, float],
    walks: Mapping[tuple[Key, Key], Walk],
    candidates: Mapping[Key, Mapping[Key, Walk]],
    fleet: Fleet,
    barred: Collection[tuple[Key, Key]] = (),
) -> SecondTip[Key] | None:
    """Return the candidate place that saves most, where it saves enough to be worth asking for.

    `candidates` gives the walk to each plot from each candidate; what is tipped there is taken to lie hard.

    Parameters
    ----------
    places : sequence of LoadingPlace
    volumes : Mapping[Key, float]
        Loose m³ by plot.
    walks : Mapping[tuple[Key, Key], Walk]
        By place and plot.
    candidates : Mapping[Key, Mapping[Key, Walk]]
        By candidate place and plot.
    fleet : Fleet
    barred : Collection[tuple[Key, Key]]
        Loading place and plot that do not go together.

    Returns
    -------
    SecondTip or None
        None where none saves enough.
    """
    tipped = max((place.available_m3 for place in places if place.pool == TIPPED), default=0.0)
    present_h = move(places, volumes, walks, fleet, barred).usual_h
    best: SecondTip[Key] | None = None
    for candidate, ways in candidates.items():
        more = [*places, LoadingPlace[Key](key=candidate, name="", available_m3=tipped, pool=TIPPED)]
        paths = {**walks, **{(candidate, plot): walk for plot, walk in ways.items()}}
        with_second_h = move(more, volumes, paths, fleet, barred).usual_h
        if best is None or with_second_h < best.hours_then:
            best = SecondTip[Key](place=candidate, hours_now=present_h, hours_then=with_second_h)
    if best is None or best.saves_h < max(LEAST_SAVED_H, LEAST_SAVED_SHARE * present_h):
        return None
    return best
