"""Blocks that several pages of a site have, as the site's desk shows them."""

from __future__ import annotations

from dataclasses import dataclass
from uuid import UUID

from signpost.core.references.shared import Shared, find_shared
from signpost.core.references.shared_marks import Mark
from signpost.desk.opening import opened
from signpost.store.database import Database

#: Of how many pages it is told that their copies differ.
_MOST = 100
#: How many copies of a block are compared to show it; all of them are when they are made alike.
_COMPARED = 120


@dataclass(frozen=True, slots=True)
class CopyView:
    """A copy that is not as most are."""

    page: str
    line: int


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


def shared_blocks(database: Database, site_id: UUID) -> list[SharedView]:
    """Return the blocks of links that several pages of a site have."""
    with opened(database, site_id) as loaded:
        return [_view(one) for one in find_shared(loaded.site, _COMPARED)]


def _view(shared: Shared) -> SharedView:
    return SharedView(
        shared.name,
        shared.pages,
        len(shared.copies),
        len(shared.alike),
        next((copy.page.path for copy in shared.alike), None),
        _mark_words(shared.mark),
        tuple(
            CopyView(copy.page.path, copy.page.source.lines.line(copy.element.open.start))
            for copy in shared.differing[:_MOST]
        ),
    )


def _mark_words(mark: Mark) -> str:
    """Return how copies mark their own page, in words."""
    if mark.bare:
        return f"no link, but {mark.bare}"
    said = [f'aria-current="{mark.current}"'] if mark.current is not None else []
    said += [f"class {name}" for name in mark.classes]
    said += [f"class {name} on the list item" for name in mark.item_classes]
    return ", ".join(said)
