"""Reading and writing of sites, files and changes. A session comes from `Database.transaction`."""

from __future__ import annotations

import hashlib
from collections.abc import Collection, Iterable, Mapping, Sequence
from typing import Any, Literal
from uuid import UUID, uuid4

from sqlalchemy import ARRAY, BigInteger, Row, Select, any_, bindparam, delete, func, literal, select, update
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session

from signpost.core.site.site import SITE_FILE
from signpost.store import limits
from signpost.store.models import (
    BLOBS,
    CHANGE_FILES,
    CHANGES,
    FILES,
    PAGES,
    REQUESTS,
    SITE,
    SITES,
    SOME_HASHES,
    THAT_SITE,
    is_among,
)
from signpost.store.records import ChangeRecord, DeedRecord, FileChange, FileRecord, RequestRecord, SiteRecord

# -------------------------------------------------------------------- sites


def add_site(session: Session, name: str, base: str | None = None, site_id: UUID | None = None) -> SiteRecord:
    """Return a new, empty site."""
    row = {"site_id": site_id or uuid4(), "name": name, "base": base}
    return _site(session.execute(insert(SITES).values(row).returning(SITES)).one())


def load_sites(session: Session) -> list[SiteRecord]:
    """Return all sites, the newest first."""
    return [_site(row) for row in session.execute(select(SITES).order_by(SITES.c.created_at.desc()))]


#: How a site is locked until a transaction ends: so that no other one changes its files, or sees to its index either.
Lock = Literal["shared", "alone"]


def load_site(session: Session, site_id: UUID, *, lock: Lock | None = None) -> SiteRecord | None:
    """Return a site, or None; with `lock`, no other transaction changes its files until this one ends."""
    row = session.execute(_SITE[lock], {"site_id": site_id}).one_or_none()
    if row is None:
        return None
    return _site(row, row.site_file, is_indexed=row.is_indexed, has_unreadable=row.has_unreadable)


def _site_queries() -> dict[Lock | None, Select[Any]]:
    """Return the queries of a site, by how it is locked; they are asked so often that they are built but once.

    Asked at once: the hash of its own file that says how it is checked, whether the index knows all files as they
    are, and whether any page cannot be read. Each names the site itself, so that no plan looks at others.
    """
    files, pages = FILES.c.site_id == SITE, PAGES.c.site_id == SITE
    site_file = select(FILES.c.sha256).where(files, FILES.c.path == SITE_FILE).scalar_subquery()
    unindexed = select(FILES.c.path).where(files, ~FILES.c.is_known).exists()
    unreadable = select(PAGES.c.path).where(pages, PAGES.c.unreadable.is_not(None)).exists()
    query = select(
        SITES, site_file.label("site_file"), (~unindexed).label("is_indexed"), unreadable.label("has_unreadable")
    ).where(SITES.c.site_id == SITE)
    return {
        None: query,
        "shared": query.with_for_update(read=True, of=SITES),
        "alone": query.with_for_update(key_share=True, of=SITES),
    }


_SITE = _site_queries()


def save_site(session: Session, site_id: UUID, name: str, base: str | None) -> None:
    """Give a site its name and its own address."""
    session.execute(update(SITES).where(SITES.c.site_id == site_id).values(name=name, base=base))


def save_settings(session: Session, site_id: UUID, settings: dict[str, Any]) -> None:
    """Keep a site's settings."""
    session.execute(update(SITES).where(SITES.c.site_id == site_id).values(settings=settings))


def note_deed(session: Session, site_id: UUID, window: str, author: str, deed: str) -> None:
    """Keep who did what last to a site, and give it its next revision."""
    session.execute(_NOTE_DEED, {"site": site_id, "window": window, "by": author, "deed": deed})


_NOTE_DEED = (
    update(SITES)
    .where(SITES.c.site_id == THAT_SITE)
    .values(
        revision=SITES.c.revision + 1,
        last_window=bindparam("window"),
        last_author=bindparam("by"),
        last_deed=bindparam("deed"),
    )
)


def load_deed(session: Session, site_id: UUID) -> DeedRecord | None:
    """Return what was done last to a site, or None where the site is not there."""
    query = select(SITES.c.revision, SITES.c.last_window, SITES.c.last_author, SITES.c.last_deed)
    row = session.execute(query.where(SITES.c.site_id == site_id)).one_or_none()
    return None if row is None else DeedRecord(*row)


def delete_site(session: Session, site_id: UUID) -> None:
    """Delete a site with all that belongs to it."""
    session.execute(delete(SITES).where(SITES.c.site_id == site_id))


def _site(
    row: Row[Any], site_file: str | None = None, *, is_indexed: bool = False, has_unreadable: bool = True
) -> SiteRecord:
    return SiteRecord(
        row.site_id,
        row.name,
        row.base,
        row.created_at,
        row.settings,
        row.indexed_by,
        is_indexed,
        site_file,
        row.files_revision,
        has_unreadable,
    )


# -------------------------------------------------------------------- files


def load_files(session: Session, site_id: UUID, since: int | None = None) -> list[FileRecord]:
    """Return all files of a site in the order of their paths, those not there at present too.

    With `since`, those that are other than they were at that revision of the site's files.
    """
    query = _FILES if since is None else _FILES_SINCE
    return [FileRecord(*row) for row in session.execute(query, {"site_id": site_id, "since": since})]


_FILE = (FILES.c.path, FILES.c.sha256, FILES.c.brought_sha256)
_FILES = select(*_FILE).where(FILES.c.site_id == SITE).order_by(FILES.c.path)
_FILES_SINCE = _FILES.where(FILES.c.revision > bindparam("since"))


def load_hashes(session: Session, site_id: UUID, paths: Collection[str]) -> dict[str, str]:
    """Return the hashes of those of some files that are there, by path."""
    query = select(FILES.c.path, FILES.c.sha256).where(FILES.c.site_id == site_id, is_among(FILES.c.path, paths))
    return {row.path: row.sha256 for row in session.execute(query) if row.sha256 is not None}


def load_file(session: Session, site_id: UUID, path: str) -> FileRecord | None:
    """Return one file of a site, or None."""
    row = session.execute(_FILES.where(FILES.c.path == path), {"site_id": site_id}).one_or_none()
    return None if row is None else FileRecord(*row)


def count_bytes(session: Session, site_id: UUID) -> int:
    """Return how many bytes a site keeps, earlier states of its files included."""
    return session.scalar(select(SITES.c.stored_bytes).where(SITES.c.site_id == site_id)) or 0


def bring_in(session: Session, site_id: UUID, files: Mapping[str, bytes]) -> None:
    """Add files to a site as they were brought in; paths that are there already must not be among them."""
    if not files:
        return
    hashes = save_blobs(session, site_id, files.values())
    revision = _touch_files(session, site_id)
    rows = [
        {"site_id": site_id, "path": path, "sha256": sha256, "brought_sha256": sha256, "revision": revision}
        for path, sha256 in zip(files, hashes, strict=True)
    ]
    session.execute(insert(FILES), rows)


def _touch_files(session: Session, site_id: UUID) -> int:
    """Note that files of a site are others now, and return the revision that makes them so."""
    revision: int = session.execute(_TOUCH_FILES, {"site": site_id}).scalar_one()
    return revision


_TOUCH_FILES = (
    update(SITES)
    .where(SITES.c.site_id == THAT_SITE)
    .values(files_revision=SITES.c.files_revision + 1)
    .returning(SITES.c.files_revision)
)


def save_blobs(session: Session, site_id: UUID, blobs: Iterable[bytes]) -> list[str]:
    """Keep bytes, and return their SHA-256 hashes in the same order.

    Raises SiteFullError where the site would keep more than it may.
    """
    hashes, rows = [], {}
    for data in blobs:
        sha256 = hashlib.sha256(data).hexdigest()
        hashes.append(sha256)
        rows[sha256] = {"site_id": site_id, "sha256": sha256, "data": data}
    if rows:
        session.execute(_SAVE_BLOBS, list(rows.values()))
        if count_bytes(session, site_id) > limits.SITE_BYTES:
            raise limits.SiteFullError
    return hashes


_KEEP_BLOBS = insert(BLOBS)
_SAVE_BLOBS = _KEEP_BLOBS.on_conflict_do_update(index_elements=["site_id", "sha256"], set_={"kept_at": func.now()})


def load_sizes(session: Session, site_id: UUID, hashes: Collection[str]) -> dict[str, int]:
    """Return how many bytes what is kept has, by hashes."""
    query = select(BLOBS.c.sha256, BLOBS.c.size).where(BLOBS.c.site_id == site_id, is_among(BLOBS.c.sha256, hashes))
    return {row.sha256: row.size for row in session.execute(query)} if hashes else {}


def load_blobs(session: Session, site_id: UUID, hashes: Collection[str]) -> dict[str, bytes]:
    """Return bytes by their hashes; all of them are there."""
    if not hashes:
        return {}
    rows = session.execute(_BLOBS, {"site_id": site_id, "hashes": list(hashes)})
    return {row.sha256: row.data for row in rows}


_BLOBS = select(BLOBS.c.sha256, BLOBS.c.data).where(BLOBS.c.site_id == SITE, BLOBS.c.sha256 == any_(SOME_HASHES))


# -------------------------------------------------------------------- changes


def add_change(
    session: Session,
    site_id: UUID,
    *,
    operation: str,
    title: str,
    page: str,
    parameters: dict[str, Any],
    edits: int,
    files: Sequence[FileChange],
    window: str,
    author: str,
    deed: str,
) -> ChangeRecord:
    """Record a change, note it as what was done last, and bring its files to their new state.

    The site must be locked.
    """
    noted = {"site": site_id, "window": window, "by": author, "deed": deed}
    number, revision = session.execute(_NEXT_CHANGE, noted).one()
    change = {
        "site_id": site_id,
        "number": number,
        "operation": operation,
        "title": title,
        "page": page,
        "parameters": parameters,
        "edits": edits,
        "author": author,
    }
    made_at = session.execute(_ADD_CHANGE, change).scalar_one()
    if files:
        session.execute(_ADD_CHANGE_FILES, [_change_file(site_id, number, file) for file in files])
    _set_files(session, site_id, {file.path: file.after_sha256 for file in files}, revision)
    return ChangeRecord(number, operation, title, page, edits, False, made_at, parameters, tuple(files), author)


def _change_file(site_id: UUID, number: int, file: FileChange) -> dict[str, Any]:
    return {
        "site_id": site_id,
        "number": number,
        "path": file.path,
        "before_sha256": file.before_sha256,
        "after_sha256": file.after_sha256,
    }


_NEXT_CHANGE = _NOTE_DEED.values(
    last_change=SITES.c.last_change + 1, files_revision=SITES.c.files_revision + 1
).returning(SITES.c.last_change, SITES.c.files_revision)
_ADD_CHANGE = insert(CHANGES).returning(CHANGES.c.created_at)
_ADD_CHANGE_FILES = insert(CHANGE_FILES)


def set_files(session: Session, site_id: UUID, hashes: Mapping[str, str | None]) -> None:
    """Point paths to other bytes; None means that the file is not there."""
    if hashes:
        _set_files(session, site_id, hashes, _touch_files(session, site_id))


def _set_files(session: Session, site_id: UUID, hashes: Mapping[str, str | None], revision: int) -> None:
    rows = [
        {"site_id": site_id, "path": path, "sha256": sha256, "revision": revision} for path, sha256 in hashes.items()
    ]
    if rows:
        session.execute(_SET_FILES, rows)


_ADD_FILES = insert(FILES)
_SET_FILES = _ADD_FILES.on_conflict_do_update(
    index_elements=["site_id", "path"],
    set_={"sha256": _ADD_FILES.excluded.sha256, "revision": _ADD_FILES.excluded.revision},
)


def set_undone(session: Session, site_id: UUID, number: int, *, undone: bool) -> None:
    """Mark a change as undone, or as made again."""
    session.execute(
        update(CHANGES).where(CHANGES.c.site_id == site_id, CHANGES.c.number == number).values(undone=undone)
    )


def load_changes(
    session: Session, site_id: UUID, *, before: int | None = None, limit: int | None = None, path: str = ""
) -> list[ChangeRecord]:
    """Return changes of a site, the newest first, with their files: all, or `limit` of those older than `before`.

    With a path, those that touched that file.
    """
    query = select(CHANGES).where(CHANGES.c.site_id == site_id).order_by(CHANGES.c.number.desc()).limit(limit)
    if before is not None:
        query = query.where(CHANGES.c.number < before)
    if path:
        touching = select(CHANGE_FILES.c.number).where(CHANGE_FILES.c.site_id == site_id, CHANGE_FILES.c.path == path)
        query = query.where(CHANGES.c.number.in_(touching))
    return _with_files(session, site_id, session.execute(query).all())


def load_change(session: Session, site_id: UUID, number: int) -> ChangeRecord | None:
    """Return a change by its number, with its files, or None."""
    query = select(CHANGES).where(CHANGES.c.site_id == site_id, CHANGES.c.number == number)
    return next(iter(_with_files(session, site_id, session.execute(query).all())), None)


def load_moving_changes(session: Session, site_id: UUID) -> list[ChangeRecord]:
    """Return the changes in force that gave files other paths, the oldest first, without their files."""
    query = select(CHANGES).where(CHANGES.c.site_id == site_id, CHANGES.c.parameters.has_key("moves"))
    rows = session.execute(query.where(~CHANGES.c.undone).order_by(CHANGES.c.number))
    return [_change(row, ()) for row in rows]


def load_changes_of(
    session: Session, site_id: UUID, paths: Collection[str], *, after: int = 0, limit: int | None = None
) -> list[ChangeRecord]:
    """Return the changes in force, with numbers above `after`, that touched some files; the newest first."""
    touching = (
        select(CHANGE_FILES.c.number)
        .where(CHANGE_FILES.c.site_id == site_id, is_among(CHANGE_FILES.c.path, paths), CHANGE_FILES.c.number > after)
        .distinct()
        .order_by(CHANGE_FILES.c.number.desc())
    )
    query = select(CHANGES).where(CHANGES.c.site_id == site_id, CHANGES.c.number.in_(touching), ~CHANGES.c.undone)
    return [_change(row, ()) for row in session.execute(query.order_by(CHANGES.c.number.desc()).limit(limit))]


def load_undone(session: Session, site_id: UUID, limit: int) -> list[ChangeRecord]:
    """Return the changes that are undone, the newest first, with their files: as many as `limit` says."""
    query = select(CHANGES).where(CHANGES.c.site_id == site_id, CHANGES.c.undone)
    return _with_files(session, site_id, session.execute(query.order_by(CHANGES.c.number.desc()).limit(limit)).all())


def _with_files(session: Session, site_id: UUID, rows: Sequence[Row[Any]]) -> list[ChangeRecord]:
    files: dict[int, list[FileChange]] = {}
    numbers = literal([row.number for row in rows], ARRAY(BigInteger))
    query = select(CHANGE_FILES).where(CHANGE_FILES.c.site_id == site_id, CHANGE_FILES.c.number == any_(numbers))
    for row in session.execute(query.order_by(CHANGE_FILES.c.path)) if rows else ():
        files.setdefault(row.number, []).append(FileChange(row.path, row.before_sha256, row.after_sha256))
    return [_change(row, tuple(files.get(row.number, ()))) for row in rows]


def add_files(session: Session, site_id: UUID, files: Sequence[FileRecord]) -> None:
    """Add files to a site that has none, each as it is and as it was brought in."""
    rows = [
        {"site_id": site_id, "path": one.path, "sha256": one.sha256, "brought_sha256": one.brought_sha256}
        for one in files
    ]
    if rows:
        session.execute(insert(FILES), rows)
        _touch_files(session, site_id)


def restore_changes(session: Session, site_id: UUID, changes: Sequence[ChangeRecord]) -> None:
    """Add changes to a site that has none; its files are as they left them already."""
    rows = [
        {
            "site_id": site_id,
            "number": change.number,
            "operation": change.operation,
            "title": change.title,
            "page": change.page,
            "parameters": change.parameters,
            "edits": change.edits,
            "undone": change.undone,
            "author": change.author,
            "created_at": change.created_at,
        }
        for change in changes
    ]
    files = [_change_file(site_id, change.number, file) for change in changes for file in change.files]
    if rows:
        session.execute(insert(CHANGES), rows)
    if files:
        session.execute(_ADD_CHANGE_FILES, files)
    last = max((change.number for change in changes), default=0)
    session.execute(update(SITES).where(SITES.c.site_id == site_id).values(last_change=last))


def note_request(session: Session, site_id: UUID, key: UUID, number: int, digest: str) -> None:
    """Keep which change a request was about, and a digest of what it asked, so that it is known again."""
    session.execute(_NOTE_REQUEST, {"site_id": site_id, "key": key, "number": number, "digest": digest})


_NOTE_REQUEST = insert(REQUESTS)
_REQUEST = select(REQUESTS.c.number, REQUESTS.c.digest).where(
    REQUESTS.c.site_id == SITE, REQUESTS.c.key == bindparam("key")
)


def find_request(session: Session, site_id: UUID, key: UUID) -> RequestRecord | None:
    """Return what is kept of a request by its key, or None."""
    row = session.execute(_REQUEST, {"site_id": site_id, "key": key}).one_or_none()
    return None if row is None else RequestRecord(*row)


def _change(row: Row[Any], files: tuple[FileChange, ...]) -> ChangeRecord:
    return ChangeRecord(
        row.number,
        row.operation,
        row.title,
        row.page,
        row.edits,
        row.undone,
        row.created_at,
        row.parameters,
        files,
        row.author,
    )
