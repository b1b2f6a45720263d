"""Pages that lead on to one another: where one leads there, and the other not back."""

from __future__ import annotations

import re
from collections.abc import Iterator, Mapping

from signpost.core.findings.catalogue import Finding
from signpost.core.findings.checks import Check
from signpost.core.page import Page
from signpost.core.page.masking import read_markup_only
from signpost.core.site.site import Resolved, Site
from signpost.core.text.tags import Attribute, scan_attributes

_RELATED = re.compile(r"<(?:a|link)\b(?=[^<>]*\brel\b)", re.IGNORECASE)
#: What leads there, and what leads back (HTML 4.6.7.11 and 4.6.7.12).
_BACK = {"next": "prev", "prev": "next"}
_SAME = {"previous": "prev"}  # as older pages write it


def find_broken_pairs(check: Check) -> Iterator[Finding]:
    """Yield what says that another page is the next one or the one before, where that one names another in turn."""
    site, path = check.site, check.page.path
    for start, way, there in _ways_of(site, check.page):
        ways = _ways(site).get(there, {})
        back = ways.get(_BACK[way])
        if there == path or back is None or back == path:
            continue
        words = "the next page" if way == "next" else "the page before"
        message = (
            f"{there} is {words} here, but over there “{_BACK[way]}” leads to {back}. Only one of the two is right."
        )
        yield check.find("pair-one-way", start, message)


def _ways(site: Site) -> Mapping[str, Mapping[str, str]]:
    """Return where the pages of a site lead on to, by their paths."""

    def find() -> Mapping[str, Mapping[str, str]]:
        return {path: {way: there for _, way, there in _ways_of(site, page)} for path, page in site.pages.items()}

    return site.remember(("ways on", ""), find)


def _ways_of(site: Site, page: Page) -> Iterator[tuple[int, str, str]]:
    """Yield the start tags of a page that lead on within the site, with their relation and where they lead."""
    if "rel" not in page.text.lower():
        return
    for found in _RELATED.finditer(read_markup_only(page)):
        said = {one.name: one for one in scan_attributes(page.text, found.start())}
        outcome = site.follow(page.path, _value(said, "href") or None)
        if not isinstance(outcome, Resolved) or outcome.path not in site.pages:
            continue
        for word in _value(said, "rel").lower().split():
            way = _SAME.get(word, word)
            if way in _BACK:
                yield found.start(), way, outcome.path


def _value(said: Mapping[str, Attribute], name: str) -> str:
    return said[name].value if name in said else ""
