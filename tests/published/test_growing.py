"""Time before frost against real daily weather that other packages ship: Seattle 2012–2015, Brussels 1976–2005."""

from datetime import date, timedelta

import numpy as np
import pytest
from aquacrop.utils import get_filepath, prepare_weather
from vega_datasets import local_data

from ulmatic.core.climate import Day, Normals
from ulmatic.core.parameters import SHIPPED
from ulmatic.core.schedule import observed_normals, place_year, windows_of
from ulmatic.core.work import CROPS, GrowingYear

HALF = 0.5


@pytest.fixture(scope="module")
def brussels():
    table = prepare_weather(get_filepath("brussels_climate.txt"))
    return [
        Day.model_construct(day=row.Date.date(), tmax_c=row.MaxTemp, tmin_c=row.MinTemp, rain_mm=row.Precipitation)
        for row in table.itertuples()
    ]


@pytest.fixture(scope="module")
def seattle():
    table = local_data.seattle_weather()
    return [
        Day.model_construct(day=row.date.date(), tmax_c=row.temp_max, tmin_c=row.temp_min, rain_mm=row.precipitation)
        for row in table.itertuples()
    ]


def year_of(days):
    normals = observed_normals(Normals(temperatures_c=(10.0,) * 12, rain_mm=(50.0,) * 12), days)
    place = place_year(normals, [(day.day, day.tmin_c) for day in days], SHIPPED)
    return GrowingYear(normals, place, SHIPPED)


def first_frosts(days) -> np.ndarray:
    """Days of the year of the first frost of each autumn, straight from the table."""
    years = sorted({day.day.year for day in days})
    firsts = [
        min(
            (
                day.day.timetuple().tm_yday
                for day in days
                if day.day.year == year and day.day.month > 7 and day.tmin_c < 0
            ),
            default=np.nan,
        )
        for year in years
    ]
    return np.array([first for first in firsts if not np.isnan(first)])


def test_frosts_differ_from_year_to_year_as_they_did(brussels):
    firsts = first_frosts(brussels)
    place = year_of(brussels).place
    assert place.frost_spread_days == pytest.approx(float(np.std(firsts, ddof=1)), rel=0.05)
    assert place.first_frost == pytest.approx(float(np.median(firsts)), abs=1)


@pytest.mark.parametrize("month_day", [(7, 10), (8, 1), (8, 15), (9, 1), (9, 20)])
def test_how_sure_it_is_agrees_with_how_often_it_would_have_been_in_time(brussels, month_day):
    """Grown through thirty real years at each year's weather_by_day temperatures, and ended by its weather_by_day first frost."""
    crop, year = CROPS["bush_bean"], year_of(brussels)
    chance = year.time_left(crop, date(2001, *month_day)).sure
    in_time = []
    for number in range(1976, 2005):
        weather_by_day = {day.day: day for day in brussels if day.day.year == number}
        on, grown, frozen = date(number, *month_day), 0.0, False
        while on in weather_by_day and not frozen and grown < crop.days:
            mean = (weather_by_day[on].tmax_c + weather_by_day[on].tmin_c) / 2
            grown += min(1.15, max(0.0, (mean - crop.least_c) / (17 - crop.least_c)))
            frozen = weather_by_day[on].tmin_c < 0
            on += timedelta(days=1)
        in_time.append(grown >= crop.days and not frozen)
    assert chance == pytest.approx(float(np.mean(in_time)), abs=0.3)
    assert (chance > HALF) == (float(np.mean(in_time)) > HALF)


def test_windows_lie_round_the_frosts(brussels, seattle):
    """Chips are laid after growth ends and before it begins: near the frosts of the place, not in summer."""
    for days in (brussels, seattle):
        year = year_of(days)
        windows = {window.key: window for window in windows_of(year.normals, SHIPPED)}
        firsts = first_frosts(days)
        opens, closes = windows["autumn"].opened_in(2025)
        frost = date(2025, 1, 1) + timedelta(days=float(np.median(firsts)) - 1)
        assert opens - timedelta(days=30) <= frost <= closes + timedelta(days=30)
        assert not any(
            window.opened_in(2025)[0] <= date(2025, 7, 15) <= window.opened_in(2025)[1] for window in windows.values()
        )
