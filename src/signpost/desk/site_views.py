"""What the screens show of a site, a stretch at a time: its pages, the links between them, its series, its files."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator
from dataclasses import asdict, dataclass
from itertools import islice
from typing import Literal
from uuid import UUID

from signpost.core.addresses.links import is_page_path
from signpost.core.parts.phrases import SUFFIX
from signpost.core.parts.series import Series, find_series, marks_of
from signpost.core.parts.whole import own_headings
from signpost.desk.findings import asked, count_severities, find_unchecked
from signpost.desk.indexing import PageFigures
from signpost.desk.loading import LoadedSite
from signpost.store import queries
from signpost.store.limits import SITE_BYTES
from signpost.store.records import PageRecord
from signpost.store.repositories import count_bytes

#: How many pages are looked at at a time for the links on them.
_PAGES = 100


@dataclass(frozen=True, slots=True)
class PageSummary:
    """A page as a row of the site's desk."""

    path: str
    title: str | None
    words: int
    windows: float
    sections: int
    without_identifier: int
    has_contents: bool
    back_links: int
    errors: int
    warnings: int
    advice: int
    links_in: int  # from other pages
    links_out: int  # to other pages of the site
    changed: bool
    is_new: bool
    unreadable: str | None  # why it cannot be opened
    encoding: str | None  # that the author had it read in; None for what it declares
    lacks: tuple[str, ...]  # each in a few words


@dataclass(frozen=True, slots=True)
class PagesView:
    """Some of a site's pages."""

    pages: tuple[PageSummary, ...]
    total: int  # how many were found
    longest: float  # of all pages of the site, in windows


#: By what pages are put in order.
PageOrder = Literal["path", "words", "sections", "links_in", "findings"]


@dataclass(frozen=True, slots=True)
class FileView:
    """A file that is not a page."""

    path: str
    changed: bool


@dataclass(frozen=True, slots=True)
class FilesView:
    """Some of a site's files that are not pages."""

    files: tuple[FileView, ...]
    more: bool  # whether there are others behind them


@dataclass(frozen=True, slots=True)
class PageLinks:
    """How many links lead from one page to another."""

    from_page: str
    to_page: str
    count: int


@dataclass(frozen=True, slots=True)
class LinksView:
    """Some of the links between a site's pages."""

    links: tuple[PageLinks, ...]
    after: str | None  # the page to go on after; None where these are the last


@dataclass(frozen=True, slots=True)
class SeriesPartView:
    """A part in the list of a site's series."""

    number: int
    path: str
    title: str
    words: int


@dataclass(frozen=True, slots=True)
class SeriesView:
    """A page in parts, on its site's desk."""

    home: str
    title: str
    words: int
    parts: tuple[SeriesPartView, ...]
    missing: tuple[int, ...]


@dataclass(frozen=True, slots=True)
class SiteView:
    """A site on its desk."""

    site_id: UUID
    name: str
    base: str | None
    pages: int  # how many there are
    files: int  # others than pages
    linked: bool  # whether any page links to another
    first: tuple[str, ...]  # paths of the first two pages that can be read
    series: tuple[SeriesView, ...]
    changed: int  # how many files differ from what was brought in
    unchecked: int  # how many pages are still to be checked
    kept: float  # how much is kept, earlier states included: a share of what may be


def view_site(loaded: LoadedSite) -> SiteView:
    """Return a site as its desk shows it, without what is shown a stretch at a time."""
    pages = sum(map(is_page_path, loaded.files))
    return SiteView(
        site_id=loaded.record.site_id,
        name=loaded.record.name,
        base=loaded.record.base,
        pages=pages,
        files=len(loaded.files) - pages,
        linked=next(_links_between(loaded, ""), None) is not None,
        first=tuple(islice(loaded.pages, 2)),
        series=tuple(_view_series(series) for series in find_series(loaded.site)),
        changed=sum(file.changed for file in loaded.files.values()),
        unchecked=len(find_unchecked(loaded)),
        kept=count_bytes(loaded.session, loaded.record.site_id) / SITE_BYTES,
    )


def view_pages(loaded: LoadedSite, query: str, order: PageOrder, *, down: bool, start: int, limit: int) -> PagesView:
    """Return the pages whose path or title contains some words, in an order, from the one at `start` on."""
    session, site_id = loaded.session, loaded.record.site_id
    words = query.strip()
    wanted = asked(loaded.settings)
    found = queries.find_pages(session, site_id, words, order, start, limit, down=down, asked=wanted)
    counts = count_severities(loaded, [record.path for record in found])
    return PagesView(
        tuple(_summary(loaded, record, counts.get(record.path, {})) for record in found),
        queries.count_pages(session, site_id, words),
        queries.longest_page(session, site_id),
    )


def _summary(loaded: LoadedSite, record: PageRecord, counts: dict[str, int]) -> PageSummary:
    file = loaded.files[record.path]
    known = {**_NOTHING, **record.summary}
    return PageSummary(
        path=record.path,
        title=known["title"],
        words=known["words"],
        windows=known["windows"],
        sections=known["sections"],
        without_identifier=known["without_identifier"],
        has_contents=known["has_contents"],
        back_links=known["back_links"],
        errors=counts.get("error", 0),
        warnings=counts.get("warning", 0),
        advice=counts.get("advice", 0),
        links_in=known["links_in"],
        links_out=known["links_out"],
        changed=file.changed,
        is_new=file.brought_sha256 is None,
        unreadable=record.unreadable,
        encoding=loaded.settings.encodings.get(record.path),
        lacks=tuple(known["lacks"]),
    )


_NOTHING = asdict(PageFigures())


def view_files(loaded: LoadedSite, after: str, limit: int) -> FilesView:
    """Return the files behind a path that are not pages, in the order of their paths."""
    found = sorted(path for path in loaded.files if path > after and not is_page_path(path))
    shown = tuple(FileView(path, loaded.files[path].changed) for path in found[:limit])
    return FilesView(shown, len(found) > limit)


def view_links(loaded: LoadedSite, after: str, limit: int) -> LinksView:
    """Return the links from the pages behind a path to other pages: at least `limit` of them if there are so many."""
    found: list[PageLinks] = []
    for page, links in _links_between(loaded, after):
        found += links
        if len(found) >= limit:
            return LinksView(tuple(found), page)
    return LinksView(tuple(found), None)


def _links_between(loaded: LoadedSite, after: str) -> Iterator[tuple[str, list[PageLinks]]]:
    """Yield the pages behind a path that link to others, with those links."""
    paths = sorted(path for path in loaded.pages if path > after)
    for at in range(0, len(paths), _PAGES):
        some = paths[at : at + _PAGES]
        told = loaded.index.links_on(some)
        for path in some:
            counts: Counter[str] = Counter()
            for led, count in told.get(path, ()):
                there = loaded.site.file_at(led)
                if there != path and there in loaded.pages:
                    counts[there] += count
            if counts:
                yield path, [PageLinks(path, there, count) for there, count in sorted(counts.items())]


def _view_series(series: Series) -> SeriesView:
    parts = []
    for part in series.parts:
        marks = marks_of(part)
        own = own_headings(part)
        heading = own[0].text if own and marks.number > 1 else SUFFIX.sub("", part.title or part.path)
        words = part.words - (own[0].words_before if own and marks.number > 1 else 0)
        parts.append(SeriesPartView(marks.number, part.path, marks.settings.get("titled") or heading, words))
    title = SUFFIX.sub("", series.parts[0].title or series.home)
    return SeriesView(series.home, title, sum(part.words for part in parts), tuple(parts), series.missing)
