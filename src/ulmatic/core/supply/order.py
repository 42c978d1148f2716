"""The order of a season: what is needed, less what lies here and is coming, as loads from sources."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace
from datetime import date, timedelta
from decimal import Decimal
from functools import cached_property

import numpy as np

from ulmatic.core.materials import Stage
from ulmatic.core.stock import Lot
from ulmatic.core.stock.books import SPECK_M3
from ulmatic.core.supply.certainty import Certainty, certainty, chance_of_sum
from ulmatic.core.supply.choice import Choice, Purchase
from ulmatic.core.supply.chosen import ChosenLine, ChosenLoads
from ulmatic.core.supply.sourcing import NOTHING, Interchangeable, Sourcing
from ulmatic.core.supply.suppliers import UNNAMED, Merchant
from ulmatic.core.value import Value


class OrderLine(Value):
    """What is still to be had of one source.

    Attributes
    ----------
    price : Decimal or None
        Of all of it; None where it is not known.
    stage : Stage or None
        How far rotted it has to come, where it is not fresh.
    exact : bool
        Its source brings any amount.
    by_month : tuple of (int, int)
        Loads that come in each month (0 is January).
    """

    source: str
    name: str
    kind: str
    material: str
    material_name: str
    loads: int
    volume_m3: float
    price: Decimal | None
    stage: Stage | None = None
    exact: bool = False
    by_month: tuple[tuple[int, int], ...] = ()


@dataclass
class SeasonOrder(Sourcing):
    """What is to be had of whom for a season.

    Attributes
    ----------
    chosen : ChosenLoads or None
        The user's own choice.
    booked : mapping of source to (loads, m³)
        What was booked for the season already.
    """

    chosen: ChosenLoads | None = None
    booked: Mapping[str, tuple[int, float]] = field(default_factory=dict)

    @cached_property
    def decided(self) -> list[ChosenLine] | None:
        """What was decided for the season, of sources that are still there."""
        if self.chosen is None:
            return None
        sources = {*self.sources, UNNAMED}
        lines = [line for line in self.chosen.lines if line.source in sources]
        return lines or (None if self.chosen.lines else [])

    @cached_property
    def lines(self) -> list[OrderLine]:
        """What is still to be had, by source."""
        if self.decided is not None:
            return self._decided_lines(self.decided)
        chosen = self.best
        choice = chosen.choices[0] if chosen.choices else chosen.nearest or NOTHING
        return self.lines_of(choice)

    def lines_of(self, choice: Choice) -> list[OrderLine]:
        """Return a choice's purchases as lines.

        Returns
        -------
        list of OrderLine
        """
        return [self._line(bought) for bought in choice.purchases]

    def _line(self, bought: Purchase) -> OrderLine:
        offered = self.source_of(bought.source)
        return OrderLine(
            source=bought.source,
            name=offered.name,
            kind=offered.kind,
            material=offered.material.key,
            material_name=offered.material.name,
            loads=bought.loads,
            volume_m3=bought.volume_m3,
            price=offered.source.price(bought.volume_m3, bought.loads) if offered.supplier else None,
            stage=offered.stage,
            exact=offered.source.exact,
            by_month=bought.by_month,
        )

    def booked_of(self, source: str) -> tuple[int, float]:
        """Return the loads of a source that are booked for the season already, and their m³.

        Returns
        -------
        (int, float)
        """
        return self.booked.get(UNNAMED if source.startswith(UNNAMED) else source, (0, 0.0))

    def _decided_lines(self, decided: Sequence[ChosenLine]) -> list[OrderLine]:
        """Return what was decided, less what was booked for the season already.

        Returns
        -------
        list of OrderLine
        """
        lines = []
        for line in decided:
            booked, booked_m3 = self.booked_of(line.source)
            source = self.source_of(line.source).source
            loads = max(0, line.loads - booked)
            volume = loads * source.holds_m3
            if line.volume_m3 is not None and source.exact:
                volume = max(0.0, line.volume_m3 - booked_m3)
                loads = int(np.ceil(volume / source.holds_m3 - 1e-9))
            if loads > 0:
                volume = source.sold_m3(volume, loads)
                cost = float(source.price(volume, loads))
                lines.append(self._line(Purchase(source=line.source, loads=loads, volume_m3=volume, cost=cost)))
        return lines

    def mulch_m3(self, lines: Sequence[OrderLine]) -> float:
        """Return the m³ of some lines that are mulch.

        Returns
        -------
        float
        """
        return sum(
            line.volume_m3 for line in lines if line.material not in self.beneath or self._is_mulch(line.material)
        )

    @property
    def ordered_m3(self) -> float:
        """Mulch that is ordered."""
        return self.mulch_m3(self.lines)

    def _is_mulch(self, key: str) -> bool:
        return any(key in group.accepts.materials for group in self.groups)

    @property
    def loads(self) -> int:
        """Loads that are ordered; bags are none."""
        return sum(line.loads for line in self.lines if line.kind != "bags")

    @cached_property
    def short_m3(self) -> float:
        """What stays missing when all that is ordered has come."""
        if self.decided is None:
            chosen = self.best
            if chosen.choices:
                return 0.0
            return chosen.nearest.short_m3 if chosen.nearest else self.to_order_m3
        return max(0.0, self.to_order_m3 - self.ordered_m3)

    @property
    def left_over_m3(self) -> float:
        """What is over of what can be used, when all that is ordered has come and all is laid."""
        return self.over_m3(self.lines, self.short_m3)

    def over_m3(self, lines: Sequence[OrderLine], short_m3: float) -> float:
        """Return what would be over with some lines, which leave so much short.

        Returns
        -------
        float
        """
        have = self.on_hand_m3 + self.coming_m3 + self.mulch_m3(lines)
        return max(0.0, have + short_m3 - self.needed_m3)

    @property
    def enough(self) -> float:
        """The probability that what is coming and ordered is enough."""
        if self.decided is not None:
            return self._enough_of(self.lines)
        chosen = self.best
        if not chosen.choices:
            return chosen.nearest.enough if chosen.nearest and chosen.nearest.short_m3 <= SPECK_M3 else 0.0
        return chosen.choices[0].enough if self.parts else 1.0

    def _enough_of(self, lines: Sequence[OrderLine]) -> float:
        """Return how sure some lines are to be enough: that of the part that is least sure.

        Returns
        -------
        float
            Between 0 and 1.
        """
        return min((self._part_enough(part, lines) for part in self.parts), default=1.0)

    def _part_enough(self, part: Interchangeable, lines: Sequence[OrderLine]) -> float:
        lots, certain = list(part.coming.loads), 0.0
        for line in lines:
            source = self.source_of(line.source).source
            if source.material not in part.materials:
                continue
            if source.size is None:
                certain += line.volume_m3
            else:
                lots.append((line.loads, source.size))
        return chance_of_sum(part.volume_m3 + part.coming.counted_m3, lots, certain)

    def certainty(self) -> Certainty | None:
        """Return how sure numbers of loads are to be enough, of the first source whose loads nobody knows.

        Returns
        -------
        Certainty or None
            None where every load is known.
        """
        for part in self.parts:
            lines = [line for line in self.lines if self.source_of(line.source).source.material in part.materials]
            for line in lines:
                size = self.source_of(line.source).source.size
                if size is not None:
                    certain = sum(other.volume_m3 for other in lines if other.source != line.source)
                    return certainty(max(0.0, part.volume_m3 - certain), size)
        return None

    def order_by(self, lays_on: date) -> date:
        """Return the last day to order, so that the slowest source has brought it by the day on which it is laid.

        Returns
        -------
        date
        """
        suppliers = [self.offered[line.source].supplier for line in self.lines if line.source in self.offered]
        days = [
            supplier.source.lead_days for supplier in suppliers if supplier and isinstance(supplier.source, Merchant)
        ]
        return lays_on - timedelta(days=max(days, default=0))

    def lots_with_ordered(self) -> list[Lot]:
        """Return what lies here, is coming, and is ordered.

        Returns
        -------
        list of Lot
        """
        today = self.market.today
        return [
            *self.lots,
            *(
                Lot(self.market.material(line.material), today, line.volume_m3, today, comes_as=line.stage)
                for line in self.lines
            ),
        ]

    def left_lots(self, day: date) -> list[Lot]:
        """Return what later seasons begin with: what is over of lots, and of what is ordered, on a day.

        Returns
        -------
        list of Lot
        """
        rest = list(self.lots)
        for index, _, flow in self.flows:
            rest[index] = rest[index].less(flow)
        for index, volume in self.beneath_served.items():
            rest[index] = rest[index].less(volume)
        surplus_m3 = max(0.0, self.ordered_m3 - self.to_order_m3)
        for line in sorted(self.lines, key=lambda line: -line.volume_m3):
            if surplus_m3 <= SPECK_M3:
                break
            amount = min(surplus_m3, line.volume_m3)
            rest.append(Lot(self.market.material(line.material), day, amount, day, comes_as=line.stage))
            surplus_m3 -= amount
        return [replace(lot, lies=True) for lot in rest if lot.volume_m3 > SPECK_M3]
