"""Back-to-top links: links in a page's content that lead to its top or its contents, made by us or by hand."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass
from html import unescape

from signpost.core.addresses.fragments import TOP, Top, find_indicated
from signpost.core.addresses.links import LinkKind
from signpost.core.contents import find_contents
from signpost.core.contents.phrases import heads_contents
from signpost.core.page import Link, Node, Nodes, Page, Target, read_nodes
from signpost.core.page.outline import section_marked
from signpost.core.page.placing import block_end
from signpost.core.text.positions import Span
from signpost.core.text.tags import COMMENT, start_tag_end, without_markup

#: Scripts in an address that scroll to the top.
_SCROLLS = re.compile(r"javascript:\s*(?:window\s*\.\s*)?scroll(?:To)?\s*\(\s*0\s*,\s*0\s*\)", re.IGNORECASE)
#: Words of links that lead up, in the languages that we have words for.
_UP = re.compile(
    r"\b(?:top|up|back|start|begin(?:ning)?|contents?|index|menu|oben|anfang|inhalt|haut|sommaire|d.but|arriba|inicio|"
    r"inizio|alto|topo|boven|omhoog|upp|toppen|alkuun|yl.s|nahoru|g.ry|su)\b",
    re.IGNORECASE,
)
_SOLID = re.compile(r"\S")
#: Words before a place that is still near the page's top, and how long they are with their markup.
_NEAR = 30
_LONGEST_WORD = 60
#: What is around such a link and says nothing by itself.
_ORNAMENTS = re.compile(r"[\s\[\](){}|^↑⇧▲△·•*–—\-_=~:.]*")
#: Elements that may contain a back-to-top link and nothing else.
_BOXES = frozenset("p div center span font small b strong em i table tbody tr td li ul dl dt dd nav h5 h6".split())
#: Elements that show something without words.
_SHOWN = re.compile(
    r"<(?:img|input|iframe|object|embed|video|audio|svg|canvas|button|select|textarea)\b", re.IGNORECASE
)


@dataclass(frozen=True, slots=True)
class BackLink:
    """A link that leads back."""

    link: Link
    span: Span  # of it with all that is around it and says nothing by itself
    made: bool  # whether we made it, or adopted it
    alone: bool  # whether it is between blocks, not within words


def find_back_links(page: Page) -> list[Link]:
    """Return the links in the page's content that lead back to its top or to its contents, in source order."""
    made = {link.start for block in page.made_blocks("back-to-top") for link in block.links}
    listed = {link.start for block in page.made_blocks("contents") for link in block.links}
    upward = _Upward(page)

    def is_back_link(link: Link) -> bool:
        if link.start in made or link.href is None:
            return link.start in made
        return upward.is_led_by(link, link.href) and link.start not in listed and page.in_content(link.start)

    return [link for link in page.links if is_back_link(link)]


class _Upward:
    """Where the top of a page is, for its links; what was asked once is known."""

    def __init__(self, page: Page) -> None:
        self.page = page
        self.targets = page.index_targets()
        self.contents = find_contents(page)
        self.led: dict[str, Target | Top | None] = {}  # where addresses lead on the page
        self.judged: dict[int, tuple[bool, bool]] = {}  # by where a target is

    def is_led_by(self, link: Link, href: str) -> bool:
        """Return whether a link with this address leads up."""
        if link.kind is LinkKind.OTHER:
            return _SCROLLS.match(href.strip()) is not None
        if link.kind not in (LinkKind.FRAGMENT, LinkKind.PLACEHOLDER, LinkKind.PAGE) or not href.strip():
            return False
        if link.kind is LinkKind.PLACEHOLDER and not says_up(link):
            return False  # a destination that was never filled in
        if href not in self.led:
            self.led[href] = self._indicated(href)
        found = self.led[href]
        if not isinstance(found, Target) or found.start >= link.start:
            return found is TOP
        if found.start not in self.judged:
            self.judged[found.start] = self._judge(found)
        opens, high = self.judged[found.start]
        return opens or (high and says_up(link))

    def _indicated(self, href: str) -> Target | Top | None:
        resolved = self.page.resolve(href)
        if resolved is None or resolved[0] != self.page.path or resolved[1] is None:
            return None
        return find_indicated(resolved[1], self.targets)

    def _judge(self, found: Target) -> tuple[bool, bool]:
        """Return whether a target opens the page or its contents, and whether it is high on the page."""
        contents = self.contents
        listed = contents is not None and contents.element.open.start <= found.start < contents.element.end
        high = is_near_top(self.page, found) or heads_list(self.page, found)
        return listed or opens_page(self.page, found), high


def says_up(link: Link) -> bool:
    """Return whether a link's words are of going up, or it has none that could say something else."""
    return _UP.search(link.text) is not None or says_nothing(link.text)


def opens_page(page: Page, target: Target) -> bool:
    """Return whether a target is at the page's top, before all that its content shows."""
    first = page.headings[0] if page.headings else None
    opens = first is not None and first.words_before == 0 and target.start == first.element.open.start
    return (
        opens or target.start < page.content.start or not _SOLID.search(page.text, page.content.start, target.start)
    )


def is_near_top(page: Page, target: Target) -> bool:
    """Return whether a target is so near the page's top that a link there leads back up."""
    if target.start >= page.content.end:
        return False
    first = next((one for one in page.headings if one.level == 1), None)
    if first is not None and first is page.headings[0] and first.begin <= target.start < first.element.end:
        return True
    if target.start - page.content.start >= _NEAR * _LONGEST_WORD:
        return False
    headed = any(one.element.open.start < target.start and one.level > 1 for one in page.headings)
    before = page.text[page.content.start : target.start]
    return not headed and len(unescape(without_markup(before, " ")).split()) <= _NEAR


def is_top_mark(page: Page, target: Target) -> bool:
    """Return whether a target is the body itself, or an empty mark before all that the body shows."""
    if page.body_start is not None and target.start == page.body_start:
        return True
    if target.element not in ("a", "span") or page.body_start is None or target.start < page.body_start:
        return False
    between = page.text[start_tag_end(page.text, page.body_start) : target.start]
    return not COMMENT.sub("", between).strip()


def heads_list(page: Page, target: Target) -> bool:
    """Return whether a target is the heading of a list of the page's sections, such as “Contents”."""
    section = section_marked(page, target.start)
    return section is not None and heads_contents(page.headings[section].text)


def read_back_links(page: Page, links: Sequence[Link] | None = None) -> list[BackLink]:
    """Return the back-to-top links with what is around them, in source order."""
    links = find_back_links(page) if links is None else links
    if not links:
        return []
    nodes = read_nodes(page)
    made = {link.start: block.element for block in page.made_blocks("back-to-top") for link in block.links}
    by_start = {node.start: node for node in nodes.all if node.tag in ("a", "area")}
    back_links = []
    for link in links:
        box = made.get(link.start)
        if box is not None:
            back_links.append(BackLink(link, Span(box.open.start, block_end(box)), made=True, alone=True))
        elif link.start in by_start:
            back_links.append(_around(page, nodes, by_start[link.start], link))
    return back_links


def _around(page: Page, nodes: Nodes, node: Node, link: Link) -> BackLink:
    """Return a link with the elements around it that contain nothing else."""
    outer = node
    for above in nodes.above(node):
        if above.tag not in _BOXES or above.start < page.content.start or not _holds_only(page, above, node):
            break
        outer = above
    span = Span(outer.start, block_end(outer.element))
    if outer is node:
        parent = next(nodes.above(node), None)
        alone = parent is None or (not parent.bare and parent.tag not in ("p", "li", "td", "dd"))
        return BackLink(link, span, made=False, alone=alone)
    return BackLink(
        link, span, made=False, alone=outer.tag not in ("span", "font", "small", "b", "strong", "em", "i")
    )


def _holds_only(page: Page, box: Node, node: Node) -> bool:
    """Return whether an element shows nothing but a link and ornaments."""
    element = box.element
    end = element.close.start if element.close else element.end
    before = page.text[element.open.end : node.start]
    after = page.text[block_end(node.element) : end]
    return all(says_nothing(text) for text in (before, after))


def says_nothing(markup: str) -> bool:
    """Return whether a stretch of markup shows a reader nothing but rules and ornaments."""
    if _SHOWN.search(markup):
        return False
    return _ORNAMENTS.fullmatch(unescape(without_markup(markup))) is not None
