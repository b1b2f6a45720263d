"""All addresses that a page's markup has, where they are written: for pages that move to another folder."""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import dataclass
from html import unescape

from signpost.core.page import Node, Page, read_nodes
from signpost.core.text.edits import Edit, narrow_edit
from signpost.core.text.lines import equal_ends
from signpost.core.text.positions import Span
from signpost.core.text.tags import SPACE, Attribute, piece_edit, value_edit

#: Attributes that are one address (HTML, attributes index; those of old, and of SVG).
_SINGLE = frozenset(
    """
    href src action formaction cite longdesc data poster background xlink:href manifest lowsrc dynsrc
    """.split()
)
_LISTS = frozenset(["srcset", "imagesrcset"])
#: What a `meta` tells those who show a link to the page, by its `property` or `name`, where that is an address.
_SHARED = frozenset(
    """
    og:url og:image og:image:url og:image:secure_url og:audio og:video twitter:image twitter:player
    """.split()
)
_CANDIDATE = re.compile(rf"[{SPACE},]*([^{SPACE}]+)([^,]*)")
_CSS_URL = re.compile(r"url\(\s*(\"[^\"]*\"|'[^']*'|[^\"')\s]*)\s*\)|@import\s+(\"[^\"]*\"|'[^']*')", re.IGNORECASE)
_CSS_COMMENT = re.compile(r"/\*.*?(?:\*/|$)", re.DOTALL)
_VALUE = re.compile(rf"=[{SPACE}]*(?:\"([^\"]*)\"|'([^']*)'|([^{SPACE}>\"']+))")
_ADDRESSED = tuple(sorted(_SINGLE | _LISTS | {"content", "style"}))
_LONGEST_NAME = max(map(len, _ADDRESSED)) + 4  # and a little white space
_PIECES = re.compile(rf"[{SPACE},;=()]+")
_REFRESH = re.compile(
    rf"^[{SPACE}]*[\d.]*[{SPACE}]*[;,]?[{SPACE}]*(?:url[{SPACE}]*=[{SPACE}]*)?[\"']?", re.IGNORECASE
)
_ABOUT_DATA = re.compile(r"\s*(?:data|javascript|about|blob):", re.IGNORECASE)


@dataclass(frozen=True, slots=True)
class WrittenAddress:
    """An address where it is written."""

    node: Node  # the element that has it
    name: str  # of the attribute; "style" for one within style rules
    value: str  # character references resolved, white space around it left out
    attribute: Attribute | None  # None for one within a `style` element
    piece: Span  # of the value: characters of the attribute's value with references resolved, else of the page's text

    def path_edit(self, text: str, path: str, fragment: str | None, reason: str) -> Edit | None:
        """Return the edit that gives the address another path; query and fragment stay, or `fragment` is added.

        Both are percent-encoded already.
        """
        end = min((at for at in (self.value.find("?"), self.value.find("#")) if at >= 0), default=len(self.value))
        start = self.piece.start
        if self.attribute is None:
            tail = "" if fragment is None else "#" + fragment
            return narrow_edit(start, text[start : start + end], path + tail, reason)
        old, new = (
            (self.value[:end], path) if fragment is None else (self.value, f"{path}{self.value[end:]}#{fragment}")
        )
        head, foot = equal_ends(old, new)  # what stays is not written again, whatever references it is written with
        piece = Span(start + head, start + len(old) - foot)
        return piece_edit(text, self.attribute, piece, new[head : len(new) - foot], reason)

    def value_edit(self, text: str, value: str, reason: str) -> Edit:
        """Return the edit that writes another address in its place, query and fragment included."""
        if self.attribute is None:
            return narrow_edit(self.piece.start, self.value, value, reason)
        made = piece_edit(text, self.attribute, self.piece, value, reason)
        if made is None:  # references in it cannot be told apart
            return value_edit(text, self.attribute, self.attribute.value.replace(self.value, value), reason)
        return made


def read_written(page: Page, within: Span | None = None) -> Iterator[WrittenAddress]:
    """Yield all addresses of a page's markup, in tree order; those of its style rules too, those of scripts never.

    With a span, only those of elements that begin `within` it.
    """
    for node in read_nodes(page).all:
        if within is not None and not within.start <= node.start < within.end:
            continue
        if node.tag == "style" and page.text:
            inner = read_nodes(page).inner(node)
            for found in _CSS_URL.finditer(page.text, inner.start, inner.end):
                yield from _in_css(node, found, None)
        names = node.attributes.keys()
        if names & _SINGLE or names & _LISTS or "style" in names or node.tag == "meta":
            for attribute in page.attributes_at(node.start):
                yield from _in_attribute(node, attribute)


def _in_attribute(node: Node, attribute: Attribute) -> Iterator[WrittenAddress]:
    name, value = attribute.name, attribute.value
    if attribute.value_span is None:
        return
    if name in _SINGLE:
        start = len(value) - len(value.lstrip(SPACE))
        if not _ABOUT_DATA.match(value):
            yield WrittenAddress(node, name, value.strip(SPACE), attribute, _reaching(start, value.strip(SPACE)))
    elif name in _LISTS:
        for found in _CANDIDATE.finditer(value):
            written = found[1].rstrip(",")
            if not _ABOUT_DATA.match(written):
                yield WrittenAddress(node, name, written, attribute, _reaching(found.start(1), written))
    elif name == "style":
        for found in _CSS_URL.finditer(value):
            yield from _in_css(node, found, attribute)
    elif (
        name == "content"
        and node.tag == "meta"
        and _SHARED
        & {
            node.attributes.get("property", "").lower(),
            node.attributes.get("name", "").lower(),
        }
    ):
        start = len(value) - len(value.lstrip(SPACE))
        yield WrittenAddress(node, name, value.strip(SPACE), attribute, _reaching(start, value.strip(SPACE)))
    elif name == "content" and node.tag == "meta" and node.attributes.get("http-equiv", "").lower() == "refresh":
        lead = _REFRESH.match(value)
        start = lead.end() if lead else 0
        written = value[start:].rstrip(SPACE + "\"'")
        if written:
            yield WrittenAddress(node, name, written, attribute, _reaching(start, written))


def _in_css(node: Node, found: re.Match[str], attribute: Attribute | None) -> Iterator[WrittenAddress]:
    group = 1 if found[1] is not None else 2
    quoted = found[group][:1] in ("'", '"')
    value = found[group][1:-1] if quoted else found[group]
    if value and not _ABOUT_DATA.match(value):
        yield WrittenAddress(node, "style", value, attribute, _reaching(found.start(group) + quoted, value))


def loose_addresses(text: str) -> set[str]:
    """Return what may be an address anywhere in a page's source, references resolved: quick, and never too little.

    What stands in comments and scripts is among them; `read_written` says which are addresses indeed.
    """
    found = set()
    for one in _VALUE.finditer(text):
        name = text[max(one.start() - _LONGEST_NAME, 0) : one.start()]
        if not name.rstrip(SPACE).lower().endswith(_ADDRESSED):
            continue
        value = unescape(one[1] or one[2] or one[3] or "")
        found.add(value.strip(SPACE))
        if "," in value or ";" in value or "=" in value or "(" in value:
            found |= {piece.strip("\"'") for piece in _PIECES.split(value)}
            found |= {candidate[1].rstrip(",") for candidate in _CANDIDATE.finditer(value)}
    lowered = text.lower()
    for one in _CSS_URL.finditer(text) if "url(" in lowered or "@import" in lowered else ():
        found.add((one[1] or one[2] or "").strip("\"'"))
    found.discard("")
    return found


def read_sheet_addresses(text: str) -> Iterator[tuple[Span, str]]:
    """Yield the addresses of a style sheet with where they are written, those in comments left out.

    One that is written with escapes is left out too (CSS Syntax 4.3.7).
    """
    bare = _CSS_COMMENT.sub(lambda found: " " * len(found[0]), text)
    for found in _CSS_URL.finditer(bare):
        group = 1 if found[1] is not None else 2
        quoted = found[group][:1] in ("'", '"')
        value = found[group][1:-1] if quoted else found[group]
        if value and "\\" not in value and not _ABOUT_DATA.match(value):
            yield _reaching(found.start(group) + quoted, value), value


def _reaching(start: int, value: str) -> Span:
    return Span(start, start + len(value))
