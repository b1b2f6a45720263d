"""The indentation of a stretch of lines made to follow its elements, with nothing changed that a reader sees."""

from __future__ import annotations

import re
from bisect import bisect_right
from itertools import pairwise

from signpost.core.page import Page, read_edited, read_nodes
from signpost.core.page.habits import read_habits
from signpost.core.page.nodes import Node, Nodes
from signpost.core.page.phrasing import PHRASING
from signpost.core.text.edits import Edit, EditSet, edit_set
from signpost.core.text.errors import RequestError
from signpost.core.text.tags import COMMENT

#: Elements whose text is kept as it is written (HTML 13.1.2, 15.5.12), or is not text of the page.
_KEPT = frozenset("listing plaintext pre script style svg math textarea title xmp".split())
#: Elements whose lines stay below their start tag, as lines of a paragraph do.
_FLAT = PHRASING | frozenset("body dd dt h1 h2 h3 h4 h5 h6 html p".split())
_INDENT = re.compile(r"[ \t]*")
_STEP = "  "  # where the author indents nothing


def plan_tidied(page: Page, first: int, last: int) -> EditSet:
    """Return the edits that indent the lines `first` to `last`, 1-based, by the elements that they are in.

    The first line stays where it is, and gives the others their measure. White space at the beginning of lines is all
    that changes, and none where it counts: in samples, scripts, comments, and within tags. Raises RequestError where
    the page would be understood otherwise.
    """
    starts = [*page.source.lines.starts, len(page.text)]
    first, last = max(first, 1), min(last, len(starts) - 1)
    nodes = read_nodes(page)
    step = read_habits(page).indent or _STEP
    comments = [found.span() for found in COMMENT.finditer(page.text)]
    edits: list[Edit] = []
    base: tuple[int, str] | None = None
    for begin, end in list(pairwise(starts))[first - 1 : last]:
        indent = _INDENT.match(page.text, begin, end)
        at = indent.end() if indent else begin
        if not page.text[at:end].strip() or _is_kept(nodes, comments, begin, at):
            continue
        depth = _depth(nodes, begin, at)
        if base is None:
            base = (depth, page.text[begin:at])
            continue
        wanted = _shifted(base[1], step, depth - base[0])
        if wanted != page.text[begin:at]:
            edits.append(Edit(begin, at, wanted, reason="indentation"))
    found = edit_set(page.source, edits)
    after = read_edited(page, found)
    if _seen(after) != _seen(page):
        raise RequestError(
            "Tidying these lines would change how the page is understood, so they stay as they are. "
            "Correct the end tags in them first."
        )
    return found


def _is_kept(nodes: Nodes, comments: list[tuple[int, int]], begin: int, at: int) -> bool:
    """Return whether the white space at the beginning of a line is a part of a tag, a comment or a sample."""
    index = bisect_right(comments, (begin, len(nodes.page.text))) - 1
    if index >= 0 and comments[index][0] < begin < comments[index][1]:
        return True
    around = nodes.at(begin)
    chain = [] if around is None else [around, *nodes.above(around)]
    if any(_keeps_space(node) and node.element.open.end <= begin for node in chain):
        return True
    return any(
        node.start < begin < node.element.open.end or node.start < at < node.element.open.end for node in chain
    )


def _keeps_space(node: Node) -> bool:
    """Return whether white space within an element shows, by its tag or by its own `style`."""
    return node.tag in _KEPT or "white-space" in (node.attributes.get("style") or "").lower()


def _depth(nodes: Nodes, begin: int, at: int) -> int:
    """Return how many elements a line is in that were begun on earlier lines; its own end tags do not count."""
    around = nodes.at(at)
    chain: list[Node] = [] if around is None else [around, *nodes.above(around)]
    text = nodes.page.text
    depth = 0
    for node in chain:
        if node.tag in _FLAT or node.start >= begin:
            continue
        close = node.element.close
        depth += not (close is not None and close.start == at and text.startswith("</", at))
    return depth


def _shifted(indent: str, step: str, by: int) -> str:
    if by >= 0:
        return indent + step * by
    for _ in range(-by):
        indent = indent.removesuffix(step) if indent.endswith(step) else indent[: -len(step)]
    return indent


def _seen(page: Page) -> list[tuple[str, str, tuple[tuple[str, str], ...]]]:
    """Return what a page's elements are, say and carry, white space collapsed."""
    return [(node.tag, node.text, tuple(node.attributes.items())) for node in read_nodes(page).all]
