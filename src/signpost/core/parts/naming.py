"""The parts that come of cuts: their titles, and file names that no other file has."""

from __future__ import annotations

import posixpath
from collections.abc import Collection, Sequence
from dataclasses import dataclass

from signpost.core.addresses.links import is_page_path
from signpost.core.addresses.paths import PathIndex, find_path_objection
from signpost.core.identifiers.naming import name_from
from signpost.core.page import Heading, Page
from signpost.core.page.marks import shows
from signpost.core.page.placing import block_start
from signpost.core.parts.options import PATTERN_PIECES
from signpost.core.parts.whole import ChosenCut, Whole
from signpost.core.site.told import Kind
from signpost.core.text.errors import RequestError
from signpost.core.text.positions import after_line_end, line_start


@dataclass(frozen=True, slots=True)
class Part:
    """One of the pages that a long page becomes."""

    number: int  # 1-based
    path: str
    title: str  # the words of the heading it begins with; of part 1, the page's title
    titled: str  # the title that its author gave it; "" for none
    start: int  # of its slice of the content, offset into the whole page
    end: int


def name_parts(whole: Whole, cuts: Sequence[ChosenCut], pattern: str, *, draft: bool = False) -> list[Part]:
    """Return the parts that cuts, in source order, make of a page.

    With `draft`, a part without heading and title is called by its number; else that raises RequestError, as a file
    name that cannot be does.
    """
    page = whole.page
    known = {cut.at for cut in whole.cuts}
    starts = [frame_head_end(page), *(cut.at for cut in cuts)]
    ends = [*starts[1:], frame_tail_start(page)]
    first = page.title or (page.headings[0].text if page.headings else page.path)
    parts = [Part(1, page.path, first, "", starts[0], ends[0])]
    taken = PathIndex([*whole.site.files, *_linked_but_missing(whole)])
    for cut in cuts:  # what the author chose comes before what is made
        if cut.path:
            _take(taken, cut.path)
    for number, cut in enumerate(cuts, start=2):
        heading = heading_at(page, cut.at)
        title = cut.title.strip() or (heading.text if heading else "")
        if not title:
            inner = next((one for one in page.headings if cut.at <= one.element.open.start < ends[number - 1]), None)
            if not draft and (cut.at not in known or inner is None):
                line = page.source.lines.line(cut.at)
                raise RequestError(
                    f"Part {number} begins at line {line}, where no heading is. Give it a title for the links to it."
                )
            title = inner.text if inner is not None and cut.at in known else f"Part {number}"
        path = cut.path or _name(page, pattern, number, title, taken)
        titled = cut.title.strip() if heading is None or cut.title.strip() != heading.text else ""
        parts.append(Part(number, path, title, titled, starts[number - 1], ends[number - 1]))
    return parts


def _linked_but_missing(whole: Whole) -> set[str]:
    """Return the paths of pages that links lead to and that are not there: a part of that name would catch them."""
    site, own = whole.site, frozenset(whole.paths)
    led = {site.file_at(path) for path in site.index.ask_all(Kind.LINK) if path}
    return {path for path in led if path not in site.files and path not in own and is_page_path(path)}


def _take(taken: PathIndex, path: str) -> None:
    objection = find_path_objection(path)
    if objection is not None:
        raise RequestError(f"A part cannot be called “{path}”. {objection}")
    if not is_page_path(path):
        raise RequestError(f"A part is a page, so “{path}” has to end in .html or .htm.")
    clash = taken.find_clash(path)
    if clash is not None:
        raise RequestError(f"There is “{clash[1]}” already, so no part can be called “{path}”. Choose another name.")
    taken.add(path)


def pattern_name(page: Page, pattern: str, number: int, title: str) -> str:
    """Return the path that a pattern gives a part. Raises RequestError for a pattern that all parts would share."""
    if not any(piece in pattern for piece in PATTERN_PIECES[1:]):
        raise RequestError(
            f"“{pattern}” would call all parts the same. Put {{number}} or {{title}} into it, as in "
            "{page}-{number}."
        )
    folder, name = posixpath.split(page.path)
    stem, suffix = posixpath.splitext(name)
    words = name_from(title, (), language=page.language) if "{title}" in pattern else ""
    filled = pattern.replace("{page}", stem).replace("{number}", str(number)).replace("{title}", words)
    if not is_page_path(filled):
        filled += suffix
    return posixpath.normpath(posixpath.join(folder, filled)) if ".." not in filled else filled


def _name(page: Page, pattern: str, number: int, title: str, taken: PathIndex) -> str:
    name = pattern_name(page, pattern, number, title)
    stem, suffix = posixpath.splitext(name)
    while taken.find_clash(name) is not None:
        stem += "-part"
        name = stem + suffix
    objection = find_path_objection(name)
    home = posixpath.dirname(page.path)
    if objection is None and home and not name.startswith(home + "/"):
        objection = "Parts are beside their page, or in folders below it."
    if objection is not None:
        raise RequestError(f"Part {number} would be called “{name}”, which is not possible. {objection}")
    taken.add(name)
    return name


def heading_at(page: Page, at: int) -> Heading | None:
    """Return the heading that a part which begins at `at` begins with; None where something else comes first."""
    if not 0 <= at < len(page.text):
        return None
    for heading in page.headings:
        if heading.element.open.start >= at:
            return None if shows_between(page, at, heading) else heading
    return None


def shows_between(page: Page, at: int, heading: Heading) -> bool:
    """Return whether a reader sees anything between a place and a heading behind it."""
    return shows(page.text[at : heading.element.open.start])


def frame_head_end(page: Page) -> int:
    """Return where what is before a page's content ends: at the line below its element's start tag."""
    at = page.content.start
    if at == 0 or line_start(page.text, at) == at:
        return at
    below = after_line_end(page.text, at)
    return at if below is None else min(below, page.content.end)


def frame_tail_start(page: Page) -> int:
    """Return where what is behind a page's content begins, with the indent of its first line."""
    return max(frame_head_end(page), block_start(page.text, page.content.end).at)


def chosen_paths(page: Page, cuts: Collection[ChosenCut], pattern: str) -> list[ChosenCut]:
    """Return cuts without the file names that the pattern gives anyway, so that those follow their numbers."""
    kept = []
    for number, cut in enumerate(sorted(cuts, key=lambda cut: cut.at), start=2):
        heading = heading_at(page, cut.at)
        title = cut.title or (heading.text if heading else "")
        usual = pattern_name(page, pattern, number, title) == cut.path
        kept.append(ChosenCut(cut.at, cut.title, "" if usual else cut.path))
    return kept
