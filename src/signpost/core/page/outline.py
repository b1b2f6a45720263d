"""Sections: a heading and what follows, up to the next heading of the same or a higher level."""

from __future__ import annotations

import re
from bisect import bisect_right
from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from signpost.core.page import Heading, Page
from signpost.core.page.kept import kept_with_page
from signpost.core.text.tags import without_markup

#: Elements that a reader sees though they have no words.
_SEEN = re.compile(r"<(?:img|hr|input|iframe|object|embed|video|audio|svg|canvas|select|textarea)\b", re.IGNORECASE)
_FAR = 2000  # characters of markup beyond which a place is not right before a heading


@dataclass(frozen=True, slots=True)
class Section:
    """A section, with the sections within it."""

    index: int  # among all sections of the page, in source order, 0-based
    heading: Heading
    start: int  # of the heading's start tag
    end: int  # where the next section of its level or a higher one starts, or where the content ends
    words: int  # of the heading and all that follows to `end`
    own_words: int  # of the heading and what follows to the first section within
    parent: int | None  # index of the section it is in
    sections: tuple[Section, ...]

    @property
    def level(self) -> int:
        """The heading's level; 1 is the highest."""
        return self.heading.level

    @property
    def text(self) -> str:
        """The heading's words."""
        return self.heading.text

    @property
    def identifier(self) -> str | None:
        """What a fragment reaches the section by; None where it has no identifier."""
        return self.heading.identifier


@dataclass(frozen=True, slots=True)
class Outline:
    """The sections of a page's own content."""

    sections: tuple[Section, ...]  # those within no other
    lead_words: int  # words before the first heading

    def flat(self) -> list[Section]:
        """Return all sections in source order."""
        return list(_flatten(self.sections))


@kept_with_page
def read_outline(page: Page) -> Outline:
    """Return the outline of a page."""
    headings = page.headings
    ends = _find_ends(headings)
    starts = [heading.element.open.start for heading in headings]
    finish = max(page.content.end, starts[-1]) if starts else page.content.end

    def build(first: int, last: int, parent: int | None) -> tuple[Section, ...]:
        sections = []
        at = first
        while at < last:
            close = ends[at]
            after = headings[close] if close < len(headings) else None
            following = headings[at + 1] if at + 1 < len(headings) else None
            sections.append(
                Section(
                    index=at,
                    heading=headings[at],
                    start=starts[at],
                    end=starts[close] if after else finish,
                    words=page.words_between(headings[at], after),
                    own_words=page.words_between(headings[at], following),
                    parent=parent,
                    sections=build(at + 1, close, at) if close > at + 1 else (),
                )
            )
            at = close
        return tuple(sections)

    lead = headings[0].words_before if headings else page.words
    return Outline(build(0, len(headings), None), lead)


def section_marked(page: Page, offset: int) -> int | None:
    """Return the index of the section whose heading an element marks that begins at `offset`.

    It is the heading itself, is in it, opens with it, or is before it with nothing to see between; else None.
    """
    headings = page.headings
    index = bisect_right(headings, offset, key=lambda heading: heading.begin) - 1
    if index >= 0 and offset < headings[index].element.end:
        return index
    following = headings[index + 1].element.open.start if index + 1 < len(headings) else offset + _FAR
    if following - offset < _FAR:
        between = page.text[offset:following]
        if not _SEEN.search(between) and not without_markup(between).strip():
            return index + 1
    return None


def section_of_place(page: Page, offset: int) -> int:
    """Return the index of the section that an element at `offset` marks or else is in; -1 for the lead."""
    marked = section_marked(page, offset)
    if marked is not None:
        return marked
    return bisect_right(page.headings, offset, key=lambda heading: heading.begin) - 1


def _find_ends(headings: Sequence[Heading]) -> list[int]:
    """Return, for each heading, the index of the next one of its level or higher; the count where there is none."""
    ends = [len(headings)] * len(headings)
    open_: list[int] = []
    for index, heading in enumerate(headings):
        while open_ and headings[open_[-1]].level >= heading.level:
            ends[open_.pop()] = index
        open_.append(index)
    return ends


def _flatten(sections: Sequence[Section]) -> Iterator[Section]:
    stack = list(reversed(sections))
    while stack:
        section = stack.pop()
        yield section
        stack += reversed(section.sections)
