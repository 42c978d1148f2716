"""Loads of unknown size: how likely so many of them are enough."""

import math
from collections.abc import Sequence
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from ulmatic.core.stock.load_size import LoadSize
from ulmatic.core.value import Value

Array = NDArray[np.float64]

WANTED = (0.50, 0.80, 0.95)
"""Certainties that are answered for."""
CELLS = 400
"""Grid cells across the range of one load."""
MOST_LOADS = 500


class Chance(Value):
    """So many loads, and the probability that they are enough."""

    loads: int
    enough: float


class Certainty(Value):
    """How sure so many loads are.

    Attributes
    ----------
    chances : tuple of Chance
        For every number of loads between hopeless and certain.
    for_50, for_80, for_95 : int
        The least number of loads that is enough with that certainty.
    """

    chances: tuple[Chance, ...]
    for_50: int
    for_80: int
    for_95: int


def _cumulative(x: Array, size: LoadSize) -> Array:
    a, c, b = size.least_m3, size.likely_m3, size.most_m3
    rising = np.where(x > a, (x - a) ** 2 / ((b - a) * max(c - a, 1e-300)), 0.0)
    falling = 1 - np.where(x < b, (b - x) ** 2 / ((b - a) * max(b - c, 1e-300)), 0.0)
    return np.where(x <= c, rising, falling)


Lot = tuple[int, LoadSize]
"""So many loads of one size."""


def _sum(lots: Sequence[Lot]) -> tuple[float, float, Array]:
    """Return the sum of all loads, independent of each other, as (least, width of a cell, probability of each cell).

    Sizes are put on one grid by their exact cell probabilities and added by convolution (powers of their Fourier
    transforms); no random numbers. A sum of n loads in cells i₁…iₙ lies about least + (Σ i + n/2) widths.

    Returns
    -------
    (float, float, ndarray)
    """
    width = max(size.most_m3 - size.least_m3 for _, size in lots) / CELLS
    cells = []
    for loads, size in lots:
        count = max(1, math.ceil((size.most_m3 - size.least_m3) / width - 1e-9))
        edges: Array = size.least_m3 + width * np.arange(count + 1, dtype=np.float64)
        cells.append((loads, np.diff(_cumulative(edges, size)) if count > 1 else np.ones(1)))
    total = sum(loads * (cell.size - 1) for loads, cell in cells) + 1
    long = 1 << (total - 1).bit_length()
    spectrum = np.ones(long // 2 + 1, dtype=complex)
    for loads, cell in cells:
        spectrum = spectrum * np.fft.rfft(cell, long) ** loads
    least = sum(loads * size.least_m3 for loads, size in lots)
    return least, width, np.maximum(0.0, np.fft.irfft(spectrum, long))[:total]


def chance_of_sum(need_m3: float, lots: Sequence[Lot], certain_m3: float = 0.0) -> float:
    """Return the probability that loads of unknown sizes, with what is certain, hold `need_m3` or more.

    Parameters
    ----------
    need_m3 : float
        Loose, m³.
    lots : sequence of Lot
    certain_m3 : float
        Loose, m³.

    Returns
    -------
    float
        Between 0 and 1.
    """
    known = certain_m3 + sum(loads * size.likely_m3 for loads, size in lots if not _unsure(size))
    unsure = [(loads, size) for loads, size in lots if loads > 0 and _unsure(size)]
    need = need_m3 - known
    if not unsure:
        return float(need <= 1e-9)
    least, width, total = _sum(unsure)
    middles = least + width * (np.arange(total.size) + sum(loads for loads, _ in unsure) / 2)
    is_enough = middles >= need
    index = int(np.searchsorted(middles, need))
    split = 0.0
    if 0 < index < total.size:
        split = total[index - 1] * max(0.0, 0.5 - (need - middles[index - 1]) / width)
        split -= total[index] * max(0.0, 0.5 - (middles[index] - need) / width)
    return float(min(1.0, max(0.0, total[is_enough].sum() + split)))


def _unsure(size: LoadSize) -> bool:
    return size.most_m3 - size.least_m3 >= 1e-9


def at_least(certainty: float, lots: Sequence[Lot], certain_m3: float = 0.0) -> float:
    """Return the m³ that loads of unknown sizes hold at least, with that certainty; to the width of a grid cell.

    Parameters
    ----------
    certainty : float
        0 to 1.
    lots : sequence of Lot
    certain_m3 : float
        Loose, m³.

    Returns
    -------
    float
        Loose, m³.

    Examples
    --------
    >>> round(at_least(0.9, [(2, LoadSize(least_m3=7, likely_m3=10, most_m3=13))]), 1)
    17.7
    """
    unsure = [(loads, size) for loads, size in lots if loads > 0 and _unsure(size)]
    known = certain_m3 + sum(loads * size.likely_m3 for loads, size in lots if not _unsure(size))
    if not unsure:
        return known
    least, width, total = _sum(unsure)
    falling = 1 - np.cumsum(total)
    index = int(np.searchsorted(-falling, -certainty, side="left"))
    return float(known + least + width * (index + sum(loads for loads, _ in unsure) / 2 - 0.5))


def chance_enough(need_m3: float, loads: int, size: LoadSize) -> float:
    """Return the probability that `loads` loads, independent of each other, hold `need_m3` or more.

    Parameters
    ----------
    need_m3 : float
        Loose, m³.
    loads : int
    size : LoadSize

    Returns
    -------
    float
        0 to 1.

    Examples
    --------
    >>> round(chance_enough(20.0, 2, LoadSize(least_m3=7, likely_m3=10, most_m3=13)), 2)
    0.5
    """
    return chance_of_sum(need_m3, [(loads, size)])


@lru_cache(maxsize=512)
def certainty(need_m3: float, size: LoadSize) -> Certainty | None:
    """Return how sure numbers of loads are, or None where nothing is needed or it takes too many to say.

    Parameters
    ----------
    need_m3 : float
        Loose, m³.
    size : LoadSize

    Returns
    -------
    Certainty or None
    """
    if need_m3 <= 0 or need_m3 / size.least_m3 > MOST_LOADS:
        return None
    first, last = max(1, math.floor(need_m3 / size.most_m3)), math.ceil(need_m3 / size.least_m3 - 1e-9)
    chances: list[Chance] = []
    for loads in range(first, last + 1):
        chances.append(Chance(loads=loads, enough=chance_enough(need_m3, loads, size)))
        if chances[-1].enough > 0.9995:
            break
    least = [next((chance.loads for chance in chances if chance.enough >= level), last) for level in WANTED]
    return Certainty(chances=tuple(chances), for_50=least[0], for_80=least[1], for_95=least[2])
