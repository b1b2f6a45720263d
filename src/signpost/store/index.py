"""The index of a site: which files it knows as they are, and what it knows of pages."""

from __future__ import annotations

from collections.abc import Collection, Iterable
from uuid import UUID

from sqlalchemy import Integer, String, Table, any_, bindparam, delete, func, select, text, update
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session

from signpost.store.checks import delete_findings
from signpost.store.models import (
    ANALYSES,
    DESTINATIONS,
    FILES,
    FINDINGS,
    NEEDS,
    PAGES,
    SITE,
    SITES,
    SOME_PAGES,
    THAT_SITE,
    TOLD,
    is_among,
)
from signpost.store.records import PageRecord
from signpost.store.rows import ROWS, replacing

#: The paths of pages, as `is_page_path` knows them.
_PAGE_PATHS = r"\.(html|htm|xhtml|shtml)$"


# -------------------------------------------------------------------- what is indexed


def load_unindexed(
    session: Session, site_id: UUID, most: int | None = None
) -> dict[str, tuple[str | None, str | None]]:
    """Return files that are other than the index knows them, by path: their hash there, and as they are.

    Of a page that `note_told` noted, the digest stands in the place of the first hash.
    """
    rows = session.execute(_UNINDEXED, {"site_id": site_id, "most": most})
    return {row.path: (row.indexed_sha256, row.sha256) for row in rows}


_UNINDEXED = (
    select(FILES.c.path, FILES.c.indexed_sha256, FILES.c.sha256)
    .where(FILES.c.site_id == SITE, ~FILES.c.is_known)
    .order_by(FILES.c.path)
    .limit(bindparam("most", type_=Integer))
)


def count_unread(session: Session, site_id: UUID, digest: str) -> int:
    """Return how many pages the index does not know as they are, without those that `note_told` noted by a digest."""
    found: int = session.execute(_COUNT_UNREAD, {"site_id": site_id, "digest": digest}).scalar_one()
    return found


_COUNT_UNREAD = (
    select(func.count())
    .select_from(FILES)
    .where(
        FILES.c.site_id == SITE,
        FILES.c.sha256.is_not(None),
        ~FILES.c.is_known,
        FILES.c.indexed_sha256.is_distinct_from(bindparam("digest", type_=String)),
        FILES.c.path.regexp_match(_PAGE_PATHS, "i"),
    )
)


def count_pages_there(session: Session, site_id: UUID) -> int:
    """Return how many pages a site has."""
    found: int = session.execute(_COUNT_PAGES, {"site_id": site_id}).scalar_one()
    return found


_COUNT_PAGES = (
    select(func.count())
    .select_from(FILES)
    .where(FILES.c.site_id == SITE, FILES.c.sha256.is_not(None), FILES.c.path.regexp_match(_PAGE_PATHS, "i"))
)


def forget_indexed(session: Session, site_id: UUID, digest: str) -> None:
    """Note that the index has to look at all files of a site again, but for what `note_told` noted by a digest."""
    others = FILES.c.indexed_sha256.is_distinct_from(digest)
    query = update(FILES).where(FILES.c.site_id == site_id, FILES.c.sha256.is_not(None), others)
    session.execute(query.values(indexed_sha256=None))


def note_told(session: Session, site_id: UUID, paths: Collection[str], digest: str) -> None:
    """Note that what pages tell is kept, though they are not indexed yet, and by which digest of the index."""
    query = update(FILES).where(FILES.c.site_id == site_id, is_among(FILES.c.path, paths))
    session.execute(query.values(indexed_sha256=digest))


def note_indexed(session: Session, site_id: UUID, paths: Collection[str]) -> None:
    """Note that the index knows files as they are."""
    session.execute(_NOTE_INDEXED, {"site": site_id, "pages": list(paths)})


_NOTE_INDEXED = (
    update(FILES)
    .where(FILES.c.site_id == THAT_SITE, FILES.c.path == any_(SOME_PAGES))
    .values(indexed_sha256=FILES.c.sha256)
)


def note_indexed_by(session: Session, site_id: UUID, digest: str) -> None:
    """Keep the digest of what a site's index depends on beside its files."""
    session.execute(update(SITES).where(SITES.c.site_id == site_id).values(indexed_by=digest))


def take_unread(session: Session, site_id: UUID, version: int, most: int) -> dict[str, str]:
    """Return pages that the index does not know and of which no facts are kept, by path, with their hashes.

    Until the transaction ends, no other one is given them.
    """
    kept = select(ANALYSES.c.sha256).where(ANALYSES.c.site_id == site_id, ANALYSES.c.core_version == version)
    query = select(FILES.c.path, FILES.c.sha256).where(
        FILES.c.site_id == site_id,
        ~FILES.c.is_known,
        FILES.c.path.regexp_match(_PAGE_PATHS, "i"),
        FILES.c.sha256.not_in(kept),  # looked up in a hash table, however little is known of tables that just grew
    )
    rows = session.execute(query.limit(most).with_for_update(skip_locked=True, key_share=True))
    return {row.path: row.sha256 for row in rows if row.sha256 is not None}


def note_unreadable(session: Session, site_id: UUID, version: int, hashes: Collection[str]) -> None:
    """Note of bytes that they were looked at, where no facts of them are kept, so that they are not taken again."""
    rows = [
        {"site_id": site_id, "sha256": sha256, "core_version": version, "marks": "", "facts": {}} for sha256 in hashes
    ]
    if rows:
        session.execute(insert(ANALYSES).on_conflict_do_nothing(), rows)


def plan_anew(session: Session) -> None:
    """Have the database plan its statements for tables as they are, not as they were when it planned them last."""
    session.execute(text("DISCARD PLANS"))


#: Tables that grow as pages are indexed, and as they are checked.
INDEXED = (FILES, ANALYSES, PAGES, TOLD, DESTINATIONS)
CHECKED = (PAGES, NEEDS, FINDINGS)


def count_anew(session: Session, tables: Iterable[Table]) -> None:
    """Have the database look at tables that just grew by much, or it would search them as if they were small."""
    for table in tables:
        session.execute(text(f"ANALYZE {table.name}"))


def load_sites_out_of_date(session: Session) -> list[UUID]:
    """Return the sites with files that their index does not know, or pages whose findings are out of date.

    Those that rest are left out.
    """
    unindexed = select(FILES.c.site_id).where(~FILES.c.is_known)
    unchecked = select(PAGES.c.site_id).where(PAGES.c.checked_by.is_(None), PAGES.c.unreadable.is_(None))
    found = {*session.scalars(unindexed.distinct()), *session.scalars(unchecked.distinct())}
    return sorted(site_id for site_id in found if not is_resting(session, site_id))


def is_resting(session: Session, site_id: UUID) -> bool:
    """Return whether a site is left alone until it is opened again."""
    return bool(session.scalar(select(SITES.c.resting).where(SITES.c.site_id == site_id)))


def note_resting(session: Session, site_id: UUID, *, resting: bool) -> None:
    """Note whether a site is left alone until it is opened again."""
    changed = update(SITES).where(SITES.c.site_id == site_id, SITES.c.resting.is_not(resting))
    session.execute(changed.values(resting=resting))


# -------------------------------------------------------------------- pages


PAGE = (
    PAGES.c.path,
    PAGES.c.sha256,
    PAGES.c.repeated,
    PAGES.c.unreadable,
    PAGES.c.summary,
    PAGES.c.checked_by,
)


def load_pages(session: Session, site_id: UUID, paths: Collection[str] | None = None) -> dict[str, PageRecord]:
    """Return what the index knows of pages, by path; of all of them without `paths`."""
    if paths is not None and not paths:
        return {}
    asked = {"site_id": site_id} if paths is None else {"site_id": site_id, "pages": list(paths)}
    rows = session.execute(_PAGES if paths is None else _SOME_PAGES, asked)
    return {row.path: PageRecord(*row) for row in rows}


_PAGES = select(*PAGE).where(PAGES.c.site_id == SITE).order_by(PAGES.c.path)
_SOME_PAGES = _PAGES.where(PAGES.c.path == any_(SOME_PAGES))


def load_unreadable(session: Session, site_id: UUID) -> dict[str, str]:
    """Return the pages that cannot be read, by path, with the reason."""
    query = select(PAGES.c.path, PAGES.c.unreadable).where(
        PAGES.c.site_id == site_id, PAGES.c.unreadable.is_not(None)
    )
    return {row.path: row.unreadable or "" for row in session.execute(query)}


def save_pages(session: Session, site_id: UUID, pages: Iterable[PageRecord]) -> None:
    """Keep what the index knows of pages, in the place of what it knew."""
    rows = [
        {
            "site_id": site_id,
            "path": page.path,
            "sha256": page.sha256,
            "repeated": page.repeated,
            "unreadable": page.unreadable,
            "summary": page.summary,
            "checked_by": page.checked_by,
        }
        for page in pages
    ]
    for start in range(0, len(rows), ROWS):
        session.execute(_SAVE_PAGES, rows[start : start + ROWS])


_SAVE_PAGES = replacing(PAGES, ["sha256", "repeated", "unreadable", "summary", "checked_by"], ["site_id", "path"])


def delete_pages(session: Session, site_id: UUID, paths: Collection[str]) -> None:
    """Forget pages that are not there any more, with all that was known of them."""
    if paths:
        session.execute(delete(PAGES).where(PAGES.c.site_id == site_id, is_among(PAGES.c.path, paths)))
        delete_findings(session, site_id, paths)
        for table in (DESTINATIONS, TOLD):
            session.execute(delete(table).where(table.c.site_id == site_id, is_among(table.c.page, paths)))
        session.execute(delete(NEEDS).where(NEEDS.c.site_id == site_id, is_among(NEEDS.c.holder, paths)))
