"""Findings that come of another one: what a tag without its bracket or quotation mark has swallowed."""

from __future__ import annotations

import re
from collections.abc import Sequence

from signpost.core.findings.catalogue import Finding
from signpost.core.page import Page
from signpost.core.page.slips import Tag, tag_around

_CAUSES = frozenset(["bracket-missing", "quote-missing"])
_WITHIN = frozenset(["attribute-repeated", "attribute-invented"])  # what is found in the tag itself
_TAG = re.compile(r"<(/?)([a-zA-Z][\w:-]*)")


def without_swallowed(page: Page, findings: Sequence[Finding]) -> list[Finding]:
    """Return the findings of a page's tags without those that go once the tags that swallow others are right."""
    causes = [
        tag for one in findings if one.rule.code in _CAUSES for tag in [tag_around(page, one.span.start)] if tag
    ]
    gone: set[int] = set()
    for tag in causes:
        gone |= {
            index
            for index, one in enumerate(findings)
            if one.rule.code in _WITHIN and tag.start < one.span.start < tag.end
        }
        gone |= _partners(page, tag, findings, gone)
    closed = {one.span.start for one in findings if one.rule.code == "element-self-closed"}
    gone |= {
        index for index, one in enumerate(findings) if one.rule.code == "end-tag-missing" and one.span.start in closed
    }
    return [one for index, one in enumerate(findings) if index not in gone]


def _partners(page: Page, tag: Tag, findings: Sequence[Finding], gone: set[int]) -> set[int]:
    """Return the end tags whose start tags were swallowed, and the start tags whose end tags were; by index."""
    found: set[int] = set()
    for swallowed in _TAG.finditer(page.text, tag.start + 1, tag.end):
        name = swallowed[2].lower()
        ends = swallowed[1] == "/"
        code = "end-tag-missing" if ends else "end-tag-stray"
        candidates = [
            index
            for index, one in enumerate(findings)
            if one.rule.code == code
            and index not in gone | found
            and (one.span.start < swallowed.start() if ends else one.span.start > swallowed.start())
            and _TAG.match(page.text, one.span.start)[2].lower() == name  # type: ignore[index]
        ]
        if candidates:
            found.add(candidates[-1] if ends else candidates[0])
    return found
