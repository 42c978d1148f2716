"""What lies on many plots through time: layers that are alike are worked out once, a millimetre of each."""

from collections.abc import Sequence
from datetime import date
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from ulmatic.core.decay.decay_clock import DecayClock
from ulmatic.core.decay.layers import Depths, LaidLayer, Layers, layers_of, through_time
from ulmatic.core.materials import Material

Array = NDArray[np.float64]
Indices = NDArray[np.int_]
SPAN = 10**7
"""Wider than any number of days, so that a kind and a day make one number."""
BLOCK = 1024
"""So many layers are worked on at once."""
End = Literal["value", "low", "high"]
"""Rates of decay as they are, or the 10th or 90th percentile of each material's."""
_SOME_DAY = date(2000, 1, 1)


def arrays(depths: Depths) -> tuple[Array, Array, Array, Array]:
    """Return chips, mould, mass and crumb.

    Parameters
    ----------
    depths : Depths

    Returns
    -------
    (ndarray, ndarray, ndarray, ndarray)
        Those of `depths`, as they are: settled mm and kg/m².
    """
    return depths.chips_mm, depths.humus_mm, depths.mass_kg_m2, depths.humus_kg_m2


def no_depths(rows: int, dates: int) -> Depths:
    """Return bare ground.

    Parameters
    ----------
    rows, dates : int
        Of the arrays.

    Returns
    -------
    Depths
        Zeros, each (rows, dates).
    """
    return Depths(*(np.zeros((rows, dates)) for _ in range(4)))


class LayerTable:
    """Layers on rows of ground; more can be laid on them.

    Parameters
    ----------
    rows : int
    clocks : sequence of DecayClock
        By which rows rot.
    """

    def __init__(self, rows: int, clocks: Sequence[DecayClock]) -> None:
        self.rows, self.clocks = rows, clocks
        self._numbers: dict[tuple[str, float, float | None, float, float, float, int], int] = {}
        self._kinds: list[tuple[LaidLayer, int]] = []
        self._units: tuple[int, Layers, Array, Array] | None = None
        self.row_of: list[int] = []
        self.kind_of: list[int] = []
        self.day_of: list[int] = []
        self.loose_of: list[float] = []
        self._since: list[float] = []
        self._until: list[float] = []
        self._measured: list[float] = []

    @property
    def count(self) -> int:
        """How many layers there are."""
        return len(self.row_of)

    def kind(self, material: Material, settling: float, age: float, clock: int) -> int:
        """Return the number of a kind of layer: a millimetre of it, laid loose on some day.

        Returns
        -------
        int
        """
        rate = material.rate
        key = (material.key, rate.value, rate.low, material.density.value, settling, age, clock)
        number = self._numbers.get(key)
        if number is None:
            number = self._numbers[key] = len(self._kinds)
            unit = LaidLayer.model_construct(
                material=material, on=_SOME_DAY, loose_mm=1.0, settling=settling, age_decay_time=age
            )
            self._kinds.append((unit, clock))
        return number

    def lay(
        self,
        row: int,
        kind: int,
        day: int,
        loose_mm: float,
        from_day: float = -np.inf,
        until: float = np.inf,
        measured: float = np.nan,
    ) -> None:
        """Put a layer on a row: laid on `day`, there from `since` until `until` (days since 1970).

        On the day `measured` its depth is known, however fast it rots.
        """
        self.row_of.append(row)
        self.kind_of.append(kind)
        self.day_of.append(day)
        self.loose_of.append(loose_mm)
        self._since.append(from_day)
        self._until.append(until)
        self._measured.append(measured)

    def _all_units(self) -> tuple[Layers, Array, Array]:
        if self._units is None or self._units[0] != len(self._kinds):
            rates = [unit.material.rate for unit, _ in self._kinds]
            low = np.array([(rate.low or rate.value) / rate.value for rate in rates])
            high = np.array([(rate.high or rate.value) / rate.value for rate in rates])
            self._units = (len(self._kinds), layers_of([unit for unit, _ in self._kinds]), low, high)
        return self._units[1:]

    def curves(self, kind: Indices, day: Array, days: Array, end: End = "value") -> Depths:
        """Return what a loose millimetre becomes of each kind laid on each day, (n, dates).

        Returns
        -------
        Depths
        """
        units, low, high = self._all_units()
        clocks = np.array([clock for _, clock in self._kinds])
        out = no_depths(kind.size, days.size)
        for number, clock in enumerate(self.clocks):
            rows = np.flatnonzero(clocks[kind] == number)
            if rows.size:
                layers = _taken(units, kind[rows], day[rows])
                if end != "value":
                    layers = layers.at_rate((low if end == "low" else high)[kind[rows]])
                depths = through_time(layers, clock.time_at(days), clock.time_at(layers.laid_day), days)
                for rows_of_all, part in zip(arrays(out), arrays(depths), strict=True):
                    rows_of_all[rows] = part
        return out

    def curves_at_birth(self, kind: Indices) -> Array:
        """Return the settled depth of a loose millimetre on the day it is laid.

        Returns
        -------
        ndarray
            mm, (n,).
        """
        units, _, _ = self._all_units()
        return 1.0 - np.asarray(units.settling)[kind]

    def depths(self, days: Array, end: End = "value") -> Depths:
        """Return what lies on each row at dates (days since 1970), (rows, dates).

        Returns
        -------
        Depths
        """
        if not self.row_of or not days.size:
            return no_depths(self.rows, days.size)
        row, kind, day = np.array(self.row_of), np.array(self.kind_of), np.array(self.day_of)
        loose = np.array(self.loose_of)
        since, until = np.array(self._since), np.array(self._until)
        # Layers of one kind and day are worked out once.
        codes, share = np.unique(kind * SPAN + day + SPAN // 2, return_inverse=True)
        first = (codes % SPAN - SPAN // 2).astype(float)
        curves = self.curves(codes // SPAN, first, days, end)
        if end != "value":
            loose = loose * self._anchored(kind, day.astype(float), np.array(self._measured), end)
        limited = (since > days.min()) | (until <= days.max())
        unlimited = np.flatnonzero(~limited)
        # Depth grows in proportion to what was laid.
        amounts = (row[unlimited], share[unlimited], loose[unlimited])
        out = Depths(*(sums_by_row(*amounts, curve, self.rows) for curve in arrays(curves)))
        passing = np.flatnonzero(limited)
        for first_of_block in range(0, passing.size, BLOCK):
            block = passing[first_of_block : first_of_block + BLOCK]
            lies = (days >= since[block, None]) & (days < until[block, None])
            for total, curve in zip(arrays(out), arrays(curves), strict=True):
                # One after the other where a row has several, as they were laid.
                np.add.at(total, row[block], np.where(lies, loose[block, None] * curve[share[block]], 0.0))
        return out

    def _anchored(self, kind: Indices, day: Array, measured_day: Array, end: End) -> Array:
        """Return by what slow or fast layers are multiplied, so that they are as deep as measured on that day.

        Returns
        -------
        ndarray
            Factors, (layers,).
        """
        factor = np.ones(kind.size)
        for measured in np.unique(measured_day[np.isfinite(measured_day)]):
            rows = np.flatnonzero(measured_day == measured)
            decay_times = np.array([measured])
            middle = self.curves(kind[rows], day[rows], decay_times).chips_mm[:, 0]
            other = self.curves(kind[rows], day[rows], decay_times, end).chips_mm[:, 0]
            factor[rows] = np.where(other > 0, middle / np.where(other > 0, other, 1.0), 1.0)
        return factor


def sums_by_row(row: Indices, curve_of: Indices, amount: Array, curves: Array, rows: int) -> Array:
    """Return the sum of each row's curves, each so many times as is laid of it, block by block.

    Parameters
    ----------
    row, curve_of : ndarray of int, shape (n,)
    amount : ndarray, shape (n,)
    curves : ndarray, shape (kinds, dates)
    rows : int

    Returns
    -------
    ndarray
        Of the unit of `curves`, (rows, dates).
    """
    order = np.lexsort((curve_of, row))
    row, curve_of, amount = row[order], curve_of[order], amount[order]
    filled, starts = np.unique(row, return_index=True)
    ends = np.append(starts[1:], row.size)
    sums = np.zeros((rows, curves.shape[1]))
    first = 0
    while first < filled.size:
        after = max(first + 1, int(np.searchsorted(ends, starts[first] + BLOCK, side="right")))
        block = slice(int(starts[first]), int(ends[after - 1]))
        parts = amount[block, None] * curves[curve_of[block]]
        sums[filled[first:after]] = np.add.reduceat(parts, starts[first:after] - block.start, axis=0)
        first = after
    return sums


def _taken(units: Layers, indices: Indices, day: Array) -> Layers:
    return Layers(
        awen=units.awen[indices],
        awe=units.awe[indices],
        humus=units.humus[indices],
        rate=units.rate[indices],
        density=units.density[indices],
        settling=units.settling[indices],
        laid_day=day,
        age=units.age[indices],
    )


class Falling:
    """When sums of some of a cover's layers fall below a depth, if nothing more is laid.

    Parameters
    ----------
    cover : LayerTable
    days : ndarray, shape (t,)
        Beginnings of months, days since 1970: between them decay time is linear, so that the logarithm of a depth is
        as good as linear, and the day exact.
    """

    def __init__(self, cover: LayerTable, days: Array) -> None:
        self.days = days
        kind, day = np.array(cover.kind_of, dtype=int), np.array(cover.day_of, dtype=int)
        codes, self._share = np.unique(kind * SPAN + day + SPAN // 2, return_inverse=True)
        first = (codes % SPAN - SPAN // 2).astype(float)
        self._curves = cover.curves(codes // SPAN, first, days).chips_mm if codes.size else np.zeros((0, days.size))
        # A layer counts on the day it is laid, also between the beginnings of months.
        self._at_birth = cover.curves_at_birth(codes // SPAN) if codes.size else np.zeros(0)
        self._born = first
        self.loose_of = np.array(cover.loose_of)

    def days_below(
        self, groups: Sequence[Sequence[tuple[int, float]]], least_mm: Array, first_day: Array
    ) -> list[float | None]:
        """Return the day on which each group of (layer, weight) falls below a depth; None where it never does.

        Groups whose depth is below on their first day fall on it.

        Returns
        -------
        list of float or None
            Days since 1970, by group.
        """
        if not groups:
            return []
        group = np.array([number for number, layers in enumerate(groups) for _ in layers], dtype=int)
        layer = np.array([layer for layers in groups for layer, _ in layers], dtype=int)
        weight = np.array([weight for layers in groups for _, weight in layers])
        if not layer.size:
            return [first if least > 0 else None for least, first in zip(least_mm, first_day, strict=True)]
        share, amount = self._share[layer], self.loose_of[layer] * weight
        depth = sums_by_row(group, share, amount, self._curves, len(groups))
        after = np.searchsorted(self.days, first_day, side="right")
        falls = (depth < least_mm[:, None]) & (np.arange(self.days.size) >= after[:, None])
        index = falls.argmax(axis=1)
        rows = np.arange(len(groups))
        is_later = index > after
        on_first = self._depth_on(first_day, after.clip(max=self.days.size - 1), group, share, amount)
        day = np.where(is_later, self.days[index - 1], first_day)
        before = np.where(is_later, depth[rows, index - 1], on_first)
        now = np.maximum(depth[rows, index], 1e-9)
        with np.errstate(divide="ignore", invalid="ignore"):
            part = np.where(before > now, np.log(before / least_mm) / np.log(before / now), 1.0)
        crosses = np.where(before < least_mm, first_day, day + part * (self.days[index] - day))
        return [float(when) if falls[row, index[row]] else None for row, when in enumerate(crosses)]

    def _depth_on(self, day: Array, next_month: Indices, group: Indices, share: Indices, amount: Array) -> Array:
        """Return the depth of each group on its day, by the logarithm between the ends of its month.

        Returns
        -------
        ndarray
            mm, (groups,).
        """
        month = next_month[group]
        born = self.days[month - 1] <= self._born[share]
        begin = np.where(born, self._at_birth[share], self._curves[share, month - 1])
        begins = np.where(born, self._born[share], self.days[month - 1])
        end, when = self._curves[share, month], day[group]
        lies = (begin > 0) & (end > 0) & (when >= begins)
        part = (when - begins) / np.maximum(1e-9, self.days[month] - begins)
        with np.errstate(divide="ignore", invalid="ignore"):
            values = np.where(lies, amount * begin * (end / begin) ** part, 0.0)
        depth: Array = np.bincount(group, weights=values, minlength=day.size).astype(float)
        return depth
