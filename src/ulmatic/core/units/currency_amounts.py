"""Amounts of money as people type them: `40`, `1,250.00`, `$3.50`, `28 / m3`, `35 per yd`."""

import re
from typing import Annotated

from pydantic import BeforeValidator, Field
from pydantic_core import PydanticCustomError

from ulmatic.core.units.fields import reading_system
from ulmatic.core.units.measures import UnitSystem
from ulmatic.core.units.parsing import LONGEST_ENTRY

YARD3_M3 = 0.764554857984
"""A cubic yard in m³, exactly: NIST SP 811."""
MOST = 10_000_000.0

_SIGNS = re.compile(r"^(?:[€$£¥]|[A-Za-z]{2,3}\s)?\s*(.*?)\s*(?:[€$£¥]|\b[A-Z]{3})?$")
_PER = re.compile(r"\s*(?:/|\bper\b|\ba\b)\s*(?:cu\.?\s*)?(m|m3|m³|yd|yds|yard|yards|yd3|yd³)\s*$", re.IGNORECASE)
_NUMBER = re.compile(r"^\d{1,3}(?:[ ',.\u202f]\d{3})*(?:[.,]\d{1,2})?$|^\d+(?:[.,]\d{1,4})?$")


def _wrong(text: str, like: str) -> PydanticCustomError:
    sentence = f"“{text[:30]}” is not an amount of money. Type it like {like}."
    return PydanticCustomError("measure", "{sentence}", {"sentence": sentence})


def _amount(text: str, like: str) -> float:
    if len(text) > LONGEST_ENTRY:
        raise _wrong(text, like)
    bare = (_SIGNS.match(text.strip()) or _wrong_match(text, like))[1]
    if not _NUMBER.match(bare):
        raise _wrong(text.strip(), like)
    digits = re.sub(r"[ '\u202f]", "", bare)
    decimals = re.search(r"[.,](\d{1,4})$", digits)
    # “1,250” and “1.250” are twelve hundred and fifty; “1,25” and “1.5” have decimals.
    grouped = decimals is not None and len(decimals[1]) == 3 and not digits.startswith("0")
    if decimals is None or grouped:
        return float(re.sub(r"[.,]", "", digits))
    return float(re.sub(r"[.,]", "", digits[: decimals.start()]) + "." + decimals[1])


def _wrong_match(text: str, like: str) -> re.Match[str]:
    raise _wrong(text.strip(), like)


def _read_money(value: object) -> object:
    return _amount(value, "40, 12.50 or 1,250") if isinstance(value, str) else value


def _read_per_volume(value: object) -> object:
    if not isinstance(value, str):
        return value
    if len(value) > LONGEST_ENTRY:
        raise _wrong(value, "28, 28 / m3 or 35 / yd3")
    per = _PER.search(value)
    yards = per[1].lower().startswith("y") if per else reading_system() is UnitSystem.US
    amount = _amount(value[: per.start()] if per else value, "28, 28 / m3 or 35 / yd3")
    return amount / YARD3_M3 if yards else amount


_LIMITS = Field(ge=0, le=MOST, allow_inf_nan=False)
Money = Annotated[float, BeforeValidator(_read_money, json_schema_input_type=str | float), _LIMITS]
"""An amount, 0 or more, in the currency that stands beside it."""
MoneyPerVolume = Annotated[float, BeforeValidator(_read_per_volume, json_schema_input_type=str | float), _LIMITS]
"""An amount for a m³; bare numbers are for a m³ or a yd³."""
