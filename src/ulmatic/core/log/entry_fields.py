"""The fields of a kind of entry, as its record has them: forms and tables are made from these."""

from collections.abc import Iterator
from dataclasses import dataclass
from datetime import date
from functools import cache
from typing import Any, Literal, get_args, get_origin

from pydantic.fields import FieldInfo

from ulmatic.core.log.log_record import KINDS
from ulmatic.core.units import FieldType

BY_PYTHON_TYPE = {bool: "flag", int: "number", float: "number", date: "day"}


@dataclass(frozen=True)
class EntryField:
    """A field of a kind of entry.

    Attributes
    ----------
    name : str
    type : str
        What is typed there: that of its `FieldType`, else a choice, flag, number or text.
    choices : tuple of str
        Of a choice.
    start : object
        What holds where nothing is typed, in SI.
    """

    name: str
    type: str
    choices: tuple[str, ...]
    start: Any


@cache
def fields_of(kind: str) -> tuple[EntryField, ...]:
    """Return the fields of a kind of entry.

    Parameters
    ----------
    kind : str

    Returns
    -------
    tuple of EntryField
        In the order of its record.

    Examples
    --------
    >>> [(field.name, field.type) for field in fields_of("moisture")]
    [('days_without_rain', 'number'), ('feel', 'choice')]
    """
    return tuple(_field(name, info) for name, info in KINDS[kind].model_fields.items() if name != "kind")


def _field(name: str, info: FieldInfo) -> EntryField:
    # Of `Depth | None` what is noted stands within the union; of several readings, that of the field comes first.
    notes = [*info.metadata, *_notes(info.annotation)]
    noted = next((note.name for note in notes if isinstance(note, FieldType)), None)
    choices = tuple(str(choice) for part in _parts(info.annotation) for choice in _choices(part))
    plain = next((BY_PYTHON_TYPE[part] for part in _parts(info.annotation) if part in BY_PYTHON_TYPE), "text")
    start = None if info.is_required() else info.default
    return EntryField(name, noted or ("choice" if choices else plain), choices, start)


def _parts(annotation: Any) -> Iterator[Any]:
    """Yield an annotation and all that it is made of.

    Yields
    ------
    Any
    """
    yield annotation
    if get_origin(annotation) is not Literal:
        for part in get_args(annotation):
            yield from _parts(part)


def _notes(annotation: Any) -> Iterator[Any]:
    return (note for part in _parts(annotation) for note in getattr(part, "__metadata__", ()))


def _choices(annotation: Any) -> tuple[Any, ...]:
    return get_args(annotation) if get_origin(annotation) is Literal else ()
