"""Navigation across pages, as the site's desk offers it: the order of pages, the menus, what is there already."""

from __future__ import annotations

from dataclasses import dataclass
from uuid import UUID

from signpost.core.navigation.menus import find_menus
from signpost.core.navigation.order import menu_words, page_name, reading_order
from signpost.core.navigation.overviews import CONTENTS, INDEX
from signpost.core.site.told import Kind
from signpost.desk.opening import opened
from signpost.store.database import Database


@dataclass(frozen=True, slots=True)
class OrderedPage:
    """A page in the order in which the site is read."""

    path: str
    name: str


@dataclass(frozen=True, slots=True)
class MenuView:
    """A menu that several pages have."""

    block: str  # what its block is called
    pages: int  # that have it
    order: tuple[str, ...]  # the pages that it leads to
    is_list: bool  # else links side by side


@dataclass(frozen=True, slots=True)
class SiteNavigation:
    """What navigation a site has, and of what it can be made."""

    pages: tuple[OrderedPage, ...]
    menus: tuple[MenuView, ...]
    contents: str  # the page that has the list of all pages; "" where none has
    index: str  # the page that has the index from A to Z
    paths: int  # pages that say where they are
    steps: int  # pages that lead to those before and after


def navigation_of(database: Database, site_id: UUID) -> SiteNavigation:
    """Return what navigation a site has, and the order in which its pages are read."""
    with opened(database, site_id) as loaded:
        site = loaded.site
        order = reading_order(site)
        words = menu_words(site)
        unnamed = [path for path in order if path not in words]
        loaded.pages.fetch(unnamed)
        has = {kind: sorted(site.index.ask(Kind.HAS, kind)) for kind in (CONTENTS, INDEX, "page-path", "page-steps")}
        return SiteNavigation(
            tuple(OrderedPage(path, words.get(path) or page_name(site.pages[path])) for path in order),
            tuple(
                MenuView(shared.name, shared.pages, tuple(dict.fromkeys(menu.order)), menu.is_list)
                for shared, menu in find_menus(site)
            ),
            next(iter(has[CONTENTS]), ""),
            next(iter(has[INDEX]), ""),
            len(has["page-path"]),
            len(has["page-steps"]),
        )
