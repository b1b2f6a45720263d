"""Terms of a reference page, as an author pastes or imports them: a line each, or a table of columns."""

from __future__ import annotations

import csv
from collections.abc import Iterable, Sequence
from dataclasses import dataclass

from signpost.core.page.phrasing import collapse
from signpost.core.text.errors import RequestError

csv.field_size_limit(2**24)  # characters of a cell; the module's own limit is a long paragraph
#: How many terms one page may get at once.
MOST_TERMS = 5000
#: What columns may be called, by what they contain.
_COLUMNS = {
    "term": "term", "word": "term", "name": "term", "entry": "term", "label": "label", "heading": "label",
    "title": "label", "identifier": "identifier", "id": "identifier", "text": "text", "description": "text",
    "definition": "text", "meaning": "text",
}  # fmt: skip


@dataclass(frozen=True, slots=True)
class Term:
    """A term, and what is beside it."""

    term: str
    label: str = ""  # of its heading; "" for the term itself
    identifier: str = ""  # "" for one that is made of the label
    text: str = ""  # its paragraphs, an empty line between them

    @property
    def heading(self) -> str:
        """The words of its heading."""
        return self.label or self.term


def read_terms(text: str) -> list[Term]:
    """Return the terms of a text: one a line, or, where a line has a tab or the first names columns, a table.

    Raises RequestError where there are none, or too many.
    """
    text = text.removeprefix("\ufeff")
    lines = [line for line in text.splitlines() if line.strip()]
    if not lines:
        raise RequestError("There are no terms yet. Type or paste one per line.")
    delimiter = _find_delimiter(lines)
    if delimiter is None:
        return rows_to_terms([[line.strip()] for line in lines])
    try:
        return rows_to_terms(list(csv.reader(text.splitlines(keepends=True), delimiter=delimiter)))
    except csv.Error as error:
        raise RequestError(
            f"The table cannot be read as rows and columns ({error}). Save it again as CSV, or paste one term a line."
        ) from error


def _find_delimiter(lines: Sequence[str]) -> str | None:
    """Return what parts the columns of a table; None for plain lines.

    A tab anywhere, or what parts a first line that names columns; spreadsheets write semicolons where a comma is the
    decimal mark (RFC 4180 leaves that open).
    """
    if any("\t" in line for line in lines):
        return "\t"
    for delimiter in (",", ";"):
        try:
            if _names_columns(next(csv.reader(lines[:1], delimiter=delimiter))):
                return delimiter
        except csv.Error:
            return None
    return None


def rows_to_terms(rows: Sequence[Sequence[str]]) -> list[Term]:
    """Return the terms of a table's rows. The first row may name the columns; else they are term and text.

    Raises RequestError where there are none, or too many.
    """
    cells = [row for row in rows if any(cell.strip() for cell in row)]
    columns = ["term", "text"]
    if cells and _names_columns(cells[0]):
        columns = [_COLUMNS.get(cell.strip().casefold(), "") for cell in cells[0]]
        cells = cells[1:]
    terms = []
    for row in cells:
        named = {name: cell.strip() for name, cell in zip(columns, row, strict=False) if name}
        if named.get("term") or named.get("label"):
            term = named.pop("term", "") or named["label"]
            terms.append(Term(term, **named))
    if not terms:
        raise RequestError("There are no terms yet. Type or paste one per line, or name a column “term”.")
    if len(terms) > MOST_TERMS:
        raise RequestError(f"These are {len(terms)} terms; at most {MOST_TERMS} are added at once. Shorten the list.")
    return terms


def _names_columns(row: Sequence[str]) -> bool:
    named = [_COLUMNS.get(cell.strip().casefold()) for cell in row if cell.strip()]
    return len(row) > 1 and "term" in named and all(named)


def find_repeated(terms: Iterable[Term]) -> list[bool]:
    """Return of each term whether an earlier one is the same but for letter case and white space."""
    seen: set[str] = set()
    repeated = []
    for term in terms:
        key = collapse(term.term).casefold()
        repeated.append(key in seen)
        seen.add(key)
    return repeated


def without_doubles(terms: Iterable[Term]) -> list[Term]:
    """Return the terms, of several that are alike but for letter case and white space the first."""
    kept: dict[str, Term] = {}
    for term in terms:
        kept.setdefault(collapse(term.term).casefold(), term)
    return list(kept.values())
