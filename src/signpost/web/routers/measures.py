"""Pages looked at: measured in a reader's window, where jumps land, two side by side."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Depends, Query

from signpost.core.geometry import Window
from signpost.desk import comparing, cures, measuring
from signpost.desk.comparing import CompareView, RevisionView
from signpost.desk.cures import CuresView
from signpost.desk.measure_views import MeasureView
from signpost.desk.measuring import SiteWalk, Windows, WindowSummary
from signpost.web.dependencies import Data, PathQuery, SiteId
from signpost.web.requests import MeasuredPage, SaidWindows, SettledLanding

router = APIRouter(prefix="/api/sites/{site_id}", tags=["measures"])

Name = Annotated[str, Query(min_length=1, max_length=400)]
Revision = Annotated[str | None, Query(pattern="^[0-9a-f]{64}$")]
Pixels = Annotated[int, Query(ge=200, le=8000)]


def _window(width: Pixels, height: Pixels, text_size: Annotated[int, Query(ge=50, le=300)] = 100) -> Window:
    """Return the window that was asked for."""
    return Window(width, height, text_size)


WindowQuery = Annotated[Window, Depends(_window)]


@router.get("/measure")
def open_measure(database: Data, site_id: SiteId, path: PathQuery, window: WindowQuery) -> MeasureView:
    """Show a page as it stands in a window: lengths, and where its jump links land."""
    return measuring.open_measure(database, site_id, path, window)


@router.put("/measure", status_code=204)
def keep_geometry(database: Data, site_id: SiteId, path: PathQuery, body: MeasuredPage) -> None:
    """Keep what a browser measured."""
    facts = body.model_dump(exclude={"look"})
    measuring.keep_geometry(database, site_id, path, body.look, facts)


@router.post("/measure/trial")
def try_out(database: Data, site_id: SiteId, path: PathQuery, body: MeasuredPage) -> MeasureView:
    """Show a page as it stood while something was tried on it; nothing is kept."""
    return measuring.try_out(database, site_id, path, body.look, body.model_dump(exclude={"look"}))


@router.get("/measures")
def list_windows(database: Data, site_id: SiteId, path: PathQuery) -> list[WindowSummary]:
    """Show a page in all windows of its site, side by side."""
    return measuring.list_windows(database, site_id, path)


@router.get("/walk")
def walk_site(database: Data, site_id: SiteId, window: WindowQuery) -> SiteWalk:
    """List all jump links of a site, and where they land in a window."""
    return measuring.walk_site(database, site_id, window)


@router.get("/revisions")
def list_revisions(database: Data, site_id: SiteId, path: PathQuery) -> list[RevisionView]:
    """List a page as it was brought in and after each change, the newest first."""
    return comparing.list_revisions(database, site_id, path)


@router.get("/comparison")
def compare(
    database: Data,
    site_id: SiteId,
    left: Name,
    right: Name,
    left_revision: Revision = None,
    right_revision: Revision = None,
) -> CompareView:
    """Show two pages side by side, or two revisions of one; without a revision, a page as it is."""
    return comparing.compare(database, site_id, (left, left_revision), (right, right_revision))


@router.get("/cures")
def cures_of(database: Data, site_id: SiteId, path: PathQuery) -> CuresView:
    """Give what would mend the landings on a page, in all windows of its site."""
    return cures.cures_of(database, site_id, path)


@router.get("/windows")
def windows_of(database: Data, site_id: SiteId) -> Windows:
    """Give the windows that a site's pages are measured in, and how long its sections may be."""
    return measuring.windows_of(database, site_id)


@router.put("/windows")
def save_windows(database: Data, site_id: SiteId, body: SaidWindows) -> Windows:
    """Keep the windows and limits of a site."""
    return measuring.save_windows(database, site_id, body.said())


@router.put("/settled", status_code=204)
def settle_landing(database: Data, site_id: SiteId, body: SettledLanding) -> None:
    """Leave the landing at a fragment as it is, or ask about it again."""
    measuring.settle_landing(database, site_id, body.path, body.fragment, again=body.again)
