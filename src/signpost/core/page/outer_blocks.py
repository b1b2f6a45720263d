"""Content told from furniture by what is known beside the page's own markup."""

from __future__ import annotations

import hashlib
from collections.abc import Collection, Sequence
from itertools import takewhile

from turbohtml import Document, Text
from turbohtml import Element as Parsed

from signpost.core.page.furniture import Marks
from signpost.core.page.marks import HEADINGS
from signpost.core.page.phrasing import collapse

#: How many blocks at each end of a body are compared with those of other pages.
_ENDS = 12
_UNSEEN = frozenset("script style template noscript".split())


def find_marked(tree: Document, marks: Marks) -> Parsed | None:
    """Return the element that the author marked as the content's; None where none is, or it is not there."""
    return _select(tree, marks.content)[0] if marks.content and _select(tree, marks.content) else None


def stated_furniture(tree: Document, marks: Marks) -> dict[Parsed, bool]:
    """Return the elements of which the author said whether they are furniture."""
    said = {parsed: True for selector in marks.furniture for parsed in _select(tree, selector)}
    said |= {parsed: False for selector in marks.own for parsed in _select(tree, selector)}
    return said


def outer_blocks(tree: Document) -> list[tuple[Parsed | None, str]]:
    """Return the elements right in the body, each with a digest of its words and addresses.

    Words that are in the body itself are there as None and "", for no block reaches across them; and so is what
    lies between the first and the last few blocks, for furniture is never so long.
    """
    body = tree.find("body")
    blocks: list[Parsed | None] = []
    for child in body.children if body is not None else ():
        if isinstance(child, Parsed):
            if child.tag not in _UNSEEN:
                blocks.append(child)
        elif isinstance(child, Text) and child.data.strip():
            blocks.append(None)
    if len(blocks) > 2 * _ENDS:
        blocks[_ENDS:-_ENDS] = [None]
    return [(block, "" if block is None else _digest(block)) for block in blocks]


def repeated_blocks(blocks: Sequence[tuple[Parsed | None, str]], repeated: Collection[str]) -> list[Parsed]:
    """Return the blocks at both ends of a body that other pages repeat.

    A heading ends the run, for it is the outline's own, and pages may well begin with the same words. What is most of
    a page does not count either, which then is a copy of another.
    """
    if not repeated:
        return []
    found: list[Parsed] = []
    for row in (blocks, list(reversed(blocks))):
        run = (parsed for parsed, _ in takewhile(lambda block: block[1] in repeated, row))
        found += takewhile(_is_no_heading, (parsed for parsed in run if parsed is not None))
    body = found[0].parent if found else None
    whole = len(body.text) if isinstance(body, Parsed) else 0
    return found if sum(len(parsed.text) for parsed in found) * 2 < whole else []


def _is_no_heading(parsed: Parsed) -> bool:
    return parsed.tag not in HEADINGS


def words_in(digest: str) -> int:
    """Return how many words outside links a block has, by its digest."""
    return int(digest.rpartition(":")[2] or 0)


def _digest(parsed: Parsed) -> str:
    """Return what a block says and leads to, as a short digest; the same for blocks that look the same.

    Behind a colon it counts the words outside links, by which a copy of a page is told from one with the same frame.
    """
    addresses = [str(link.attr("href") or "") for link in parsed.find_all("a")]
    images = [str(image.attr("src") or "") for image in parsed.find_all("img")]
    said = "\n".join([parsed.tag, collapse(parsed.text), *addresses, *images])
    linked = sum(len(link.text.split()) for link in parsed.find_all("a"))
    words = max(len(parsed.text.split()) - linked, 0)
    return f"{hashlib.sha256(said.encode('utf-8', 'replace')).hexdigest()[:16]}:{words}"


def _select(tree: Document, selector: str | None) -> list[Parsed]:
    """Return what a selector finds; nothing for an invalid one, since corrections must not harm a page."""
    try:
        return list(tree.select(selector or ""))
    except ValueError:
        return []
