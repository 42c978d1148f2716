"""What lies on many plots through time: layers that are alike are worked out once, a millimetre of each."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import date
from typing import Literal, NamedTuple

import numpy as np
from numpy.typing import NDArray
from pydantic import BaseModel, ConfigDict
from scipy.sparse import csr_array

from ulmatic.core.decay import Clock, Depths, LaidLayer, Layers, layers_of, through_time
from ulmatic.core.decay.clock import EPOCH
from ulmatic.core.materials import Material
from ulmatic.core.renewal.rules import Rule

Array = NDArray[np.float64]
Indices = NDArray[np.int_]
SPAN = 10**7
End = Literal["value", "low", "high"]
"""Rates of decay as they are, or the 10th or 90th percentile of each material's."""


class Ground(BaseModel):
    """A plot as it is renewed.

    Attributes
    ----------
    layers : tuple of LaidLayer
        What lies there already, or is laid before the first date.
    areas_m2 : tuple of float
        Ground in each year ahead, where it widens with its trees; the last goes on.
    clock : int
        Which of the site's clocks it rots by.
    rank : int
        The lower, the sooner it is served where chips are short.
    accepts : frozenset of str
        Keys of the materials that may be laid there.
    """

    model_config = ConfigDict(frozen=True)
    rule: Rule
    material: Material
    settling: float
    layers: tuple[LaidLayer, ...]
    areas_m2: tuple[float, ...]
    open_months: tuple[int, ...]
    clock: int = 0
    rank: int = 0
    accepts: frozenset[str] = frozenset()


class TopUp(NamedTuple):
    """Laid once: settled depth, loose m³, and the crumb that was dug out before.

    `quarter` is 0 to 3 where one was laid, `wanted` when the rule wanted it, earlier than `on` where chips were short.
    """

    plot: int
    on: date
    settled_mm: float
    loose_mm: float
    volume_m3: float
    wanted: date
    crumb_m3: float = 0.0
    quarter: int | None = None


Sort = tuple[Material, float, float, int]
"""Material, settling, decay time before it was laid, and clock."""


@dataclass(frozen=True)
class Kinds:
    """Sorts of layers: a millimetre of each as it falls, on clock `clock` of the site, rates times `low` or `high`."""

    units: Layers
    clock: Indices
    low: Array
    high: Array

    def curves(self, kind: Indices, day: Array, clocks: Sequence[Clock], days: Array, end: End = "value") -> Depths:
        """Return what a millimetre becomes of each kind laid on each day: chips, mould and mass of (n, days)."""
        made = Depths(*(np.zeros((kind.size, days.size)) for _ in range(4)))
        if end != "value":
            factor = self.low[kind] if end == "low" else self.high[kind]
        for at, ticking in enumerate(clocks):
            mine = np.flatnonzero(self.clock[kind] == at)
            if mine.size:
                layers = _taken(self.units, kind[mine], day[mine])
                layers = layers if end == "value" else layers.at_rate(factor[mine])
                found = through_time(layers, ticking.at(days), ticking.at(layers.laid_day), days)
                for kept, part in zip(arrays(made), arrays(found), strict=True):
                    kept[mine] = part
        return made


def arrays(depths: Depths) -> tuple[Array, Array, Array, Array]:
    """Return chips, mould, mass and crumb."""
    return depths.chips_mm, depths.mould_mm, depths.mass_kg_m2, depths.crumb_kg_m2


def _taken(units: Layers, at: Indices, day: Array) -> Layers:
    return Layers(
        awen=units.awen[at], awe=units.awe[at], humus=units.humus[at], rate=units.rate[at],
        density=units.density[at], settling=units.settling[at], laid_day=day, age=units.age[at],
    )  # fmt: skip


def kinds_of(sorts: Iterable[Sort]) -> tuple[Kinds, Indices]:
    """Return the kinds among sorts of layers, and the kind of each."""
    known: dict[tuple[str, float, float, float, float, int], int] = {}
    own, first = [], []
    for one in sorts:
        material, settling, age, at = one
        key = (material.key, material.rate.value, material.density.value, settling, age, at)
        if key not in known:
            known[key] = len(known)
            first.append(one)
        own.append(known[key])
    units = layers_of(
        [
            LaidLayer(material=material, on=date(2000, 1, 1), loose_mm=1.0, settling=settling, age_decay_time=age)
            for material, settling, age, _ in first
        ]
    )
    rates = [material.rate for material, *_ in first]
    low, high = (np.array([(end or one.value) / one.value for one, end in ends]) for ends in (
        [(one, one.low) for one in rates], [(one, one.high) for one in rates],
    ))  # fmt: skip
    clocks = np.array([at for *_, at in first], dtype=int)
    return Kinds(units, clocks, low, high), np.array(own, dtype=int)


def covered(
    grounds: Sequence[Ground], clocks: Sequence[Clock], days: Array, top_ups: Sequence[TopUp] = (), end: End = "value"
) -> Depths:
    """Return what lies on plots at dates: their layers, and what is laid on them.

    Parameters
    ----------
    grounds : sequence of Ground
    clocks : sequence of Clock
    days : ndarray, shape (t,)
        Days since 1970.
    top_ups : sequence of TopUp
    end : {"value", "low", "high"}

    Returns
    -------
    Depths
        Each (plots, t).
    """
    count, lies = len(grounds), [(at, layer) for at, ground in enumerate(grounds) for layer in ground.layers]
    if not lies and not top_ups:
        return Depths(*(np.zeros((count, days.size)) for _ in range(4)))
    fresh = [(ground.material, ground.settling, 0.0, ground.clock) for ground in grounds]
    old = [(one.material, one.settling, one.age_decay_time, grounds[at].clock) for at, one in lies]
    kinds, known = kinds_of([*fresh, *old])
    plots = np.array([*(one.plot for one in top_ups), *(at for at, _ in lies)], dtype=int)
    own = np.concatenate([known[plots[: len(top_ups)]], known[count:]])
    loose = np.array([*(one.loose_mm for one in top_ups), *(one.loose_mm for _, one in lies)])
    dates = [*(one.on for one in top_ups), *(one.on for _, one in lies)]
    numbers = np.array([one.toordinal() for one in dates]) - EPOCH.toordinal()
    # Layers of one kind and day are worked out once; a day's number has at most six digits.
    alike, share = np.unique(own * SPAN + numbers + SPAN // 2, return_inverse=True)
    kind, day = alike // SPAN, alike % SPAN - SPAN // 2
    curves = kinds.curves(kind, day.astype(float), clocks, days, end)
    # Depth grows in proportion to what was laid.
    amounts = csr_array((loose, (plots, share)), shape=(count, kind.size))
    return Depths(*(np.asarray(amounts @ one) for one in arrays(curves)))
