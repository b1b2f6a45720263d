"""Pages as the core understands them, read once for the same bytes."""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Iterator, Mapping
from dataclasses import dataclass, replace
from threading import Lock
from uuid import UUID

from pydantic import TypeAdapter, ValidationError
from sqlalchemy.orm import Session

from signpost.core import CORE_VERSION
from signpost.core.errors import SignpostError
from signpost.core.links import is_page_path
from signpost.core.page import Page, read_page
from signpost.core.site import Site
from signpost.core.source import Source, read_source
from signpost.desk.errors import NotThereError
from signpost.store import repositories as store
from signpost.store.records import FileRecord, SiteRecord

#: How many characters of page text are kept at hand, beyond which the least used pages are forgotten.
KEPT_CHARACTERS = 64_000_000

_FACTS = TypeAdapter(Page)
_NO_SOURCE = Source(b"", "", "utf-8", "\n", None)


@dataclass(frozen=True, slots=True)
class LoadedSite:
    """A site with all that is known of it."""

    record: SiteRecord
    files: Mapping[str, FileRecord]  # by path; those not there at present are left out
    site: Site
    unreadable: Mapping[str, str]  # pages that are no text, by path, with the reason

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
        self._pages: OrderedDict[tuple[str, str], Page] = OrderedDict()
        self._characters = 0
        self._lock = Lock()

    def get(self, sha256: str, path: str) -> Page | None:
        with self._lock:
            page = self._pages.get((sha256, path))
            if page is not None:
                self._pages.move_to_end((sha256, path))
            return page

    def put(self, page: Page) -> None:
        with self._lock:
            if (page.source.sha256, page.path) in self._pages:
                return
            self._pages[page.source.sha256, page.path] = page
            self._characters += len(page.text)
            while self._characters > KEPT_CHARACTERS and len(self._pages) > 1:
                _, forgotten = self._pages.popitem(last=False)
                self._characters -= len(forgotten.text)


_kept = _Kept()


def load_record(session: Session, site_id: UUID, *, lock: bool = False) -> SiteRecord:
    """Return a site's record. Raises NotThereError."""
    record = store.load_site(session, site_id, lock=lock)
    if record is None:
        raise NotThereError("This site is not there any more. Go back to the list of sites.")
    return record


def load_site(session: Session, site_id: UUID, *, lock: bool = False) -> LoadedSite:
    """Return a site with all its pages read. Raises NotThereError."""
    record = load_record(session, site_id, lock=lock)
    files = {file.path: file for file in store.load_files(session, site_id) if file.sha256 is not None}
    pages: dict[str, Page] = {}
    unreadable: dict[str, str] = {}
    for path, outcome in read_pages(session, site_id, files):
        if isinstance(outcome, Page):
            pages[path] = outcome
        else:
            unreadable[path] = str(outcome)
    return LoadedSite(record, files, Site(pages, frozenset(files), record.base), unreadable)


def read_pages(
    session: Session, site_id: UUID, files: Mapping[str, FileRecord]
) -> Iterator[tuple[str, Page | SignpostError]]:
    """Yield each page of a site as it is read, or why it cannot be."""
    wanted: dict[str, str] = {}
    for path, file in files.items():
        if is_page_path(path) and file.sha256 is not None:
            page = _kept.get(file.sha256, path)
            if page is None:
                wanted[path] = file.sha256
            else:
                yield path, page
    paths = list(wanted)
    for start in range(0, len(paths), _BATCH):
        batch = {path: wanted[path] for path in paths[start : start + _BATCH]}
        blobs = store.load_blobs(session, site_id, set(batch.values()))
        facts = store.load_analyses(session, site_id, set(batch.values()), CORE_VERSION)
        for path, sha256 in batch.items():
            yield path, _read(session, site_id, path, blobs[sha256], facts.get(sha256))


#: How many pages are fetched at a time.
_BATCH = 50


def _read(session: Session, site_id: UUID, path: str, data: bytes, facts: str | None) -> Page | SignpostError:
    try:
        source = read_source(data)
    except SignpostError as error:
        return error
    page = None if facts is None else _recall(facts, source, path)
    if page is None:
        page = read_page(path, source)
        kept = _FACTS.dump_json(replace(page, source=_NO_SOURCE))
        store.save_analysis(session, site_id, source.sha256, CORE_VERSION, kept)
    _kept.put(page)
    return page


def _recall(facts: str, source: Source, path: str) -> Page | None:
    """Return a page from facts that were kept; None where they are of another shape, and so of another version."""
    try:
        return replace(_FACTS.validate_json(facts), source=source, path=path)
    except ValidationError:
        return None
