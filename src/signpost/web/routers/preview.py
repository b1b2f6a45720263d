"""The preview: the author's pages, untrusted, in a frame without rights."""

from __future__ import annotations

import secrets
from http import HTTPStatus
from pathlib import Path
from urllib.parse import quote

from fastapi import APIRouter, Request, Response

from signpost.desk.errors import NotThereError
from signpost.desk.preview import load_preview
from signpost.web.dependencies import Data, SiteId

router = APIRouter(prefix="/preview", tags=["preview"], include_in_schema=False)

#: The frame's own origin is opaque, so to the browser nothing is of the same origin as it.
_FOR_THE_FRAME = {"cross-origin-resource-policy": "cross-origin"}
_WALK = Path(__file__).parent.parent / "walk.js"


def _policy(origin: str, site_id: SiteId, nonce: str) -> str:
    """Return what the frame may do: show the site's own files, and run our one script."""
    own = f"{origin}/preview/{site_id}/"
    return (
        f"sandbox allow-scripts; default-src 'none'; script-src 'nonce-{nonce}'; style-src {own} 'unsafe-inline'; "
        f"img-src {own} data:; media-src {own} data:; font-src {own} data:; form-action 'none'; base-uri 'none'; "
        "frame-ancestors 'self'"
    )


@router.get("/walk.js")
def walk_script() -> Response:
    """Give our script."""
    return Response(
        _WALK.read_bytes(), media_type="text/javascript", headers=_FOR_THE_FRAME | {"cache-control": "no-cache"}
    )


@router.get("/{site_id}/{path:path}")
def preview(database: Data, site_id: SiteId, path: str, request: Request) -> Response:
    """Give a file of a site, as the frame may show it."""
    nonce = secrets.token_urlsafe(16)
    script = f'<script nonce="{nonce}" src="/preview/walk.js" defer></script>'
    headers = {
        "content-security-policy": _policy(str(request.base_url).rstrip("/"), site_id, nonce),
        "cache-control": "no-store",
        **_FOR_THE_FRAME,
    }
    try:
        found = load_preview(database, site_id, path, script)
    except NotThereError as error:
        return Response(str(error), HTTPStatus.NOT_FOUND, headers, "text/plain; charset=utf-8")
    headers["content-disposition"] = f"inline; filename*=UTF-8''{quote(path.rpartition('/')[2])}"
    return Response(found.data, headers=headers, media_type=found.media_type)
