"""The map of a site: its pages and the links between them."""

from __future__ import annotations

from itertools import islice
from uuid import UUID

from signpost.core.references.link_list import LinkRow, list_links_between
from signpost.core.references.link_map import SiteMap, map_site
from signpost.core.references.section_map import SectionMap, map_sections
from signpost.desk.opening import opened
from signpost.store.database import Database

#: How many pages are drawn, and how many links between two pages are listed.
_PAGES, _LINKS = 1_500, 500


def map_of_site(database: Database, site_id: UUID, focus: str) -> SiteMap:
    """Return the pages of a site and the links between them; with `focus`, those around one page."""
    with opened(database, site_id) as loaded:
        return map_site(loaded.site, focus, _PAGES)


def map_of_sections(database: Database, site_id: UUID, path: str) -> SectionMap:
    """Return the sections of a page and the links that concern them. Raises a not-found error for no such page."""
    with opened(database, site_id) as loaded:
        return map_sections(loaded.site, loaded.page(path).path)


def links_between(database: Database, site_id: UUID, source: str, goal: str) -> list[LinkRow]:
    """Return the links on one page that lead to another. Raises a not-found error for a page that is not there."""
    with opened(database, site_id) as loaded:
        loaded.page(source)
        return [*islice(list_links_between(loaded.site, source, goal), _LINKS)]
