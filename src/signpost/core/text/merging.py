"""Two people's edits of one text brought together, where they touch other lines."""

from __future__ import annotations

import re
from dataclasses import dataclass
from typing import AnyStr, Generic

from signpost.core.text.lines import Opcode, line_opcodes

_LINE = re.compile(r"[^\r\n]*(?:\r\n|\n|\r|$)")
_LINE_OF_BYTES = re.compile(rb"[^\r\n]*(?:\r\n|\n|\r|$)")


@dataclass(frozen=True, slots=True)
class Piece(Generic[AnyStr]):
    """Consecutive lines of a text, as they were and as two people left them."""

    base: AnyStr
    ours: AnyStr
    theirs: AnyStr
    merged: AnyStr | None  # None where both edited them, each in another way


def merge(base: AnyStr, ours: AnyStr, theirs: AnyStr) -> AnyStr | None:
    """Return a text with the edits of both, who began from `base`; None where they touch the same lines.

    Lines side by side count as the same. What both did alike counts once.
    """
    if theirs in (ours, base):
        return ours
    if ours == base:
        return theirs
    merged = base[:0]
    for piece in merge_pieces(base, ours, theirs):
        if piece.merged is None:
            return None
        merged += piece.merged
    return merged


def merge_pieces(base: AnyStr, ours: AnyStr, theirs: AnyStr) -> list[Piece[AnyStr]]:
    """Return a text in pieces, which put together are `base`, `ours` and `theirs`, and what `merge` makes of each."""
    lines, mine, other = (_lines(text) for text in (base, ours, theirs))
    nothing = base[:0]
    one, two = _edits(lines, mine), _edits(lines, other)
    pieces: list[Piece[AnyStr]] = []
    at = 0
    for start, end in _places(one, two):
        if at < start:
            same = nothing.join(lines[at:start])
            pieces.append(Piece(same, same, same, same))
        before = nothing.join(lines[start:end])
        left = nothing.join(_edited(lines, mine, one, start, end))
        right = nothing.join(_edited(lines, other, two, start, end))
        merged = left if right in (left, before) else right if left == before else None
        pieces.append(Piece(before, left, right, merged))
        at = end
    rest = nothing.join(lines[at:])
    if rest:
        pieces.append(Piece(rest, rest, rest, rest))
    return pieces


def pieces_without_base(ours: AnyStr, theirs: AnyStr) -> list[Piece[AnyStr]]:
    """Return two texts in pieces where nobody knows what both began from: each difference is one to decide."""
    mine, other = _lines(ours), _lines(theirs)
    nothing = ours[:0]
    pieces: list[Piece[AnyStr]] = []
    for code in line_opcodes(mine, other):
        left, right = nothing.join(mine[code[1] : code[2]]), nothing.join(other[code[3] : code[4]])
        same = code[0] == "equal"
        pieces.append(Piece(left if same else nothing, left, right, left if same else None))
    return pieces


def _lines(text: AnyStr) -> list[AnyStr]:
    found = _LINE.findall(text) if isinstance(text, str) else _LINE_OF_BYTES.findall(text)
    return [line for line in found if line]


def _edits(lines: list[AnyStr], edited: list[AnyStr]) -> list[Opcode]:
    return [code for code in line_opcodes(lines, edited) if code[0] != "equal"]


def _places(one: list[Opcode], two: list[Opcode]) -> list[tuple[int, int]]:
    """Return which lines were edited, those side by side as one place; half-open."""
    places: list[tuple[int, int]] = []
    for start, end in sorted((code[1], code[2]) for code in (*one, *two)):
        if places and start <= places[-1][1]:
            places[-1] = (places[-1][0], max(places[-1][1], end))
        else:
            places.append((start, end))
    return places


def _edited(lines: list[AnyStr], edited: list[AnyStr], codes: list[Opcode], start: int, end: int) -> list[AnyStr]:
    """Return some lines as one person left them."""
    found: list[AnyStr] = []
    at = start
    for code in codes:
        if start <= code[1] and code[2] <= end:
            found += lines[at : code[1]]
            found += edited[code[3] : code[4]]
            at = code[2]
    return found + lines[at:end]
