"""Menus: read as an author wrote them, given another order and other entries, and the same on all pages."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from html import escape
from itertools import pairwise

from signpost.core.addresses.links import path_of
from signpost.core.navigation.made import put
from signpost.core.navigation.order import menu_words, page_name
from signpost.core.navigation.phrases import navigation_words
from signpost.core.navigation.reading import FEWEST, Menu, MenuEntry, read_menu, trimmed
from signpost.core.page import Node, Page, read_edited, read_nodes
from signpost.core.page.edges import before_content
from signpost.core.page.habits import Habits, read_habits
from signpost.core.page.outline import Section, read_outline
from signpost.core.references.shared import Shared, find_shared, plan_like
from signpost.core.references.spreading import plan_spread
from signpost.core.site.plans import SitePlan
from signpost.core.site.site import Site
from signpost.core.text.edits import Edit, EditSet, edit_set, edits_between, splice
from signpost.core.text.errors import RequestError
from signpost.core.text.positions import Span, indent_before, line_indent
from signpost.core.text.tags import value_edit

MENU = "site-menu"
#: What may stand between two entries: white space, signs, line breaks.
_PLAIN_GAP = re.compile(r"(?:[^<]|</?li\s*>|<br\s*/?>)*", re.IGNORECASE)
_MOST_NOTES = 20
#: How many copies of a block are compared to show its menu.
_COMPARED = 40


@dataclass(frozen=True, slots=True)
class MenuOptions:
    """How a menu is made, and what it lists."""

    is_list: bool = True  # else a bar with a separator between its entries
    separator: str = "|"
    sections: bool = False  # whether the sections of each page are listed below it


# ---------------------------------------------------------------- planning


def find_menus(site: Site) -> list[tuple[Shared, Menu]]:
    """Return the blocks that several pages share and that have a menu, each with the menu as most copies have it."""
    found = ((shared, _usual_menu(site, shared)) for shared in find_shared(site, _COMPARED))
    return [(shared, menu) for shared, menu in found if menu is not None]


def _usual_menu(site: Site, shared: Shared) -> Menu | None:
    copy = next(iter(shared.alike), None)  # what differs from page to page is no menu of the site
    return None if copy is None else read_menu(site, copy.page, copy.element)


def plan_menu(
    site: Site,
    order: Sequence[str],
    block: str | None = None,
    options: MenuOptions | None = None,
    words: Mapping[str, str] | None = None,
) -> SitePlan:
    """Return the plan that gives a site's pages a menu in an order, or the menu in `block` another order.

    Entries that are there stay as their author wrote them; those of pages that are not in `order` go; what leads
    anywhere else stays behind the entry that it follows. New entries look like those beside them. The menu is made
    the same on all pages that have it alike; a new one is put on all pages of `order`. Raises RequestError where that
    cannot be.
    """
    options, words = options or MenuOptions(), {**menu_words(site), **(words or {})}
    strange = next((path for path in order if path not in site.pages), None)
    if strange is not None:
        raise RequestError(f"{strange} is not a page of the site.")
    if len(set(order)) < FEWEST:
        raise RequestError("A menu has at least two pages. Choose more.")
    order = list(dict.fromkeys(order))
    if block is None:
        return _plan_new(site, order, options, words)
    shared, menu = find_menu(site, block)
    return on_all_copies(site, shared, menu, _edits(site, menu, order, options, words))


def find_menu(site: Site, block: str) -> tuple[Shared, Menu]:
    """Return a menu that pages share, as most have it. Raises RequestError where none is alike on most pages."""
    shared = next(iter(find_shared(site, only=block)), None)
    menu = None if shared is None else _usual_menu(site, shared)
    if shared is None or menu is None:
        raise RequestError(f"The site has no menu “{block}” that is alike on most of its pages. Make it alike first.")
    return shared, menu


def on_all_copies(site: Site, shared: Shared, menu: Menu, edits: EditSet) -> SitePlan:
    """Return the plan that makes the edits of a menu on its page, and all pages that have it alike like that."""
    notes = tuple(f"{copy.page.path} has this menu otherwise, and stays as it is." for copy in shared.differing)
    if not edits:
        return SitePlan(notes=notes[:_MOST_NOTES])
    shared = replace(shared, copies=shared.alike)
    page = read_edited(menu.page, edits)
    element = next(node.element for node in read_nodes(page).all if node.start == menu.block.open.start)
    others = plan_like(site.replaced({page.path: page}), shared, page, element)
    return replace(others, edits={**others.edits, page.path: edits}, notes=notes[:_MOST_NOTES])


def _plan_new(site: Site, order: Sequence[str], options: MenuOptions, words: Mapping[str, str]) -> SitePlan:
    there = [path for path in order if _has_menu(site.pages[path])]
    if there:
        raise RequestError(f"{there[0]} has a menu that was made already. Choose that menu to change it.")
    page = site.pages[order[0]]
    habits, label = read_habits(page), navigation_words(page.language).menu
    tag = "nav" if page.html5 else "div"
    start = habits.start(tag, class_=MENU, aria_label=label if tag == "nav" else None)
    lines = [*_new_lines(site, page, habits, order, options, words)]
    edits = put(page, before_content(page), start, lines, habits.end(tag), "menu")
    after = site.replaced({page.path: read_edited(page, edits)})
    others = plan_spread(after, page.path, MENU, order[1:])
    return replace(others, edits={**others.edits, page.path: edits})


def _has_menu(page: Page) -> bool:
    return any(MENU in node.classes for node in read_nodes(page).all)


def _new_lines(
    site: Site, page: Page, habits: Habits, order: Sequence[str], options: MenuOptions, words: Mapping[str, str]
) -> list[str]:
    entries = [
        _link(site, page, habits, path, None, _words(site, path, words), own=path == page.path) for path in order
    ]
    if not options.is_list:
        separator = escape(options.separator.strip(), quote=False)
        gap = f" {separator}" if separator else ""
        return [entry + (gap if at < len(entries) - 1 else "") for at, entry in enumerate(entries)]
    lines = [habits.start("ul")]
    for path, entry in zip(order, entries, strict=True):
        below = _section_lines(site, page, habits, path) if options.sections else []
        if below:
            lines.append(f"{habits.indent}{habits.start('li')}{entry}")
            lines += [habits.indent * 2 + line for line in below]
            lines.append(habits.indent + habits.end("li"))
        else:
            lines.append(f"{habits.indent}{habits.start('li')}{entry}{habits.end('li')}")
    return [*lines, habits.end("ul")]


def _words(site: Site, path: str, words: Mapping[str, str]) -> str:
    return words.get(path) or page_name(site.page(path))


def _link(
    site: Site, page: Page, habits: Habits, path: str, fragment: str | None, words: str, *, own: bool = False
) -> str:
    address = page.address_of(path, fragment, site.base)
    if own and fragment is None and not path_of(address):
        address = path.rpartition("/")[2]
    start = habits.start("a", href=address, aria_current="page" if own else None)
    return start + escape(words, quote=False) + habits.end("a")


def _section_lines(site: Site, page: Page, habits: Habits, path: str) -> list[str]:
    """Return the list of a page's sections, below its entry."""
    found = [section for section in _sections(site.page(path)) if section.identifier]
    if not found:
        return []
    items = [
        f"{habits.indent}{habits.start('li')}{_link(site, page, habits, path, section.identifier, section.text)}"
        f"{habits.end('li')}"
        for section in found
    ]
    return [habits.start("ul"), *items, habits.end("ul")]


def _sections(page: Page) -> Sequence[Section]:
    sections = read_outline(page).sections
    return sections[0].sections if len(sections) == 1 and sections[0].level == 1 else sections


# ---------------------------------------------------------------- changing one that is there


def _edits(site: Site, menu: Menu, order: Sequence[str], options: MenuOptions, words: Mapping[str, str]) -> EditSet:
    """Return the edits that bring the entries of a menu into an order, on its own page."""
    page, entries = menu.page, menu.entries
    first = next(at for at, entry in enumerate(entries) if entry.path is not None)
    followers: dict[str | None, list[int]] = {}
    own_of: dict[str, list[int]] = {}
    last: str | None = None
    for at, entry in enumerate(entries):
        if entry.path is None:
            followers.setdefault(last if at > first else None, []).append(at)
        else:
            last = entry.path
            own_of.setdefault(last, []).append(at)
    wanted: list[int | str] = [*followers.get(None, [])]
    for path in order:
        wanted += own_of.get(path, [path])
        wanted += followers.pop(path, [])
    wanted += [at for path, left in followers.items() if path is not None for at in left]
    if wanted != [*range(len(entries))]:
        _refuse_lost(menu)
    region = Span(entries[0].span.start, entries[-1].span.end)
    pieces, before = [], None
    for one in wanted:
        if before is not None:
            pieces.append(_gap(menu, before, one))
        if isinstance(one, str):
            text = new_entry(menu, page.address_of(one, None, site.base), _words(site, one, words))
        else:
            text = entries[one].span.of(page.text)
        if options.sections and menu.is_list:
            text = _with_sections(site, menu, one, text)
        pieces.append(text)
        before = one
    return edit_set(page.source, edits_between(region.of(page.text), "".join(pieces), region.start, "menu"))


def _refuse_lost(menu: Menu) -> None:
    """Raise RequestError where something of an author's stands between entries: it would be lost between others."""
    page = menu.page
    for one, other in pairwise(menu.entries):
        if _PLAIN_GAP.fullmatch(page.text, one.span.end, other.span.start) is None:
            line = page.source.lines.line(one.span.end)
            raise RequestError(
                f"Between two entries of the menu on {page.path}, line {line}, there is a comment or an element that "
                "would be lost. Move it into an entry, or out of the menu, first."
            )


def _gap(menu: Menu, before: int | str, one: int | str) -> str:
    """Return what stands between two entries: what is there, or what most often is."""
    if isinstance(before, int) and isinstance(one, int) and one == before + 1:
        return menu.page.text[menu.entries[before].span.end : menu.entries[one].span.start]
    return entry_gap(menu)


def entry_gap(menu: Menu) -> str:
    """Return what most often stands between two entries of a menu."""
    gaps = [menu.page.text[one.span.end : other.span.start] for one, other in pairwise(menu.entries)]
    return Counter(gaps).most_common(1)[0][0] if gaps else menu.page.source.newline


def new_entry(menu: Menu, address: str, label: str, item: Node | None = None) -> str:
    """Return a new entry, written as those that are there; as a list's `item`, where one is given."""
    page, habits, nodes = menu.page, read_habits(menu.page), read_nodes(menu.page)
    models = [(one.node, one.span, one.path not in (None, page.path)) for one in reversed(menu.entries)]
    if item is not None:
        close_tag = item.element.close
        end = close_tag.end if close_tag else trimmed(page, item.start, item.element.end)
        models = [(item, Span(item.start, end), True)]
    for node_there, span, leads in models:
        within = [node_there, *nodes.below(node_there)]
        links = [node for node in within if node.tag == "a"]
        plain = len(links) == 1 and leads and links[0].element.close is not None
        named = any(node.attributes.get("id") for node in within)
        if not plain or named or any(True for _ in nodes.children(links[0])):
            continue
        link = links[0]
        href = page.attribute_at(link.start, "href")
        close = link.element.close
        if href is None or close is None:
            continue
        title = page.attribute_at(link.start, "title")
        edits = [
            value_edit(page.text, href, address, ""),
            Edit(link.element.open.end, close.start, escape(label, quote=False)),
        ]
        if title is not None:
            edits.append(value_edit(page.text, title, label, ""))
        return splice(page.text, span, edits)
    link_text = habits.start("a", href=address) + escape(label, quote=False) + habits.end("a")
    is_item = menu.is_list or item is not None
    return f"{habits.start('li')}{link_text}{habits.end('li')}" if is_item else link_text


def _with_sections(site: Site, menu: Menu, one: int | str, text: str) -> str:
    """Return an entry with the sections of its page below it: those that are there stay, others come in."""
    page, habits = menu.page, read_habits(menu.page)
    path = one if isinstance(one, str) else menu.entries[one].path
    if path is None:
        return text
    start = menu.entries[0].span.start
    indent = indent_before(page.text, start)
    inside = (line_indent(page.text, start) if indent is None else indent) + habits.indent
    listed = [] if isinstance(one, str) else listed_below(site, menu, menu.entries[one])
    if listed:
        return _completed(site, menu, menu.entries[one], path, listed) if isinstance(one, int) else text
    lines = _section_lines(site, page, habits, path)
    if not lines:
        return text
    close = re.search(r"</li\s*>\s*$", text, re.IGNORECASE)
    body, end = (text[: close.start()], close[0]) if close else (text, "")
    block = "".join(f"{habits.newline}{inside}{line}" for line in lines)
    tail = f"{habits.newline}{inside[: len(inside) - len(habits.indent)]}{end.strip()}" if end else ""
    return body.rstrip() + block + tail


def listed_below(site: Site, menu: Menu, entry: MenuEntry) -> list[tuple[str, Node, Node]]:
    """Return the jump links below an entry into its page: the identifier, the item and the link."""
    nodes, found = read_nodes(menu.page), []
    for node in nodes.below(entry.node):
        if node.tag != "a" or "href" not in node.attributes:
            continue
        item = next((above for above in nodes.above(node) if above.tag == "li"), None)
        led = site.resolve(menu.page.path, node.attributes["href"] or "")
        below = item is not None and item is not entry.node
        if item is not None and below and led is not None and led[1] and site.file_at(led[0]) == entry.path:
            found.append((led[1], item, node))
    return found


def _completed(site: Site, menu: Menu, entry: MenuEntry, path: str, listed: Sequence[tuple[str, Node, Node]]) -> str:
    """Return an entry with the sections that its list lacks, each behind the one that it follows on its page."""
    page, habits = menu.page, read_habits(menu.page)
    items = {name: item for name, item, _ in listed}
    edits, before, rank = list[Edit](), None, 0
    for section in _sections(site.page(path)):
        name = section.identifier
        if not name:
            continue
        if name in items:
            before = items[name]
            continue
        text = habits.start("li") + _link(site, page, habits, path, name, section.text) + habits.end("li")
        first = listed[0][1]
        indent = indent_before(page.text, first.start)
        gap = "" if indent is None else habits.newline + indent
        rank += 1
        if before is None:
            edits.append(Edit(first.start, first.start, text + gap, rank=rank))
        else:
            end = (
                before.element.close.end if before.element.close else trimmed(page, before.start, before.element.end)
            )
            edits.append(Edit(end, end, gap + text, rank=rank))
    return splice(page.text, entry.span, edits)
