"""Terms for entry lists, from what an author pastes or brings in."""

from __future__ import annotations

from signpost.core.entries.terms import Term, read_terms, rows_to_terms
from signpost.core.text.source import read_source
from signpost.desk.errors import TooMuchError
from signpost.sheets import read_rows

#: How large a file of terms may be, in bytes.
FILE_BYTES = 5 * 2**20
_ZIP = b"PK"


def read_pasted(text: str) -> list[Term]:
    """Return the terms of a text. Raises RequestError where there are none."""
    return read_terms(text)


def read_file(data: bytes) -> list[Term]:
    """Return the terms of a file: an XLSX workbook, or else a text. Raises TooMuchError, RequestError."""
    if len(data) > FILE_BYTES:
        raise TooMuchError(f"A file of terms may have {FILE_BYTES // 2**20} MB.")
    return rows_to_terms(read_rows(data)) if data.startswith(_ZIP) else read_terms(read_source(data).text)
