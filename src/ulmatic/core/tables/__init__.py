"""Tables of the trade that ship as CSV beside the code: one row a parameter, material, region, crop or field trial."""

import csv
import pkgutil
from functools import cache

from ulmatic.core.figures import Parameter, Source


@cache
def rows_of(name: str) -> tuple[dict[str, str], ...]:
    """Return the rows of a table, each by the names of its columns.

    Parameters
    ----------
    name : str
        Of the file, without its ending.

    Returns
    -------
    tuple of dict of str to str
        Cells as they stand; an empty one says nothing. They are read once, and not to be changed.
    """
    content = pkgutil.get_data(__name__, f"{name}.csv") or b""
    return tuple(csv.DictReader(content.decode().splitlines()))


def pairs_of(cell: str) -> dict[str, str]:
    """Return the pairs of a cell such as ``bark 0.2; leaf 0.25``.

    Parameters
    ----------
    cell : str

    Returns
    -------
    dict of str to str
        The second word of each pair by its first.

    Examples
    --------
    >>> pairs_of("bark 0.2; leaf 0.25")
    {'bark': '0.2', 'leaf': '0.25'}
    """
    return dict(pair.split() for pair in cell.split(";") if pair)


@cache
def _parameters() -> dict[str, dict[str, str]]:
    return {row["key"]: row for row in rows_of("parameters")}


def read_parameter(key: str) -> Parameter:
    """Return a shipped constant of the table of parameters.

    Parameters
    ----------
    key : str

    Returns
    -------
    Parameter
    """
    row = dict(_parameters()[key])
    source = Source.model_validate({"mark": row.pop("mark"), "text": row.pop("source")})
    return Parameter.model_validate({**row, "low": row["low"] or None, "high": row["high"] or None, "source": source})
