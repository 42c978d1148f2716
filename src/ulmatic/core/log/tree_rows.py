"""Trees of a row, and depths along it, as they are typed."""

import re

from pydantic_core import PydanticCustomError

MOST_PARTS = 200
_TREES = r"(?:trees?\s+)?(\d{1,6})(?:\s*(?:-|–|to)\s*(\d{1,6}))?"
_TREES_ALONE = re.compile(rf"^{_TREES}$", re.IGNORECASE)
_PART = re.compile(rf"^{_TREES}\s*[:=]\s*(\S.{{0,80}})$", re.IGNORECASE)


class RowsUnclear(ValueError):
    """A text that cannot be understood; its own text is the sentence for who typed it."""


def rows_of_trees(text: str) -> list[tuple[dict[str, int], str]]:
    """Return the trees and the depth of each part of a text such as ``1–40: 60 mm; 41–80: 45 mm``.

    Parameters
    ----------
    text : str
        Parts with semicolons or new lines between them; depths are not read yet.

    Returns
    -------
    list of (dict of str to int, str)
        Bounds as `first` and `last`, and the text of the depth.

    Raises
    ------
    RowsUnclear
        Where a part cannot be understood.

    Examples
    --------
    >>> rows_of_trees("1-3: 40, 45, 50")
    [({'first': 1, 'last': 3}, '40, 45, 50')]
    """
    parts = [part.strip() for part in re.split(r"[;\n]", text) if part.strip()]
    if len(parts) > MOST_PARTS:
        raise RowsUnclear(f"That is more than {MOST_PARTS} parts. Send them in two.")
    rows = []
    for part in parts:
        match = _PART.match(part)
        if match is None:
            raise RowsUnclear(f"“{part[:40]}” cannot be understood. Type it like 1–40: 60 mm; 41–80: 45 mm.")
        rows.append((_first_and_last(match), match[3].strip()))
    return rows


def typed_trees(typed: object) -> object:
    """Return the first and the last tree of a text such as ``7`` or ``1–40``, None of an empty one; all else as it is.

    Parameters
    ----------
    typed : object

    Returns
    -------
    object

    Raises
    ------
    PydanticCustomError
        Where a text cannot be understood.
    """
    if not isinstance(typed, str):
        return typed
    if not typed.strip():
        return None
    match = _TREES_ALONE.match(typed.strip())
    if match is None:
        sentence = f"“{typed.strip()[:40]}” cannot be understood. Type trees like 7 or 1–40."
        raise PydanticCustomError("measure", "{sentence}", {"sentence": sentence})
    return _first_and_last(match)


def _first_and_last(match: re.Match[str]) -> dict[str, int]:
    first = int(match[1])
    return {"first": first, "last": int(match[2] or first)}
