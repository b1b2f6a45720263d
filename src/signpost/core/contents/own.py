"""Which contents are the page's: one answer for its stage, the site's table, findings and plans."""

from __future__ import annotations

import re
from dataclasses import dataclass

from signpost.core.addresses.links import LinkKind
from signpost.core.contents.blocks import ContentsBlock, find_blocks, find_contents
from signpost.core.contents.handmade import Handmade, find_main_handmade
from signpost.core.page import Page
from signpost.core.page.kept import kept_with_page

_MOST_BETWEEN = 200  # letters from one entry of a list to the next, its own words included
_MOST_MARKUP = 2000  # the same with tags
_TAG = re.compile(r"<[^<>]*>")
_FEWEST_JUMPS = 3  # on a page for it to have a list of contents made by hand


@dataclass(frozen=True, slots=True)
class PageContents:
    """The contents of a page."""

    blocks: tuple[ContentsBlock, ...]  # that we made or adopted, those of single sections too, in source order
    handmade: Handmade | None  # the author's own list of the whole page; None where one of ours lists it
    called: bool  # whether the author has a list that is called contents, whatever it lists

    @property
    def whole(self) -> ContentsBlock | None:
        """The first of ours that lists the whole page."""
        return next((block for block in self.blocks if block.home is None), None)

    @property
    def lists_page(self) -> bool:
        """Whether something lists the whole page; what lists one section alone does not."""
        return self.whole is not None or self.handmade is not None or self.called


@kept_with_page
def read_page_contents(page: Page) -> PageContents:
    """Return the contents of a page."""
    blocks = tuple(find_blocks(page))
    if any(block.home is None for block in blocks):
        return PageContents(blocks, None, called=False)
    handmade = find_main_handmade(page)
    if handmade is not None and any(
        block.span.start < handmade.span.end and handmade.span.start < block.span.end for block in blocks
    ):
        handmade = None  # adopted, as the list of one section
    called = not blocks and find_contents(page) is not None
    return PageContents(blocks, handmade, called)


def has_contents(page: Page) -> bool:
    """Return whether a page has contents in which one can jump; most have none, and are not looked through."""
    return (has_row(page) or bool(page.made_blocks("contents"))) and read_page_contents(page).lists_page


def has_row(page: Page, least: int = _FEWEST_JUMPS) -> bool:
    """Return whether there are so many jump links with little between them, as in a list of contents."""
    row, last = 0, -_MOST_BETWEEN
    for link in page.links:
        if link.kind not in (LinkKind.FRAGMENT, LinkKind.PLACEHOLDER):
            continue
        near = link.start - last < _MOST_MARKUP
        between = _TAG.sub("", page.text[last : link.start]) if near else ""
        row = row + 1 if near and len(between) <= _MOST_BETWEEN else 1
        if row >= least:
            return True
        last = link.start
    return False
