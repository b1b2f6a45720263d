"""Where a long page may be cut: before a section, or between two blocks."""

from __future__ import annotations

import re
from collections.abc import Collection, Iterable
from dataclasses import dataclass

from signpost.core.page import Heading, Page, read_nodes
from signpost.core.page.blocks import read_blocks
from signpost.core.page.phrasing import count_words
from signpost.core.text.errors import RequestError
from signpost.core.text.positions import indent_before, line_start
from signpost.core.text.tags import without_markup

#: Elements that are never cut; a heading among them contains another where it was never closed.
WHOLE = frozenset(
    "ul ol dl menu table pre figure blockquote details form fieldset svg math picture video audio object "
    "h1 h2 h3 h4 h5 h6".split()
)
#: How far before a section's beginning is looked for what belongs to it, in characters.
_REACH = 4000
_SOLID = re.compile(r"\S")
_COMMENT = re.compile(r"<!--(?:(?!-->).)*-->$", re.DOTALL)
_CLOSING_NOTE = re.compile(r"<!--\s*(?:/|end\b)", re.IGNORECASE)
_RULE = re.compile(r"<(?:hr|br|img)\b[^<>]*>$", re.IGNORECASE)
_MARKED = re.compile(r"\s(?:id|name)\s*=", re.IGNORECASE)


@dataclass(frozen=True, slots=True)
class Cut:
    """A place where the page may be cut."""

    at: int  # offset, at the start of a line where what follows begins one
    words_before: int  # words of the content before it
    section: int | None  # index of the section that it is before; None for a place between blocks
    level: int | None  # of that section


def find_cuts(page: Page) -> list[Cut]:
    """Return all sections that the page may be cut before, in source order; never before what opens the content."""
    cuts = []
    shown = _first_shown(page)
    for index, heading in enumerate(page.headings):
        if any(element.tag in WHOLE for element in heading.ancestors):
            continue
        at = max(_line_of(page, _with_what_belongs(page, heading)), page.content.start)
        if shown < at < page.content.end:
            cuts.append(Cut(at, heading.words_before, index, heading.level))
    return cuts


def _first_shown(page: Page) -> int:
    """Return where the page's content has the first character that is no white space; its end where it has none."""
    found = _SOLID.search(page.text, page.content.start, page.content.end)
    return found.start() if found else page.content.end


def find_places(page: Page) -> list[Cut]:
    """Return all places where the page may be cut, sections and blocks, in source order."""
    places = {cut.at: cut for cut in find_cuts(page)}
    begins = {heading.begin for heading in page.headings}
    nodes = read_nodes(page)
    shown = _first_shown(page)
    shut_in = {node.start for node in nodes.all if any(above.tag in WHOLE for above in nodes.above(node))}
    for block in read_blocks(page, nodes):
        if block.start in shut_in:
            continue
        at = _line_of(page, _behind_comments(page, block.start))
        if block.start in begins or at in places or not shown < at < page.content.end:
            continue
        places[at] = Cut(at, _words_before(page, at, block.section), None, None)
    return [places[at] for at in sorted(places)]


def cuts_at_level(page: Page, level: int) -> list[int]:
    """Return the sections of one level that the page may be cut before, by index; the first of them is left out.

    What is before the first section would be a part without a section of its own.
    """
    first = next((index for index, heading in enumerate(page.headings) if heading.level == level), None)
    cuts = (cut for cut in find_cuts(page) if cut.level == level)
    return [cut.section for cut in cuts if cut.section is not None and cut.section != first]


def cuts_by_identifier(page: Page, identifiers: Collection[str]) -> list[int]:
    """Return the sections with these identifiers, by index. Raises RequestError for one that no section has."""
    by_name = {heading.identifier: index for index, heading in enumerate(page.headings)}
    found = []
    for name in identifiers:
        if name not in by_name:
            raise RequestError(f"No section of {page.path} has the identifier “{name}”.")
        found.append(by_name[name])
    return found


def cuts_of_sections(page: Page, sections: Iterable[int]) -> list[Cut]:
    """Return the cuts before sections, by index, in source order. Raises RequestError for one that cannot be."""
    possible = {cut.section: cut for cut in find_cuts(page)}
    chosen = {}
    for index in sections:
        if not 0 <= index < len(page.headings):
            raise RequestError(f"The page has no section number {index + 1}. Reload it and choose again.")
        if index not in possible:
            heading = page.headings[index]
            raise RequestError(
                f"The page cannot be cut before section “{heading.text}”: it is where the content starts, or inside "
                f"a list, a table, a sample or a figure. {_nearest(page, heading.begin)}"
            )
        chosen[possible[index].at] = possible[index]
    return [chosen[at] for at in sorted(chosen)]


def cut_at(page: Page, offset: int) -> Cut:
    """Return the cut at a place that the author marked: before the section or block that begins there.

    Raises RequestError, with the nearest place that is possible, where the page cannot be cut there.
    """
    for cut in find_places(page):
        if cut.at <= offset and not page.text[cut.at : offset].strip():
            return cut
        if cut.at > offset:
            break
    holder = _holder(page, offset)
    within = f"inside {holder}" if holder else "no place between two blocks"
    raise RequestError(
        f"The page cannot be cut at line {page.source.lines.line(offset)}: that is {within}. {_nearest(page, offset)}"
    )


def _nearest(page: Page, offset: int) -> str:
    """Return in words the place nearest to an offset where the page can be cut."""
    places = find_places(page)
    if not places:
        return "It can be cut nowhere."
    nearest = min(places, key=lambda cut: abs(cut.at - offset))
    line = page.source.lines.line(nearest.at + _blank(page.text, nearest.at))
    before = f"before “{page.headings[nearest.section].text}”, " if nearest.section is not None else ""
    return f"The nearest place is {before}line {line}."


def _blank(text: str, at: int) -> int:
    return len(text[at : at + _REACH]) - len(text[at : at + _REACH].lstrip())


_NAMES = {
    "ul": "a list", "ol": "a list", "dl": "a list", "menu": "a list", "table": "a table", "pre": "a sample",
    "figure": "a figure", "blockquote": "a quotation", "details": "a passage that folds", "form": "a form",
    "fieldset": "a form", "svg": "a drawing",
}  # fmt: skip


def _holder(page: Page, offset: int) -> str:
    """Return in words which element keeps a place from being cut; "" for none."""
    nodes = read_nodes(page)
    node = nodes.at(offset)
    found = "" if node is None else _NAMES.get(node.tag, "")
    for above in nodes.above(node) if node else ():
        found = _NAMES.get(above.tag, found)
    return found


def _words_before(page: Page, at: int, section: int) -> int:
    """Return the words of the content that are before a place in a section; -1 stands for the lead."""
    start = page.content.start if section < 0 else page.headings[section].element.open.start
    before = 0 if section < 0 else page.headings[section].words_before
    return before + count_words(without_markup(page.text[start:at], " "))


def _line_of(page: Page, at: int) -> int:
    return at if indent_before(page.text, at) is None else line_start(page.text, at)


def _behind_comments(page: Page, at: int) -> int:
    """Return where the remarks that are right before a place, on lines of their own, begin."""
    while True:
        low = max(page.content.start, at - _REACH)
        before = page.text[low:at].rstrip()
        found = _COMMENT.search(before)
        if found is None or _CLOSING_NOTE.match(found[0]) or indent_before(page.text, low + found.start()) is None:
            return at
        at = low + found.start()


def _with_what_belongs(page: Page, heading: Heading) -> int:
    """Return where a cut before a section is: before remarks, identifiers and boxes that open with its heading.

    An identifier in front of a heading means that heading, whatever element has it; a link to one that stayed behind
    would land at the end of another part.
    """
    openings = {element.open.end: element.open.start for element in heading.ancestors}
    at = probe = _behind_comments(page, heading.begin)
    while probe > page.content.start:
        low = max(page.content.start, probe - _REACH)
        end = low + len(page.text[low:probe].rstrip())
        rule = _RULE.search(page.text[low:end])
        if end in openings and openings[end] >= page.content.start:
            at = probe = _behind_comments(page, openings[end])
        elif rule is not None:
            probe = low + rule.start()
            if _MARKED.search(rule[0]):
                at = probe = _behind_comments(page, probe)
        else:
            break
    return at
