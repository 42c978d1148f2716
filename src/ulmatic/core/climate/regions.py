"""Regions to choose from without a map: each proposes climate, units and currency, and all can be changed later."""

from pydantic import BaseModel, ConfigDict

from ulmatic.core.climate.normals import ClimateClass
from ulmatic.core.figures import Mark, Source
from ulmatic.core.units import UnitSystem

NEAREST = Source(
    mark=Mark.COMMON_PRACTICE,
    text="The nearest generic climate, a judgement without a published source. Your own monthly values are better.",
)
_METRIC, _US = UnitSystem.METRIC, UnitSystem.US


class Region(BaseModel):
    """A part of the world with what is usual there.

    Attributes
    ----------
    time_zones : tuple of str
        IANA names, or what they begin with, from which the region can be guessed.
    currency : str
        ISO 4217.
    """

    model_config = ConfigDict(frozen=True)
    key: str
    continent: str
    name: str
    climate: ClimateClass
    southern: bool
    units: UnitSystem
    currency: str
    time_zones: tuple[str, ...] = ()


def _region(
    key: str,
    continent: str,
    name: str,
    climate: ClimateClass,
    currency: str,
    *time_zones: str,
    southern: bool = False,
    units: UnitSystem = _METRIC,
) -> Region:
    return Region(
        key=key,
        continent=continent,
        name=name,
        climate=climate,
        southern=southern,
        units=units,
        currency=currency,
        time_zones=time_zones,
    )


_C = ClimateClass
REGIONS: tuple[Region, ...] = (
    _region(
        "britain_ireland",
        "Europe",
        "Britain and Ireland",
        _C.COOL_MARITIME,
        "GBP",
        "Europe/London",
        "Europe/Dublin",
        "Europe/Belfast",
        "Europe/Isle_of_Man",
        "Europe/Jersey",
        "Europe/Guernsey",
    ),
    _region(
        "western_europe",
        "Europe",
        "Western: France, Belgium, Netherlands, Denmark",
        _C.COOL_MARITIME,
        "EUR",
        "Europe/Paris",
        "Europe/Brussels",
        "Europe/Amsterdam",
        "Europe/Luxembourg",
        "Europe/Copenhagen",
    ),
    _region(
        "central_europe",
        "Europe",
        "Central and eastern: Germany, Austria, Poland, Romania",
        _C.COLD_WINTER_HOT_SUMMER,
        "EUR",
        "Europe/Berlin",
        "Europe/Vienna",
        "Europe/Zurich",
        "Europe/Prague",
        "Europe/Warsaw",
        "Europe/Budapest",
        "Europe/Bratislava",
        "Europe/Bucharest",
        "Europe/Kyiv",
    ),
    _region(
        "northern_europe",
        "Europe",
        "Northern: Norway, Sweden, Finland, Baltic",
        _C.SHORT_SUMMER,
        "EUR",
        "Europe/Oslo",
        "Europe/Stockholm",
        "Europe/Helsinki",
        "Europe/Tallinn",
        "Europe/Riga",
        "Europe/Vilnius",
    ),
    _region(
        "southern_europe",
        "Europe",
        "Mediterranean: Portugal, Spain, Italy, Greece",
        _C.DRY_SUMMER,
        "EUR",
        "Europe/Lisbon",
        "Europe/Madrid",
        "Europe/Rome",
        "Europe/Athens",
        "Europe/Malta",
        "Asia/Nicosia",
    ),
    _region(
        "us_northeast",
        "North America",
        "USA: Northeast and Midwest",
        _C.COLD_WINTER_HOT_SUMMER,
        "USD",
        "America/New_York",
        "America/Chicago",
        "America/Detroit",
        "America/Indiana",
        units=_US,
    ),
    _region(
        "us_north",
        "North America",
        "USA: northern plains, mountains, Alaska",
        _C.SHORT_SUMMER,
        "USD",
        "America/Denver",
        "America/Boise",
        "America/Anchorage",
        "America/North_Dakota",
        units=_US,
    ),
    _region("us_northwest", "North America", "USA: Pacific Northwest", _C.COOL_MARITIME, "USD", units=_US),
    _region(
        "us_california", "North America", "USA: California", _C.DRY_SUMMER, "USD", "America/Los_Angeles", units=_US
    ),
    _region("us_southwest", "North America", "USA: desert Southwest", _C.HOT_DRY, "USD", "America/Phoenix", units=_US),
    _region("us_southeast", "North America", "USA: Southeast", _C.WARM_HUMID, "USD", "America/Kentucky", units=_US),
    _region(
        "us_gulf", "North America", "USA: Florida, Gulf coast, Hawaii", _C.HOT_WET, "USD", "Pacific/Honolulu", units=_US
    ),
    _region(
        "canada_east",
        "North America",
        "Canada: Ontario, Quebec, Atlantic",
        _C.COLD_WINTER_HOT_SUMMER,
        "CAD",
        "America/Toronto",
        "America/Montreal",
        "America/Halifax",
        "America/St_Johns",
    ),
    _region(
        "canada_prairies",
        "North America",
        "Canada: prairies and north",
        _C.SHORT_SUMMER,
        "CAD",
        "America/Winnipeg",
        "America/Regina",
        "America/Edmonton",
        "America/Whitehorse",
    ),
    _region("canada_west", "North America", "Canada: west coast", _C.COOL_MARITIME, "CAD", "America/Vancouver"),
    _region(
        "central_america",
        "North America",
        "Mexico, Central America, Caribbean",
        _C.HOT_WET,
        "USD",
        "America/Mexico_City",
        "America/Guatemala",
        "America/Costa_Rica",
        "America/Panama",
        "America/Havana",
    ),
    _region(
        "tropical_south_america",
        "South America",
        "Tropical: northern Brazil, Colombia, Ecuador",
        _C.HOT_WET,
        "BRL",
        "America/Bogota",
        "America/Guayaquil",
        "America/Manaus",
        "America/Belem",
    ),
    _region(
        "eastern_south_america",
        "South America",
        "Southern Brazil, Uruguay, Argentina",
        _C.WARM_HUMID,
        "BRL",
        "America/Sao_Paulo",
        "America/Montevideo",
        "America/Argentina",
        southern=True,
    ),
    _region("chile", "South America", "Central Chile", _C.DRY_SUMMER, "CLP", "America/Santiago", southern=True),
    _region(
        "northern_africa",
        "Africa",
        "North Africa",
        _C.DRY_SUMMER,
        "EUR",
        "Africa/Casablanca",
        "Africa/Algiers",
        "Africa/Tunis",
        "Africa/Cairo",
    ),
    _region(
        "tropical_africa",
        "Africa",
        "West, central and east Africa",
        _C.HOT_WET,
        "USD",
        "Africa/Lagos",
        "Africa/Accra",
        "Africa/Kinshasa",
        "Africa/Nairobi",
        "Africa/Kampala",
    ),
    _region("cape", "Africa", "South Africa: the Cape", _C.DRY_SUMMER, "ZAR", southern=True),
    _region(
        "southern_africa",
        "Africa",
        "Southern Africa: interior and east",
        _C.WARM_HUMID,
        "ZAR",
        "Africa/Johannesburg",
        "Africa/Harare",
        "Africa/Maputo",
        southern=True,
    ),
    _region(
        "middle_east",
        "Asia",
        "Middle East, Pakistan, northern India",
        _C.HOT_DRY,
        "USD",
        "Asia/Dubai",
        "Asia/Riyadh",
        "Asia/Karachi",
        "Asia/Baghdad",
    ),
    _region(
        "south_asia",
        "Asia",
        "Southern India, Bangladesh, South-east Asia",
        _C.HOT_WET,
        "USD",
        "Asia/Kolkata",
        "Asia/Dhaka",
        "Asia/Bangkok",
        "Asia/Singapore",
        "Asia/Manila",
        "Asia/Kuala_Lumpur",
        "Asia/Ho_Chi_Minh",
    ),
    _region(
        "east_asia", "Asia", "Northern China, Korea", _C.COLD_WINTER_HOT_SUMMER, "USD", "Asia/Shanghai", "Asia/Seoul"
    ),
    _region(
        "japan",
        "Asia",
        "Japan, southern China, Taiwan",
        _C.WARM_HUMID,
        "JPY",
        "Asia/Tokyo",
        "Asia/Taipei",
        "Asia/Hong_Kong",
    ),
    _region("new_zealand", "Oceania", "New Zealand", _C.MILD_MARITIME, "NZD", "Pacific/Auckland", southern=True),
    _region(
        "australia_southeast",
        "Oceania",
        "Australia: Victoria, Tasmania",
        _C.MILD_MARITIME,
        "AUD",
        "Australia/Melbourne",
        "Australia/Hobart",
        southern=True,
    ),
    _region(
        "australia_south",
        "Oceania",
        "Australia: Adelaide, Perth",
        _C.DRY_SUMMER,
        "AUD",
        "Australia/Adelaide",
        "Australia/Perth",
        southern=True,
    ),
    _region(
        "australia_east",
        "Oceania",
        "Australia: Sydney, Brisbane",
        _C.WARM_HUMID,
        "AUD",
        "Australia/Sydney",
        "Australia/Brisbane",
        southern=True,
    ),
    _region("australia_north", "Oceania", "Australia: the north", _C.HOT_WET, "AUD", "Australia/Darwin", southern=True),
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
