"""The climate of a site: mean temperature and rain by month, typed or of a generic class."""

import math
import re
from datetime import date
from enum import StrEnum
from typing import Annotated, Literal, get_args

from pydantic import BeforeValidator, ConfigDict, Field
from pydantic_core import PydanticCustomError

from ulmatic.core.figures import Mark, Source
from ulmatic.core.units import UnitSystem, reading_system
from ulmatic.core.units.parsing import registry
from ulmatic.core.value import Value

MONTHS = 12
_BETWEEN = re.compile(r"[;\n]|,(?=\s)|\s{2,}|(?<=[\d°CFcf])\s+(?=[-−+]?[\d.])")
_READING = re.compile(r"^([-+]?\d+(?:[.,]\d+)?)\s*(°?\s*[cf]|mm|cm|in|\")?$", re.IGNORECASE)
_BARE = {
    "temperature": {UnitSystem.METRIC: "degC", UnitSystem.US: "degF"},
    "rain": {UnitSystem.METRIC: "mm", UnitSystem.US: "inch"},
}
_INTO = {"temperature": "degC", "rain": "mm"}
_UNITS = {"c": "degC", "f": "degF", "mm": "mm", "cm": "cm", "in": "inch", '"': "inch"}
_LIMITS = {"temperature": (-60.0, 50.0), "rain": (0.0, 3_000.0)}


def _refused(sentence: str) -> PydanticCustomError:
    return PydanticCustomError("measure", "{sentence}", {"sentence": sentence})


def _converted(text: str, kind: str) -> float:
    reading = _READING.match(text.replace("−", "-").strip())
    unit = _UNITS.get(reading[2].replace("°", "").strip().lower()) if reading and reading[2] else None
    fits = unit is None or (unit in ("degC", "degF")) == (kind == "temperature")
    if not reading or not fits:
        example = "4.5 or 40 °F" if kind == "temperature" else "62 mm or 2.4 in"
        raise _refused(f"“{text.strip()[:30]}” is not a {kind} that can be read. Type it like {example}.")
    amount = registry().Quantity(float(reading[1].replace(",", ".")), unit or _BARE[kind][reading_system()])
    return round(float(amount.to(_INTO[kind]).magnitude), 9)


def _twelve(kind: Literal["temperature", "rain"]) -> BeforeValidator:
    def read(value: object) -> object:
        if isinstance(value, str):
            pieces = [piece for piece in _BETWEEN.split(value.strip()) if piece.strip()]
            value = [_converted(piece, kind) for piece in pieces[: MONTHS + 1]]
        if not isinstance(value, list | tuple):
            return value
        if kind == "rain" and len(value) == 1 and isinstance(value[0], int | float):
            value = [value[0] / MONTHS] * MONTHS
        if len(value) != MONTHS:
            also = ", or one for the whole year" if kind == "rain" else ""
            raise _refused(f"{len(value)} values were typed; twelve are needed, January to December{also}.")
        low, high = _LIMITS[kind]
        for month in value:
            if not isinstance(month, int | float) or not math.isfinite(month) or not low <= month <= high:
                unit = "°C" if kind == "temperature" else "mm a month"
                raise _refused(f"A {kind} must be between {low:g} and {high:,.0f} {unit}. Is the unit right?")
        return tuple(value)

    return BeforeValidator(read, json_schema_input_type=str | list[float])


QuarterName = Literal["winter", "spring", "summer", "autumn"]
_QUARTERS: tuple[QuarterName, ...] = get_args(QuarterName)


class SeasonOfYear(Value):
    """A quarter of a year, with the year or the two years in which it lies."""

    name: QuarterName
    years: tuple[int, ...]


class Normals(Value):
    """Monthly normals as typed; bare temperatures are °C or °F, bare rain mm or inches."""

    model_config = ConfigDict(extra="forbid")
    kind: Literal["normals"] = "normals"
    temperatures_c: Annotated[tuple[float, ...], _twelve("temperature")] = Field(
        description="Mean of each month in °C, January first"
    )
    rain_mm: Annotated[tuple[float, ...], _twelve("rain")] = Field(
        description="Of each month in mm; one number is the year's, spread evenly"
    )

    def normals(self) -> "Normals":
        """Return itself.

        Returns
        -------
        Normals
        """
        return self

    def season_of(self, day: date) -> "SeasonOfYear":
        """Return the quarter of the year in which a day lies; the warmer of July and January is in summer.

        Returns
        -------
        SeasonOfYear
        """
        quarter = day.month % MONTHS // 3
        is_southern = self.temperatures_c[0] > self.temperatures_c[6]
        name = _QUARTERS[(quarter + 2 * is_southern) % len(_QUARTERS)]
        begins = day.year - (day.month <= 2)
        return SeasonOfYear(name=name, years=(begins,) if quarter else (begins, begins + 1))


class ClimateClass(StrEnum):
    """Generic climates, made up to stand for many places; not any place's record."""

    COOL_MARITIME = "cool_maritime"
    MILD_MARITIME = "mild_maritime"
    COLD_WINTER_HOT_SUMMER = "cold_winter_hot_summer"
    SHORT_SUMMER = "short_summer"
    DRY_SUMMER = "dry_summer"
    WARM_HUMID = "warm_humid"
    HOT_WET = "hot_wet"
    HOT_DRY = "hot_dry"

    @property
    def label(self) -> str:
        """Its name as people say it."""
        return _CLASSES[self][0]


_CLASSES: dict[ClimateClass, tuple[str, float, float, float]] = {
    ClimateClass.COOL_MARITIME: ("Cool maritime: mild winters, cool summers", 10.5, 6.0, 800),
    ClimateClass.MILD_MARITIME: ("Mild maritime: hardly any frost, wet", 12.5, 4.5, 1_200),
    ClimateClass.COLD_WINTER_HOT_SUMMER: ("Cold winters, hot summers", 9.5, 13.5, 950),
    ClimateClass.SHORT_SUMMER: ("Long winters, short summers", 3.5, 13.0, 600),
    ClimateClass.DRY_SUMMER: ("Dry summers, mild rainy winters", 17.5, 5.0, 350),
    ClimateClass.WARM_HUMID: ("Warm and humid, short winters", 18.0, 9.0, 1_250),
    ClimateClass.HOT_WET: ("Hot and wet", 24.0, 5.0, 1_350),
    ClimateClass.HOT_DRY: ("Hot and dry", 22.0, 10.0, 250),
}
"""Label, yearly mean and amplitude in °C, rain in mm a year."""

ILLUSTRATIVE = Source(
    mark=Mark.COMMON_PRACTICE,
    text="A generic climate for illustration, no source: a smooth year about a round mean. Your own "
    "normals are better.",
)


class GenericClimate(Value):
    """A generic climate, for when no normals are at hand.

    Its months follow ``mean − amplitude · cos(2π (m − ½) / 12)`` for m = 0…11; July and August are warmest, so its
    seasons are those north of the equator unless `southern` turns them round.
    """

    model_config = ConfigDict(extra="forbid")
    kind: Literal["class"] = "class"
    name: ClimateClass
    southern: bool = False

    def normals(self) -> Normals:
        """Return its months.

        Returns
        -------
        Normals
        """
        _, mean, amplitude, rain = _CLASSES[self.name]
        swing = -amplitude if self.southern else amplitude
        months = tuple(mean - swing * math.cos(2 * math.pi * (month - 0.5) / MONTHS) for month in range(MONTHS))
        return Normals(temperatures_c=months, rain_mm=(rain / MONTHS,) * MONTHS)


Climate = Annotated[Normals | GenericClimate, Field(discriminator="kind")]
