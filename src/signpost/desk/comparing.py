"""Two pages of a site, or two revisions of one, side by side."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime
from uuid import UUID

from signpost.core.comparing.outlines import Difference, Tally, compare_pages
from signpost.core.page import Page
from signpost.core.page.outline import Section
from signpost.desk.errors import NotThereError
from signpost.desk.loading import LoadedSite, load_record, load_revision
from signpost.desk.opening import opened
from signpost.store import repositories as store
from signpost.store.database import Database


@dataclass(frozen=True, slots=True)
class RevisionView:
    """A page as it was at some time."""

    revision: str  # SHA-256 of its bytes
    title: str  # what made it so
    created_at: datetime | None  # None for what was brought in
    current: bool
    undone: bool


@dataclass(frozen=True, slots=True)
class SectionSide:
    """A section on one side."""

    index: int
    level: int
    text: str
    identifier: str | None
    words: int


@dataclass(frozen=True, slots=True)
class PairView:
    """A section beside its counterpart."""

    left: SectionSide | None
    right: SectionSide | None
    differences: tuple[Difference, ...]


@dataclass(frozen=True, slots=True)
class Side:
    """One of two pages that are compared."""

    path: str
    revision: str
    title: str | None
    words: int
    sections: int
    encoding: str
    newline: str


@dataclass(frozen=True, slots=True)
class CompareView:
    """Two pages side by side."""

    left: Side
    right: Side
    pairs: tuple[PairView, ...]
    sections: Tally
    changed: int
    identifiers: Tally
    links: Tally
    lines: Tally
    diff: str


def list_revisions(database: Database, site_id: UUID, path: str) -> list[RevisionView]:
    """Return a page as it was brought in and after each change, the newest first. Raises NotThereError."""
    with database.transaction() as session:
        load_record(session, site_id)
        file = store.load_file(session, site_id, path)
        if file is None:
            raise NotThereError(f"The site has no page “{path}”.")
        found = [
            RevisionView(after, change.title, change.created_at, after == file.sha256, change.undone)
            for change in store.load_changes(session, site_id)
            for one in change.files
            if one.path == path and (after := one.after_sha256) is not None
        ]
    if file.brought_sha256 is not None:
        current = file.sha256 == file.brought_sha256
        found.append(RevisionView(file.brought_sha256, "As it was brought in", None, current, undone=False))
    return found


def compare(
    database: Database, site_id: UUID, left: tuple[str, str | None], right: tuple[str, str | None]
) -> CompareView:
    """Return two pages side by side; each is a path and a revision, or None for as it is. Raises NotThereError."""
    with opened(database, site_id) as loaded:
        one, other = _load(loaded, *left), _load(loaded, *right)
    found = compare_pages(one, other)
    return CompareView(
        left=_side(one),
        right=_side(other),
        pairs=tuple(PairView(_section(pair.left), _section(pair.right), pair.differences) for pair in found.pairs),
        sections=found.sections,
        changed=found.changed,
        identifiers=found.identifiers,
        links=found.links,
        lines=found.lines,
        diff=found.diff,
    )


def _load(loaded: LoadedSite, path: str, revision: str | None) -> Page:
    if revision is None or (path in loaded.files and loaded.files[path].sha256 == revision):
        return loaded.page(path)
    page = load_revision(loaded, path, revision)
    if page is None:
        raise NotThereError(f"This revision of {path} is not there any more. Choose another one.")
    return page


def _side(page: Page) -> Side:
    source = page.source
    return Side(page.path, source.sha256, page.title, page.words, len(page.headings), source.encoding, source.newline)


def _section(section: Section | None) -> SectionSide | None:
    if section is None:
        return None
    return SectionSide(section.index, section.level, section.text, section.identifier, section.own_words)
