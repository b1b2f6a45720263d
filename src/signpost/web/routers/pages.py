"""Pages: shown, their source, drafts; changes planned, applied, undone, redone."""

from __future__ import annotations

from collections.abc import Callable
from http import HTTPStatus
from typing import Annotated
from uuid import UUID, uuid4

from fastapi import APIRouter, Body, Header, Path, Query, Request, Response

from signpost.core.site.addresses import SectionAddresses
from signpost.desk import changes, drafts, linked_folders, pages
from signpost.desk.changes import PlannedChange
from signpost.desk.drafts import MergedDraft
from signpost.desk.errors import ConflictError, NotThereError
from signpost.desk.views import PageView
from signpost.store.records import ChangeRecord
from signpost.web.dependencies import Asked, Desk, Limit, Line, LinesResponse, PathQuery, SiteId
from signpost.web.errors import RefusedError
from signpost.web.operations import OperationRequest
from signpost.web.requests import Draft, DraftToMerge
from signpost.web.responses import ChangeEntry, ChangesView, SourceText

router = APIRouter(prefix="/api/sites/{site_id}", tags=["pages"])

Key = Annotated[UUID | None, Header()]
Number = Annotated[int, Path(ge=1, lt=2**63)]


@router.get("/page")
async def open_page(desk: Asked, site_id: SiteId, path: PathQuery) -> PageView:
    """Show a page: sections, links, findings."""
    return await desk.run(pages.open_page, site_id, path)


@router.get("/source", response_model=SourceText)
async def open_source(desk: Asked, site_id: SiteId, path: PathQuery, request: Request, response: Response) -> object:
    """Give a page's text; its entity tag is its revision."""
    text, revision = await desk.run(pages.open_source, site_id, path)
    if request.headers.get("if-none-match") == f'"{revision}"':
        return Response(status_code=304, headers={"etag": f'"{revision}"'})
    response.headers["etag"] = f'"{revision}"'
    return SourceText(text, revision)


@router.post("/draft")
async def view_draft(desk: Asked, site_id: SiteId, body: Draft) -> PageView:
    """Show a page with the text its author is typing; nothing is kept."""
    return await desk.run(pages.view_draft, site_id, body.path, body.text)


@router.post("/draft/merged")
async def merge_draft(desk: Asked, site_id: SiteId, body: DraftToMerge) -> MergedDraft:
    """Bring what is typed together with the page as it is now; nothing is kept."""
    return await desk.run(drafts.merge_draft, site_id, body.path, body.text, body.base, body.base_text)


@router.get("/addresses")
async def give_addresses(
    desk: Asked, site_id: SiteId, path: PathQuery, section: Annotated[int, Query(ge=0)]
) -> SectionAddresses:
    """Give a section's address in all its forms."""
    return await desk.run(pages.give_addresses, site_id, path, section)


@router.post("/plans")
async def plan_change(desk: Asked, site_id: SiteId, body: Annotated[OperationRequest, Body()]) -> PlannedChange:
    """Show what an operation would do; nothing is written."""
    return await desk.run(changes.plan_change, site_id, body.page, body.asked())


@router.post("/plans/told", response_class=LinesResponse, responses={200: {"model": Line[PlannedChange]}})
async def plan_change_telling(
    desk: Asked, site_id: SiteId, body: Annotated[OperationRequest, Body()]
) -> LinesResponse:
    """Show what an operation would do, as lines of JSON: how far it has come as `told`, then `found` or `problem`."""
    return desk.stream(changes.plan_change, site_id, body.page, body.asked())


@router.post("/changes", status_code=201)
async def apply_change(
    desk: Asked,
    site_id: SiteId,
    body: Annotated[OperationRequest, Body()],
    if_match: Annotated[str | None, Header()] = None,
    idempotency_key: Key = None,
) -> ChangeEntry:
    """Apply an operation; If-Match carries the tag of the plan that was shown.

    Idempotency-Key is the request's own: sent again with it, the request does nothing more, and gives its change;
    another request with it is refused (422).
    """
    if not if_match:
        raise ConflictError("Send the tag of the plan that was shown, in If-Match.")
    tag = if_match.strip().strip('"')
    key = idempotency_key or uuid4()
    asked = (body.page, body.asked(), tag, key)
    record = await _surely(desk, changes.apply_change, site_id, key, *asked)
    waits = await desk.run(linked_folders.waiting_of, site_id, [file.path for file in record.files])
    return ChangeEntry.of(record, can_turn=True, waits=waits)


async def _surely(
    desk: Desk, use_case: Callable[..., ChangeRecord], site_id: UUID, key: UUID, *asked: object
) -> ChangeRecord:
    """Return the change that a use case wrote; one that was stopped may have written it already."""
    try:
        return await desk.run_with_folder(use_case, site_id, *asked)
    except RefusedError as error:
        if error.status is not HTTPStatus.SERVICE_UNAVAILABLE:
            raise
        try:
            return await desk.run_with_folder(changes.find_change, site_id, key)
        except (RefusedError, NotThereError):
            raise error from None


@router.get("/changes/made-by/{key}")
async def find_change(desk: Asked, site_id: SiteId, key: UUID) -> ChangeEntry:
    """Find the change that the request of this Idempotency-Key made; 404 where it made none."""
    return ChangeEntry.of(await desk.run(changes.find_change, site_id, key), can_turn=True)


@router.get("/changes")
async def list_changes(
    desk: Asked,
    site_id: SiteId,
    before: Annotated[int | None, Query(ge=1)] = None,
    limit: Limit = 50,
    path: Annotated[str, Query(max_length=400)] = "",
) -> ChangesView:
    """List changes, the newest first; with `before`, those older than that number; with a path, those of a file."""
    return ChangesView.of(await desk.run(changes.show_changes, site_id, before, limit, path))


@router.post("/changes/{number}/undo", status_code=204)
async def undo_change(desk: Asked, site_id: SiteId, number: Number, idempotency_key: Key = None) -> None:
    """Undo a change in all files it touched."""
    key = idempotency_key or uuid4()
    await _surely(desk, changes.undo_change, site_id, key, number, key)


@router.post("/changes/{number}/redo", status_code=204)
async def redo_change(desk: Asked, site_id: SiteId, number: Number, idempotency_key: Key = None) -> None:
    """Make an undone change again."""
    key = idempotency_key or uuid4()
    await _surely(desk, changes.redo_change, site_id, key, number, key)
