"""A site as it is kept: its pages are read when they are asked for, and its index answers from the database."""

from __future__ import annotations

import json
from collections.abc import Collection, Iterable, Iterator, Mapping, Set
from contextlib import contextmanager
from functools import cached_property
from typing import Any
from uuid import UUID

from sqlalchemy.orm import Session

from signpost.core.addresses.links import is_page_path, is_text_path
from signpost.core.page import Page
from signpost.core.site.index import EVERY, Answers, Matter, Need
from signpost.core.site.site import SITE_FILE
from signpost.core.site.told import Kind
from signpost.core.text.errors import SignpostError
from signpost.core.text.source import Source, read_source
from signpost.desk.reading import read_all
from signpost.desk.settings import Settings
from signpost.store import checks
from signpost.store import index as store
from signpost.store import told as kept_told
from signpost.store.records import FileRecord, PageRecord
from signpost.store.repositories import load_blobs
from signpost.store.rows import digest_of, storable


class StoredPages(Mapping[str, Page]):
    """The pages of a site by path; none is read before it is asked for."""

    def __init__(
        self,
        session: Session,
        site_id: UUID,
        files: Mapping[str, FileRecord],
        settings: Settings,
        unreadable: Collection[str],
    ) -> None:
        self._session = session
        self._site_id = site_id
        self._files = files
        self._settings = settings
        self._unreadable = unreadable
        self._read: dict[str, Page] = {}
        self.records: dict[str, PageRecord] = {}  # what the index knows of pages that were read

    def __getitem__(self, path: str) -> Page:
        if path not in self._read:
            self.fetch([path])
        return self._read[path]

    def __contains__(self, path: object) -> bool:
        return isinstance(path, str) and is_page_path(path) and path in self._files and path not in self._unreadable

    @cached_property
    def _paths(self) -> list[str]:
        return [path for path in self._files if path in self]

    def __iter__(self) -> Iterator[str]:
        return iter(self._paths)

    def __len__(self) -> int:
        return len(self._paths)

    def fetch(self, paths: Iterable[str]) -> None:
        """Read several pages at once, those that are there; each would else be read for itself."""
        wanted = [path for path in dict.fromkeys(paths) if path not in self._read and path in self]
        if not wanted:
            return
        known = store.load_pages(self._session, self._site_id, wanted)
        hashes = {path: self._files[path].sha256 or "" for path in wanted}
        repeated = {path: frozenset(known[path].repeated if path in known else ()) for path in wanted}
        readings = {path: self._settings.read_options(path, repeated[path]) for path in wanted}
        for path, page in read_all(self._session, self._site_id, hashes, readings):
            if isinstance(page, Page):
                self._read[path] = page
        self.records |= known


def may_be_text(path: str) -> bool:
    """Return whether a file may be a text that pages load, or the site's own file, by its path."""
    return is_text_path(path) or path == SITE_FILE


class StoredTexts(Mapping[str, Source]):
    """The style sheets and scripts of a site by path, and its own file; what is no text is not among them."""

    def __init__(
        self, session: Session, site_id: UUID, files: Mapping[str, FileRecord], paths: Collection[str]
    ) -> None:
        """Those of some files whose `paths` say that they may be texts."""
        self._session = session
        self._site_id = site_id
        self._files = files
        self._paths = paths
        self._read: dict[str, Source | None] = {}

    def _find(self, path: object) -> Source | None:
        if not isinstance(path, str) or not may_be_text(path) or path not in self._files:
            return None
        if path not in self._read:
            sha256 = self._files[path].sha256 or ""
            try:
                self._read[path] = read_source(load_blobs(self._session, self._site_id, {sha256})[sha256])
            except SignpostError:
                self._read[path] = None
        return self._read[path]

    def __getitem__(self, path: str) -> Source:
        found = self._find(path)
        if found is None:
            raise KeyError(path)
        return found

    def __contains__(self, path: object) -> bool:
        return self._find(path) is not None

    def __iter__(self) -> Iterator[str]:
        return (path for path in self._paths if path in self)

    def __len__(self) -> int:
        return sum(1 for _ in self)


class StoredIndex:
    """The index of a site as the database has it, and what of it was asked."""

    def __init__(self, session: Session, site_id: UUID, *, recalls: bool = True) -> None:
        """With `recalls`, answers about the whole site are what was kept of them; else they are found out again."""
        self._session = session
        self._site_id = site_id
        self._recalls = recalls
        self._known: dict[tuple[Kind, str], Answers] = {}
        self._whole: dict[Kind, Mapping[str, Answers]] = {}
        self._noted: list[set[Need]] = []
        self.answers: dict[str, tuple[object, Set[Need]]] = {}  # those that were asked, with what they depend on

    def ask(self, kind: Kind, key: str) -> Answers:
        """Return the values of the rows of a kind under a key, by page, in the order of their paths."""
        key = storable(key)
        self.note([(kind, key)])
        if (kind, key) not in self._known:
            self._known[kind, key] = _gathered(kept_told.load_told(self._session, self._site_id, kind, key)).get(
                key, {}
            )
        return self._known[kind, key]

    def ask_among(self, kind: Kind, key: str, pages: Collection[str]) -> set[str]:
        """Return which of some pages have rows of a kind under a key. Nothing is noted."""
        return kept_told.load_tellers(self._session, self._site_id, kind, storable(key), pages) if pages else set()

    def fetch(self, asked: Iterable[tuple[Kind, str]]) -> None:
        """Fetch at once what will be asked; each would else be asked for itself. Nothing is noted."""
        wanted = {(kind, storable(key)) for kind, key in asked} - self._known.keys()
        found: dict[tuple[str, str], list[tuple[str, str, str]]] = {}
        for kind, *row in kept_told.load_told_of(self._session, self._site_id, wanted):
            found.setdefault((kind, row[0]), []).append((row[0], row[1], row[2]))
        for kind, key in wanted:
            self._known[kind, key] = _gathered(found.get((kind, key), [])).get(key, {})

    def ask_all(self, kind: Kind) -> Mapping[str, Answers]:
        """Return all rows of a kind, by key."""
        self.note([(kind, EVERY)])
        if kind not in self._whole:
            self._whole[kind] = _gathered(kept_told.load_told(self._session, self._site_id, kind))
        return self._whole[kind]

    def links_on(self, pages: Collection[str]) -> dict[str, list[tuple[str, int]]]:
        """Return where the links of some pages lead, with how many lead there; for a look, so nothing is noted."""
        told = kept_told.load_told_of_kind(self._session, self._site_id, Kind.LINK, pages)
        return {page: [(key, json.loads(value)[1]) for key, value in links] for page, links in told.items()}

    def note(self, needs: Iterable[Need]) -> None:
        """Note that what is being found out depends on these as well."""
        if self._noted:
            self._noted[-1].update(needs)

    @contextmanager
    def noting(self) -> Iterator[set[Need]]:
        """Give what is noted until the block is left; for what was being found out before, it is not."""
        noted: set[Need] = set()
        self._noted.append(noted)
        try:
            yield noted
        finally:
            self._noted.pop()

    def recall(self, name: str) -> tuple[Any] | None:
        """Return what was found out about the whole site and is still so; None where it is not known."""
        if not self._recalls:
            return None
        return (json.loads(self._kept[name]),) if name in self._kept else None

    @cached_property
    def _kept(self) -> Mapping[str, str]:
        return checks.load_answers(self._session, self._site_id)

    def answer(self, name: str, value: object, needs: Iterable[Need] | None) -> None:
        """Note that an answer about the whole site was asked: its value, and what that depends on."""
        if needs is not None:
            self.answers[name] = value, frozenset(needs)
        self.note([(Matter.ANSWER, name)])


def _gathered(rows: Iterable[tuple[str, str, str]]) -> dict[str, Answers]:
    found: dict[str, dict[str, tuple[str, ...]]] = {}
    for key, page, value in rows:
        pages = found.setdefault(key, {})
        pages[page] = (*pages.get(page, ()), value)
    return {key: {page: tuple(sorted(pages[page])) for page in sorted(pages)} for key, pages in found.items()}


def need_digests(needs: Iterable[Need]) -> set[int]:
    """Return what stands for needs in the database."""
    return {digest_of(kind, key) for kind, key in needs}
