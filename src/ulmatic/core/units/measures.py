"""The kinds of measurement: their units, limits and examples."""

from dataclasses import dataclass
from enum import StrEnum


class UnitSystem(StrEnum):
    """The units that bare numbers take and figures are shown in."""

    METRIC = "metric"
    US = "us"


@dataclass(frozen=True)
class Measure:
    """One kind of measurement.

    Parameters
    ----------
    name : str
        With its article, as it stands in a sentence: "a length".
    unit : str
        The unit results are in, as Pint writes it.
    bare : dict of UnitSystem to str
        The unit that a number without unit takes.
    least, most : float
        Limits in `unit`; `least` itself is allowed when `least_allowed`.
    examples : dict of UnitSystem to str
        What would be understood.
    """

    name: str
    unit: str
    bare: dict[UnitSystem, str]
    least: float
    most: float
    examples: dict[UnitSystem, str]
    least_allowed: bool = False


_METRIC, _US = UnitSystem.METRIC, UnitSystem.US
_LENGTHS = {_METRIC: "12.5, 2.5 m, 250 cm, 12'6\" or 4 ft 2", _US: "12.5, 12'6\", 4 ft 2, 30 in or 2.5 m"}
_SHORT = {_METRIC: "30, 30 cm, 0.3 m, 12 in or 1'4\"", _US: "12, 12 in, 1'4\", 3 1/2 in or 30 cm"}

LENGTH = Measure("a length", "m", {_METRIC: "m", _US: "ft"}, 1e-5, 10_000, _LENGTHS, least_allowed=True)
OFFSET = Measure("a length", "m", {_METRIC: "m", _US: "ft"}, 0, 10_000, _LENGTHS, least_allowed=True)
GIRTH = Measure("a length", "m", {_METRIC: "cm", _US: "in"}, 1e-5, 20, _SHORT, least_allowed=True)
GAP = Measure("a distance", "m", {_METRIC: "cm", _US: "in"}, 0, 20, _SHORT, least_allowed=True)
DEPTH = Measure(
    "a depth",
    "mm",
    {_METRIC: "mm", _US: "in"},
    0,
    1_000,
    {_METRIC: "75, 75 mm, 7.5 cm or 3 in", _US: "3, 3 in, 2 1/2 in or 75 mm"},
    least_allowed=True,
)
VOLUME = Measure(
    "a volume",
    "m^3",
    {_METRIC: "m^3", _US: "yd^3"},
    1e-6,
    1_000,
    {_METRIC: "10, 10 m3, 80 L or 12 cu yd", _US: "12, 12 cu yd, 6 cu ft or 9 m3"},
    least_allowed=True,
)
MASS = Measure(
    "a mass",
    "kg",
    {_METRIC: "kg", _US: "lb"},
    0,
    1_000_000,
    {_METRIC: "50, 50 kg or 110 lb", _US: "110, 110 lb or 50 kg"},
    least_allowed=True,
)
SHARE = Measure(
    "a percentage",
    "1",
    {_METRIC: "percent", _US: "percent"},
    0,
    1,
    dict.fromkeys(UnitSystem, "10 or 10 %"),
    True,
)
