"""All elements of a page in tree order: for the rules that look closer than the page's facts do.

Read when asked for, since most pages of a site never are.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property

from turbohtml import Element as Parsed
from turbohtml import Text

from signpost.core.page.facts import Element, Page
from signpost.core.page.kept import kept_for_last_pages
from signpost.core.page.locator import Locator
from signpost.core.page.phrasing import collapse, plain_text
from signpost.core.text.positions import Span

_UNSEEN = frozenset("script style template".split())
#: HTML 13.2.4.3, the list of active formatting elements.
_FORMATTING = frozenset("a b big code em font i nobr s small strike strong tt u".split())


@dataclass(frozen=True, slots=True)
class Node:
    """An element that its author wrote, in its place in the tree."""

    index: int  # among all nodes, in tree order
    element: Element
    attributes: Mapping[str, str]  # character references resolved, classes joined by spaces
    parent: int  # index of the nearest written element around it; -1 for none
    until: int  # index behind its last descendant
    text: str  # its words, white space collapsed; of a picture, its `alt`
    bare: bool  # whether words are in it directly, outside its child elements

    @property
    def tag(self) -> str:
        """The element's tag, in lower case."""
        return self.element.tag

    @property
    def start(self) -> int:
        """Where its start tag begins."""
        return self.element.open.start

    @property
    def classes(self) -> frozenset[str]:
        """Its classes, in lower case."""
        return frozenset(self.attributes.get("class", "").lower().split())


@dataclass(frozen=True)
class Nodes:
    """The elements of a page."""

    page: Page
    all: Sequence[Node]

    @cached_property
    def anchors(self) -> Sequence[Node]:
        """The anchors that have a `name` or an `id`, in source order."""
        named = (node for node in self.all if node.tag == "a")
        return sorted(
            (node for node in named if node.attributes.get("name") or node.attributes.get("id")),
            key=lambda node: node.start,
        )

    @cached_property
    def worded(self) -> Sequence[Node]:
        """The elements of the page's content that have words, in source order."""
        return sorted(
            (node for node in self.all if node.text and self.page.in_content(node.start)), key=lambda node: node.start
        )

    def children(self, node: Node) -> Iterator[Node]:
        """Yield the elements right below a node."""
        at = node.index + 1
        while at < node.until:
            yield self.all[at]
            at = self.all[at].until

    def below(self, node: Node) -> Sequence[Node]:
        """Return all elements below a node, in tree order."""
        return self.all[node.index + 1 : node.until]

    def above(self, node: Node) -> Iterator[Node]:
        """Yield the elements around a node, innermost first."""
        while node.parent >= 0:
            node = self.all[node.parent]
            yield node

    def at(self, offset: int) -> Node | None:
        """Return the innermost element that contains `offset`; None where none does."""
        found = None
        for node in self.all:
            if node.start > offset:
                break
            if offset < node.element.end:
                found = node
        return found

    def of(self, element: Element) -> Node | None:
        """Return the node of an element of the page's facts."""
        return next((node for node in self.all if node.element.open == element.open), None)

    def inner(self, node: Node) -> Span:
        """Return the span between a node's tags."""
        element = node.element
        return Span(element.open.end, element.close.start if element.close else element.end)


#: For how many pages all elements are kept; they take many times the room of a page's facts.
_PAGES_KEPT = 4


@kept_for_last_pages(_PAGES_KEPT)
def read_nodes(page: Page) -> Nodes:
    """Return all elements of a page that its author wrote, in tree order.

    What is in templates is left out: it is not a part of the document (HTML 4.12.3). A body whose tags are left out
    is there with an empty start tag, so that words right in it stand in something.
    """
    where = Locator(page.text)
    nodes: list[Node] = []
    html = where.tree.find("html")
    if html is not None:
        body = Element("body", Span(page.content.start, page.content.start), None, page.content.end)
        _read(where, html, body, nodes)
    return Nodes(page, nodes)


def read_formatting(page: Page) -> list[tuple[int, tuple[str, ...]]]:
    """Return the start of each element that an author wrote, and the formatting elements that it is in.

    In the order of the source. Formatting elements that are left open reach further than they are written (HTML
    13.2.4.3), which only the tree tells.
    """
    where = Locator(page.text)
    found = []
    for parsed in where.tree.descendants:
        start = where.start(parsed) if isinstance(parsed, Parsed) else -1
        if isinstance(parsed, Parsed) and start >= 0:
            above = (one.tag for one in parsed.ancestors if isinstance(one, Parsed))
            found.append((start, tuple(tag for tag in above if tag in _FORMATTING)))
    return sorted(found)


def read_markup(text: str) -> list[Node]:
    """Return the elements of a stretch of markup that is in a body, in tree order; offsets are the stretch's."""
    where = Locator(text)
    nodes: list[Node] = []
    html = where.tree.find("html")
    if html is not None:
        _read(where, html, None, nodes)
    return nodes


def _read(where: Locator, top: Parsed, body: Element | None, nodes: list[Node]) -> None:
    """Add a subtree; without recursion, for markup nests as deep as it likes."""
    path: list[tuple[Parsed, int, int]] = []  # elements that are open, with their own index and their parent's
    pending: list[Parsed | None] = [top]
    while pending:
        parsed = pending.pop()
        if parsed is None:
            _, index, _ = path.pop()
            if index >= 0:
                node = nodes[index]
                nodes[index] = _closed(node, len(nodes))
            continue
        parent = next((index for _, index, _ in reversed(path) if index >= 0), -1)
        element = where.element(parsed)
        if element is None and parsed.tag == "body":
            element = body
        index = -1
        if element is not None:
            index = len(nodes)
            nodes.append(_node(parsed, element, index, parent))
        path.append((parsed, index, parent))
        pending.append(None)
        if parsed.tag != "template":
            pending += [child for child in reversed(parsed.children) if isinstance(child, Parsed)]


def _node(parsed: Parsed, element: Element, index: int, parent: int) -> Node:
    attributes = {
        name: " ".join(value) if isinstance(value, list) else str(value or "") for name, value in parsed.attrs.items()
    }
    unseen = parsed.tag in _UNSEEN
    text = "" if unseen else collapse(attributes.get("alt", "")) if parsed.tag == "img" else plain_text(parsed)
    bare = not unseen and any(isinstance(child, Text) and child.data.strip() for child in parsed.children)
    return Node(index, element, attributes, parent, index + 1, text, bare)


def _closed(node: Node, until: int) -> Node:
    return Node(node.index, node.element, node.attributes, node.parent, until, node.text, node.bare)
