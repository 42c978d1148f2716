"""Where chips come from: kinds of suppliers, and what can be counted on from each."""

import itertools
import math
from collections.abc import Sequence
from datetime import date
from typing import Annotated, Any, Literal
from uuid import UUID

from pydantic import ConfigDict, Field, model_validator
from typing_extensions import override

from ulmatic.core.stock.load_size import LoadSize
from ulmatic.core.supply.choice import MONTHS, SupplySource
from ulmatic.core.survey.shapes.base import wrong
from ulmatic.core.units import Mass, Money, MoneyPerVolume, Share, Volume
from ulmatic.core.value import Value

COUNTED_ON = 0.8
"""Loads that come by chance are counted as far as they come with this probability: a judgement, no source."""
PLENTY = 400
"""Bags, or deliveries of a merchant, in a month: more than anybody wants."""

Months = Annotated[tuple[Annotated[int, Field(ge=1, le=12)], ...], Field(min_length=1, max_length=MONTHS)]
ALL_YEAR = tuple(range(1, MONTHS + 1))


class _Base(Value):
    """What all kinds share: the material they bring, and the months in which they do (1 is January)."""

    model_config = ConfigDict(extra="forbid")
    material: Annotated[str, Field(max_length=80)]
    months: Months = ALL_YEAR

    def in_months(self, loads: int) -> tuple[int, ...]:
        """Return so many loads for each of its months.

        Returns
        -------
        tuple of int
            In the order of its months.
        """
        return tuple(loads if month in self.months else 0 for month in ALL_YEAR)

    def offer(self, key: str, ahead: tuple[int, ...], density: float) -> SupplySource:
        """Return what can be had.

        Parameters
        ----------
        key : str
        ahead : tuple of int
            Months in question, 1 is January.
        density : float
            Wet, kg/m³, of the material.
        """
        raise NotImplementedError


class _Chance(_Base):
    """Crews that bring a whole load when they work nearby; nobody knows how much it holds."""

    least_m3: Volume
    likely_m3: Volume
    most_m3: Volume
    per_load: Money = 0.0
    chance: Annotated[Share, Field(ge=0)] = 0.5

    @model_validator(mode="before")
    @classmethod
    def _decides_nothing(cls, data: Any) -> Any:
        """Leave out what suppliers kept earlier and nothing reads.

        Returns
        -------
        Any
        """
        return {key: value for key, value in data.items() if key != "nearby_only"} if isinstance(data, dict) else data

    @model_validator(mode="after")
    def _in_order(self) -> "_Chance":
        self.size()
        return self

    def size(self) -> LoadSize:
        """Return the range of one load.

        Returns
        -------
        LoadSize
        """
        return LoadSize(least_m3=self.least_m3, likely_m3=self.likely_m3, most_m3=self.most_m3)

    @override
    def offer(self, key: str, ahead: tuple[int, ...], density: float) -> SupplySource:
        """Return what can be counted on; `ahead` are the months in question.

        Returns
        -------
        SupplySource
        """
        open_months = sum(month in self.months for month in ahead)
        loads = counted_on(open_months, self.chance)
        return SupplySource(
            key=key,
            material=self.material,
            load_m3=self.size().mean_m3,
            size=self.size(),
            per_load=self.per_load,
            arrivals=self.in_months(1),
            loads_at_most=loads,
        )


class Arborist(_Chance):
    """A tree crew: free or for a fee, whole load or nothing."""

    kind: Literal["arborist"] = "arborist"


class Utility(_Chance):
    """Line clearing along a power line or road."""

    kind: Literal["utility"] = "utility"


class Yard(_Base):
    """A municipal yard: fetched by trailer, whose volume and payload both limit a trip."""

    kind: Literal["yard"] = "yard"
    trailer_m3: Volume
    payload_kg: Mass
    per_m3: MoneyPerVolume = 0.0
    per_trip: Money = 0.0
    trips_a_month: Annotated[int, Field(ge=1, le=PLENTY)] = 8

    @override
    def offer(self, key: str, ahead: tuple[int, ...], density: float) -> SupplySource:
        """Return what can be fetched.

        Returns
        -------
        SupplySource
        """
        return SupplySource(
            key=key,
            material=self.material,
            load_m3=self.trailer_m3,
            exact=True,
            per_load=self.per_trip,
            per_m3=self.per_m3,
            payload_kg=self.payload_kg or None,
            density=density,
            arrivals=self.in_months(self.trips_a_month),
        )


class Merchant(_Base):
    """Bulk by the exact volume, from a least volume on, with a price for each delivery."""

    kind: Literal["merchant"] = "merchant"
    truck_m3: Volume
    minimum_m3: Volume | None = None
    per_m3: MoneyPerVolume
    per_load: Money = 0.0
    lead_days: Annotated[int, Field(ge=0, le=365)] = 7

    @model_validator(mode="after")
    def _fits(self) -> "Merchant":
        if self.minimum_m3 is not None and self.minimum_m3 > self.truck_m3:
            raise wrong("The minimum order cannot be more than a truck holds.", "minimum_m3")
        return self

    @override
    def offer(self, key: str, ahead: tuple[int, ...], density: float) -> SupplySource:
        """Return what is delivered.

        Returns
        -------
        SupplySource
        """
        return SupplySource(
            key=key,
            material=self.material,
            load_m3=self.truck_m3,
            exact=True,
            least_m3=self.minimum_m3 or 0.0,
            per_load=self.per_load,
            per_m3=self.per_m3,
            arrivals=self.in_months(PLENTY),
        )


class Bags(_Base):
    """Bags: dearest, and they land where they are needed."""

    kind: Literal["bags"] = "bags"
    bag_m3: Volume
    per_bag: Money

    @override
    def offer(self, key: str, ahead: tuple[int, ...], density: float) -> SupplySource:
        """Return what can be bought.

        Returns
        -------
        SupplySource
        """
        return SupplySource(
            key=key,
            material=self.material,
            load_m3=self.bag_m3,
            per_load=self.per_bag,
            arrivals=self.in_months(100 * PLENTY),
            needs_tip=False,
        )


class Chipper(_Base):
    """A chipper hired by the day: so much a day, as long as there is brush."""

    kind: Literal["chipper"] = "chipper"
    day_m3: Volume
    brush_m3: Volume
    per_day: Money

    @override
    def offer(self, key: str, ahead: tuple[int, ...], density: float) -> SupplySource:
        """Return what days of chipping bring: the brush there is, in whole days.

        Returns
        -------
        SupplySource
        """
        days = max(1, round(self.brush_m3 / self.day_m3 + 0.4999))
        day = min(self.day_m3, self.brush_m3 / days)
        return SupplySource(
            key=key,
            material=self.material,
            load_m3=day,
            per_load=self.per_day,
            arrivals=self.in_months(days),
            loads_at_most=days,
            needs_tip=False,
        )


class Own(_Base):
    """Own prunings, chipped or mown over: so much a year, for nothing."""

    kind: Literal["own"] = "own"
    year_m3: Volume

    @override
    def offer(self, key: str, ahead: tuple[int, ...], density: float) -> SupplySource:
        """Return what there is.

        Returns
        -------
        SupplySource
        """
        return SupplySource(
            key=key,
            material=self.material,
            load_m3=self.year_m3,
            exact=True,
            arrivals=self.in_months(1),
            loads_at_most=1,
            needs_tip=False,
        )


SupplierTerms = Annotated[Arborist | Utility | Yard | Merchant | Bags | Chipper | Own, Field(discriminator="kind")]


def counted_on(months: int, chance: float) -> int:
    """Return how many loads come with a probability of `COUNTED_ON` when each month brings one by `chance`.

    Months are taken as independent, so their number is binomial.

    Parameters
    ----------
    months : int
    chance : float
        In a month, 0 to 1.

    Returns
    -------
    int

    Examples
    --------
    >>> counted_on(3, 0.5)
    1
    """
    if months <= 0 or chance <= 0:
        return 0
    if chance >= 1:
        return months
    at_most = itertools.accumulate(
        math.comb(months, loads) * chance**loads * (1 - chance) ** (months - loads) for loads in range(months + 1)
    )
    return next((loads for loads, share in enumerate(at_most) if share >= 1 - COUNTED_ON), months)


def counted_in(source: SupplierTerms, months: Sequence[int]) -> dict[int, float]:
    """Return the m³ that can be counted on to come unasked in each of some months of one year, in their order.

    Crews bring what comes with a probability of `COUNTED_ON`, a load in the month by which it is that probable; own
    prunings come evenly. What is sold comes when it is asked for, and is none of this.

    Parameters
    ----------
    source : SupplierTerms
        Where it comes from.
    months : sequence of int
        1 to 12.

    Returns
    -------
    dict of int to float
        m³ by month.
    """
    offered_months = [month for month in months if month in source.months]
    match source:
        case Arborist() | Utility():
            loads = [counted_on(count, source.chance) for count in range(len(offered_months) + 1)]
            mean = source.size().mean_m3
            return {
                month: (loads[index + 1] - loads[index]) * mean
                for index, month in enumerate(offered_months)
                if loads[index + 1] > loads[index]
            }
        case Own():
            return dict.fromkeys(offered_months, source.year_m3 / len(source.months))
        case _:
            return {}


def price_of_m3(source: SupplierTerms) -> float | None:
    """Return what a m³ costs in whole loads; None of what comes too seldom, or is not asked for by the m³.

    Parameters
    ----------
    source : SupplierTerms
        Where it comes from.

    Returns
    -------
    float or None
    """
    match source:
        case Arborist() | Utility():
            return source.per_load / source.size().mean_m3 if counted_on(len(source.months), source.chance) else None
        case Merchant():
            return source.per_m3 + source.per_load / source.truck_m3
        case Yard():
            return source.per_m3 + source.per_trip / source.trailer_m3
        case _:
            return None


UNNAMED = "unnamed"
"""The source where nobody is named: loads of the site's usual size, whose price is not known."""


class Supplier(Value):
    """Somebody chips can be had from; prices are in their currency."""

    id: UUID
    name: str
    currency: str
    source: SupplierTerms


def months_ahead(today: date, wanted_by: date | None) -> tuple[int, ...]:
    """Return the months (1 to 12) from today to the date wanted, each once; a whole year where none is given.

    Parameters
    ----------
    today : date
    wanted_by : date or None

    Returns
    -------
    tuple of int

    Examples
    --------
    >>> from datetime import date
    >>> months_ahead(date(2026, 11, 10), date(2027, 2, 1))
    (11, 12, 1, 2)
    """
    if wanted_by is None:
        count = MONTHS
    else:
        count = min(MONTHS, max(0, (wanted_by.year - today.year) * 12 + wanted_by.month - today.month + 1))
    return tuple((today.month - 1 + step) % 12 + 1 for step in range(count))
