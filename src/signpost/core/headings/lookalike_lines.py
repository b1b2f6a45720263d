"""Lines that stand alone, and so may be headings: blocks, cells, and lines between breaks."""

from __future__ import annotations

import re
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from html import unescape

from signpost.core.page import Node, Nodes, Page
from signpost.core.page.phrasing import PHRASING
from signpost.core.text.positions import Span, end_before

_LONGEST = 90  # characters of a heading
_MOST_WORDS = 14
_FAR_LONGER = 3 * _LONGEST
#: Elements that are in a line with the words around them.
_LINED = PHRASING | {"img", "wbr", "a"}
#: Elements whose lines are never headings of the page: samples, lists, tables, captions, quotations, forms.
_SHUT = frozenset(
    """
    pre xmp listing code li dl ul ol menu table caption figure figcaption blockquote address form fieldset label
    button select textarea h1 h2 h3 h4 h5 h6 a object svg math video audio canvas details
    """.split()
)
_TAGS = re.compile(r"<!--.*?(?:-->|\Z)|<[^>]*>|&nbsp;|&#160;", re.DOTALL)
#: Elements that say a table is one of data, and those that text of a page is made of; words of a cell of text.
_OF_DATA = frozenset("th caption thead tfoot colgroup".split())
_OF_TEXT = frozenset("p h1 h2 h3 h4 h5 h6 ul ol dl blockquote pre hr table".split())
_LONG_CELL = 25

BOLD = frozenset(["b", "strong"])
#: Elements that only make words look like something, and go when the words become a heading.
WRAPPERS = BOLD | {"font", "big"}


@dataclass(frozen=True, slots=True)
class Run:
    """Words that are on a line of their own within a block."""

    block: Node
    span: Span  # of its markup, white space at its ends left out
    elements: tuple[Node, ...]  # outermost elements in it
    break_after: Node | None  # the `br` that ends it; None where the block does
    whole: bool  # whether the block contains nothing else
    text: str


def run_start(run: Run) -> int:
    """Return where a line begins: with its block's start tag where it is the block's only or first one."""
    first = run.whole or run.span.start == run.block.element.open.end
    return run.block.start if first and run.block.tag in ("p", "div", "table") else run.span.start


def find_runs(nodes: Nodes) -> Iterator[Run]:
    """Yield the lines of the content that could be headings by their length and place."""
    page = nodes.page
    shut: dict[int, bool] = {}  # of elements that were looked at, by index
    for node in nodes.all:
        if node.tag in PHRASING or (node.tag in _SHUT and node.tag != "table"):
            continue
        if node.element.end <= page.content.start or node.start >= page.content.end:
            continue
        if _is_within_shut(nodes, node, shut):
            continue
        if node.tag == "table":
            if not _is_layout(nodes, node) and (lone := _lone_cell(nodes, node)):
                yield lone
            continue
        if _is_long(nodes, node):
            continue
        for run in _lines(nodes, node):
            if is_short(run) and page.in_content(run.span.start) and not _in_made(page, run.span.start):
                yield run


def _is_long(nodes: Nodes, block: Node) -> bool:
    """Return whether a block is one line, of far more words than a heading has: as most paragraphs are."""
    length = block.element.end - block.start
    if length < _FAR_LONGER or any(child.tag not in _LINED for child in nodes.children(block)):
        return False
    return len(block.text.replace("\xa0", "")) > _FAR_LONGER


def _is_within_shut(nodes: Nodes, node: Node, known: dict[int, bool]) -> bool:
    """Return whether an element around a node shuts it out; `known` says so of those that were asked about."""
    if node.parent < 0:
        return False
    if node.parent not in known:
        above = nodes.all[node.parent]
        shut = above.tag in _SHUT and _is_shut(nodes, above)
        known[node.parent] = shut or _is_within_shut(nodes, above, known)
    return known[node.parent]


def _is_shut(nodes: Nodes, above: Node) -> bool:
    """Return whether an element shuts out what it contains.

    Not one that contains the content, nor an unclosed anchor, nor a table that only lays out the page.
    """
    if above.start < nodes.page.content.start or (above.tag == "a" and above.element.close is None):
        return False
    return not (above.tag == "table" and _is_layout(nodes, above))


def _is_layout(nodes: Nodes, table: Node) -> bool:
    """Return whether a table lays out a page: nothing says it is one of data, and a cell contains text or blocks."""
    if table.attributes.get("role") in ("presentation", "none"):
        return True
    below = nodes.below(table)
    if any(node.tag in _OF_DATA for node in below):
        return False
    cells = [node for node in below if node.tag == "td"]
    if any("headers" in cell.attributes or "scope" in cell.attributes for cell in cells):
        return False
    return any(len(cell.text.split()) >= _LONG_CELL or _holds_text(nodes, cell) for cell in cells)


def _holds_text(nodes: Nodes, cell: Node) -> bool:
    """Return whether a cell contains blocks as a page does, more than one paragraph."""
    blocks = [node for node in nodes.below(cell) if node.tag in _OF_TEXT]
    return len(blocks) > 1 or any(node.tag != "p" for node in blocks)


def _in_made(page: Page, offset: int) -> bool:
    return any(made.element.open.start <= offset < made.element.end for made in page.made)


def is_short(run: Run) -> bool:
    """Return whether a line is as short as headings are."""
    return 0 < len(run.text) <= _LONGEST and len(run.text.split()) <= _MOST_WORDS


def _lone_cell(nodes: Nodes, table: Node) -> Run | None:
    """Return the words of a table that has a single cell and nothing but words in it."""
    cells = [node for node in nodes.below(table) if node.tag in ("td", "th")]
    if len(cells) != 1 or any(node.tag == "table" for node in nodes.below(table)):
        return None
    lines = list(_lines(nodes, cells[0]))
    if len(lines) != 1 or not lines[0].whole or not is_short(lines[0]):
        return None
    return replace(lines[0], block=table)


def _lines(nodes: Nodes, block: Node) -> Iterator[Run]:
    """Yield the lines of words right within a block, as `br` and other blocks part them."""
    text = nodes.page.text
    inner = nodes.inner(block)
    content = nodes.page.content
    start, end = inner.start, inner.end
    if block.start < content.start:
        start = max(start, content.start)
        end = min(end, content.end)
    pieces: list[Node] = []
    at, lines, other = start, [], False
    children = [child for child in nodes.children(block) if start <= child.start < end]
    for child in [*children, None]:
        inline = child is not None and child.tag in _LINED and not _holds_blocks(nodes, child)
        if child is not None and inline:
            pieces.append(child)
            continue
        stop = end if child is None else child.start
        run = _run(text, block, Span(at, stop), pieces, child if child is not None and child.tag == "br" else None)
        if run:
            lines.append(run)
        pieces = []
        other = other or (child is not None and child.tag != "br")
        at = stop if child is None else child.element.open.end if child.tag == "br" else child.element.end
    for line in lines:
        yield replace(line, whole=len(lines) == 1 and not other)


def _holds_blocks(nodes: Nodes, node: Node) -> bool:
    return any(below.tag not in _LINED and below.tag != "br" for below in nodes.below(node))


def _run(text: str, block: Node, span: Span, pieces: Sequence[Node], break_after: Node | None) -> Run | None:
    raw = span.of(text)
    words = " ".join(_visible(text, span, pieces).split())
    if not words:
        return None
    start = span.start + len(raw) - len(raw.lstrip())
    end = span.start + len(raw.rstrip())
    kept = list(pieces)
    while kept and not kept[-1].text and kept[-1].tag == "a" and not text[kept[-1].element.end : end].strip():
        end = end_before(text, kept.pop().start)  # an empty anchor behind the words marks what comes next
    return Run(block, Span(start, end), tuple(kept), break_after, whole=False, text=words)


def _visible(text: str, span: Span, pieces: Sequence[Node]) -> str:
    """Return the words of a line: those of its elements, and between them those of the source."""
    words: list[str] = []
    at = span.start
    for piece in pieces:
        words += (between(text[at : piece.start]), piece.text)
        at = piece.element.end
    return "".join([*words, between(text[at : span.end])])


def between(raw: str) -> str:
    """Return the text in a piece of markup, its references decoded."""
    if "<" not in raw and "&" not in raw:
        return raw
    tags_end = raw.rfind(">") + 1  # so that none is looked for up to the end, again and again
    return unescape(_TAGS.sub("", raw[:tags_end]) + _TAGS.sub("", raw[tags_end:].replace("<", "&lt;")))
