"""Decay of plant matter by Yasso07, in closed form: pools A, W, E, N and humus H after a decay time."""

import numpy as np
from numpy.typing import ArrayLike, NDArray

from ulmatic.core.climate.normals import Normals

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
_EIGEN = np.linalg.eig(CHANGE)
VALUES: Array = np.array(_EIGEN.eigenvalues.real, dtype=np.float64)
VECTORS: Array = np.array(_EIGEN.eigenvectors.real, dtype=np.float64)
"""CHANGE has real eigenvalues, all negative: five modes that decay on their own."""
INVERSE: Array = np.array(np.linalg.inv(VECTORS), dtype=np.float64)


def xi(temperature_c: ArrayLike, rain_m: ArrayLike) -> Array:
    """Return ξ = exp(0.096 T − 0.0014 T²) · (1 − exp(−1.21 P)).

    Parameters
    ----------
    temperature_c : array_like
        Mean of a month.
    rain_m : array_like
        Of a year, in m.

    Returns
    -------
    ndarray
        Of the shape that its arguments have together.

    References
    ----------
    Tuomi et al. 2009, Ecological Modelling 220: 3362–3371; from memory.
    """
    t, p = np.asarray(temperature_c, dtype=float), np.asarray(rain_m, dtype=float)
    factor: Array = np.exp(0.096 * t - 0.0014 * t**2) * (1 - np.exp(-1.21 * p))
    return factor


def climate_factor(normals: Normals) -> float:
    """Return ξ: the mean over the year of exp(0.096 T − 0.0014 T²) · (1 − exp(−1.21 P)), P in m of rain a year.

    T is the mean of each month.

    Parameters
    ----------
    normals : Normals

    Returns
    -------
    float

    References
    ----------
    Tuomi et al. 2009, Ecological Modelling 220: 3362–3371; from memory.
    """
    return float(np.mean(xi(normals.temperatures_c, sum(normals.rain_mm) / 1000)))


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

    References
    ----------
    Tuomi et al. 2009, Ecological Modelling 220: 3362–3371; from memory.
    """
    shares = np.asarray(start, dtype=float) @ INVERSE.T
    left: Array = (shares * np.exp(np.asarray(decay_time, dtype=float)[..., None] * VALUES)) @ VECTORS.T
    return left


def decayed(fractions: ArrayLike, decay_time: ArrayLike) -> Array:
    """Return q, the stage of decay from 0 (fresh) to 1: what is gone of the soluble pools A, W and E.

    `fractions` are A, W, E, N of the fresh material, shape (..., 4).

    Parameters
    ----------
    fractions : array_like
        Shares of A, W, E and N, shape (…, 4).
    decay_time : array_like
        ξ-years, shape (n,).

    Returns
    -------
    ndarray
        Shape (...).
    """
    fresh = np.asarray(fractions, dtype=float)
    start = np.concatenate([fresh, np.zeros((*fresh.shape[:-1], 1))], axis=-1)
    now = pools(start, decay_time)
    soluble = start[..., :3].sum(-1)
    lost_share: Array = 1 - now[..., :3].sum(-1) / np.where(soluble > 0, soluble, 1.0)
    return lost_share
