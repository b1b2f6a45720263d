"""Pages looked at: measured in a reader's window, where jumps land, two side by side."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Depends, Query

from signpost.core.landings.geometry import Window
from signpost.desk import comparing, landing_fixes, measuring
from signpost.desk.comparing import CompareView, RevisionView
from signpost.desk.landing_fixes import LandingFixesView
from signpost.desk.measure_views import MeasureView
from signpost.desk.measuring import SiteWalk, Windows, WindowSummary
from signpost.web.dependencies import Asked, PathQuery, SiteId
from signpost.web.requests import GeometryBody, SettledLanding, WindowsBody

router = APIRouter(prefix="/api/sites/{site_id}", tags=["measures"])

Name = Annotated[str, Query(min_length=1, max_length=400)]
Revision = Annotated[str | None, Query(pattern="^[0-9a-f]{64}$")]
Pixels = Annotated[int, Query(ge=200, le=8000)]


def _window(width: Pixels, height: Pixels, text_size: Annotated[int, Query(ge=50, le=300)] = 100) -> Window:
    """Return the window that was asked for."""
    return Window(width, height, text_size)


WindowQuery = Annotated[Window, Depends(_window)]


@router.get("/measure")
async def open_measure(desk: Asked, site_id: SiteId, path: PathQuery, window: WindowQuery) -> MeasureView:
    """Show a page as it is in a window: lengths, and where its jump links land."""
    return await desk.run(measuring.open_measure, site_id, path, window)


@router.put("/measure", status_code=204)
async def keep_geometry(desk: Asked, site_id: SiteId, path: PathQuery, body: GeometryBody) -> None:
    """Keep what a browser measured."""
    facts = body.model_dump(exclude={"digest"})
    await desk.run(measuring.keep_geometry, site_id, path, body.digest, facts)


@router.post("/measure/trial")
async def try_out(desk: Asked, site_id: SiteId, path: PathQuery, body: GeometryBody) -> MeasureView:
    """Show a page as it was while something was tried on it; nothing is kept."""
    return await desk.run(measuring.try_out, site_id, path, body.digest, body.model_dump(exclude={"digest"}))


@router.get("/measures")
async def list_windows(desk: Asked, site_id: SiteId, path: PathQuery) -> list[WindowSummary]:
    """Show a page in all windows of its site, side by side."""
    return await desk.run(measuring.list_windows, site_id, path)


@router.get("/walk")
async def walk_site(desk: Asked, site_id: SiteId, window: WindowQuery) -> SiteWalk:
    """List all jump links of a site, and where they land in a window."""
    return await desk.run(measuring.walk_site, site_id, window)


@router.get("/revisions")
async def list_revisions(desk: Asked, site_id: SiteId, path: PathQuery) -> list[RevisionView]:
    """List a page as it was brought in and after each change, the newest first."""
    return await desk.run(comparing.list_revisions, site_id, path)


@router.get("/comparison")
async def compare(
    desk: Asked,
    site_id: SiteId,
    left: Name,
    right: Name,
    left_revision: Revision = None,
    right_revision: Revision = None,
) -> CompareView:
    """Show two pages side by side, or two revisions of one; without a revision, a page as it is."""
    return await desk.run(comparing.compare, site_id, (left, left_revision), (right, right_revision))


@router.get("/landing-fixes")
async def landing_fixes_of(desk: Asked, site_id: SiteId, path: PathQuery) -> LandingFixesView:
    """Give what would fix the landings on a page, in all windows of its site."""
    return await desk.run(landing_fixes.landing_fixes_of, site_id, path)


@router.get("/windows")
async def windows_of(desk: Asked, site_id: SiteId) -> Windows:
    """Give the windows that a site's pages are measured in, and how long its sections may be."""
    return await desk.run(measuring.windows_of, site_id)


@router.put("/windows")
async def save_windows(desk: Asked, site_id: SiteId, body: WindowsBody) -> Windows:
    """Keep the windows and limits of a site."""
    return await desk.run(measuring.save_windows, site_id, body.said())


@router.put("/settled", status_code=204)
async def settle_landing(desk: Asked, site_id: SiteId, body: SettledLanding) -> None:
    """Leave the landing at a fragment as it is, or ask about it again."""
    await desk.run(measuring.settle_landing, site_id, body.path, body.fragment, settled=body.settled)
