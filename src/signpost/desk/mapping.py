"""The map of a site: its pages and the links between them."""

from __future__ import annotations

from dataclasses import dataclass
from itertools import islice
from uuid import UUID

from signpost.core.references.link_list import LinkRow, list_links_between
from signpost.core.references.link_map import MapLinks, MapPage, map_site
from signpost.core.references.map_drawing import MapDrawing, draw_map
from signpost.core.references.section_map import SectionMap, map_sections
from signpost.desk.opening import opened
from signpost.store.database import Database

#: How many links between two pages are listed.
_LINKS = 500


@dataclass(frozen=True, slots=True)
class MapView:
    """All pages of a site, or those around one of them, and what is drawn of them at once."""

    pages: tuple[MapPage, ...]
    drawing: MapDrawing


def map_of_site(database: Database, site_id: UUID, focus: str, at: str) -> MapView:
    """Return the pages of a site and what is drawn of them in a folder; with `focus`, those around one page."""
    with opened(database, site_id) as loaded:
        found = map_site(loaded.site, focus)
        return MapView(found.pages, draw_map(found, at, focus))


def links_around(database: Database, site_id: UUID, path: str) -> list[MapLinks]:
    """Return how many links lead from a page to each other one, and from each other one to it."""
    with opened(database, site_id) as loaded:
        return list(map_site(loaded.site, path).links)


def map_of_sections(database: Database, site_id: UUID, path: str) -> SectionMap:
    """Return the sections of a page and the links that concern them. Raises a not-found error for no such page."""
    with opened(database, site_id) as loaded:
        return map_sections(loaded.site, loaded.page(path).path)


def links_between(database: Database, site_id: UUID, source: str, goal: str) -> list[LinkRow]:
    """Return the links on one page that lead to another. Raises a not-found error for a page that is not there."""
    with opened(database, site_id) as loaded:
        loaded.page(source)
        return [*islice(list_links_between(loaded.site, source, goal), _LINKS)]
