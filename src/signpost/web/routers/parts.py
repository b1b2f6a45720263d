"""Pages in parts: looked at before they are cut and after."""

from __future__ import annotations

from fastapi import APIRouter

from signpost.desk import parts
from signpost.desk.part_views import PartsView, ProposalView
from signpost.web.dependencies import Asked, PathQuery, SiteId
from signpost.web.requests import PartsAsked, PartSettingsBody, ProposalsAsked
from signpost.web.responses import Successor

router = APIRouter(prefix="/api/sites/{site_id}", tags=["parts"])


@router.post("/parts")
async def view_parts(desk: Asked, site_id: SiteId, body: PartsAsked) -> PartsView:
    """Show the parts that a page has, or would have with these cuts."""
    cuts = None if body.cuts is None else [cut.cut() for cut in body.cuts]
    return await desk.run(parts.view_parts, site_id, body.page, body.window.window(), cuts, body.pattern)


@router.post("/parts/proposals")
async def propose(desk: Asked, site_id: SiteId, body: ProposalsAsked) -> list[ProposalView]:
    """Propose ways to cut a page."""
    window = body.window.window()
    return await desk.run(
        parts.propose, site_id, body.page, window, by=body.by, value=body.value, fixed=tuple(body.fixed)
    )


@router.put("/parts/settings", status_code=204)
async def save_settings(desk: Asked, site_id: SiteId, body: PartSettingsBody) -> None:
    """Keep the pattern of file names and the limits for parts."""
    await desk.run(parts.save_part_settings, site_id, body.names, body.said())


@router.get("/successor")
async def find_successor(desk: Asked, site_id: SiteId, path: PathQuery) -> Successor:
    """Find the page that has what was on one which is not there any more: it was moved, or was a part."""
    return Successor(await desk.run(parts.find_successor, site_id, path))
