"""The carriers there are, the walks that they take, and the fastest that fits through."""

from typing import Literal

import numpy as np
from numpy.typing import NDArray

from ulmatic.core.figures import Parameter
from ulmatic.core.parameters import SHIPPED, Parameters
from ulmatic.core.value import Value
from ulmatic.core.work.carriers import CARRIERS, Carrier, CarrierKind
from ulmatic.core.work.rates import FORK, SCOOP, SPREAD, UNKNOWN_WALK_M, UPHILL

Array = NDArray[np.float64]
Surface = Literal["hard", "soft"]


class Walk(Value):
    """The walk from a tip or pile to a plot: m one way, m up, and m of its narrowest way (None where not known)."""

    walk_m: float = UNKNOWN_WALK_M
    climb_m: float = 0.0
    width_m: float | None = None
    known: bool = False


USUAL_WALK = Walk()


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
        minutes: Array = choose_filling(carrier, surface, parameters).value + parameters.of(SPREAD).value + walked
        return minutes


def choose_filling(carrier: Carrier, surface: Surface, parameters: Parameters) -> Parameter:
    """Return the minutes that a m³ takes to be filled into a carrier, where chips lie hard or soft.

    Parameters
    ----------
    carrier : Carrier
    surface : {"hard", "soft"}
    parameters : Parameters

    Returns
    -------
    Parameter
    """
    return carrier.own_fill or parameters.of(SCOOP if surface == "hard" else FORK)
