"""Tables as they are written and read: cells of CSV and XLSX files."""

import csv
import io
import re
from collections.abc import Iterable, Mapping, Sequence

from ulmatic.core.units.parsing import number_text
from ulmatic.formats.files import FileRefused, safe_zip, text_of

_SIGNS = "=+@-"
_NUMBER = re.compile(r"-\d+(?:[.,]\d+)?(?: ?[A-Za-zµ°%³²]{1,8})?")
MOST_COLUMNS, MOST_CHARACTERS = 80, 20_000
TABLE_TYPES = {
    "csv": "text/csv; charset=utf-8",
    "xlsx": "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet",
}
"""Media types by ending."""
_DECIMALS = {
    mark: re.compile(rf"(?<![\d.,])[1-9]\d{{0,2}}{decimal}\d{{3}}(?![\d.,])")
    for mark, decimal in ((",", r"\."), (";", ","), ("\t", r"\."))
}


def cells_of(name: str, content: bytes, most_rows: int) -> list[tuple[int, list[str]]]:
    """Return the rows of a table that hold something, each with its number in the file; the headings first.

    Raises
    ------
    FileRefused
        Where it is no table, is empty, or has too many rows.
    """
    table = _xlsx(content, most_rows) if name.lower().endswith(".xlsx") else _csv(content)
    filled = [(number, cells) for number, cells in enumerate(table, 1) if any(cell.strip() for cell in cells)]
    if not filled:
        raise FileRefused("This table is empty.")
    if len(filled) == 1:
        raise FileRefused("This table has headings but no rows.")
    if len(filled) - 1 > most_rows:
        raise FileRefused(f"This table has more than {most_rows:,} rows; split it.")
    return filled


def _csv(content: bytes) -> Iterable[list[str]]:
    text = text_of(content)
    try:
        first = text.split("\n", 1)[0]
        dialect = ";" if first.count(";") > first.count(",") else "\t" if "\t" in first else ","
        for cells in csv.reader(io.StringIO(text, newline=""), delimiter=dialect, strict=True):
            # Commas that part cells do not part decimals: 3.048 is three metres there, as 3,048 is between semicolons.
            yield [_DECIMALS[dialect].sub(r"\g<0>0", cell[:MOST_CHARACTERS]) for cell in cells[:MOST_COLUMNS]]
    except csv.Error as error:
        raise FileRefused(f"This file cannot be read as CSV: {error}.") from None


def _xlsx(content: bytes, most_rows: int) -> Iterable[list[str]]:
    from openpyxl import load_workbook

    try:
        book = load_workbook(safe_zip(content), read_only=True, data_only=True)
        sheet = book.worksheets[0]
        for index, cells in enumerate(sheet.iter_rows(max_col=MOST_COLUMNS, max_row=most_rows + 200, values_only=True)):
            if index > most_rows + 100:
                break
            yield [_cell(cell) for cell in cells[:MOST_COLUMNS]]
    except FileRefused:
        raise
    except Exception:
        raise FileRefused("This is not an XLSX workbook, or it is damaged.") from None


def _cell(value: object) -> str:
    if value is None:
        return ""
    return number_text(value) if isinstance(value, float) else str(value)


def write_csv(rows: Sequence[Mapping[str, str]], columns: Sequence[str]) -> bytes:
    """Return rows as CSV in UTF-8 with a byte order mark, so that spreadsheets read the encoding right."""
    out = io.StringIO(newline="")
    writer = csv.DictWriter(out, columns)
    writer.writeheader()
    writer.writerows({heading: harmless(text) for heading, text in row.items()} for row in rows)
    return out.getvalue().encode("utf-8-sig")


def write_xlsx(rows: Sequence[Mapping[str, str]], columns: Sequence[str], title: str) -> bytes:
    """Return rows as an XLSX workbook of text cells."""
    from openpyxl import Workbook

    book = Workbook()
    sheet = book.active or book.create_sheet()
    sheet.title = title
    sheet.append(list(columns))
    for row in rows:
        sheet.append([row[heading] for heading in columns])
    for cells in sheet.iter_rows(min_row=2):
        for cell in cells:
            cell.data_type = "s"
    out = io.BytesIO()
    book.save(out)
    return out.getvalue()


def harmless(text: str) -> str:
    """Return text that a spreadsheet does not take for a formula: only a plain number may begin with a sign."""
    begins = text.lstrip("\t\r\n ")[:1]
    formula = begins in _SIGNS and begins != "" and not _NUMBER.fullmatch(text)
    return f"'{text}" if formula else text


def bared(text: str) -> str:
    """Return text without the apostrophe that `harmless` puts before it."""
    return text[1:] if text[:1] == "'" and harmless(text[1:]) == text else text
