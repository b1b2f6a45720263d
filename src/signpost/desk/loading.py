"""Pages as the core understands them, read once for the same bytes."""

from __future__ import annotations

import contextlib
import sys
from collections import OrderedDict
from collections.abc import Iterator, Mapping
from dataclasses import dataclass, replace
from threading import Lock
from uuid import UUID

from pydantic import TypeAdapter, ValidationError
from sqlalchemy.exc import OperationalError
from sqlalchemy.orm import Session

from signpost.core import CORE_VERSION
from signpost.core.addresses.links import is_page_path, is_text_path
from signpost.core.findings.site_file import SITE_FILE, SiteFile, read_site_file
from signpost.core.page import Page, read_page
from signpost.core.site.repeats import find_repeated, repeats_on
from signpost.core.site.site import Site
from signpost.core.text.errors import InputError, SignpostError
from signpost.core.text.source import Source, read_source
from signpost.desk.bounds import find_excess, find_page_excess
from signpost.desk.errors import NotThereError
from signpost.desk.settings import ReadOptions, Settings, read_settings
from signpost.store import repositories as store
from signpost.store.database import DISK_FULL
from signpost.store.records import FileRecord, SiteRecord

#: How many bytes of pages a process keeps at hand, beyond which the least used ones are forgotten.
KEPT_BYTES = 256 * 1024 * 1024
#: How many bytes a fact of a page takes: a heading, a target, a link, a file that it loads.
_FACT_BYTES = 500

_FACTS = TypeAdapter(Page)
_NO_SOURCE = Source(b"", "", "utf-8", "\n", None)


@dataclass(frozen=True, slots=True)
class LoadedSite:
    """A site with all that is known of it."""

    record: SiteRecord
    files: Mapping[str, FileRecord]  # by path; those not there at present are left out
    site: Site
    unreadable: Mapping[str, str]  # pages that are no text, by path, with the reason
    settings: Settings  # those of the desk, beside what the site's own file says
    site_file: SiteFile
    has_site_file: bool
    site_file_problem: str  # why the site's own file is passed over; "" where it is read, or not there

    def page(self, path: str) -> Page:
        """Return a page. Raises NotThereError where the site has none of that path, or none that can be read."""
        if path in self.unreadable:
            raise NotThereError(f"{path} cannot be opened. {self.unreadable[path]}")
        if path not in self.site.pages:
            raise NotThereError(f"The site has no page “{path}”. It may have been undone or renamed.")
        return self.site.pages[path]


class _Kept:
    """Pages read lately. What a page is depends on its bytes and path alone, so nothing here can be out of date."""

    def __init__(self) -> None:
        self._pages: OrderedDict[tuple[str, str, str], Page] = OrderedDict()
        self._bytes = 0
        self._lock = Lock()

    def get(self, sha256: str, path: str, marks: str) -> Page | None:
        with self._lock:
            page = self._pages.get((sha256, path, marks))
            if page is not None:
                self._pages.move_to_end((sha256, path, marks))
            return page

    def put(self, page: Page, marks: str) -> None:
        key = (page.source.sha256, page.path, marks)
        with self._lock:
            if key in self._pages:
                return
            self._pages[key] = page
            self._bytes += _size(page)
            while self._bytes > KEPT_BYTES and len(self._pages) > 1:
                _, forgotten = self._pages.popitem(last=False)
                self._bytes -= _size(forgotten)


def _size(page: Page) -> int:
    """Return about how many bytes a page takes in memory."""
    facts = len(page.headings) + len(page.targets) + len(page.links) + len(page.resources)
    return len(page.source.data) + sys.getsizeof(page.text) + _FACT_BYTES * facts


_kept = _Kept()


def load_record(session: Session, site_id: UUID, *, lock: bool = False) -> SiteRecord:
    """Return a site's record. Raises NotThereError."""
    record = store.load_site(session, site_id, lock=lock)
    if record is None:
        raise NotThereError("This site is not there any more. Go back to the list of sites.")
    return record


def load_site(session: Session, site_id: UUID, *, texts: bool = False) -> LoadedSite:
    """Return a site with all its pages read, and with `texts` its style sheets and scripts. Raises NotThereError."""
    record = load_record(session, site_id)
    site_file, problem = _load_site_file(session, site_id)
    settings = read_settings(record.settings).beside(site_file)
    files = {file.path: file for file in store.load_files(session, site_id) if file.sha256 is not None}
    pages: dict[str, Page] = {}
    unreadable: dict[str, str] = {}
    for path, outcome in read_pages(session, site_id, files, settings):
        if isinstance(outcome, Page):
            pages[path] = outcome
        else:
            unreadable[path] = str(outcome)
    loaded = _load_texts(session, site_id, files) if texts else {}
    site = Site(pages, frozenset(files), record.base, loaded)
    return LoadedSite(record, files, site, unreadable, settings, site_file, SITE_FILE in files, problem)


def load_settings(session: Session, record: SiteRecord) -> Settings:
    """Return a site's settings beside what its own file says."""
    return read_settings(record.settings).beside(_load_site_file(session, record.site_id)[0])


def _load_site_file(session: Session, site_id: UUID) -> tuple[SiteFile, str]:
    """Return what a site's own file says, and why it says nothing where it cannot be read."""
    file = store.load_file(session, site_id, SITE_FILE)
    if file is None or file.sha256 is None:
        return SiteFile(), ""
    data = store.load_blobs(session, site_id, {file.sha256})[file.sha256]
    try:
        return read_site_file(data.decode("utf-8-sig")), ""
    except UnicodeDecodeError:
        return SiteFile(), f"{SITE_FILE} is not UTF-8. Save it as UTF-8."
    except InputError as error:
        return SiteFile(), str(error)


def load_revision(session: Session, site_id: UUID, path: str, revision: str | None) -> Page | None:
    """Return a page as it is, or as it was in `revision`, the SHA-256 of its bytes; None for one that is not there.

    A revision is read with what is known about the site today. Raises NotThereError where the site is not there.
    """
    if revision is None:
        return load_site(session, site_id).site.pages.get(path)
    settings = load_settings(session, load_record(session, site_id))
    reading = settings.read_options(path)
    known = _kept.get(revision, path, reading.digest)
    if known is not None:
        return known
    data = store.load_blobs(session, site_id, {revision}).get(revision)
    outcome = None if data is None else _read(path, data, None, reading)
    return outcome if isinstance(outcome, Page) else None


def _load_texts(session: Session, site_id: UUID, files: Mapping[str, FileRecord]) -> dict[str, Source]:
    """Return the style sheets and scripts of a site, and its own file; those that are no text are left out."""
    hashes = {
        path: file.sha256 for path, file in files.items() if (is_text_path(path) or path == SITE_FILE) and file.sha256
    }
    blobs = store.load_blobs(session, site_id, set(hashes.values()))
    texts = {}
    for path, sha256 in hashes.items():
        with contextlib.suppress(SignpostError):
            texts[path] = read_source(blobs[sha256])
    return texts


def read_pages(
    session: Session, site_id: UUID, files: Mapping[str, FileRecord], settings: Settings
) -> Iterator[tuple[str, Page | SignpostError]]:
    """Yield each page of a site as it is read, or why it cannot be.

    Pages that begin or end as others do come once more at the end, read with what repeats known as furniture.
    """
    hashes = {path: file.sha256 for path, file in files.items() if is_page_path(path) and file.sha256}
    pages = {}
    for path, outcome in _read_all(session, site_id, hashes, {path: settings.read_options(path) for path in hashes}):
        if isinstance(outcome, Page):
            pages[path] = outcome
        yield path, outcome
    repeated = find_repeated(pages.values())
    repeats = {path: found for path, page in pages.items() if (found := repeats_on(page, repeated))}
    readings = {path: settings.read_options(path, found) for path, found in repeats.items()}
    yield from _read_all(session, site_id, {path: hashes[path] for path in repeats}, readings)


def _read_all(
    session: Session, site_id: UUID, hashes: Mapping[str, str], readings: Mapping[str, ReadOptions]
) -> Iterator[tuple[str, Page | SignpostError]]:
    digests = {path: reading.digest for path, reading in readings.items()}
    wanted: dict[str, str] = {}
    for path, sha256 in hashes.items():
        page = _kept.get(sha256, path, digests[path])
        if page is None:
            wanted[path] = sha256
        else:
            yield path, page
    paths = list(wanted)
    for start in range(0, len(paths), _BATCH):
        batch = {path: wanted[path] for path in paths[start : start + _BATCH]}
        blobs = store.load_blobs(session, site_id, set(batch.values()))
        kept = store.load_analyses(session, site_id, set(batch.values()), CORE_VERSION)
        for path, sha256 in batch.items():
            known = kept.get((sha256, digests[path]))
            outcome = _read(path, blobs[sha256], known, readings[path])
            if isinstance(outcome, Page):
                _kept.put(outcome, digests[path])
                if known is None:
                    facts = _FACTS.dump_json(replace(outcome, source=_NO_SOURCE))
                    _keep_facts(session, site_id, sha256, digests[path], facts)
            yield path, outcome


def _keep_facts(session: Session, site_id: UUID, sha256: str, digest: str, facts: bytes) -> None:
    """Keep the facts of a page for the next time; where the disk is full, they are found out again then."""
    try:
        with session.begin_nested():
            store.save_analysis(session, site_id, sha256, CORE_VERSION, digest, facts)
    except OperationalError as error:
        if getattr(error.orig, "sqlstate", None) != DISK_FULL:
            raise


#: How many pages are fetched at a time.
_BATCH = 50


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
