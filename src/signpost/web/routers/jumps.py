"""What an author asks while making jump links, and of the style they are read in."""

from __future__ import annotations

from typing import Annotated, Literal

from fastapi import APIRouter, Query

from signpost.core.reading_style.style import PartLook, ReadingStyle, StylePart
from signpost.desk import destinations, new_links, page_navigation, style
from signpost.desk.destinations import GoalsView, PageIndex
from signpost.desk.new_links import AddressView, LinkedFile
from signpost.desk.page_navigation import OriginView, PointerView
from signpost.desk.style import StyleView
from signpost.web.dependencies import Asked, Limit, PathQuery, SiteId

router = APIRouter(prefix="/api/sites/{site_id}", tags=["jumps"])
rules = APIRouter(prefix="/api", tags=["jumps"])

Count = Annotated[int, Query(ge=0)]
Row = Annotated[int, Query(ge=1)]


@router.get("/goals")
async def find_goals(
    desk: Asked,
    site_id: SiteId,
    path: PathQuery,
    query: Annotated[str, Query(max_length=400)] = "",
    limit: Limit = 60,
) -> GoalsView:
    """List where a jump link on a page may lead, found by words of headings, identifiers and paths."""
    return await desk.run(destinations.find_goals, site_id, path, query, limit)


@router.get("/completions")
async def complete_address(
    desk: Asked,
    site_id: SiteId,
    path: PathQuery,
    typed: Annotated[str, Query(max_length=2000)] = "",
    limit: Limit = 60,
) -> list[PageIndex]:
    """List what an address may become that is being typed on a page."""
    return await desk.run(destinations.complete_address, site_id, path, typed, limit)


@router.get("/address")
async def compose_address(
    desk: Asked,
    site_id: SiteId,
    path: PathQuery,
    kind: Literal["outside", "mail", "phone", "file"],
    main: Annotated[str, Query(max_length=4000)] = "",
    subject: Annotated[str, Query(max_length=400)] = "",
    words: Annotated[str, Query(max_length=4000)] = "",
) -> AddressView:
    """Put an address together from what was typed: of another site, a letter, a call, or a file."""
    return await desk.run(new_links.compose_address, site_id, path, kind, main, subject, words)


@router.get("/outside")
async def find_outside(
    desk: Asked, site_id: SiteId, query: Annotated[str, Query(max_length=400)] = "", limit: Limit = 20
) -> list[str]:
    """List addresses of other sites that links of this one lead to."""
    return await desk.run(new_links.find_outside, site_id, query, limit)


@router.get("/linkable-files")
async def find_files(
    desk: Asked, site_id: SiteId, query: Annotated[str, Query(max_length=400)] = "", limit: Limit = 50
) -> list[LinkedFile]:
    """List files that are not pages and that a link may lead to."""
    return await desk.run(new_links.find_files, site_id, query, limit)


@router.get("/origin/words")
async def origin_of_words(
    desk: Asked,
    site_id: SiteId,
    path: PathQuery,
    element: Count,
    words: Annotated[str, Query(max_length=2000)] = "",
    occurrence: Count = 0,
) -> OriginView:
    """Find what a reader chose on the rendered page: words within an element, or the element itself."""
    return await desk.run(
        page_navigation.origin_at, site_id, path, element=element, words=words, occurrence=occurrence
    )


@router.get("/origin/place")
async def origin_at_place(
    desk: Asked, site_id: SiteId, path: PathQuery, line: Row, column: Row, end_line: Row, end_column: Row
) -> OriginView:
    """Find what an author chose in the source."""
    return await desk.run(page_navigation.origin_at, site_id, path, place=(line, column, end_line, end_column))


@router.get("/pointers")
async def pointers_of(
    desk: Asked, site_id: SiteId, path: PathQuery, section: Annotated[int, Query(ge=-1)]
) -> list[PointerView]:
    """List the links of all pages that lead to a section; -1 stands for the page's top."""
    return await desk.run(page_navigation.pointers_of, site_id, path, section)


@router.get("/style")
async def style_of(desk: Asked, site_id: SiteId) -> StyleView:
    """Give the site's reading style, or the one it would get."""
    return await desk.run(style.style_of, site_id)


@rules.get("/reading-style")
def style_text(
    parts: Annotated[list[StylePart], Query()],
    accent: Annotated[str, Query(pattern="^#[0-9a-fA-F]{3,6}$")],
    wash: Annotated[str, Query(pattern="^#[0-9a-fA-F]{3,6}$")],
    lengths: Annotated[list[float], Query(min_length=4, max_length=4)],
    look: PartLook = PartLook.LINE,
) -> str:
    """Return the rules of a reading style.

    The lengths are those of the bar, the side and the narrow window, in rem, and the room below, in hundredths of the
    window's height.
    """
    bar, side, narrow, below = lengths
    return style.style_text(ReadingStyle(tuple(parts), accent, wash, bar, side, narrow, below, look))
