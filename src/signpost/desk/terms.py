"""Terms for entry lists, from what an author pastes or brings in."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from signpost.core.entries.terms import Term, find_repeated, read_terms, rows_to_terms
from signpost.core.text.source import read_source
from signpost.desk.errors import TooMuchError
from signpost.sheets import read_rows

#: How large a file of terms may be, in bytes.
FILE_BYTES = 5 * 2**20
_ZIP = b"PK"


@dataclass(frozen=True, slots=True)
class TermView:
    """A term, for its author to look through."""

    term: str
    label: str
    identifier: str
    text: str
    repeated: bool  # whether an earlier one is the same


def _view(terms: Sequence[Term]) -> list[TermView]:
    repeated = find_repeated(terms)
    return [
        TermView(term.term, term.label, term.identifier, term.text, again)
        for term, again in zip(terms, repeated, strict=True)
    ]


def read_pasted(text: str) -> list[TermView]:
    """Return the terms of a text. Raises RequestError where there are none."""
    return _view(read_terms(text))


def read_file(data: bytes) -> list[TermView]:
    """Return the terms of a file: an XLSX workbook, or else a text. Raises TooMuchError, RequestError."""
    if len(data) > FILE_BYTES:
        raise TooMuchError(f"A file of terms may have {FILE_BYTES // 2**20} MB.")
    terms = rows_to_terms(read_rows(data)) if data.startswith(_ZIP) else read_terms(read_source(data).text)
    return _view(terms)
