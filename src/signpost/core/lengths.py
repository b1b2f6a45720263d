"""How long a page is: words, minutes and, measured or estimated, heights.

The estimate says that it is one wherever it is shown. It knows words and headings, not pictures or style sheets.
"""

from __future__ import annotations

from collections import Counter
from dataclasses import dataclass

from signpost.core.geometry import Geometry, Hold
from signpost.core.outline import Outline, Section
from signpost.core.page import Page

#: Words a reader takes in a minute, silently, of English non-fiction (Brysbaert 2019).
WORDS_A_MINUTE = 238
#: The window the estimate is for, in CSS pixels, and what fills it in a browser's own style.
WINDOW_WIDTH = 1280
WINDOW_HEIGHT = 800
_LINE_HEIGHT = 20.0
_WORDS_A_LINE = 26.0
_SPACE_A_PARAGRAPH = 16.0
_WORDS_A_PARAGRAPH = 60.0
_HEADING_HEIGHT = 62.0


@dataclass(frozen=True, slots=True)
class Stretch:
    """Where a section stands on the rendered page."""

    index: int  # of the section; -1 for the lead
    top: float  # CSS pixels from the page's top
    height: float  # CSS pixels, sections within included


def estimate_height(words: int, headings: int) -> float:
    """Return the height that `words` under `headings` take in the window, in CSS pixels."""
    lines = words / _WORDS_A_LINE
    paragraphs = words / _WORDS_A_PARAGRAPH
    return lines * _LINE_HEIGHT + paragraphs * _SPACE_A_PARAGRAPH + headings * _HEADING_HEIGHT


def estimate_stretches(outline: Outline) -> list[Stretch]:
    """Return where the lead and all sections stand, in source order."""
    top = estimate_height(outline.lead_words, 0)
    stretches = [Stretch(-1, 0.0, top)]
    for section in outline.flat():
        stretches.append(Stretch(section.index, top, _height(section)))
        top += estimate_height(section.own_words, 1)
    return stretches


def measured_stretches(page: Page, outline: Outline, geometry: Geometry) -> list[Stretch]:
    """Return where the lead and all sections stand as they were measured, in source order.

    A heading that takes no room stands where the one before it does; none stands above one before it.
    """
    sections = outline.flat()
    tops: list[float] = []
    for section in sections:
        box = geometry.by_start.get(section.start)
        before = tops[-1] if tops else 0.0
        tops.append(before if box is None or box.hold is Hold.HIDDEN else max(before, box.top))
    bottom = max(_content_bottom(page, geometry), tops[-1] if tops else 0.0)
    after = dict(zip([section.start for section in sections], tops, strict=True))
    stretches = [Stretch(-1, 0.0, tops[0] if tops else bottom)]
    for section, top in zip(sections, tops, strict=True):
        stretches.append(Stretch(section.index, top, after.get(section.end, bottom) - top))
    return stretches


def carried_stretches(before: Outline, old: list[Stretch], outline: Outline) -> list[Stretch]:
    """Return where sections stand, by what was measured before an edit: each has the height of its own that it had.

    Sections are known again by their words; for those that are new the estimate serves.
    """
    heights = dict(zip(_keys(before), _own_heights(before, old), strict=True))
    top = old[0].height if old else 0.0
    stretches = [Stretch(-1, 0.0, top)]
    sections = outline.flat()
    tops = []
    for key, section in zip(_keys(outline), sections, strict=True):
        tops.append(top)
        top += heights.get(key, estimate_height(section.own_words, 1))
    after = dict(zip([section.start for section in sections], tops, strict=True))
    for section, at in zip(sections, tops, strict=True):
        stretches.append(Stretch(section.index, at, after.get(section.end, top) - at))
    return stretches


def _keys(outline: Outline) -> list[tuple[str, int]]:
    """Return what sections are known again by: their words, and how many before them say the same."""
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
        for part in page.chrome
        if part.open.start > last
        and (box := geometry.by_start.get(part.open.start)) is not None
        and box.hold is Hold.NONE
        and box.top > headed
    ]
    bottom = geometry.height if geometry.content_bottom is None else geometry.content_bottom
    return min([bottom, *following])


def minutes(words: int) -> float:
    """Return how long a reader takes over `words`, in minutes."""
    return words / WORDS_A_MINUTE


def windows(height: float, window_height: float = WINDOW_HEIGHT) -> float:
    """Return how many windows a height fills."""
    return height / window_height


def _height(section: Section) -> float:
    own, stack = 0.0, [section]
    while stack:
        part = stack.pop()
        own += estimate_height(part.own_words, 1)
        stack += part.sections
    return own
