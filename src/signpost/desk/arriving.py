"""A site that is being read, as far as it is known: shown at once, and filled in as its pages come."""

from __future__ import annotations

from dataclasses import dataclass
from uuid import UUID

from signpost.core.addresses.links import is_page_path
from signpost.desk.findings import asked
from signpost.desk.indexing import index_digest
from signpost.desk.loading import load_files_there, load_known
from signpost.store import index as store
from signpost.store import queries
from signpost.store.database import Database


@dataclass(frozen=True, slots=True)
class ArrivingPage:
    """A page of a site that is being read."""

    path: str
    size: int  # bytes
    title: str | None  # None: not read yet, or without one
    words: int | None  # None: not read yet
    findings: int | None  # None: not checked yet
    unreadable: str | None  # why it cannot be opened


@dataclass(frozen=True, slots=True)
class ArrivingView:
    """Some of the pages of a site that is being read."""

    name: str
    base: str | None
    pages: tuple[ArrivingPage, ...]
    total: int  # pages


def view_arriving(database: Database, site_id: UUID, start: int, limit: int) -> ArrivingView:
    """Return pages of a site in the order of their paths, from the one at `start` on, as far as they are known.

    Nothing is read for it. Raises NotThereError.
    """
    with database.snapshot() as session:
        known = load_known(session, site_id)
        files = load_files_there(session, known.record)
        paths = [path for path in files if is_page_path(path)]
        shown = paths[start : start + limit]
        hashes = {path: files[path].sha256 or "" for path in shown}
        sizes = queries.load_sizes(session, site_id, list(hashes.values()))
        records = store.load_pages(session, site_id, shown)
        counts = queries.count_findings(session, site_id, asked(known.settings, pages=shown))
        wrong = dict.fromkeys(shown, 0)
        for (path, _), number in counts.items():
            wrong[path] += number
        is_current = known.record.indexed_by == index_digest(known)
    pages = []
    for path in shown:
        record = records.get(path)
        read = record is not None and record.sha256 == hashes[path]
        summary = record.summary if record is not None and read else {}
        pages.append(
            ArrivingPage(
                path=path,
                size=sizes.get(hashes[path], 0),
                title=summary.get("title"),
                words=summary.get("words"),
                findings=wrong[path] if record is not None and read and is_current and record.checked_by else None,
                unreadable=record.unreadable if record is not None and read else None,
            )
        )
    return ArrivingView(known.record.name, known.record.base, tuple(pages), len(paths))
