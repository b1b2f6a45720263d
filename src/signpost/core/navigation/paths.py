"""The path to a page from the site's first page down, and the links to the pages before and after."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from html import escape

from signpost.core.navigation.made import put, refuse_written_into, renewed, taken_out
from signpost.core.navigation.order import menu_words, page_name
from signpost.core.navigation.phrases import STEP_WORDS, navigation_words
from signpost.core.navigation.trails import completed, find_trail
from signpost.core.page import Page
from signpost.core.page.edges import content_end, content_start
from signpost.core.page.habits import Habits, read_habits
from signpost.core.site.plans import SitePlan
from signpost.core.site.site import INDEX_NAMES, Site
from signpost.core.site.told import read_ways
from signpost.core.text.edits import Edit, EditSet, edit_set
from signpost.core.text.errors import RequestError, SignpostError
from signpost.core.text.tags import path_edit

PATH, STEPS = "page-path", "page-steps"
#: What stands between the pages of a path.
SEPARATOR = "›"


def plan_each(site: Site, pages: Sequence[str], plan: Callable[[Page], EditSet]) -> SitePlan:
    """Return the plan of edits page by page; one that refuses is named in the notes."""
    edits: dict[str, EditSet] = {}
    notes = []
    for path in pages:
        page = site.pages[path]
        try:
            found = plan(page)
        except SignpostError as error:
            notes.append(f"{path}: {error}")
            continue
        if found:
            edits[path] = found
    return SitePlan(edits, notes=tuple(notes))


def plan_without(site: Site, pages: Sequence[str], kind: str) -> SitePlan:
    """Return the plan that takes paths, or links to the pages before and after, out of pages again."""
    words = menu_words(site)

    def plan(page: Page) -> EditSet:
        refuse_written_into(page, kind, _is_step if kind == STEPS else _path_words(page, words))
        return taken_out(page, kind, "taken out")

    return plan_each(site, pages, plan)


def _block(
    page: Page, kind: str, lines: Sequence[str], known: Callable[[str], bool], label: str, *, last: bool
) -> EditSet:
    """Return the edits that make a page's block of a kind, or renew it. None is needed where there are no lines.

    Raises RequestError for a block of that kind in which the author wrote.
    """
    there = page.made_blocks(kind)
    refuse_written_into(page, kind, known)
    if there and lines:
        return renewed(page, there[0], lines, f"{label} renewed")
    if there:
        return taken_out(page, kind, label)
    if not lines:
        return EditSet(page.source.sha256, ())
    habits = read_habits(page)
    tag = "nav" if page.html5 else "div"
    start = habits.start(tag, class_=kind, aria_label=label if tag == "nav" else None)
    slot = content_end(page) if last else content_start(page)
    return put(page, slot, start, lines, habits.end(tag), label)


def _link(habits: Habits, page: Page, site: Site, path: str, words: str, rel: str | None = None) -> str:
    start = habits.start("a", href=page.address_of(path, None, site.base), rel=rel)
    return start + escape(words, quote=False) + habits.end("a")


# ---------------------------------------------------------------- the path


def above(site: Site, path: str) -> list[str]:
    """Return the pages above one, from the site's first page down: the first page of each folder that it is in."""
    folders = path.split("/")[:-1]
    found = []
    for depth in range(len(folders) + 1):
        folder = "".join(f"{name}/" for name in folders[:depth])
        first = next((folder + name for name in INDEX_NAMES if folder + name in site.pages), None)
        if first is not None and first != path:
            found.append(first)
    return found


def plan_paths(site: Site, pages: Sequence[str], separator: str = SEPARATOR) -> SitePlan:
    """Return the plan that lets pages say where in the site they are, or renews that.

    Each page above it is a link, the page itself is not. A page that has none above it gets no path. One that an
    author wrote by hand is completed where it is; one that goes another way stays, and is named in the notes.
    """
    words = menu_words(site)

    def plan(page: Page) -> EditSet:
        habits, ups = read_habits(page), above(site, page.path)
        by_hand = None if page.made_blocks(PATH) else find_trail(site, page, ups)
        if by_hand is not None:
            return completed(site, page, by_hand, ups, lambda one: words.get(one) or page_name(site.page(one)))
        label = navigation_words(page.language).path
        own = page_name(page)
        links = [_link(habits, page, site, one, words.get(one) or page_name(site.page(one))) for one in ups]
        mark = habits.start("span", aria_current="page" if page.html5 else None)
        here = mark + escape(own, quote=False) + habits.end("span")
        line = f" {separator} ".join([*links, here])
        lines = [habits.start("p") + line + habits.end("p")] if ups else []
        return _block(page, PATH, lines, _path_words(page, words), label, last=False)

    return plan_each(site, pages, plan)


def _path_words(page: Page, words: Mapping[str, str]) -> Callable[[str], bool]:
    """Return what tells whether words beside the links of a path are those that name the page itself."""
    own = page_name(page)
    known = {own.casefold(), words.get(page.path, own).casefold()}
    return lambda piece: piece.casefold() in known or _was_here(page, piece)


def _is_step(piece: str) -> bool:
    return piece.casefold() in STEP_WORDS


def _was_here(page: Page, piece: str) -> bool:
    """Return whether words in a path stand where the page itself is named: in the element that says so."""
    for made in page.made_blocks(PATH):
        inner = page.text[made.element.open.end : made.element.end]
        if escape(piece, quote=False) in inner and inner.lower().count("<span") == 1:
            return True
    return False


# ---------------------------------------------------------------- before and after


def plan_steps(site: Site, order: Sequence[str]) -> SitePlan:
    """Return the plan that leads from page to page in an order, at each page's end, or renews that.

    Links that an author made by hand and that say so by `rel` are put right where they are; a page whose own links
    lack one of the two is named in the notes.
    """
    places = {path: at for at, path in enumerate(order)}

    def plan(page: Page) -> EditSet:
        habits, at = read_habits(page), places[page.path]
        words = navigation_words(page.language)
        sides = [(words.previous, "prev", at - 1), (words.next, "next", at + 1)]
        wanted = {rel: order[place] for _, rel, place in sides if 0 <= place < len(order)}
        by_hand = [
            one for one in read_ways(page, site.base) if not _is_ours(page, one[0]) and page.in_content(one[0])
        ]
        if by_hand:
            return _by_hand(site, page, by_hand, wanted)
        lines = [
            f"{habits.start('p')}{word}: "
            f"{_link(habits, page, site, order[place], page_name(site.page(order[place])), rel)}{habits.end('p')}"
            for word, rel, place in sides
            if 0 <= place < len(order)
        ]
        return _block(page, STEPS, lines, _is_step, words.steps, last=True)

    return plan_each(site, order, plan)


def _is_ours(page: Page, start: int) -> bool:
    """Return whether a link is in a block that we made."""
    kinds = (STEPS, "part-links")
    return any(made.element.open.start <= start < made.element.end for made in page.made if made.kind in kinds)


def _by_hand(site: Site, page: Page, ways: Sequence[tuple[int, str, str]], wanted: Mapping[str, str]) -> EditSet:
    """Return the edits that put an author's own links to the pages before and after right."""
    edits: list[Edit] = []
    links = {link.start: link for link in page.links}
    for start, way, led in ways:
        goal = wanted.get(way)
        written = page.attribute_at(start, "href")
        if goal is None or written is None or site.file_at(led) == goal:
            continue
        reason = "the next page" if way == "next" else "the page before"
        edit = path_edit(page.text, written, page.address_of(goal, None, site.base), reason)
        edits += [] if edit is None else [edit]
        old = site.file_at(led)
        link = links.get(start)
        if (
            link is not None
            and old in site.pages
            and link.text in (page_name(site.pages[old]), site.pages[old].title)
        ):
            at = page.text.find(link.text, start)
            if at >= 0:
                new = page_name(site.page(goal))
                edits.append(Edit(at, at + len(link.text), escape(new, quote=False), reason=reason))
    missing = [way for way in wanted if way not in {found for _, found, _ in ways}]
    if missing and not edits:
        words = " and ".join("next" if way == "next" else "previous" for way in missing)
        raise RequestError(f"has its own links to the pages around it, but none to the {words} page. Add it by hand.")
    return edit_set(page.source, edits)
