"""What can be counted on to come in the years ahead, and what a m³ costs."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date

from ulmatic.core.decay.clock import YEAR_DAYS
from ulmatic.core.renewal import Arrival
from ulmatic.core.supply.suppliers import Bags, Merchant, SupplierSource, Yard, counted_in, price_of_m3
from ulmatic.materials.service import Shelf
from ulmatic.stock.service import Stock

MONTHS = range(1, 13)
MIDDLE = 15
"""Day of the month by which what comes in a month is taken to be there."""


@dataclass(frozen=True)
class Expected:
    """What suppliers bring: unasked in a year, and what the cheapest asks for a m³; `sold` where more can be bought."""

    sources: Sequence[SupplierSource]

    @property
    def year_m3(self) -> float:
        """What can be counted on to come unasked in a whole year."""
        return sum(sum(counted_in(one, MONTHS).values()) for one in self.sources)

    @property
    def price(self) -> float | None:
        """What a m³ of the cheapest costs; None where nobody names a price."""
        return min((price for one in self.sources if (price := price_of_m3(one)) is not None), default=None)

    @property
    def sold(self) -> bool:
        """Whether chips can be bought when they are wanted."""
        return any(isinstance(one, Merchant | Yard | Bags) for one in self.sources)

    def arrivals(self, today: date, years: int, stock: Stock, shelf: Shelf, pace: float) -> list[Arrival]:
        """Return what lies on piles, what was promised, and what can be counted on, by the week it is there.

        `pace` is the decay time of a year, by which what lies on piles has aged.
        """

        def week(on: date) -> int:
            return max(0, -(-(on - today).days // 7))

        found: list[tuple[int, str, float, float]] = []
        for pile in stock.piles:
            for load, volume in stock.lots(pile).items():
                row = stock.deliveries[load]
                days = max(0, (today - (row.chipped_on or row.received_on or today)).days)
                found.append((0, row.material, volume, pace * days / YEAR_DAYS))
        found += [(week(row.expected_on or today), row.material, mean, 0.0) for row, mean in stock.expected()]
        for year in range(today.year, today.year + years + 1):
            ahead = [month for month in MONTHS if (year, month) > (today.year, today.month)]
            for source in self.sources:
                found += [
                    (week(date(year, month, MIDDLE)), source.material, volume, 0.0)
                    for month, volume in counted_in(source, ahead).items()
                ]
        return [
            Arrival(at, material, volume, age)
            for at, key, volume, age in found
            if (material := shelf.get(key)) is not None
        ]
