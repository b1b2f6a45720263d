"""A link from a menu that pages share to one section."""

from __future__ import annotations

from signpost.core.identifiers.naming import IdentifierRule
from signpost.core.jumps.planning import Goal, mark_goal
from signpost.core.navigation.menus import entry_gap, find_menu, listed_below, new_entry, on_all_copies
from signpost.core.navigation.reading import Menu, trimmed
from signpost.core.page import Page, Target
from signpost.core.page.habits import read_habits
from signpost.core.page.outline import section_of_place
from signpost.core.site.plans import SitePlan, plan_both, plan_edits
from signpost.core.site.site import Resolved, Site
from signpost.core.text.edits import Edit, edit_set
from signpost.core.text.errors import RequestError
from signpost.core.text.positions import indent_before


def plan_menu_section(
    site: Site, block: str, path: str, section: int, words: str = "", rule: IdentifierRule | None = None
) -> SitePlan:
    """Return the plan that lets a menu lead to a section of a page, on all pages that have the menu alike.

    The entry is among the sections listed below the page's own entry, in their order; where none are, behind that
    entry, or at the menu's end. Without `words` it says what the heading says. The section gets an identifier where
    it has none. Raises RequestError where the menu leads there already, and for a menu that is not alike on pages.
    """
    name, marking = mark_goal(site, Goal(path, section), rule)
    target = site.pages[path]
    shared, menu = find_menu(site, block)
    for link in menu.page.links:
        led = site.follow(menu.page.path, link.href) if menu.block.open.start < link.start < menu.block.end else None
        if (
            isinstance(led, Resolved)
            and led.path == path
            and isinstance(led.target, Target)
            and led.target.name == name
        ):
            line = menu.page.source.lines.line(link.start)
            raise RequestError(f"The menu leads to this section already, in line {line} of {menu.page.path}.")
    label = words.strip() or target.headings[section].text
    address = menu.page.address_of(path, name, site.base)
    edits = edit_set(menu.page.source, [_entry(site, menu, target, section, address, label)])
    return plan_both(site, on_all_copies(site, shared, menu, edits), plan_edits(site, {path: marking}))


def _entry(site: Site, menu: Menu, target: Page, section: int, address: str, label: str) -> Edit:
    """Return the edit that puts an entry into a menu where it belongs."""
    entries = menu.entries
    own = [at for at, entry in enumerate(entries) if entry.path == target.path]
    listed = listed_below(site, menu, entries[own[0]]) if own and menu.is_list else []
    if listed:
        habits = read_habits(menu.page)
        places = {one.name: section_of_place(target, one.start) for one in target.targets}
        link = new_entry(menu, address, label, item=listed[-1][1])
        behind = next((item for name, item, _ in listed if places.get(name, -1) > section), None)
        first = behind or listed[-1][1]
        indent = indent_before(menu.page.text, first.start)
        gap = "" if indent is None else habits.newline + indent
        if behind is not None:
            return Edit(behind.start, behind.start, link + gap, reason="menu")
        close = first.element.close
        end = close.end if close else trimmed(menu.page, first.start, first.element.end)
        return Edit(end, end, gap + link, reason="menu")
    at = own[-1] if own else len(entries) - 1
    end = entries[at].span.end
    return Edit(end, end, entry_gap(menu) + new_entry(menu, address, label), reason="menu")
