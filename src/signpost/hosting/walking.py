"""A published site walked as readers get it, over HTTP: every file, every address within it, every fragment."""

from __future__ import annotations

import re
import time
from collections.abc import Collection, Iterable, Iterator, Mapping
from dataclasses import dataclass, replace
from http import HTTPStatus
from urllib.parse import quote

import urllib3

from signpost.core.addresses.fragments import DIRECTIVE
from signpost.core.addresses.links import LinkKind
from signpost.core.page import Page, Target
from signpost.core.site.site import NoTarget, Resolved, Site
from signpost.core.text.errors import InputError
from signpost.hosting.addresses import HostAddress, is_same_host, led_on, read_address

_PATIENCE = 20  # seconds that an answer is waited for
_LONGEST = 120.0  # seconds that one answer may take as a whole
_MOST_BYTES = 64 * 1024 * 1024  # of one answer
_MOST_REDIRECTS = 5
_REDIRECTS = frozenset([301, 302, 303, 307, 308])
_CHARSET = re.compile(r"charset\s*=\s*[\"']?([\w-]+)", re.IGNORECASE)
_TYPES = {"html": "text/html", "htm": "text/html", "css": "text/css", "png": "image/png", "svg": "image/svg+xml"}


@dataclass(frozen=True, slots=True)
class Answer:
    """What a host answers."""

    status: int
    kind: str  # its media type
    charset: str  # that its header tells; "" for none
    data: bytes
    chain: tuple[HostAddress, ...] = ()  # the addresses that it was redirected to


@dataclass(frozen=True, slots=True)
class LiveFinding:
    """Something that readers do not get as its author meant."""

    path: str  # of the site
    line: int  # of its source; 0 for the file as a whole
    message: str


@dataclass(frozen=True, slots=True)
class LiveJump:
    """The first link of the published pages that leads to a place."""

    path: str  # of its page
    line: int
    words: str


@dataclass(frozen=True, slots=True)
class Heard:
    """What is kept of a host's answer for a file."""

    status: int
    kind: str  # its media type
    charset: str  # that its header tells; "" for none
    hops: int  # redirects that led there
    sha256: str

    @property
    def is_there(self) -> bool:
        """Whether the file came (RFC 9110, 15.3.1)."""
        return self.status == HTTPStatus.OK


class Fetcher:
    """Asks hosts for files, several at once, over connections that stay. It sends no name and no password."""

    def __init__(self, width: int = 1) -> None:
        timeout = urllib3.Timeout(connect=_PATIENCE, read=_PATIENCE)
        self._pool = urllib3.PoolManager(maxsize=width, block=True, timeout=timeout, retries=False)

    def __enter__(self) -> Fetcher:
        return self

    def __exit__(self, *_: object) -> None:
        self._pool.clear()

    def fetch(self, base: str, path: str = "") -> Answer:
        """Return what a host answers at an address. Raises InputError where it does not.

        Redirects are followed within its origin, and from `http` to `https` of the same host: an address that leads
        elsewhere could lead to what only this computer reaches.
        """
        address = read_address(f"{base.rstrip('/')}/{quote(path)}" if path else base)
        chain: list[HostAddress] = []
        while True:
            answer = self._ask(address)
            goal = answer.headers.get("location")
            if answer.status in _REDIRECTS and goal and len(chain) < _MOST_REDIRECTS:
                chain.append(led_on(address, goal))
                answer.close()
                if not is_same_host(address, chain[-1]):
                    return Answer(answer.status, "", "", b"", tuple(chain))
                address = chain[-1]
                continue
            data = self._body(answer, address)
            said = answer.headers.get("content-type", "")
            charset = _CHARSET.search(said)
            kind = said.partition(";")[0].strip().lower()
            return Answer(answer.status, kind, charset[1].lower() if charset else "", data, tuple(chain))

    def _ask(self, address: HostAddress) -> urllib3.BaseHTTPResponse:
        # names below localhost are this computer, though not every resolver knows that (RFC 6761, 6.3)
        reached = replace(address, host="127.0.0.1") if address.host.endswith(".localhost") else address
        query = f"?{address.query}" if address.query else ""
        headers = {"accept-encoding": "identity", "host": address.netloc}
        try:
            return self._pool.request(
                "GET",
                f"{address.scheme}://{reached.netloc}{address.path}{query}",
                headers=headers,
                redirect=False,
                preload_content=False,
                decode_content=False,
            )
        except (urllib3.exceptions.HTTPError, OSError, ValueError) as error:
            raise InputError(f"{address.netloc} does not answer: {error}.") from error

    def _body(self, answer: urllib3.BaseHTTPResponse, address: HostAddress) -> bytes:
        """Return the body of an answer. Raises InputError where it breaks off, is too long, or takes too long."""
        where = f"{address.netloc}{address.path}"
        pieces, size, until = [], 0, time.monotonic() + _LONGEST
        try:
            for piece in answer.stream(256 * 1024, decode_content=False):
                pieces.append(piece)
                size += len(piece)
                if size > _MOST_BYTES or time.monotonic() > until:
                    answer.close()
                    what = f"more than {_MOST_BYTES // 2**20} MB" if size > _MOST_BYTES else "too slowly"
                    raise InputError(f"{where} answers {what}; it was not waited for any longer.")
        except (urllib3.exceptions.HTTPError, OSError) as error:
            raise InputError(f"{where} breaks off: {error}.") from error
        answer.release_conn()
        return b"".join(pieces)


def fetch(address: str) -> Answer:
    """Return what a host answers at an address, as a `Fetcher` does."""
    with Fetcher() as fetcher:
        return fetcher.fetch(address)


def find_unlike(page: Page | None, path: str, heard: Heard) -> Iterator[LiveFinding]:
    """Yield how a file does not come as its author meant; `page` is the site's own, None for what is no page."""
    if heard.status in _REDIRECTS:
        where = "The host sends readers on to another host instead of giving the file"
        yield LiveFinding(
            path, 0, f"{where} ({heard.status}). If that is yours, make it the address that readers use."
        )
        return
    if not heard.is_there:
        yield LiveFinding(path, 0, f"The host answers {heard.status} instead of the file.")
        return
    if heard.hops > 1:
        yield LiveFinding(path, 0, f"It is reached by {heard.hops} redirects, one after another.")
    wanted = _TYPES.get(path.rpartition(".")[2].lower())
    if wanted and heard.kind != wanted:
        yield LiveFinding(path, 0, f"The host sends it as {heard.kind or 'nothing in particular'}, not as {wanted}.")
    if page is not None and heard.charset and heard.charset != page.source.encoding.lower():
        yield LiveFinding(
            path,
            0,
            f"The host says that the page is in {heard.charset}; it is in {page.source.encoding}. Letters beyond "
            "the plain ones come out wrong.",
        )


def find_on_pages(there: Site, page: Page, hashes: Collection[str]) -> Iterator[LiveFinding]:
    """Yield the jump links of a page as it came that lead nowhere on the pages that came."""
    lines = page.source.lines
    for link in page.links:
        if link.kind not in (LinkKind.FRAGMENT, LinkKind.PAGE) or link.href is None:
            continue
        goal = there.resolve(page.path, link.href)
        if goal is not None and goal[0] in hashes and goal[0] not in there.pages:
            continue  # not asked for yet, or it did not come
        if isinstance(there.follow(page.path, link.href), NoTarget):
            message = f"“{link.text or link.href}” leads to {link.href}, which is not on the page that readers get."
            yield LiveFinding(page.path, lines.line(link.start), message)


def jumps_of(there: Site, page: Page) -> Iterator[tuple[tuple[str, str], LiveJump]]:
    """Yield the links of a page that lead to a place on a page as it came."""
    lines = page.source.lines
    for link in page.links:
        found = None if link.href is None else there.resolve(page.path, link.href)
        if found is None or not found[1]:
            continue
        fragment = found[1].partition(DIRECTIVE)[0]
        led = there.follow(page.path, link.href)
        if isinstance(led, Resolved) and isinstance(led.target, Target):
            yield (led.path, fragment), LiveJump(page.path, lines.line(link.start), link.text or link.href or "")


def find_beside(
    site: Site, pages: Iterable[str], hashes: Collection[str], asked: Mapping[str, int]
) -> Iterator[LiveFinding]:
    """Yield links within the site to what it does not have, where the host has nothing either; `asked` is by path."""
    for path in sorted(pages):
        page = site.pages[path]
        for link in page.links:
            found = None if link.href is None else site.resolve(path, link.href)
            if found is None or site.file_at(found[0]) in hashes:
                continue
            status = asked.get(found[0], 200)
            if status != HTTPStatus.OK:
                message = f"“{link.text or link.href}” leads to {link.href}; the host answers {status}."
                yield LiveFinding(path, page.source.lines.line(link.start), message)


def redirect_rules(pairs: Iterable[tuple[str, str]], form: str) -> str:
    """Return redirects of old paths to new ones: as a table, as plain pairs, or as rules for Apache or nginx."""
    rows = sorted(pairs)
    if form == "csv":
        return "".join(f"/{quote(old)},/{quote(new)}\n" for old, new in rows)
    if form == "apache":
        return "".join(f'Redirect permanent "/{old}" "/{quote(new)}"\n' for old, new in rows)
    if form == "nginx":
        return "".join(f'location = "/{old}" {{ return 301 "/{quote(new)}"; }}\n' for old, new in rows)
    return "".join(f"/{quote(old)} /{quote(new)}\n" for old, new in rows)
