"""A section moved with its subsections: its bytes stay as they are, but for the levels of its headings.

What is between sections, such as empty lines, stays where it is, so that moving there and back gives the first
bytes again.
"""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum

from signpost.core.addresses.fragments import find_indicated
from signpost.core.headings.levels import LOWEST, level_edits
from signpost.core.page import Page, Target, read_edited, read_formatting
from signpost.core.page.edges import section_close
from signpost.core.page.facts import Element, Heading
from signpost.core.page.outline import Section, read_outline, section_of_place
from signpost.core.text.edits import Edit, EditSet, edit_set, edits_between, splice
from signpost.core.text.errors import GoneError, RequestError
from signpost.core.text.positions import Span, after_line_end, indent_before, line_start

#: Elements that say by their end tag where a section ends (HTML 4.3).
_SECTIONING = frozenset(["article", "section"])
#: Elements that are nowhere but in others: a section that opens one cannot go anywhere else.
_PIECES = frozenset("caption colgroup dd dt figcaption li summary tbody td tfoot th thead tr".split())


class Direction(StrEnum):
    """A move by key."""

    UP = "up"  # before the section above it
    DOWN = "down"  # behind the section below it
    IN = "in"  # into the section above it, as its last
    OUT = "out"  # out of the section it is in, to right behind it


class Where(StrEnum):
    """A move by drag: where another section is dropped."""

    BEFORE = "before"
    AFTER = "after"
    INTO = "into"  # as its last subsection


@dataclass(frozen=True, slots=True)
class _Goal:
    at: int  # offset that the section goes to
    level: int


def plan_move(page: Page, index: int, direction: Direction) -> EditSet:
    """Return the edits that move a section one step. Raises RequestError where there is nothing to move past."""
    flat = read_outline(page).flat()
    section = find_section(flat, index)
    siblings = [other for other in flat if other.parent == section.parent]
    at = siblings.index(section)
    before = siblings[at - 1] if at else None
    after = siblings[at + 1] if at + 1 < len(siblings) else None
    name = f"“{section.text}”"
    if direction is Direction.UP:
        if before is None:
            raise RequestError(
                f"{name} is the first section at its level here. Move it out (to the left) to move it further up."
            )
        return plan_drop(page, index, before.index, Where.BEFORE)
    if direction is Direction.DOWN:
        if after is None:
            raise RequestError(
                f"{name} is the last section at its level here. Move it out (to the left) to move it further down."
            )
        return plan_drop(page, index, after.index, Where.AFTER)
    if direction is Direction.IN:
        if before is None:
            raise RequestError(f"There is no section above {name} at the same level to move it into.")
        return plan_drop(page, index, before.index, Where.INTO)
    if section.parent is None:
        raise RequestError(f"{name} is not inside another section, so it cannot move out.")
    return plan_drop(page, index, section.parent, Where.AFTER)


def plan_drop(page: Page, index: int, target: int, where: Where) -> EditSet:
    """Return the edits that move a section before, after or into another one, its levels following.

    Raises RequestError for a section dropped on itself, one that shares an element with another section, or levels
    that would go beyond 6.
    """
    flat = read_outline(page).flat()
    section, onto = find_section(flat, index), find_section(flat, target)
    if onto.index == section.index or is_within(flat, onto, section):
        raise RequestError(f"“{section.text}” cannot be moved into itself.")
    own = section_span(page, flat, section)
    goal = _goal(page, flat, onto, where)
    levels = _levels(page, flat, section, goal.level - section.level)
    if own.start <= goal.at <= own.end:
        return edit_set(page.source, levels)
    edits = edit_set(page.source, _swap(page, own, goal.at, levels))
    _verify(page, flat, section, goal, edits)
    return edits


def _verify(page: Page, flat: list[Section], section: Section, goal: _Goal, edits: EditSet) -> None:
    """Raise RequestError where the moved markup is understood otherwise than meant, as broken markup may be."""
    moving = [part for part in flat if part.index == section.index or is_within(flat, part, section)]
    shift = goal.level - section.level
    rest = [part for part in flat if part not in moving]
    behind = [part for part in rest if part.heading.begin >= goal.at]
    before = [part for part in rest if part.heading.begin < goal.at]
    expected = [(part.level, part.text) for part in before]
    expected += [(part.level + shift, part.text) for part in moving]
    expected += [(part.level, part.text) for part in behind]
    after = read_edited(page, edits)
    if [(heading.level, heading.text) for heading in after.headings] != expected:
        raise RequestError(
            f"The markup around “{section.text}” is broken in a way that moving would make worse. "
            "Correct its end tags first."
        )
    order = [-1, *(part.index for part in (*before, *moving, *behind))]  # old indexes in their new order
    if _looks(after, order) != _looks(page, range(-1, len(flat))):
        raise RequestError(
            f"An element for bold, italic or coloured words is left open near “{section.text}”, so other sections "
            "would look different after the move. Close it first."
        )
    reached = _reached(page, range(-1, len(flat)))
    changed = next((name for name, at in _reached(after, order).items() if reached.get(name) != at), None)
    if changed is not None:
        raise RequestError(
            f"“{changed}” is the identifier of several elements, and links to it would reach another one after the "
            "move. Give each an identifier of its own first."
        )


def _looks(page: Page, order: Sequence[int]) -> dict[int, list[tuple[str, ...]]]:
    """Return the formatting that the elements of each section stand in; `order` gives the sections their keys."""
    begins = [heading.begin for heading in page.headings]
    looks: dict[int, list[tuple[str, ...]]] = {}
    for start, formatting in read_formatting(page):
        if page.content.start <= start < page.content.end:
            looks.setdefault(order[bisect_right(begins, start)], []).append(formatting)
    return looks


def _reached(page: Page, order: Sequence[int]) -> dict[str, int]:
    """Return the section that links to each identifier reach."""
    index = page.index_targets()
    reached = {}
    for name in {target.name for target in page.targets}:
        target = find_indicated(name, index)
        if isinstance(target, Target):
            reached[name] = order[section_of_place(page, target.start) + 1]
    return reached


def section_span(page: Page, flat: list[Section], section: Section) -> Span:
    """Return the whole of a section, from what opens with its heading to where it ends.

    A `section` or `article` that opens with the heading ends it, where its subsections are in there too; what the
    author wrote behind that end tag is not the section's (HTML 4.3.3). Lines that it fills are taken from their
    beginning. Raises RequestError where it shares an element with others, so that its markup would be torn.
    """
    heading = section.heading
    start = heading.begin
    around = [element for element in heading.ancestors if element.open.start < start]
    if any(element.tag in _PIECES for element in heading.ancestors if element.open.start >= start):
        raise RequestError(f"“{section.text}” is in a list or a table, which cannot be split. Edit the source.")
    after = next((other for other in flat[section.index + 1 :] if other.level <= section.level), None)
    limit = after.heading.begin if after else page.content.end
    holder = around[-1].close if around else None
    end = holder.start if holder is not None and holder.start < limit else limit
    if after is not None and after.heading.begin == end:
        theirs = [element for element in after.heading.ancestors if element.open.start < end < element.end]
        if [element.open for element in theirs] != [element.open for element in around]:
            raise RequestError(
                f"“{section.text}” shares an element with other content, so moving it would break the markup. "
                "Move it in the source."
            )
    own = next((one for one in heading.ancestors if one.open.start >= start and one.tag in _SECTIONING), None)
    last = flat[(after.index if after else len(flat)) - 1].heading.element
    if own is not None and own.close is not None and last.end <= own.end < end and _has_content(page, heading, own):
        end = after_line_end(page.text, own.end) or own.end
    return Span(_line_begin(page.text, start), _line_begin(page.text, end))


def _has_content(page: Page, heading: Heading, own: Element) -> bool:
    """Return whether an element contains more than its heading, so that it is the section and not a box for that."""
    return own.close is not None and bool(page.text[heading.element.end : own.close.start].strip())


def _line_begin(text: str, offset: int) -> int:
    return line_start(text, offset) if indent_before(text, offset) is not None else offset


def _goal(page: Page, flat: list[Section], onto: Section, where: Where) -> _Goal:
    span = section_span(page, flat, onto)
    if where is Where.BEFORE:
        return _Goal(span.start, onto.level)
    if where is Where.AFTER:
        return _Goal(span.end, onto.level)
    return _Goal(_line_begin(page.text, section_close(page, flat, onto)), onto.level + 1)


def _swap(page: Page, own: Span, to: int, levels: list[Edit]) -> list[Edit]:
    """Return the edits that swap a section with what lies between it and its goal; white space stays."""
    text = page.text
    section = splice(text, own, levels)
    down = own.start < to
    passed = (Span(own.end, to) if down else Span(to, own.start)).of(text)
    first, second = (section, passed) if down else (passed, section)
    moved = [
        _around(first)[0],
        second.strip(),
        _around(first)[1],
        _around(second)[0],
        first.strip(),
        _around(second)[1],
    ]
    start, end = min(own.start, to), max(own.end, to)
    return edits_between(text[start:end], "".join(moved), start, "section moved")


def _around(whole: str) -> tuple[str, str]:
    """Return the white space before and behind a stretch's markup; of nothing but white space, all before."""
    core = whole.strip()
    start = whole.find(core) if core else len(whole)
    return whole[:start], whole[start + len(core) :]


def _levels(page: Page, flat: list[Section], section: Section, shift: int) -> list[Edit]:
    """Return the edits that bring a section and its subsections to other levels."""
    parts = [other for other in flat if other.index == section.index or is_within(flat, other, section)]
    for part in parts:
        if not 1 <= part.level + shift <= LOWEST:
            raise RequestError(
                f"“{part.text}” would end up at level {part.level + shift}; headings have levels 1 to 6. "
                "Raise it first."
            )
    return [edit for part in parts for edit in level_edits(page, part.heading, part.level + shift)]


def find_section(flat: list[Section], index: int) -> Section:
    """Return the section with this index. Raises GoneError where it is not there."""
    if not 0 <= index < len(flat):
        raise GoneError("The section")
    return flat[index]


def is_within(flat: list[Section], section: Section, outer: Section) -> bool:
    """Return whether a section is somewhere within another one."""
    while section.parent is not None:
        section = flat[section.parent]
        if section.index == outer.index:
            return True
    return False
