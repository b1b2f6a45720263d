"""The attributes of a start tag, where they stand: HTML 13.2.5.32 to 13.2.5.40, the tokenizer's attribute states.

The parser knows this too, but answers slowly; links are many, and few of them are ever edited.
"""

from __future__ import annotations

import re
from dataclasses import dataclass
from html import escape, unescape

from signpost.core.edits import Edit, narrowed
from signpost.core.positions import Span

_TAG_NAME = re.compile(r"<[^\s/>]*")
_GAP = re.compile(r"[\s/]*")
_NAME = re.compile(r"=?[^\s/>=]*")
_EQUALS = re.compile(r"[ \t\n\f\r]*=[ \t\n\f\r]*")
_UNQUOTED = re.compile(r"[^\s\"'=<>`]+")
_BARE = re.compile(r"[^\s>]*")

#: Attributes that hold identifiers of the same page, separated by white space (HTML 2.3.7, WAI-ARIA 1.2).
LISTS_OF_IDENTIFIERS = frozenset(
    """
    for headers list form itemref popovertarget commandfor aria-activedescendant aria-controls aria-describedby
    aria-details aria-errormessage aria-flowto aria-labelledby aria-owns
    """.split()
)


@dataclass(frozen=True, slots=True)
class Attribute:
    """One attribute as written; of duplicates only the first counts."""

    name: str  # in lower case
    value: str  # character references resolved; "" where none is written
    span: Span  # of name, "=" and quoted value
    value_span: Span | None  # of the value without its quotes; None where none is written
    quote: str  # "'", '"' or ""


def scan_attributes(text: str, start: int) -> tuple[Attribute, ...]:
    """Return the attributes of the start tag that begins at `start`, in order, duplicates left out."""
    opened = _TAG_NAME.match(text, start)
    found: dict[str, Attribute] = {}
    at = opened.end() if opened else start
    while True:
        at = _GAP.match(text, at).end()  # type: ignore[union-attr]
        if at >= len(text) or text[at] == ">":
            return tuple(found.values())
        name = _NAME.match(text, at)
        begin, at = at, name.end() if name else at + 1
        equals = _EQUALS.match(text, at)
        value, quote = None, ""
        end = at
        if equals:
            value, quote, end = _scan_value(text, equals.end())
            at = end
        spelled = text[begin : name.end() if name else at].lower()
        raw = value.of(text) if value else ""
        found.setdefault(spelled, Attribute(spelled, unescape(raw), Span(begin, end), value, quote))


def value_edit(text: str, attribute: Attribute, value: str, reason: str) -> Edit:
    """Return the edit that gives an attribute another value, in its own quotes and with as little change as can be.

    A value without quotes gets double ones where the standard (HTML 13.1.2.3) wants quotes round the new one.
    """
    span, quote = attribute.value_span, attribute.quote
    if span is None:
        return Edit(attribute.span.end, attribute.span.end, f'="{escape(value)}"', reason=reason)
    bare = not quote and _UNQUOTED.fullmatch(value) and unescape(value) == value
    plain = quote and quote not in value and unescape(value) == value
    if bare or plain:
        written = value
    elif quote:
        written = escape(value)
    else:
        written = f'"{escape(value)}"'
    return narrowed(span.start, span.of(text), written, reason)


def _scan_value(text: str, at: int) -> tuple[Span, str, int]:
    """Return a value's span, its quote, and where the attribute ends."""
    quote = text[at : at + 1]
    if quote in ('"', "'") and quote:
        close = text.find(quote, at + 1)
        close = len(text) if close < 0 else close
        return Span(at + 1, close), quote, min(close + 1, len(text))
    bare = _BARE.match(text, at)
    end = bare.end() if bare else at
    return Span(at, end), "", end


def start_tag_end(text: str, start: int) -> int:
    """Return the offset behind the start tag that begins at `start`; a ">" within quotes does not end it."""
    attributes = scan_attributes(text, start)
    at = attributes[-1].span.end if attributes else start
    close = text.find(">", at)
    return len(text) if close < 0 else close + 1
