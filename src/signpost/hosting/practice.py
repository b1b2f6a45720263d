"""A host to practise on: serves what was published as hosts do, each site at an origin of its own.

A site is in a folder of its own, and answers under that folder's name below `localhost`, which browsers look for on
their own computer (RFC 6761, 6.3). Names are told apart by their letters' case, a folder shows its `index.html`, what
is missing is answered by the site's own `404.html`. Pages may use their scripts: they reach no other site's.
"""

from __future__ import annotations

import asyncio
import csv
import hashlib
import mimetypes
from email.utils import formatdate
from functools import lru_cache
from http import HTTPStatus
from pathlib import Path
from typing import TYPE_CHECKING, Any, cast
from urllib.parse import quote

from a2wsgi import WSGIMiddleware
from starlette.applications import Starlette
from starlette.middleware import Middleware
from starlette.middleware.gzip import GZipMiddleware
from starlette.requests import Request
from starlette.responses import PlainTextResponse, RedirectResponse, Response, StreamingResponse
from starlette.routing import Host, Mount, Route, Router
from wsgidav.wsgidav_app import WsgiDAVApp

from signpost.hosting.practice_settings import SettingsError, Way, dav_password, is_label, read_way

if TYPE_CHECKING:
    from collections.abc import Callable

    from starlette.types import ASGIApp, Receive, Scope, Send

#: Where a site may say which addresses are redirected: pairs of an old path and a new address, as a table.
REDIRECTS = "redirects.csv"
#: Who writes by WebDAV, below `/dav/` and the site's name: a made-up author of a made-up host.
DAV_USER = "practice"
_LOCAL = ("127.0.0.1", "localhost")
_INDEX, _MISSING = "index.html", "404.html"
_PIECE = 16 * 1024  # bytes that are sent at a time where the way is narrow
_TYPES = {".html": "text/html", ".htm": "text/html", ".xhtml": "application/xhtml+xml", ".svg": "image/svg+xml"}
_NO_SITE = "There is no such site here.\n"


def address_of(host: str, site: str) -> str:
    """Return the address of a site, by its folder's name, at the host of an address such as `http://127.0.0.1:8018`."""
    return f"http://{site}.localhost:{host.rpartition(':')[2]}/"


def create_host(root: Path) -> Starlette:
    """Return the host of the sites in a folder."""
    root.mkdir(parents=True, exist_ok=True)

    async def serve(request: Request) -> Response:
        site = request.path_params["site"]
        if not is_label(site) or not _is_there(root, site) or not (root / site).is_dir():
            return PlainTextResponse(_NO_SITE, HTTPStatus.NOT_FOUND)
        try:
            way = read_way(root, site)
        except SettingsError as error:
            return PlainTextResponse(f"{error}\n", HTTPStatus.SERVICE_UNAVAILABLE)
        if way.delay:
            await asyncio.sleep(way.delay)
        return _paced(_answer(root / site, request, way), way)

    def _route(serve: Callable[[Request], Any]) -> Route:
        return Route("/{path:path}", serve, methods=["GET", "HEAD"])

    own = Router([Mount("/dav/{site}", app=_Dav(root)), _route(_to_its_origin)])
    return Starlette(
        routes=[
            Host("{site}.localhost", app=Router([_route(serve)])),
            *(Host(name, app=own) for name in _LOCAL),
            Mount("/", app=PlainTextResponse("No site is called that here.\n", HTTPStatus.MISDIRECTED_REQUEST)),
        ],
        middleware=[Middleware(GZipMiddleware, minimum_size=500)],
    )


def _to_its_origin(request: Request) -> Response:
    """Lead from where a site's pages were below the host's own address to the site's."""
    site, _, within = request.path_params["path"].partition("/")
    if not is_label(site):
        return PlainTextResponse(_NO_SITE, HTTPStatus.NOT_FOUND)
    port = request.url.port or 80
    return RedirectResponse(f"http://{site}.localhost:{port}/{quote(within)}", HTTPStatus.MOVED_PERMANENTLY)


class _Dav:
    """The sites' folders by WebDAV, each with a password of its own, to programs but to no page."""

    def __init__(self, root: Path) -> None:
        self._root = root

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Answer a request, or refuse it."""
        request = Request(scope)
        site = scope["path_params"]["site"]
        app: ASGIApp
        if "origin" in request.headers or request.headers.get("sec-fetch-site", "none") != "none":
            app = PlainTextResponse("Files are taken from programs, not from pages.\n", HTTPStatus.FORBIDDEN)
        elif not is_label(site) or not _is_there(self._root, site):
            app = PlainTextResponse(_NO_SITE, HTTPStatus.NOT_FOUND)
        else:
            app = _dav_app(self._root, site, dav_password(self._root, site))
        await app(scope, receive, send)


@lru_cache(maxsize=16)
def _dav_app(root: Path, site: str, password: str) -> ASGIApp:
    said: dict[str, Any] = {
        "provider_mapping": {"/": {"root": str(root / site)}},
        "simple_dc": {"user_mapping": {"*": {DAV_USER: {"password": password}}}},
        "http_authenticator": {"accept_basic": True, "accept_digest": False, "default_to_digest": False},
        "mount_path": f"/dav/{site}",
        "dir_browser": {"enable": False},
        "verbose": 0,
        "logging": {"enable": False},
    }
    return cast("ASGIApp", WSGIMiddleware(WsgiDAVApp(said)))


def _answer(folder: Path, request: Request, way: Way) -> Response:
    within = request.path_params["path"]
    goal = _redirects(folder).get("/" + within)
    if goal is not None:
        return RedirectResponse(goal, HTTPStatus.MOVED_PERMANENTLY)
    if _is_there(folder, within.rstrip("/")) and (folder / within).is_dir():
        if within and not within.endswith("/"):
            return RedirectResponse(f"/{quote(within)}/", HTTPStatus.MOVED_PERMANENTLY)
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
