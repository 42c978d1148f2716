"""Amounts as they are written on paper, in the units of a site and no finer than anybody can lay."""

import re
from collections.abc import Callable

from ulmatic.core.units import UnitSystem
from ulmatic.core.units.currency_amounts import YARD3_M3

FOOT_M, INCH_M = 0.3048, 0.0254
LEAST = 0.05
"""Volumes below are not written as 0.0."""
DEPTH_STEP_MM = {UnitSystem.METRIC: 5.0, UnitSystem.US: 250 * INCH_M}
"""To 5 mm, or a quarter inch."""


def volume_words(m3: float, units: UnitSystem) -> str:
    """Return a volume in m³ or cubic yards, to a tenth."""
    amount, unit = (m3 / YARD3_M3, "yd³") if units is UnitSystem.US else (m3, "m³")
    return f"under 0.1 {unit}" if 0 < amount < LEAST else f"{amount:,.1f} {unit}"


def book_words(m3: float, units: UnitSystem) -> str:
    """Return a volume in m³ or cubic yards as a book has it, to three figures."""
    amount, unit = (m3 / YARD3_M3, "yd³") if units is UnitSystem.US else (m3, "m³")
    return f"{amount:.3g} {unit}"


def area_words(m2: float, units: UnitSystem) -> str:
    """Return an area in m² to a tenth, or in square feet."""
    return f"{m2 / FOOT_M**2:,.0f} sq ft" if units is UnitSystem.US else f"{m2:,.1f} m²"


def length_words(m: float, units: UnitSystem) -> str:
    """Return a length in metres or feet."""
    return f"{m / FOOT_M:,.0f} ft" if units is UnitSystem.US else f"{m:,.0f} m"


def depth_words(mm: float, units: UnitSystem) -> str:
    """Return a depth in mm or inches, to the step in which it can be laid."""
    step = DEPTH_STEP_MM[units]
    laid_mm = round(mm / step) * step
    return f"{laid_mm / 1000 / INCH_M:g} in" if units is UnitSystem.US else f"{laid_mm:.0f} mm"


def hours_words(hours: float) -> str:
    """Return hours of work to a tenth, or minutes where it is less than an hour."""
    return f"{hours:.1f} h" if hours >= 0.95 else f"{max(1, round(hours * 60))} min"


def water_words(m3: float, units: UnitSystem) -> str:
    """Return an amount of water in litres or US gallons."""
    return f"{m3 * 264.172:,.0f} gal" if units is UnitSystem.US else f"{m3 * 1000:,.0f} L"


def temperature_words(celsius: float, units: UnitSystem) -> str:
    """Return a temperature in °C or °F."""
    return f"{celsius * 1.8 + 32:.0f} °F" if units is UnitSystem.US else f"{celsius:.0f} °C"


def nitrogen_words(grams_m2: float, units: UnitSystem) -> str:
    """Return nitrogen on ground in g/m², or in lb on 1,000 sq ft."""
    return f"{grams_m2 * 0.204816:.1f} lb/1,000 sq ft" if units is UnitSystem.US else f"{grams_m2:.0f} g/m²"


_AMOUNT = re.compile(r"\{(-?[\d.e+]+) (mm|m|m3|g_m2|degC|m3_water)\}")
_WORDS: dict[str, Callable[[float, UnitSystem], str]] = {
    "mm": depth_words,
    "m": length_words,
    "m3": volume_words,
    "g_m2": nitrogen_words,
    "degC": temperature_words,
    "m3_water": water_words,
}


def in_words(text: str, units: UnitSystem) -> str:
    """Return a sentence of the core with its amounts, such as {75 mm}, in the units of a site."""
    return _AMOUNT.sub(lambda match: _WORDS[match[2]](float(match[1]), units), text)
