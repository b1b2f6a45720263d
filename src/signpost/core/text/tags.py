"""The attributes of a start tag, where they are: HTML 13.2.5.32 to 13.2.5.40, the tokenizer's attribute states.

The parser knows this too, but answers slowly; links are many, and few of them are ever edited.
"""

from __future__ import annotations

import re
from dataclasses import dataclass
from functools import lru_cache
from html import escape, unescape
from html.entities import html5
from urllib.parse import quote as percent_encode

from signpost.core.text.edits import Edit, narrow_edit
from signpost.core.text.positions import Span

#: White space of HTML, which is ASCII's: other spaces are parts of names and values.
SPACE = " \t\n\f\r"
_TAG_NAME = re.compile(rf"<[^{SPACE}/>]*")
#: An attribute (HTML 13.2.5.32 to 13.2.5.40): its name, and its value in double, in single or in no quotes.
_ATTRIBUTE = re.compile(
    rf"[{SPACE}/]*(=?[^{SPACE}/>=]*)(?:[{SPACE}]*=[{SPACE}]*(?:\"([^\"]*)\"?|'([^']*)'?|([^{SPACE}>]*)))?"
)
_QUOTES = ("", "", '"', "'", "")  # by the group that a value is in
_UNQUOTED = re.compile(rf"[^{SPACE}\"'=<>`]+")
_WORD = re.compile(rf"[^{SPACE}]+")
#: What no address holds as it is written, though a value may (URL standard, 4.3), by the quotation marks around it.
_SWALLOWED = {'"': re.compile(r"[<>\n\r]"), "'": re.compile(r"[\"<>\n\r]"), "": re.compile(r"[\"']")}
_SWALLOWED_NAME = re.compile(rf"[{SPACE}]+[a-zA-Z-]+=\Z")
_SWALLOWED_FROM = re.compile(rf"""[{SPACE}"'<>]""")

#: Of how many tags the attributes are kept: rules ask of the same one several times in a row.
_TAGS_KEPT = 16

#: Attributes that contain identifiers of the same page, separated by white space (HTML 2.3.7, WAI-ARIA 1.2).
LISTS_OF_IDENTIFIERS = frozenset(
    """
    for headers list form itemref popovertarget commandfor aria-activedescendant aria-controls aria-describedby
    aria-details aria-errormessage aria-flowto aria-labelledby aria-owns
    """.split()
)


_REFERENCE = re.compile(r"&(?:#(?:[xX][0-9a-fA-F]+|[0-9]+);?|[A-Za-z][A-Za-z0-9]*;?)")
_LONGEST_NAME = max(map(len, html5))
#: Characters that the URL standard allows bare in a fragment; in a value without quotes, fewer (HTML 13.1.2.3).
_FRAGMENT_SAFE = "/?!$&'()*+,;=:@-._~"
_FRAGMENT_SAFE_BARE = "/?!$&()*+,;:@-._~"


@dataclass(frozen=True, slots=True)
class Attribute:
    """One attribute as written; of duplicates only the first counts."""

    name: str  # in lower case
    value: str  # character references resolved; "" where none is written
    span: Span  # of name, "=" and quoted value
    value_span: Span | None  # of the value without its quotes; None where none is written
    quote: str  # "'", '"' or ""


@lru_cache(_TAGS_KEPT)
def scan_attributes(text: str, start: int) -> tuple[Attribute, ...]:
    """Return the attributes of the start tag that begins at `start`, in order, duplicates left out."""
    found: dict[str, Attribute] = {}
    for attribute in scan_all_attributes(text, start):
        found.setdefault(attribute.name, attribute)
    return tuple(found.values())


@lru_cache(_TAGS_KEPT)
def scan_all_attributes(text: str, start: int) -> tuple[Attribute, ...]:
    """Return the attributes of the start tag that begins at `start`, in order, with those that do not count."""
    opened = _TAG_NAME.match(text, start)
    found: list[Attribute] = []
    at = opened.end() if opened else start
    while (one := _ATTRIBUTE.match(text, at)) is not None and one[1]:
        group, at = one.lastindex or 1, one.end()
        raw = one[group] if group > 1 else ""
        value = Span(*one.span(group)) if group > 1 else None
        decoded = decode_value(raw).text if "&" in raw else raw
        found.append(Attribute(one[1].lower(), decoded, Span(one.start(1), at), value, _QUOTES[group]))
    return tuple(found)


@dataclass(frozen=True, slots=True)
class Decoded:
    """A value with its character references resolved, and where each character is in it as written."""

    text: str
    starts: tuple[int, ...]  # offset in the written value of each character, and of the value's end


def decode_value(written: str) -> Decoded:
    """Return an attribute's value with its character references resolved (HTML 13.2.5.73).

    In an attribute, a name without a semicolon is none before "=", a letter or a digit: `?a=1&copy=2`.
    """
    if "&" not in written:
        return Decoded(written, tuple(range(len(written) + 1)))
    text: list[str] = []
    starts: list[int] = []
    at = 0
    for found in _REFERENCE.finditer(written):
        length, char = _resolve(found[0], written[found.end() : found.end() + 1])
        if found.start() < at or not length:
            continue
        text.append(written[at : found.start()])
        starts += range(at, found.start())
        text.append(char)
        starts += [found.start()] * len(char)
        at = found.start() + length
    text.append(written[at:])
    starts += range(at, len(written) + 1)
    return Decoded("".join(text), tuple(starts))


def _resolve(reference: str, behind: str) -> tuple[int, str]:
    """Return how much of what looks like a character reference is one, and what it stands for; 0 where it is none."""
    if reference[1] == "#":
        return len(reference), unescape(reference)
    if reference.endswith(";") and reference[1:] in html5:
        return len(reference), html5[reference[1:]]
    for length in range(min(len(reference), _LONGEST_NAME + 1), 1, -1):
        if reference[1:length] in html5:
            following = reference[length:] + behind
            legacy = following[:1] == "=" or following[:1].isalnum()
            return (0, "") if legacy else (length, html5[reference[1:length]])
    return 0, ""


def piece_edit(text: str, attribute: Attribute, piece: Span, new: str, reason: str) -> Edit | None:
    """Return the edit that replaces a piece of an attribute's value and leaves the rest as it is written.

    `piece` counts characters of the value with its character references resolved. None for an attribute without a
    value.
    """
    written = attribute.value_span
    if written is None:
        return None
    starts = decode_value(written.of(text)).starts
    start, end = written.start + starts[piece.start], written.start + starts[piece.end]
    return narrow_edit(start, text[start:end], _escaped(new, attribute.quote), reason)


def fragment_edit(text: str, attribute: Attribute, fragment: str, reason: str) -> Edit | None:
    """Return the edit that gives an address another fragment, percent-encoded; the rest stays as it is written.

    None for an address without "#".
    """
    value = attribute.value
    mark = value.find("#")
    if mark < 0:
        return None
    safe = _FRAGMENT_SAFE if attribute.quote else _FRAGMENT_SAFE_BARE
    piece = Span(mark + 1, max(mark + 1, len(value.rstrip(SPACE))))
    return piece_edit(text, attribute, piece, percent_encode(fragment, safe=safe), reason)


def path_edit(text: str, attribute: Attribute, path: str, reason: str) -> Edit | None:
    """Return the edit that gives an address another path, percent-encoded already; query and fragment stay."""
    value = attribute.value
    start = len(value) - len(value.lstrip(SPACE))
    end = min((at for at in (value.find("?"), value.find("#")) if at >= 0), default=len(value.rstrip(SPACE)))
    return piece_edit(text, attribute, Span(start, max(start, end)), path, reason)


def word_edits(text: str, attribute: Attribute, old: str, new: str, reason: str) -> list[Edit]:
    """Return the edits that replace a word in a list of words; the others and the spaces between stay."""
    words = (found for found in _WORD.finditer(attribute.value) if found[0] == old)
    edits = (piece_edit(text, attribute, Span(found.start(), found.end()), new, reason) for found in words)
    return [edit for edit in edits if edit is not None]


def _escaped(value: str, quote: str) -> str:
    """Return a value as it is written between its quotes, with as few character references as can be."""
    value = value.replace("&", "&amp;") if decode_value(value).text != value else value
    return value.replace(quote, "&#39;" if quote == "'" else "&quot;") if quote else value


#: A start tag whose attributes have nothing in their quotation marks that could be swallowed.
_WELL_QUOTED = re.compile(rf"<[^\s/>\"'<]+(?:[{SPACE}]+[^\s/>=<\"']+=\"[^\"<>\n\r]*\")*[{SPACE}]*/?>")


def is_well_quoted(text: str, start: int) -> bool:
    """Return whether all attributes of the start tag at `start` plainly have both of their quotation marks."""
    return _WELL_QUOTED.match(text, start) is not None


def find_missing_quote(text: str, attribute: Attribute) -> int | None:
    """Return where the quotation mark belongs that an address lacks; None where it lacks none.

    An address that contains a quotation mark, "<" or ">" or runs over a line has swallowed what is behind it; one
    that ends with the name of an attribute and "=" has swallowed that.
    """
    if attribute.value_span is None:
        return None
    written = attribute.value_span.of(text)
    if not _SWALLOWED[attribute.quote].search(written.strip(SPACE)):
        next_one = _SWALLOWED_NAME.search(written) if attribute.quote else None
        behind = text[attribute.span.end : attribute.span.end + 1]
        plain = next_one is None or behind in (*SPACE, "/", ">", "")
        return None if plain or next_one is None else attribute.value_span.start + next_one.start()
    if not attribute.quote:
        return attribute.value_span.start  # the mark that opens is missing: href=#a"
    found = _SWALLOWED_FROM.search(written, len(written) - len(written.lstrip(SPACE)))
    return attribute.value_span.start + (found.start() if found else len(written))


def value_edit(text: str, attribute: Attribute, value: str, reason: str) -> Edit:
    """Return the edit that gives an attribute another value, in its own quotes and with as little change as can be.

    A value without quotes gets double ones where the standard (HTML 13.1.2.3) wants quotes round the new one.
    """
    span, quote = attribute.value_span, attribute.quote
    if span is None:
        return Edit(attribute.span.end, attribute.span.end, f'="{escape(value)}"', reason=reason)
    as_it_is = decode_value(value).text == value
    bare = not quote and _UNQUOTED.fullmatch(value) and as_it_is
    plain = quote and quote not in value and as_it_is
    if bare or plain:
        written = value
    elif quote:
        written = escape(value)
    else:
        written = f'"{escape(value)}"'
    return narrow_edit(span.start, span.of(text), written, reason)


def removal(text: str, attribute: Attribute, reason: str) -> Edit:
    """Return the edit that takes an attribute out, with the white space before it."""
    return Edit(len(text[: attribute.span.start].rstrip(SPACE)), attribute.span.end, "", reason=reason)


def start_tag_end(text: str, start: int) -> int:
    """Return the offset behind the start tag that begins at `start`; a ">" within quotes does not end it."""
    attributes = scan_attributes(text, start)
    at = attributes[-1].span.end if attributes else start
    close = text.find(">", at)
    return len(text) if close < 0 else close + 1


#: A comment or a tag in a stretch of markup that is too short to be read by itself, as the tokenizer takes them (HTML
#: 13.2.5.6 to 13.2.5.41): quotation marks count only behind "=". With its slash and its name, where it is a tag.
MARKUP = re.compile(
    r"""<!--.*?-->|<(/?)([A-Za-z][^\s/>]*)(?:>|(?>[^>"'=]++|=\s*(?>"[^"]*"|'[^']*'|[^\s>"'][^\s>]*|)|["'])*+>)|<[!?/][^>]*>""",
    re.DOTALL,
)
COMMENT = re.compile(r"<!--.*?-->", re.DOTALL)


def without_markup(markup: str, stand_in: str = "") -> str:
    """Return the text between tags and comments, each of those replaced by `stand_in`; references stay as written."""
    return MARKUP.sub(stand_in, markup)
