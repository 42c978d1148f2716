"""Needs, sources and limits of an order, and the choices that cover them."""

from decimal import Decimal
from math import floor
from typing import NamedTuple

from pydantic import Field

from ulmatic.core.figures import ceil
from ulmatic.core.stock.load_size import LoadSize
from ulmatic.core.supply.certainty import Lot
from ulmatic.core.units.currency import exact, rounded
from ulmatic.core.value import Value

MONTHS = 12
NO_LIMIT = 10_000
SURER = 0.05
"""By so much a choice is surer than another, where that is said."""


class SupplySource(Value):
    """Somebody who brings a material.

    Attributes
    ----------
    load_m3 : float
        What one load holds, on average where its `size` is unknown; of an exact source the most that one delivery
        holds.
    exact : bool
        Brings any amount up to a load instead of whole loads; `least_m3` is its minimum.
    per_load, per_m3 : float
        Price of a delivery and of a m³, in the site's currency.
    payload_kg, density : float or None
        Limit of weight, and wet density in kg/m³: a load then holds no more than ``payload_kg / density``.
    arrivals : tuple of int
        Loads that can come in each month, January first.
    loads_at_most : int or None
        In all months together.
    needs_tip : bool
        Whether a load is tipped in one pile.
    step_m3 : float
        What an exact source measures out by; 0 where it is as fine as anybody likes.
    currency : str
        Of its prices.
    """

    key: str
    material: str
    load_m3: float = Field(gt=0)
    size: LoadSize | None = None
    exact: bool = False
    least_m3: float = 0.0
    per_load: float = Field(default=0.0, ge=0)
    per_m3: float = Field(default=0.0, ge=0)
    payload_kg: float | None = None
    density: float | None = None
    arrivals: tuple[int, ...] = (1,) * MONTHS
    loads_at_most: int | None = None
    needs_tip: bool = True
    step_m3: float = 0.0
    currency: str = "EUR"

    def sold_m3(self, volume_m3: float, loads: int, *, rounds_up: bool = True) -> float:
        """Return what is sold where so much is wanted: whole steps of an exact source, as its loads hold them.

        Returns
        -------
        float
            m³.
        """
        if not self.exact:
            return loads * self.holds_m3
        if self.step_m3 <= 0:
            return volume_m3
        if not rounds_up:
            return floor(volume_m3 / self.step_m3 + 1e-9) * self.step_m3
        return min(ceil(volume_m3 / self.step_m3) * self.step_m3, max(volume_m3, loads * self.holds_m3))

    def material_price(self, volume_m3: float, loads: int) -> Decimal:
        """Return the price of what is sold, without its delivery: by steps, so that it is that of the price typed.

        Returns
        -------
        Decimal
            In the currency of the source.
        """
        if not self.exact:
            return rounded((exact(self.per_load) + exact(self.per_m3 * self.holds_m3)) * loads, self.currency)
        if self.step_m3 <= 0:
            return rounded(exact(self.per_m3) * exact(volume_m3), self.currency)
        return rounded(exact(self.per_m3 * self.step_m3) * exact(volume_m3 / self.step_m3), self.currency)

    def delivery_price(self, loads: int) -> Decimal:
        """Return the price of so many deliveries of an exact source; whole loads have theirs in the price of a load.

        Returns
        -------
        Decimal
            In the currency of the source.
        """
        return rounded(exact(self.per_load) * loads if self.exact else 0, self.currency)

    def price(self, volume_m3: float, loads: int) -> Decimal:
        """Return what so much costs; the one rule, of orders, bookings and quotes alike.

        Returns
        -------
        Decimal
            In the currency of the source.
        """
        return self.material_price(volume_m3, loads) + self.delivery_price(loads)

    @property
    def holds_m3(self) -> float:
        """What one load holds by volume and weight."""
        if self.payload_kg is None or not self.density:
            return self.load_m3
        return min(self.load_m3, self.payload_kg / self.density)

    @property
    def pile_m3(self) -> float:
        """What one load may hold at most, which the tip must take."""
        return self.size.most_m3 if self.size else self.holds_m3


class Need(Value):
    """So many m³ of any of these materials.

    Attributes
    ----------
    accepts : frozenset of str
        Keys of sources' materials.
    yields : tuple of (str, float)
        What a m³ of a material is worth here, as it settles more or less than the one planned; 1 where it is not said.
    """

    volume_m3: float = Field(ge=0)
    accepts: frozenset[str]
    yields: tuple[tuple[str, float], ...] = ()

    def worth(self, material: str) -> float:
        """Return what a m³ of a material is worth; 0 where it is not accepted.

        Returns
        -------
        float
            m³ of the planned material.
        """
        return dict(self.yields).get(material, 1.0) if material in self.accepts else 0.0


class Coming(NamedTuple):
    """Loads of unknown size that come anyway, with what is counted of them."""

    loads: tuple[Lot, ...]
    counted_m3: float


NOTHING_COMES = Coming((), 0.0)


class Limits(Value):
    """What holds an order back: months it may come in (0 is January), in order; m³ the tip holds; the money there is.

    `sure` is the certainty wanted that all loads together are enough.
    """

    months: tuple[int, ...] = tuple(range(MONTHS))
    tip_m3: float | None = None
    budget: float | None = None
    sure: float = 0.5


class Purchase(Value):
    """So many loads of one source, m³ in all, with the loads that come in each month (0 is January)."""

    source: str
    loads: int
    volume_m3: float
    cost: float
    by_month: tuple[tuple[int, int], ...] = ()


class Choice(Value):
    """One way to cover the need.

    Attributes
    ----------
    short_m3 : float
        What stays uncovered, where a limit lets no choice cover all.
    enough : float
        Probability that loads of unknown size together hold what is needed.
    gap : float
        Share of its cost by which another choice could be cheaper: 0 unless the search was stopped by its limit.
    """

    purchases: tuple[Purchase, ...]
    cost: float
    volume_m3: float
    left_over_m3: float
    short_m3: float = 0.0
    enough: float = 1.0
    gap: float = 0.0


class Chosen(Value):
    """The cheapest choices, the best first; none where a limit forbids all.

    Then `binding` says which limit does, and `nearest` is the choice that covers most. `complete` says that no better
    choice than those was left out.
    """

    choices: tuple[Choice, ...]
    binding: str | None = None
    nearest: Choice | None = None
    complete: bool = True
