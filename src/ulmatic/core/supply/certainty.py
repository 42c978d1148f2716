"""Loads of unknown size: how likely so many of them are enough."""

import math
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray
from pydantic import BaseModel, ConfigDict, model_validator
from scipy.fft import irfft, next_fast_len, rfft

from ulmatic.core.survey.shapes.base import wrong
from ulmatic.core.units import Volume

Array = NDArray[np.float64]

WANTED = (0.50, 0.80, 0.95)
"""Certainties that are answered for."""
CELLS = 400
"""Grid cells across the range of one load."""
MOST_LOADS = 500


class LoadSize(BaseModel):
    """What one load holds, in m³: at least, most likely, at most; taken as a triangular distribution."""

    model_config = ConfigDict(frozen=True)
    least_m3: Volume
    likely_m3: Volume
    most_m3: Volume

    @model_validator(mode="after")
    def _in_order(self) -> "LoadSize":
        if not self.least_m3 <= self.likely_m3:
            raise wrong("The least a load holds cannot be more than what is likely.", "least_m3")
        if not self.likely_m3 <= self.most_m3:
            raise wrong("The most a load holds cannot be less than what is likely.", "most_m3")
        return self

    @property
    def mean_m3(self) -> float:
        """Mean of the distribution."""
        return (self.least_m3 + self.likely_m3 + self.most_m3) / 3


class Chance(BaseModel):
    """So many loads, and the probability that they are enough."""

    model_config = ConfigDict(frozen=True)
    loads: int
    enough: float


class Certainty(BaseModel):
    """How sure so many loads are.

    Attributes
    ----------
    chances : tuple of Chance
        For every number of loads between hopeless and certain.
    for_50, for_80, for_95 : int
        The least number of loads that is enough with that certainty.
    """

    model_config = ConfigDict(frozen=True)
    chances: tuple[Chance, ...]
    for_50: int
    for_80: int
    for_95: int


def _cumulative(x: Array, size: LoadSize) -> Array:
    a, c, b = size.least_m3, size.likely_m3, size.most_m3
    rising = np.where(x > a, (x - a) ** 2 / ((b - a) * max(c - a, 1e-300)), 0.0)
    falling = 1 - np.where(x < b, (b - x) ** 2 / ((b - a) * max(b - c, 1e-300)), 0.0)
    return np.where(x <= c, rising, falling)


def _cells(size: LoadSize) -> tuple[Array, float]:
    """Return the probability of each cell of the grid, and the width of a cell."""
    width = (size.most_m3 - size.least_m3) / CELLS
    edges: Array = size.least_m3 + width * np.arange(CELLS + 1, dtype=np.float64)
    return np.diff(_cumulative(edges, size)), width


def chance_enough(need_m3: float, loads: int, size: LoadSize) -> float:
    """Return the probability that `loads` loads, independent of each other, hold `need_m3` or more.

    Sizes are put on a grid by their exact cell probabilities and added by convolution (a power of their
    Fourier transform); no random numbers.
    """
    if loads <= 0 or size.most_m3 - size.least_m3 < 1e-9:
        return float(loads * size.likely_m3 >= need_m3 - 1e-9)
    cells, width = _cells(size)
    long = next_fast_len(loads * CELLS)
    total = np.maximum(0.0, irfft(rfft(cells, long) ** loads, long))[: loads * (CELLS - 1) + 1]
    # A sum of n loads in cells i₁…iₙ lies about n a + (Σ i + n/2) cell widths.
    middles = loads * size.least_m3 + width * (np.arange(total.size) + loads / 2)
    over = middles >= need_m3
    at = int(np.searchsorted(middles, need_m3))
    split = 0.0
    if 0 < at < total.size:
        split = total[at - 1] * max(0.0, 0.5 - (need_m3 - middles[at - 1]) / width)
        split -= total[at] * max(0.0, 0.5 - (middles[at] - need_m3) / width)
    return float(min(1.0, max(0.0, total[over].sum() + split)))


@lru_cache(maxsize=512)
def certainty(need_m3: float, size: LoadSize) -> Certainty | None:
    """Return how sure numbers of loads are, or None where nothing is needed or it takes too many to say."""
    if need_m3 <= 0 or need_m3 / size.least_m3 > MOST_LOADS:
        return None
    first, last = max(1, math.floor(need_m3 / size.most_m3)), math.ceil(need_m3 / size.least_m3 - 1e-9)
    chances: list[Chance] = []
    for loads in range(first, last + 1):
        chances.append(Chance(loads=loads, enough=chance_enough(need_m3, loads, size)))
        if chances[-1].enough > 0.9995:
            break
    least = [next((one.loads for one in chances if one.enough >= wanted), last) for wanted in WANTED]
    return Certainty(chances=tuple(chances), for_50=least[0], for_80=least[1], for_95=least[2])
