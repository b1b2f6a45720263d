"""Pages read from their bytes or from facts that were kept, and kept at hand for a while."""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Iterator, Mapping
from dataclasses import replace
from threading import Lock
from uuid import UUID

from pydantic import TypeAdapter, ValidationError
from sqlalchemy.exc import OperationalError
from sqlalchemy.orm import Session

from signpost.core import CORE_VERSION
from signpost.core.page import Page, read_page
from signpost.core.page.kept import forget_kept
from signpost.core.text.errors import SignpostError
from signpost.core.text.source import Source, read_source
from signpost.desk.bounds import find_excess, find_page_excess
from signpost.desk.settings import ReadOptions
from signpost.store import analyses
from signpost.store import repositories as store
from signpost.store.database import DISK_FULL, SERIALIZATION_FAILURE

#: How many bytes of pages a process keeps at hand, beyond which the least used ones are forgotten.
KEPT_BYTES = 96 * 1024 * 1024
#: How many pages, of those used last, keep what was read of them beside their facts.
_FRESH = 8
#: What they keep is up to so many times their own bytes (tests/desk/test_memory.py); all together at most so many.
_FRESH_TIMES, _FRESH_BYTES = 24, 64 * 1024 * 1024
#: What a page takes in memory, as was measured (tests/desk/test_memory.py): each by itself in bytes, for each byte of
#: its own so many, and bytes for each fact: a heading, a target, a link, a file that it loads.
_PAGE_BYTES, _TIMES_BYTES, _FACT_BYTES = 8_000, 3.2, 430
#: How many pages are fetched at a time.
BATCH = 50

_FACTS = TypeAdapter(Page)
_NO_SOURCE = Source(b"", "", "utf-8", "\n", None)


class _Kept:
    """Pages read lately. What a page is depends on its bytes and path alone, so nothing here can be out of date."""

    def __init__(self) -> None:
        self._pages: OrderedDict[tuple[str, str, str], Page] = OrderedDict()
        self._fresh: OrderedDict[tuple[str, str, str], None] = (
            OrderedDict()
        )  # those used last keep what was read of them
        self._bytes = 0
        self._lock = Lock()

    def get(self, sha256: str, path: str, marks: str) -> Page | None:
        with self._lock:
            page = self._pages.get((sha256, path, marks))
            if page is not None:
                self._pages.move_to_end((sha256, path, marks))
                self._use((sha256, path, marks))
            return page

    def _use(self, key: tuple[str, str, str]) -> None:
        """Note that a page is used; those used before the last few keep their facts alone."""
        self._fresh[key] = None
        self._fresh.move_to_end(key)
        while len(self._fresh) > 1 and (len(self._fresh) > _FRESH or self._fresh_bytes() > _FRESH_BYTES):
            old, _ = self._fresh.popitem(last=False)
            if old in self._pages:
                forget_kept(self._pages[old])

    def _fresh_bytes(self) -> int:
        """Return about how many bytes the pages used last keep beside their facts, at most."""
        pages = (self._pages[key] for key in self._fresh if key in self._pages)
        return sum(_FRESH_TIMES * len(page.source.data) for page in pages)

    def put(self, page: Page, marks: str) -> None:
        key = (page.source.sha256, page.path, marks)
        with self._lock:
            if key in self._pages:
                return
            self._pages[key] = page
            self._use(key)
            self._bytes += _size(page)
            while self._bytes > KEPT_BYTES and len(self._pages) > 1:
                _, forgotten = self._pages.popitem(last=False)
                self._bytes -= _size(forgotten)


def _size(page: Page) -> int:
    """Return about how many bytes a page takes in memory."""
    facts = len(page.headings) + len(page.targets) + len(page.links) + len(page.resources)
    return _PAGE_BYTES + int(_TIMES_BYTES * len(page.source.data)) + _FACT_BYTES * facts


_kept = _Kept()


def read_all(
    session: Session,
    site_id: UUID,
    hashes: Mapping[str, str],
    readings: Mapping[str, ReadOptions],
    *,
    for_others: bool = False,
    at_hand: Mapping[str, bytes] | None = None,
) -> Iterator[tuple[str, Page | SignpostError]]:
    """Yield pages by the hashes of their bytes and how each is read, or why one cannot be; facts found are kept.

    What is read `for_others` has its facts kept though this process has the page at hand, from another site maybe.
    Bytes that are `at_hand`, by their hashes, are new ones, and are not fetched. They are given, if only as none, by
    whoever changes the site: there, facts that cannot be kept are an error.
    """
    digests = {path: reading.digest for path, reading in readings.items()}
    wanted: dict[str, str] = {}
    known_facts: dict[tuple[str, str], bytes] = {}
    for path, sha256 in hashes.items():
        page = _kept.get(sha256, path, digests[path])
        if page is None:
            wanted[path] = sha256
            continue
        if for_others:
            known_facts[sha256, digests[path]] = _dumped(page)
        yield path, page
    _keep_facts(session, site_id, known_facts, must=True)
    paths = list(wanted)
    for start in range(0, len(paths), BATCH):
        batch = {path: wanted[path] for path in paths[start : start + BATCH]}
        blobs = at_hand or {}
        asked = set(batch.values()) - blobs.keys()
        blobs = {**blobs, **store.load_blobs(session, site_id, asked)}
        kept = analyses.load_analyses(session, site_id, asked, CORE_VERSION)
        found = {}
        facts: dict[tuple[str, str], bytes] = {}
        for path, sha256 in batch.items():
            known = kept.get((sha256, digests[path]))
            outcome = found[path] = _read(path, blobs[sha256], known, readings[path])
            if isinstance(outcome, Page):
                _kept.put(outcome, digests[path])
                if known is None:
                    facts[sha256, digests[path]] = _dumped(outcome)
        _keep_facts(session, site_id, facts, must=for_others or at_hand is not None)
        yield from found.items()


def _dumped(page: Page) -> bytes:
    return _FACTS.dump_json(replace(page, source=_NO_SOURCE))


def read_revision(session: Session, site_id: UUID, path: str, revision: str, reading: ReadOptions) -> Page | None:
    """Return a page as it was when its bytes had the hash `revision`; None for bytes that are not there."""
    known = _kept.get(revision, path, reading.digest)
    if known is not None:
        return known
    data = store.load_blobs(session, site_id, {revision}).get(revision)
    outcome = None if data is None else _read(path, data, None, reading)
    return outcome if isinstance(outcome, Page) else None


def _keep_facts(
    session: Session, site_id: UUID, facts: Mapping[tuple[str, str], bytes], *, must: bool = False
) -> None:
    """Keep the facts of pages, by the hash of their bytes and how they were read, for the next time.

    Unless they `must` be kept, they are found out again then where another process kept the same meanwhile, or the
    disk is full. Raises OperationalError.
    """
    if not facts:
        return
    if must:
        analyses.save_analyses(session, site_id, CORE_VERSION, facts)
        return
    try:
        with session.begin_nested():
            analyses.save_analyses(session, site_id, CORE_VERSION, facts)
    except OperationalError as error:
        if getattr(error.orig, "sqlstate", None) not in (SERIALIZATION_FAILURE, DISK_FULL):
            raise


def _read(path: str, data: bytes, facts: str | None, reading: ReadOptions) -> Page | SignpostError:
    """Return a page, from facts where they were kept; or why it cannot be read."""
    try:
        source = read_source(data, reading.encoding)
    except SignpostError as error:
        return error
    recalled = None if facts is None else _recall(facts, source, path)
    if recalled is not None:
        return recalled
    excess = find_excess(source)
    if excess is not None:
        return excess
    page = read_page(path, source, reading.marks)
    return find_page_excess(page) or page


def _recall(facts: str, source: Source, path: str) -> Page | None:
    """Return a page from facts that were kept; None where they are of another shape, and so of another version."""
    try:
        return replace(_FACTS.validate_json(facts), source=source, path=path)
    except ValidationError:
        return None
