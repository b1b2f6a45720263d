"""Ways through a long page that are not there: contents, links back to the top."""

from __future__ import annotations

from collections.abc import Iterator

from signpost.core.back_to_top.links import find_back_links
from signpost.core.back_to_top.planning import BackLinkOptions, plan_back_links
from signpost.core.contents import ContentsOptions, plan_contents
from signpost.core.contents.handmade import is_box
from signpost.core.contents.own import has_contents
from signpost.core.findings.catalogue import Finding
from signpost.core.findings.page_check import Check
from signpost.core.page import Page
from signpost.core.page.lengths import estimate_page, windows
from signpost.core.text.edits import Edit

CONTENTS, WAY_BACK = "contents-missing", "way-back-missing"


def find_missing_ways(check: Check) -> Iterator[Finding]:
    """Yield what a long page lacks for finding one's way in it; a part of a page has that of the whole."""
    page = check.page
    high = windows(estimate_page(page))
    sections = [heading for heading in page.headings if heading.level > 1 and not is_box(heading.text)]
    limits = check.options.limits
    if len(sections) < limits.sections or high < limits.windows or page.part_marks is not None:
        return
    start = page.headings[0].element.open.start
    if not has_contents(page):
        message = f"The page has {len(sections)} sections on some {high:.0f} windows, and no contents that list them."
        yield check.find(CONTENTS, start, message)
    if not find_back_links(page):
        yield check.find(WAY_BACK, start, f"The page is some {high:.0f} windows long, and no link leads back up.")


def edits_for(page: Page, code: str) -> tuple[Edit, ...]:
    """Return the edits by which a page gets what it lacks."""
    if code == CONTENTS:
        return plan_contents(page, ContentsOptions()).edits
    return plan_back_links(page, BackLinkOptions()).edits
