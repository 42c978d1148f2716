"""Layers through time: chips, mould and mass of every layer at every date, in one vectorised expression."""

import math
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from functools import lru_cache
from operator import mul

import numpy as np
from numpy.typing import ArrayLike, NDArray
from pydantic import Field

from ulmatic.core.decay.decay_clock import DecayClock, day_number
from ulmatic.core.decay.yasso import INVERSE, VALUES, VECTORS
from ulmatic.core.materials import Material
from ulmatic.core.tables import read_parameter
from ulmatic.core.value import Value

Array = NDArray[np.float64]

MOULD_DENSITY = read_parameter("decay.mould")
SETTLING_DAYS = read_parameter("decay.settling")
LAID_CV = read_parameter("decay.laid")
BLOCK = 20
"""Layers worked on at a time, so that what is worked on stays near the processor."""
_VALUES: tuple[float, ...] = tuple(VALUES.tolist())
NORMAL_90 = 1.2815515655446004
"""90th percentile of the standard normal distribution."""


class LaidLayer(Value):
    """One layer as it was laid.

    Attributes
    ----------
    loose_mm : float
        Depth as it fell from the barrow.
    settling : float
        Share of that which goes by itself, or under feet.
    age_decay_time : float
        ξ-years for which it had rotted before it was laid.
    """

    material: Material
    on: date
    loose_mm: float = Field(ge=0)
    settling: float = Field(ge=0, lt=1)
    age_decay_time: float = Field(default=0.0, ge=0)


@dataclass(frozen=True)
class Depths:
    """What is there, each of shape (layers, dates) or (plots, dates): chips and mould in mm, dry mass in kg/m².

    `crumb` is the part of the mass that is mould.
    """

    chips_mm: Array
    humus_mm: Array
    mass_kg_m2: Array
    humus_kg_m2: Array


@dataclass(frozen=True)
class Layers:
    """Layers as arrays of shape (n,), their pools at the beginning as `awen`, `awe` and `humus` of shape (n, 5)."""

    awen: Array
    awe: Array
    humus: Array
    rate: Array
    density: Array
    settling: Array
    laid_day: Array
    age: Array

    @property
    def count(self) -> int:
        """How many there are."""
        return int(self.rate.size)

    def at_rate(self, factor: Array | float) -> "Layers":
        """Return the same layers with their rates multiplied.

        Returns
        -------
        Layers
        """
        return Layers(
            self.awen, self.awe, self.humus, self.rate * factor, self.density, self.settling, self.laid_day, self.age
        )


def modes_of(shares: Sequence[tuple[float, float, float, float]]) -> tuple[Array, Array, Array]:
    """Return what of each of the five modes is in A+W+E+N, in A+W+E as a share of it at the beginning, and in humus.

    Pools are start · modes, and each mode decays at its own rate. Shapes (n, 5).

    Parameters
    ----------
    shares : sequence of tuple of float
        A, W, E and N of each of n materials, as shares of dry mass.

    Returns
    -------
    (ndarray, ndarray, ndarray)
    """
    fractions = np.array([[*pools, 0.0] for pools in shares]).reshape(-1, 5)
    modes = (fractions @ INVERSE.T)[:, :, None] * VECTORS.T[None, :, :]
    soluble = fractions[:, :3].sum(axis=1)
    awe = modes[:, :, :3].sum(axis=2) / np.where(soluble > 0, soluble, 1.0)[:, None]
    return modes[:, :, :4].sum(axis=2), awe, modes[:, :, 4]


def layers_of(layers: Sequence[LaidLayer]) -> Layers:
    """Return layers as arrays.

    A layer that was aged when it was laid is one that was fresh earlier, of such a mass that it was as deep as it was
    when it was laid.

    Parameters
    ----------
    layers : sequence of LaidLayer

    Returns
    -------
    Layers
    """
    awen, awe, humus = modes_of([layer.material.fractions() for layer in layers])
    rate = np.array([layer.material.rate.value for layer in layers])
    age = np.array([layer.age_decay_time for layer in layers])
    density = np.array([layer.material.density.value for layer in layers])
    left_share = np.exp(VALUES[None, :] * (rate * age)[:, None])
    chips = (awen * left_share).sum(axis=1) * (awe * left_share).sum(axis=1)
    mass = np.array([layer.loose_mm for layer in layers]) / 1000 * density / np.where(chips > 0, chips, 1.0)
    return Layers(
        awen=awen * mass[:, None],
        awe=awe,
        humus=humus * mass[:, None],
        rate=rate,
        density=density,
        settling=np.array([layer.settling for layer in layers]),
        age=age,
        laid_day=np.array([day_number(layer.on) for layer in layers], dtype=float),
    )


def _block(
    layers: Layers,
    part: slice,
    coefficients: Array,
    total: Array,
    laid_time: Array,
    when: Array,
    room: tuple[Array, Array],
) -> tuple[Array, Array, Array]:
    """Work out some layers: chips in mm; what of them is recognisable, and the whole mass, in kg/m².

    `room` is where decays and pools are worked out, so that memory is not asked for again with each block.

    Returns
    -------
    (ndarray, ndarray, ndarray)
    """
    rate, count = layers.rate[part, None], part.stop - part.start
    time = rate * (total if total.ndim == 1 else total[part])
    time -= rate * (laid_time[part, None] - layers.age[part, None])
    np.maximum(time, 0.0, out=time)
    decays = np.multiply(time[:, None, :], VALUES[None, :, None], out=room[0][:count])
    np.exp(decays, out=decays)
    pools = np.matmul(coefficients[part], decays, out=room[1][:count])
    since = when[None, :] - layers.laid_day[part, None]
    recognisable, mass = pools[:, 0], pools[:, 2]
    recognisable *= pools[:, 1]
    lies = since >= 0
    recognisable *= lies
    mass *= lies
    # Depth of what is left of a kilogram, settled: 1000 ÷ ρ₀ · (1 − s).
    chips = recognisable * ((1 - layers.settling[part, None]) * 1000 / layers.density[part, None])
    return chips, recognisable, mass


def _coefficients(layers: Layers) -> Array:
    """Return what of each mode is in A+W+E+N, in A+W+E as a share, and in all pools with the humus: (n, 3, 5).

    Returns
    -------
    ndarray
    """
    return np.stack([layers.awen, layers.awe, layers.awen + layers.humus], axis=1)


def through_time(layers: Layers, clock_total: ArrayLike, laid_total: ArrayLike, days: ArrayLike) -> Depths:
    """Return what every layer is at every date.

    Parameters
    ----------
    layers : Layers
        n of them.
    clock_total : array_like, shape (t,) or (n, t)
        Decay time of the site at the dates; by layer where plots differ (irrigation).
    laid_total : array_like, shape (n,)
        Decay time of the site when each layer was laid.
    days : array_like, shape (t,)
        The dates, in days since 1970.

    Returns
    -------
    Depths
        Each (n, t); 0 before a layer is laid.
    """
    return plots_through_time(layers, range(layers.count), clock_total, laid_total, days)


@lru_cache(maxsize=256)
def _modes(fractions: tuple[float, float, float, float]) -> tuple[tuple[float, ...], tuple[float, ...]]:
    awen, awe, _ = modes_of([fractions])
    return tuple(awen[0].tolist()), tuple(awe[0].tolist())


def chips_left(material: Material, first_time: float, last_time: float) -> float:
    """Return the share of a layer's chips that is left between two decay times: one layer, without arrays.

    Parameters
    ----------
    material : Material
    first_time, last_time : float
        ξ-years since it was chipped.

    Returns
    -------
    float
        Between 0 and 1.

    Examples
    --------
    >>> from ulmatic.core.materials import CATALOGUE
    >>> round(chips_left(CATALOGUE["arborist_leafy"], 0.0, 1.0), 2)
    0.74
    >>> round(chips_left(CATALOGUE["conifer_bare"], 0.0, 1.0), 2)
    0.88
    """
    total, soluble = _modes(material.fractions())

    def chips(passed: float) -> float:
        decays = [math.exp(value * material.rate.value * passed) for value in _VALUES]
        return float(sum(map(mul, total, decays)) * sum(map(mul, soluble, decays)))

    chips_before = chips(first_time)
    return float(chips(last_time) / chips_before) if chips_before > 0 else 0.0


def plots_through_time(
    layers: Layers, first: Sequence[int], clock_total: ArrayLike, laid_total: ArrayLike, days: ArrayLike
) -> Depths:
    """Return what the layers of each plot are together at every date.

    Works in blocks, so that what is worked on stays near the processor and layers are never held all at once.

    Parameters
    ----------
    layers, clock_total, laid_total, days
        As for `through_time`.
    first : sequence of int
        The index of each plot's first layer, ascending from 0; no plot is empty.

    Returns
    -------
    Depths
        Each (plots, t).
    """
    when, total = np.asarray(days, dtype=float), np.asarray(clock_total, dtype=float)
    laid = np.asarray(laid_total, dtype=float)
    starts = np.asarray(first, dtype=int)
    out = Depths(*(np.empty((starts.size, when.size)) for _ in range(4)))
    coefficients, ends = _coefficients(layers), np.append(starts[1:], layers.count)
    most = max(BLOCK, int(np.diff(np.append(starts, layers.count)).max(initial=0)))
    room = np.empty((most, VALUES.size, when.size)), np.empty((most, 3, when.size))
    plot = 0
    while plot < starts.size:
        after = max(plot + 1, int(np.searchsorted(ends, starts[plot] + BLOCK, side="right")))
        part = slice(int(starts[plot]), int(ends[after - 1]))
        block = _block(layers, part, coefficients, total, laid, when, room)
        is_single = part.stop - part.start == after - plot
        chips, recognisable, mass = (
            block
            if is_single
            else (np.add.reduceat(values, starts[plot:after] - part.start, axis=0) for values in block)
        )
        out.chips_mm[plot:after], out.mass_kg_m2[plot:after] = chips, mass
        crumb = np.subtract(mass, recognisable, out=out.humus_kg_m2[plot:after])
        np.multiply(crumb, 1000 / MOULD_DENSITY.value, out=out.humus_mm[plot:after])
        plot = after
    return out


def forecast(layers: Sequence[LaidLayer], clock: DecayClock, days: ArrayLike) -> Depths:
    """Return what every layer is at every date (days since 1970), on one clock.

    Parameters
    ----------
    layers : sequence of LaidLayer
    clock : DecayClock
    days : array_like
        Days since 1970, shape (t,).

    Returns
    -------
    Depths
        Each (layers, dates).
    """
    table = layers_of(layers)
    return through_time(table, clock.time_at(days), clock.time_at(table.laid_day), days)


def spread(middle: Array, slow: Array, fast: Array) -> tuple[Array, Array]:
    """Return 10th and 90th percentile of depths, from those at the middle, slow and fast rates.

    The rate of each material is log-normal with its low and high as 10th and 90th percentile, and layers of a plot are
    slow or fast together; what was laid is uneven by `LAID_CV`. Both are taken as independent: their parts of the
    logarithm of the depth are added in squares. No random numbers.

    Parameters
    ----------
    middle : ndarray
        Shape (plots, dates), at the middle rate.
    slow : ndarray
        The same at the slow rate.
    fast : ndarray
        The same at the fast rate.

    Returns
    -------
    (ndarray, ndarray)
        mm, each of the shape of `middle`.
    """
    small = 1e-9
    uneven = NORMAL_90 * LAID_CV.value
    upper = np.hypot(np.log(np.maximum(slow, small) / np.maximum(middle, small)), uneven)
    lower = np.hypot(np.log(np.maximum(middle, small) / np.maximum(fast, small)), uneven)
    return middle * np.exp(-lower), middle * np.exp(upper)


def settled_share_of_reading(settling: float, since_days: float) -> float:
    """Return the settled depth as a share of what a ruler reads so many days after a laying.

    Settling goes with e^(−t/21 d); 1 from three weeks on, when most of it has happened.

    Parameters
    ----------
    settling : float
        Share of the loose depth that is lost, 0 to 1.
    since_days : float

    Returns
    -------
    float
        Between 1 − `settling` and 1.

    Examples
    --------
    >>> settled_share_of_reading(0.25, 0)
    0.75
    >>> settled_share_of_reading(0.25, 400)
    1.0
    """
    if since_days >= SETTLING_DAYS.value:
        return 1.0
    return (1 - settling) / (1 - settling * (1 - math.exp(-max(0.0, since_days) / SETTLING_DAYS.value)))


@lru_cache(maxsize=4096)
def loose_for_1_mm(material: Material, settling: float, decay_time: float) -> float:
    """Return the loose depth in mm that a layer was laid with, if a millimetre of chips is left of it.

    `decay_time` of ξ-years has passed since it was laid fresh.

    Parameters
    ----------
    material : Material
    settling : float
        Share of the loose depth that is lost, 0 to 1.
    decay_time : float
        ξ-years.

    Returns
    -------
    float

    Examples
    --------
    >>> from ulmatic.core.materials import CATALOGUE
    >>> round(loose_for_1_mm(CATALOGUE["arborist_leafy"], 0.25, 0.0), 2)
    1.33
    """
    layer = LaidLayer(material=material, on=date(2000, 1, 1), loose_mm=1.0, settling=settling)
    day = np.array([float(day_number(layer.on))])
    left = float(through_time(layers_of([layer]), np.array([decay_time]), np.zeros(1), day).chips_mm[0, 0])
    return 1.0 / left if left > 0 else 0.0
