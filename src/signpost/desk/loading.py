"""A site opened: what is known of it, as it was at one moment, whoever changes it meanwhile."""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Mapping
from dataclasses import dataclass, replace
from datetime import datetime
from threading import Lock
from uuid import UUID

from sqlalchemy.orm import Session

from signpost.core.addresses.links import is_page_path
from signpost.core.findings.site_file import SiteFile, read_site_file
from signpost.core.page import Page
from signpost.core.site.site import SITE_FILE, Site
from signpost.core.text.errors import InputError
from signpost.desk.errors import NotThereError
from signpost.desk.reading import read_all, read_revision
from signpost.desk.settings import Settings, read_settings
from signpost.desk.stored import StoredIndex, StoredPages, StoredTexts, may_be_text
from signpost.store import index as kept_index
from signpost.store import repositories as store
from signpost.store.records import FileRecord, SiteRecord


@dataclass(frozen=True, slots=True)
class LoadedSite:
    """A site with all that is known of it, for as long as its session lasts."""

    session: Session
    record: SiteRecord
    files: Mapping[str, FileRecord]  # by path; those not there at present are left out
    pages: StoredPages
    index: StoredIndex
    site: Site  # of these pages and this index
    unreadable: Mapping[str, str]  # pages that cannot be read, by path, with the reason
    settings: Settings  # those of the desk, beside what the site's own file says
    site_file: SiteFile
    has_site_file: bool
    site_file_problem: str  # why the site's own file is passed over; "" where it is read, or not there
    is_arriving: bool = False  # whether other pages are not read yet, so that nothing they tell is known

    def page(self, path: str) -> Page:
        """Return a page. Raises NotThereError where the site has none of that path, or none that can be read."""
        if path in self.unreadable:
            raise NotThereError(f"{path} cannot be opened. {self.unreadable[path]}")
        if path not in self.pages:
            raise NotThereError(f"The site has no page “{path}”. It may have been undone or renamed.")
        return self.pages[path]


def load_record(session: Session, site_id: UUID, *, lock: store.Lock | None = None) -> SiteRecord:
    """Return a site's record. Raises NotThereError."""
    record = store.load_site(session, site_id, lock=lock)
    if record is None:
        raise NotThereError("This site is not there any more. Go back to the list of sites.")
    return record


@dataclass(frozen=True, slots=True)
class Known:
    """What is known of a site before its files are looked at."""

    record: SiteRecord
    settings: Settings  # beside what the site's own file says
    site_file: SiteFile
    site_file_problem: str


def load_known(session: Session, site_id: UUID) -> Known:
    """Return what is known of a site. Raises NotThereError."""
    record = load_record(session, site_id)
    site_file, problem = _load_site_file(session, record)
    return Known(record, read_settings(record.settings).beside(site_file), site_file, problem)


def load_indexed(session: Session, known: Known, *, recalls: bool = True, committed: bool = False) -> LoadedSite:
    """Return a site as its index has it, which must be up to date; `recalls` is StoredIndex's.

    What is `committed`, so that others see it as well, is kept at hand.
    """
    record = known.record
    site_id = record.site_id
    known_files = _load_files(session, record, keep=committed)
    files = known_files.by_path
    unreadable = kept_index.load_unreadable(session, site_id) if record.has_unreadable else {}
    pages = StoredPages(session, site_id, files, known.settings, unreadable)
    index = StoredIndex(session, site_id, recalls=recalls)
    site = Site(pages, known_files.paths, record.base, StoredTexts(session, site_id, files, known_files.texts), index)
    return LoadedSite(
        session,
        record,
        files,
        pages,
        index,
        site,
        unreadable,
        known.settings,
        known.site_file,
        SITE_FILE in files,
        known.site_file_problem,
    )


def load_arriving(session: Session, known: Known, path: str) -> LoadedSite:
    """Return a site most of whose pages are not read yet, with the one page at `path`, which is read now."""
    record, site_id, settings = known.record, known.record.site_id, known.settings
    there = _load_files(session, record, keep=False)
    file = there.by_path.get(path)
    unreadable: dict[str, str] = {}
    if file is not None and is_page_path(path):
        reading = settings.read_options(path)
        for _, outcome in read_all(session, site_id, {path: file.sha256 or ""}, {path: reading}):
            if not isinstance(outcome, Page):
                unreadable[path] = str(outcome)
    pages = StoredPages(session, site_id, {} if file is None else {path: file}, settings, unreadable)
    texts = StoredTexts(session, site_id, there.by_path, there.texts)
    site = Site(pages, there.paths, record.base, texts)
    return LoadedSite(
        session=session,
        record=record,
        files=there.by_path,
        pages=pages,
        index=StoredIndex(session, site_id),
        site=site,
        unreadable=unreadable,
        settings=settings,
        site_file=known.site_file,
        has_site_file=SITE_FILE in there.by_path,
        site_file_problem=known.site_file_problem,
        is_arriving=True,
    )


@dataclass(frozen=True, slots=True)
class _Files:
    """The files of a site that are there, as they were at a revision of them."""

    created_at: datetime
    revision: int
    by_path: Mapping[str, FileRecord]  # in the order of their paths
    paths: frozenset[str]
    texts: tuple[str, ...]  # the paths of those that may be texts which pages load


#: Those of the sites that were opened last.
_opened: OrderedDict[UUID, _Files] = OrderedDict()
_MOST_OPENED = 8
_opening = Lock()


def _load_files(session: Session, record: SiteRecord, *, keep: bool) -> _Files:
    """Return the files of a site that are there; with `keep`, they are kept at hand, and others must see them too."""
    with _opening:
        known = _opened.get(record.site_id)
    if known is None or known.created_at != record.created_at or known.revision > record.files_revision:
        known = _Files(record.created_at, -1, {}, frozenset(), ())
    if known.revision == record.files_revision:
        return known
    by_path = dict(known.by_path)
    for file in store.load_files(session, record.site_id, since=known.revision):
        if file.sha256 is None:
            by_path.pop(file.path, None)
        else:
            by_path[file.path] = file
    if by_path.keys() == known.by_path.keys():
        files = replace(known, revision=record.files_revision, by_path=by_path)
    else:
        by_path = dict(sorted(by_path.items()))
        texts = tuple(filter(may_be_text, by_path))
        files = _Files(record.created_at, record.files_revision, by_path, frozenset(by_path), texts)
    if keep:
        with _opening:
            _opened[record.site_id] = files
            _opened.move_to_end(record.site_id)
            while len(_opened) > _MOST_OPENED:
                _opened.popitem(last=False)
    return files


def load_files_there(session: Session, record: SiteRecord) -> Mapping[str, FileRecord]:
    """Return the files of a site that are there, in the order of their paths."""
    return _load_files(session, record, keep=False).by_path


def _load_site_file(session: Session, record: SiteRecord) -> tuple[SiteFile, str]:
    """Return what a site's own file says, and why it says nothing where it cannot be read."""
    if record.site_file is None:
        return SiteFile(), ""
    data = store.load_blobs(session, record.site_id, {record.site_file})[record.site_file]
    try:
        return read_site_file(data.decode("utf-8-sig")), ""
    except UnicodeDecodeError:
        return SiteFile(), f"{SITE_FILE} is not UTF-8. Save it as UTF-8."
    except InputError as error:
        return SiteFile(), str(error)


def load_revision(loaded: LoadedSite, path: str, revision: str | None) -> Page | None:
    """Return a page as it is, or as it was in `revision`, the SHA-256 of its bytes; None for one that is not there.

    A revision is read with what is known about the site today.
    """
    if revision is None:
        return loaded.site.pages.get(path)
    reading = loaded.settings.read_options(path)
    return read_revision(loaded.session, loaded.record.site_id, path, revision, reading)
