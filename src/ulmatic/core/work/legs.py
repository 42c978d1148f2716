"""So many m³ from a tip or pile to a plot: trips, and person-hours with their range."""

from abc import ABC, abstractmethod
from collections.abc import Hashable
from dataclasses import dataclass
from typing import Generic, NamedTuple, TypeVar

from ulmatic.core.figures import Figure, Mark, Parameter, Source, entered, formula
from ulmatic.core.parameters import SHIPPED, Parameters
from ulmatic.core.work.carriers import CARRIERS, CarrierKind
from ulmatic.core.work.fleet import Surface, Walk, choose_filling
from ulmatic.core.work.rates import PACE, SPREAD, UPHILL

Key = TypeVar("Key", bound=Hashable)
HOURS = formula("(V * (f + s) + n * (2 * d + u * k) / p) / 60")
_SUM = Source(mark=Mark.COMPUTED, text="The sum of its legs, by one person.")


class PersonHours(NamedTuple):
    """Person-hours with their range."""

    low: float
    value: float
    high: float


class TimedWork(ABC):
    """Work whose hours follow from rates with a range."""

    @abstractmethod
    def hours_at(self, end: int) -> float:
        """Return the person-hours at the low ends of rates, their values, or the high ends.

        Parameters
        ----------
        end : int
            0, 1 or 2.

        Returns
        -------
        float
        """

    @property
    def usual_h(self) -> float:
        """Person-hours at usual rates."""
        return self.hours_at(1)

    @property
    def hours(self) -> PersonHours:
        """Person-hours; slow and fast rates at their ends."""
        return PersonHours(*map(self.hours_at, range(3)))


@dataclass(frozen=True)
class Leg(TimedWork, Generic[Key]):
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
        """Return the person-hours of filling, spreading and walking; see `TimedWork`.

        Returns
        -------
        float
        """
        filling, spread, uphill, pace = self._rates
        return HOURS(
            V=self.volume_m3,
            f=ends(filling)[end],
            s=ends(spread)[end],
            n=self.trips,
            d=self.walk.walk_m,
            u=self.walk.climb_m,
            k=ends(uphill)[end],
            p=ends(pace)[2 - end],
        )

    def figure(self) -> Figure:
        """Return its hours with their working.

        Returns
        -------
        Figure
            Person-hours.
        """
        filling, spread, uphill, pace = self._rates
        terms = {
            "V": entered("Volume to move", self.volume_m3, "m3"),
            "f": filling,
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
        return choose_filling(carrier, self.surface, parameters), parameters.of(SPREAD), parameters.of(UPHILL), pace


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
class Moving(TimedWork, Generic[Key]):
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
        """Return the person-hours of all legs, slow and fast together; see `TimedWork`.

        Returns
        -------
        float
        """
        return sum(leg.hours_at(end) for leg in self.legs)

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
