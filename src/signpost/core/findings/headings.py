"""Headings that lead astray: none of the first level, several, empty ones, the same words twice, unequal tags."""

from __future__ import annotations

import re
from collections.abc import Iterator
from functools import partial

from signpost.core.findings.catalogue import Choice, Finding
from signpost.core.findings.page_check import Check
from signpost.core.headings.levels import find_repairs, level_edits, plan_closed_gaps, plan_repair
from signpost.core.page import Heading, Page
from signpost.core.page.marks import HEADINGS
from signpost.core.page.markup import tokens_of
from signpost.core.page.outline import read_outline
from signpost.core.site.plans import SitePlan, plan_for
from signpost.core.text.edits import Edit

#: What a repair of the first level does, as on a button.
_DOES = {
    "no-h1": "Make “{}” the h1",
    "chapters": "Put “{}” above all as the h1",
    "several-h1": "Leave “{}” as the h1, and move the others down",
}
_HEADING_TAG = re.compile(r"</?(h[1-6])\s*>", re.IGNORECASE)


def find_weak_headings(check: Check) -> Iterator[Finding]:
    """Yield what is wrong with a page's headings."""
    page = check.page
    yield from _gaps(check)
    first = [heading for heading in page.headings if heading.level == 1]
    # one in the page's header counts as well, though it is no section's
    if page.headings and not first and not tokens_of(page).count("h1"):
        top = page.headings[0]
        yield check.find(
            "first-heading-missing",
            top.element.open.start,
            f"No heading of this page is an h1. “{top.text}” is the first, of level {top.level}.",
            choices=_repairs(page, "no-h1"),
        )
    choices = _repairs(page, "chapters", "several-h1") if len(first) > 1 else []
    for heading in first[1:]:
        yield check.find(
            "first-heading-repeated",
            heading.element.open.start,
            f"“{heading.text}” is another h1; “{first[0].text}” on line {page.source.lines.line(_start(first[0]))} "
            "is the first.",
            choices=choices,
        )
    for heading in page.headings:
        if not heading.text:
            yield check.find(
                "heading-empty", _start(heading), "This heading has no words, so its section has no name."
            )
        yield from _unequal(check, heading)
    yield from _repeated(check)


def _repairs(page: Page, *codes: str) -> list[Choice]:
    """Return the ways to give a page one h1, the one that fits first."""
    return [
        Choice(_DOES[one.code].format(one.words or page.headings[0].text), plan=partial(_repaired, page, one.code))
        for one in find_repairs(page)
        if one.code in codes
    ]


def _repaired(page: Page, code: str) -> SitePlan:
    return plan_for(page, plan_repair(page, code))


def _gaps(check: Check) -> Iterator[Finding]:
    above: list[int] = []
    for heading in check.page.headings:
        while above and above[-1] >= heading.level:
            above.pop()
        if above and heading.level > above[-1] + 1:
            level = above[-1] + 1
            edits = tuple(level_edits(check.page, heading, level))
            choices = [Choice(f"Make it h{level}", edits)] if edits else []
            choices.append(Choice("Close all gaps of the page", plan=partial(_closed, check.page)))
            yield check.find(
                "heading-gap",
                _start(heading),
                f"“{heading.text}” is a level {heading.level} heading directly after a level {above[-1]} heading.",
                choices=choices,
            )
        above.append(heading.level)


def _closed(page: Page) -> SitePlan:
    return plan_for(page, plan_closed_gaps(page))


def _start(heading: Heading) -> int:
    return heading.element.open.start


def _unequal(check: Check, heading: Heading) -> Iterator[Finding]:
    """Yield a heading whose end tag is of another level; a browser closes it all the same (HTML 13.2.6.4.7)."""
    text, element = check.page.text, heading.element
    if element.close is not None or element.tag not in HEADINGS:
        return
    found = _HEADING_TAG.search(text, element.open.end, element.end)
    if found and found[0][1] == "/" and found[1].lower() != element.tag:
        edit = Edit(found.start(1) + 1, found.end(1), element.tag[1], reason="the end tag as the start tag")
        yield check.find(
            "heading-tags-unequal",
            _start(heading),
            f"“{heading.text}” begins as {element.tag} and ends as {found[1].lower()}. Browsers go by the start tag.",
            edits=[edit],
        )


def _repeated(check: Check) -> Iterator[Finding]:
    seen: dict[tuple[int | None, str], int] = {}
    for section in read_outline(check.page).flat():
        words = section.text.casefold()
        key = section.parent, words
        if words and key in seen:
            yield check.find(
                "heading-repeated",
                section.heading.element.open.start,
                f"“{section.text}” is also the heading on line {check.page.source.lines.line(seen[key])}, beside it "
                "in the outline. In a list of headings nobody can tell them apart.",
            )
        elif words:
            seen[key] = section.start
