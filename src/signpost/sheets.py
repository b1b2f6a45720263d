"""Spreadsheets as rows of text, for lists of terms."""

from __future__ import annotations

import io
import zipfile
from collections.abc import Sequence

from signpost.core.text.errors import RequestError

#: How large the parts of a workbook may be when unpacked, in bytes.
UNPACKED_BYTES = 50 * 2**20
#: How many rows and columns are read.
_ROWS = 20_000
_COLUMNS = 20


def read_rows(data: bytes) -> list[list[str]]:
    """Return the rows of a workbook's first sheet (XLSX, ECMA-376), each cell as text.

    Raises RequestError for what is not a workbook, or a larger one than a list of terms can be.
    """
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as archive:
            unpacked = sum(part.file_size for part in archive.infolist())
        rows = [] if unpacked > UNPACKED_BYTES else _read(data)
    except Exception as error:
        raise RequestError(
            "This is not an XLSX workbook that can be read. Save the sheet as CSV and try again."
        ) from error
    if unpacked > UNPACKED_BYTES:
        raise RequestError("The workbook is too large for a list of terms. Save the sheet alone, as CSV.")
    return _without_empty_columns(rows)


def _read(data: bytes) -> list[list[str]]:
    import openpyxl  # noqa: PLC0415 - takes longer to load than most commands take to run

    book = openpyxl.load_workbook(io.BytesIO(data), read_only=True, data_only=True)
    rows = book.worksheets[0].iter_rows(max_row=_ROWS, max_col=_COLUMNS, values_only=True)
    return [[_text(cell) for cell in row] for row in rows]


def _text(cell: object) -> str:
    if cell is None:
        return ""
    return f"{cell:g}" if isinstance(cell, float) and cell.is_integer() else str(cell)


def _without_empty_columns(rows: Sequence[Sequence[str]]) -> list[list[str]]:
    last = max((at + 1 for row in rows for at, cell in enumerate(row) if cell), default=0)
    return [list(row[:last]) for row in rows]
