"""All addresses that a page's markup has, where they are written: for pages that move to another folder."""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import dataclass

from signpost.core.page import Node, Page, read_nodes
from signpost.core.text.edits import Edit, narrow_edit
from signpost.core.text.lines import equal_ends
from signpost.core.text.positions import Span
from signpost.core.text.tags import SPACE, Attribute, piece_edit

#: Attributes that are one address (HTML, attributes index; those of old, and of SVG).
_SINGLE = frozenset(
    """
    href src action formaction cite longdesc data poster background xlink:href manifest lowsrc dynsrc
    """.split()
)
_LISTS = frozenset(["srcset", "imagesrcset"])
_CANDIDATE = re.compile(rf"[{SPACE},]*([^{SPACE}]+)([^,]*)")
_CSS_URL = re.compile(r"url\(\s*(\"[^\"]*\"|'[^']*'|[^\"')\s]*)\s*\)|@import\s+(\"[^\"]*\"|'[^']*')", re.IGNORECASE)
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


def read_written(page: Page) -> Iterator[WrittenAddress]:
    """Yield all addresses of a page's markup, in tree order; those of its style rules too, those of scripts never."""
    for node in read_nodes(page).all:
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


def _reaching(start: int, value: str) -> Span:
    return Span(start, start + len(value))
