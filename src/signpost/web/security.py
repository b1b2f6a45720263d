"""Who may ask: Host and Origin are checked, and every answer says what a browser may do with it."""

from __future__ import annotations

import re
from collections.abc import Collection
from http import HTTPStatus
from urllib.parse import unquote, urlsplit

from starlette.datastructures import Headers, MutableHeaders
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from signpost.desk.deeds import AUTHOR, Author
from signpost.web.errors import problem
from signpost.web.limits import BODY_BYTES, TEXT_BODY_BYTES

#: How long the name of a window and that of an author may be, in characters.
_WINDOW_CHARACTERS = 40
_NAME_CHARACTERS = 80
#: What Host may be: a name or an address, and a port (RFC 9110, 7.2), without what a reader of addresses passes over.
_HOST = re.compile(r"(?:\[([0-9A-Fa-f:.]{2,45})\]|([A-Za-z0-9._-]{0,253}))(?::[0-9]{1,5})?")
_LENGTH = re.compile(r"[0-9]{1,18}")
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
        AUTHOR.set(_author_of(Headers(scope=scope)))
        if refusal is not None:
            status, detail = refusal
            await problem(status, detail)(scope, receive, send)
            return

        async def send_guarded(message: Message) -> None:
            if message["type"] == "http.response.start":
                headers = MutableHeaders(scope=message)
                headers.setdefault("content-security-policy", APPLICATION_POLICY)
                headers.setdefault("x-content-type-options", "nosniff")
                headers.setdefault("referrer-policy", "same-origin")
                headers.setdefault("cross-origin-resource-policy", "same-origin")
            await send(message)

        counted = _Counted(receive, _limit_of(scope))
        try:
            await self.app(scope, counted.receive, send_guarded)
        except _TooLargeError:
            await _too_large(counted.limit)(scope, receive, send)

    def _refusal(self, scope: Scope) -> tuple[HTTPStatus, str] | None:
        headers = Headers(scope=scope)
        refused = self._outer_refusal(headers)
        if refused is not None:
            return refused
        if b"%00" in scope.get("raw_path", b"") or b"%00" in scope["query_string"]:
            return (
                HTTPStatus.BAD_REQUEST,
                "The request's address contains a NUL character, and nothing here has such a name.",
            )
        if scope["method"] in _SAFE_METHODS:
            return None
        origin = headers.get("origin")
        foreign = origin is not None and not _is_of(origin, headers["host"])
        if foreign or headers.get("sec-fetch-site", "same-origin") not in ("same-origin", "none"):
            return HTTPStatus.FORBIDDEN, "Requests that change something must come from the application itself."
        return self._size_refusal(scope, headers)

    def _outer_refusal(self, headers: Headers) -> tuple[HTTPStatus, str] | None:
        hosts = headers.getlist("host")
        name = _host_name(hosts[0]) if len(hosts) == 1 else None
        if name is None:
            return HTTPStatus.BAD_REQUEST, "The request's Host cannot be read as a host name."
        if name not in self.hosts:
            return HTTPStatus.MISDIRECTED_REQUEST, f"This server does not answer for “{name}”."
        if "transfer-encoding" in headers and "content-length" in headers:
            return HTTPStatus.BAD_REQUEST, "The request says in two ways how long it is."  # RFC 9112, 6.1
        return None

    def _size_refusal(self, scope: Scope, headers: Headers) -> tuple[HTTPStatus, str] | None:
        limit = _limit_of(scope)
        length = headers.get("content-length")
        if length is None and headers.get("transfer-encoding"):
            return HTTPStatus.LENGTH_REQUIRED, "Say how long the request is."
        if length is not None and not _LENGTH.fullmatch(length):
            return HTTPStatus.BAD_REQUEST, "The request's Content-Length is no number of bytes."
        if length is not None and int(length) > limit:
            return (
                HTTPStatus.REQUEST_ENTITY_TOO_LARGE,
                f"That is too much at once; at most {limit // 2**20} MB are taken in one request.",
            )
        return None


def _author_of(headers: Headers) -> Author:
    """Return who asks: the header contains the window's name and how the author calls themselves, percent-encoded."""
    window, _, name = headers.get("x-signpost-author", "").partition(";")
    shown = unquote(name, errors="replace").replace("\0", "").strip()
    return Author(window[:_WINDOW_CHARACTERS], shown[:_NAME_CHARACTERS])


def _host_name(host: str) -> str | None:
    """Return the host name of a Host header, in lower case, "" for an empty one; None for what is no host."""
    found = _HOST.fullmatch(host)
    return None if found is None else (found[1] or found[2]).lower()


def _is_of(origin: str, host: str) -> bool:
    """Return whether an origin is that of a host."""
    try:
        return urlsplit(origin).netloc.lower() == host.lower()
    except ValueError:
        return False


def _limit_of(scope: Scope) -> int:
    """Return how large the body of a request may be, in bytes."""
    return BODY_BYTES if scope["path"].endswith(("/files", "/archive", "/desks")) else TEXT_BODY_BYTES


def _too_large(limit: int) -> ASGIApp:
    return problem(
        HTTPStatus.REQUEST_ENTITY_TOO_LARGE,
        f"That is too much at once; at most {limit // 2**20} MB are taken in one request.",
    )


class _TooLargeError(Exception):
    """A body is larger than its request said, or than any may be."""


class _Counted:
    """A body whose bytes are counted as they come, whatever the request said about them."""

    def __init__(self, receive: Receive, limit: int) -> None:
        self._receive = receive
        self._received = 0
        self.limit = limit

    async def receive(self) -> Message:
        """Return the next message. Raises _TooLargeError once more bytes came than are taken."""
        message = await self._receive()
        self._received += len(message.get("body", b""))
        if self._received > self.limit:
            raise _TooLargeError
        return message
