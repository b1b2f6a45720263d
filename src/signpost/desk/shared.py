"""Blocks that several pages of a site have, as the site's desk shows them."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from uuid import UUID

from signpost.core.navigation.order import reading_order
from signpost.core.page.phrasing import shorten
from signpost.core.references.shared import Shared, find_changes, find_shared
from signpost.core.references.shared_marks import Mark
from signpost.core.site.site import Site
from signpost.core.site.told import Kind
from signpost.desk.opening import opened
from signpost.store.database import Database

#: Of how many pages it is told that their copies differ.
_MOST = 100
#: How many copies of a block are compared to show it; all of them are when they are made alike.
_COMPARED = 120
#: How many differences of a copy are shown, and how many characters of each.
_CHANGES, _LONG = 8, 300


@dataclass(frozen=True, slots=True)
class CopyChange:
    """A stretch of a copy, and what the usual copies have in its place."""

    has: str
    usual: str


@dataclass(frozen=True, slots=True)
class CopyView:
    """A copy that is not as most are."""

    page: str
    line: int
    changes: tuple[CopyChange, ...]  # some of what differs


@dataclass(frozen=True, slots=True)
class SharedView:
    """A block that several pages have copies of."""

    name: str  # its element, identifier and classes
    pages: int  # that have it
    compared: int  # of them; not all on a site of very many pages
    alike: int  # of those compared
    usual: str | None  # a page whose copy is as most are; None where none is usual
    mark: str  # how the copies mark their own page, in words; "" where they do not
    differing: tuple[CopyView, ...]  # some of the others
    lacking: tuple[str, ...]  # some pages that have no copy


def shared_blocks(database: Database, site_id: UUID, only: str = "") -> list[SharedView]:
    """Return the blocks of links that several pages of a site have; or `only` the one called so, or of that class."""
    with opened(database, site_id) as loaded:
        site = loaded.site
        read = reading_order(site)
        return [_view(site, one, read) for one in find_shared(site, _COMPARED, only.strip() or None)]


def _view(site: Site, shared: Shared, read: Sequence[str]) -> SharedView:
    have = {copy.page.path for copy in shared.copies}
    have |= {path for told in site.index.ask_all(Kind.SERIES).values() for path in told}
    lacking = [path for path in read if path not in have] if shared.pages == len(shared.copies) else []
    return SharedView(
        shared.name,
        shared.pages,
        len(shared.copies),
        len(shared.alike),
        next((copy.page.path for copy in shared.alike), None),
        _mark_words(shared.mark),
        tuple(
            CopyView(
                copy.page.path,
                copy.page.source.lines.line(copy.element.open.start),
                tuple(_shown(change) for change in find_changes(site, shared, copy)[:_CHANGES]),
            )
            for copy in shared.differing[:_MOST]
        ),
        tuple(lacking[:_MOST]),
    )


def _shown(change: tuple[str, str]) -> CopyChange:
    return CopyChange(*(shorten(one.strip(), _LONG) for one in change))


def _mark_words(mark: Mark) -> str:
    """Return how copies mark their own page, in words."""
    if mark.bare:
        return f"no link, but {mark.bare}"
    said = [f'aria-current="{mark.current}"'] if mark.current is not None else []
    said += [f"class {name}" for name in mark.classes]
    said += [f"class {name} on the list item" for name in mark.item_classes]
    return ", ".join(said)
