"""Sites: listed, made, named, read, removed; files brought in and exported."""

from __future__ import annotations

import json
from collections.abc import AsyncIterator
from typing import Annotated, Literal
from urllib.parse import quote
from uuid import UUID

from fastapi import APIRouter, File, Form, Query, Request, Response, UploadFile
from sse_starlette import EventSourceResponse

from signpost.core.forms.writing import FORMS
from signpost.core.operations.operation import RuleCode
from signpost.core.references.link_list import LinkRow
from signpost.core.references.link_map import MapLinks
from signpost.core.references.section_map import SectionMap
from signpost.desk import (
    deeds,
    desks,
    heads,
    history,
    intake,
    mapping,
    pages,
    recipes,
    shared,
    site_navigation,
    takeout,
    targets,
    working,
)
from signpost.desk.arriving import ArrivingView, view_arriving
from signpost.desk.errors import TooMuchError
from signpost.desk.findings import By, CausesView, FindingsView, FoundView
from signpost.desk.heads import HeadsView
from signpost.desk.history import Kept, Shortening
from signpost.desk.intake import Choices, Intake
from signpost.desk.mapping import MapView
from signpost.desk.recipes import KeptRecipe
from signpost.desk.shared import SharedView
from signpost.desk.site_navigation import SiteNavigation
from signpost.desk.site_views import FilesView, LinksView, PageOrder, PagesView, SiteView
from signpost.store.records import DeedRecord
from signpost.web.dependencies import Asked, Limit, PathQuery, SiteId
from signpost.web.errors import explain
from signpost.web.limits import FILES_A_REQUEST
from signpost.web.readings import Readings
from signpost.web.requests import NewSite, RecipeBody, ShorteningBody, SiteNames
from signpost.web.responses import ChangeEntry, SiteEntry

router = APIRouter(prefix="/api/sites", tags=["sites"])

Words = Annotated[str, Query(max_length=400)]
After = Annotated[str, Query(max_length=400)]

_BYTES = {"schema": {"type": "string", "format": "binary"}}
_TAKEN_TYPES = ("application/zip", "text/x-diff", "text/csv", "application/graphml+xml")
_FORM_TYPES = tuple(media_type.partition(";")[0] for _, media_type in FORMS.values())
TAKEN_OUT = {**dict.fromkeys((*_TAKEN_TYPES, *_FORM_TYPES), _BYTES), "application/json": {"schema": {}}}


@router.get("")
async def list_sites(desk: Asked) -> list[SiteEntry]:
    """List all sites, the newest first."""
    return [SiteEntry.of(record) for record in await desk.run(pages.list_sites)]


@router.post("", status_code=201)
async def create_site(desk: Asked, body: NewSite) -> SiteEntry:
    """Make an empty site."""
    return SiteEntry.of(await desk.run(intake.create_site, body.name))


@router.get("/{site_id}")
async def open_site(desk: Asked, site_id: SiteId) -> SiteView:
    """Show a site: its pages, the links between them, what each lacks."""
    return await desk.run(pages.open_site, site_id)


@router.put("/{site_id}")
async def name_site(desk: Asked, site_id: SiteId, body: SiteNames) -> SiteEntry:
    """Give a site its name and its own address."""
    base = str(body.base) if body.base else None
    return SiteEntry.of(await desk.run(pages.name_site, site_id, body.name, base))


@router.delete("/{site_id}", status_code=204)
async def delete_site(desk: Asked, request: Request, site_id: SiteId) -> None:
    """Delete a site with all that belongs to it."""
    await desk.run(targets.forget_targets, site_id, request.app.state.reach)
    await desk.run(pages.delete_site, site_id)


@router.get("/{site_id}/pulse")
async def last_deed(desk: Asked, site_id: SiteId) -> DeedRecord:
    """Tell what was done last to a site, by whom and in which window, and how many things were done before."""
    return await desk.run(deeds.last_deed, site_id)


@router.post("/{site_id}/files")
async def bring_in_files(
    desk: Asked,
    site_id: SiteId,
    files: Annotated[list[UploadFile], File()],
    root: Annotated[str, Form()] = "",
    *,
    replace: Annotated[bool, Form()] = False,
    anyway: Annotated[list[str] | None, Form()] = None,
) -> Intake:
    """Bring files in; each one's name is its path. `root` is a leading folder to leave out of the paths.

    With `replace`, files that are there already get the new bytes, as a change that can be undone; `anyway` names
    paths that are taken although another one is alike but for capitals or accents.
    """
    if len(files) > FILES_A_REQUEST:
        raise TooMuchError(f"At most {FILES_A_REQUEST} files are taken in one request.")
    named = [(file.filename or "", await file.read(intake.FILE_BYTES + 1)) for file in files]
    choices = Choices(replace, frozenset(anyway or ()))
    return await desk.run(intake.bring_in_files, site_id, named, root, choices)


@router.post("/{site_id}/archive")
async def bring_in_archive(
    desk: Asked,
    site_id: SiteId,
    archive: Annotated[UploadFile, File()],
    *,
    replace: Annotated[bool, Form()] = False,
    anyway: Annotated[list[str] | None, Form()] = None,
) -> Intake:
    """Bring in the files of a ZIP archive; the choices are those of files."""
    data = await archive.read(intake.ARCHIVE_BYTES + 1)
    if len(data) > intake.ARCHIVE_BYTES:
        raise TooMuchError(f"The archive is larger than {intake.ARCHIVE_BYTES // 2**20} MB. Bring the folder itself.")
    return await desk.run(intake.bring_in_archive, site_id, data, Choices(replace, frozenset(anyway or ())))


@router.delete("/{site_id}/file")
async def remove_file(desk: Asked, site_id: SiteId, path: PathQuery) -> ChangeEntry:
    """Take a file out of a site, as a change that can be undone."""
    return ChangeEntry.of(await desk.run(intake.remove_file, site_id, path), can_turn=True)


@router.get(
    "/{site_id}/reading", response_class=EventSourceResponse, responses={200: {"content": {"text/event-stream": {}}}}
)
async def read_site(request: Request, site_id: SiteId) -> EventSourceResponse:
    """Have all pages of a site read and checked, and tell how far that has come."""
    readings: Readings = request.app.state.readings
    return EventSourceResponse(_progress(readings, site_id))


@router.delete("/{site_id}/reading", status_code=204)
async def stop_reading(desk: Asked, site_id: SiteId) -> None:
    """Leave the pages that are not read or checked yet until somebody opens the site again."""
    await desk.run(working.let_rest, site_id)


async def _progress(readings: Readings, site_id: UUID) -> AsyncIterator[dict[str, str]]:
    try:
        async for now in readings.follow(site_id):
            done = now.total - (now.left.unread or now.left.unchecked)
            yield {"event": "progress", "data": json.dumps({"what": now.left.what, "done": done, "total": now.total})}
        yield {"event": "done", "data": "{}"}
    except Exception as error:  # noqa: BLE001 - the answer has begun, so whatever went wrong is its last event
        yield {"event": "problem", "data": json.dumps({"detail": explain(error)[1]})}


@router.get("/{site_id}/history")
async def view_history(desk: Asked, site_id: SiteId) -> Kept:
    """Tell how much is kept of what the site was."""
    return await desk.run(history.view_kept, site_id)


@router.get("/{site_id}/history/shortened")
async def plan_shortening(
    desk: Asked,
    site_id: SiteId,
    last: Annotated[int | None, Query(ge=0, le=1_000_000)] = None,
    days: Annotated[int | None, Query(ge=0, le=36_500)] = None,
    *,
    first_states: bool = True,
) -> Shortening:
    """Show what would be let go where the last changes stay, and those of the last days; nothing is let go."""
    return await desk.run(history.plan_shortening, site_id, last, days, first_states=first_states)


@router.post("/{site_id}/history/shortened")
async def shorten(desk: Asked, site_id: SiteId, body: ShorteningBody) -> Kept:
    """Let changes go as was shown; they cannot be had back."""
    return await desk.run(history.shorten, site_id, body.first, body.changes, first_states=body.first_states)


@router.get("/{site_id}/pages")
async def list_pages(
    desk: Asked,
    site_id: SiteId,
    query: Words = "",
    order: PageOrder = "path",
    *,
    down: bool = False,
    start: Annotated[int, Query(ge=0)] = 0,
    limit: Limit = 100,
) -> PagesView:
    """List pages whose path or title contains some words, in an order, from the one at `start` on."""
    return await desk.run(pages.pages_of_site, site_id, query, order, down=down, start=start, limit=limit)


@router.get("/{site_id}/arriving")
async def list_arriving(
    desk: Asked, site_id: SiteId, start: Annotated[int, Query(ge=0)] = 0, limit: Limit = 100
) -> ArrivingView:
    """List pages of a site that is being read, from the one at `start` on, as far as they are known by now."""
    return await desk.run(view_arriving, site_id, start, limit)


@router.get("/{site_id}/files")
async def list_files(desk: Asked, site_id: SiteId, after: After = "", limit: Limit = 100) -> FilesView:
    """List files that are not pages, behind a path."""
    return await desk.run(pages.files_of_site, site_id, after, limit)


@router.get("/{site_id}/heads")
async def list_heads(
    desk: Asked, site_id: SiteId, query: Words = "", start: Annotated[int, Query(ge=0)] = 0, limit: Limit = 100
) -> HeadsView:
    """List what the heads of pages say: titles, descriptions, languages."""
    return await desk.run(heads.heads_of_site, site_id, query, start, limit)


@router.get("/{site_id}/shared")
async def list_shared(desk: Asked, site_id: SiteId, only: Words = "") -> list[SharedView]:
    """List the blocks of links that several pages have, and which copies differ; or only one, by name or class."""
    return await desk.run(shared.shared_blocks, site_id, only)


@router.get("/{site_id}/navigation")
async def show_navigation(desk: Asked, site_id: SiteId) -> SiteNavigation:
    """Show what navigation the site has, and the order in which its pages are read."""
    return await desk.run(site_navigation.navigation_of, site_id)


@router.get("/{site_id}/recipes")
async def list_recipes(desk: Asked, site_id: SiteId) -> list[KeptRecipe]:
    """List the recipes that are kept with the site."""
    return await desk.run(recipes.recipes_of, site_id)


@router.put("/{site_id}/recipes")
async def keep_recipe(desk: Asked, site_id: SiteId, body: RecipeBody) -> list[KeptRecipe]:
    """Keep a recipe with the site, under its name."""
    return await desk.run(recipes.keep_recipe, site_id, body.text)


@router.delete("/{site_id}/recipes")
async def forget_recipe(desk: Asked, site_id: SiteId, name: Words) -> list[KeptRecipe]:
    """Delete a recipe of the site."""
    return await desk.run(recipes.forget_recipe, site_id, name)


@router.get("/{site_id}/map")
async def show_map(desk: Asked, site_id: SiteId, focus: Words = "", at: Words = "") -> MapView:
    """Show the pages of the site, and what is drawn of them: the folder `at`, or what is around the page `focus`."""
    return await desk.run(mapping.map_of_site, site_id, focus, at)


@router.get("/{site_id}/map/around")
async def list_links_around(desk: Asked, site_id: SiteId, path: Words) -> list[MapLinks]:
    """List to which pages how many links lead from a page, and from which to it."""
    return await desk.run(mapping.links_around, site_id, path)


@router.get("/{site_id}/map/sections")
async def show_section_map(desk: Asked, site_id: SiteId, path: Words) -> SectionMap:
    """Show the sections of a page and the links between them, to them, and from them to other pages."""
    return await desk.run(mapping.map_of_sections, site_id, path)


@router.get("/{site_id}/map/links")
async def list_links_between(desk: Asked, site_id: SiteId, source: Words, goal: Words) -> list[LinkRow]:
    """List the links on one page that lead to another, or should."""
    return await desk.run(mapping.links_between, site_id, source, goal)


@router.get("/{site_id}/links")
async def list_links(desk: Asked, site_id: SiteId, after: After = "", limit: Limit = 100) -> LinksView:
    """List links from pages behind a path to other pages."""
    return await desk.run(pages.links_of_site, site_id, after, limit)


@router.get("/{site_id}/findings")
async def find_in_site(desk: Asked, site_id: SiteId, query: Words = "") -> FindingsView:
    """Tell by rule what is wrong on the pages of a site; with words, where a page, title or message contains them."""
    return await desk.run(pages.findings_of_site, site_id, query)


@router.get("/{site_id}/findings/{rule}")
async def find_of_rule(
    desk: Asked,
    site_id: SiteId,
    rule: RuleCode,
    query: Words = "",
    after_page: After = "",
    after: Annotated[int, Query(ge=-1)] = -1,
    limit: Limit = 20,
    by: By = "cause",
    of: Annotated[str | None, Query(max_length=1000)] = None,
) -> FoundView:
    """List single findings of a rule, behind one of a page with this number on it; of a cause, or in a block."""
    behind = (after_page, after) if after_page else None
    wanted = None if of is None else (by, of)
    return await desk.run(pages.findings_of_rule, site_id, rule, query, behind, limit, wanted)


@router.get("/{site_id}/findings/{rule}/causes")
async def find_causes(
    desk: Asked, site_id: SiteId, rule: RuleCode, query: Words = "", by: By = "cause", limit: Limit = 50
) -> CausesView:
    """List the findings of a rule by what they have in common: their cause, or the block that they are in."""
    return await desk.run(pages.causes_of_rule, site_id, rule, query, by, limit)


Taken = Literal[
    "site.zip", "changed.zip", "desk.zip", "changes.diff", "links.csv", "map.graphml", "outline.opml", "outline.json",
    "contents.md", "contents.html", "nav.xhtml", "sitemap.xml", "lengths.csv",
]  # fmt: skip


@router.post("/desks", status_code=201)
async def unpack_desk(desk: Asked, file: UploadFile) -> SiteEntry:
    """Take in a site's desk as another installation exported it: files, changes and settings."""
    return SiteEntry.of(await desk.run(desks.unpack_desk, await file.read()))


@router.get("/{site_id}/takeout/{kind}", response_class=Response, responses={200: {"content": TAKEN_OUT}})
async def take_out(desk: Asked, site_id: SiteId, kind: Taken) -> Response:
    """Export the site, its changed files or its desk, one diff, its links, or what it contains in an open form."""
    if kind in FORMS:
        data, media_type = await desk.run(takeout.take_out_form, site_id, kind), FORMS[kind][1]
    elif kind == "desk.zip":
        data, media_type = await desk.run(desks.pack_desk, site_id), "application/zip"
    elif kind == "links.csv":
        data, media_type = await desk.run(takeout.take_out_links, site_id), "text/csv; charset=utf-8"
    elif kind == "map.graphml":
        data, media_type = await desk.run(takeout.take_out_map, site_id), "application/graphml+xml"
    elif kind == "changes.diff":
        data, media_type = await desk.run(takeout.take_out_diff, site_id), "text/x-diff"
    else:
        data = await desk.run(takeout.take_out_site, site_id, changed_only=kind == "changed.zip")
        media_type = "application/zip"
    headers = {"content-disposition": f"attachment; filename*=UTF-8''{quote(kind)}"}
    return Response(data, media_type=media_type, headers=headers)
