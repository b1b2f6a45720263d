"""Pages: shown, their source, drafts, cuts; changes planned, applied, undone, redone."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Body, Header, Query, Request, Response

from signpost.desk import changes, pages
from signpost.desk.changes import PlannedChange
from signpost.desk.errors import ConflictError
from signpost.desk.pages import Addresses
from signpost.desk.views import PageView
from signpost.web.dependencies import Data, PathQuery, SiteId
from signpost.web.operations import Operation
from signpost.web.requests import Draft
from signpost.web.responses import ChangeEntry, Cuts, SourceText

router = APIRouter(prefix="/api/sites/{site_id}", tags=["pages"])


@router.get("/page")
def open_page(database: Data, site_id: SiteId, path: PathQuery) -> PageView:
    """Show a page: sections, links, findings."""
    return pages.open_page(database, site_id, path)


@router.get("/source", response_model=SourceText)
def open_source(database: Data, site_id: SiteId, path: PathQuery, request: Request, response: Response) -> object:
    """Give a page's text; its entity tag is its revision."""
    text, revision = pages.open_source(database, site_id, path)
    if request.headers.get("if-none-match") == f'"{revision}"':
        return Response(status_code=304, headers={"etag": f'"{revision}"'})
    response.headers["etag"] = f'"{revision}"'
    return SourceText(text, revision)


@router.post("/draft")
def view_draft(database: Data, site_id: SiteId, body: Draft) -> PageView:
    """Show a page with the text its author is typing; nothing is kept."""
    return pages.view_draft(database, site_id, body.path, body.text)


@router.get("/cuts")
def propose_cuts(
    database: Data,
    site_id: SiteId,
    path: PathQuery,
    into: Annotated[int | None, Query(ge=1, le=200)] = None,
    level: Annotated[int | None, Query(ge=1, le=9)] = None,
) -> Cuts:
    """Propose where to cut a page: into a number of parts, or before the sections of a level."""
    return Cuts(pages.propose_cuts(database, site_id, path, into=into, level=level))


@router.get("/addresses")
def give_addresses(
    database: Data, site_id: SiteId, path: PathQuery, section: Annotated[int, Query(ge=0)]
) -> Addresses:
    """Give a section's address in all its forms."""
    return pages.give_addresses(database, site_id, path, section)


@router.post("/plans")
def plan_change(database: Data, site_id: SiteId, body: Annotated[Operation, Body()]) -> PlannedChange:
    """Show what an operation would do; nothing is written."""
    return changes.plan_change(database, site_id, body.page, body.operation, body.parameters())


@router.post("/changes", status_code=201)
def apply_change(
    database: Data,
    site_id: SiteId,
    body: Annotated[Operation, Body()],
    if_match: Annotated[str | None, Header()] = None,
) -> ChangeEntry:
    """Apply an operation; If-Match carries the tag of the plan that was shown."""
    if not if_match:
        raise ConflictError("Send the tag of the plan that was shown, in If-Match.")
    tag = if_match.strip().strip('"')
    record = changes.apply_change(database, site_id, body.page, body.operation, body.parameters(), tag)
    return ChangeEntry.of(record, can_turn=True)


@router.get("/changes")
def list_changes(database: Data, site_id: SiteId) -> list[ChangeEntry]:
    """List all changes, the newest first."""
    return [ChangeEntry.of(record, can_turn=can) for record, can in changes.list_changes(database, site_id)]


@router.post("/changes/{number}/undo", status_code=204)
def undo_change(database: Data, site_id: SiteId, number: int) -> None:
    """Undo a change in all files it touched."""
    changes.undo_change(database, site_id, number)


@router.post("/changes/{number}/redo", status_code=204)
def redo_change(database: Data, site_id: SiteId, number: int) -> None:
    """Make an undone change again."""
    changes.redo_change(database, site_id, number)
