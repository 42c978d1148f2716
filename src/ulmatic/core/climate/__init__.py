"""The climate of a site by month, and its weather by day."""

from ulmatic.core.climate.normals import (
    ILLUSTRATIVE,
    MONTHS,
    Climate,
    ClimateClass,
    GenericClimate,
    Normals,
    SeasonOfYear,
)
from ulmatic.core.climate.regions import NEAREST, REGIONS, Region, region_of
from ulmatic.core.climate.weather import Day, MonthSeen, WeatherRefused, by_month, minima, read_days
