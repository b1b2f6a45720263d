"""Back-to-top links: one after each section of a level, at its end and before the next heading."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

from signpost.core.contents import find_contents
from signpost.core.edits import Edit, EditSet, edit_set
from signpost.core.errors import RequestError
from signpost.core.fragments import TOP, find_indicated
from signpost.core.habits import Habits, read_habits
from signpost.core.identifiers import put_identifier
from signpost.core.outline import Section, read_outline
from signpost.core.page import Heading, Link, Page, Target
from signpost.core.placing import block_start, whole_block
from signpost.core.positions import indent_before
from signpost.core.tags import value_edit

#: The identifier that the contents get when ways back lead to them, and the next choice where it is taken.
CONTENTS_IDENTIFIERS = ("contents", "page-contents")


class Destination(StrEnum):
    """Where a way back leads."""

    TOP = "top"  # the standard's own "#top", which needs no element
    CONTENTS = "contents"


@dataclass(frozen=True, slots=True)
class ReturnOptions:
    """Which sections get a way back, and what it says."""

    level: int = 2
    to: Destination = Destination.TOP
    least_words: int = 0  # sections with fewer get none
    words: str = "Back to top"


def plan_returns(page: Page, options: ReturnOptions) -> EditSet:
    """Return the edits that put a way back after each section of the level that has none.

    Those made earlier are led where the options say; those that an author made by hand count, and stay as they are.
    Raises RequestError where ways back shall lead to contents that the page does not have.
    """
    habits = read_habits(page)
    fragment, edits = _destination(page, habits, options)
    for made in page.made_blocks("back-to-top"):
        edits += _redirect(page, made.links, fragment)
    sections = read_outline(page).flat()
    existing = find_ways_back(page)
    link = f"{habits.start('a', href='#' + fragment)}{options.words}{habits.end('a')}"
    block = f"{habits.start('p', class_='back-to-top')}{link}{habits.end('p')}"
    edits += [
        _insert(page, sections, section, block, habits)
        for section in sections
        if section.level == options.level
        and section.words >= options.least_words
        and not has_way_back(section, existing)
    ]
    return edit_set(page.source, edits)


def plan_no_returns(page: Page) -> EditSet:
    """Return the edits that take out the ways back made earlier; those made by hand stay."""
    spans = [whole_block(page.text, made.element) for made in page.made_blocks("back-to-top")]
    return edit_set(page.source, [Edit(span.start, span.end, "", reason="way back taken out") for span in spans])


def find_ways_back(page: Page) -> list[Link]:
    """Return the links in the page's content that lead back to its top or to its contents, in source order."""
    targets = page.index_targets()
    contents = find_contents(page)
    made = {link.start for block in page.made_blocks("back-to-top") for link in block.links}

    def is_up(found: Target) -> bool:
        if contents is not None and contents.element.open.start <= found.start < contents.element.end:
            return True
        before = page.text[page.content.start : found.start]
        first = page.headings[0] if page.headings else None
        opens = first is not None and first.words_before == 0 and found.start == first.element.open.start
        return opens or not before.strip()

    ways = []
    for link in page.links:
        if link.start in made:
            ways.append(link)
        elif link.href and link.href.startswith("#") and page.in_content(link.start):
            found = find_indicated(link.href[1:], targets)
            if found is TOP or (isinstance(found, Target) and found.start < link.start and is_up(found)):
                ways.append(link)
    return ways


def has_way_back(section: Section, ways: list[Link]) -> bool:
    """Return whether one of the ways back `ways` stands within a section."""
    return any(section.start <= way.start < section.end for way in ways)


def _destination(page: Page, habits: Habits, options: ReturnOptions) -> tuple[str, list[Edit]]:
    if options.to is Destination.TOP:
        return "top", []
    contents = find_contents(page)
    if contents is None:
        raise RequestError("The page has no contents yet for ways back to lead to. Make the contents first.")
    start = contents.element.open.start
    own = page.attribute_at(start, "id")
    if own is not None and own.value:
        return own.value, []
    taken = {target.name for target in page.targets}
    name = next((name for name in CONTENTS_IDENTIFIERS if name not in taken), None)
    if name is None:
        raise RequestError("The identifiers “contents” and “page-contents” are taken. Give the contents one by hand.")
    return name, [put_identifier(page, habits, start, name)]


def _redirect(page: Page, links: tuple[Link, ...], fragment: str) -> list[Edit]:
    edits = []
    for link in links:
        written = page.attribute_at(link.start, "href") if link.href != "#" + fragment else None
        if written is not None:
            edits.append(value_edit(page.text, written, "#" + fragment, "way back led elsewhere"))
    return edits


def _insert(page: Page, sections: list[Section], section: Section, block: str, habits: Habits) -> Edit:
    slot = block_start(page.text, section_close(page, sections, section))
    reason = f"way back after “{section.text}”"
    if not slot.own_line:
        return Edit(slot.at, slot.at, block, rank=-section.index, reason=reason)
    indent = indent_before(page.text, section.heading.element.open.start)
    text = (slot.indent if indent is None else indent) + block + habits.newline
    return Edit(slot.at, slot.at, text, rank=-section.index, reason=reason)


def section_close(page: Page, sections: list[Section], section: Section) -> int:
    """Return the offset at which something goes that shall end a section.

    A section that stands in an element of its own ends before that element's end tag; any other one before what the
    next section begins with, or where the content ends.
    """
    after = next((other for other in sections[section.index + 1 :] if other.level <= section.level), None)
    heading = section.heading
    shared = _shared_ancestors(heading, after.heading if after else None)
    if len(heading.ancestors) > shared:
        wrapper = heading.ancestors[shared]
        if wrapper.close is not None and (after is None or wrapper.end <= after.heading.begin):
            return wrapper.close.start
    return page.content.end if after is None else after.heading.begin


def _shared_ancestors(one: Heading, other: Heading | None) -> int:
    """Return how many of the outermost ancestors two headings share; none are shared with no heading."""
    shared = 0
    for mine, theirs in zip(one.ancestors, other.ancestors if other else (), strict=False):
        if mine.open != theirs.open:
            break
        shared += 1
    return shared
