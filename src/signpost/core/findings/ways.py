"""Ways through a long page that are not there: contents, links back to the top."""

from __future__ import annotations

from collections.abc import Iterator

from signpost.core.back_to_top.links import find_back_links, says_up
from signpost.core.back_to_top.planning import BackLinkOptions, has_back_link, plan_back_links
from signpost.core.contents import ContentsOptions, plan_contents
from signpost.core.contents.handmade import is_box
from signpost.core.contents.own import has_contents
from signpost.core.findings.catalogue import Finding
from signpost.core.findings.page_check import Check
from signpost.core.page import Page
from signpost.core.page.lengths import estimate_page, windows
from signpost.core.page.outline import read_outline
from signpost.core.text.edits import Edit

LEFT_OUT = "section-without-way-back"
_FEWEST_WAYS = 3  # sections with a way back, for another to lack it
_SHARE = 0.75  # of the sections of a level that have one then
_MANY_WORDS = 150  # of a section that wants one: about a window
CONTENTS, WAY_BACK = "contents-missing", "way-back-missing"


def find_missing_ways(check: Check) -> Iterator[Finding]:
    """Yield what a long page lacks for finding one's way in it; a part of a page has that of the whole."""
    page = check.page
    if page.part_marks is None:
        yield from _left_out(page, check)
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


def _left_out(page: Page, check: Check) -> Iterator[Finding]:
    """Yield the long sections that have no way back, where the others of their level have one."""
    back = [link for link in find_back_links(page) if says_up(link)]
    if len(back) < _FEWEST_WAYS:
        return
    flat = read_outline(page).flat()
    for level in sorted({section.level for section in flat}):
        same = [section for section in flat if section.level == level and not is_box(section.text)]
        without = [section for section in same if not has_back_link(section, back)]
        if len(same) - len(without) < max(_FEWEST_WAYS, _SHARE * len(same)):
            continue
        planned = plan_back_links(page, BackLinkOptions(levels=(level,))).edits
        for section in without if without[-1:] != same[-1:] else without[:-1]:  # the page's end is near the last
            edits = [edit for edit in planned if section.start < edit.start <= section.end and edit.inserts]
            if section.words >= _MANY_WORDS and len(edits) == 1:
                message = (
                    f"“{section.text}” has no link back up, as the {len(same) - len(without)} other sections have."
                )
                yield check.find(LEFT_OUT, section.start, message, edits)


def edits_for(page: Page, code: str) -> tuple[Edit, ...]:
    """Return the edits by which a page gets what it lacks."""
    if code == CONTENTS:
        return plan_contents(page, ContentsOptions()).edits
    return plan_back_links(page, BackLinkOptions()).edits
