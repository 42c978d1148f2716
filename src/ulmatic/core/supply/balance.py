"""What a season needs, what lies here and is coming for it, and what is to be ordered."""

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import date
from functools import cached_property

import numpy as np

from ulmatic.core.programmes import minimum, shared_rows
from ulmatic.core.stock import Lot
from ulmatic.core.stock.books import SPECK_M3
from ulmatic.core.supply.market import Market
from ulmatic.core.supply.wanted import Group

LATER = 0.001
"""How much what lies here already goes before what is still to come."""


@dataclass
class Balance:
    """Needed, on hand, coming and to order.

    Attributes
    ----------
    groups : list of Group
        What layings want of mulch.
    beneath : mapping of str to float
        What is laid beneath, loose m³ by key of material.
    lots : list of Lot
        What lies on piles and what is expected.
    """

    groups: list[Group]
    beneath: Mapping[str, float]
    lots: list[Lot]
    market: Market

    def takers(self, lot_index: int) -> list[int]:
        """Return the groups that accept a lot on their day.

        Returns
        -------
        list of int
            Numbers of groups.
        """
        lot = self.lots[lot_index]
        return [
            number
            for number, group in enumerate(self.groups)
            if (lot.lies or lot.as_of <= group.on)
            and group.accepts.fits(lot.material, lot.stage(group.on, self.market.clock))
        ]

    def accepted_m3(self, lot_index: int) -> float:
        """Return a lot in m³ of planned material, if any laying accepts it; else 0.

        Returns
        -------
        float
        """
        lot = self.lots[lot_index]
        worth = max((self.groups[number].worth(lot.material) for number in self.takers(lot_index)), default=0.0)
        return lot.volume_m3 * worth

    @cached_property
    def flows(self) -> list[tuple[int, int, float]]:
        """What lies here and is coming, as far as the layings accept it on their day."""
        pairs = [(index, number) for index in range(len(self.lots)) for number in self.takers(index)]
        if not pairs:
            return []
        worth = np.array([self.groups[number].worth(self.lots[index].material) for index, number in pairs])
        rank = np.array([LATER * (not self.lots[index].lies) for index, _ in pairs])
        lots = np.array([index for index, _ in pairs])
        groups = np.array([number for _, number in pairs])
        bounds = [*(lot.volume_m3 for lot in self.lots), *(group.volume_m3 for group in self.groups)]
        solution = minimum(
            -worth * (1 - rank),
            shared_rows(lots, groups, worth, len(self.lots), len(bounds)),
            -np.inf,
            np.array(bounds),
        )
        flows = np.zeros(len(pairs)) if solution.point is None else solution.point
        return [
            (index, number, float(flow)) for (index, number), flow in zip(pairs, flows, strict=True) if flow > SPECK_M3
        ]

    @cached_property
    def beneath_served(self) -> dict[int, float]:
        """What of each lot goes beneath mulch: compost and char."""
        rest, taken_of = dict(self.beneath), {}
        for index, lot in enumerate(self.lots):
            taken_m3 = min(rest.get(lot.material.key, 0.0), lot.volume_m3)
            if taken_m3 > SPECK_M3:
                taken_of[index] = taken_m3
                rest[lot.material.key] -= taken_m3
        return taken_of

    @property
    def needed_m3(self) -> float:
        """Loose m³ of mulch, with spare."""
        return sum(group.volume_m3 for group in self.groups)

    def _served_by(self, *, piles: bool) -> float:
        """Return the m³ of planned material that piles, or loads still to come, serve.

        Returns
        -------
        float
        """
        return sum(
            flow * self.groups[number].worth(self.lots[index].material)
            for index, number, flow in self.flows
            if self.lots[index].lies is piles
        )

    def _accepted_of(self, *, piles: bool) -> float:
        """Return the m³ of piles, or of loads still to come, that any laying accepts.

        Returns
        -------
        float
        """
        return sum(self.accepted_m3(index) for index, lot in enumerate(self.lots) if lot.lies is piles)

    @property
    def on_hand_m3(self) -> float:
        """What lies here and can be used, in m³ of planned material.

        Where something has still to be ordered, what lies here for others is not on hand.
        """
        return self._served_by(piles=True) if self.to_order_m3 > SPECK_M3 else self._accepted_of(piles=True)

    @property
    def coming_m3(self) -> float:
        """What is expected and can be used."""
        return self._served_by(piles=False) if self.to_order_m3 > SPECK_M3 else self._accepted_of(piles=False)

    @cached_property
    def to_order_m3(self) -> float:
        """Needed, less on hand, less coming; never below zero."""
        missing = sum(rest for rest in self.missing)
        return missing if missing > SPECK_M3 else 0.0

    @cached_property
    def missing(self) -> list[float]:
        """What each group still lacks."""
        rest = [group.volume_m3 for group in self.groups]
        for index, number, flow in self.flows:
            rest[number] -= flow * self.groups[number].worth(self.lots[index].material)
        return [max(0.0, volume) if volume > SPECK_M3 else 0.0 for volume in rest]

    @property
    def unused_m3(self) -> float:
        """What lies here and no laying of the season accepts, or can use."""
        lying_m3 = sum(lot.volume_m3 for lot in self.lots if lot.lies)
        beneath = sum(volume for index, volume in self.beneath_served.items() if self.lots[index].lies)
        used = (
            sum(flow for index, _, flow in self.flows if self.lots[index].lies)
            if self.to_order_m3 > SPECK_M3
            else self._accepted_lots_m3()
        )
        return max(0.0, lying_m3 - beneath - used)

    def _accepted_lots_m3(self) -> float:
        return sum(lot.volume_m3 for index, lot in enumerate(self.lots) if lot.lies and self.takers(index))

    def fit_from(self) -> dict[int, date]:
        """Return, of lots that a laying would accept if they were rotted further, from when they are fit.

        Returns
        -------
        dict of int to date
            By number of the lot.
        """
        fit: dict[int, date] = {}
        used = {index for index, _, _ in self.flows}
        for index, lot in enumerate(self.lots):
            stages = [group.accepts.stages for group in self.groups if lot.material.key in group.accepts.materials]
            if index in used or not stages:
                continue
            day = lot.fit_from(stages[0], self.market.clock)
            if day is not None and day > max(group.on for group in self.groups):
                fit[index] = day
        return fit
