from datetime import date

import pytest
from pydantic import ValidationError

from ulmatic.core.climate.normals import ClimateClass, GenericClimate, Normals, SeasonOfYear
from ulmatic.core.units import UnitSystem, bare_numbers_in


def test_normals_are_read_in_both_unit_systems():
    metric = Normals(temperatures_c="4, 4.5, 6, 8, 11, 14, 16, 16, 14, 11, 7, 5", rain_mm="840")
    assert metric.temperatures_c[:2] == (4, 4.5)
    assert metric.rain_mm == (70,) * 12
    with bare_numbers_in(UnitSystem.US):
        us = Normals(
            temperatures_c="-4 14 23 32 41 50 59 68 77 86 10 °C 50", rain_mm=", ".join(["2"] * 11) + ", 25.4 mm"
        )
    assert us.temperatures_c == pytest.approx((-20, -10, -5, 0, 5, 10, 15, 20, 25, 30, 10, 10))
    assert us.rain_mm == pytest.approx((50.8,) * 11 + (25.4,))


@pytest.mark.parametrize(
    ("temperatures", "rain", "sentence"),
    [
        ("4, 5", "800", "2 values were typed; twelve are needed"),
        ("1 2 3 4 5 6 7 8 9 10 11 12 13", "800", "13 values were typed"),
        ("warm " * 12, "800", "is not a temperature that can be read"),
        ("1 2 3 4 5 6 7 8 9 10 11 99", "800", "between -60 and 50"),
        ("1 2 3 4 5 6 7 8 9 10 11 12", "-3", "between 0 and 3,000"),
        ("1 2 3 4 5 6 7 8 9 10 11 12", "9 °C", "is not a rain that can be read"),
    ],
)
def test_nonsense_is_refused_in_words(temperatures, rain, sentence):
    with pytest.raises(ValidationError, match=sentence):
        Normals(temperatures_c=temperatures, rain_mm=rain)


def test_generic_climates_turn_round_south_of_the_equator():
    for name in ClimateClass:
        north, south = (GenericClimate(name=name, southern=side).normals() for side in (False, True))
        assert north.temperatures_c == pytest.approx(south.temperatures_c[6:] + south.temperatures_c[:6])
        assert (
            max(north.temperatures_c)
            == pytest.approx(north.temperatures_c[6])
            == pytest.approx(north.temperatures_c[7])
        )
        assert name.label
    cool = GenericClimate(name="cool_maritime").normals()
    assert (sum(cool.temperatures_c) / 12, sum(cool.rain_mm)) == pytest.approx((10.5, 800))


@pytest.mark.parametrize(
    ("southern", "day", "name", "years"),
    [
        (False, date(2029, 8, 7), "summer", (2029,)),
        (True, date(2029, 8, 7), "winter", (2029,)),
        (False, date(2028, 12, 1), "winter", (2028, 2029)),
        (False, date(2029, 2, 28), "winter", (2028, 2029)),
        (True, date(2029, 1, 31), "summer", (2028, 2029)),
        (False, date(2028, 3, 1), "spring", (2028,)),
        (True, date(2028, 3, 1), "autumn", (2028,)),
        (True, date(2028, 11, 30), "spring", (2028,)),
    ],
)
def test_a_day_lies_in_a_quarter_of_the_year_of_its_hemisphere(southern, day, name, years):
    normals = GenericClimate(name=ClimateClass.COOL_MARITIME, southern=southern).normals()
    assert normals.season_of(day) == SeasonOfYear(name=name, years=years)
