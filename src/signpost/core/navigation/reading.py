"""Menus read as an author wrote them: a list, or links side by side, with what marks the page itself."""

from __future__ import annotations

import re
from collections import Counter
from dataclasses import dataclass
from itertools import pairwise

from signpost.core.addresses.links import path_of
from signpost.core.page import Element, Node, Nodes, Page, read_nodes
from signpost.core.site.site import Site
from signpost.core.text.positions import Span
from signpost.core.text.tags import without_markup

_LISTS = frozenset(["ul", "ol", "menu", "dir"])
_BARE = frozenset(["b", "strong", "span", "em"])
_REFERENCE = re.compile(r"&\w+;")
_WORD = re.compile(r"[^\W_]")
#: Of how many entries a menu consists at least.
FEWEST = 2


@dataclass(frozen=True, slots=True)
class MenuEntry:
    """An entry of a menu, as it is written."""

    path: str | None  # of the page that it leads to as a whole; None for one that leads anywhere else
    span: Span  # in the source
    words: str
    node: Node  # the item or the link


@dataclass(frozen=True, slots=True)
class Menu:
    """The entries of a block of links, in their order."""

    page: Page
    block: Element
    holder: Node  # the list, or what the links are right in
    entries: tuple[MenuEntry, ...]
    is_list: bool

    @property
    def order(self) -> list[str]:
        """The pages that it leads to."""
        return [entry.path for entry in self.entries if entry.path is not None]


def read_menu(site: Site, page: Page, element: Element) -> Menu | None:
    """Return the menu in a block of a page: its longest list, else its links side by side; None where it has none."""
    nodes = read_nodes(page)
    block = nodes.of(element)
    if block is None:
        return None
    lists = [node for node in (block, *nodes.below(block)) if node.tag in _LISTS]
    found = [_of_list(site, nodes, node, element) for node in lists]
    best = max(found, key=lambda menu: len(menu.order), default=None)
    if best is None or len(best.order) < FEWEST:
        best = _of_row(site, nodes, block)
    return best if best is not None and len(best.order) >= FEWEST else None


def _of_list(site: Site, nodes: Nodes, holder: Node, block: Element) -> Menu:
    page, entries = nodes.page, []
    for item in nodes.children(holder):
        if item.tag == "li":
            end = item.element.close.end if item.element.close else trimmed(page, item.start, item.element.end)
            inner = [
                node
                for node in nodes.below(item)
                if not any(above.tag in _LISTS and above.start > item.start for above in nodes.above(node))
            ]
            links = [node for node in inner if node.tag == "a" and "href" in node.attributes]
            path = _leads(site, page, links[0]) if links else page.path if item.text else None
            words = links[0].text if links else item.text
            entries.append(MenuEntry(path, Span(item.start, end), words, item))
    return Menu(page, block, holder, tuple(entries), is_list=True)


def trimmed(page: Page, start: int, end: int) -> int:
    """Return where a stretch of a page ends, white space at its end left out."""
    return start + len(page.text[start:end].rstrip())


def _of_row(site: Site, nodes: Nodes, block: Node) -> Menu | None:
    """Return links that stand side by side, with nothing but signs between them."""
    page = nodes.page
    holders = Counter(node.parent for node in nodes.below(block) if node.tag == "a" and "href" in node.attributes)
    best: Menu | None = None
    for parent, _ in holders.most_common():
        holder = nodes.all[parent]
        entries = []
        for node in nodes.children(holder):
            if node.tag == "a" and "href" in node.attributes:
                path = _leads(site, page, node)
            elif node.tag in _BARE and node.text and not any(below.tag == "a" for below in nodes.below(node)):
                path = page.path
            else:
                continue
            entries.append(MenuEntry(path, Span(node.start, node.element.end), node.text, node))
        if any(_WORD.search(_between(page, one, other)) for one, other in pairwise(entries)):
            continue
        menu = Menu(page, block.element, holder, tuple(entries), is_list=False)
        if best is None or len(menu.order) > len(best.order):
            best = menu
    return best


def _between(page: Page, one: MenuEntry, other: MenuEntry) -> str:
    return _REFERENCE.sub("", without_markup(page.text[one.span.end : other.span.start]))


def _leads(site: Site, page: Page, link: Node) -> str | None:
    """Return the page that a link leads to as a whole."""
    href = link.attributes.get("href") or ""
    found = site.resolve(page.path, href) if path_of(href) else None
    if found is None or found[1]:
        return None
    path = site.file_at(found[0])
    return path if path in site.pages else None
