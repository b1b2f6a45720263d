"""Where links may lead on a site: found as an author types, by the words of headings, by identifiers and paths."""

from __future__ import annotations

from dataclasses import dataclass
from uuid import UUID

from signpost.core.addresses.links import relative_address
from signpost.core.jumps.planning import Edge
from signpost.core.page import Page
from signpost.desk.destination_rows import folded, read_destinations
from signpost.desk.loading import LoadedSite
from signpost.desk.opening import opened
from signpost.store import queries
from signpost.store.database import Database
from signpost.store.records import DestinationRecord

_EDGES = {Edge.TOP: "Top of this page", Edge.BOTTOM: "Bottom of this page"}


@dataclass(frozen=True, slots=True)
class GoalView:
    """Where a jump link may lead."""

    path: str
    section: int | None
    identifier: str | None
    text: str  # a heading's words; for an identifier on something else that identifier, for a page its title
    level: int  # of the heading; 0 for other targets
    address: str  # from the page that is asked from; without an identifier yet, the page's alone
    edge: Edge | None = None  # the top or the bottom of the page that is asked from


@dataclass(frozen=True, slots=True)
class GoalsView:
    """Where a jump link may lead, as far as it is listed."""

    goals: tuple[GoalView, ...]
    more: bool  # whether there are others


@dataclass(frozen=True, slots=True)
class PageIndex:
    """What an editor completes addresses with."""

    path: str
    address: str  # relative to the page that is being edited
    identifiers: tuple[str, ...]  # of that page, and of the one whose address is being typed


def find_goals(database: Database, site_id: UUID, path: str, query: str, limit: int) -> GoalsView:
    """Return where a jump link on a page may lead, found by words: its own sections first, then those of others."""
    words = folded(query.strip().removeprefix("#")).split()
    with opened(database, site_id) as loaded:
        asking = loaded.site.pages.get(path)
        own = [] if asking is None else read_destinations(asking)
        here = [(path, one) for one in own if all(word in one.words for word in words)]
        if words:
            here.sort(key=lambda one: not one[1].words.startswith(words[0]))
        here = here[: limit + 1]
        others = queries.find_destinations(loaded.session, site_id, words, path, limit + 1 - len(here))
        found = [*here, *others]
        goals = [_goal(loaded, asking, path, *one) for one in found[:limit]]
    if asking is not None:
        at = 1 if goals and not words else len(goals)
        goals[at:at] = [
            GoalView(path, None, None, said, 0, "#top" if edge is Edge.TOP else "", edge)
            for edge, said in _EDGES.items()
            if all(word in folded(said) for word in words)
        ]
    return GoalsView(tuple(goals[:limit]), max(len(found), len(goals)) > limit)


def _goal(loaded: LoadedSite, asking: Page | None, path: str, other: str, one: DestinationRecord) -> GoalView:
    if asking is None:
        address = relative_address(path, other, one.identifier)
    else:
        address = asking.address_of(other, one.identifier, loaded.site.base)
    return GoalView(other, one.section, one.identifier, one.text, one.level, address)


def complete_address(database: Database, site_id: UUID, page: str, typed: str, limit: int) -> list[PageIndex]:
    """Return what an address may become that is being typed on a page: the page itself, then other files."""
    head, mark, _ = typed.partition("#")
    with opened(database, site_id) as loaded:
        found = [PageIndex(page, relative_address(page, page), _names(loaded, page))]
        if mark:
            there = loaded.pages[page].resolve(head, loaded.site.base) if head and page in loaded.pages else None
            path = page if there is None else loaded.site.file_at(there[0])
            if path != page and path in loaded.files:
                found.append(PageIndex(path, head, _names(loaded, path)))
        else:
            paths = queries.find_paths(loaded.session, site_id, head.rpartition("/")[2], limit)
            found += [PageIndex(path, relative_address(page, path), ()) for path in paths if path != page]
    return found


def _names(loaded: LoadedSite, path: str) -> tuple[str, ...]:
    return tuple(loaded.site.names(path)) if path in loaded.pages else ()
