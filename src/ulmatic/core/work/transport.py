"""The transport problem: which pile or tip serves which plot, at least haul."""

import itertools

import numpy as np
from numpy.typing import ArrayLike, NDArray

Array = NDArray[np.float64]


def transport(there: ArrayLike, wanted: ArrayLike, cost: ArrayLike) -> Array:
    """Return what goes from each source to each sink so that as much as can be is served, at least cost.

    By successive shortest augmenting paths (Busacker and Gowen 1960; from memory). There are few sources and many
    sinks, so paths are looked for among sources alone: one source may take over a sink from another, which then
    serves a further one.

    Parameters
    ----------
    there : array_like, shape (m,)
        m³ at each source.
    wanted : array_like, shape (n,)
        m³ at each sink.
    cost : array_like, shape (m, n)
        For each m³, 0 or more, finite.

    Returns
    -------
    ndarray, shape (m, n)
        m³. Row sums do not exceed `there`, column sums do not exceed `wanted`.
    """
    left, need = np.array(there, dtype=float), np.array(wanted, dtype=float)
    price = np.array(cost, dtype=float)
    flow = np.zeros(price.shape)
    speck = 1e-12 * max(1.0, left.sum(), need.sum())
    while (left > speck).any() and (need > speck).any():
        first, takeovers, sink = _cheapest(left > speck, need > speck, price, flow > speck)
        serving = [first, *(source for source, _ in takeovers)]
        amount = min(left[first], need[sink], *(flow[source, at] for source, at in takeovers), np.inf)
        for giver, (taker, at) in zip(serving, takeovers, strict=False):
            flow[giver, at] += amount
            flow[taker, at] -= amount
        flow[serving[-1], sink] += amount
        left[first] -= amount
        need[sink] -= amount
    return np.maximum(flow, 0.0)


def _cheapest(
    open_sources: NDArray[np.bool_], open_sinks: NDArray[np.bool_], price: Array, used: NDArray[np.bool_]
) -> tuple[int, list[tuple[int, int]], int]:
    """Return the source with something left, the take-overs (source relieved, its sink), and the sink served last."""
    count = price.shape[0]
    # What it costs that source i takes over a sink that source k serves.
    differences = np.where(used[None, :, :], price[:, None, :] - price[None, :, :], np.inf)
    at = differences.argmin(axis=2)
    step = differences.min(axis=2)
    far = np.where(open_sources, 0.0, np.inf)
    before = np.full(count, -1)
    for _ in range(count):
        through = far[:, None] + step
        nearer = through.min(axis=0) < far - 1e-12
        if not nearer.any():
            break
        before[nearer] = through.argmin(axis=0)[nearer]
        far[nearer] = through.min(axis=0)[nearer]
    ends = far[:, None] + np.where(open_sinks[None, :], price, np.inf)
    last, sink = (int(one) for one in np.unravel_index(int(ends.argmin()), ends.shape))
    chain = [last]
    while before[chain[-1]] >= 0:
        chain.append(int(before[chain[-1]]))
    chain.reverse()
    takeovers = [(taker, int(at[giver, taker])) for giver, taker in itertools.pairwise(chain)]
    return chain[0], takeovers, sink


def hauled(flow: ArrayLike, cost: ArrayLike) -> float:
    """Return what a flow costs in all."""
    return float((np.asarray(flow, dtype=float) * np.asarray(cost, dtype=float)).sum())
