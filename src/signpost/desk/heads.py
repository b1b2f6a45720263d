"""What the heads of a site's pages say, as a table."""

from __future__ import annotations

from dataclasses import dataclass
from uuid import UUID

from signpost.core.headings.heads import read_head
from signpost.core.site.told import Kind, title_key
from signpost.desk.opening import opened
from signpost.store.database import Database


@dataclass(frozen=True, slots=True)
class HeadView:
    """What a page's head says."""

    path: str
    title: str
    first_heading: str
    description: str
    language: str
    viewport: bool  # whether it says how wide a window it is for
    charset: str
    shares_title: bool  # whether another page has the same title


@dataclass(frozen=True, slots=True)
class HeadsView:
    """Some of the pages' heads."""

    heads: tuple[HeadView, ...]
    total: int  # of the pages that are found


def heads_of_site(database: Database, site_id: UUID, query: str, start: int, limit: int) -> HeadsView:
    """Return what the heads of pages say whose path contains some words, from the one at `start` on."""
    with opened(database, site_id) as loaded:
        paths = sorted(path for path in loaded.pages if query.lower() in path.lower())
        shown = paths[start : start + limit]
        loaded.pages.fetch(shown)
        found = []
        for path in shown:
            page = loaded.pages[path]
            head = read_head(page)
            told = loaded.site.index.ask(Kind.TITLE, title_key(page)) if page.title else {}
            first = next((one.text for one in page.headings if one.level == 1), "")
            found.append(
                HeadView(
                    path,
                    head.title,
                    first,
                    head.description,
                    head.language,
                    head.viewport,
                    head.charset,
                    any(other != path for other in told),
                )
            )
        return HeadsView(tuple(found), len(paths))
