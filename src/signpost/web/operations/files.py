"""Operations on the site's files, its navigation, and what its pages share."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from signpost.core.navigation.planning import NavigationKind
from signpost.core.references.deletions import Leading
from signpost.web.operations.asked import ManyPages, OperationBody
from signpost.web.requests import Body, PagePath


class MoveFiles(OperationBody):
    """Files renamed or moved: their new paths by the old ones; with `forward`, pages leave one that leads on."""

    operation: Literal["move-files"]
    moves: dict[PagePath, PagePath] = Field(min_length=1, max_length=1000)
    forward: bool = False


class FollowMoves(ManyPages):
    """Addresses of files that were moved in the folder already: their paths now, by those before."""

    operation: Literal["follow-moves"]
    moves: dict[PagePath, PagePath] = Field(min_length=1, max_length=10_000)


class DeleteFile(OperationBody):
    """A file taken out of its site; links to it lead to `goal`, are links no more, or are left broken."""

    operation: Literal["delete-file"]
    path: PagePath
    leading: Leading = Leading.LEAVE
    goal: Annotated[str, Field(max_length=400)] = ""


class ChangeLinks(OperationBody):
    """Links given the new addresses of a list, CSV or JSON, as it was exported."""

    operation: Literal["change-links"]
    text: Annotated[str, Field(max_length=20_000_000)]


class Alike(ManyPages):
    """Copies of a block on several pages made alike, as the one on the page `model` is, or as most are."""

    operation: Literal["alike"]
    block: Annotated[str, Field(max_length=1000)] = ""  # "" for all blocks
    model: Annotated[str, Field(max_length=400)] = ""


class Spread(ManyPages):
    """A block of the page `model` put on pages that lack it."""

    operation: Literal["spread"]
    block: Annotated[str, Field(max_length=1000)]
    model: PagePath
    pages: list[PagePath] = Field(min_length=1, max_length=20_000)


class Navigation(ManyPages):
    """Navigation across pages made, renewed, or taken out again."""

    operation: Literal["navigation"]
    kind: NavigationKind
    pages: list[PagePath] = Field([], max_length=20_000)  # in their order; none for all, as they are read
    home: PagePath | None = None  # the page that a list over the site is on
    block: Annotated[str, Field(max_length=1000)] = ""  # the menu that is changed; "" for a new one
    is_list: bool = True
    separator: Annotated[str, Field(max_length=20)] = "|"
    sections: bool = False  # whether a menu lists sections below its pages
    depth: Annotated[int, Field(ge=0, le=6)] = 1  # levels of sections in a list of all pages
    remove: bool = False


class MenuSection(OperationBody):
    """A section of the page in a menu that pages share."""

    operation: Literal["menu-section"]
    block: Annotated[str, Field(min_length=1, max_length=1000)]
    section: Annotated[int, Field(ge=0)]
    words: Annotated[str, Field(max_length=400)] = ""  # "" for those of the heading


class OwnAddresses(ManyPages):
    """Full addresses of the site made relative on all pages, or relative ones full."""

    operation: Literal["own-addresses"]
    full: bool = False


class HeadSaid(Body):
    """What a page's head shall say; null leaves it as it is."""

    title: Annotated[str, Field(max_length=400)] | None = None
    description: Annotated[str, Field(max_length=1000)] | None = None
    language: Annotated[str, Field(max_length=40)] | None = None
    viewport: bool | None = None  # whether it says that it is as wide as the reader's window
    utf8: bool = False  # whether it is written in UTF-8 from now on


class Heads(ManyPages):
    """Heads of pages that say something else, by path; with a pattern, the titles of `pages` follow it."""

    operation: Literal["heads"]
    heads: dict[PagePath, HeadSaid] = Field(default_factory=dict, max_length=1000)
    pattern: Annotated[str, Field(max_length=200)] = ""
    pages: list[PagePath] = Field(default_factory=list, max_length=1000)


class Recipe(ManyPages):
    """A recipe carried out over the site: operations with their settings, in TOML."""

    operation: Literal["recipe"]
    text: Annotated[str, Field(max_length=100_000)]
