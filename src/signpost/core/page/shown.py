"""The characters that a reader sees, where they are written, and other words in their place."""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import dataclass
from difflib import SequenceMatcher
from html import escape, unescape

from signpost.core.page.phrasing import PHRASING
from signpost.core.text.edits import Edit, edits_between, splice
from signpost.core.text.positions import Span

_PIECE = re.compile(
    r"<!--.*?-->|</?([A-Za-z][^\s/>]*)(?:\"[^\"]*\"|'[^']*'|[^'\">])*>|&(?:#?\w+);?|[^<&]|.", re.DOTALL
)
_EMPTIED = re.compile(r"<(abbr|b|big|cite|code|em|i|kbd|mark|small|strong|sub|sup|tt|u|var)></\1>", re.IGNORECASE)
_WORD = re.compile(r"\s+|\S+")


@dataclass(frozen=True, slots=True)
class Shown:
    """A character that a reader sees, and where it is written."""

    char: str
    span: Span


def word_edits_between(text: str, inner: Span, old: str, new: str, reason: str) -> list[Edit] | None:
    """Return the edits that make `new` of the words `old` between two tags, touching the words that differ.

    Tags in between stay. None where the words in the markup are not `old`.
    """
    chars = shown_characters(text, inner)
    if "".join(char.char for char in chars) != old:
        return None
    if not chars:
        return [Edit(inner.start, inner.start, escape(new, quote=False), reason=reason)]
    before, after = _WORD.findall(old), _WORD.findall(new)
    starts = [0]
    for word in before:
        starts.append(starts[-1] + len(word))
    edits: list[Edit] = []
    for kind, a_from, a_to, b_from, b_to in SequenceMatcher(None, before, after, autojunk=False).get_opcodes():
        if kind != "equal":
            replaced = chars[starts[a_from] : starts[a_to]]
            at = chars[starts[a_from] - 1].span.end if a_from else chars[0].span.start
            edits += _replace(text, replaced, at, escape("".join(after[b_from:b_to]), quote=False), reason)
    return _without_emptied(text, inner, edits, reason)


def _without_emptied(text: str, inner: Span, edits: list[Edit], reason: str) -> list[Edit]:
    """Return the edits, or where they leave emphasis around nothing, those that remove it as well."""
    was = inner.of(text)
    becomes = splice(text, inner, edits)
    tidy = _EMPTIED.sub("", becomes)
    if tidy == becomes or _EMPTIED.search(was):
        return edits
    return edits_between(was, tidy, inner.start, reason)


def _replace(text: str, chars: list[Shown], at: int, new: str, reason: str) -> list[Edit]:
    """Return the edits that write `new` for characters that markup may part: into the first stretch of them."""
    stretches: list[Span] = []
    for char in chars:
        gap = text[stretches[-1].end : char.span.start] if stretches else "<"
        if stretches and "<" not in gap and not gap.strip():
            stretches[-1] = Span(stretches[-1].start, char.span.end)
        elif char.span.start < char.span.end:
            stretches.append(char.span)
    if not stretches:
        return [Edit(at, at, new, reason=reason)]
    first, *others = stretches
    return [
        Edit(first.start, first.end, new, reason=reason),
        *(Edit(span.start, span.end, "", reason=reason) for span in others),
    ]


def shown_characters(text: str, inner: Span) -> list[Shown]:
    """Return the characters that a reader sees between two offsets, white space collapsed, with where they are."""
    return list(_collapsed(_characters(text, inner)))


def _characters(text: str, inner: Span) -> Iterator[Shown]:
    """Yield the characters between two offsets; tags that begin a line of their own give an empty space."""
    for piece in _PIECE.finditer(text, inner.start, inner.end):
        written = piece[0]
        span = Span(piece.start(), piece.end())
        if piece[1]:
            if piece[1].lower() not in PHRASING:
                yield Shown(" ", Span(span.end, span.end))
        elif written.startswith("<!--"):
            continue
        elif written[0] == "&" and len(written) > 1:
            decoded = unescape(written)
            yield Shown(decoded[0], span)
            for char in decoded[1:]:
                yield Shown(char, Span(span.end, span.end))
        else:
            yield Shown(written, span)


def _collapsed(chars: Iterator[Shown]) -> Iterator[Shown]:
    """Yield characters with each run of white space made one space, none at the ends; its span covers the run's."""
    waiting: Shown | None = None
    begun = False
    for char in chars:
        if char.char.isspace():
            waiting = waiting or Shown(" ", char.span)
            continue
        if waiting and begun:
            yield waiting
        waiting, begun = None, True
        yield char
