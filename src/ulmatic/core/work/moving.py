"""Moving it all: which tip or pile serves which plot, with what, for how long; and where a second tip would pay."""

from collections.abc import Collection, Mapping, Sequence
from typing import Generic

import numpy as np
from numpy.typing import NDArray

from ulmatic.core.figures import ceil
from ulmatic.core.programmes import minimum, shared_rows
from ulmatic.core.stock.books import SPECK_M3
from ulmatic.core.value import Value
from ulmatic.core.work.carriers import CarrierKind
from ulmatic.core.work.fleet import USUAL_WALK, Array, Fleet, Surface, Walk
from ulmatic.core.work.legs import Key, Leg, Moving

LEAST_SAVED_H = 1.0
LEAST_SAVED_SHARE = 0.15
"""A second tip is suggested from this on: a judgement, no source."""
TIPPED = "tipped"
"""The pool of what is still to be tipped, wherever that will be."""


class LoadingPlace(Value, Generic[Key]):
    """Where chips lie or will be tipped, and how many m³; places of one pool hold that together."""

    key: Key
    name: str
    surface: Surface = "hard"
    available_m3: float
    pool: str = ""


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
