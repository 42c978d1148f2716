"""Shapes against worked examples, textbook formulas, Shapely and PROJ."""

import math

import numpy as np
import pytest
import shapely
from pyproj import Geod
from shapely import Point, box, union_all
from shapely import Polygon as ShapelyPolygon

from ulmatic.core.survey import (
    Ellipse,
    Offsets,
    Path,
    Polygon,
    Rectangle,
    Ring,
    RingBlock,
    RingRow,
    Strip,
    Triangle,
    Walked,
    outline,
)


def test_heron():
    """Heron's own example: sides 13, 14, 15 enclose 84 (Metrica I.8)."""
    assert Triangle(a_m=13, b_m=14, c_m=15).area().value == pytest.approx(84)
    assert Triangle(a_m=3, b_m=4, c_m=5).area().value == pytest.approx(6)


def test_shoelace():
    """(3,4), (5,11), (12,8), (9,5), (5,6) enclose 30: a worked example found in many textbooks (from memory)."""
    corners = [(3, 4), (5, 11), (12, 8), (9, 5), (5, 6)]
    assert Polygon(corners_m=corners).area().value == pytest.approx(30)
    assert ShapelyPolygon(corners).area == pytest.approx(30)


def test_simpson_and_trapezoidal_rule_on_a_half_ellipse():
    """A half ellipse of half-axes 8 and 3 has the area 12 π; the rules approach it, Simpson's the faster."""
    exact = math.pi * 8 * 3 / 2

    def errors(intervals: int) -> tuple[float, float]:
        xs = [-8 + 16 * index / intervals for index in range(intervals + 1)]
        offsets = [3 * math.sqrt(max(0.0, 1 - (x / 8) ** 2)) for x in xs]
        curved = Offsets(spacing_m=16 / intervals, offsets_m=offsets)
        straight = Offsets(spacing_m=16 / intervals, offsets_m=offsets, edge="straight")
        return abs(curved.area().value - exact) / exact, abs(straight.area().value - exact) / exact

    for intervals in (4, 8, 16, 64):
        simpson, trapezoidal = errors(intervals)
        assert simpson < trapezoidal < 0.15
    assert errors(64)[0] < 0.002


def test_simpson_is_exact_for_a_parabola_and_the_rule_used_is_said():
    offsets = [6 * x - x * x for x in (0, 1, 2, 3, 4, 5, 6)]
    offsets_bed = Offsets(spacing_m=1, offsets_m=offsets)
    assert offsets_bed.area().value == pytest.approx(36)
    assert offsets_bed.geometry().area == pytest.approx(36, rel=0.005)
    assert "Simpson" in offsets_bed.area().working.note
    odd = Offsets(spacing_m=1, offsets_m=offsets[:-1])
    assert "Trapezoidal" in odd.area().working.note
    assert odd.area().value == pytest.approx(sum(offsets[:-1]) - (offsets[0] + offsets[5]) / 2)


def test_annulus_and_its_parts():
    ring = Ring(canopy_m=10, trunk_m=1, trunk_as="diameter", gap_m=0.5)
    assert ring.area().value == pytest.approx(math.pi * (25 - 1))
    assert ring.model_copy(update={"part": 0.25}).area().value == pytest.approx(math.pi * 24 / 4)


def test_ellipse():
    assert Ellipse(across_m=10, other_m=4).area().value == pytest.approx(math.pi * 5 * 2)
    assert Ellipse(across_m=10).area().value == pytest.approx(math.pi * 25)


def test_the_lens_of_two_circles_against_shapely():
    row = RingRow(canopy_m=6, trunk_m=0.2, trunk_as="diameter", gap_m=0.1, trees=2, spacing_m=4)
    left, two = (Point(x, 0).buffer(3, quad_segs=4000) for x in (0, 4))
    lens = row.area().working.terms[1].figure.working.terms[1].figure
    assert lens.value == pytest.approx(left.intersection(two).area, rel=1e-6)
    assert row.area().value == pytest.approx(left.union(two).area - 2 * math.pi * 0.2**2, rel=1e-6)


@pytest.mark.parametrize("spacing", [1.1, 2.5, 3.9, 6.5])
def test_rows_and_blocks_against_the_union_by_shapely(spacing):
    tree = {"canopy_m": 6, "trunk_m": 0.4, "trunk_as": "diameter", "gap_m": 0.3, "trees": 7, "spacing_m": spacing}
    block = RingBlock(**tree, rows=3, row_spacing_m=5)

    def union(rows: int) -> float:
        trees = [Point(index * spacing, row * 5) for row in range(rows) for index in range(7)]
        discs = union_all([tree.buffer(3, quad_segs=500) for tree in trees])
        return discs.difference(union_all([tree.buffer(0.5, quad_segs=500) for tree in trees])).area

    assert RingRow(**tree).area().value == pytest.approx(union(1), rel=1e-4)
    assert block.area().value == pytest.approx(union(3), rel=1e-3)


def test_a_mitred_path_covers_its_middle_line_times_its_width():
    """Two legs of 10 and 6 at a right angle, 2 wide, are the outer minus the inner rectangle."""
    path = Path(legs_m=(10, 6), turns_deg=(90,), width_m=2)
    corner = box(0, -1, 11, 1).union(box(9, -6, 11, 1))
    assert path.area().value == pytest.approx(corner.area) == pytest.approx(32)
    assert path.geometry().area == pytest.approx(32)


def test_a_strip_with_trunk_gaps():
    strip = Strip(length_m=60, width_m=2, trunk_m=0.3, trunk_as="diameter", gap_m=0.35, trees=15)
    assert strip.area().value == pytest.approx(120 - 15 * math.pi * 0.25)


def test_a_walked_field_against_the_ellipsoid():
    """Four corners set out from a point by PROJ's geodesics, 120 m by 80 m."""
    earth, (lat, lon) = Geod(ellps="WGS84"), (51.05, -3.12)
    corners = [(lat, lon)]
    for azimuth, distance in ((90, 120), (180, 80), (270, 120)):
        lon, lat, _ = earth.fwd(corners[-1][1], corners[-1][0], azimuth, distance)
        corners.append((lat, lon))
    field = Walked(points_deg=corners)
    geodesic = abs(earth.polygon_area_perimeter([c[1] for c in corners], [c[0] for c in corners])[0])
    assert field.area().value == pytest.approx(geodesic, rel=1e-7) == pytest.approx(9600, rel=1e-3)
    assert field.geometry().area == pytest.approx(9600, rel=1e-3)
    assert field.area().low < 9600 < field.area().high


def test_a_walk_across_the_180th_meridian():
    """Corners at latitude 60 and 60.001, longitude ±179.9995: 6,216.7 m² on the ellipsoid."""
    corners = [(60, 179.9995), (60, -179.9995), (60.001, -179.9995), (60.001, 179.9995)]
    field = Walked(points_deg=corners)
    geodesic = abs(Geod(ellps="WGS84").polygon_area_perimeter([c[1] for c in corners], [c[0] for c in corners])[0])
    assert field.area().value == pytest.approx(6216.7, abs=0.05)
    assert field.area().value == pytest.approx(geodesic, rel=1e-7)
    drawn = [x for x, _ in outline(field, ()).rings[0]]
    assert max(drawn) - min(drawn) == pytest.approx(55.8, abs=0.01)


def random_shape(rng: np.random.Generator):  # noqa: PLR0911
    """One of the kinds of ground, of any size and form."""
    size = rng.uniform(0.3, 40, 12)
    match rng.integers(7):
        case 0:
            return Rectangle(length_m=size[0], width_m=size[1])
        case 1:
            return Triangle(
                a_m=size[0], b_m=size[1], c_m=rng.uniform(abs(size[0] - size[1]) + 0.01, size[0] + size[1] - 0.01)
            )
        case 2:
            return Ellipse(across_m=size[0], other_m=size[1])
        case 3:
            return Offsets(
                spacing_m=rng.uniform(0.3, 3),
                offsets_m=tuple(rng.uniform(0, 6, rng.integers(2, 9)) * (rng.random(1) < 0.9) + 0.01),
            )
        case 4:
            legs = rng.integers(1, 5)
            return Path(
                legs_m=tuple(rng.uniform(0.4, 12, legs)),
                turns_deg=tuple(rng.uniform(-140, 140, legs - 1)),
                width_m=rng.uniform(0.3, 3),
            )
        case 5:
            return Ring(
                canopy_m=rng.uniform(2, 15),
                trunk_m=rng.uniform(0.1, 1.5),
                gap_m=rng.uniform(0, 0.3),
                part=rng.uniform(0.1, 1),
            )
        case _:
            trees, spacing = int(rng.integers(1, 8)), rng.uniform(1.5, 9)
            return RingRow(
                canopy_m=rng.uniform(2, 8), trunk_m=0.2, gap_m=rng.uniform(0, 0.3), trees=trees, spacing_m=spacing
            )


@pytest.mark.parametrize("seed", range(6))
def test_a_thousand_random_shapes_against_shapely_and_darts(seed):
    """The area is that of the drawing to a millionth, and of darts thrown at its box within what chance allows."""
    rng, darts = np.random.default_rng(seed), 200
    surprise = 0.0
    for _ in range(1000):
        shape = random_shape(rng)
        drawn, area = shape.geometry(), shape.area().value
        assert area == pytest.approx(drawn.area, rel=1e-5), shape
        assert drawn.is_valid
        west, south, east, north = drawn.bounds
        box = (east - west) * (north - south)
        hits = shapely.contains_xy(drawn, rng.uniform(west, east, darts), rng.uniform(south, north, darts)).sum()
        share = min(1 - 1e-9, area / box)
        surprise += (hits - darts * share) / math.sqrt(darts * share * (1 - share) + 1e-9) if share < 0.999 else 0.0
    assert abs(surprise) / math.sqrt(1000) < 4.5, "no area is off in one direction"
