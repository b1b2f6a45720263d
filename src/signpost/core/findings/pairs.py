"""Pages that lead on to one another: where one leads there, and the other not back."""

from __future__ import annotations

import json
from collections.abc import Iterator

from signpost.core.findings.catalogue import Finding
from signpost.core.findings.page_check import Check
from signpost.core.site.site import Site
from signpost.core.site.told import Kind, read_ways, title_key

#: What leads there, and what leads back.
_BACK = {"next": "prev", "prev": "next"}


def find_broken_pairs(check: Check) -> Iterator[Finding]:
    """Yield what says that another page is the next one or the one before, where that one names another in turn."""
    site, path = check.site, check.page.path
    for start, way, led in read_ways(check.page, site.base):
        there = site.file_at(led)
        back = _way_of(site, there, _BACK[way])
        if there == path or back is None or back == path or _is_copy(check, back):
            continue
        words = "the next page" if way == "next" else "the page before"
        message = (
            f"{there} is {words} here, but over there “{_BACK[way]}” leads to {back}. Only one of the two is right."
        )
        yield check.find("pair-one-way", start, message)


def _is_copy(check: Check, path: str) -> bool:
    """Return whether a page is this one under another name, byte for byte."""
    told = check.site.index.ask(Kind.TITLE, title_key(check.page)).get(path, ())
    return check.page.source.sha256 in told


def _way_of(site: Site, path: str, way: str) -> str | None:
    """Return the page that a page says is the next one, or the one before; None where it names none that is there."""
    for (told,) in site.index.ask(Kind.WAY, path).values():
        found = json.loads(told).get(way)
        there = None if found is None else site.file_at(found)
        if there in site.pages:
            return there
    return None
