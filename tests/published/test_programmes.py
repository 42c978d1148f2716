"""What is solved here against SciPy: programmes, sums of layers, walks along ways, chances."""

import itertools

import numpy as np
import pytest
import scipy
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.conftest import examples
from ulmatic.core.decay.layer_table import sums_by_row
from ulmatic.core.programmes import Rows, minimum, shared_rows
from ulmatic.core.supply.suppliers import COUNTED_ON, counted_on
from ulmatic.core.survey.access import Net

small = st.integers(-6, 9).map(float)


@st.composite
def problems(draw):
    count, rows = draw(st.integers(1, 6)), draw(st.integers(1, 5))
    numbers = lambda size: np.array(draw(st.lists(small, min_size=size, max_size=size)))  # noqa: E731
    return numbers(count), numbers(rows * count).reshape(rows, count), numbers(rows), draw(st.integers(0, count))


@settings(max_examples=examples(200))
@given(problems())
def test_a_programme_comes_to_what_it_comes_to_elsewhere(problem):
    weights, matrix, high, whole_numbers = problem
    solution = minimum(weights, Rows.of_matrix(matrix), -np.inf, high, upper=20.0, whole_numbers=whole_numbers)
    integral = np.arange(weights.size) < whole_numbers
    constraint = scipy.optimize.LinearConstraint(matrix, -np.inf, high)
    reference = scipy.optimize.milp(
        weights, integrality=integral, bounds=scipy.optimize.Bounds(0, 20), constraints=constraint
    )
    assert (solution.point is None) == (reference.x is None)
    if solution.point is None:
        assert not solution.feasible
        return
    assert solution.value == pytest.approx(reference.fun, rel=1e-6, abs=1e-6)
    assert solution.gap == pytest.approx(0, abs=1e-9)
    assert (matrix @ solution.point <= high + 1e-6).all()
    assert solution.point[:whole_numbers] == pytest.approx(np.round(solution.point[:whole_numbers]), abs=1e-6)


def test_a_sharing_out_takes_no_more_than_there_is_nor_than_is_needed():
    sources, sinks, worth = np.array([0, 0, 1]), np.array([0, 1, 1]), np.array([1.0, 0.5, 1.0])
    rows = shared_rows(sources, sinks, worth, 2, 4)
    solution = minimum(-worth, rows, -np.inf, np.array([6.0, 1.0, 2.0, 3.0]))
    assert solution.point == pytest.approx([2, 4, 1])


@settings(max_examples=examples(100))
@given(st.integers(1, 9), st.lists(st.tuples(st.integers(0, 8), st.integers(0, 5), st.floats(0, 9)), max_size=3000))
def test_sums_of_layers_are_those_of_a_sparse_matrix(more_rows, layers):
    rows = max((row for row, _, _ in layers), default=0) + more_rows
    curves = np.random.default_rng(7).random((6, 4))
    row, curve, amount = (
        np.array(column, dtype=kind)
        for column, kind in zip(list(zip(*layers, strict=True)) or [(), (), ()], (int, int, float), strict=True)
    )
    reference = scipy.sparse.csr_array((amount, (row, curve)), shape=(rows, 6)) @ curves
    assert sums_by_row(row, curve, amount, curves, rows) == pytest.approx(reference, rel=1e-12)


@settings(max_examples=examples(100))
@given(st.lists(st.tuples(st.integers(0, 7), st.integers(0, 7), st.floats(0.1, 9)), min_size=1, max_size=20))
def test_walks_are_the_shortest(pieces):
    net = Net(())
    for number in range(8):
        net.node((float(number), 0.0))
    for start, end, length_m in pieces:
        net.join(start, end, length_m, 0.0, None)
    lengths = np.zeros((8, 8))
    for (start, end), (length_m, _, _) in net.pieces.items():
        lengths[start, end] = length_m
    walk, before = net.shortest([0, 5])
    reference = scipy.sparse.csgraph.dijkstra(scipy.sparse.csr_array(lengths), indices=[0, 5], min_only=True)
    assert walk == pytest.approx(reference.tolist())
    assert all(walk[node] == pytest.approx(walk[last] + lengths[last, node]) for node, last in before.items())


def test_loads_that_are_counted_on_are_those_of_the_binomial_distribution():
    for months, chance in itertools.product(range(1, 13), (0.05, 0.3, 0.5, 0.8, 0.99)):
        loads = counted_on(months, chance)
        assert loads == next(n for n in range(months + 1) if scipy.special.bdtr(n, months, chance) >= 1 - COUNTED_ON)
