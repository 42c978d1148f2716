"""What can be counted on to come in the years ahead, and what a m³ costs."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date

from ulmatic.core.renewal import Arrival
from ulmatic.core.supply.sources import Bags, Merchant, SupplierSource, Yard, counted_in, price_of_m3
from ulmatic.supply.stock import Stock

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

    def arrivals(self, today: date, years: int, stock: Stock) -> list[Arrival]:
        """Return what lies on piles, what was promised, and what can be counted on, by the week it is there."""

        def week(on: date) -> int:
            return max(0, -(-(on - today).days // 7))

        found = [
            Arrival(0, material, volume) for pile in stock.piles for material, volume in stock.by_material(pile).items()
        ]
        found += [Arrival(week(row.expected_on or today), row.material, mean) for row, mean in stock.expected()]
        for year in range(today.year, today.year + years + 1):
            ahead = [month for month in MONTHS if (year, month) > (today.year, today.month)]
            for source in self.sources:
                found += [
                    Arrival(week(date(year, month, MIDDLE)), source.material, volume)
                    for month, volume in counted_in(source, ahead).items()
                ]
        return found
