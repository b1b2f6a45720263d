"""Sections in `section` elements labelled by their headings (HTML 4.3.3), and the same removed again."""

from __future__ import annotations

from collections.abc import Collection, Sequence
from dataclasses import dataclass

from signpost.core.headings.moves import section_span
from signpost.core.identifiers.naming import IdentifierRule, Named, choose_identifiers
from signpost.core.identifiers.sections import put_identifier
from signpost.core.page import Element, Page
from signpost.core.page.habits import Habits, read_habits
from signpost.core.page.outline import Section, read_outline
from signpost.core.text.edits import Edit, EditSet, edit_set
from signpost.core.text.errors import RequestError
from signpost.core.text.positions import after_line_end, end_before, indent_before, line_start

_LABEL = "aria-labelledby"


@dataclass(frozen=True, slots=True)
class Wrapping:
    """A plan, and the sections that it had to leave as they are."""

    edits: EditSet
    left: tuple[str, ...]  # words of their headings


def plan_wrapping(page: Page, levels: Collection[int]) -> Wrapping:
    """Return the edits that put each section of these levels into a `section` element labelled by its heading.

    Sections that are in one of their own already are left, and so are those whose markup would be torn; these are
    named. Headings get identifiers where they have none.
    """
    if not page.html5:
        raise RequestError(
            "The page's document type is older than the section element. Change it to <!DOCTYPE html> first."
        )
    unclosed = next((heading for heading in page.headings if heading.element.close is None), None)
    if unclosed is not None:
        raise RequestError(
            f"“{unclosed.text[:60]}” has no end tag, so the new ones would end up inside it. Close it first."
        )
    flat = read_outline(page).flat()
    habits = read_habits(page)
    names = _labels(page, flat, levels)
    edits: list[Edit] = []
    left = []
    for section in flat:
        if section.level not in levels or _wrapper(section) is not None:
            continue
        try:
            span = section_span(page, flat, section)
        except RequestError:
            left.append(section.text)
            continue
        name = names[section.index]
        if _own_identifier(page, section) is None:
            edits.append(put_identifier(page, habits, section.heading.element.open.start, name))
        edits += _tags(page, habits, section, (span.start, span.end), name)
    return Wrapping(edit_set(page.source, edits), tuple(left))


def _labels(page: Page, flat: Sequence[Section], levels: Collection[int]) -> dict[int, str]:
    """Return the `id` of each section's heading, its own or one that it gets; an anchor's is no label."""
    own = {section.index: _own_identifier(page, section) for section in flat if section.level in levels}
    headings = [Named(section.text, own.get(section.index), section.parent) for section in flat]
    wanted = [index for index, name in own.items() if name is None]
    taken = {target.name for target in page.targets}
    given = choose_identifiers(headings, wanted, taken, IdentifierRule(), page.language)
    return {index: name or given[index] for index, name in own.items()}


def _own_identifier(page: Page, section: Section) -> str | None:
    written = page.attribute_at(section.start, "id")
    return written.value or None if written else None


def _tags(page: Page, habits: Habits, section: Section, ends: tuple[int, int], name: str) -> list[Edit]:
    start, end = ends
    text = page.text
    reason = f"section element around “{section.text}”"
    indent = indent_before(text, section.heading.begin)
    behind = after_line_end(text, end_before(text, end))
    at = end if behind is None else min(behind, end)
    opening, closing = habits.start("section", aria_labelledby=name), habits.end("section")
    if indent is not None and at and text[at - 1] in "\r\n":
        opening, closing = (f"{indent}{tag}{habits.newline}" for tag in (opening, closing))
    else:
        at = max(section.heading.element.end, end_before(text, end))
    index = section.index
    return [
        Edit(start, start, opening, rank=index + 1, reason=reason),
        Edit(at, at, closing, rank=-index - 1, reason=reason),
    ]


def plan_unwrapping(page: Page, levels: Collection[int]) -> Wrapping:
    """Return the edits that remove the `section` elements around sections of these levels.

    Those that carry an identifier, a class or anything else but a label by their heading stay, and are named.
    """
    edits: list[Edit] = []
    left = []
    for section in read_outline(page).flat():
        wrapper = _wrapper(section) if section.level in levels else None
        if wrapper is None:
            continue
        if wrapper.close is None or not _is_plain(page, wrapper, section):
            left.append(section.text)
            continue
        for tag in (wrapper.open, wrapper.close):
            after = after_line_end(page.text, tag.end)
            alone = indent_before(page.text, tag.start) is not None and after is not None
            start = line_start(page.text, tag.start) if alone else tag.start
            edits.append(Edit(start, after if alone and after else tag.end, "", reason="section element taken away"))
    return Wrapping(edit_set(page.source, edits), tuple(left))


def wrapped_sections(sections: Sequence[Section]) -> list[int]:
    """Return the indexes of the sections that are in a `section` element of their own."""
    return [section.index for section in sections if _wrapper(section) is not None]


def _wrapper(section: Section) -> Element | None:
    """Return the `section` element that opens with a section's heading and ends with it."""
    for element in reversed(section.heading.ancestors):
        if element.open.start < section.heading.begin:
            return None
        if element.tag == "section":
            return element
    return None


def _is_plain(page: Page, wrapper: Element, section: Section) -> bool:
    attributes = page.attributes_at(wrapper.open.start)
    labelled = [found.name for found in attributes] == [_LABEL]
    return not attributes or (labelled and attributes[0].value == _own_identifier(page, section))
