"""What is wrong of a page's contents: entries and sections that do not match."""

from __future__ import annotations

from collections.abc import Iterator
from itertools import pairwise

from signpost.core.contents import ContentsBlock, Listed, State, find_blocks
from signpost.core.contents.blocks import entry_words
from signpost.core.page import Page
from signpost.core.page.outline import Section, read_outline

_MOST = 5  # sections that a message names


def find_faulty_entries(page: Page) -> Iterator[tuple[str, int, str]]:
    """Yield what is wrong with the contents of a page: a rule's code, the offset of a start tag, the reason."""
    if not page.made_blocks("contents"):
        return
    flat = read_outline(page).flat()
    for block in find_blocks(page):
        for one in block.listed:
            yield from _judge(flat, block, one)
        order = [one.section for one in block.listed if one.section is not None]
        start = block.made.element.open.start
        if any(after < before for before, after in pairwise(order)):
            yield "contents-out-of-date", start, "The entries are not in the order of their sections."
        if block.missing:
            yield "section-without-entry", start, _name_missing(flat, block)


def _judge(flat: list[Section], block: ContentsBlock, one: Listed) -> Iterator[tuple[str, int, str]]:
    at = block.span.start + one.entry.label.start
    words = f"The entry “{one.entry.words}”"
    title = entry_words(flat[one.section]) if one.section is not None else ""
    if one.state is State.STALE:
        change = f"its heading says “{title}”" if one.entry.words != title else "its address leads nowhere"
        yield "contents-out-of-date", at, f"{words} is out of date: {change}."
    elif one.state is State.DOUBTED:
        yield "entry-doubted", at, f"{words} was shortened by hand, and its heading has since changed: “{title}”."
    elif one.state in (State.GONE, State.OPEN):
        yield "entry-without-section", at, f"{words} does not lead to a section that these contents cover."


def _name_missing(flat: list[Section], block: ContentsBlock) -> str:
    names = [f"“{flat[index].text}”" for index in block.missing[:_MOST]]
    more = len(block.missing) - len(names)
    verb = "has" if len(block.missing) == 1 else "have"
    return f"{', '.join(names)}{f' and {more} more' if more else ''} {verb} no entry in these contents."
