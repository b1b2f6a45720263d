"""Signing in, where the server is reached from other computers: one key, which everyone who works on the sites knows.

Without a key nothing here asks for anything; the server answers its own computer alone then.
"""

from __future__ import annotations

import hashlib
import hmac
import re
import time
from collections import OrderedDict
from dataclasses import dataclass
from html import escape
from http import HTTPStatus
from pathlib import Path
from urllib.parse import parse_qs, urlencode

from starlette.requests import Request
from starlette.responses import HTMLResponse, RedirectResponse, Response
from starlette.types import ASGIApp, Receive, Scope, Send

from signpost.web.errors import problem

#: The shortest key, in characters.
KEY_CHARACTERS = 16
#: How long one stays signed in, in seconds.
SIGNED_IN = 14 * 24 * 3600
#: How long the way to a site's files in the preview stays open, in seconds.
PASS = 24 * 3600
#: Failures of one address that cost nothing; then how long it has to wait, doubled each time, in seconds.
FREE_FAILURES = 3
FIRST_WAIT = 2.0
LONGEST_WAIT = 300.0
#: How many addresses are remembered.
ADDRESSES = 10_000
#: The largest body of a sign-in, in bytes.
_BODY = 4096

_COOKIE = "signpost-signed-in"
_PREVIEW = re.compile(r"/preview/([0-9a-f-]{36})(?:\.([0-9]+-[0-9a-f]{32}))?(/.*)?")
_OURS = re.compile(r"/preview/\w+\.js|/api/health")
_PAGE = (Path(__file__).parent / "sign-in.html").read_text(encoding="utf-8")


@dataclass(slots=True)
class _Failures:
    """The failures of one address."""

    count: int = 0
    until: float = 0.0  # when it may try again, by the monotonic clock, in seconds


class Access:
    """Lets in who has signed in; everyone where there is no key."""

    def __init__(self, app: ASGIApp, key: str | None) -> None:
        self.app = app
        self._key = None if key is None else hashlib.sha256(key.encode()).digest()
        self._failures: OrderedDict[str, _Failures] = OrderedDict()

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Pass a request on, or ask for the key."""
        if scope["type"] != "http" or self._key is None:
            await self.app(scope, receive, send)
            return
        answer = await self._answer(Request(scope, receive))
        await (self.app if answer is None else answer)(scope, receive, send)

    async def _answer(self, request: Request) -> Response | None:
        """Return the answer to a request that is not passed on; None for one that is."""
        path = request.url.path
        if path == "/sign-in":
            return await self._try_key(request) if request.method == "POST" else _sign_in_page()
        signed_in = self._is_signed_in(request)
        preview = _PREVIEW.fullmatch(path)
        if preview is not None:
            return self._open_preview(request, preview, signed_in=signed_in)
        if signed_in and path == "/sign-out" and request.method == "POST":
            answer = RedirectResponse("/sign-in", HTTPStatus.SEE_OTHER)
            answer.delete_cookie(_COOKIE)
            return answer
        if signed_in or _OURS.fullmatch(path):
            return None
        if path.startswith("/api/") or request.method not in ("GET", "HEAD"):
            return problem(HTTPStatus.UNAUTHORIZED, "Sign in first: open the application's own address.")
        return RedirectResponse(f"/sign-in?{urlencode({'to': path})}", HTTPStatus.SEE_OTHER)

    # ------------------------------------------------------------------ the key

    async def _try_key(self, request: Request) -> Response:
        address = request.client.host if request.client else ""
        failures = self._failures.get(address, _Failures())
        wait = failures.until - time.monotonic()
        if wait > 0:
            words = f"That was wrong too often. Try again in {int(wait) + 1} seconds."
            return _sign_in_page(words, HTTPStatus.TOO_MANY_REQUESTS, {"retry-after": str(int(wait) + 1)})
        body = b""
        async for chunk in request.stream():
            body += chunk
            if len(body) > _BODY:
                return _sign_in_page("That is too long to be the key.", HTTPStatus.REQUEST_ENTITY_TOO_LARGE)
        given = parse_qs(body.decode("utf-8", "replace")).get("key", [""])[0].strip()
        if not hmac.compare_digest(hashlib.sha256(given.encode()).digest(), self._secret):
            self._note_failure(address, failures)
            return _sign_in_page("That is not the key.", HTTPStatus.UNAUTHORIZED)
        self._failures.pop(address, None)
        to = request.query_params.get("to", "/")
        answer = RedirectResponse(to if re.match(r"/(?![/\\])", to) else "/", HTTPStatus.SEE_OTHER)
        until = str(int(time.time()) + SIGNED_IN)
        answer.set_cookie(
            _COOKIE,
            f"{until}-{self._sign(f'in {until}')}",
            max_age=SIGNED_IN,
            httponly=True,
            samesite="strict",
            secure=request.url.scheme == "https",
        )
        return answer

    def _note_failure(self, address: str, failures: _Failures) -> None:
        failures.count += 1
        beyond = failures.count - FREE_FAILURES
        if beyond > 0:
            failures.until = time.monotonic() + min(FIRST_WAIT * 2 ** min(beyond - 1, 20), LONGEST_WAIT)
        self._failures[address] = failures
        self._failures.move_to_end(address)
        while len(self._failures) > ADDRESSES:
            self._failures.popitem(last=False)

    @property
    def _secret(self) -> bytes:
        assert self._key is not None  # noqa: S101 - without a key nothing is asked
        return self._key

    def _sign(self, words: str) -> str:
        return hmac.new(self._secret, words.encode(), hashlib.sha256).hexdigest()[:32]

    def _holds(self, signed: str, purpose: str) -> bool:
        """Return whether a time with its signature is ours, for this purpose, and not over."""
        until, _, signature = signed.partition("-")
        right = hmac.compare_digest(signature.encode(), self._sign(f"{purpose} {until}").encode())
        return right and until.isascii() and until.isdigit() and int(until) > time.time()

    def _is_signed_in(self, request: Request) -> bool:
        return self._holds(request.cookies.get(_COOKIE, ""), "in")

    # ------------------------------------------------------------------ the preview

    def _open_preview(self, request: Request, path: re.Match[str], *, signed_in: bool) -> Response | None:
        """Return the answer to a request of the preview's frame, or None for one that is passed on.

        The frame has no origin, so browsers send no cookie with what it loads. Its address holds a pass in the place
        of one, which opens this site's files alone, for a day.
        """
        site, given, rest = path.group(1), path.group(2), path.group(3) or "/"
        if given is not None and self._holds(given, f"preview {site}"):
            request.scope["preview_root"] = f"/preview/{site}.{given}/"
            request.scope["path"] = f"/preview/{site}{rest}"
            return None
        if not signed_in:
            return problem(HTTPStatus.UNAUTHORIZED, "Sign in first: open the application's own address.")
        until = str(int(time.time()) + PASS)
        query = f"?{request.url.query}" if request.url.query else ""
        signed = f"{until}-{self._sign(f'preview {site} {until}')}"
        rest = request.scope.get("raw_path", b"").decode("ascii", "replace").partition(site)[2] or rest
        return RedirectResponse(f"/preview/{site}.{signed}{rest}{query}", HTTPStatus.TEMPORARY_REDIRECT)


def _sign_in_page(
    words: str = "", status: HTTPStatus = HTTPStatus.OK, headers: dict[str, str] | None = None
) -> Response:
    text = _PAGE.replace("{words}", f'<p role="alert">{escape(words)}</p>' if words else "")
    # without a referrer, browsers would not say either that the form comes from here
    fixed = {"cache-control": "no-store", "referrer-policy": "same-origin"}
    return HTMLResponse(text, status, fixed | (headers or {}))
