"""Navigation across pages, planned by its kind."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field
from enum import StrEnum

from signpost.core.navigation.menus import MENU, MenuOptions, plan_menu
from signpost.core.navigation.order import reading_order
from signpost.core.navigation.overviews import CONTENTS, INDEX, plan_no_overview, plan_site_contents, plan_site_index
from signpost.core.navigation.paths import PATH, SEPARATOR, STEPS, plan_paths, plan_steps, plan_without
from signpost.core.navigation.skipping import plan_no_skips, plan_skips
from signpost.core.references.spreading import plan_taken_off
from signpost.core.site.plans import SitePlan
from signpost.core.site.site import Site
from signpost.core.text.errors import RequestError


class NavigationKind(StrEnum):
    """What is made."""

    MENU = "menu"  # links to pages, on all of them
    PATH = "path"  # where in the site a page is
    STEPS = "steps"  # the pages before and after
    CONTENTS = "contents"  # all pages with their sections, on one page
    INDEX = "index"  # all headings from A to Z, on one page
    SKIP = "skip"  # a link past the header and the menu


@dataclass(frozen=True, slots=True)
class NavigationOptions:
    """What is made, and of which pages."""

    kind: NavigationKind
    pages: Sequence[str] = ()  # in their order; none for all, as they are read
    home: str = ""  # the page that a list over the site is on
    block: str | None = None  # the menu that is changed; None for a new one
    menu: MenuOptions = field(default_factory=MenuOptions)
    words: Mapping[str, str] = field(default_factory=dict)  # of new entries of a menu, by page
    depth: int = 1  # levels of sections in a list of all pages
    separator: str = SEPARATOR  # between the pages of a path
    remove: bool = False  # taken out again instead


def plan_navigation(site: Site, options: NavigationOptions) -> SitePlan:
    """Return the plan that makes navigation, renews it or takes it out again.

    Raises RequestError for a page that is not there, and for what cannot be made.
    """
    pages = list(dict.fromkeys(options.pages)) or reading_order(site)
    strange = next((path for path in pages if path not in site.pages), None)
    if strange is not None:
        raise RequestError(f"{strange} is not a page of the site.")
    return (_REMOVE if options.remove else _MAKE)[options.kind](site, pages, options)


_Plan = Callable[[Site, Sequence[str], NavigationOptions], SitePlan]
_MAKE: Mapping[NavigationKind, _Plan] = {
    NavigationKind.MENU: lambda site, pages, said: plan_menu(site, pages, said.block, said.menu, said.words),
    NavigationKind.PATH: lambda site, pages, said: plan_paths(site, pages, said.separator),
    NavigationKind.STEPS: lambda site, pages, _: plan_steps(site, pages),
    NavigationKind.CONTENTS: lambda site, pages, said: plan_site_contents(site, said.home, pages, said.depth),
    NavigationKind.INDEX: lambda site, pages, said: plan_site_index(site, said.home, pages),
    NavigationKind.SKIP: lambda site, pages, _: plan_skips(site, pages),
}
_REMOVE: Mapping[NavigationKind, _Plan] = {
    NavigationKind.MENU: lambda site, pages, _: plan_taken_off(site, MENU, pages),
    NavigationKind.PATH: lambda site, pages, _: plan_without(site, pages, PATH),
    NavigationKind.STEPS: lambda site, pages, _: plan_without(site, pages, STEPS),
    NavigationKind.CONTENTS: lambda site, _, said: plan_no_overview(site, said.home, CONTENTS),
    NavigationKind.INDEX: lambda site, _, said: plan_no_overview(site, said.home, INDEX),
    NavigationKind.SKIP: lambda site, pages, _: plan_no_skips(site, pages),
}
