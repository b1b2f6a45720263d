"""What a long page could have and does not, for an overview of a site."""

from __future__ import annotations

from signpost.core.back_to_top.links import find_back_links
from signpost.core.contents import find_contents
from signpost.core.page import Page
from signpost.core.page.lengths import estimate_page, windows

#: From how many sections on a page wants contents, and from how many windows on links back.
_SECTIONS = 6
_WINDOWS = 3.0


def find_lacks(page: Page) -> tuple[str, ...]:
    """Return what a page lacks, each in a few words."""
    lacks = []
    nameless = sum(heading.identifier is None for heading in page.headings if heading.level > 1)
    if nameless:
        lacks.append(f"{nameless} without identifier")
    if len(page.headings) >= _SECTIONS and find_contents(page) is None:
        lacks.append("no contents")
    if windows(estimate_page(page)) > _WINDOWS and not find_back_links(page):
        lacks.append("no way back")
    return tuple(lacks)
