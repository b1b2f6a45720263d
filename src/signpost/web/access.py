"""Signing in, where the server is reached from other computers: one key, which everyone who works on the sites knows.

Without a key nothing here asks for anything; the server answers its own computer alone then.
"""

from __future__ import annotations

import asyncio
import hashlib
import hmac
import ipaddress
import re
import secrets
from collections.abc import Callable
from datetime import UTC, datetime, timedelta
from functools import partial
from html import escape
from http import HTTPStatus
from pathlib import Path
from typing import TypeVar
from urllib.parse import parse_qs, urlencode
from uuid import UUID

from anyio import CapacityLimiter, to_thread
from sqlalchemy.exc import SQLAlchemyError
from sqlalchemy.orm import Session
from starlette.requests import Request
from starlette.responses import HTMLResponse, RedirectResponse, Response
from starlette.types import ASGIApp, Receive, Scope, Send

from signpost.store import sign_ins
from signpost.store.database import Database
from signpost.web.errors import explain, problem

T = TypeVar("T")

#: The shortest key, in characters.
KEY_CHARACTERS = 16
#: How long one stays signed in.
SIGNED_IN = timedelta(days=14)
#: How long the way to a site's files in the preview stays open at most.
PASS = timedelta(days=1)
#: How long a browser is known that has signed in.
KNOWN = timedelta(days=180)
#: The largest body of a sign-in, in bytes, and how long it may take to come, in seconds.
_BODY, _PATIENCE = 4096, 15
#: How many keys wait at once to be judged; a further one is told to come again.
_WAITING = 40

_COOKIE, _BROWSER = "signpost-signed-in", "signpost-browser"
#: What the application's own scripts see of it, to offer signing out.
_SEEN = "signpost-can-sign-out"
_PREVIEW = re.compile(r"/preview/([0-9a-f-]{36})(?:\.([0-9]+-[0-9a-f]{32}-[0-9a-f]{32}))?(/.*)?")
_OURS = re.compile(r"/preview/\w+\.js|/api/health")
_PAGE = (Path(__file__).parent / "sign-in.html").read_text(encoding="utf-8")


def now() -> datetime:
    """Return the time."""
    return datetime.now(UTC)


class Access:
    """Lets in who has signed in; everyone where there is no key."""

    def __init__(self, app: ASGIApp, key: str | None) -> None:
        self.app = app
        self._key = None if key is None else hashlib.sha256(key.encode()).digest()
        self._judging = 0

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Pass a request on, or ask for the key."""
        if scope["type"] != "http" or self._key is None:
            await self.app(scope, receive, send)
            return
        try:
            answer = await self._answer(Request(scope, receive))
        except SQLAlchemyError as error:
            answer = problem(*explain(error))
        await (self.app if answer is None else answer)(scope, receive, send)

    async def _answer(self, request: Request) -> Response | None:
        """Return the answer to a request that is not passed on; None for one that is."""
        path = request.url.path
        if path == "/sign-in":
            return await self._try_key(request) if request.method == "POST" else _sign_in_page()
        if _OURS.fullmatch(path):
            return None
        preview = _PREVIEW.fullmatch(path)
        if preview is not None:
            return await self._open_preview(request, preview)
        signed_in = await self._pass_of(request)
        if signed_in is not None:
            return await self._sign_out(request, signed_in) if path == "/sign-out" else None
        if path.startswith("/api/") or request.method not in ("GET", "HEAD"):
            return problem(HTTPStatus.UNAUTHORIZED, "Sign in first: open the application's own address.")
        return RedirectResponse(f"/sign-in?{urlencode({'to': path})}", HTTPStatus.SEE_OTHER)

    async def _sign_out(self, request: Request, signed_in: UUID) -> Response | None:
        if request.method != "POST":
            return None
        await _ask(request, partial(sign_ins.end_pass, pass_id=signed_in))
        answer = RedirectResponse("/sign-in", HTTPStatus.SEE_OTHER)
        for name in (_COOKIE, _SEEN):
            answer.delete_cookie(name)
        return answer

    # ------------------------------------------------------------------ the key

    async def _try_key(self, request: Request) -> Response:
        body = await _body_of(request)
        if body is None:
            return _sign_in_page("That is too long to be the key.", HTTPStatus.REQUEST_ENTITY_TOO_LARGE)
        if self._judging >= _WAITING:
            return _come_again(1)
        given = parse_qs(body.decode("utf-8", "replace")).get("key", [""])[0].strip()
        self._judging += 1
        try:
            return await self._judge(request, given)
        finally:
            self._judging -= 1

    async def _judge(self, request: Request, given: str) -> Response:
        right = hmac.compare_digest(hashlib.sha256(given.encode()).digest(), self._secret)
        browser = self._browser_of(request)
        judge = partial(sign_ins.judge, now=now(), is_right=right, is_known=browser is not None)
        wait = await _ask(request, partial(judge, caller=browser or _address_of(request)))
        if wait > timedelta():
            return _come_again(int(wait.total_seconds()) + 1)
        if not right:
            return _sign_in_page("That is not the key.", HTTPStatus.UNAUTHORIZED)
        return await self._let_in(request, browser or f"browser {secrets.token_hex(8)}")

    async def _let_in(self, request: Request, browser: str) -> Response:
        token, time = secrets.token_urlsafe(32), now()
        begin = partial(sign_ins.begin_pass, key_mark=self._mark, until=time + SIGNED_IN, now=time)
        await _ask(request, partial(begin, token_sha256=_hash(token)))
        to = request.query_params.get("to", "/")
        answer = RedirectResponse(to if re.match(r"/(?![/\\])", to) else "/", HTTPStatus.SEE_OTHER)
        secure = request.url.scheme == "https"
        for name, value, age in (
            (_COOKIE, token, SIGNED_IN),
            (_BROWSER, f"{browser.removeprefix('browser ')}-{self._sign(browser)}", KNOWN),
            (_SEEN, "1", SIGNED_IN),
        ):
            seconds = int(age.total_seconds())
            ours = name != _SEEN
            answer.set_cookie(name, value, seconds, httponly=ours, samesite="strict", secure=secure)
        return answer

    @property
    def _secret(self) -> bytes:
        assert self._key is not None  # noqa: S101 - without a key nothing is asked
        return self._key

    @property
    def _mark(self) -> str:
        return self._sign("mark")

    def _sign(self, words: str) -> str:
        return hmac.new(self._secret, words.encode(), hashlib.sha256).hexdigest()[:32]

    def _is_ours(self, words: str, signature: str) -> bool:
        return hmac.compare_digest(signature.encode(), self._sign(words).encode())

    def _browser_of(self, request: Request) -> str | None:
        """Return the browser that a request comes from, where it has signed in before."""
        name, _, signature = request.cookies.get(_BROWSER, "").partition("-")
        return f"browser {name}" if self._is_ours(f"browser {name}", signature) else None

    async def _pass_of(self, request: Request) -> UUID | None:
        token = request.cookies.get(_COOKIE, "")
        if not token:
            return None
        find = partial(sign_ins.find_pass, token_sha256=_hash(token), key_mark=self._mark, now=now())
        return await _ask(request, find)

    # ------------------------------------------------------------------ the preview

    async def _open_preview(self, request: Request, path: re.Match[str]) -> Response | None:
        """Return the answer to a request of the preview's frame, or None for one that is passed on.

        The frame has no origin, so browsers send no cookie with what it loads. Its address holds a pass in the place
        of one, which opens this site's files alone, for a day, and no longer than whoever got it is signed in.
        """
        site, given, rest = path.group(1), path.group(2), path.group(3) or "/"
        if given is not None and await self._opens(request, site, given):
            request.scope["preview_root"] = f"/preview/{site}.{given}/"
            request.scope["path"] = f"/preview/{site}{rest}"
            return None
        signed_in = await self._pass_of(request)
        if signed_in is None:
            return problem(HTTPStatus.UNAUTHORIZED, "Sign in first: open the application's own address.")
        said = f"{int((now() + PASS).timestamp())}-{signed_in.hex}"
        query = f"?{request.url.query}" if request.url.query else ""
        rest = request.scope.get("raw_path", b"").decode("ascii", "replace").partition(site)[2] or rest
        signed = f"{said}-{self._sign(f'preview {site} {said}')}"
        return RedirectResponse(f"/preview/{site}.{signed}{rest}{query}", HTTPStatus.TEMPORARY_REDIRECT)

    async def _opens(self, request: Request, site: str, given: str) -> bool:
        said, _, signature = given.rpartition("-")
        until, _, number = said.partition("-")
        if not self._is_ours(f"preview {site} {said}", signature) or int(until) <= now().timestamp():
            return False
        return await _ask(request, partial(sign_ins.is_open, pass_id=UUID(number), key_mark=self._mark, now=now()))


#: How many threads ask the database who may ask.
_THREADS = 4


async def _ask(request: Request, what: Callable[[Session], T]) -> T:
    """Return what the database answers."""
    state = request.scope["app"].state
    if not hasattr(state, "asking_access"):
        state.asking_access = CapacityLimiter(_THREADS)

    def ask() -> T:
        database: Database = state.database
        with database.transaction() as session:
            return what(session)

    return await to_thread.run_sync(ask, limiter=state.asking_access)


async def _body_of(request: Request) -> bytes | None:
    """Return the body of a sign-in; None for one that is too long, or takes too long to come."""
    body = b""
    try:
        async with asyncio.timeout(_PATIENCE):
            async for chunk in request.stream():
                body += chunk
                if len(body) > _BODY:
                    return None
    except TimeoutError:
        return None
    return body


def _address_of(request: Request) -> str:
    """Return the address that a request comes from; of IPv6 the network, which one customer has as a whole."""
    host = request.client.host if request.client else ""
    try:
        address = ipaddress.ip_address(host)
    except ValueError:
        return host
    if address.version == 4:  # noqa: PLR2004 - of the protocol
        return host
    return str(ipaddress.ip_network((address, 64), strict=False))


def _hash(token: str) -> str:
    return hashlib.sha256(token.encode("utf-8", "surrogateescape")).hexdigest()


def _come_again(seconds: int) -> Response:
    words = f"There were too many wrong keys. Try again in {seconds} second{'' if seconds == 1 else 's'}."
    return _sign_in_page(words, HTTPStatus.TOO_MANY_REQUESTS, {"retry-after": str(seconds)})


def _sign_in_page(
    words: str = "", status: HTTPStatus = HTTPStatus.OK, headers: dict[str, str] | None = None
) -> Response:
    text = _PAGE.replace("{words}", f'<p role="alert">{escape(words)}</p>' if words else "")
    # without a referrer, browsers would not say either that the form comes from here
    fixed = {"cache-control": "no-store", "referrer-policy": "same-origin"}
    return HTMLResponse(text, status, fixed | (headers or {}))
