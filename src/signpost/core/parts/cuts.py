"""Where a long page may be cut, and where it is cut best."""

from __future__ import annotations

from collections.abc import Collection, Sequence
from dataclasses import dataclass

from signpost.core.page import Page
from signpost.core.text.errors import RequestError
from signpost.core.text.positions import indent_before, line_start

#: Elements that are never cut; a heading among them contains another where it was never closed.
WHOLE = frozenset("ul ol dl table pre figure blockquote details form fieldset svg h1 h2 h3 h4 h5 h6".split())
#: What a cut above a lower heading costs for each level, as a share of a wanted part's length.
LEVEL_PENALTY = 0.25


@dataclass(frozen=True, slots=True)
class Cut:
    """A place where the page may be cut: before a section."""

    section: int  # index of the section
    level: int
    at: int  # offset, at the start of a line where the section begins one
    words_before: int  # words of the content before it


def find_cuts(page: Page) -> list[Cut]:
    """Return all places where the page may be cut, in source order; never before what opens the content."""
    cuts = []
    for index, heading in enumerate(page.headings):
        if any(element.tag in WHOLE for element in heading.ancestors):
            continue
        begin = heading.begin
        at = begin if indent_before(page.text, begin) is None else line_start(page.text, begin)
        at = max(at, page.content.start)
        if page.text[page.content.start : at].strip():
            cuts.append(Cut(index, heading.level, at, heading.words_before))
    return cuts


def cuts_at_level(page: Page, level: int) -> list[int]:
    """Return the sections of one level that the page may be cut before, by index; the first of them is left out.

    What is before the first section would be a part without a section of its own.
    """
    first = next((index for index, heading in enumerate(page.headings) if heading.level == level), None)
    return [cut.section for cut in find_cuts(page) if cut.level == level and cut.section != first]


def cuts_by_identifier(page: Page, identifiers: Collection[str]) -> list[int]:
    """Return the sections with these identifiers, by index. Raises RequestError for one that no section has."""
    by_name = {heading.identifier: index for index, heading in enumerate(page.headings)}
    found = []
    for name in identifiers:
        if name not in by_name:
            raise RequestError(f"No section of {page.path} has the identifier “{name}”.")
        found.append(by_name[name])
    return found


def best_cuts(page: Page, parts: int) -> list[int]:
    """Return the sections before which the page is best cut into this many parts, by index.

    The optimum: least sum of squared deviations in length, and a penalty for each cut above a lower heading, both as
    shares of a wanted part's length. Raises RequestError where the page cannot be cut so often.
    """
    cuts = find_cuts(page)
    if parts < 1:
        raise RequestError("A page has at least one part.")
    if len(cuts) < parts - 1:
        raise RequestError(
            f"{page.path} can be cut at {len(cuts)} places, so into at most {len(cuts) + 1} parts. Ask for fewer."
        )
    if parts == 1:
        return []
    highest = min(cut.level for cut in cuts)
    return [cuts[place].section for place in _optimum(cuts, page.words, parts, highest)]


def _optimum(cuts: Sequence[Cut], words: int, parts: int, highest: int) -> list[int]:
    """Return the places of the best cuts, by dynamic programming over places and parts."""
    wanted = max(words, 1) / parts
    at = [0, *(cut.words_before for cut in cuts), words]
    penalty = [0.0, *(LEVEL_PENALTY * (cut.level - highest) for cut in cuts), 0.0]
    infinity = float("inf")
    cost = [0.0] + [infinity] * (len(at) - 1)
    came: list[list[int]] = []
    for part in range(parts):
        following = [infinity] * len(at)
        source = [0] * len(at)
        for end in range(part + 1, len(at)):
            for start in range(end - 1, part - 1, -1):
                deviation = (at[end] - at[start] - wanted) / wanted
                if deviation > 0 and deviation * deviation > following[end]:
                    break  # still longer parts only cost more
                total = cost[start] + deviation * deviation + penalty[end]
                if total < following[end]:
                    following[end], source[end] = total, start
        cost = following
        came.append(source)
    places, end = [], len(at) - 1
    for source in reversed(came):
        end = source[end]
        places.append(end)
    return sorted(place - 1 for place in places if place > 0)
