"""All elements of a page in tree order: for the rules that look closer than the page's facts do.

Read when asked for, since most pages of a site never are.
"""

from __future__ import annotations

from bisect import bisect_left
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property
from itertools import accumulate

from turbohtml import Element as Parsed
from turbohtml import Text

from signpost.core.page.facts import Element, Page
from signpost.core.page.kept import kept_at_hand
from signpost.core.page.marks import size
from signpost.core.page.markup import FORMATTING, VOID, Markup, Written, markup_of, tokens_of
from signpost.core.page.phrasing import DROPPED, PHRASING, collapse, stand_in
from signpost.core.page.tokens import Tokens
from signpost.core.text.positions import Span
from signpost.core.text.tags import start_tag_end

_NOWHERE: Written = (0, 0, 0)


@dataclass(slots=True, eq=False)
class Node:
    """An element that its author wrote, in its place in the tree; what is asked of few is made when asked for."""

    index: int  # among all nodes, in tree order
    tag: str  # in lower case
    start: int  # where its start tag begins
    parent: int  # index of the nearest written element around it; -1 for none
    until: int  # index behind its last descendant
    _parsed: Parsed
    _where: Written | Element
    _pieces: list[str]  # of all words of the stretch, shared by its nodes
    _begin: int  # of its own ones
    _end: int
    _text: str | None = None
    _attributes: Mapping[str, str] | None = None

    @property
    def element(self) -> Element:
        """Where it is."""
        if not isinstance(self._where, Element):
            opened, close, end = self._where
            closed = None if close < 0 else Span(close, end)
            self._where = Element(self.tag, Span(self.start, opened), closed, end)
        return self._where

    @property
    def bare(self) -> bool:
        """Whether words are in it directly, outside its child elements."""
        if self.tag in DROPPED:
            return False
        return any(isinstance(child, Text) and not child.data.isspace() for child in self._parsed.children)

    @property
    def has_words(self) -> bool:
        """Whether its text is anything; they are not put together for that."""
        if self.tag == "img" or self._text is not None:
            return bool(self.text)
        pieces = map(self._pieces.__getitem__, range(self._begin, self._end))
        return any(piece and not piece.isspace() for piece in pieces)

    @property
    def text(self) -> str:
        """Its words, white space collapsed; of a picture, its `alt`."""
        if self._text is None:
            words = self.attributes.get("alt", "") if self.tag == "img" else self._pieces[self._begin : self._end]
            self._text = collapse("".join(words))
        return self._text

    @property
    def attributes(self) -> Mapping[str, str]:
        """Its attributes, character references resolved, classes joined by spaces."""
        if self._attributes is None:
            self._attributes = {
                name: " ".join(value) if isinstance(value, list) else str(value or "")
                for name, value in self._parsed.attrs.items()
            }
        return self._attributes

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
            (node for node in self.all if node.has_words and self.page.in_content(node.start)),
            key=lambda node: node.start,
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
        return next((node for node in self._up_from(offset + 1) if offset < node.element.end), None)

    def around(self, offset: int) -> Node | None:
        """Return the innermost element between whose tags `offset` is, at their edges too; None where none is."""
        return next((node for node in self._up_from(offset) if self._holds(node, offset)), None)

    def _holds(self, node: Node, offset: int) -> bool:
        inner = self.inner(node)
        return inner.start <= offset <= inner.end and node.element.end >= offset

    def _up_from(self, offset: int) -> Iterator[Node]:
        """Yield the last element that begins before `offset`, and those around it, innermost first."""
        index = bisect_left(self._reached, offset) - 1
        if index >= 0:
            yield self.all[index]
            yield from self.above(self.all[index])

    @cached_property
    def _reached(self) -> Sequence[int]:
        """The furthest start up to each element; those that the parser moves ahead of a table begin behind others."""
        return list(accumulate((node.start for node in self.all), max))

    def of(self, element: Element) -> Node | None:
        """Return the node of an element of the page's facts."""
        return next((node for node in self.all if node.element.open == element.open), None)

    def inner(self, node: Node) -> Span:
        """Return the span between a node's tags."""
        element = node.element
        return Span(element.open.end, element.close.start if element.close else element.end)


@kept_at_hand
def read_nodes(page: Page) -> Nodes:
    """Return all elements of a page that its author wrote, in tree order.

    What is in templates is left out: it is not a part of the document (HTML 4.12.3). A body whose tags are left out
    is there with an empty start tag, so that words right in it stand in something.
    """
    where = markup_of(page)
    html = where.tree.find("html")
    body = Element("body", Span(page.content.start, page.content.start), None, page.content.end)
    return Nodes(page, [] if html is None else _Walk(where, tokens_of(page), body).read(html))


def read_formatting(page: Page) -> list[tuple[int, tuple[str, ...]]]:
    """Return the start of each element that an author wrote, and the formatting elements that it is in.

    In the order of the source. Formatting elements that are left open reach further than they are written (HTML
    13.2.4.3), which only the tree tells.
    """
    where = markup_of(page)
    found = []
    for parsed in where.tree.descendants:
        start = where.start(parsed) if isinstance(parsed, Parsed) else -1
        if isinstance(parsed, Parsed) and start >= 0:
            above = (one.tag for one in parsed.ancestors if isinstance(one, Parsed))
            found.append((start, tuple(tag for tag in above if tag in FORMATTING)))
    return sorted(found)


def read_markup(text: str) -> list[Node]:
    """Return the elements of a stretch of markup that is in a body, in tree order; offsets are the stretch's."""
    where = Markup(text)
    html = where.tree.find("html")
    return [] if html is None else _Walk(where, Tokens(text), None).read(html)


class _Walk:
    """A walk over a subtree, whose descendants come as one flat list: an element ends where one is not in it."""

    def __init__(self, where: Markup, tokens: Tokens, body: Element | None) -> None:
        self.where = where
        self.tokens = tokens
        self.body = body  # where one is whose tags are left out
        self.nodes: list[Node] = []
        self.pieces: list[str] = []
        self.around: list[Parsed] = []  # the elements that are open
        self.written: list[Node | None] = []  # what each of them is to its author; None for what a browser put in
        self.innermost = -1  # index of the written one that is open innermost
        self.ends = [0]  # where what is written within each of the open written ones ends
        self.hidden = 0  # of the open ones, how many show nothing

    def read(self, top: Parsed) -> list[Node]:
        """Return the elements of a subtree that an author wrote, in tree order."""
        around, pieces = self.around, self.pieces
        skipped_until = 0  # what is in templates is no part of the document
        for place, one in enumerate((top, *top.descendants)):
            kind = type(one)
            if (kind is not Text and kind is not Parsed) or place < skipped_until:
                continue
            parent = one.parent
            while around and around[-1] is not parent:
                self._close()
            if kind is Parsed:
                self._open(one)  # type: ignore[arg-type]
                if one.tag == "template":  # type: ignore[attr-defined]
                    skipped_until = place + 1 + size(one)
            elif not self.hidden:
                pieces.append(one.data)  # type: ignore[attr-defined]
        while around:
            self._close()
        return self.nodes

    def _open(self, one: Parsed) -> None:
        tag, pieces = one.tag, self.pieces
        if (tag not in PHRASING or tag == "img") and not self.hidden:
            pieces.append(stand_in(one))
        start = self.where.written_start(one)
        node = None
        if start >= 0 or (tag == "body" and self.body is not None):
            at = self.body if start < 0 and self.body is not None else _NOWHERE
            index, begin = len(self.nodes), len(pieces)
            start = at.open.start if isinstance(at, Element) else start
            node = Node(index, tag, start, self.innermost, index + 1, one, at, pieces, begin, begin)
            self.nodes.append(node)
            self.innermost = index
            self.ends.append(0)
        self.around.append(one)
        self.written.append(node)
        if tag in DROPPED:
            self.hidden += 1

    def _close(self) -> None:
        parsed, node = self.around.pop(), self.written.pop()
        if parsed.tag in DROPPED:
            self.hidden -= 1
        if node is None:
            return
        self.innermost = node.parent
        end, left_open = self._end(node, self.ends.pop())
        if left_open and node.parent >= 0 and self.nodes[node.parent].tag in PHRASING:
            end = self.where.end  # an end tag behind it may be passed over
        self.ends[-1] = max(self.ends[-1], end)

    def _end(self, node: Node, inner: int) -> tuple[int, bool]:
        """Note of a node all of which was read where it is; return where it ends, and whether it has no end tag."""
        node.until, node._end = len(self.nodes), len(self.pieces)
        if isinstance(node._where, Element):
            return node._where.end, False
        at = self.where.written(self.tokens, node._parsed, node.tag, node.start, inner) or self.where.element(
            node._parsed
        )
        if at is None:  # what a browser made again of an element whose first one is in the tree no longer
            opened = start_tag_end(self.where.text, node.start)
            at = opened, -1, opened
        node._where = at
        if isinstance(at, Element):
            return at.end, at.close is None and node.tag not in VOID
        return at[2], False
