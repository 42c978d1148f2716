"""Regions to choose from without a map: each proposes climate, units and currency, and all can be changed later."""

from ulmatic.core.climate.normals import ClimateClass
from ulmatic.core.figures import Mark, Source
from ulmatic.core.tables import rows_of
from ulmatic.core.units import UnitSystem
from ulmatic.core.value import Value

NEAREST = Source(
    mark=Mark.COMMON_PRACTICE,
    text="A rough climate; enter your own monthly values. The nearest generic class is a judgement without a published "
    "source.",
)


class Region(Value):
    """A part of the world with what is usual there.

    Attributes
    ----------
    time_zones : tuple of str
        IANA names, or what they begin with, from which the region can be guessed.
    currency : str
        ISO 4217.
    """

    key: str
    continent: str
    name: str
    climate: ClimateClass
    southern: bool
    units: UnitSystem
    currency: str
    time_zones: tuple[str, ...] = ()


REGIONS: tuple[Region, ...] = tuple(
    Region.model_validate(row | {"southern": row["southern"] == "yes", "time_zones": tuple(row["time_zones"].split())})
    for row in rows_of("regions")
)
"""Regions by continent; climates are the nearest generic ones (`NEAREST`), currencies a start."""


def region_of(time_zone: str) -> Region | None:
    """Return the region in which a time zone lies, where one can be told by it.

    Parameters
    ----------
    time_zone : str
        IANA name.

    Returns
    -------
    Region or None
        None where a zone lies in several regions, or in none that is known.

    Examples
    --------
    >>> region_of("Europe/Paris").key
    'western_europe'
    """
    return next((region for region in REGIONS if time_zone.startswith(region.time_zones)), None)
