"""Figures that carry their own working.

A computed number is a `Figure`: value, unit, range and a `Working`, which holds the formula that was evaluated
and the figures that went into it. The formula is text and is what is computed, so the two cannot differ:

>>> area, depth, settling = entered("Area", 12, "m2"), entered("Depth", 75, "mm"), entered("Settling", 0.25, "1")
>>> volume = Formula("A * d / (1 - s)").work("Loose volume", "m3", {"A": area, "d": depth, "s": settling})
>>> round(volume.value, 2), volume.unit
(1.2, 'm3')

Inside a formula every length is in metres, so depths in millimetres are converted on the way in.
"""

import ast
import itertools
import math
from collections.abc import Callable, Mapping
from enum import StrEnum
from functools import lru_cache
from types import CodeType
from typing import Literal

from ulmatic.core.value import Value

Unit = Literal[
    "m",
    "mm",
    "m2",
    "m3",
    "1",
    "trees",
    "loads",
    "trips",
    "deg",
    "kg",
    "kg_m3",
    "ratio",
    "factor",
    "h",
    "min_m3",
    "min_m2",
    "min_m",
    "min_tree",
    "m_min",
    "degC",
    "kelvin",
    "days",
    "g_m2",
    "per_year",
    "number",
]
"""Units that figures are given in; "1" is a share, "ratio" is C:N by mass, "factor" multiplies a rate, "kelvin" is a
difference between temperatures, "number" has no unit."""

_IN_BASE_UNITS = {"mm": 0.001, "deg": math.pi / 180}
_FUNCTIONS: dict[str, Callable[..., float]] = {
    "max": max,
    "min": min,
    "ceil": lambda x: float(ceil(x)),
    "sqrt": math.sqrt,
    "cos": math.cos,
    "acos": math.acos,
}


class Mark(StrEnum):
    """How well a number is founded."""

    PUBLISHED = "published"
    FROM_MEMORY = "from memory"
    COMMON_PRACTICE = "common practice"
    DEFINITION = "definition"
    ENTERED = "entered"
    COMPUTED = "computed"


class Source(Value):
    """Where a number comes from: a sentence and its mark."""

    mark: Mark
    text: str


class Figure(Value):
    """A number that a person can ask about.

    Attributes
    ----------
    value : float
        In `unit`; `low` and `high` bound it where it is uncertain.
    source : Source
        What it rests on. Computed figures have `working` too.
    """

    name: str
    value: float
    unit: Unit
    low: float | None = None
    high: float | None = None
    source: Source
    working: "Working | None" = None

    def brief(self, name: str | None = None) -> "Figure":
        """Return this figure without its working, under another name if given, for use as a term in a long list.

        Returns
        -------
        Figure
        """
        return Figure(
            name=name or self.name,
            value=self.value,
            unit=self.unit,
            low=self.low,
            high=self.high,
            source=self.source,
        )

    def certain(self) -> "Figure":
        """Return this figure without its range, where a formula is to take the value alone.

        Returns
        -------
        Figure
        """
        return Figure(name=self.name, value=self.value, unit=self.unit, source=self.source, working=self.working)

    @property
    def base_value(self) -> float:
        """Value in base units: millimetres become metres, degrees radians."""
        return self.value * _IN_BASE_UNITS.get(self.unit, 1.0)


class Parameter(Figure):
    """A shipped constant with key, range and source."""

    key: str


class Term(Value):
    """A symbol of a formula and what stands for it."""

    symbol: str
    figure: Figure


class Working(Value):
    """How a figure came about.

    Attributes
    ----------
    formula : tuple of str
        The formula in pieces to be set in type; a piece that equals a term's symbol stands for its figure.
    terms : tuple of Term
        In the order in which they occur in the formula.
    note : str
        What the reader should know besides; may be empty.
    """

    formula: tuple[str, ...]
    terms: tuple[Term, ...]
    note: str = ""


def entered(name: str, value: float, unit: Unit) -> Figure:
    """Return a figure that the user gave.

    Parameters
    ----------
    name : str
        As it is shown.
    value : float
        In `unit`.
    unit : Unit

    Returns
    -------
    Figure
    """
    return Figure(name=name, value=value, unit=unit, source=Source(mark=Mark.ENTERED, text="You entered this."))


def make_parameter(
    key: str,
    name: str,
    value: float,
    unit: Unit,
    low: float | None,
    high: float | None,
    mark: Mark,
    source: str,
) -> Parameter:
    """Return a shipped constant; `low` and `high` in `unit`.

    Parameters
    ----------
    key : str
        Identifier.
    name : str
        As it is shown.
    value : float
        In `unit`.
    unit : Unit
    low : float or None
        10th percentile, in `unit`.
    high : float or None
        90th percentile, in `unit`.
    mark : Mark
    source : str
        Where it comes from.

    Returns
    -------
    Parameter
    """
    return Parameter(
        key=key, name=name, value=value, unit=unit, low=low, high=high, source=Source(mark=mark, text=source)
    )


def ceil(number: float) -> int:
    """Round up, forgiving the last billionth that binary fractions leave over (0.3 / 0.1 is 3, not 4).

    Parameters
    ----------
    number : float

    Returns
    -------
    int

    Examples
    --------
    >>> ceil(3.0000000001), ceil(3.1)
    (3, 4)
    """
    return math.ceil(number - 1e-9 * max(1.0, abs(number)))


class Formula:
    """An arithmetic expression that can be evaluated and set in type.

    Parameters
    ----------
    text : str
        Python arithmetic with names, numbers, ``max``, ``min``, ``ceil``, ``sqrt`` and ``pi``.

    Raises
    ------
    ValueError
        Where the text is anything but arithmetic.
    """

    def __init__(self, text: str) -> None:
        tree = ast.parse(text, mode="eval")
        self.text = text
        self.pieces: tuple[str, ...] = tuple(_typeset(tree.body, 0))
        self.symbols = tuple(dict.fromkeys(_symbols(tree.body)))
        self._code: CodeType = compile(tree, "<formula>", "eval")

    def __call__(self, **values: float) -> float:
        """Evaluate with `values` in base units.

        Returns
        -------
        float
        """
        names = {"__builtins__": {}, "pi": math.pi, **_FUNCTIONS, **values}
        return float(eval(self._code, names))  # noqa: S307 - the tree was checked to be arithmetic

    def work(
        self, name: str, unit: Unit, terms: Mapping[str, Figure], *, note: str = "", source: Source | None = None
    ) -> Figure:
        """Evaluate with figures and return the result with its working.

        The range is that of all corners of the terms' ranges, which is exact for formulas monotone in each term.

        Parameters
        ----------
        name, unit
            Of the result.
        terms : mapping of str to Figure
            One for each symbol.
        note : str
            Added to the working.
        source : Source, optional
            Of the formula; without it the result is simply marked as computed.

        Returns
        -------
        Figure
        """
        scale = _IN_BASE_UNITS.get(unit, 1.0)
        value = self(**{symbol: figure.base_value for symbol, figure in terms.items()}) / scale
        low, high = self._range(terms, scale)
        return Figure(
            name=name,
            value=value,
            unit=unit,
            low=low,
            high=high,
            source=source or Source(mark=Mark.COMPUTED, text="Computed from the terms below."),
            working=Working(
                formula=self.pieces,
                terms=tuple(Term(symbol=symbol, figure=terms[symbol]) for symbol in self.symbols),
                note=note,
            ),
        )

    def _range(self, terms: Mapping[str, Figure], scale: float) -> tuple[float | None, float | None]:
        ends = {
            symbol: (figure.low, figure.high)
            for symbol, figure in terms.items()
            if figure.low is not None and figure.high is not None
        }
        if not ends:
            return None, None
        fixed = {symbol: figure.base_value for symbol, figure in terms.items()}
        into_base = {symbol: _IN_BASE_UNITS.get(terms[symbol].unit, 1.0) for symbol in ends}
        values = [
            self(**fixed | {s: v * into_base[s] for s, v in zip(ends, corner, strict=True)})
            for corner in itertools.product(*ends.values())
        ]
        return min(values) / scale, max(values) / scale


@lru_cache(maxsize=256)
def formula(text: str) -> Formula:
    """Return the `Formula` of `text`, made once.

    Parameters
    ----------
    text : str
        Arithmetic in the names of its terms.

    Returns
    -------
    Formula
    """
    return Formula(text)


_SIGNS: dict[type[ast.operator], tuple[str, int]] = {
    ast.Add: (" + ", 1),
    ast.Sub: (" − ", 1),
    ast.Mult: (" × ", 2),
    ast.Div: (" ÷ ", 2),
}


def _typeset(node: ast.expr, strength: int) -> list[str]:
    match node:
        case ast.Name(id="pi"):
            return ["π"]
        case ast.Name(id=name):
            return [name]
        case ast.Constant(value=int() | float() as number):
            return [f"{number:g}"]
        case ast.BinOp(left=left, op=ast.Pow(), right=ast.Constant(value=2)):
            return [*_typeset(left, 4), "²"]
        case ast.BinOp(left=left, op=op, right=right) if type(op) in _SIGNS:
            sign, binding = _SIGNS[type(op)]
            binds_right = binding + (1 if isinstance(op, ast.Sub | ast.Div) else 0)
            pieces = [*_typeset(left, binding), sign, *_typeset(right, binds_right)]
            return ["(", *pieces, ")"] if binding < strength else pieces
        case ast.Call(func=ast.Name(id=function), args=args) if function in _FUNCTIONS:
            pieces = [f"{function if function != 'ceil' else 'round up'}("]
            for index, arg in enumerate(args):
                pieces += [", "] if index else []
                pieces += _typeset(arg, 0)
            return [*pieces, ")"]
    raise ValueError(f"not arithmetic: {ast.dump(node)}")


def _symbols(node: ast.expr) -> list[str]:
    return [
        symbol.id
        for symbol in sorted(
            (n for n in ast.walk(node) if isinstance(n, ast.Name)), key=lambda n: (n.lineno, n.col_offset)
        )
        if symbol.id != "pi" and symbol.id not in _FUNCTIONS
    ]
