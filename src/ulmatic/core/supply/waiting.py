"""Chips that are waited for: what comes unasked, and who of those that wait is served."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from datetime import date
from functools import cached_property

from ulmatic.core.decay import DecayClock
from ulmatic.core.materials import Material
from ulmatic.core.recipe import Accepted
from ulmatic.core.schedule import Laying, Season
from ulmatic.core.stock import Lot
from ulmatic.core.supply.allocate import Want, allocate
from ulmatic.core.supply.suppliers import Bags, Merchant, SupplierTerms, Yard, counted_in

MIDDLE = 15
"""Day of the month by which what comes in a month is taken to be there."""
MONTHS = range(1, 13)


def counts_on(terms: Sequence[SupplierTerms]) -> float:
    """Return the m³ that can be counted on to come unasked in a whole year.

    Parameters
    ----------
    terms : sequence of SupplierTerms

    Returns
    -------
    float
    """
    return sum(sum(counted_in(source, MONTHS).values()) for source in terms)


def sells(terms: Sequence[SupplierTerms]) -> bool:
    """Say whether chips can be bought when they are wanted.

    Parameters
    ----------
    terms : sequence of SupplierTerms

    Returns
    -------
    bool
    """
    return any(isinstance(source, Merchant | Yard | Bags) for source in terms)


@dataclass
class Waiting:
    """What lies here and comes, season by season; what is over stays and rots in its pile.

    Attributes
    ----------
    lots : list of Lot
        On piles, and promised.
    accepts, priorities : sequence
        Of each plot.
    """

    lots: list[Lot]
    suppliers: Sequence[SupplierTerms]
    material: Callable[[str], Material]
    clock: DecayClock
    seasons: Sequence[Season]
    today: date
    accepts: Sequence[Accepted]
    priorities: Sequence[int]
    spare: float

    def __post_init__(self) -> None:
        """Begin today."""
        self._until = self.today

    @cached_property
    def _kept(self) -> list[Lot]:
        return list(self.lots)

    def _comes(self, until: date) -> None:
        """Let come what can be counted on until a day."""
        for year in range(self._until.year, until.year + 1):
            ahead = [month for month in MONTHS if (year, month) > (self.today.year, self.today.month)]
            for source in self.suppliers:
                for month, volume in counted_in(source, ahead).items():
                    day = date(year, month, MIDDLE)
                    if self._until < day <= until:
                        self._kept.append(Lot(self.material(source.material), day, volume, day))
        self._until = max(self._until, until)

    def serve(self, season: int, layings: Sequence[Laying]) -> list[float]:
        """Return the share of each laying that there are chips for.

        As when there is too little: whole plots first, by priority and then by how long they have waited; the rest
        goes to the first that still waits.

        Returns
        -------
        list of float
            Between 0 and 1, in the order of `layings`.
        """
        closes = self.seasons[season].closes
        self._comes(closes)
        volumes = {
            str(number): lot.on(max(lot.as_of, layings[0].on), self.clock).volume_m3
            for number, lot in enumerate(self._kept)
            if lot.as_of <= closes
        }
        order = sorted(
            range(len(layings)),
            key=lambda number: (self.priorities[layings[number].plot], layings[number].wanted_on, layings[number].plot),
        )
        # Plots that accept the same on the same day take the same lots.
        fitting: dict[tuple[Accepted, date], frozenset[str]] = {}
        wants = []
        for number in order:
            laying = layings[number]
            accepted_on = (self.accepts[laying.plot], laying.on)
            if accepted_on not in fitting:
                fitting[accepted_on] = frozenset(
                    key for key in volumes if self._fits(self._kept[int(key)], *accepted_on)
                )
            needs_m3 = laying.loose_m3 * (1 + self.spare)
            wants.append(Want[int](plot=number, needs_m3=needs_m3, accepts=fitting[accepted_on]))
        allocation = allocate(wants, volumes)
        shares = [0.0] * len(layings)
        for share in allocation.shares:
            shares[share.plot] = 1.0 if share.covered else share.gets_m3 / share.needs_m3
            for key, amount in share.gets.items():
                left = volumes[key]
                lot = self._kept[int(key)]
                if left > 0:
                    self._kept[int(key)] = lot.less(lot.volume_m3 * amount / left)
                    volumes[key] = left - amount
        return shares

    def _fits(self, lot: Lot, accepted: Accepted, on: date) -> bool:
        return accepted.fits(lot.material, lot.stage(on, self.clock))
