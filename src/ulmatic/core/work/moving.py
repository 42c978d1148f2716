"""Moving it all: which tip or pile serves which plot, with what, for how long; and where a second tip would pay."""

from collections.abc import Collection, Hashable, Mapping, Sequence
from typing import Generic, Literal, TypeVar

import numpy as np
from pydantic import BaseModel, ConfigDict

from ulmatic.core.figures import Figure, Mark, Parameter, Source, ceil, entered, formula
from ulmatic.core.work.carriers import CARRIERS, Carrier, CarrierKind, fitting
from ulmatic.core.work.haul import FORK, PACE, SCOOP, SPREAD, UNKNOWN_WALK_M, UPHILL
from ulmatic.core.work.transport import transport

Key = TypeVar("Key", bound=Hashable)
Surface = Literal["hard", "soft"]
LEAST_SAVED_H = 1.0
LEAST_SAVED_SHARE = 0.15
"""A second tip is suggested from this on: a judgement, no source."""
SPECK_M3 = 1e-6
NEVER_MIN = 1e9
_LEG = formula("(V * (f + s) + n * (2 * d + u * k) / p) / 60")


class Walk(BaseModel):
    """The walk from a tip or pile to a plot: m one way, m up, and m of its narrowest way (None where not known)."""

    model_config = ConfigDict(frozen=True)
    walk_m: float = UNKNOWN_WALK_M
    climb_m: float = 0.0
    width_m: float | None = None
    known: bool = False


class Heap(BaseModel, Generic[Key]):
    """Where chips lie or will be tipped, and how many m³."""

    model_config = ConfigDict(frozen=True)
    key: Key
    name: str
    surface: Surface = "hard"
    there_m3: float


class Leg(BaseModel, Generic[Key]):
    """So many m³ from a heap to a plot, with what carries it; `carrier` is None where nothing fits through."""

    model_config = ConfigDict(frozen=True)
    heap: Key
    plot: Key
    volume_m3: float
    carrier: CarrierKind | None
    trips: int
    walked_m: float
    hours: Figure
    known: bool


class Moving(BaseModel, Generic[Key]):
    """All legs, and their hours by one person."""

    model_config = ConfigDict(frozen=True)
    legs: tuple[Leg[Key], ...]
    hours: Figure
    trips: int
    walked_m: float


class Fleet(BaseModel):
    """The carriers there are, and what the site's own barrow holds."""

    model_config = ConfigDict(frozen=True)
    kinds: tuple[CarrierKind, ...] = (CarrierKind.BARROW,)
    barrow_m3: float = CARRIERS[CarrierKind.BARROW].volume.value

    def holds(self, carrier: Carrier) -> float:
        """Return what a carrier holds in m³."""
        return self.barrow_m3 if carrier.kind is CarrierKind.BARROW else carrier.volume.value

    def best(self, walk: Walk, surface: Surface) -> Carrier | None:
        """Return the carrier that is fastest of those that fit through; None where none does."""
        through = fitting(self.kinds, walk.width_m)
        return min(through, key=lambda one: self.minutes(one, walk, surface), default=None)

    def minutes(self, carrier: Carrier, walk: Walk, surface: Surface) -> float:
        """Return the minutes that a m³ takes."""
        return (
            _fill(carrier, surface).value + SPREAD.value
            + (2 * walk.walk_m + UPHILL.value * walk.climb_m) / carrier.pace.value / self.holds(carrier)
        )  # fmt: skip


def _fill(carrier: Carrier, surface: Surface) -> Parameter:
    return carrier.own_fill or (SCOOP if surface == "hard" else FORK)


def _leg(heap: Heap[Key], plot: Key, volume: float, walk: Walk, fleet: Fleet) -> Leg[Key]:
    carrier = fleet.best(walk, heap.surface)
    used = carrier or CARRIERS[CarrierKind.BARROW]
    trips = ceil(volume / fleet.holds(used))
    terms = {
        "V": entered("To be moved", volume, "m3"), "f": _fill(used, heap.surface), "s": SPREAD,
        "n": entered("Trips", trips, "trips"), "d": entered("Walk, one way", walk.walk_m, "m"),
        "u": entered("Climb", walk.climb_m, "m"), "k": UPHILL, "p": used.pace if carrier else PACE,
    }  # fmt: skip
    note = "" if walk.known else "This walk is not known and taken as usual."
    return Leg[Key](
        heap=heap.key, plot=plot, volume_m3=volume, carrier=carrier.kind if carrier else None, trips=trips,
        walked_m=2 * trips * walk.walk_m, known=walk.known,
        hours=_LEG.work("Hours by one person", "h", terms, note=note),
    )  # fmt: skip


def move(
    heaps: Sequence[Heap[Key]],
    wanted: Mapping[Key, float],
    walks: Mapping[tuple[Key, Key], Walk],
    fleet: Fleet,
    barred: Collection[tuple[Key, Key]] = (),
) -> Moving[Key]:
    """Share out what lies on tips and piles among plots so that it takes the least time.

    Parameters
    ----------
    heaps : sequence of Heap
    wanted : mapping of plot to m³
    walks : mapping of (heap, plot) to Walk
        Those left out are taken as usual.
    fleet : Fleet
    barred : collection of (heap, plot)
        Heaps that plots do not accept.

    Returns
    -------
    Moving
        A plot that two heaps serve has two legs.
    """
    plots = [plot for plot, volume in wanted.items() if volume > SPECK_M3]
    usual = Walk()
    pairs = [[walks.get((heap.key, plot), usual) for plot in plots] for heap in heaps]
    legs: list[Leg[Key]] = []
    if heaps and plots:
        minutes = [
            [
                fleet.minutes(fleet.best(walk, heap.surface) or CARRIERS[CarrierKind.BARROW], walk, heap.surface)
                for walk in row
            ]
            for heap, row in zip(heaps, pairs, strict=True)
        ]
        for i, heap in enumerate(heaps):
            for j, plot in enumerate(plots):
                minutes[i][j] += NEVER_MIN if (heap.key, plot) in barred else 0.0
        flow = transport([heap.there_m3 for heap in heaps], [wanted[plot] for plot in plots], minutes)
        flow[np.array(minutes) >= NEVER_MIN] = 0.0
        for i, j in np.argwhere(flow > SPECK_M3):
            legs.append(_leg(heaps[i], plots[j], float(flow[i, j]), pairs[i][j], fleet))
    source = Source(mark=Mark.COMPUTED, text="The sum of its legs.")
    return Moving[Key](
        legs=tuple(legs),
        hours=Figure(
            name="Hours of hauling and raking", value=sum(one.hours.value for one in legs), unit="h", source=source,
            low=sum(one.hours.low or one.hours.value for one in legs),
            high=sum(one.hours.high or one.hours.value for one in legs),
        ),
        trips=sum(one.trips for one in legs),
        walked_m=sum(one.walked_m for one in legs),
    )  # fmt: skip


class SecondTip(BaseModel, Generic[Key]):
    """Where one tip more would save most: its place, and the hours by one person without and with it."""

    model_config = ConfigDict(frozen=True)
    place: Key
    hours_now: float
    hours_then: float

    @property
    def saves_h(self) -> float:
        """Hours saved."""
        return self.hours_now - self.hours_then


def second_tip(
    heaps: Sequence[Heap[Key]], wanted: Mapping[Key, float], walks: Mapping[tuple[Key, Key], Walk],
    candidates: Mapping[Key, Mapping[Key, Walk]], fleet: Fleet, barred: Collection[tuple[Key, Key]] = (),
) -> SecondTip[Key] | None:  # fmt: skip
    """Return the candidate place that saves most, where it saves enough to be worth asking for.

    `candidates` gives the walk to each plot from each place; a load tipped there is taken to lie hard and to be
    as large as is wanted.
    """
    total = sum(wanted.values())
    now = move(heaps, wanted, walks, fleet, barred).hours.value
    best: SecondTip[Key] | None = None
    for place, ways in candidates.items():
        more = [*heaps, Heap[Key](key=place, name="", there_m3=total)]
        paths = {**walks, **{(place, plot): walk for plot, walk in ways.items()}}
        then = move(more, wanted, paths, fleet, barred).hours.value
        if best is None or then < best.hours_then:
            best = SecondTip[Key](place=place, hours_now=now, hours_then=then)
    if best is None or best.saves_h < max(LEAST_SAVED_H, LEAST_SAVED_SHARE * now):
        return None
    return best
