"""Operations on the site's files, its navigation, and what its pages share."""

from __future__ import annotations

from typing import Annotated, ClassVar

from annotated_types import Ge, Le, MaxLen, MinLen

from signpost.core.navigation.menu_sections import plan_menu_section
from signpost.core.navigation.menus import MenuOptions
from signpost.core.navigation.planning import NavigationKind, NavigationOptions, plan_navigation
from signpost.core.operations.operation import (
    ManyPages,
    Operation,
    PagePath,
    Planned,
    Situation,
    Takes,
    declared,
)
from signpost.core.references.deletions import Leading, plan_deletion
from signpost.core.references.link_list import plan_addresses
from signpost.core.references.moves import plan_followed, plan_move
from signpost.core.references.own_addresses import plan_own_addresses
from signpost.core.references.shared import plan_alike
from signpost.core.references.spreading import plan_spread
from signpost.core.text.errors import RequestError
from signpost.core.text.words import count_of

_Block = Annotated[str, MaxLen(1000)]


@declared
class MoveFiles(Operation):
    """Files renamed or moved: their new paths by the old ones; with `forward`, pages leave one that leads on."""

    does: ClassVar[str] = "move-files"
    takes: ClassVar[Takes] = Takes.REFERENCES
    is_over_site: ClassVar[bool] = True

    moves: Annotated[dict[PagePath, PagePath], MinLen(1), MaxLen(1000)]
    forward: bool = False

    def plan(self, here: Situation) -> Planned:
        moves = {old: new.strip().removeprefix("./") for old, new in self.moves.items()}
        plan = plan_move(here.site, moves, forward=self.forward)
        if not plan.moves:
            raise RequestError("That is its name already.")
        if len(moves) > 1:
            return Planned(f"{count_of(len(moves), 'file')} moved", plan)
        ((old, new),) = moves.items()
        return Planned(f"{old} is now {new}", plan)


@declared
class FollowMoves(ManyPages):
    """Addresses of files that were moved in the folder already: their paths now, by those before."""

    does: ClassVar[str] = "follow-moves"
    takes: ClassVar[Takes] = Takes.ADDRESSES

    moves: Annotated[dict[PagePath, PagePath], MinLen(1), MaxLen(10_000)]

    def plan_all(self, here: Situation) -> Planned:
        title = f"Links to {count_of(len(self.moves), 'file')} that moved"
        return Planned(title, plan_followed(here.site, self.moves))


@declared
class DeleteFile(Operation):
    """A file taken out of its site; links to it lead to `goal`, are links no more, or are left broken."""

    does: ClassVar[str] = "delete-file"
    takes: ClassVar[Takes] = Takes.FILE
    is_over_site: ClassVar[bool] = True

    path: PagePath
    leading: Leading = Leading.LEAVE
    goal: Annotated[str, MaxLen(400)] = ""

    def plan(self, here: Situation) -> Planned:
        return Planned(f"{self.path} deleted", plan_deletion(here.site, self.path, self.leading, self.goal))


@declared
class ChangeLinks(Operation):
    """Links given the new addresses of a list, CSV or JSON, as it was exported."""

    does: ClassVar[str] = "change-links"
    takes: ClassVar[Takes] = Takes.ADDRESSES
    is_over_site: ClassVar[bool] = True
    is_long: ClassVar[bool] = True

    text: Annotated[str, MaxLen(20_000_000)]

    def plan(self, here: Situation) -> Planned:
        return Planned("Addresses changed by a list", plan_addresses(here.site, self.text))


@declared
class Alike(ManyPages):
    """Copies of a block on several pages made alike, as the one on the page `model` is, or as most are."""

    does: ClassVar[str] = "alike"
    takes: ClassVar[Takes] = Takes.COPIES

    block: _Block = ""  # "" for all blocks
    model: Annotated[str, MaxLen(400)] = ""

    def plan_all(self, here: Situation) -> Planned:
        plan = plan_alike(here.site, self.block or None, self.model or None)
        name = f"“{self.block}”" if self.block else "Shared blocks"
        return Planned(f"{name} the same on all pages", plan)


@declared
class Spread(ManyPages):
    """A block of the page `model` put on pages that lack it."""

    does: ClassVar[str] = "spread"

    block: _Block
    model: PagePath
    pages: Annotated[tuple[PagePath, ...], MinLen(1), MaxLen(20_000)]

    def plan_all(self, here: Situation) -> Planned:
        plan = plan_spread(here.site, self.model, self.block, self.pages)
        return Planned(f"“{self.block}” on {count_of(len(plan.edits), 'page')} more", plan)


_MADE = {
    NavigationKind.MENU: "Menu",
    NavigationKind.PATH: "Path to each page",
    NavigationKind.STEPS: "Links to the pages before and after",
    NavigationKind.CONTENTS: "List of all pages",
    NavigationKind.INDEX: "Index from A to Z",
    NavigationKind.SKIP: "Links past the header",
}


@declared
class Navigation(ManyPages):
    """Navigation across pages made, renewed, or taken out again."""

    does: ClassVar[str] = "navigation"

    kind: NavigationKind
    pages: Annotated[tuple[PagePath, ...], MaxLen(20_000)] = ()  # in their order; none for all, as they are read
    home: PagePath | None = None  # the page that a list over the site is on
    block: _Block = ""  # the menu that is changed; "" for a new one
    is_list: bool = True
    separator: Annotated[str, MaxLen(20)] = "|"
    sections: bool = False  # whether a menu lists sections below its pages
    depth: Annotated[int, Ge(0), Le(6)] = 1  # levels of sections in a list of all pages
    remove: bool = False

    def plan_all(self, here: Situation) -> Planned:
        options = NavigationOptions(
            self.kind,
            self.pages,
            self.home or "",
            self.block or None,
            MenuOptions(self.is_list, self.separator, self.sections),
            depth=self.depth,
            remove=self.remove,
        )
        is_new = self.kind is not NavigationKind.MENU or not self.block
        done = "removed" if self.remove else "made" if is_new else "changed"
        return Planned(f"{_MADE[self.kind]} {done}", plan_navigation(here.site, options))


@declared
class MenuSection(Operation):
    """A section of the page in a menu that pages share."""

    does: ClassVar[str] = "menu-section"

    block: Annotated[str, MinLen(1), MaxLen(1000)]
    section: Annotated[int, Ge(0)]
    words: Annotated[str, MaxLen(400)] = ""  # "" for those of the heading

    def plan(self, here: Situation) -> Planned:
        rule = here.preferences.identifiers
        plan = plan_menu_section(here.site, self.block, here.path, self.section, self.words, rule)
        return Planned("Menu entry for a section", plan)


@declared
class OwnAddresses(ManyPages):
    """Full addresses of the site made relative on all pages, or relative ones full."""

    does: ClassVar[str] = "own-addresses"
    takes: ClassVar[Takes] = Takes.REFERENCES

    full: bool = False

    def plan_all(self, here: Situation) -> Planned:
        title = "Own addresses in full" if self.full else "Own addresses relative"
        return Planned(title, plan_own_addresses(here.site, sorted(here.site.pages), full=self.full))
