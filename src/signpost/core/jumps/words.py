"""Words of a page that browsers open it at: whether they are there, and first where they are meant."""

from __future__ import annotations

import re
from collections.abc import Iterator

from signpost.core.page import Nodes, Page, read_nodes
from signpost.core.page.outline import read_outline, section_of_place
from signpost.core.page.phrasing import collapse
from signpost.core.page.shown import shown_characters
from signpost.core.text.errors import RequestError
from signpost.core.text.positions import Span

_UNSEEN = frozenset("head noscript script style template textarea title".split())


def check_words(page: Page, section: int | None, words: str) -> None:
    """Check that browsers find words on a page, and first in the section that is meant (Text Fragments, 3.5).

    Letters may differ in case, as they may for browsers. Raises RequestError that says what to do.
    """
    wanted = collapse(words)
    first = next(_find_words(page, wanted), None)
    if first is None:
        raise RequestError(f"“{wanted}” is not on {page.path}. Copy the words as they stand there, whole words only.")
    if section is not None and not _is_within(page, section_of_place(page, first), section):
        line = page.source.lines.line(first)
        raise RequestError(
            f"“{wanted}” is also in line {line} of {page.path}, outside this section, and browsers open the first "
            "place. Choose words that only this section has."
        )


def _find_words(page: Page, words: str) -> Iterator[int]:
    """Yield the offsets where readers see whole words."""
    nodes = read_nodes(page)
    chars = shown_characters(page.text, Span(page.body_start or 0, len(page.text)))
    shown = "".join(char.char for char in chars)
    for found in re.finditer(rf"(?<!\w){re.escape(words)}(?!\w)", shown, re.IGNORECASE):
        at = chars[found.start()].span.start
        if _is_seen(nodes, at):
            yield at


def _is_seen(nodes: Nodes, offset: int) -> bool:
    holder = nodes.at(offset)
    return holder is None or not any(node.tag in _UNSEEN for node in (holder, *nodes.above(holder)))


def _is_within(page: Page, section: int, whole: int) -> bool:
    """Return whether a section is another one or within it."""
    sections = read_outline(page).flat()
    at: int | None = section
    while at is not None and at >= 0:
        if at == whole:
            return True
        at = sections[at].parent
    return False
