"""The climate of a site on a day."""

from datetime import date

from ulmatic.core.climate import by_month, minima
from ulmatic.core.decay import IRRIGATION, DecayClock, decay_clock
from ulmatic.core.schedule import observed_normals, overridden, place_year, seasons_between, windows_of
from ulmatic.core.site import Site, SiteClimate

CLOCK_YEARS_BACK, CLOCK_YEARS_AHEAD = 12, 24
"""What lies there may have lain for ten years; layings ten years ahead are followed for ten more."""
YEARS_AHEAD = 23
"""How far ahead seasons are known."""


def climate_of(site: Site, day: date) -> SiteClimate:
    """Return what follows for a site on a day from where it lies.

    Parameters
    ----------
    site : Site
    day : date
        Weather that was observed later is not used.

    Returns
    -------
    SiteClimate
    """
    normals, parameters = site.normals, site.parameters
    weather = [observed for observed in site.weather if observed.day <= day]
    overrides = site.overrides.model_dump(include={"last_frost", "first_frost", "zone"}, exclude_none=True)
    windows = overridden(windows_of(observed_normals(normals, weather), parameters), dict(site.overrides.windows))
    first, last = date(day.year - CLOCK_YEARS_BACK, 1, 1), date(day.year + CLOCK_YEARS_AHEAD, 12, 31)

    def clock(irrigation_mm: float) -> DecayClock:
        return decay_clock(normals, first, last, by_month(weather), irrigation_mm)

    dry = clock(0.0)
    irrigated = any(plot.irrigated for plot in site.plots)
    return SiteClimate(
        normals=normals,
        assumed=site.climate is None,
        place_year=place_year(normals, minima(weather), parameters).model_copy(update=overrides),
        windows=windows,
        seasons=seasons_between(windows, day, date(day.year + YEARS_AHEAD, 12, 31)),
        clocks=(dry, clock(parameters.of(IRRIGATION).value) if irrigated else dry),
    )
