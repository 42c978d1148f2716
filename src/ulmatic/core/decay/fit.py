"""The rate factors of materials, fitted to the evidence by penalised least squares."""

import math
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass

import numpy as np
import scipy
from numpy.typing import NDArray

from ulmatic.core.decay.evidence import EVIDENCE, KINDS, FieldTrial
from ulmatic.core.decay.layers import NORMAL_90
from ulmatic.core.decay.yasso import pools

Array = NDArray[np.float64]
WITHIN_KIND = 0.25
"""Standard deviation of ln f of a material about what its kind and the order of practice say: a judgement."""
KIND_MEAN, KIND_SPREAD = math.log(0.8), 1.0
"""Prior of ln f of a kind: wide."""
EXPONENT_SPREAD = 0.25
"""Prior of the exponent of depth = mass · (1 − q)^p: 1, give or take this; between 0.5 and 1."""
PILE_MEAN, PILE_SPREAD = math.log(1.5), 0.4
"""Prior of ln of a pile's own factor: it keeps moist and warm; a judgement."""
BETWEEN_PLACES = 0.30
"""Standard deviation of ln f between places of the same climate (soil, thickness, wood): a judgement, no source."""


@dataclass(frozen=True)
class Rate:
    """A rate factor with the standard deviation of its logarithm by the fit; the ends add the scatter of places."""

    value: float
    spread: float

    @property
    def _reach(self) -> float:
        return math.exp(NORMAL_90 * math.hypot(self.spread, BETWEEN_PLACES))

    @property
    def low(self) -> float:
        """10th percentile."""
        return self.value / self._reach

    @property
    def high(self) -> float:
        """90th percentile."""
        return self.value * self._reach


@dataclass(frozen=True)
class Fit:
    """What the fit gives: rates by material, the pile's factor, the exponent, and its standard deviation."""

    rates: Mapping[str, Rate]
    pile: Rate
    exponent: float
    exponent_spread: float


def left_over(row: FieldTrial, rate: float, pile: float, exponent: float) -> float:
    """Return the share of mass or settled depth that the model leaves of what was observed.

    Parameters
    ----------
    row : FieldTrial
    rate : float
        Of its material.
    pile : float
        By what a pile rots faster.
    exponent : float
        p of depth = mass · (1 − q)^p.

    Returns
    -------
    float
    """
    time = rate * row.place.factor * row.years * (pile if row.in_pile else 1.0)
    left = pools([*row.fractions, 0.0], time)
    mass = float(left[:4].sum())
    if row.measure == "mass":
        return mass
    keeps = float(left[:3].sum() / sum(row.fractions[:3]))
    return mass * math.pow(keeps, exponent)


def chi_square(
    rates: Mapping[str, float], pile: float = 1.0, exponent: float = 1.0, rows: Sequence[FieldTrial] = EVIDENCE
) -> float:
    """Return Σ ((predicted − observed) / spread)² over rows whose material has a rate.

    Parameters
    ----------
    rates : mapping of material to rate factor
    pile, exponent : float
    rows : sequence of FieldTrial

    Returns
    -------
    float
    """
    return sum(
        ((left_over(row, rates[row.material], pile, exponent) - row.share_left) / row.widened) ** 2
        for row in rows
        if row.material in rates
    )


def fit(rows: Sequence[FieldTrial] = EVIDENCE, exponent: float | None = 1.0) -> Fit:
    """Fit the rate factors, on the logarithm: materials about the mean of their kind, in the order of practice.

    Parameters
    ----------
    rows : sequence of FieldTrial
    exponent : float or None
        Of depth = mass · (1 − q)^p; None fits it as well.

    Returns
    -------
    Fit
        The posterior's mode with its Laplace approximation.
    """
    materials = [material for kind in KINDS.values() for material in kind]
    kinds, count = list(KINDS), len(materials)
    place = {material: index for index, material in enumerate(materials)}
    pile_at, exponent_at = count + len(kinds), count + len(kinds) + 1

    def residuals(point: Array) -> Array:
        rates, power = np.exp(point[:count]), point[exponent_at] if exponent is None else exponent
        pile = math.exp(point[pile_at])
        pulls = [
            (left_over(row, float(rates[place[row.material]]), pile, float(power)) - row.share_left) / row.widened
            for row in rows
        ]
        for number, kind in enumerate(kinds):
            mean = point[count + number]
            pulls += [
                (point[place[material]] - mean - math.log(order)) / WITHIN_KIND
                for material, order in KINDS[kind].items()
            ]
            pulls.append((mean - KIND_MEAN) / KIND_SPREAD)
        pulls += [(point[pile_at] - PILE_MEAN) / PILE_SPREAD, (point[exponent_at] - 1) / EXPONENT_SPREAD]
        return np.array(pulls)

    start, least, most = np.zeros(exponent_at + 1), np.full(exponent_at + 1, -6.0), np.full(exponent_at + 1, 6.0)
    start[exponent_at], least[exponent_at], most[exponent_at] = 0.9, 0.5, 1.0 + 1e-6
    solution = scipy.optimize.least_squares(residuals, start, bounds=(least, most))
    slopes = np.asarray(solution.jac)
    spread = np.sqrt(np.diag(np.linalg.inv(slopes.T @ slopes)))
    rates = {
        material: Rate(float(np.exp(solution.x[index])), float(spread[index]))
        for index, material in enumerate(materials)
    }
    return Fit(
        rates=rates,
        pile=Rate(float(np.exp(solution.x[pile_at])), float(spread[pile_at])),
        exponent=float(solution.x[exponent_at]) if exponent is None else exponent,
        exponent_spread=float(spread[exponent_at]),
    )


def is_within_range(row: FieldTrial, fitted: Fit) -> bool:
    """Say whether a row lies in its 80 % range: that of its material between places, and its own spread.

    Parameters
    ----------
    row : FieldTrial
    fitted : Fit

    Returns
    -------
    bool
    """
    rate, pile = fitted.rates[row.material], fitted.pile.value
    low, middle, high = (left_over(row, end, pile, fitted.exponent) for end in (rate.high, rate.value, rate.low))
    reach = NORMAL_90 * row.widened
    return middle - math.hypot(middle - low, reach) <= row.share_left <= middle + math.hypot(high - middle, reach)


def rounded(figure: float) -> float:
    """Return a figure to two digits, as it is shipped.

    Parameters
    ----------
    figure : float

    Returns
    -------
    float
    """
    return float(f"{figure:.2g}")


def rates_table(fitted: Fit) -> str:
    """Return the rate factors, rounded as they are shipped, as a Markdown table.

    Parameters
    ----------
    fitted : Fit

    Returns
    -------
    str
    """
    lines = ["| kind | material | rate | 10th to 90th percentile |", "|---|---|---|---|"]
    rates = [(kind, material, fitted.rates[material]) for kind, materials in KINDS.items() for material in materials]
    lines += [
        f"| {kind} | {material} | {rounded(rate.value):g} | {rounded(rate.low):g} to {rounded(rate.high):g} |"
        for kind, material, rate in [*rates, ("pile", "against a layer", fitted.pile)]
    ]
    return "\n".join(lines) + "\n"


def without_each_source(rows: Sequence[FieldTrial] = EVIDENCE) -> str:
    """Return what the fit to all other rows predicts of each source's, as a Markdown table: errors of shares left.

    Parameters
    ----------
    rows : sequence of FieldTrial

    Returns
    -------
    str
    """
    lines = ["| left out | rows | largest error of the rest's prediction | χ² on all rows |", "|---|---|---|---|"]
    for source in dict.fromkeys(row.source.text for row in rows):
        source_rows, rest = (
            [row for row in rows if (row.source.text == source) is own_rows] for own_rows in (True, False)
        )
        other = fit(rest)
        rates = {material: rate.value for material, rate in other.rates.items()}
        errors = [
            abs(left_over(row, rates[row.material], other.pile.value, 1.0) - row.share_left) for row in source_rows
        ]
        misfit = chi_square(rates, other.pile.value, 1.0, rows)
        lines.append(f"| {source} | {len(source_rows)} | {max(errors):.2f} | {misfit:.1f} |")
    return "\n".join(lines) + "\n"


def table(rows: Sequence[FieldTrial], rate_of: Callable[[str], float], pile: float) -> str:
    """Return predicted beside observed for every row, as a Markdown table.

    Parameters
    ----------
    rows : sequence of FieldTrial
    rate_of : callable
        The rate factor of a material by its key.
    pile : float

    Returns
    -------
    str
    """
    lines = [
        "| what, where | years | observed | predicted | pull | trust | source |",
        "|---|---|---|---|---|---|---|",
    ]
    for row in rows:
        predicted = left_over(row, rate_of(row.material), pile, 1.0)
        pull = (row.share_left - predicted) / row.widened
        lines.append(
            f"| {row.what}, {row.place.name} | {row.years:g} | {row.measure} {row.share_left:.2f} ± {row.spread:.2f} "
            f"| {predicted:.2f} | {pull:+.1f} | {row.trust} | {row.source.text} |"
        )
    return "\n".join(lines) + "\n"
