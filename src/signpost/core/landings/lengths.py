"""How long sections are on the rendered page, as a browser measured it or as it was before an edit."""

from __future__ import annotations

from collections import Counter

from signpost.core.landings.geometry import Geometry, Hold
from signpost.core.page import Page
from signpost.core.page.lengths import Stretch, estimate_height, stretch_out
from signpost.core.page.outline import Outline


def measured_stretches(page: Page, outline: Outline, geometry: Geometry) -> list[Stretch]:
    """Return where the lead and all sections are as they were measured, in source order.

    A heading that takes no room is where the one before it does; none is above one before it.
    """
    sections = outline.flat()
    tops: list[float] = []
    for section in sections:
        box = geometry.by_start.get(section.start)
        before = tops[-1] if tops else 0.0
        tops.append(before if box is None or box.hold is Hold.HIDDEN else max(before, box.top))
    bottom = max(_content_bottom(page, geometry), tops[-1] if tops else 0.0)
    return [Stretch(-1, 0.0, tops[0] if tops else bottom), *stretch_out(sections, tops, bottom)]


def carried_stretches(before: Outline, old: list[Stretch], outline: Outline) -> list[Stretch]:
    """Return where sections are, by what was measured before an edit: each has the height of its own that it had.

    Sections are recognised by their words; for those that are new the estimate serves.
    """
    heights = dict(zip(_keys(before), _own_heights(before, old), strict=True))
    top = old[0].height if old else 0.0
    lead, tops = Stretch(-1, 0.0, top), []
    sections = outline.flat()
    for key, section in zip(_keys(outline), sections, strict=True):
        tops.append(top)
        top += heights.get(key, estimate_height(section.own_words, 1))
    return [lead, *stretch_out(sections, tops, top)]


def _keys(outline: Outline) -> list[tuple[str, int]]:
    """Return what sections are recognised by: their words, and how many before them say the same."""
    counts: Counter[str] = Counter()
    keys = []
    for section in outline.flat():
        keys.append((section.text, counts[section.text]))
        counts[section.text] += 1
    return keys


def _own_heights(outline: Outline, stretches: list[Stretch]) -> list[float]:
    """Return the height of each section without those within it."""
    own = stretches[1:]
    return [
        (own[section.sections[0].index].top if section.sections else stretch.top + stretch.height) - stretch.top
        for section, stretch in zip(outline.flat(), own, strict=True)
    ]


def _content_bottom(page: Page, geometry: Geometry) -> float:
    """Return where the content ends on the rendered page: with its element, or before the furniture that follows."""
    last = page.headings[-1].element.open.start if page.headings else page.content.start
    last_box = geometry.by_start.get(last)
    headed = last_box.top if last_box else 0.0
    following = [
        box.top
        for part in page.furniture
        if part.open.start > last
        and (box := geometry.by_start.get(part.open.start)) is not None
        and box.hold is Hold.NONE
        and box.top > headed
    ]
    bottom = geometry.height if geometry.content_bottom is None else geometry.content_bottom
    return min([bottom, *following])
