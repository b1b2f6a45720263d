"""Edits at known offsets: the only place where a page's text is spliced.

Laws, held by tests/core/test_edits.py: no edit gives the same bytes; what lies outside the edits is the same;
edits at one point come out in the order of their ranks, however they were given.
"""

from __future__ import annotations

import re
from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from itertools import pairwise

from signpost.core.text.errors import OutOfBoundsError, OverlapError, StaleError
from signpost.core.text.lines import equal_ends, line_opcodes
from signpost.core.text.positions import Span
from signpost.core.text.source import Source

_LINE = re.compile(r"[^\r\n]*(?:\r\n|\n|\r)|[^\r\n]+")


@dataclass(frozen=True, slots=True)
class Edit:
    """One replacement. All offsets mean the original text."""

    start: int
    end: int  # half-open; equal to start for an insertion
    text: str  # what is there afterwards
    rank: int = 0  # orders insertions at one point, lowest first
    reason: str = ""  # in plain words, for the author

    @property
    def inserts(self) -> bool:
        """Whether nothing of the original is removed."""
        return self.start == self.end


@dataclass(frozen=True, slots=True)
class EditSet:
    """The edits of one text, in order and free of conflicts."""

    sha256: str  # of the bytes they were planned for
    edits: tuple[Edit, ...]

    def __bool__(self) -> bool:
        return bool(self.edits)

    def __len__(self) -> int:
        return len(self.edits)


def edit_set(source: Source, edits: Iterable[Edit]) -> EditSet:
    """Return `edits` in order, without those that change nothing.

    Raises OutOfBoundsError or OverlapError before anything is built: overlapping replacements, an insertion
    strictly inside a replacement, two insertions at one point with one rank.
    """
    length = len(source.text)
    kept = []
    for edit in edits:
        if not 0 <= edit.start <= edit.end <= length:
            raise OutOfBoundsError(edit, length)
        if source.text[edit.start : edit.end] != edit.text:
            kept.append(edit)
    kept.sort(key=lambda edit: (edit.start, edit.end, edit.rank))
    for first, second in pairwise(kept):
        at_one_point = first.inserts and second.inserts and first.start == second.start
        if second.start < first.end or (at_one_point and first.rank == second.rank):
            raise OverlapError(first, second)
        if first.start == second.start and not at_one_point and not first.inserts:
            raise OverlapError(first, second)
    return EditSet(source.sha256, tuple(kept))


def apply_to_text(source: Source, edits: EditSet) -> str:
    """Return the source's text with `edits` made. Raises StaleError where they were planned for other bytes."""
    if edits.sha256 != source.sha256:
        raise StaleError(edits.sha256, source.sha256)
    return splice(source.text, Span(0, len(source.text)), edits.edits)


def apply_edits(source: Source, edits: EditSet) -> bytes:
    """Return the page's bytes with `edits` made, in the page's own encoding.

    Raises StaleError, and EncodingError for a source that would not survive being written back.
    """
    return source.encode(apply_to_text(source, edits))


def splice(text: str, span: Span, edits: Iterable[Edit]) -> str:
    """Return a stretch of a text with the edits within it made; they must be free of conflicts."""
    pieces: list[str] = []
    at = span.start
    for edit in sorted(edits, key=lambda edit: (edit.start, edit.end, edit.rank)):
        pieces += (text[at : edit.start], edit.text)
        at = edit.end
    return "".join([*pieces, text[at : span.end]])


def edits_between(old: str, new: str, offset: int = 0, reason: str = "") -> list[Edit]:
    """Return the small edits that make `new` of `old`, which is at `offset` of its text.

    They are found by lines, and narrowed to the characters that differ within each run of lines.
    """
    if old == new:
        return []
    edits = []
    for old_run, new_run, at in _runs(old, new):
        edits.append(narrow_edit(offset + at, old_run, new_run, reason))
    return edits


def shown_text(source: Source) -> str:
    """Return a source's text as editors hold it: a line feed at every line end, no byte-order mark."""
    return _LINE_ENDS.sub("\n", source.text).removeprefix("\ufeff")


def edits_for_typed_text(source: Source, typed: str) -> EditSet:
    """Return the edits that bring a source to what its author typed in an editor, where `shown_text` was before.

    `typed` has a line feed at every line end, as editors hold text. Lines the author left alone keep their own line
    ends; new ones get the page's usual one. A byte-order mark stays where it was.
    """
    typed = _LINE_ENDS.sub("\n", typed)
    mark = source.text[:1] if source.text[:1] == "\ufeff" and typed[:1] != "\ufeff" else ""
    old = _LINE.findall(source.text)
    new = _LINE.findall(mark + typed)
    plain = [_LINE_ENDS.sub("\n", line) for line in old]
    rebuilt: list[str] = []
    for kind, old_from, old_to, new_from, new_to in line_opcodes(plain, new):
        if kind == "equal":
            rebuilt += old[old_from:old_to]
        else:
            ends = [_line_end(line) for line in old[old_from:old_to]]
            for row, line in enumerate(new[new_from:new_to]):
                end = ends[row] if row < len(ends) and ends[row] else source.newline
                rebuilt.append(line[:-1] + end if line.endswith("\n") else line)
    return edit_set(source, edits_between(source.text, "".join(rebuilt), reason="typed by the author"))


_LINE_ENDS = re.compile(r"\r\n|\r")


def _line_end(line: str) -> str:
    return line[len(line.rstrip("\r\n")) :]


def narrow_edit(start: int, old: str, new: str, reason: str = "") -> Edit:
    """Return the edit that makes `new` of `old`, which is at `start`, without what both begin and end with."""
    head, tail = equal_ends(old, new)
    return Edit(start + head, start + len(old) - tail, new[head : len(new) - tail], reason=reason)


def _runs(old: str, new: str) -> Iterator[tuple[str, str, int]]:
    """Yield each run of lines that differs: as it was, as it should be, and its offset in `old`."""
    a, b = _LINE.findall(old), _LINE.findall(new)
    starts = [0]
    for line in a:
        starts.append(starts[-1] + len(line))
    for kind, a_from, a_to, b_from, b_to in line_opcodes(a, b):
        if kind != "equal":
            yield "".join(a[a_from:a_to]), "".join(b[b_from:b_to]), starts[a_from]
