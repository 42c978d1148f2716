"""Between plan and earth, against PROJ's geodesics."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st
from pydantic import TypeAdapter, ValidationError
from pyproj import Geod

from ulmatic.core.survey import Location, to_earth, to_plan

EARTH = Geod(ellps="WGS84")
LOCATION = TypeAdapter(Location)
places = st.tuples(st.floats(-70, 70), st.floats(-179, 179))
points = st.tuples(st.floats(-900, 900), st.floats(-900, 900))


@given(places, points, st.floats(-360, 360))
def test_a_point_comes_back_to_where_it_was(location, point, north):
    (earth,) = to_earth([point], location, north)
    (second,) = to_plan([earth], location, north)
    assert second == pytest.approx(point, abs=1e-4)


@given(places, points)
def test_distance_and_direction_are_those_of_the_geodesic(location, point):
    (earth,) = to_earth([point], location, 0)
    azimuth, _, distance = EARTH.inv(location[1], location[0], *earth)
    assert distance == pytest.approx(math.hypot(*point), abs=1e-3)
    if distance > 1:
        bearing = math.degrees(math.atan2(point[0], point[1]))
        assert math.cos(math.radians(azimuth - bearing)) == pytest.approx(1, abs=1e-6)


def test_north_turned_clockwise_on_the_plan_turns_what_is_up_to_the_west():
    (northward,) = to_earth([(0, 100)], (51.05, -3.12), 90)
    azimuth, _, _ = EARTH.inv(-3.12, 51.05, *northward)
    assert azimuth == pytest.approx(-90, abs=0.01)


@pytest.mark.parametrize(
    ("text", "read"),
    [
        ("51.05, -3.12", (51.05, -3.12)),
        ("51.05 -3.12", (51.05, -3.12)),
        ("", None),
        ("  ", None),
        ([51, -3], (51, -3)),
        (None, None),
    ],
)
def test_locations_are_read_as_typed_and_may_be_left_open(text, read):
    assert LOCATION.validate_python(text) == read


@pytest.mark.parametrize(
    "text", ["here", "51.05", "51, 3, 4", "95, 10", "10, 190", [91, 0], [float("nan"), 0], {"lat": 5}]
)
def test_other_locations_are_refused(text):
    with pytest.raises(ValidationError):
        LOCATION.validate_python(text)
