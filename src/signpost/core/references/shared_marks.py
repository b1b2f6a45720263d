"""How a copy of a block marks its own page among the links: read, taken off, and put on another copy."""

from __future__ import annotations

import re
from collections.abc import Collection, Iterator, Sequence
from dataclasses import dataclass

from signpost.core.addresses.links import path_of
from signpost.core.page import Element, Node, Nodes, Page, read_nodes
from signpost.core.page.habits import read_habits
from signpost.core.site.site import Site
from signpost.core.text.edits import Edit
from signpost.core.text.positions import Span
from signpost.core.text.tags import Attribute, removal, value_edit

_ITEMS = frozenset(["li", "td", "dd", "dt"])
_BARE = frozenset(["b", "strong", "span", "em"])
_SPACE = re.compile(r"\s+")


@dataclass(frozen=True, slots=True)
class Mark:
    """How a block marks the page that it is on: on the link that leads there, or instead of it."""

    current: str | None = None  # the value of `aria-current`
    classes: tuple[str, ...] = ()  # of the link
    item_classes: tuple[str, ...] = ()  # of the list item that it is in
    bare: str = ""  # the element that has the words where the page is not linked; "" where it is

    def __bool__(self) -> bool:
        return self != Mark()


def links_of(page: Page, element: Element) -> Iterator[Node]:
    """Yield the links of a block, as elements."""
    nodes = read_nodes(page)
    for node in nodes.all:
        if element.open.end <= node.start < element.end and node.tag == "a" and "href" in node.attributes:
            yield node


@dataclass(frozen=True, slots=True)
class Linked:
    """What the copies of a block lead to, all of them together."""

    words: frozenset[tuple[str, str]]  # pages, with the words of links to them
    classes: frozenset[
        tuple[str, str]
    ]  # pages, with the classes of links from other pages, and of those links' items
    places: frozenset[tuple[str, str]]  # pages and fragments, of links from other pages


def read_linked(site: Site, places: Sequence[tuple[Page, Element]]) -> Linked:
    """Return what the copies of a block lead to, by their pages and elements."""
    words, fragments, classes = set(), set(), set()
    for page, element in places:
        nodes = read_nodes(page)
        for node in links_of(page, element):
            href = node.attributes.get("href") or ""
            resolved = site.resolve(page.path, href)
            if resolved is None or not path_of(href):
                continue
            path = site.file_at(resolved[0])
            if resolved[1]:
                fragments.add((path, resolved[1]))
            else:
                words.add((path, _plain(node.text)))
                if path != page.path:
                    holders = (node, item_of(nodes, node, element))
                    classes |= {(path, word) for one in holders if one is not None for word in _classes(one)}
    return Linked(frozenset(words), frozenset(classes), frozenset(fragments))


def _plain(words: str) -> str:
    return _SPACE.sub(" ", words).strip().casefold()


def read_mark(site: Site, page: Page, element: Element, linked: Linked) -> tuple[Mark, list[Edit]]:
    """Return how a copy marks its own page, and the edits that take the mark off."""
    nodes = read_nodes(page)
    links = list(links_of(page, element))
    owns = [node for node in links if _leads_to(site, page, node, page.path)]
    if not owns:
        return _read_bare(page, element, nodes, linked)
    usual = {word for path, word in linked.classes if path == page.path}
    for own in owns:
        others = [node for node in links if node not in owns]
        item = item_of(nodes, own, element)
        items = [
            found for node in others if (found := item_of(nodes, node, element)) is not None and found is not item
        ]
        mark = Mark(
            own.attributes.get("aria-current"),
            _own_classes(own, others, usual),
            () if item is None else _own_classes(item, items, usual),
        )
        if mark:
            return mark, _unmarked(page, own, item, mark)
    return Mark(), []


def _unmarked(page: Page, own: Node, item: Node | None, mark: Mark) -> list[Edit]:
    edits = []
    if mark.current is not None:
        edits.append(_without(page, own, "aria-current"))
    edits += _without_classes(page, own, mark.classes)
    if item is not None:
        edits += _without_classes(page, item, mark.item_classes)
    return [edit for edit in edits if edit is not None]


def _read_bare(page: Page, element: Element, nodes: Nodes, linked: Linked) -> tuple[Mark, list[Edit]]:
    """Return the mark of a page that its copy does not link to: an element with the words that others link with."""
    for node in nodes.all:
        if not element.open.end <= node.start < element.end or node.tag not in _BARE or node.element.close is None:
            continue
        inside = any(above.tag == "a" for above in nodes.above(node))
        if not inside and (page.path, _plain(node.text)) in linked.words:
            tag = node.element
            start = read_habits(page).start("a", href=f"site:{page.path}")
            inner = Span(tag.open.end, tag.close.start if tag.close else tag.end).of(page.text)
            link = Edit(tag.open.start, tag.end, f"{start}{inner}</a>")
            return Mark(bare=Span(tag.open.start, tag.open.end).of(page.text)), [link]
    return Mark(), []


def _leads_to(site: Site, page: Page, node: Node, path: str) -> bool:
    """Return whether a link leads to a page as a whole."""
    href = node.attributes.get("href") or ""
    found = site.resolve(page.path, href) if path_of(href) else None
    return found is not None and not found[1] and site.file_at(found[0]) == path


def item_of(nodes: Nodes, node: Node, element: Element) -> Node | None:
    """Return the list item or cell within a block that a link is in; None where it is in none."""
    return next(
        (above for above in nodes.above(node) if above.tag in _ITEMS and above.start > element.open.start), None
    )


def _classes(node: Node) -> list[str]:
    return (node.attributes.get("class") or "").split()


def _own_classes(node: Node, others: Sequence[Node], usual: Collection[str]) -> tuple[str, ...]:
    """Return the classes that one element alone has among others of its kind, and that are not usual for it."""
    taken = {word for other in others for word in _classes(other)} | set(usual)
    return tuple(word for word in _classes(node) if word not in taken)


def _without(page: Page, node: Node, name: str) -> Edit | None:
    written = page.attribute_at(node.start, name)
    return None if written is None else removal(page.text, written, "")


def _without_classes(page: Page, node: Node, classes: Sequence[str]) -> list[Edit]:
    written = page.attribute_at(node.start, "class")
    if written is None or not classes:
        return []
    left = " ".join(word for word in written.value.split() if word not in classes)
    return [value_edit(page.text, written, left, "") if left else removal(page.text, written, "")]


def mark_edits(page: Page, own: Node, item: Node | None, mark: Mark) -> Iterator[Edit]:
    """Yield the edits that mark a link of a block."""
    habits = read_habits(page)
    if mark.bare:
        tag = own.element
        name = re.match(r"<\s*([A-Za-z]+)", mark.bare)
        inner = Span(tag.open.end, tag.close.start if tag.close else tag.end).of(page.text)
        yield Edit(tag.open.start, tag.end, f"{mark.bare}{inner}</{name[1] if name else 'b'}>")
        return
    added = "" if mark.current is None else " " + habits.attribute("aria-current", mark.current)
    yield from _with_classes(page, own, mark.classes, added)
    if item is not None:
        yield from _with_classes(page, item, mark.item_classes, "")


def to_be_marked(site: Site, page: Page, element: Element, path: str) -> Node | None:
    """Return the link to a page that is marked on that page: of several, the last, after the site's name."""
    return next((node for node in reversed([*links_of(page, element)]) if _leads_to(site, page, node, path)), None)


def _with_classes(page: Page, node: Node, classes: Sequence[str], added: str) -> Iterator[Edit]:
    written: Attribute | None = page.attribute_at(node.start, "class")
    if classes and written is not None:
        yield value_edit(page.text, written, " ".join([*written.value.split(), *classes]), "")
    elif classes:
        added = " " + read_habits(page).attribute("class", " ".join(classes)) + added
    if added:
        last = max((one.span.end for one in page.attributes_at(node.start)), default=node.start + 1 + len(node.tag))
        yield Edit(last, last, added, rank=1)
