"""Heading levels: raised and lowered; repaired where they leave gaps, are several times the first, or never.

Levels say what belongs to what (HTML 4.3.11), never how large something looks. Only the digits of the two tags
change, or the value of `aria-level`.
"""

from __future__ import annotations

import re
from collections.abc import Collection, Mapping
from dataclasses import dataclass
from html import escape

from signpost.core.page import Heading, Page
from signpost.core.page.habits import read_habits
from signpost.core.page.outline import Section, read_outline
from signpost.core.page.placing import block_start
from signpost.core.text.edits import Edit, EditSet, edit_set
from signpost.core.text.errors import GoneError, RequestError
from signpost.core.text.tags import value_edit

_NO_FIRST = "No heading is of the first level"
#: The lowest level that has an element.
LOWEST = 6
_SEPARATOR = re.compile(r"\s+(?:[|·•–—]|-{1,2})\s+")
_WORD = re.compile(r"[^\W_]{3,}")


@dataclass(frozen=True, slots=True)
class Repair:
    """A proposal for the page's levels."""

    code: str  # "gaps", "several-h1", "chapters" or "no-h1"
    title: str  # what is wrong, in plain words
    does: str  # what the proposal does
    levels: Mapping[int, int]  # new levels by section index; those that stay are left out
    words: str = ""  # of a heading of the first level to be put in; "" for none


def shift_levels(page: Page, sections: Collection[int], by: int, *, whole: bool) -> dict[int, int]:
    """Return new levels for sections moved `by` levels down (or up where negative), by section index.

    With `whole`, their subsections move along.

    Raises RequestError where one would leave the levels 1 to 6.
    """
    flat = read_outline(page).flat()
    levels = {index: _section(flat, index).level + by for index in sorted(sections)}
    if whole:
        return with_subsections(page, levels)
    _check(flat, levels)
    return levels


def plan_levels(page: Page, levels: Mapping[int, int]) -> EditSet:
    """Return the edits that bring headings to other levels; keys are section indexes.

    Raises RequestError for a section that is not there or a level out of range.
    """
    edits: list[Edit] = []
    for index, level in levels.items():
        if not 0 <= index < len(page.headings):
            raise GoneError("The section")
        if not 1 <= level <= LOWEST:
            raise RequestError(f"Headings have levels 1 to 6, not {level}.")
        edits += level_edits(page, page.headings[index], level)
    return edit_set(page.source, edits)


def with_subsections(page: Page, levels: Mapping[int, int]) -> dict[int, int]:
    """Return new levels by section index, with those of the subsections that move along and are not named themselves.

    Raises RequestError where one would leave the levels 1 to 6.
    """
    flat = read_outline(page).flat()
    moved = dict(levels)
    for index, level in levels.items():
        section = _section(flat, index)
        for part in _within(section):
            if part.index not in levels:
                moved[part.index] = part.level + level - section.level
    _check(flat, moved)
    return dict(sorted(moved.items()))


def _check(flat: list[Section], levels: Mapping[int, int]) -> None:
    for index, level in levels.items():
        if not 1 <= level <= LOWEST:
            raise RequestError(
                f"“{flat[index].text}” is at level {flat[index].level} and cannot go to {level}; headings have the "
                "levels 1 to 6."
            )


def level_edits(page: Page, heading: Heading, level: int) -> list[Edit]:
    """Return the edits that bring one heading to a level, in both of its tags."""
    if heading.level == level:
        return []
    reason = f"“{heading.text}” from level {heading.level} to {level}"
    element = heading.element
    written = page.attribute_at(element.open.start, "aria-level")
    if written is not None:
        return [value_edit(page.text, written, str(level), reason)]
    if not (element.tag[0] == "h" and element.tag[1:].isdigit()):  # role=heading, with the level WAI-ARIA gives it
        at = element.open.start + 1 + len(element.tag)
        return [Edit(at, at, " " + read_habits(page).attribute("aria-level", str(level)), reason=reason)]
    digits = [element.open.start + 2]
    if element.close is not None:
        digits.append(element.close.start + 3)
    return [Edit(at, at + 1, str(level), reason=reason) for at in digits]


def find_repairs(page: Page) -> list[Repair]:
    """Return proposals for what is wrong with the page's levels: gaps, several of the first level, none of it."""
    outline = read_outline(page)
    flat = outline.flat()
    repairs = []
    gaps = _closed_gaps(outline.sections)
    if gaps:
        count = count_gaps(page)
        repairs.append(
            Repair(
                "gaps",
                f"{count} {'place leaves' if count == 1 else 'places leave'} a level out",
                "Each section comes right below the one it belongs to; what belongs to what stays as it is.",
                gaps,
            )
        )
    first = [section for section in flat if section.level == 1]
    if len(first) > 1:
        title = f"{len(first)} headings are of the first level"
        does = f"“{first[0].text}” stays the page's own heading; the others go one level down with all below."
        kept = Repair("several-h1", title, does, _lowered(flat, first[1:]))
        repairs.append(kept)
        if _is_chapter(page, first[0]):
            does = f"“{_own_title(page)}” becomes the page's own heading; all others go one level down."
            repairs.insert(-1, Repair("chapters", title, does, _lowered(flat, first), _own_title(page)))
    elif not first and flat:
        highest = min(section.level for section in flat)
        if flat[0].level == highest and sum(section.level == highest for section in flat) == 1:
            does = f"“{flat[0].text}” contains all others, so it becomes the page's heading."
            repairs.append(Repair("no-h1", _NO_FIRST, does, {0: 1}))
        elif page.title:
            does = f"The page's title, “{_own_title(page)}”, becomes a heading before the content."
            repairs.append(Repair("no-h1", _NO_FIRST, does, {}, _own_title(page)))
    return repairs


def plan_closed_gaps(page: Page) -> EditSet:
    """Return the edits that leave no level out, what belongs to what staying as it is."""
    return plan_levels(page, _closed_gaps(read_outline(page).sections))


def count_gaps(page: Page) -> int:
    """Return how many headings are more than one level below the heading they belong to."""
    flat = read_outline(page).flat()
    return sum(section.parent is not None and section.level > flat[section.parent].level + 1 for section in flat)


def plan_repair(page: Page, code: str) -> EditSet:
    """Return the edits of a repair that was proposed. Raises RequestError where it is not proposed any more."""
    repair = next((found for found in find_repairs(page) if found.code == code), None)
    if repair is None:
        raise RequestError("There is nothing left to repair here.")
    heading = [heading_before(page, _content_begin(page), 1, repair.words)] if repair.words else []
    return edit_set(page.source, [*heading, *plan_levels(page, repair.levels).edits])


def plan_first_heading(page: Page, words: str) -> EditSet:
    """Return the edits that put a heading of the first level before the content, for a page that has none."""
    if any(heading.level == 1 for heading in page.headings):
        raise RequestError("The page already has a level 1 heading.")
    return edit_set(page.source, [heading_before(page, _content_begin(page), 1, words)])


def heading_before(page: Page, offset: int, level: int, words: str, identifier: str | None = None) -> Edit:
    """Return the edit that puts a new heading before what begins at `offset`, in the author's style."""
    words = " ".join(words.split())
    if not words:
        raise RequestError("Type the words of the heading first.")
    habits = read_habits(page)
    markup = habits.start(f"h{level}", id=identifier) + escape(words, quote=False) + habits.end(f"h{level}")
    slot = block_start(page.text, offset)
    gap = habits.newline * (1 + blank_lines(page)) if slot.own_line else ""
    return Edit(slot.at, slot.at, slot.indent + markup + gap, reason=f"heading “{words}”")


def blank_lines(page: Page) -> int:
    """Return 1 where the author leaves a line empty behind headings, as most of the page's headings show; else 0."""
    empty = 0
    for heading in page.headings:
        after = page.text[heading.element.end : heading.element.end + 40].replace("\r\n", "\n").replace("\r", "\n")
        empty += after.lstrip(" \t").startswith("\n") and after.lstrip(" \t")[1:].lstrip(" \t").startswith("\n")
    return int(empty * 2 > len(page.headings))


def _content_begin(page: Page) -> int:
    text, at = page.text, page.content.start
    while at < page.content.end and text[at].isspace():
        at += 1
    return at


def _closed_gaps(sections: Collection[Section]) -> dict[int, int]:
    """Return the levels that leave no gap: each section one below its parent.

    Those without a parent stay as they are; where none is of the first level, they come to the highest of theirs.
    """
    levels: dict[int, int] = {}
    highest = min((section.level for section in sections), default=1)
    stack = [(section, section.level if highest == 1 else highest) for section in sections]
    while stack:
        section, level = stack.pop()
        if level != section.level:
            levels[section.index] = level
        stack += [(part, level + 1) for part in section.sections]
    return dict(sorted(levels.items()))


def _is_chapter(page: Page, first: Section) -> bool:
    """Return whether the first of several h1 is one of the page's chapters: it has text, and no word of the title."""
    said = frozenset(_WORD.findall((page.title or "").casefold()))
    has_text = first.words > len(first.text.split())
    return has_text and bool(said) and said.isdisjoint(_WORD.findall(first.text.casefold()))


def _own_title(page: Page) -> str:
    """Return a page's title without the name of its site behind it."""
    return _SEPARATOR.split((page.title or "").strip(), maxsplit=1)[0]


def _lowered(flat: list[Section], sections: Collection[Section]) -> dict[int, int]:
    """Return levels with some sections and theirs a level down, but none below the lowest."""
    levels: dict[int, int] = {}
    for section in sections:
        for part in (section, *_within(section)):
            levels[part.index] = min(part.level + 1, LOWEST)
    return {index: level for index, level in sorted(levels.items()) if flat[index].level != level}


def _section(flat: list[Section], index: int) -> Section:
    if not 0 <= index < len(flat):
        raise GoneError("The section")
    return flat[index]


def _within(section: Section) -> list[Section]:
    found: list[Section] = []
    stack = list(section.sections)
    while stack:
        part = stack.pop()
        found.append(part)
        stack += part.sections
    return found
