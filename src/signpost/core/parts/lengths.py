"""The parts that chosen cuts would make, with their lengths, before anything is cut."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from signpost.core.page import Page, Target
from signpost.core.page.lengths import Stretch, estimate_page, estimate_stretches
from signpost.core.page.outline import read_outline
from signpost.core.parts.choosing import Ruler, word_ruler
from signpost.core.parts.cuts import Cut, find_places
from signpost.core.parts.naming import Part, heading_at
from signpost.core.parts.whole import Whole


@dataclass(frozen=True, slots=True)
class PartLength:
    """One part, and how long it is."""

    part: Part
    words: int
    height: float  # CSS pixels
    first_section: int | None  # index of the first section that begins in it
    last_section: int | None
    crossing: int  # jump links that lead across the cut it begins with, in either direction
    in_section: bool  # whether it begins within a section, where no heading is


def measure_parts(whole: Whole, parts: Sequence[Part], heights: Ruler) -> list[PartLength]:
    """Return the lengths of parts; `heights` measures in pixels."""
    page = whole.page
    places = find_places(page)
    cuts = [_place_at(page, places, part.start) for part in parts[1:]]
    words = word_ruler(page)
    word_marks = [0.0, *map(words.before, cuts), words.total]
    pixel_marks = [0.0, *map(heights.before, cuts), heights.total]
    crossing = _crossing(whole, parts)
    found = []
    for index, part in enumerate(parts):
        own = [at for at, start in enumerate(page.section_starts) if part.start <= start < part.end]
        found.append(
            PartLength(
                part,
                round(word_marks[index + 1] - word_marks[index]),
                pixel_marks[index + 1] - pixel_marks[index],
                own[0] if own else None,
                own[-1] if own else None,
                crossing[index],
                in_section=part.number > 1 and heading_at(page, part.start) is None,
            )
        )
    return found


def _place_at(page: Page, places: Sequence[Cut], at: int) -> Cut:
    """Return the cut at an offset of a page; an offset that is none of its places is measured by the next one."""
    return next((cut for cut in places if cut.at >= at), Cut(at, page.words, None, None))


def _crossing(whole: Whole, parts: Sequence[Part]) -> list[int]:
    """Return for each part how many jump links of the page cross the cut that it begins with."""
    page = whole.page
    counts = [0] * len(parts)
    for link in page.links:
        outcome = whole.site.follow(page.path, link.href) if link.href else None
        target = getattr(outcome, "target", None)
        if getattr(outcome, "path", None) != page.path or not isinstance(target, Target):
            continue
        ends = [_index(parts, link.start), _index(parts, target.start)]
        if None not in ends:
            low, high = sorted(ends)  # type: ignore[type-var]
            for index in range(low + 1, high + 1):  # type: ignore[operator]
                counts[index] += 1
    return counts


def _index(parts: Sequence[Part], offset: int) -> int | None:
    if not parts[0].start <= offset < parts[-1].end:
        return None
    return max(index for index, part in enumerate(parts) if part.start <= offset)


def stretch_ruler(page: Page, stretches: Sequence[Stretch], height: float) -> Ruler:
    """Return the ruler that measures in pixels: sections where they are, places between blocks by their words.

    `stretches` are those of the page, the lead's first; `height` is the page's.
    """
    tops = [stretch.top for stretch in stretches]
    ends = [*tops[1:], height]
    words = [0, *(heading.words_before for heading in page.headings), page.words]

    def before(cut: Cut) -> float:
        if cut.section is not None:
            return tops[cut.section + 1]
        index = page.section_at(cut.at) + 1  # among the stretches
        share = (cut.words_before - words[index]) / max(words[index + 1] - words[index], 1)
        return tops[index] + (ends[index] - tops[index]) * min(max(share, 0.0), 1.0)

    return Ruler(before, height)


def estimated_ruler(page: Page) -> Ruler:
    """Return the ruler that estimates heights."""
    return stretch_ruler(page, estimate_stretches(page, read_outline(page)), estimate_page(page))
