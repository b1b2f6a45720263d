"""Who may ask: Host and Origin are checked, and every answer says what a browser may do with it."""

from __future__ import annotations

from collections.abc import Collection
from http import HTTPStatus
from urllib.parse import urlsplit

from starlette.datastructures import Headers, MutableHeaders
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from signpost.web.errors import problem
from signpost.web.limits import BODY_BYTES, TEXT_BODY_BYTES

_SAFE_METHODS = frozenset(["GET", "HEAD", "OPTIONS"])
#: For our own pages. The preview's frame sets its own.
APPLICATION_POLICY = (
    "default-src 'self'; img-src 'self' data:; style-src 'self' 'unsafe-inline'; font-src 'self'; frame-src 'self'; "
    "object-src 'none'; base-uri 'none'; form-action 'self'; frame-ancestors 'none'"
)


class Guard:
    """Refuses requests from other hosts and other sites, and bodies that are too large."""

    def __init__(self, app: ASGIApp, hosts: Collection[str]) -> None:
        self.app = app
        self.hosts = frozenset(hosts)

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Pass a request on, or answer it with what is wrong."""
        if scope["type"] != "http":
            await self.app(scope, receive, send)
            return
        refusal = self._refusal(scope)
        if refusal is not None:
            status, detail = refusal
            await problem(status, detail)(scope, receive, send)
            return

        async def send_guarded(message: Message) -> None:
            if message["type"] == "http.response.start":
                headers = MutableHeaders(scope=message)
                headers.setdefault("content-security-policy", APPLICATION_POLICY)
                headers.setdefault("x-content-type-options", "nosniff")
                headers.setdefault("referrer-policy", "no-referrer")
                headers.setdefault("cross-origin-resource-policy", "same-origin")
            await send(message)

        await self.app(scope, receive, send_guarded)

    def _refusal(self, scope: Scope) -> tuple[HTTPStatus, str] | None:
        headers = Headers(scope=scope)
        host = headers.get("host", "")
        name = (urlsplit(f"//{host}").hostname or "").lower()
        if name not in self.hosts:
            return HTTPStatus.MISDIRECTED_REQUEST, f"This server does not answer for “{name}”."
        if scope["method"] in _SAFE_METHODS:
            return None
        origin = headers.get("origin")
        foreign = origin is not None and urlsplit(origin).netloc.lower() != host.lower()
        if foreign or headers.get("sec-fetch-site", "same-origin") not in ("same-origin", "none"):
            return HTTPStatus.FORBIDDEN, "Requests that change something must come from the application itself."
        return self._size_refusal(scope, headers)

    def _size_refusal(self, scope: Scope, headers: Headers) -> tuple[HTTPStatus, str] | None:
        uploads = scope["path"].endswith(("/files", "/archive"))
        limit = BODY_BYTES if uploads else TEXT_BODY_BYTES
        length = headers.get("content-length")
        if length is None and headers.get("transfer-encoding"):
            return HTTPStatus.LENGTH_REQUIRED, "Say how long the request is."
        if length is not None and (not length.isdigit() or int(length) > limit):
            return (
                HTTPStatus.REQUEST_ENTITY_TOO_LARGE,
                f"That is too much at once; at most {limit // 2**20} MB are taken in one request.",
            )
        return None
