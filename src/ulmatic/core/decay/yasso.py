"""Decay of plant matter by Yasso07, in closed form: pools A, W, E, N and humus H after a decay time."""

import numpy as np
from numpy.typing import ArrayLike, NDArray

from ulmatic.core.climate import Normals

Array = NDArray[np.float64]

RATES = np.array([0.73, 5.8, 0.29, 0.031, 0.0017])
"""Per year, pools A, W, E, N, H. Tuomi et al. 2009, Ecological Modelling 220: 3362–3371, from memory."""
FLOWS = np.array(
    [
        [0.0, 0.48, 0.01, 0.83, 0.0],
        [0.99, 0.0, 0.0, 0.01, 0.0],
        [0.0, 0.0, 0.0, 0.03, 0.0],
        [0.0, 0.01, 0.92, 0.0, 0.0],
        [0.0045, 0.0045, 0.0045, 0.0045, 0.0],
    ]
)
"""Share of what leaves a pool (column) that goes to another (row); same source, from memory."""
CHANGE = (FLOWS - np.eye(5)) * RATES
"""dx/dt = ξ · CHANGE · x."""
_VALUES, _VECTORS = np.linalg.eig(CHANGE)
_INVERSE = np.linalg.inv(_VECTORS)


def climate_factor(normals: Normals) -> float:
    """Return ξ: the mean over the year of exp(0.096 T − 0.0014 T²) · (1 − exp(−1.21 P)), P in m of rain a year.

    Same source as the rates, from memory; T is the mean of each month.
    """
    t = np.array(normals.temperatures_c)
    rain_m = sum(normals.rain_mm) / 1000
    return float(np.mean(np.exp(0.096 * t - 0.0014 * t**2)) * (1 - np.exp(-1.21 * rain_m)))


def pools(start: ArrayLike, decay_time: ArrayLike) -> Array:
    """Return the pools after a decay time.

    Parameters
    ----------
    start : array_like, shape (..., 5)
        Mass in A, W, E, N, H.
    decay_time : array_like, shape (...)
        Rate factor × ξ × years; 0 or more.

    Returns
    -------
    ndarray, shape (..., 5)
        In the unit of `start`.
    """
    shares = np.asarray(start, dtype=float) @ _INVERSE.T
    return np.real((shares * np.exp(np.asarray(decay_time, dtype=float)[..., None] * _VALUES)) @ _VECTORS.T)


def decayed(fractions: ArrayLike, decay_time: ArrayLike) -> Array:
    """Return q, the stage of decay from 0 (fresh) to 1: what is gone of the soluble pools A, W and E.

    `fractions` are A, W, E, N of the fresh material, shape (..., 4).
    """
    fresh = np.asarray(fractions, dtype=float)
    start = np.concatenate([fresh, np.zeros((*fresh.shape[:-1], 1))], axis=-1)
    now = pools(start, decay_time)
    soluble = start[..., :3].sum(-1)
    gone: Array = 1 - now[..., :3].sum(-1) / np.where(soluble > 0, soluble, 1.0)
    return gone
