"""A published site walked as readers get it, over HTTP: every file, every address within it, every fragment."""

from __future__ import annotations

import hashlib
import http.client
import re
from collections.abc import Callable, Iterable, Iterator, Mapping
from dataclasses import dataclass, field
from urllib.parse import quote, unquote, urljoin, urlsplit

from signpost.core.addresses.fragments import DIRECTIVE
from signpost.core.addresses.links import LinkKind, is_page_path
from signpost.core.page import Page, Target, read_page
from signpost.core.site.site import NoTarget, Resolved, Site
from signpost.core.text.errors import InputError, SignpostError
from signpost.core.text.source import read_source

_PATIENCE = 20  # seconds that an answer is waited for
_MOST_REDIRECTS = 5
_CHARSET = re.compile(r"charset\s*=\s*[\"']?([\w-]+)", re.IGNORECASE)
_TYPES = {"html": "text/html", "htm": "text/html", "css": "text/css", "png": "image/png", "svg": "image/svg+xml"}


@dataclass(frozen=True, slots=True)
class Answer:
    """What a host answers."""

    status: int
    kind: str  # its media type
    charset: str  # that its header tells; "" for none
    data: bytes
    chain: tuple[str, ...] = ()  # the addresses that it was redirected to


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


@dataclass(slots=True)
class LiveWalk:
    """What came of a walk."""

    pages: int = 0
    files: int = 0
    newer_here: list[str] = field(default_factory=list)  # files that are others here than there
    findings: list[LiveFinding] = field(default_factory=list)
    jumps: dict[tuple[str, str], LiveJump] = field(default_factory=dict)  # by page and fragment that they lead to


def fetch(address: str) -> Answer:
    """Return what a host answers at an address, redirects followed. Raises InputError where it does not answer."""
    chain: list[str] = []
    while True:
        parts = urlsplit(address)
        secure = parts.scheme == "https"
        if parts.scheme not in ("http", "https") or not parts.hostname:
            raise InputError(f"{address} is no address of a web page. It begins with https:// or http://.")
        connect = http.client.HTTPSConnection if secure else http.client.HTTPConnection
        connection = connect(parts.hostname, parts.port, timeout=_PATIENCE)
        try:
            path = quote(unquote(parts.path or "/"), safe="/:@!$&'()*+,;=~-._")
            connection.request("GET", path + (f"?{parts.query}" if parts.query else ""))
            answer = connection.getresponse()
            data = answer.read()
        except (OSError, http.client.HTTPException) as error:
            raise InputError(f"{parts.netloc} does not answer: {error}.") from error
        finally:
            connection.close()
        goal = answer.headers.get("location")
        if answer.status in (301, 302, 303, 307, 308) and goal and len(chain) < _MOST_REDIRECTS:
            address = urljoin(address, goal)
            chain.append(address)
            continue
        said = answer.headers.get("content-type", "")
        charset = _CHARSET.search(said)
        kind = said.partition(";")[0].strip().lower()
        return Answer(answer.status, kind, charset[1].lower() if charset else "", data, tuple(chain))


def walk_live(
    site: Site,
    hashes: Mapping[str, str],
    base: str,
    ask: Callable[[str], Answer] = fetch,
    tell: Callable[[int, int], None] | None = None,
) -> LiveWalk:
    """Return what readers get at an address, compared with a site's files, whose SHA-256 are given by path.

    `tell` is called with how many files were asked for, and of how many.
    """
    walk = LiveWalk()
    base = base.rstrip("/") + "/"
    live: dict[str, Page] = {}
    for path in sorted(hashes):
        if tell is not None:
            tell(walk.files, len(hashes))
        answer = ask(base + quote(path))
        walk.files += 1
        if answer.status != 200:  # noqa: PLR2004 - RFC 9110, 15.3.1
            walk.findings.append(LiveFinding(path, 0, f"The host answers {answer.status} instead of the file."))
            continue
        if len(answer.chain) > 1:
            walk.findings.append(
                LiveFinding(path, 0, f"It is reached by {len(answer.chain)} redirects, one after another.")
            )
        if hashlib.sha256(answer.data).hexdigest() != hashes[path]:
            walk.newer_here.append(path)
        walk.findings += _typed(site, path, answer)
        if is_page_path(path):
            walk.pages += 1
            try:
                live[path] = read_page(path, read_source(answer.data))
            except SignpostError as error:
                walk.findings.append(LiveFinding(path, 0, f"The page cannot be read as it comes: {error}"))
    there = Site(live, frozenset(hashes), site.base)
    for page in live.values():
        walk.findings += _fragments(there, page)
        for goal, jump in _jumps(there, page):
            walk.jumps.setdefault(goal, jump)
    walk.findings += _outside_files(site, hashes, base, ask)
    return walk


def _typed(site: Site, path: str, answer: Answer) -> Iterator[LiveFinding]:
    wanted = _TYPES.get(path.rpartition(".")[2].lower())
    if wanted and answer.kind != wanted:
        yield LiveFinding(path, 0, f"The host sends it as {answer.kind or 'nothing in particular'}, not as {wanted}.")
    page = site.pages.get(path)
    if page is not None and answer.charset and answer.charset != page.source.encoding.lower():
        yield LiveFinding(
            path,
            0,
            f"The host says that the page is in {answer.charset}; it is in {page.source.encoding}. Letters beyond "
            "the plain ones come out wrong.",
        )


def _fragments(there: Site, page: Page) -> Iterator[LiveFinding]:
    """Yield the jump links that lead nowhere on the pages as they come."""
    lines = page.source.lines
    for link in page.links:
        if link.kind in (LinkKind.FRAGMENT, LinkKind.PAGE) and isinstance(
            there.follow(page.path, link.href), NoTarget
        ):
            message = f"“{link.text or link.href}” leads to {link.href}, which is not on the page that readers get."
            yield LiveFinding(page.path, lines.line(link.start), message)


def _jumps(there: Site, page: Page) -> Iterator[tuple[tuple[str, str], LiveJump]]:
    """Yield the links of a page that lead to a place on a page as it comes."""
    lines = page.source.lines
    for link in page.links:
        found = None if link.href is None else there.resolve(page.path, link.href)
        if found is None or not found[1]:
            continue
        fragment = found[1].partition(DIRECTIVE)[0]
        led = there.follow(page.path, link.href)
        if isinstance(led, Resolved) and isinstance(led.target, Target):
            yield (led.path, fragment), LiveJump(page.path, lines.line(link.start), link.text or link.href or "")


def _outside_files(
    site: Site, hashes: Mapping[str, str], base: str, ask: Callable[[str], Answer]
) -> Iterator[LiveFinding]:
    """Yield links within the site to what it does not have, where the host has nothing either."""
    asked: dict[str, int] = {}
    for page in site.pages.values():
        for link in page.links:
            found = None if link.href is None else site.resolve(page.path, link.href)
            if found is None or site.file_at(found[0]) in hashes:
                continue
            if found[0] not in asked:
                asked[found[0]] = ask(base + quote(found[0])).status
            if asked[found[0]] != 200:  # noqa: PLR2004
                message = f"“{link.text or link.href}” leads to {link.href}; the host answers {asked[found[0]]}."
                yield LiveFinding(page.path, page.source.lines.line(link.start), message)


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
