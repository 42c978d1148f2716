"""Measurements as people say them, turned into SI with Pint."""

import math
import re
from fractions import Fraction
from functools import cache, lru_cache
from typing import TYPE_CHECKING

from ulmatic.core.units.measures import Measure, UnitSystem

if TYPE_CHECKING:
    import pint


@cache
def registry() -> "pint.UnitRegistry[float]":
    """Return the register of units; made when something is typed first, as it takes half a second.

    Returns
    -------
    UnitRegistry
    """
    import pint

    return pint.UnitRegistry(cache_folder=None)


@cache
def _refusals() -> tuple[type[Exception], ...]:
    """Return what Pint raises where something is no unit.

    Returns
    -------
    tuple of type
    """
    import pint

    return (pint.PintError, AttributeError, ValueError, KeyError, TypeError)


LONGEST_ENTRY = 60
"""Characters in one typed measurement; longer ones are not measurements."""

MOST_TEXT = 6_000
"""Characters in an entry of several measurements, before any pattern looks at it."""

MOST_PARTS = 60
"""Measurements in one entry such as the legs of a path."""


class MeasureError(ValueError):
    """A typed measurement that cannot be understood; its text is one sentence for the person who typed it."""


_FRACTIONS = {
    "½": "1/2",
    "¼": "1/4",
    "¾": "3/4",
    "⅓": "1/3",
    "⅔": "2/3",
    "⅛": "1/8",
    "⅜": "3/8",
    "⅝": "5/8",
    "⅞": "7/8",
}
_MARKS = str.maketrans(
    {
        "′": "'",
        "’": "'",
        "‘": "'",
        "`": "'",
        "″": '"',
        "”": '"',
        "“": '"',
        "×": "x",
        "✕": "x",
        "³": "3",
        "²": "2",
    }
    | {"\u00a0": " ", "\u202f": " ", "−": "-", "–": "-"}
)
# 1,234.5 · 1.234,5 · 1,234,567 · 1 234,5: what stands last, or once, parts the decimals.
_GROUPED = (
    r"\d{1,3}(?:,\d{3})+\.\d+|\d{1,3}(?:\.\d{3})+,\d+|\d{1,3}(?:,\d{3}){2,}|\d{1,3}(?:\.\d{3}){2,}|"
    r"\d{1,3}(?: \d{3})+(?:[.,]\d+)?(?![\d/])"
)
_NUMBER = rf"\d+\s+\d+/\d+|\d+/\d+|{_GROUPED}|\d+(?:[.,]\d+)?|[.,]\d+"
_PART = re.compile(rf"\s*({_NUMBER})\s*([a-z]+[23]?|'|\"|%)?\.?", re.ASCII)
_SPACES = re.compile(r"[^\S\n]+")
_CUBIC = re.compile(r"\b(?:cubic|cu)\.?\s*([a-z]+)")
_TWO_WAYS = re.compile(r"(?<![\d.,])([1-9]\d{0,2})[.,](\d{3})(?![\d.,])")
_HYPHEN = re.compile(r"(?<=['\"a-z])\s*-\s*(?=\d)|(?<=\d)\s*-\s*(?=\d+/\d)")
_METRE_MARK = re.compile(r"(?<=\d)\s*m(?=\d{2}(?!\d))")
_BARE_PART = re.compile(r"0?[.,]\d+|\d+/\d+")
_NAMES = {
    "'": "ft",
    '"': "in",
    "%": "percent",
    "cy": "yd3",
    "cuyd": "yd3",
    "cuft": "ft3",
    "cbm": "m3",
    "cum": "m3",
    "foot": "ft",
    "feet": "ft",
    "inch": "in",
    "inches": "in",
    "ins": "in",
    "metre": "m",
    "metres": "m",
    "meter": "m",
    "meters": "m",
    "litre": "L",
    "litres": "L",
    "ltr": "L",
    "l": "L",
    "yard": "yd",
    "yards": "yd",
    "mtr": "m",
    "mtrs": "m",
    "pct": "percent",
}
_LESSER = {"ft": "in", "m": "cm"}


@lru_cache(maxsize=512)
def _factor(name: str, unit: str) -> float | None:
    """Size of one `name` in `unit`, or None where it is no unit of that kind.

    Returns
    -------
    float or None
    """
    power = name[-1] if name[-1] in "23" else ""
    units = registry()
    try:
        quantity = units.Quantity(1.0, units.parse_units(name.removesuffix(power) + (f"^{power}" if power else "")))
        return float(quantity.to(unit).magnitude)
    except _refusals():
        return None


def _number(text: str) -> float:
    if "/" in text:
        integer, _, rest = text.rpartition(" ")
        return float(Fraction(integer.strip() or 0) + Fraction(rest))
    digits = text.replace(" ", "")
    mark = max(digits.rfind(","), digits.rfind("."))
    grouped = len(re.findall("[,.]", digits)) > 1 and len({*re.findall("[,.]", digits)}) == 1
    if mark < 0 or grouped:
        return float(re.sub("[,.]", "", digits))
    return float(re.sub("[,.]", "", digits[:mark]) + "." + digits[mark + 1 :])


def _plain(text: str) -> str:
    for sign, fraction in _FRACTIONS.items():
        text = text.replace(sign, f" {fraction}")
    text = text.translate(_MARKS).lower().replace("''", '"').strip()
    text = _HYPHEN.sub(" ", _METRE_MARK.sub(" m ", text))
    return _CUBIC.sub(r"\g<1>3", text)


def _canonical(word: str, measure: Measure) -> str:
    name = _NAMES.get(word, word)
    if measure.unit == "m^3" and _factor(name, "m") and name in ("yard", "yards", "yd", "yds"):
        return "yd3"
    return "yd" if name == "yds" else name


def _parts(text: str, measure: Measure, system: UnitSystem, fallback: str | None) -> list[tuple[float, str]]:
    """Numbers with unit names of one measurement, the omitted units filled in.

    Returns
    -------
    list of (float, str)

    Raises
    ------
    MeasureError
    """
    parts: list[tuple[float, str]] = []
    position, named = 0, False
    while position < len(text):
        match = _PART.match(text, position)
        if match is None:
            raise _not_understood(text, measure, system)
        number, word = match.groups()
        if word:
            name = _canonical(word, measure)
        elif parts and named and (parts[-1][1] == "ft" or (parts[-1][1] == "m" and len(number) == 2)):
            name = _LESSER[parts[-1][1]]
        elif parts:
            raise _not_understood(text, measure, system)
        else:
            name = fallback or measure.bare[system].replace("^", "")
        parts.append((_number(number), name))
        position, named = match.end(), word is not None
        while position < len(text) and text[position].isspace():
            position += 1
    return parts


def _not_understood(text: str, measure: Measure, system: UnitSystem) -> MeasureError:
    return MeasureError(f"“{text}” is not {measure.name} that can be read. Type it like {measure.examples[system]}.")


def _unambiguous(text: str, plain: str, measure: Measure) -> None:
    """Ask which is meant where a number can be read two ways."""
    twice = _TWO_WAYS.search(plain)
    if twice:
        few, many = f"{twice[1]}.{twice[2]}".rstrip("0").rstrip("."), twice[1] + twice[2]
        raise MeasureError(f"“{text}” can be read in two ways. Type {few} or {many}.")
    if measure.unit == "1" and _BARE_PART.fullmatch(plain) and _number(plain) > 0:
        percent = _number(plain)
        raise MeasureError(f"“{text}” can be read in two ways. Type {percent * 100:g} % or {percent:g} %.")


def parse(text: str, measure: Measure, system: UnitSystem, fallback: str | None = None) -> float:
    """Read one measurement as typed.

    Parameters
    ----------
    text : str
        Such as ``12'6"``, ``3 in``, ``2.5 m``, ``250cm``, ``4 ft 2`` or ``450``.
    measure : Measure
        What kind of measurement is meant.
    system : UnitSystem
        Whose unit a bare number takes.
    fallback : str, optional
        Unit name that a bare number takes instead, from its neighbour in ``12 x 3.5 m``.

    Returns
    -------
    float
        In ``measure.unit``.

    Raises
    ------
    MeasureError
        With one sentence that says what would be understood.

    Examples
    --------
    >>> from ulmatic.core.units import DEPTH, LENGTH, UnitSystem
    >>> parse("4 ft 2", LENGTH, UnitSystem.METRIC)
    1.27
    >>> parse("3", DEPTH, UnitSystem.US)
    76.2
    """
    if len(text) > LONGEST_ENTRY:
        raise MeasureError(f"This is too long for one measurement. Type it like {measure.examples[system]}.")
    text = _SPACES.sub(
        " ", text.encode("utf-8", "replace").decode()
    )  # a lone surrogate could not be shown in the sentence
    plain = _plain(text)
    if not plain:
        raise MeasureError(f"This is empty. Type {measure.name} like {measure.examples[system]}.")
    if plain.startswith("-"):
        raise MeasureError(f"“{text.strip()}” is below zero. Type {measure.name} like {measure.examples[system]}.")
    total, size_before = 0.0, math.inf
    try:
        _unambiguous(text.strip(), plain, measure)
        parts = _parts(plain, measure, system, fallback)
    except ZeroDivisionError:  # a fraction over nothing
        raise _not_understood(text.strip(), measure, system) from None
    for number, name in parts:
        size = _factor(name, measure.unit)
        if size is None or size >= size_before:
            raise _not_understood(text.strip(), measure, system)
        total, size_before = total + number * size, size
    return check_range(round(total, 12), measure, system)


def number_text(value: float) -> str:
    """Return a number as text that `parse` reads one way: 3.048 is written 3.0480.

    Parameters
    ----------
    value : float

    Returns
    -------
    str

    Examples
    --------
    >>> number_text(2.50)
    '2.5'
    """
    text = f"{value:.10g}"
    return f"{text}0" if _TWO_WAYS.fullmatch(text) else text


def parse_signed(text: str, measure: Measure, system: UnitSystem) -> float:
    """Read one measurement that may have a minus before it, such as a corner's distance across a line.

    Parameters and errors are those of `parse`; `measure` limits the size.

    Parameters
    ----------
    text : str
    measure : Measure
    system : UnitSystem

    Returns
    -------
    float
    """
    plain = text.strip().replace("−", "-")
    return -parse(plain[1:], measure, system) if plain.startswith("-") else parse(plain, measure, system)


def check_range(value: float, measure: Measure, system: UnitSystem) -> float:
    """Return `value` (in ``measure.unit``), or raise MeasureError when it is outside the measure's limits.

    Parameters
    ----------
    value : float
        In `measure.unit`.
    measure : Measure
    system : UnitSystem

    Returns
    -------
    float

    Raises
    ------
    MeasureError
    """
    if not math.isfinite(value):
        raise MeasureError(f"This is not {measure.name}. Type it like {measure.examples[system]}.")
    if value < measure.least or (value == measure.least and not measure.least_allowed):
        if value > 0:
            raise MeasureError(f"{_shown(value, measure, system)} is too small. Is the unit right?")
        raise MeasureError(f"{measure.name[0].upper()}{measure.name[1:]} here must be more than 0.")
    if value > measure.most:
        bound = _shown(value, measure, system)
        raise MeasureError(
            f"{bound} is more than can be planned ({_shown(measure.most, measure, system)}). Is the unit right?"
        )
    return value


def _shown(value: float, measure: Measure, system: UnitSystem) -> str:
    unit = measure.bare[system]
    amount = value * (_factor(measure.unit.replace("^", ""), unit) or 1) if measure.unit != "1" else value * 100
    return (
        f"{amount:,.4g} {unit.replace('^3', '³').replace('percent', '%')}"
        if amount < 1e4
        else f"{amount:,.0f} {unit.replace('^3', '³').replace('percent', '%')}"
    )


def parse_several(text: str, measure: Measure, system: UnitSystem, separators: str) -> tuple[float, ...]:
    """Read measurements in one entry, such as ``12 x 3.5 m`` or ``12 + 8 + 3.5 m``.

    A bare number takes the unit of the nearest later number that has one, else that of `system`.

    Parameters
    ----------
    text, measure, system
        As for `parse`.
    separators : str
        A regular expression for what stands between two measurements.

    Returns
    -------
    tuple of float
        In ``measure.unit``, in the order typed.

    Raises
    ------
    MeasureError
        As `parse` does, or when there are too many.
    """
    if len(text) > MOST_TEXT:
        raise MeasureError(f"This is too long: {MOST_TEXT:,} characters at most.")
    pieces = [piece for piece in re.split(separators, _plain(_SPACES.sub(" ", text))) if piece.strip()]
    if len(pieces) > MOST_PARTS:
        raise MeasureError(f"There are more than {MOST_PARTS} measurements in one entry; split it into several plots.")
    values: list[float] = []
    unit_after: str | None = None
    for piece in reversed(pieces):
        values.append(parse(piece, measure, system, fallback=unit_after))
        units = [word for _, word in _PART.findall(_plain(piece)) if word]
        unit_after = _canonical(units[0], measure) if units else unit_after
    return tuple(reversed(values))
