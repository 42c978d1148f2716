"""The transport problem against SciPy's linear programme."""

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.optimize import linprog

from ulmatic.core.work.transport import hauled, transport

amounts = st.lists(st.floats(0, 30).map(lambda one: round(one, 3)), min_size=1, max_size=6)


@st.composite
def problems(draw):
    there, wanted = draw(amounts), draw(amounts)
    cost = draw(st.lists(st.integers(0, 60), min_size=len(there) * len(wanted), max_size=len(there) * len(wanted)))
    return np.array(there), np.array(wanted), np.array(cost, dtype=float).reshape(len(there), len(wanted))


def least_cost(there, wanted, cost) -> float:
    m, n = cost.shape
    rows = np.zeros((m + n, m * n))
    for i in range(m):
        rows[i, i * n : (i + 1) * n] = 1
    for j in range(n):
        rows[m + j, j::n] = 1
    # A hair of slack: rounding may leave the sum that must be moved a hair above what the rows allow.
    found = linprog(
        cost.ravel(), A_ub=rows, b_ub=np.concatenate([there, wanted]) + 1e-9, A_eq=np.ones((1, m * n)),
        b_eq=[min(there.sum(), wanted.sum())],
    )  # fmt: skip
    assert found.success
    return found.fun


@settings(max_examples=150)
@given(problems())
def test_transport_is_as_cheap_as_the_linear_programme(problem):
    there, wanted, cost = problem
    flow = transport(there, wanted, cost)
    assert (flow >= 0).all()
    assert (flow.sum(axis=1) <= there + 1e-9).all()
    assert (flow.sum(axis=0) <= wanted + 1e-9).all()
    assert flow.sum() == pytest.approx(min(there.sum(), wanted.sum()), abs=1e-6)
    assert hauled(flow, cost) == pytest.approx(least_cost(there, wanted, cost), abs=1e-5)


def test_a_sink_is_taken_over_where_that_frees_a_cheaper_way():
    # The near source serves the far sink, as only it gets there cheaply.
    flow = transport([5, 5], [5, 5], [[1, 2], [3, 50]])
    assert flow.tolist() == [[0, 5], [5, 0]]


def test_nothing_there_or_nothing_wanted_moves_nothing():
    assert transport([0, 0], [3], [[1], [2]]).sum() == 0
    assert transport([4], [0, 0], [[1, 2]]).sum() == 0
