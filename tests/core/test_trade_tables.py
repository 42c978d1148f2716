"""The figures of the trade: each row once, and nothing in a cell that its reader would miss."""

from pathlib import Path

import pytest

from ulmatic.core import tables

KEYS = {
    "school_questions": ("field",),
    "schools": ("field", "value"),
    "load_questions": ("field",),
    "load_answers": ("field", "answer"),
    "uses": ("use",),
    "trial_places": ("name",),
    "field_trials": ("what", "material", "place", "years"),
}


@pytest.mark.parametrize("path", sorted(Path(tables.__file__).parent.glob("*.csv")), ids=lambda path: path.stem)
def test_each_row_stands_once_and_fills_its_columns(path):
    rows = tables.rows_of(path.stem)
    names = [tuple(row[column] for column in KEYS.get(path.stem, ("key",))) for row in rows]
    assert len(set(names)) == len(names) > 0
    for row in rows:
        assert None not in [*row, *row.values()], row
        assert all(cell == cell.strip() for cell in row.values()), row


def test_a_parameter_that_no_row_has_is_not_made_up():
    with pytest.raises(KeyError):
        tables.read_parameter("decay.nobody")
