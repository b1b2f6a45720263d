"""What a long page could have and does not, for an overview of a site."""

from __future__ import annotations

from signpost.core.back_to_top.links import find_back_links
from signpost.core.contents.own import has_contents
from signpost.core.findings.options import PageLimits
from signpost.core.page import Page
from signpost.core.page.lengths import estimate_page, windows


def find_lacks(page: Page, limits: PageLimits) -> tuple[str, ...]:
    """Return what a page lacks, each in a few words."""
    lacks = []
    nameless = sum(heading.identifier is None for heading in page.headings if heading.level > 1)
    if nameless:
        lacks.append(f"{nameless} without identifier")
    if len(page.headings) >= limits.sections and not has_contents(page):
        lacks.append("no contents")
    if windows(estimate_page(page)) >= limits.windows and not find_back_links(page):
        lacks.append("no way back")
    return tuple(lacks)
