"""Entries with measurements as people write them."""

from typing import Annotated, Any, Self
from zoneinfo import available_timezones

from pydantic import (
    AfterValidator,
    BaseModel,
    ConfigDict,
    Field,
    ModelWrapValidatorHandler,
    PrivateAttr,
    WithJsonSchema,
    model_validator,
)
from pydantic_core import PydanticCustomError

from ulmatic.core.units import UnitSystem, bare_numbers_in

Typed = dict[str, Any]
SCHEMA_OF_A_KIND: dict[str, Any] = {
    "type": "object",
    "title": "Of a kind, with the fields of that kind as they are typed",
    "properties": {"kind": {"type": "string"}},
    "required": ["kind"],
    "additionalProperties": True,
}
OF_A_KIND = WithJsonSchema(SCHEMA_OF_A_KIND, mode="validation")
"""How the API describes what is sent of a kind, whose fields follow from it: a kind that is added changes no client."""
SCHEMA_OF_FIELDS: dict[str, Any] = {
    "type": "object",
    "title": "Fields as they are typed",
    "additionalProperties": True,
}
"""The same of fields that may each be left open."""
DEEPEST = 12

_ZONES = frozenset(available_timezones())


def _zone(name: str) -> str:
    if name not in _ZONES:
        raise PydanticCustomError("zone", "This time zone does not exist. Choose one like Europe/London.")
    return name


TimeZone = Annotated[str, Field(max_length=60), AfterValidator(_zone)]
"""An IANA name."""

_MEASURED = ("_m", "_mm", "_m3", "_deg", "_c", "_kg", "_per_h", "per_load", "per_trip", "per_bag", "per_day")
_ALSO_MEASURED = (
    "wanted_as",
    "depth_as",
    "spare",
    "part",
    "share",
    "laid_share",
    "density",
    "moisture",
    "carbon",
    "cn",
    "settling",
    "rate",
    "chance",
    "budget",
    "markup",
    "disposal",
    "tax",
    "cost",
)

_NESTED = (
    "shape",
    "slope",
    "found",
    "place",
    "landmark",
    "climate",
    "recipe",
    "figures",
    "source",
    "measured",
    "entry",
    "rule",
)


MOST_CHARACTERS, MOST_OF_POINTS = 20_000, 250_000
"""Of a text in an entry, before any pattern looks at it; lists of points may be longer."""
_POINTS = ("points_deg", "points_m", "corners_m")


def _short_enough(data: Any, field: str = "", depth: int = 0) -> None:
    """Raise where a text in an entry is longer than anybody types."""
    if isinstance(data, str):
        if len(data) > (MOST_OF_POINTS if field.rsplit(".", 1)[-1] in _POINTS else MOST_CHARACTERS):
            sentence = f"This is too long: {MOST_CHARACTERS:,} characters at most."
            raise PydanticCustomError("measure", "{sentence}", {"sentence": sentence, "field": field})
    elif depth < DEEPEST and isinstance(data, dict | list):
        for key, value in data.items() if isinstance(data, dict) else enumerate(data):
            _short_enough(value, f"{field}.{key}" if field else str(key), depth + 1)


class Entry(BaseModel):
    """What somebody sends; a key that is not asked for is refused, never kept."""

    model_config = ConfigDict(extra="forbid")


class TypedEntry(Entry):
    """An entry with measurements as they were written; `units` is what its bare numbers are in.

    After validation `typed()` returns the texts of the measured fields, so that they can be shown again as written.
    """

    units: UnitSystem
    _typed: Typed = PrivateAttr(default_factory=dict)

    @model_validator(mode="wrap")
    @classmethod
    def _read(cls, data: Any, handler: ModelWrapValidatorHandler[Self]) -> Self:
        _short_enough(data)
        units = data.get("units") if isinstance(data, dict) else None
        known = units if isinstance(units, str) and units in list(UnitSystem) else UnitSystem.METRIC
        with bare_numbers_in(UnitSystem(known)):
            entry = handler(data)
        if isinstance(data, dict):
            entry._typed = cls.texts(data)
        return entry

    @classmethod
    def texts(cls, data: dict[str, Any]) -> Typed:
        """Return the texts of measured fields in `data`, and nothing else of it."""
        texts: Typed = {}
        for key, value in data.items():
            measured = key.endswith(_MEASURED) or key in _ALSO_MEASURED
            if measured and isinstance(value, str) and value.strip():
                texts[key] = value.strip()
            elif key in _NESTED and isinstance(value, dict):
                texts[key] = cls.texts(value)
            elif key in ("cut_outs", "hold_backs", "parts") and isinstance(value, list):
                texts[key] = [cls.texts(item) for item in value if isinstance(item, dict)]
        return texts

    def typed(self) -> Typed:
        """Return the measured fields as written."""
        return self._typed
