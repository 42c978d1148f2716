"""Linear programmes, with whole numbers where they are asked for: how they are put to the solver and read again."""

from dataclasses import dataclass
from typing import Any

import highspy
import numpy as np
from highspy._core import _Highs as Solver  # the wrapper around it prints its name, whatever its output is set to
from numpy.typing import NDArray

Array = NDArray[np.float64]


@dataclass(frozen=True)
class Rows:
    """The left side of constraints, entry by entry: row, column, factor."""

    rows: NDArray[np.int_]
    columns: NDArray[np.int_]
    factors: Array
    count: int

    @classmethod
    def of_matrix(cls, matrix: Array) -> "Rows":
        """Return the rows of a matrix.

        Returns
        -------
        Rows
        """
        rows, columns = np.nonzero(matrix)
        return cls(rows, columns, matrix[rows, columns], len(matrix))


def shared_rows(
    sources: NDArray[np.int_], sinks: NDArray[np.int_], worth: Array, source_count: int, count: int
) -> Rows:
    """Return the rows of a sharing out: what leaves each source, then what it is worth where it comes.

    Parameters
    ----------
    sources, sinks : ndarray of int, shape (n,)
        Of each unknown, the amount that goes from one to the other.
    worth : ndarray, shape (n,)
    source_count, count : int
        Of sources; of sources and sinks.

    Returns
    -------
    Rows
    """
    columns = np.arange(worth.size)
    return Rows(
        rows=np.concatenate([sources, source_count + sinks]),
        columns=np.concatenate([columns, columns]),
        factors=np.concatenate([np.ones(worth.size), worth]),
        count=count,
    )


@dataclass(frozen=True)
class Solution:
    """What a programme came to.

    Attributes
    ----------
    point : ndarray or None
        None where nothing was found.
    value : float
        Of the objective at that point.
    gap : float
        Share by which another could be better; 0 where it is proven to be the best.
    feasible : bool
        False where it is proven that there is none.
    """

    point: Array | None
    value: float
    gap: float
    feasible: bool


def minimum(
    weights: Array,
    rows: Rows,
    low: Array | float,
    high: Array | float,
    *,
    lower: Array | float = 0.0,
    upper: Array | float = np.inf,
    whole_numbers: int = 0,
    most_nodes: int | None = None,
) -> Solution:
    """Return where a weighed sum is least; the same on every machine, whatever its load.

    Parameters
    ----------
    weights : ndarray, shape (n,)
    rows : Rows
    low, high : ndarray, shape (rows,), or float
        Between these the left sides lie.
    lower, upper : ndarray, shape (n,), or float
        Between these the unknowns lie.
    whole_numbers : int
        The first so many unknowns are whole numbers.
    most_nodes : int or None
        After so many branches the search ends with the best that it has met.

    Returns
    -------
    Solution

    References
    ----------
    Q. Huangfu, J. A. J. Hall (2018), Parallelizing the dual revised simplex method, Mathematical Programming
    Computation 10, 119-142: the solver is HiGHS, by its own bindings.
    """
    count = weights.size
    order = np.lexsort((rows.rows, rows.columns))
    problem = highspy.HighsLp()
    problem.num_col_, problem.num_row_ = count, rows.count
    problem.col_cost_ = weights
    problem.col_lower_, problem.col_upper_ = np.broadcast_to(lower, count), np.broadcast_to(upper, count)
    problem.row_lower_, problem.row_upper_ = np.broadcast_to(low, rows.count), np.broadcast_to(high, rows.count)
    problem.a_matrix_.format_ = highspy.MatrixFormat.kColwise
    problem.a_matrix_.start_ = np.concatenate([[0], np.cumsum(np.bincount(rows.columns, minlength=count))])
    problem.a_matrix_.index_ = rows.rows[order]
    problem.a_matrix_.value_ = rows.factors[order]
    if whole_numbers:
        kinds = [highspy.HighsVarType.kInteger] * whole_numbers + [highspy.HighsVarType.kContinuous] * (
            count - whole_numbers
        )
        problem.integrality_ = kinds
    solver = Solver()
    # A first guess by jumps takes three times as long as all the rest of a choice of loads.
    guesses = {"mip_heuristic_run_feasibility_jump": False}
    options: dict[str, Any] = {"output_flag": False, "threads": 1, "mip_rel_gap": 0.0, **guesses}
    if most_nodes is not None:
        options["mip_max_nodes"] = most_nodes
    for name, value in options.items():
        solver.setOptionValue(name, value)
    solver.passModel(problem)
    solver.run()
    status, information = solver.getModelStatus(), solver.getInfo()
    if information.primal_solution_status != highspy.SolutionStatus.kSolutionStatusFeasible:
        return Solution(None, np.inf, np.inf, status != highspy.HighsModelStatus.kInfeasible)
    point = np.array(solver.getSolution().col_value)
    return Solution(
        point, float(information.objective_function_value), float(information.mip_gap) if whole_numbers else 0.0, True
    )
