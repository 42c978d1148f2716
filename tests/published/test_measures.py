"""Against figures and programs from outside this project."""

import math

import pint
import pytest
from shapely import Point

from ulmatic.core.figures import entered, formula
from ulmatic.core.schedule.volume import loose_volume
from ulmatic.core.survey import Path, Rectangle, Ring
from ulmatic.core.units import DEPTH, LENGTH, VOLUME, UnitSystem, parse

NIST_YARD3 = 0.764554857984
"""m³ in one cubic yard, exactly (NIST Special Publication 811)."""


@pytest.mark.parametrize("unit", ["mm", "cm", "m", "km", "inch", "ft", "yard"])
def test_lengths_agree_with_pint(unit):
    assert parse(f"0.7 {unit}", LENGTH, UnitSystem.METRIC) == pytest.approx(
        pint.UnitRegistry()(f"0.7 {unit}").m_as("m")
    )


def test_the_cubic_yard_is_exact():
    assert parse("1 cu yd", VOLUME, UnitSystem.METRIC) == NIST_YARD3
    assert pytest.approx(NIST_YARD3, rel=1e-15) == 0.9144**3


def test_areas_agree_with_hand_formulas_and_shapely():
    assert Rectangle(length_m=12.5, width_m=3.2).area().value == pytest.approx(40.0)
    assert Path(legs_m=(12, 8, 3.5), width_m=1.2).area().value == pytest.approx(28.2)
    ring = Ring(canopy_m=6, trunk_m=math.pi * 0.4, gap_m=0.3, reach_m=0.5, trees=7)
    assert ring.area().value == pytest.approx(7 * math.pi * (3.5**2 - 0.5**2))
    drawn = Point(0, 0).buffer(3.5, quad_segs=4000).difference(Point(0, 0).buffer(0.5, quad_segs=4000))
    assert ring.area().value == pytest.approx(7 * drawn.area, rel=1e-6)
    by_diameter = Ring(canopy_m=6, trunk_m=0.4, trunk_as="diameter", gap_m=0.3, reach_m=0.5, trees=7)
    assert by_diameter.area().value == pytest.approx(ring.area().value)


def _loose(area_m2: float, wanted_mm: float, loss: float) -> float:
    nothing = entered("Nothing", 0, "mm")
    return loose_volume(
        entered("Area", area_m2, "m2"),
        entered("Depth", wanted_mm, "mm"),
        nothing,
        entered("Loss", loss, "1"),
        entered("Spare", 0, "1"),
    ).value


def test_one_cubic_yard_covers_108_square_feet_at_3_inches():
    area = parse("108 ft", LENGTH, UnitSystem.US) * parse("1 ft", LENGTH, UnitSystem.US)
    assert _loose(area, parse("3 in", DEPTH, UnitSystem.US), 0) == pytest.approx(NIST_YARD3)


def test_nine_inches_compressed_want_twelve_at_first():
    """US CPSC Publication 325 (from memory): loose fill compresses by at least 25 %."""
    at_first_m = _loose(1, parse("9 in", DEPTH, UnitSystem.US), 0.25)
    assert at_first_m * 1000 == pytest.approx(parse("12 in", DEPTH, UnitSystem.US))


def test_formulas_agree_with_plain_python():
    d, s = 0.08, 0.22
    assert (
        formula("A * max(0, d - d0) / (1 - s) * (1 + w)")(A=7, d=d, d0=0.03, s=s, w=0.1)
        == 7 * (d - 0.03) / (1 - s) * 1.1
    )
