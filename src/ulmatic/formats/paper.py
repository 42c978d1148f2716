"""Amounts as they are written on paper, in the units of a site and no finer than anybody can lay."""

from ulmatic.core.units import UnitSystem
from ulmatic.core.units.money import YARD3_M3

FOOT_M, INCH_M = 0.3048, 0.0254
LEAST = 0.05
"""Volumes below are not written as 0.0."""
DEPTH_STEP_MM = {UnitSystem.METRIC: 5.0, UnitSystem.US: 250 * INCH_M}
"""To 5 mm, or a quarter inch."""


def volume_words(m3: float, units: UnitSystem) -> str:
    """Return a volume in m³ or cubic yards, to a tenth."""
    amount, unit = (m3 / YARD3_M3, "yd³") if units is UnitSystem.US else (m3, "m³")
    return f"under 0.1 {unit}" if 0 < amount < LEAST else f"{amount:,.1f} {unit}"


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
