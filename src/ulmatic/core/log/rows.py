"""Depths along a row of trees, typed as one text."""

import re

MOST_PARTS = 200
_PART = re.compile(r"^(?:trees?\s+)?(\d{1,6})(?:\s*(?:-|–|to)\s*(\d{1,6}))?\s*[:=]\s*(\S.{0,80})$", re.IGNORECASE)


class RowsUnclear(ValueError):
    """A text that cannot be understood; its own text is the sentence for who typed it."""


def rows_of_trees(text: str) -> list[tuple[dict[str, int], str]]:
    """Return the trees and the depth of each part of a text such as ``1–40: 60 mm; 41–80: 45 mm``.

    Parameters
    ----------
    text : str
        Parts with semicolons or new lines between them; depths are not read yet.

    Raises
    ------
    RowsUnclear
        Where a part cannot be understood.
    """
    parts = [part.strip() for part in re.split(r"[;\n]", text) if part.strip()]
    if len(parts) > MOST_PARTS:
        raise RowsUnclear(f"That is more than {MOST_PARTS} parts. Send them in two.")
    rows = []
    for part in parts:
        match = _PART.match(part)
        if match is None:
            raise RowsUnclear(f"“{part[:40]}” cannot be understood. Type it like 1–40: 60 mm; 41–80: 45 mm.")
        first = int(match[1])
        rows.append(({"first": first, "last": int(match[2] or first)}, match[3].strip()))
    return rows
