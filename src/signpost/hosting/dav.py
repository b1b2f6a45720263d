"""A folder of a host, by WebDAV (RFC 4918)."""

from __future__ import annotations

import posixpath
import threading
import time
from collections.abc import Collection, Iterator, Mapping
from http import HTTPStatus
from urllib.parse import quote, unquote, urljoin, urlsplit
from xml.etree.ElementTree import Element, ParseError

import urllib3
from defusedxml import DefusedXmlException
from defusedxml.ElementTree import fromstring

from signpost.core.text.errors import InputError, RequestError
from signpost.hosting.addresses import HostAddress, led_on, read_address
from signpost.hosting.targets import LONGEST, MOST_BYTES, PATIENCE, ChangedThereError, Remote, beside, folders_of

#: How many requests go on at once, each over a connection that stays.
_WIDTH = 4
_MOST_REDIRECTS = 3
_REDIRECTS = frozenset([301, 302, 303, 307, 308])
_PROPS = (
    b'<?xml version="1.0"?><propfind xmlns="DAV:"><prop><resourcetype/><getcontentlength/><getetag/>'
    b"<getlastmodified/></prop></propfind>"
)
_DAV = "{DAV:}"
_HERE = ("127.0.0.1", "localhost", "::1")
#: What a host says that cannot move files: it is written straight to its place there.
_CANNOT_MOVE = frozenset([400, 403, 405, 409, 415, 500, 501, 502])


class DavTarget:
    """A folder of a host, by WebDAV. No request leaves the host, scheme and port that its address names."""

    width = _WIDTH

    def __init__(self, address: str, user: str = "", password: str = "") -> None:
        found = read_address(address)
        if found.scheme == "http" and found.host not in _HERE:
            raise RequestError("The password would travel in the clear. Use the host's address with https://.")
        kind = urllib3.HTTPSConnectionPool if found.scheme == "https" else urllib3.HTTPConnectionPool
        timeout = urllib3.Timeout(connect=PATIENCE, read=PATIENCE)
        self._pool = kind(found.host, found.port, maxsize=_WIDTH, block=True, timeout=timeout, retries=False)
        self._origin = found.origin
        self._base = found.path.rstrip("/") + "/"
        self._address = f"{found.scheme}://{found.netloc}{self._base}".rstrip("/")
        self._headers = urllib3.make_headers(basic_auth=f"{user}:{password}") if user else {}
        self._headers["accept-encoding"] = "identity"
        self._made: set[str] = set()
        self._making = threading.Lock()
        self._moves = True  # whether the host moves files, as far as is known

    # ---------------------------------------------------------------- what a target does

    def look(self, paths: Collection[str]) -> Mapping[str, Remote]:
        """Return what is known of those of some files that are there, asked folder by folder."""
        if len(paths) == 1:
            (path,) = paths
            status, data = self._ask("PROPFIND", path, _PROPS, {"depth": "0"}, (404, 409, 410))
            return dict(self._listed(data)) if status == HTTPStatus.MULTI_STATUS else {}
        found: dict[str, Remote] = {}
        missing: set[str] = set()
        for folder in sorted({posixpath.dirname(path) for path in paths}):
            if any(outer in missing for outer in folders_of(f"{folder}/x")):
                missing.add(folder)
                continue
            status, data = self._ask("PROPFIND", f"{folder}/" if folder else "", _PROPS, {"depth": "1"}, (404,))
            if status == HTTPStatus.NOT_FOUND:
                missing.add(folder)
            else:
                found |= {path: remote for path, remote in self._listed(data) if path in paths}
        return found

    def read(self, path: str) -> bytes | None:
        """Return a file's bytes; None for one that is not there."""
        status, data = self._ask("GET", path, allowed=(404, 410))
        return data if status == HTTPStatus.OK else None

    def write(self, path: str, data: bytes, seen: Remote | None) -> bool:
        """Put a file there: beside its place first, and moved there once it reads back as it was sent."""
        self._make_folders(path)
        if self._moves:
            waiting = beside(path)
            self._ask("PUT", waiting, data)
            back = self._ask("GET", waiting, allowed=(401, 403, 404))
            if back[0] == HTTPStatus.OK and back[1] != data:
                self.clear(path)
                return False
            try:
                self._refuse_changed(path, seen)
            except ChangedThereError:
                self.clear(path)
                raise
            if self._move(waiting, path, new=seen is None):
                return back[0] == HTTPStatus.OK or self.read(path) == data
        self._refuse_changed(path, seen)
        self._ask("PUT", path, data)
        return self.read(path) == data

    def delete(self, path: str, seen: Remote) -> None:
        """Take a file away."""
        self._refuse_changed(path, seen)
        self._ask("DELETE", path, allowed=(404, 410))

    def _refuse_changed(self, path: str, seen: Remote | None) -> None:
        """Raise ChangedThereError for a file that is not as it was seen; a new one is refused by the host itself."""
        if (seen is not None or not self._moves) and self.look([path]).get(path) not in (seen, None):
            raise ChangedThereError(path)

    def clear(self, path: str) -> None:
        """Take away what was left beside a file's place."""
        self._ask("DELETE", beside(path), allowed=(404, 410, 403, 405))

    def close(self) -> None:
        """Let all connections go."""
        self._pool.close()

    # ---------------------------------------------------------------- how

    def _make_folders(self, path: str) -> None:
        with self._making:
            for folder in folders_of(path):
                if folder not in self._made:
                    self._ask("MKCOL", f"{folder}/", allowed=(405, 301))  # there already (RFC 4918, 9.3.1)
                    self._made.add(folder)

    def _move(self, waiting: str, path: str, *, new: bool) -> bool:
        """Move a file to its place; False where the host cannot, and nothing is left beside."""
        goal = {"destination": f"{self._address}/{quote(path)}", "overwrite": "F" if new else "T"}
        status, _ = self._ask("MOVE", waiting, headers=goal, allowed=(412, 404, *_CANNOT_MOVE))
        if status == HTTPStatus.PRECONDITION_FAILED:
            self.clear(path)
            raise ChangedThereError(path)
        if status in (HTTPStatus.CREATED, HTTPStatus.NO_CONTENT, HTTPStatus.OK, HTTPStatus.NOT_FOUND):
            return status != HTTPStatus.NOT_FOUND or bool(self.look([path]))  # not found: moved by the try before
        self._moves = False
        self.clear(path)
        return False

    def _listed(self, data: bytes) -> Iterator[tuple[str, Remote]]:
        """Yield the files of a folder that an answer of PROPFIND tells of (RFC 4918, 9.1)."""
        try:
            answers = fromstring(data, forbid_dtd=True).iter(f"{_DAV}response")
            for answer in answers:
                address = urlsplit(urljoin(self._address + "/", answer.findtext(f"{_DAV}href", "").strip()))
                path = unquote(address.path, errors="surrogateescape")
                if path.startswith(unquote(self._base)) and answer.find(f".//{_DAV}collection") is None:
                    yield path[len(unquote(self._base)) :], _remote(answer)
        except (ParseError, DefusedXmlException, ValueError, UnicodeError) as error:
            raise InputError(f"{self._address} answers with a list that cannot be read: {error}.") from error

    def _ask(
        self,
        method: str,
        path: str,
        body: bytes | None = None,
        headers: Mapping[str, str] | None = None,
        allowed: tuple[int, ...] = (),
    ) -> tuple[int, bytes]:
        """Return the status and body of an answer that is a success, or `allowed`. Raises InputError for others."""
        address = f"{self._base}{quote(path)}"
        for _ in range(_MOST_REDIRECTS):
            status, reason, goal, data = self._send(method, address, body, headers)
            if status in allowed or 200 <= status < 300:  # noqa: PLR2004 - RFC 9110, 15.3
                return status, data
            if status in _REDIRECTS and method in ("GET", "PROPFIND") and goal and self._is_here(goal, address):
                address = urlsplit(urljoin(address, goal)).path
                continue
            break
        if status in (401, 403):
            raise InputError(
                f"The host refuses the user's name or password ({status} for {method} of {path or '/'})."
            )
        if status in _REDIRECTS:
            raise InputError(
                f"The host sends {method} of {path or '/'} on to {goal or 'nowhere'}; nothing was sent there. If "
                "that is yours, save its address as the target's."
            )
        if status == HTTPStatus.INSUFFICIENT_STORAGE:
            raise InputError(f"The host has no room left for {path}. Make room there and publish again.")
        raise InputError(f"The host refuses {method} of {path or '/'}: {status} {reason}.")

    def _is_here(self, goal: str, address: str) -> bool:
        """Return whether an address that an answer leads on to is of the same origin (RFC 6454, 5)."""
        here = HostAddress(*self._origin, address, "")
        try:
            return led_on(here, goal).origin == self._origin
        except RequestError:
            return False

    def _send(
        self, method: str, address: str, body: bytes | None, headers: Mapping[str, str] | None
    ) -> tuple[int, str, str, bytes]:
        """Return status, reason, goal and body of an answer. A connection that was let go meanwhile is made anew."""
        said = {**self._headers, **(headers or {})}
        for attempt in (1, 2):
            try:
                answer = self._pool.urlopen(
                    method, address, body, said, redirect=False, preload_content=False, decode_content=False
                )
                return answer.status, answer.reason or "", answer.headers.get("location", ""), self._body(answer)
            except urllib3.exceptions.ProtocolError as error:
                if attempt == 1 and not isinstance(error, urllib3.exceptions.IncompleteRead):
                    continue
                raise self._silent(error) from error
            except (urllib3.exceptions.HTTPError, OSError, ValueError) as error:
                raise self._silent(error) from error
        raise AssertionError

    def _body(self, answer: urllib3.BaseHTTPResponse) -> bytes:
        pieces, size, until = [], 0, time.monotonic() + LONGEST
        for piece in answer.stream(256 * 1024, decode_content=False):
            size += len(piece)
            pieces.append(piece)
            if size > MOST_BYTES or time.monotonic() > until:
                answer.close()
                what = f"more than {MOST_BYTES // 2**20} MB" if size > MOST_BYTES else "too slowly"
                raise InputError(f"{self._address} answers {what}; it was not waited for any longer.")
        answer.release_conn()
        return b"".join(pieces)

    def _silent(self, error: Exception) -> InputError:
        return InputError(f"{self._address} does not answer as a host should: {error}.")


def _remote(answer: Element) -> Remote:
    size = answer.findtext(f".//{_DAV}getcontentlength", "").strip()
    tag = answer.findtext(f".//{_DAV}getetag", "").strip() or answer.findtext(f".//{_DAV}getlastmodified", "").strip()
    return Remote(int(size) if size.isascii() and size.isdigit() and len(size) < 20 else None, tag)  # noqa: PLR2004
