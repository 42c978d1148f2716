"""Fields of Pydantic models that hold SI values and also take typed text."""

import re
from collections.abc import Iterator
from contextlib import contextmanager
from contextvars import ContextVar
from dataclasses import dataclass
from datetime import date
from functools import cache
from typing import Annotated

from pydantic import BeforeValidator, Field
from pydantic_core import PydanticCustomError

from ulmatic.core.units.measures import DEPTH, GAP, GIRTH, LENGTH, MASS, OFFSET, SHARE, VOLUME, Measure, UnitSystem
from ulmatic.core.units.parsing import (
    LONGEST_ENTRY,
    MeasureError,
    check_range,
    parse,
    parse_several,
    parse_signed,
    registry,
)


@dataclass(frozen=True)
class FieldType:
    """What a field of a record holds, told with its annotation where the Python type alone does not tell."""

    name: str


Day = Annotated[date, Field(ge=date(2000, 1, 1), le=date(2100, 12, 31))]
"""A day that plans and logs may speak of."""
_bare_system: ContextVar[UnitSystem] = ContextVar("bare_system", default=UnitSystem.METRIC)


@contextmanager
def bare_numbers_in(system: UnitSystem) -> Iterator[None]:
    """Let numbers without unit be read in `system` by every measured field validated inside the block.

    Parameters
    ----------
    system : UnitSystem
    """
    token = _bare_system.set(system)
    try:
        yield
    finally:
        _bare_system.reset(token)


def reading_system() -> UnitSystem:
    """Return the unit system set by `bare_numbers_in`.

    Returns
    -------
    UnitSystem
    """
    return _bare_system.get()


def _reader(measure: Measure) -> BeforeValidator:
    def read(value: object) -> object:
        system = _bare_system.get()
        try:
            if isinstance(value, str):
                return parse(value, measure, system)
            if isinstance(value, int | float) and not isinstance(value, bool):
                return check_range(float(value), measure, system)
        except (MeasureError, OverflowError) as error:
            sentence = str(error) if isinstance(error, MeasureError) else "This number is too large."
            raise PydanticCustomError("measure", "{sentence}", {"sentence": sentence}) from None
        raise PydanticCustomError(
            "measure", "{sentence}", {"sentence": f"Write {measure.name} like {measure.examples[system]}."}
        )

    return BeforeValidator(read, json_schema_input_type=str | float)


def several(measure: Measure, separators: str) -> BeforeValidator:
    """Return a validator for a field of several measurements that are typed as one text or as a list.

    Parameters
    ----------
    measure : Measure
    separators : str
        Characters between them.

    Returns
    -------
    BeforeValidator
    """

    def read(value: object) -> object:
        if not isinstance(value, str):
            return value
        try:
            return parse_several(value, measure, _bare_system.get(), separators)
        except MeasureError as error:
            raise PydanticCustomError("measure", "{sentence}", {"sentence": str(error)}) from None

    return BeforeValidator(read, json_schema_input_type=str | list[str | float])


Length = Annotated[float, _reader(LENGTH), FieldType("length")]
"""Metres, more than 0."""

_DENSITY = re.compile(r"^(\d+(?:[.,]\d+)?)\s*(kg\s*/\s*m[3³]|lb\s*/\s*(?:cu\.?\s*)?yd[3³]?)?$", re.IGNORECASE)


@cache
def _pounds_per_yard() -> float:
    """Return kg/m³ in a pound in a cubic yard.

    Returns
    -------
    float
    """
    return float(registry().Quantity(1.0, "lb/yd^3").to("kg/m^3").magnitude)


def _read_density(value: object) -> object:
    if not isinstance(value, str):
        return value
    match = _DENSITY.match(value.strip()) if len(value) <= LONGEST_ENTRY else None
    if not match:
        sentence = f"“{value.strip()[:30]}” is not a density. Type it like 180 kg/m3 or 300 lb/yd3."
        raise PydanticCustomError("measure", "{sentence}", {"sentence": sentence})
    number = float(match[1].replace(",", "."))
    pounds = (match[2] or "").lower().startswith("lb") or (not match[2] and _bare_system.get() is UnitSystem.US)
    return number * _pounds_per_yard() if pounds else number


Density = Annotated[
    float,
    BeforeValidator(_read_density, json_schema_input_type=str | float),
    Field(ge=5, le=2_000, allow_inf_nan=False),
]
"""kg/m³; bare numbers are kg/m³ or lb/yd³."""


_TEMPERATURE = re.compile(r"^([+−-]?\d+(?:[.,]\d+)?)\s*°?\s*([cf])?$", re.IGNORECASE)


def _read_temperature(value: object) -> object:
    if not isinstance(value, str):
        return value
    match = _TEMPERATURE.match(value.strip()) if len(value) <= LONGEST_ENTRY else None
    if not match:
        sentence = f"“{value.strip()[:30]}” is not a temperature. Type it like 55 °C or 131 °F."
        raise PydanticCustomError("measure", "{sentence}", {"sentence": sentence})
    degrees = float(match[1].replace(",", ".").replace("−", "-"))
    unit = (match[2] or ("f" if _bare_system.get() is UnitSystem.US else "c")).lower()
    return float(registry().Quantity(degrees, f"deg{unit.upper()}").to("degC").magnitude)


Temperature = Annotated[
    float,
    BeforeValidator(_read_temperature, json_schema_input_type=str | float),
    Field(ge=-60, le=120, allow_inf_nan=False),
    FieldType("temperature"),
]
"""°C; bare numbers are °C or °F."""


_ON_GROUND = re.compile(
    r"^(\d+(?:[.,]\d+)?)\s*(g\s*/\s*m[2²]|lb\s*/\s*1,?000\s*(?:sq\.?\s*ft|ft[2²]))?$", re.IGNORECASE
)


@cache
def _pounds_on_ground() -> float:
    """Return g/m² in a pound on 1,000 square feet.

    Returns
    -------
    float
    """
    return float(registry().Quantity(1.0e-3, "lb/ft^2").to("g/m^2").magnitude)


def _read_on_ground(value: object) -> object:
    if not isinstance(value, str):
        return value
    match = _ON_GROUND.match(value.strip()) if len(value) <= LONGEST_ENTRY else None
    if not match:
        sentence = f"“{value.strip()[:30]}” is not an amount. Type it like 30 g/m2 or 6 lb/1000 sq ft."
        raise PydanticCustomError("measure", "{sentence}", {"sentence": sentence})
    pounds = (match[2] or "").lower().startswith("lb") or (not match[2] and _bare_system.get() is UnitSystem.US)
    return float(match[1].replace(",", ".")) * (_pounds_on_ground() if pounds else 1.0)


OnGround = Annotated[
    float, BeforeValidator(_read_on_ground, json_schema_input_type=str | float), FieldType("on_ground")
]
"""g/m²; bare numbers that are typed are g/m² or lb/1,000 sq ft."""


def _read_coordinate(value: object) -> object:
    if not isinstance(value, str):
        return value
    try:
        return parse_signed(value, OFFSET, _bare_system.get())
    except MeasureError as error:
        raise PydanticCustomError("measure", "{sentence}", {"sentence": str(error)}) from None


Coordinate = Annotated[float, BeforeValidator(_read_coordinate, json_schema_input_type=str | float)]
"""Metres from a point, either way."""
Offset = Annotated[float, _reader(OFFSET), FieldType("length")]
"""Metres, 0 allowed."""
Girth = Annotated[float, _reader(GIRTH), FieldType("girth")]
"""Metres, more than 0; bare numbers are centimetres or inches."""
Gap = Annotated[float, _reader(GAP)]
"""Metres, 0 allowed; bare numbers are centimetres or inches."""
Depth = Annotated[float, _reader(DEPTH), FieldType("depth")]
"""Millimetres, 0 allowed."""
Volume = Annotated[float, _reader(VOLUME), FieldType("volume")]
"""Cubic metres, more than 0."""
Mass = Annotated[float, _reader(MASS)]
"""Kilograms, 0 allowed; bare numbers are kg or lb."""
Share = Annotated[float, _reader(SHARE), FieldType("share")]
"""A share of one, typed as a percentage."""
