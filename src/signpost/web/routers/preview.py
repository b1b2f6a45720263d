"""The preview: the author's pages, untrusted, in a frame without rights."""

from __future__ import annotations

from collections.abc import Awaitable
from http import HTTPStatus
from typing import Annotated, Literal
from urllib.parse import quote
from uuid import UUID

from fastapi import APIRouter, Form, Query, Request, Response

from signpost.browser.frames import FOR_THE_FRAME, Frame, read_script
from signpost.desk.errors import NotThereError
from signpost.desk.preview import Preview, load_draft_preview, load_preview
from signpost.web.dependencies import Asked, SiteId

router = APIRouter(prefix="/preview", tags=["preview"], include_in_schema=False)


def _own(request: Request, site_id: SiteId) -> str:
    """Return what the addresses of a site's files begin with, in the preview."""
    root: str = request.scope.get("preview_root", f"/preview/{site_id}/")
    return str(request.base_url).rstrip("/") + root


@router.get("/{name}.js")
def script(name: Literal["frame", "measure", "walk"]) -> Response:
    """Give one of our scripts."""
    headers = FOR_THE_FRAME | {"cache-control": "no-cache"}
    return Response(read_script(name), media_type="text/javascript", headers=headers)


@router.get("/{site_id}/{path:path}")
async def preview(
    desk: Asked,
    site_id: SiteId,
    path: str,
    request: Request,
    *,
    text_size: Annotated[int | None, Query(ge=50, le=300)] = None,
    bare: bool = False,
    revision: Annotated[str | None, Query(pattern="^[0-9a-f]{64}$")] = None,
) -> Response:
    """Give a file of a site, as the frame may show it.

    `text_size` is in percent of the usual one; `bare` hides the scroll bar, as on a phone.
    """
    frame = _frame(request, site_id, text_size, bare=bare)
    return await _answer(frame, path, desk.run(load_preview, site_id, path, frame.additions, frame.mark, revision))


@router.post("/{site_id}/{path:path}")
async def preview_draft(
    desk: Asked,
    site_id: SiteId,
    path: str,
    request: Request,
    text: Annotated[str, Form()],
    *,
    text_size: Annotated[int | None, Query(ge=50, le=300)] = None,
    bare: bool = False,
) -> Response:
    """Give a page with the text its author is typing, as the frame may show it; nothing is kept."""
    frame = _frame(request, site_id, text_size, bare=bare)
    typed = text.replace("\r\n", "\n")  # as forms send line ends (HTML 4.10.22.4)
    draft = desk.run(load_draft_preview, site_id, path, frame.additions, frame.mark, typed)
    return await _answer(frame, path, draft)


def _frame(request: Request, site_id: UUID, text_size: int | None, *, bare: bool) -> Frame:
    return Frame(_own(request, site_id), "/preview/", text_size, bare)


async def _answer(frame: Frame, path: str, work: Awaitable[Preview]) -> Response:
    """Return the answer to the request of the frame for a path."""
    headers = frame.headers
    try:
        found = await work
    except NotThereError as error:
        return Response(str(error), HTTPStatus.NOT_FOUND, headers, "text/plain; charset=utf-8")
    headers["content-disposition"] = f"inline; filename*=UTF-8''{quote(path.rpartition('/')[2])}"
    return Response(found.data, headers=headers, media_type=found.media_type)
