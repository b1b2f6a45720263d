"""Tables with commas (RFC 4180), whose cells no spreadsheet takes for a formula."""

from __future__ import annotations

import csv
from collections.abc import Iterable
from types import SimpleNamespace

#: What a cell begins with that spreadsheets reckon out, or run.
_FORMULA = ("=", "+", "-", "@", "\t", "\r")
#: What is put before it; spreadsheets show the cell as text.
_TEXT = "'"


def write_csv(rows: Iterable[Iterable[object]], newline: str = "\n") -> str:
    """Return rows as a table; a cell of text that would open as a formula has an apostrophe before it."""
    lines: list[str] = []
    writer = csv.writer(SimpleNamespace(write=lines.append), lineterminator=newline)
    writer.writerows([_written(cell) for cell in row] for row in rows)
    return "".join(lines)


def _written(cell: object) -> object:
    """Return a cell as it is written; one that begins like a written one is told from it by one more apostrophe."""
    if isinstance(cell, str) and cell.lstrip(_TEXT).startswith(_FORMULA):
        return _TEXT + cell
    return cell


def read_cell(cell: str) -> str:
    """Return a cell as it was before it was written."""
    return cell[1:] if cell.startswith(_TEXT) and cell.lstrip(_TEXT).startswith(_FORMULA) else cell
