"""Folders on this machine that are open as sites."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Query, Request

from signpost.desk import linked_folders, syncing
from signpost.desk.linked_folders import FolderView
from signpost.desk.syncing import Synced
from signpost.folders.version_control import Commit
from signpost.web.dependencies import Asked, PathQuery, SiteId
from signpost.web.requests import CommitsBody, ConflictBody, FolderBody
from signpost.web.responses import Revision, SiteEntry

CommitName = Annotated[str, Query(min_length=4, max_length=64)]

router = APIRouter(prefix="/api", tags=["folders"])


def _allowed(request: Request) -> list[str]:
    """Return the folders that may be opened; none where others can reach the server."""
    return list(request.app.state.folders)


@router.get("/folders")
def find_folders(request: Request, under: Annotated[str, Query(max_length=2000)] = "") -> list[str]:
    """List the folders within one that can be opened as a site; without `under`, those where one can begin."""
    return linked_folders.find_folders(under, _allowed(request))


@router.post("/folders", status_code=201)
async def open_folder(desk: Asked, request: Request, body: FolderBody) -> SiteEntry:
    """Open a folder of this machine as a site, or give the site that it is open as."""
    return SiteEntry.of(await desk.run(linked_folders.link_folder, body.path, _allowed(request)))


@router.get("/sites/{site_id}/folder")
async def show_folder(desk: Asked, site_id: SiteId) -> FolderView | None:
    """Show the folder of a site and what is to be decided about it; null for a site that has none."""
    return await desk.run(linked_folders.view_folder, site_id)


@router.post("/sites/{site_id}/folder/sync")
async def sync_folder(desk: Asked, site_id: SiteId) -> Synced:
    """Bring a site and its folder together now."""
    return await desk.run(syncing.sync_folder, site_id)


@router.post("/sites/{site_id}/folder/conflicts")
async def decide(desk: Asked, site_id: SiteId, body: ConflictBody) -> Synced:
    """Settle a file that was edited on both sides."""
    return await desk.run(linked_folders.decide, site_id, body.path, body.side, body.text)


@router.put("/sites/{site_id}/folder/commits")
async def set_commits(desk: Asked, site_id: SiteId, body: CommitsBody) -> FolderView | None:
    """Let each change be committed with its name, or not."""
    return await desk.run(linked_folders.set_commits, site_id, commits=body.commits)


@router.get("/sites/{site_id}/folder/commits")
async def list_commits(desk: Asked, site_id: SiteId, path: PathQuery) -> list[Commit]:
    """List the last commits that changed a file."""
    return await desk.run(linked_folders.commits_of, site_id, path)


@router.post("/sites/{site_id}/folder/committed")
async def bring_in_committed(desk: Asked, site_id: SiteId, path: PathQuery, commit: CommitName = "HEAD") -> Revision:
    """Bring in a file as a commit has it, to be compared; the site's own stays as it is."""
    return Revision(await desk.run(linked_folders.bring_in_committed, site_id, path, commit))


@router.delete("/sites/{site_id}/folder", status_code=204)
async def unlink_folder(desk: Asked, site_id: SiteId) -> None:
    """Let the site be a copy of its own again; both stay as they are."""
    await desk.run(linked_folders.unlink_folder, site_id)
