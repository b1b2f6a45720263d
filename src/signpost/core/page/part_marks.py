"""The remarks by which a part of a page is known again: where its slice of the content begins and ends.

They are comments, so that files alone say what belongs together, whatever moved or renamed them:

    <!-- part 2 of 4 of handbook -->        what follows was made for the part: heading, links, opened elements
    <!-- part 2 begins -->                  the slice begins; not in part 1, where nothing is made before it
    <!-- part 2 of 4 of handbook ends; … --> the slice has ended; the rest says how the series was made
"""

from __future__ import annotations

import re
from collections.abc import Mapping
from dataclasses import dataclass, field

from signpost.core.text.positions import Span, after_line_end, indent_before, line_start

_HEAD = re.compile(r"<!-- part (\d{1,4}) of (\d{1,4}) of ([\w.~-]+) -->")
_BEGIN = re.compile(r"<!-- part (\d{1,4}) begins -->")
_END = re.compile(r"<!-- part (\d{1,4}) of (\d{1,4}) of ([\w.~-]+) ends((?:; [^;>]*)*) -->")
_SIGN = "<!-- part "


@dataclass(frozen=True, slots=True)
class PartMarks:
    """What a part's remarks say, and where they are."""

    number: int  # 1-based
    count: int  # of all parts
    series: str  # what all parts of one page are called together
    head: Span  # the first remark, with the line that it fills
    slice: Span  # the part's own piece of the content
    end: Span  # the last remark, with the line that it fills
    settings: Mapping[str, str] = field(default_factory=dict)  # how the series was made, by word


def read_part_marks(text: str) -> PartMarks | None:
    """Return a part's remarks; None for a page that is not a part, or whose remarks are not whole."""
    if _SIGN not in text:
        return None
    head, end = _HEAD.search(text), _END.search(text)
    if head is None or end is None or head.groups() != end.groups()[:3] or end.start() < head.end():
        return None
    number = int(head[1])
    start = _filled(text, head.span()).end
    if number > 1:
        begin = next((one for one in _BEGIN.finditer(text, head.end(), end.start()) if int(one[1]) == number), None)
        if begin is None:
            return None
        start = _filled(text, begin.span()).end
    ended = _filled(text, end.span())
    settings = {}
    for piece in end[4].split("; ")[1:]:
        word, _, rest = piece.partition(" ")
        settings[word] = _unescaped(rest)
    return PartMarks(
        number, int(head[2]), head[3], _filled(text, head.span()), Span(start, ended.start), ended, settings
    )


def head_mark(number: int, count: int, series: str) -> str:
    """Return the remark before what is made for a part."""
    return f"<!-- part {number} of {count} of {series} -->"


def begin_mark(number: int) -> str:
    """Return the remark at which a part's slice of the content begins."""
    return f"<!-- part {number} begins -->"


def end_mark(number: int, count: int, series: str, settings: Mapping[str, str]) -> str:
    """Return the remark at which a part's slice of the content has ended."""
    said = "".join(f"; {word} {_escaped(value)}".rstrip() for word, value in settings.items())
    return f"<!-- part {number} of {count} of {series} ends{said} -->"


def _filled(text: str, span: tuple[int, int]) -> Span:
    """Return a remark with its line, where it is alone on it."""
    start, end = span
    below = after_line_end(text, end)
    if below is not None and indent_before(text, start) is not None:
        return Span(line_start(text, start), below)
    return Span(start, end)


def _escaped(value: str) -> str:
    """Return words as a comment can contain them, in one piece: no ">", no ";", no "--" (HTML 13.1.6)."""
    return re.sub(r"[&;>%\r\n]|-(?=-)|-$", lambda found: f"%{ord(found[0]):02x}", value)


def _unescaped(value: str) -> str:
    return re.sub(r"%([0-9a-f]{2})", lambda found: chr(int(found[1], 16)), value)
