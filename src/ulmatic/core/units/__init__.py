"""Measurements as people say them, turned into SI.

A `Measure` names one kind of measurement (a length, a depth, a volume …). The types `Length`, `Girth`, `Gap`,
`Depth`, `Volume` and `Share` are floats in SI for Pydantic models; they also take typed text, whose bare numbers
are read in the units set by `bare_numbers_in`.
"""

from ulmatic.core.units.currency_amounts import Money, MoneyPerVolume
from ulmatic.core.units.fields import (
    Coordinate,
    Day,
    Density,
    Depth,
    FieldType,
    Gap,
    Girth,
    Length,
    Mass,
    Offset,
    Share,
    Temperature,
    Volume,
    bare_numbers_in,
    reading_system,
    several,
)
from ulmatic.core.units.measures import DEPTH, GAP, GIRTH, LENGTH, MASS, OFFSET, SHARE, VOLUME, Measure, UnitSystem
from ulmatic.core.units.parsing import MeasureError, parse, parse_several, parse_signed
