"""A host to practise on: serves what was published as hosts do, on a port and so an origin of its own.

Each site is in a folder of its own. Names are told apart by their letters' case, a folder shows its `index.html`,
what is missing is answered by the site's own `404.html`. Pages may use their scripts: it is another origin than the
desk's.
"""

from __future__ import annotations

import asyncio
import csv
import hashlib
import json
import mimetypes
import shutil
from dataclasses import asdict, dataclass
from email.utils import formatdate
from pathlib import Path
from typing import TYPE_CHECKING, Any, cast

from a2wsgi import WSGIMiddleware
from starlette.applications import Starlette
from starlette.middleware import Middleware
from starlette.middleware.gzip import GZipMiddleware
from starlette.requests import Request
from starlette.responses import RedirectResponse, Response, StreamingResponse
from starlette.routing import Mount, Route
from wsgidav.wsgidav_app import WsgiDAVApp

if TYPE_CHECKING:
    from starlette.types import ASGIApp

#: Where a site may say which addresses are redirected: pairs of an old path and a new address, as a table.
REDIRECTS = "redirects.csv"
#: Who may write by WebDAV: a made-up author of a made-up host, reached from this machine alone.
DAV_USER, DAV_PASSWORD = "practice", "practice"
_INDEX, _MISSING = "index.html", "404.html"
_PIECE = 16 * 1024  # bytes that are sent at a time where the way is narrow
_TYPES = {".html": "text/html", ".htm": "text/html", ".xhtml": "application/xhtml+xml", ".svg": "image/svg+xml"}


#: Where the ways to the readers of the sites are kept, out of their reach.
_WAYS = ".ways"


@dataclass(frozen=True, slots=True)
class Way:
    """The way to the readers of a site."""

    delay: float = 0  # seconds until an answer begins
    bandwidth: int = 0  # bytes a second; 0 for as many as there are
    charset: str = ""  # that the host tells of pages; "" for none


def read_way(root: Path, site: str) -> Way:
    """Return the way to the readers of a site, by its folder's name."""
    try:
        return Way(**json.loads((root / _WAYS / f"{site}.json").read_text(encoding="utf-8")))
    except (OSError, ValueError, TypeError):
        return Way()


def write_way(root: Path, site: str, way: Way) -> None:
    """Keep the way to the readers of a site; answers from now on take it."""
    (root / _WAYS).mkdir(parents=True, exist_ok=True)
    (root / _WAYS / f"{site}.json").write_text(json.dumps(asdict(way)), encoding="utf-8")


def forget_folder(root: Path, site: str) -> None:
    """Take a site off the host, by its folder's name."""
    shutil.rmtree(root / site, ignore_errors=True)
    (root / _WAYS / f"{site}.json").unlink(missing_ok=True)


def create_host(root: Path) -> Starlette:
    """Return the host of the sites in a folder."""
    root.mkdir(parents=True, exist_ok=True)

    async def serve(request: Request) -> Response:
        site = request.path_params["path"].partition("/")[0]
        way = read_way(root, site) if _is_there(root, site) else Way()
        if way.delay:
            await asyncio.sleep(way.delay)
        return _paced(_answer(root, request, way), way)

    dav: dict[str, Any] = {
        "provider_mapping": {"/": {"root": str(root)}},
        "simple_dc": {"user_mapping": {"*": {DAV_USER: {"password": DAV_PASSWORD}}}},
        "http_authenticator": {"accept_basic": True, "accept_digest": False, "default_to_digest": False},
        "mount_path": "/dav",
        "dir_browser": {"enable": False},
        "verbose": 0,
        "logging": {"enable": False},
    }
    return Starlette(
        routes=[
            Mount("/dav", app=cast("ASGIApp", WSGIMiddleware(WsgiDAVApp(dav)))),
            Route("/{path:path}", serve, methods=["GET", "HEAD"]),
        ],
        middleware=[Middleware(GZipMiddleware, minimum_size=500)],
    )


def _answer(root: Path, request: Request, way: Way) -> Response:
    path = request.path_params["path"]
    site, _, within = path.partition("/")
    folder = root / site
    if not site or site.startswith(".") or not _is_there(root, site) or not folder.is_dir():
        return Response("There is no such site here.\n", 404, media_type="text/plain")
    if not within and not path.endswith("/"):
        return RedirectResponse(f"/{path}/", 301)
    goal = _redirects(folder).get("/" + within)
    if goal is not None:
        return RedirectResponse(goal if "://" in goal else f"/{site}{goal}", 301)
    if _is_there(folder, within.rstrip("/")) and (folder / within).is_dir():
        if within and not within.endswith("/"):
            return RedirectResponse(f"/{path}/", 301)
        within += _INDEX
    hidden = any(part.startswith(".") for part in within.split("/")) or within == REDIRECTS
    if hidden or not _is_there(folder, within) or not (folder / within).is_file():
        return _missing(folder, way)
    return _file(folder / within, request, way)


def _is_there(folder: Path, path: str) -> bool:
    """Return whether a path is there with just these letters, and no part of it is a link."""
    at = folder
    for part in path.split("/") if path else []:
        if part in ("", ".", "..") or not at.is_dir() or part not in {one.name for one in at.iterdir()}:
            return False
        at = at / part
        if at.is_symlink():
            return False
    return True


def _redirects(folder: Path) -> dict[str, str]:
    try:
        rows = csv.reader((folder / REDIRECTS).read_text(encoding="utf-8").splitlines())
        return {row[0]: row[1] for row in rows if len(row) > 1 and row[0].startswith("/")}
    except (OSError, UnicodeDecodeError, csv.Error):
        return {}


def _missing(folder: Path, way: Way) -> Response:
    page = folder / _MISSING
    if page.is_file():
        return Response(page.read_bytes(), 404, headers={"content-type": _type(page, way)})
    return Response("There is no such page here.\n", 404, media_type="text/plain")


def _type(file: Path, way: Way) -> str:
    found = _TYPES.get(file.suffix.lower()) or mimetypes.guess_type(file.name)[0] or "application/octet-stream"
    return f"{found}; charset={way.charset}" if way.charset and found.startswith("text/") else found


def _file(file: Path, request: Request, way: Way) -> Response:
    data = file.read_bytes()
    tag = f'"{hashlib.sha256(data).hexdigest()[:32]}"'
    headers = {
        "content-type": _type(file, way),
        "etag": tag,
        "last-modified": formatdate(file.stat().st_mtime, usegmt=True),
        "cache-control": "no-cache" if file.suffix.lower() in _TYPES else "max-age=3600",
    }
    if request.headers.get("if-none-match") == tag:
        return Response(status_code=304, headers=headers)
    return Response(data, headers=headers)


def _paced(answer: Response, way: Way) -> Response:
    """Return an answer that comes as fast as the way lets it through."""
    if not way.bandwidth or not answer.body:
        return answer
    body = bytes(answer.body)

    async def pieces() -> Any:
        for start in range(0, len(body), _PIECE):
            piece = body[start : start + _PIECE]
            await asyncio.sleep(len(piece) / way.bandwidth)
            yield piece

    headers = {name: value for name, value in answer.headers.items() if name != "content-length"}
    return StreamingResponse(pieces(), answer.status_code, headers=headers)
