"""The titles of sections, typed or pasted, made into headings with identifiers and a contents list."""

from __future__ import annotations

import re
from collections.abc import Collection, Sequence
from dataclasses import dataclass
from html import escape

from signpost.core.addresses.links import read_address, relative_address, resolve_path
from signpost.core.contents import ContentsOptions, plan_contents
from signpost.core.headings.levels import LOWEST, blank_lines
from signpost.core.identifiers.naming import IdentifierRule, Named, choose_identifiers
from signpost.core.page import Node, Page, read_nodes, read_page
from signpost.core.page.blocks import read_blocks
from signpost.core.page.habits import Habits, read_habits
from signpost.core.page.placing import block_start, whole_block
from signpost.core.page.plans import plan_in_turn, refuse_unseen
from signpost.core.text.edits import Edit, EditSet, apply_edits, edit_set
from signpost.core.text.errors import GoneError, RequestError
from signpost.core.text.positions import end_before, indent_before, line_indent
from signpost.core.text.source import read_source
from signpost.core.text.tags import path_edit

_BULLET = re.compile(r"^(?:[-*+•–]|\(?\d+(?:\.\d+)*[.)])\s+")
_TAB = 4  # columns
#: What a head says of the page itself, so that a page which takes it over must not keep it.
_OF_THE_PAGE = frozenset("description keywords author date revised last-modified".split())
_OF_THE_PAGE_LINKS = frozenset("canonical prev next alternate shortlink".split())


@dataclass(frozen=True, slots=True)
class Title:
    """A section's title, and how deep it is."""

    text: str
    level: int


def read_titles(text: str, highest: int = 2) -> list[Title]:
    """Return the titles that an author typed, one a line; a title indented further belongs to the one above.

    Marks of a list are dropped. Raises RequestError where there are none, or they nest deeper than level 6.
    """
    titles: list[Title] = []
    steps: list[int] = []
    for line in text.expandtabs(_TAB).splitlines():
        words = _BULLET.sub("", line.strip())
        if not words:
            continue
        indent = len(line) - len(line.lstrip())
        while steps and indent <= steps[-1]:
            steps.pop()
        steps.append(indent)
        level = highest + len(steps) - 1
        if level > LOWEST:
            raise RequestError(f"“{words}” would end up at level {level}; headings have levels 1 to 6.")
        titles.append(Title(" ".join(words.split()), level))
    if not titles:
        raise RequestError("There are no titles yet. Type one per line, with subsections indented.")
    return titles


def plan_skeleton(
    page: Page,
    titles: Sequence[Title],
    before: int | None = None,
    *,
    contents: bool = True,
    rule: IdentifierRule | None = None,
) -> EditSet:
    """Return the edits that put headings with identifiers into a page, and with `contents` a list of its sections.

    They go before the block whose start tag begins at `before`, or to the end of the content. Raises RequestError
    where that block is not there.
    """
    if before is not None and before not in {block.start for block in read_blocks(page)}:
        raise GoneError("The block")
    taken = {target.name for target in page.targets}
    insertion, names = _insertion(page, titles, page.content.end if before is None else before, taken, rule)

    def headings(page: Page) -> EditSet:
        return refuse_unseen(page, edit_set(page.source, [insertion]), names)

    def listed(page: Page) -> EditSet:
        return plan_contents(page, ContentsOptions(sorted({title.level for title in titles})), rule)

    planners = (headings, listed) if contents else (headings,)
    return plan_in_turn(page, *planners, reason="headings and their contents")


def make_page(
    path: str,
    title: str,
    titles: Sequence[Title],
    frame: Page | None = None,
    *,
    contents: bool = True,
    language: str | None = None,
    rule: IdentifierRule | None = None,
) -> bytes:
    """Return the bytes of a new page with a title, these sections and their contents.

    `language` is the site's, as a language tag. With `frame`, another page's head, header, navigation and footer
    stand around it, in that page's encoding; what its head says of that page alone is left out. Raises RequestError
    for an empty title.
    """
    title = " ".join(title.split())
    if not title:
        raise RequestError("The page needs a title of its own. Type one first.")
    data = _bare_page(title, language) if frame is None else _framed(frame, path, title)
    page = read_page(path, read_source(data))
    edits = plan_skeleton(page, titles, contents=contents, rule=rule)
    return apply_edits(page.source, edits)


def _insertion(
    page: Page, titles: Sequence[Title], at: int, taken: set[str], rule: IdentifierRule | None
) -> tuple[Edit, Collection[str]]:
    """Return the edit that puts headings in, and their identifiers."""
    habits = read_habits(page)
    parents: list[int] = []
    named = []
    for index, title in enumerate(titles):
        while parents and titles[parents[-1]].level >= title.level:
            parents.pop()
        named.append(Named(title.text, None, parents[-1] if parents else None))
        parents.append(index)
    names = choose_identifiers(named, range(len(titles)), taken, rule or IdentifierRule(), page.language)
    slot = block_start(page.text, at)
    indent = slot.indent
    if slot.own_line and at == page.content.end:  # is as what is there, not as the end tag behind
        indent = line_indent(page.text, end_before(page.text, slot.at))
    lines = [_heading(habits, title, names[index]) for index, title in enumerate(titles)]
    gap = habits.newline * (1 + blank_lines(page))
    text = "".join(indent + line + gap for line in lines) if slot.own_line else gap + gap.join(lines) + gap
    return Edit(slot.at, slot.at, text, reason=f"{len(titles)} headings"), names.values()


def _heading(habits: Habits, title: Title, name: str) -> str:
    tag = f"h{title.level}"
    return f"{habits.start(tag, id=name)}{escape(title.text, quote=False)}{habits.end(tag)}"


def _bare_page(title: str, language: str | None) -> bytes:
    words = escape(title, quote=False)
    return (
        f'<!DOCTYPE html>\n<html lang="{escape(language or "en")}">\n<head>\n  <meta charset="utf-8">\n'
        f'  <meta name="viewport" content="width=device-width, initial-scale=1">\n  <title>{words}</title>\n</head>\n'
        f"<body>\n  <main>\n    <h1>{words}</h1>\n\n  </main>\n</body>\n</html>\n"
    ).encode()


def copy_page(page: Page, path: str, title: str) -> bytes:
    """Return the bytes of a copy of a page, with a title of its own and addresses right for its folder.

    A first heading that said the same as the title says the new one; links to the page itself lead to the copy.
    Raises RequestError for an empty title.
    """
    words = escape(" ".join(title.split()), quote=False)
    if not words:
        raise RequestError("The copy needs a title of its own. Type one first.")
    edits: list[Edit] = []
    if page.title_span is not None:
        edits.append(Edit(page.title_span.start, page.title_span.end, words))
    first = next((one for one in page.headings if one.level == 1), None)
    if first is not None and first.text == page.title and first.element.close is not None:
        edits.append(Edit(first.element.open.end, first.element.close.start, words))
    for node in read_nodes(page).all:
        edits += _of_the_copy(page, node, path)
    kept: list[Edit] = []
    for edit in sorted(edits, key=lambda edit: (edit.start, edit.end)):
        if not kept or edit.start >= kept[-1].end:
            kept.append(edit)
    return apply_edits(page.source, edit_set(page.source, kept))


def _of_the_copy(page: Page, node: Node, path: str) -> list[Edit]:
    """Return the edits that make an element's addresses right for a copy of its page."""
    edits = []
    for found in page.attributes_at(node.start):
        if found.name not in ("href", "src", "action", "data", "poster"):
            continue
        resolved = page.resolve(found.value) if page.base is None else None
        address = None
        if resolved is not None and resolved[0] == page.path and resolved[1] is not None:
            address = "" if read_address(found.value).path else None
        elif resolved is not None:
            address = _readdressed(page, path, found.value)
        edit = None if address is None else path_edit(page.text, found, address, "right for the copy")
        edits += [] if edit is None else [edit]
    return edits


def _framed(frame: Page, path: str, title: str) -> bytes:
    """Return another page without its content and with a title of its own."""
    text, content, habits = frame.text, frame.content, read_habits(frame)
    words = escape(title, quote=False)
    first = frame.headings[0].element.open.start if frame.headings else content.start
    indent = indent_before(text, first) or ""
    head = f"{habits.start('h1')}{words}{habits.end('h1')}"
    inner = f"{habits.newline}{indent}{head}{habits.newline}{indent_before(text, content.end) or ''}"
    edits = [Edit(content.start, content.end, inner)]
    if frame.title_span is not None:
        edits.append(Edit(frame.title_span.start, frame.title_span.end, words))
    elif frame.head_end is not None:
        edits.append(Edit(frame.head_end, frame.head_end, habits.start("title") + words + habits.end("title")))
    for node in read_nodes(frame).all:
        if not content.start <= node.start < content.end:
            edits += _of_the_old_page(frame, node, path)
    return apply_edits(frame.source, edit_set(frame.source, edits))


def _of_the_old_page(frame: Page, node: Node, path: str) -> list[Edit]:
    """Return the edits that make a piece of the frame right for the new page."""
    attributes = node.attributes
    describes = attributes.get("name", "").lower() in _OF_THE_PAGE or attributes.get("property", "").startswith("og:")
    links = not _OF_THE_PAGE_LINKS.isdisjoint(attributes.get("rel", "").lower().split())
    if (node.tag == "meta" and describes) or (node.tag == "link" and links):
        span = whole_block(frame.text, node.element)
        return [Edit(span.start, span.end, "")]
    edits = []
    for found in frame.attributes_at(node.start):
        if found.name == "aria-current" and node.tag == "a":
            at = found.span.start
            while frame.text[at - 1].isspace():
                at -= 1
            edits.append(Edit(at, found.span.end, ""))
        elif found.name in ("href", "src") and (address := _readdressed(frame, path, found.value)) is not None:
            edit = path_edit(frame.text, found, address, "right for the new page's folder")
            edits += [] if edit is None else [edit]
    return edits


def _readdressed(frame: Page, path: str, href: str) -> str | None:
    """Return the path of an address as it has to be on the new page; None where it stays as it is."""
    same_folder = frame.path.rpartition("/")[0] == path.rpartition("/")[0]
    found = None if same_folder or href.strip()[:1] in ("", "#", "/", "?") else resolve_path(frame.path, href)
    return None if found is None else relative_address(path, found[0])
