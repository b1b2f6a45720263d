"""Spans of a text, and its lines.

All offsets are code points into the decoded file as it is: a CRLF counts two, a byte-order mark one.
"""

from __future__ import annotations

import re
from bisect import bisect_right
from dataclasses import dataclass
from itertools import accumulate, count
from operator import add

_LINE_END = re.compile(r"\r\n|\n|\r")
_REACH = 64  # characters that are looked at first, so that what is looked for nearby costs no copy of the page


@dataclass(frozen=True, slots=True, order=True)
class Span:
    """A stretch of text, half-open."""

    start: int  # of its first character
    end: int  # behind its last character; equal to start for a point

    def of(self, text: str) -> str:
        """Return the characters of `text` that the span covers."""
        return text[self.start : self.end]


@dataclass(frozen=True, slots=True, order=True)
class Place:
    """Where a character is, as an editor would say it."""

    line: int  # 1-based; a line ends with LF, CRLF or CR, as the HTML standard normalises them (13.2.3.5)
    column: int  # 1-based, in code points


class Lines:
    """The lines of one text: from offset to place and back."""

    __slots__ = ("_starts",)

    def __init__(self, text: str) -> None:
        if "\r" in text:
            self._starts = [0, *(match.end() for match in _LINE_END.finditer(text))]
        else:
            lengths = map(len, text.split("\n"))
            self._starts = [0, *map(add, accumulate(lengths), count(1))][:-1]

    @property
    def starts(self) -> list[int]:
        """The offsets at which the lines begin; they are not to be changed."""
        return self._starts

    def __len__(self) -> int:
        return len(self._starts)

    def place(self, offset: int) -> Place:
        """Return the place of the character at `offset`."""
        row = bisect_right(self._starts, offset)
        return Place(row, offset - self._starts[row - 1] + 1)

    def line(self, offset: int) -> int:
        """Return the 1-based number of the line that contains `offset`."""
        return bisect_right(self._starts, offset)


def line_start(text: str, offset: int) -> int:
    """Return where the line that contains `offset` begins."""
    start = text.rfind("\n", 0, offset) + 1
    return max(start, text.rfind("\r", start, offset) + 1)  # no further back, or a page is gone through each time


def end_before(text: str, offset: int) -> int:
    """Return where what stands before `offset` ends: the white space right before that is passed over."""
    reach = _REACH
    while True:
        low = max(0, offset - reach)
        solid = text[low:offset].rstrip()
        if solid or low == 0:
            return low + len(solid)
        reach *= 4


def indent_before(text: str, offset: int) -> str | None:
    """Return the white space that alone is before `offset` on its line; None where something else does."""
    indent = text[line_start(text, offset) : offset]
    return indent if not indent.strip(" \t") else None


def line_indent(text: str, offset: int) -> str:
    """Return the white space that the line which contains `offset` begins with."""
    start = line_start(text, offset)
    line = text[start:offset]
    return line[: len(line) - len(line.lstrip(" \t"))]


def after_line_end(text: str, offset: int) -> int | None:
    """Return the offset behind the line end that follows `offset`, blanks between them passed over.

    None where other characters come first, or the text ends before a line does.
    """
    match = re.compile(r"[ \t]*(?:\r\n|\n|\r)").match(text, offset)
    return match.end() if match else None


def offset_at(text: str, line: int, column: int) -> int:
    """Return the offset of a place in a text as editors hold it, without its byte-order mark; both are 1-based.

    What lies outside the text means its nearest end.
    """
    starts = Lines(text).starts
    row = min(max(line, 1), len(starts)) - 1
    end = starts[row + 1] if row + 1 < len(starts) else len(text)
    mark = 1 if row == 0 and text.startswith("\ufeff") else 0
    last = starts[row] + len(text[starts[row] : end].rstrip("\r\n"))
    return min(starts[row] + mark + max(column, 1) - 1, last)


def offset_near(text: str, line: int, column: int) -> int:
    """Return the offset that a cursor means: what its line contains, where it is beside that."""
    at = offset_at(text, line, column)
    start = line_start(text, at)
    written = text[start:].partition("\n")[0].partition("\r")[0]
    first = len(written) - len(written.lstrip("\ufeff \t"))
    last = max(len(written.rstrip()) - 1, first)
    return start + min(max(at - start, first), last)
