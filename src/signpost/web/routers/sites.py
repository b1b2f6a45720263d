"""Sites: listed, made, named, read, taken away; files brought in and taken out."""

from __future__ import annotations

import json
from collections.abc import AsyncIterator, Iterator
from dataclasses import asdict
from typing import Annotated, Literal
from urllib.parse import quote

from fastapi import APIRouter, File, Form, Query, Response, UploadFile
from sse_starlette import EventSourceResponse
from starlette.concurrency import iterate_in_threadpool

from signpost.desk import intake, pages, takeout
from signpost.desk.errors import TooMuchError
from signpost.desk.intake import Intake
from signpost.desk.views import FindingView, PageIndex, SiteView
from signpost.web.dependencies import Data, SiteId
from signpost.web.errors import explain
from signpost.web.limits import FILES_A_REQUEST
from signpost.web.requests import NewSite, SiteNames
from signpost.web.responses import SiteEntry

router = APIRouter(prefix="/api/sites", tags=["sites"])


@router.get("")
def list_sites(database: Data) -> list[SiteEntry]:
    """List all sites, the newest first."""
    return [SiteEntry.of(record) for record in pages.list_sites(database)]


@router.post("", status_code=201)
def create_site(database: Data, body: NewSite) -> SiteEntry:
    """Make an empty site."""
    return SiteEntry.of(intake.create_site(database, body.name))


@router.get("/{site_id}")
def open_site(database: Data, site_id: SiteId) -> SiteView:
    """Show a site: its pages, the links between them, what each lacks."""
    return pages.open_site(database, site_id)


@router.put("/{site_id}")
def name_site(database: Data, site_id: SiteId, body: SiteNames) -> SiteEntry:
    """Give a site its name and its own address."""
    base = str(body.base) if body.base else None
    return SiteEntry.of(pages.name_site(database, site_id, body.name, base))


@router.delete("/{site_id}", status_code=204)
def delete_site(database: Data, site_id: SiteId) -> None:
    """Take a site away with all that belongs to it."""
    pages.delete_site(database, site_id)


@router.post("/{site_id}/files")
def bring_in_files(
    database: Data, site_id: SiteId, files: Annotated[list[UploadFile], File()], root: Annotated[str, Form()] = ""
) -> Intake:
    """Bring files in; each one's name is its path. `root` is a leading folder to leave out of the paths."""
    if len(files) > FILES_A_REQUEST:
        raise TooMuchError(f"At most {FILES_A_REQUEST} files are taken in one request.")
    named = ((file.filename or "", file.file.read(intake.FILE_BYTES + 1)) for file in files)
    return intake.bring_in_files(database, site_id, named, root)


@router.post("/{site_id}/archive")
def bring_in_archive(database: Data, site_id: SiteId, archive: Annotated[UploadFile, File()]) -> Intake:
    """Bring in the files of a ZIP archive."""
    data = archive.file.read(intake.ARCHIVE_BYTES + 1)
    if len(data) > intake.ARCHIVE_BYTES:
        raise TooMuchError(f"The archive is larger than {intake.ARCHIVE_BYTES // 2**20} MB. Bring the folder itself.")
    return intake.bring_in_archive(database, site_id, data)


@router.get("/{site_id}/reading")
async def read_site(database: Data, site_id: SiteId) -> EventSourceResponse:
    """Read all pages of a site, and tell how far that has come."""
    return EventSourceResponse(_events(iterate_in_threadpool(_progress(database, site_id))))


def _progress(database: Data, site_id: SiteId) -> Iterator[tuple[str, str]]:
    try:
        for reading in pages.read_site(database, site_id):
            yield "progress", json.dumps(asdict(reading))
        yield "done", "{}"
    except Exception as error:  # noqa: BLE001 - the answer has begun, so whatever went wrong is its last event
        yield "problem", json.dumps({"detail": explain(error)[1]})


async def _events(pairs: AsyncIterator[tuple[str, str]]) -> AsyncIterator[dict[str, str]]:
    async for event, data in pairs:
        yield {"event": event, "data": data}


@router.get("/{site_id}/index")
def index_site(database: Data, site_id: SiteId, page: Annotated[str, Query(max_length=400)] = "") -> list[PageIndex]:
    """List all paths of a site with their addresses from a page, and the identifiers of its pages."""
    return pages.index_of_site(database, site_id, page)


@router.get("/{site_id}/findings")
def find_in_site(database: Data, site_id: SiteId) -> list[FindingView]:
    """List what does not hold on any page."""
    return pages.findings_of_site(database, site_id)


@router.get("/{site_id}/takeout/{kind}")
def take_out(database: Data, site_id: SiteId, kind: Literal["site.zip", "changed.zip", "changes.diff"]) -> Response:
    """Take out the whole site, the changed files, or one diff."""
    if kind == "changes.diff":
        data, media_type = takeout.take_out_diff(database, site_id), "text/x-diff"
    else:
        data = takeout.take_out_site(database, site_id, changed_only=kind == "changed.zip")
        media_type = "application/zip"
    headers = {"content-disposition": f"attachment; filename*=UTF-8''{quote(kind)}"}
    return Response(data, media_type=media_type, headers=headers)
