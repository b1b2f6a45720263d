"""A table of contents: a nested list of jump links to sections, made, refreshed, taken out again."""

from __future__ import annotations

from collections.abc import Collection, Sequence
from dataclasses import dataclass
from enum import StrEnum

from signpost.core.edits import Edit, EditSet, edit_set, edits_between
from signpost.core.habits import Habits, read_habits
from signpost.core.identifiers import propose_identifiers, put_identifier
from signpost.core.links import relative_address
from signpost.core.naming import IdentifierRule
from signpost.core.outline import read_outline
from signpost.core.page import Made, Page
from signpost.core.placing import block_end, block_start, whole_block


class Form(StrEnum):
    """How the entries stand."""

    LIST = "list"  # nested lists
    ROW = "row"  # one row with separators between the entries


@dataclass(frozen=True, slots=True)
class ContentsOptions:
    """What a contents block holds."""

    levels: Collection[int] = (2, 3)
    form: Form = Form.LIST
    left_out: Collection[str] = ()  # identifiers of sections that get no entry
    label: str = "Contents"
    separator: str = " | "


@dataclass(frozen=True, slots=True)
class _Frame:
    """The element around the entries."""

    tag: str
    start: str  # its start tag as written
    indent: str  # of its line


@dataclass(frozen=True, slots=True)
class _Entry:
    identifier: str
    markup: str
    level: int


def plan_contents(page: Page, options: ContentsOptions, rule: IdentifierRule | None = None) -> EditSet:
    """Return the edits that make the page's contents, or bring those made earlier up to date.

    Sections of the chosen levels get identifiers where they have none. Without such sections nothing is planned.
    """
    sections = [section for section in read_outline(page).flat() if section.level in options.levels]
    proposed = propose_identifiers(page, options.levels, rule)
    habits = read_habits(page)
    entries = [
        _Entry(section.identifier or proposed[section.index], section.heading.entry, section.level)
        for section in sections
        if (section.identifier or proposed[section.index]) not in options.left_out
    ]
    if not entries:
        return edit_set(page.source, ())
    edits = [
        put_identifier(page, habits, section.heading.element.open.start, proposed[section.index])
        for section in sections
        if section.index in proposed
    ]
    made = find_contents(page)
    if made is not None:
        return edit_set(page.source, [*edits, *_refresh(page, habits, made, entries, options)])
    where = block_start(page.text, sections[0].heading.begin)
    tag = "nav" if page.html5 else "div"
    start = habits.start(tag, class_="contents", aria_label=options.label if page.html5 else None)
    block = _write(page, habits, entries, options, _Frame(tag, start, where.indent))
    gap = habits.newline if where.own_line else ""
    edits.append(Edit(where.at, where.at, where.indent + block + gap, rank=1, reason="contents"))
    return edit_set(page.source, edits)


def plan_no_contents(page: Page) -> EditSet:
    """Return the edits that take out the contents made earlier; identifiers stay, since links may use them."""
    made = find_contents(page)
    if made is None:
        return edit_set(page.source, ())
    span = whole_block(page.text, made.element)
    return edit_set(page.source, [Edit(span.start, span.end, "", reason="contents taken out")])


def find_contents(page: Page) -> Made | None:
    """Return the contents block of the whole page that was made earlier, or None."""
    blocks = page.made_blocks("contents")
    return blocks[0] if blocks else None


def listed_identifiers(page: Page) -> list[str]:
    """Return the identifiers that the page's contents point to, in their order; [] where there are none."""
    made = find_contents(page)
    if made is None:
        return []
    return [link.href[1:] for link in made.links if link.href and link.href.startswith("#")]


def _refresh(
    page: Page, habits: Habits, made: Made, entries: Sequence[_Entry], options: ContentsOptions
) -> list[Edit]:
    """Return the edits that bring a made block up to date, touching only the lines that differ.

    Its start tag stays as it is: what the author wrote into it is the author's.
    """
    element = made.element
    end = block_end(element)
    old = page.text[element.open.start : end]
    indent = block_start(page.text, element.open.start).indent
    frame = _Frame(element.tag, element.open.of(page.text), indent)
    new = _write(page, habits, entries, options, frame)
    return edits_between(old, new, element.open.start, "contents brought up to date")


def _write(page: Page, habits: Habits, entries: Sequence[_Entry], options: ContentsOptions, frame: _Frame) -> str:
    """Return the block's markup; its first line carries no indent, for the caller knows where it goes."""
    inside = frame.indent + habits.indent
    if options.form is Form.ROW:
        lines = [inside + options.separator.join(_link(page, habits, entry) for entry in entries)]
    else:
        lines = _list_lines(page, habits, entries, inside)
    return habits.newline.join([frame.start, *lines, frame.indent + habits.end(frame.tag)])


def _link(page: Page, habits: Habits, entry: _Entry) -> str:
    address = relative_address(page.path, page.path, entry.identifier)
    markup = entry.markup
    if habits.upper_case:
        markup = _upper_tags(markup)
    return f"{habits.start('a', href=address)}{markup}{habits.end('a')}"


def _upper_tags(markup: str) -> str:
    """Return an entry's markup with its tags in capitals; within it "<" only ever begins a tag."""
    pieces = markup.split("<")
    return "<".join(
        [pieces[0], *(name.upper() + ">" + rest for name, _, rest in (p.partition(">") for p in pieces[1:]))]
    )


def _list_lines(page: Page, habits: Habits, entries: Sequence[_Entry], indent: str) -> list[str]:
    """Return the lines of nested lists. A level that is skipped opens one list, not two."""
    lines = [indent + habits.start("ul")]
    open_levels = [entries[0].level]
    step = habits.indent
    item_open = False
    for entry in entries:
        inside = indent + step * (2 * len(open_levels) - 1)
        if item_open and entry.level > open_levels[-1]:
            lines.append(inside + step + habits.start("ul"))
            open_levels.append(entry.level)
        else:
            if item_open:
                lines[-1] += habits.end("li")
            while len(open_levels) > 1 and entry.level <= open_levels[-2]:
                lines += _close_list(habits, indent, len(open_levels))
                open_levels.pop()
            open_levels[-1] = entry.level if len(open_levels) > 1 else min(entry.level, open_levels[0])
        inside = indent + step * (2 * len(open_levels) - 1)
        lines.append(f"{inside}{habits.start('li')}{_link(page, habits, entry)}")
        item_open = True
    lines[-1] += habits.end("li")
    for depth in range(len(open_levels), 1, -1):
        lines += _close_list(habits, indent, depth)
    return [*lines, indent + habits.end("ul")]


def _close_list(habits: Habits, indent: str, depth: int) -> list[str]:
    step = habits.indent
    return [
        indent + step * (2 * depth - 2) + habits.end("ul"),
        indent + step * (2 * depth - 3) + habits.end("li"),
    ]
