import pytest
from hypothesis import given
from hypothesis import strategies as st

from ulmatic.core.figures import entered
from ulmatic.core.survey import Access
from ulmatic.core.work.haul import FORK, PARAMETERS, SCOOP, haul


def way(walk=None, climb=None, width=None) -> Access:
    figures = {"walk": walk, "climb": climb, "width": width}
    return Access(**{key: entered(key, value, "m") for key, value in figures.items() if value is not None})


def test_a_haul_worked_by_hand():
    one = haul(entered("V", 2.0, "m3"), 0.1, way(30, 1), "hard")
    assert one.trips.value == 20
    assert one.walked.value == 1200
    # 2 m³ × (10 + 12) min + 20 × (60 + 10) m ÷ 50 m/min
    assert one.hours.value == pytest.approx((44 + 28) / 60)
    assert one.hours.low < one.hours.value < one.hours.high
    assert one.fits is None


def test_a_soft_tip_takes_twice_as_long_to_fill_and_a_narrow_way_stops_the_barrow():
    assert FORK.value == 2 * SCOOP.value
    hard, soft = (haul(entered("V", 3.0, "m3"), 0.1, way(20, width=0.6), one) for one in ("hard", "soft"))
    assert soft.hours.value - hard.hours.value == pytest.approx(3 * 10 / 60)
    assert hard.fits is False
    assert haul(entered("V", 3.0, "m3"), 0.1, way(20, width=0.9), "hard").fits


def test_an_unknown_walk_is_taken_as_usual_and_said():
    unknown = haul(entered("V", 1.0, "m3"), 0.1, Access(), "hard")
    assert "not known" in unknown.hours.working.note
    assert all(one.low <= one.value <= one.high for one in PARAMETERS)


@given(st.floats(0, 50), st.floats(0.05, 0.5), st.floats(0, 500), st.floats(0, 50))
def test_more_of_anything_never_takes_less(volume, barrow, walk, climb):
    base = haul(entered("V", volume, "m3"), barrow, way(walk, climb), "hard").hours.value
    assert haul(entered("V", volume + 1, "m3"), barrow, way(walk, climb), "hard").hours.value >= base
    assert haul(entered("V", volume, "m3"), barrow, way(walk + 10, climb), "hard").hours.value >= base
    assert haul(entered("V", volume, "m3"), barrow, way(walk, climb + 1), "hard").hours.value >= base
    assert base >= 0
