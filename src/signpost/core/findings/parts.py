"""What is wrong with a page that is one of several parts."""

from __future__ import annotations

from collections.abc import Iterator
from statistics import median

from signpost.core.findings.catalogue import Finding
from signpost.core.findings.page_check import Check
from signpost.core.page import Page
from signpost.core.page.lengths import estimate_page, windows
from signpost.core.parts.planning import plan_refreshed_parts
from signpost.core.parts.series import Series, marks_of, series_of
from signpost.core.site.plans import SitePlan
from signpost.core.site.site import Site
from signpost.core.text.errors import SignpostError
from signpost.core.text.positions import Span

#: How many times as long as the others a part is that is too long, and how many windows it has at least.
_FAR_LONGER, _LEAST_LONG = 3, 5.0
#: How many times as long as it the others are, where a part is too short, and how many windows it has at most.
_FAR_SHORTER, _MOST_SHORT = 5, 1.0
_FEWEST_OTHERS = 2  # parts that one is compared with


def part_faults(site: Site, page: Page) -> set[str]:
    """Return the codes of the rules by which something is wrong with a part."""
    return {code for code, _, _ in _faults(site, page)}


def find_faulty_parts(check: Check) -> Iterator[Finding]:
    """Yield what is wrong with a part."""
    for code, start, message in _faults(check.site, check.page):
        yield check.find_at(code, Span(start, start), message)


def _faults(site: Site, page: Page) -> Iterator[tuple[str, int, str]]:
    if page.part_marks is None:
        return
    series = series_of(site, page.path)
    at = marks_of(page).end.start
    if series is not None and series.missing and series.home != page.path:
        return  # it is told once, on the first part that is there
    if series is not None and series.missing:
        numbers = ", ".join(map(str, series.missing))
        found = f"part {numbers} is" if len(series.missing) == 1 else f"parts {numbers} are"
        yield (
            "series-broken",
            at,
            f"This is part {marks_of(page).number} of {series.count}, but {found} not in the site. Bring the "
            "missing files in again, or undo what removed them.",
        )
    elif series is not None:
        plan = site.remember(("refreshed parts", series.home), lambda: _refreshed(site, series))
        edits = plan.edits.get(page.path)
        yield from _unequal(site, page, series, at)
        if edits:
            places = "place differs" if len(edits) == 1 else "places differ"
            yield (
                "parts-out-of-date",
                at,
                f"A heading, a title or an address changed in one of the {series.count} parts: {len(edits)} "
                f"{places} here from what the parts say now. Bring the parts up to date.",
            )


def _unequal(site: Site, page: Page, series: Series, at: int) -> Iterator[tuple[str, int, str]]:
    """Yield that a part is far longer or shorter than the others are."""
    lengths = site.remember(("lengths of parts", series.home), lambda: _lengths(site, series))
    others = sorted(length for path, length in lengths.items() if path != page.path)
    if len(others) < _FEWEST_OTHERS:
        return
    own, usual = lengths[page.path], median(others)
    said = f"This part is some {own:.1f} windows long, the others {usual:.1f}. Cut the page anew at the stage “Parts”"
    if own > max(_FAR_LONGER * usual, _LEAST_LONG):
        yield "part-long", at, f"{said}, with one part more."
    elif own < usual / _FAR_SHORTER and own < _MOST_SHORT:
        yield "part-short", at, f"{said}, or move a section here."


def _lengths(site: Site, series: Series) -> dict[str, float]:
    """Return how long the parts of a series are, in windows."""
    return {part.path: windows(estimate_page(site.pages[part.path])) for part in series.parts}


def _refreshed(site: Site, series: Series) -> SitePlan:
    """Return what would bring a series up to date; nothing where that cannot be planned."""
    try:
        return plan_refreshed_parts(site, series.home)
    except SignpostError:
        return SitePlan()
