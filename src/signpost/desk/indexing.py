"""The index of a site, brought up to date: by what differs between the files as they are and as it knows them.

Whoever opens a site finds its index up to date, or brings it there first. So it never matters what changed the files,
nor whether that was done to its end.
"""

from __future__ import annotations

import hashlib
import json
from collections.abc import Collection, Iterable, Mapping
from dataclasses import asdict, dataclass, field, fields, replace
from typing import Any
from uuid import UUID

from sqlalchemy.orm import Session

from signpost.core.addresses.links import is_page_path
from signpost.core.back_to_top.links import find_back_links
from signpost.core.contents.own import has_contents
from signpost.core.page import Page
from signpost.core.page.lengths import estimate_page, windows
from signpost.core.site.answers import find_answer
from signpost.core.site.index import EVERY, Matter, Need, file_keys
from signpost.core.site.repeats import find_repeated, repeats_on
from signpost.core.site.told import Kind, tell
from signpost.core.text.errors import SignpostError
from signpost.desk.destination_rows import read_destinations
from signpost.desk.loading import Known, LoadedSite, load_indexed, load_known
from signpost.desk.reading import BATCH, read_all
from signpost.desk.stored import need_digests
from signpost.desk.versions import core_digest
from signpost.store import checks
from signpost.store import index as store
from signpost.store import told as kept_told
from signpost.store.records import DestinationRecord, PageRecord, ToldRecord
from signpost.store.rows import digest_of, storable

#: What the names of answers stand behind among holders of needs; no path has one.
ANSWER = "\n"
#: How many files are indexed in one transaction by whoever can go on later.
AT_ONCE = 1000
#: Of how many pages it is looked at once what they tell.
_PAGES = 4 * BATCH
#: Up to how many pages it is asked of each whether it begins and ends as it did.
_FEW = 20


@dataclass(frozen=True, slots=True)
class PageFigures:
    """A page as a row of the site's desk, in what it alone tells."""

    title: str | None = None
    words: int = 0
    windows: float = 0.0
    sections: int = 0
    without_identifier: int = 0
    has_contents: bool = False
    back_links: int = 0
    # what is known once it is checked
    lacks: tuple[str, ...] = ()  # each in a few words
    links_in: int = 0  # from other pages
    links_out: int = 0  # to other pages of the site


def _summarise(page: Page) -> PageFigures:
    return PageFigures(
        title=page.title,
        words=page.words,
        windows=windows(estimate_page(page)),
        sections=len(page.headings),
        without_identifier=sum(heading.identifier is None for heading in page.headings if heading.level > 1),
        has_contents=has_contents(page),
        back_links=len(find_back_links(page)),
    )


def index_digest(known: Known) -> str:
    """Return a digest of what the whole index of a site depends on, beside the site's files."""
    regions = {path: asdict(one) for path, one in known.settings.regions.items()}
    encodings = dict(known.settings.encodings)
    figures = [one.name for one in fields(PageFigures)]
    facts: list[Any] = [core_digest(), figures, known.record.base, regions, encodings]
    return hashlib.sha256(json.dumps(facts, sort_keys=True).encode()).hexdigest()


def is_indexed(known: Known) -> bool:
    """Return whether the index of a site is up to date."""
    return known.record.is_indexed and known.record.indexed_by == index_digest(known)


def count_unindexed(session: Session, known: Known) -> int:
    """Return how many pages of a site its index does not know as they are."""
    site_id = known.record.site_id
    if known.record.indexed_by != index_digest(known):
        return store.count_pages_there(session, site_id)
    return store.count_unread(session, site_id, "")


def bring_up_to_date(
    session: Session, site_id: UUID, most: int | None = None, *, at_hand: Iterable[bytes] = ()
) -> Known:
    """Bring the index of a site up to date, or `most` files of it, and return what is known of the site then.

    Bytes of files that are `at_hand` are not fetched again. The site must be locked. Raises NotThereError.
    """
    known = load_known(session, site_id)
    digest = index_digest(known)
    if known.record.indexed_by != digest:
        store.forget_indexed(session, site_id, digest)
        checks.note_unchecked(session, site_id)
        store.note_indexed_by(session, site_id, digest)
    changed = store.load_unindexed(session, site_id, most)
    has_unreadable = known.record.has_unreadable
    if changed:
        blobs = {hashlib.sha256(data).hexdigest(): data for data in at_hand}
        update = _Update(session, site_id, known, blobs, digest)
        update.files(changed)
        update.follow()
        store.note_indexed(session, site_id, list(changed))
        has_unreadable |= update.has_unreadable
    record = replace(
        known.record,
        is_indexed=most is None or len(changed) < most,
        indexed_by=digest,
        has_unreadable=has_unreadable,
    )
    return replace(known, record=record)


def tell_ahead(
    session: Session,
    site_id: UUID,
    known: Known,
    read: Mapping[str, Page | SignpostError],
    hashes: Mapping[str, str],
) -> None:
    """Keep what pages tell that were read before anything of their site was indexed.

    Nothing depends on them yet, so several processes can do so at once, and whoever indexes the site then finds it
    done. The site must have been locked, shared, since before it was known.
    """
    _Update(session, site_id, known).tell(read, hashes, {})
    store.note_told(session, site_id, read.keys(), index_digest(known))


@dataclass
class _Update:
    """The index of a site while it is brought up to date."""

    session: Session
    site_id: UUID
    known: Known
    at_hand: Mapping[str, bytes] = field(default_factory=dict)  # bytes of files, by their hashes
    digest: str = ""  # of what the index depends on beside the files
    ahead: dict[str, PageRecord] = field(default_factory=dict)  # what pages tell that is kept already
    changed: set[Need] = field(default_factory=set)  # whatever depends on these may be out of date
    has_unreadable: bool = False  # whether a page that it came by cannot be read
    done: set[str] = field(default_factory=set)  # pages whose findings are out of date whatever they depend on

    def files(self, changed: Mapping[str, tuple[str | None, str | None]]) -> None:
        """Index files that are other than they were: by path, the hash that the index knows and the new one."""
        for path, (before, after) in changed.items():
            if before in (None, self.digest) or after is None:
                self.changed |= {(Matter.FILE, key) for key in file_keys(path)}
            self.changed.add((Matter.PAGE if is_page_path(path) else Matter.TEXT, path))
        pages = {path: after for path, (_, after) in changed.items() if is_page_path(path)}
        there = {path: after for path, after in pages.items() if after is not None}
        told = {path for path, (before, _) in changed.items() if before == self.digest}
        self._pages(there, [path for path, after in pages.items() if after is None], told)

    def _pages(self, hashes: Mapping[str, str], gone: Collection[str], told: Collection[str]) -> None:
        """Index pages by the hashes of their bytes, and forget those that are gone; some are `told` already."""
        known = store.load_pages(self.session, self.site_id, [*hashes, *gone])
        self.ahead = {path: known[path] for path in told if path in known and known[path].sha256 == hashes.get(path)}
        repeated = {path: frozenset(known[path].repeated) if path in known else frozenset() for path in hashes}
        outers = self._read_outers(
            {path: sha256 for path, sha256 in hashes.items() if path not in self.ahead}, repeated
        )
        again = self._find_repeats(outers, gone)
        repeated |= again
        more = store.load_pages(self.session, self.site_id, again.keys() - hashes.keys())
        self._tell({**hashes, **{path: page.sha256 for path, page in more.items()}}, repeated, gone)

    def _read_outers(
        self, hashes: Mapping[str, str], repeated: Mapping[str, frozenset[str]]
    ) -> dict[str, tuple[str, ...]]:
        """Return what pages begin and end with; nothing for those that cannot be read."""
        readings = {path: self.known.settings.read_options(path, repeated[path]) for path in hashes}
        read = read_all(self.session, self.site_id, hashes, readings, at_hand=self.at_hand)
        return {path: page.outer if isinstance(page, Page) else () for path, page in read}

    def _find_repeats(
        self, outers: Mapping[str, tuple[str, ...]], gone: Collection[str]
    ) -> dict[str, frozenset[str]]:
        """Return the pages on which other blocks repeat than it was known, with those blocks' digests."""
        if not self.ahead and len(outers) + len(gone) <= _FEW and not self._differs(outers, gone):
            return {}
        told = kept_told.load_told(self.session, self.site_id, Kind.OUTER)
        before = {page: tuple(json.loads(value)) for _, page, value in told}
        kept = {path: outer for path, outer in before.items() if path not in gone}
        after = {path: outer for path, outer in {**kept, **outers}.items() if outer}
        if not self.ahead and before == after:
            return {}
        repeats = find_repeated(after.values())
        known = store.load_pages(self.session, self.site_id)
        found = {}
        for path in {*after, *outers}:
            now = repeats_on(after.get(path, ()), repeats)
            if now != (frozenset(known[path].repeated) if path in known else frozenset()):
                found[path] = now
        return found

    def _differs(self, outers: Mapping[str, tuple[str, ...]], gone: Collection[str]) -> bool:
        """Return whether some pages begin or end with something other than they did."""
        for path in (*outers, *gone):
            told = kept_told.load_told(self.session, self.site_id, Kind.OUTER, path)
            before = next((tuple(json.loads(value)) for _, _, value in told), ())
            if before != outers.get(path, ()):
                return True
        return False

    def _tell(self, hashes: Mapping[str, str], repeated: Mapping[str, frozenset[str]], gone: Collection[str]) -> None:
        if gone:
            self._keep({}, {path: frozenset() for path in gone})
            store.delete_pages(self.session, self.site_id, gone)
        self.done |= {*hashes, *gone}
        self.has_unreadable |= any(page.unreadable is not None for page in self.ahead.values())
        paths = [path for path in hashes if not self._is_told(path, repeated)]
        for start in range(0, len(paths), _PAGES):
            some = {path: hashes[path] for path in paths[start : start + _PAGES]}
            settings = self.known.settings
            readings = {path: settings.read_options(path, repeated.get(path, frozenset())) for path in some}
            read = read_all(self.session, self.site_id, some, readings, at_hand=self.at_hand)
            self.tell(dict(read), some, repeated)

    def _is_told(self, path: str, repeated: Mapping[str, frozenset[str]]) -> bool:
        """Return whether what a page tells is kept already, as it is with the blocks that other pages repeat."""
        return path in self.ahead and frozenset(self.ahead[path].repeated) == repeated.get(path, frozenset())

    def tell(
        self,
        read: Mapping[str, Page | SignpostError],
        hashes: Mapping[str, str],
        repeated: Mapping[str, frozenset[str]],
    ) -> None:
        """Keep what pages tell, and where links may lead on them, by the hashes of their bytes."""
        told: dict[str, frozenset[ToldRecord]] = {}
        records: dict[str, PageRecord] = {}
        leading: dict[str, list[DestinationRecord]] = {}
        for path, page in read.items():
            self.has_unreadable |= not isinstance(page, Page)
            told[path] = _told(page, self.known.record.base)
            records[path] = _record(page, path, hashes[path], repeated.get(path, frozenset()))
            leading[path] = read_destinations(page) if isinstance(page, Page) else []
        self._keep(records, told)
        kept_told.save_destinations(self.session, self.site_id, leading)
        self.changed |= {(Matter.PAGE, path) for path in read}

    def _keep(self, records: Mapping[str, PageRecord], told: Mapping[str, frozenset[ToldRecord]]) -> None:
        """Keep what pages tell, and note what of it is new or gone."""
        before = kept_told.load_told_by(self.session, self.site_id, list(told))
        gone = [(path, row) for path, rows in told.items() for row in before.get(path, set()) - rows]
        new = [(path, row) for path, rows in told.items() for row in rows - before.get(path, set())]
        kept_told.delete_told(self.session, self.site_id, gone)
        kept_told.add_told(self.session, self.site_id, new)
        store.save_pages(self.session, self.site_id, records.values())
        for path, row in (*gone, *new):
            self.changed |= {(row.kind, row.key), (row.kind, EVERY)}
            if row.kind == Kind.NAME:
                self.changed.add((Matter.NAMES, path))

    def follow(self) -> None:
        """Note that findings are out of date where they depend on what changed, and find out answers again."""
        out_of_date: set[str] = set()
        answers: set[str] = set()
        waiting = need_digests(self.changed)
        while waiting:
            holders = checks.load_holders(self.session, self.site_id, waiting)
            out_of_date |= {holder for holder in holders if not holder.startswith(ANSWER)}
            fresh = {holder.removeprefix(ANSWER) for holder in holders if holder.startswith(ANSWER)} - answers
            answers |= fresh
            waiting = self._answer_again(fresh)
        checks.note_unchecked(self.session, self.site_id, out_of_date - self.done)

    def _answer_again(self, names: Collection[str]) -> set[int]:
        """Find out answers again; return what stands for those that are others now."""
        if not names:
            return set()
        loaded = load_indexed(self.session, self.known, recalls=False)
        before = checks.load_answers(self.session, self.site_id)
        for name in sorted(names):
            find_answer(loaded.site, name)
        keep_answers(loaded)
        after = {name: _kept_value(loaded.index.answers[name][0]) for name in names}
        return {digest_of(Matter.ANSWER, name) for name in names if after[name] != before.get(name)}


def keep_answers(loaded: LoadedSite) -> None:
    """Keep the answers about a site that were asked, with what they depend on."""
    asked = loaded.index.answers
    site_id = loaded.record.site_id
    checks.save_answers(loaded.session, site_id, {name: _kept_value(value) for name, (value, _) in asked.items()})
    needs = {ANSWER + name: need_digests(needs) for name, (_, needs) in asked.items()}
    checks.save_needs(loaded.session, site_id, needs, shared=True)


def _kept_value(value: object) -> str:
    return json.dumps(value, ensure_ascii=False)


def _told(page: Page | SignpostError, base: str | None) -> frozenset[ToldRecord]:
    if not isinstance(page, Page):
        return frozenset()
    return frozenset(
        ToldRecord(str(row.kind), storable(row.key), storable(str(row.value))) for row in tell(page, base)
    )


def _record(page: Page | SignpostError, path: str, sha256: str, repeated: Iterable[str]) -> PageRecord:
    if isinstance(page, Page):
        return PageRecord(path, sha256, sorted(repeated), None, asdict(_summarise(page)), None)
    return PageRecord(path, sha256, [], str(page), {}, None)
