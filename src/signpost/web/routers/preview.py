"""The preview: the author's pages, untrusted, in a frame without rights."""

from __future__ import annotations

import secrets
from collections.abc import Awaitable
from http import HTTPStatus
from pathlib import Path
from typing import Annotated, Literal
from urllib.parse import quote

from fastapi import APIRouter, Form, Query, Request, Response

from signpost.desk.errors import NotThereError
from signpost.desk.preview import Preview, load_draft_preview, load_preview
from signpost.web.dependencies import Asked, SiteId

router = APIRouter(prefix="/preview", tags=["preview"], include_in_schema=False)

#: The frame's own origin is opaque, so to the browser nothing is of the same origin as it.
_FOR_THE_FRAME = {"cross-origin-resource-policy": "cross-origin"}
_SCRIPTS = Path(__file__).parent.parent
#: The size that a reader has set for text, which the least of the page's own rules takes precedence over.
_TEXT_SIZE = "<style>:where(:root) {{ font-size: {}% }}</style>"
#: Phones and tablets lay their scroll bars over the page, where they take no room.
_NO_SCROLL_BAR = "<style>html::-webkit-scrollbar { display: none }</style>"


def _policy(own: str, nonce: str) -> str:
    """Return what the frame may do: show the site's own files, which begin with `own`, and run our own scripts."""
    return (
        f"sandbox allow-scripts; default-src 'none'; script-src 'nonce-{nonce}'; style-src {own} 'unsafe-inline'; "
        f"img-src {own} data:; media-src {own} data:; font-src {own} data:; form-action 'none'; base-uri 'none'; "
        "frame-ancestors 'self'"
    )


def _own(request: Request, site_id: SiteId) -> str:
    """Return what the addresses of a site's files begin with, in the preview."""
    root: str = request.scope.get("preview_root", f"/preview/{site_id}/")
    return str(request.base_url).rstrip("/") + root


@router.get("/{name}.js")
def script(name: Literal["frame", "measure", "walk"]) -> Response:
    """Give one of our scripts."""
    data = (_SCRIPTS / f"{name}.js").read_bytes()
    return Response(data, media_type="text/javascript", headers=_FOR_THE_FRAME | {"cache-control": "no-cache"})


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
    framed = _Framed(request, site_id, text_size, bare=bare)
    return await framed.answer(path, desk.run(load_preview, site_id, path, framed.additions, framed.mark, revision))


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
    framed = _Framed(request, site_id, text_size, bare=bare)
    typed = text.replace("\r\n", "\n")  # as forms send line ends (HTML 4.10.22.4)
    draft = desk.run(load_draft_preview, site_id, path, framed.additions, framed.mark, typed)
    return await framed.answer(path, draft)


class _Framed:
    """One answer to the frame: what its page begins with, and what the frame may do with it."""

    def __init__(self, request: Request, site_id: SiteId, text_size: int | None, *, bare: bool) -> None:
        nonce, self.mark = secrets.token_urlsafe(16), "s" + secrets.token_hex(8)
        self.additions = (_TEXT_SIZE.format(text_size) if text_size else "") + (_NO_SCROLL_BAR if bare else "")
        for name in ("frame", "measure", "walk"):  # the last one says that all are ready
            self.additions += (
                f'<script nonce="{nonce}" data-mark="{self.mark}" src="/preview/{name}.js" defer></script>'
            )
        self.headers = {
            "content-security-policy": _policy(_own(request, site_id), nonce),
            "cache-control": "no-store",
            "x-dns-prefetch-control": "off",
            **_FOR_THE_FRAME,
        }

    async def answer(self, path: str, work: Awaitable[Preview]) -> Response:
        """Return the answer to the request of the frame for a path."""
        try:
            found = await work
        except NotThereError as error:
            return Response(str(error), HTTPStatus.NOT_FOUND, self.headers, "text/plain; charset=utf-8")
        self.headers["content-disposition"] = f"inline; filename*=UTF-8''{quote(path.rpartition('/')[2])}"
        return Response(found.data, headers=self.headers, media_type=found.media_type)
