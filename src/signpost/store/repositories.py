"""Reading and writing of sites, files, changes and analyses. A session comes from `Database.transaction`."""

from __future__ import annotations

import hashlib
import json
from collections.abc import Collection, Iterable, Mapping, Sequence
from typing import Any, Literal
from uuid import UUID, uuid4

from sqlalchemy import ARRAY, Select, String, Text, any_, bindparam, cast, delete, func, literal, select, update
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session

from signpost.core.site.site import SITE_FILE
from signpost.store.models import (
    SITE,
    AnalysisRow,
    BlobRow,
    ChangeFileRow,
    ChangeRow,
    FileRow,
    GeometryRow,
    PageRow,
    SiteRow,
)
from signpost.store.records import ChangeRecord, DeedRecord, FileChange, FileRecord, GeometryRecord, SiteRecord

# -------------------------------------------------------------------- sites


def add_site(session: Session, name: str, base: str | None = None, site_id: UUID | None = None) -> SiteRecord:
    """Return a new, empty site."""
    row = SiteRow(site_id=site_id or uuid4(), name=name, base=base)
    session.add(row)
    session.flush()
    session.refresh(row)
    return _site(row)


def load_sites(session: Session) -> list[SiteRecord]:
    """Return all sites, the newest first."""
    return [_site(row) for row in session.scalars(select(SiteRow).order_by(SiteRow.created_at.desc()))]


#: How a site is locked until a transaction ends: so that no other one changes its files, or sees to its index either.
Lock = Literal["shared", "alone"]


def load_site(session: Session, site_id: UUID, *, lock: Lock | None = None) -> SiteRecord | None:
    """Return a site, or None; with `lock`, no other transaction changes its files until this one ends."""
    row = session.execute(_SITE[lock], {"site_id": site_id}).one_or_none()
    return None if row is None else _site(*row)


def _site_queries() -> dict[Lock | None, Select[Any]]:
    """Return the queries of a site, by how it is locked; they are asked so often that they are built but once.

    Asked at once: the hash of its own file that says how it is checked, whether the index knows all files as they
    are, and whether any page cannot be read. Each names the site itself, so that no plan looks at others.
    """
    files, pages = FileRow.site_id == SITE, PageRow.site_id == SITE
    site_file = select(FileRow.sha256).where(files, FileRow.path == SITE_FILE).scalar_subquery()
    unindexed = select(FileRow.path).where(files, FileRow.sha256.is_distinct_from(FileRow.indexed_sha256)).exists()
    unreadable = select(PageRow.path).where(pages, PageRow.unreadable.is_not(None)).exists()
    query = select(SiteRow, site_file, ~unindexed, unreadable).where(SiteRow.site_id == SITE)
    query = query.execution_options(populate_existing=True)
    return {
        None: query,
        "shared": query.with_for_update(read=True, of=SiteRow),
        "alone": query.with_for_update(key_share=True, of=SiteRow),
    }


_SITE = _site_queries()


def save_site(session: Session, site_id: UUID, name: str, base: str | None) -> None:
    """Give a site its name and its own address."""
    session.execute(update(SiteRow).where(SiteRow.site_id == site_id).values(name=name, base=base))


def save_settings(session: Session, site_id: UUID, settings: dict[str, Any]) -> None:
    """Keep a site's settings."""
    session.execute(update(SiteRow).where(SiteRow.site_id == site_id).values(settings=settings))


def note_deed(session: Session, site_id: UUID, window: str, author: str, deed: str) -> None:
    """Keep who did what last to a site, and give it its next revision."""
    values = {"revision": SiteRow.revision + 1, "last_window": window, "last_author": author, "last_deed": deed}
    session.execute(update(SiteRow).where(SiteRow.site_id == site_id).values(values))


def load_deed(session: Session, site_id: UUID) -> DeedRecord | None:
    """Return what was done last to a site, or None where the site is not there."""
    query = select(SiteRow.revision, SiteRow.last_window, SiteRow.last_author, SiteRow.last_deed)
    row = session.execute(query.where(SiteRow.site_id == site_id)).one_or_none()
    return None if row is None else DeedRecord(*row)


def delete_site(session: Session, site_id: UUID) -> None:
    """Delete a site with all that belongs to it."""
    session.execute(delete(SiteRow).where(SiteRow.site_id == site_id))


def _site(row: SiteRow, site_file: str | None = None, *known: bool) -> SiteRecord:
    indexed, has_unreadable = known or (False, True)
    return SiteRecord(
        row.site_id,
        row.name,
        row.base,
        row.created_at,
        row.settings,
        row.indexed_by if indexed else "",
        site_file,
        row.files_revision,
        has_unreadable,
    )


# -------------------------------------------------------------------- files


def load_files(session: Session, site_id: UUID, since: int | None = None) -> list[FileRecord]:
    """Return all files of a site in the order of their paths, those not there at present too.

    With `since`, those that are other than they were at that revision of the site's files.
    """
    query = select(FileRow.path, FileRow.sha256, FileRow.brought_sha256).where(FileRow.site_id == site_id)
    if since is not None:
        query = query.where(FileRow.revision > since)
    return [FileRecord(*row) for row in session.execute(query.order_by(FileRow.path))]


def load_hashes(session: Session, site_id: UUID, paths: Collection[str]) -> dict[str, str]:
    """Return the hashes of those of some files that are there, by path."""
    there = FileRow.path == any_(literal(list(paths), ARRAY(String)))  # one parameter, however many they are
    query = select(FileRow.path, FileRow.sha256).where(FileRow.site_id == site_id, there)
    return {row.path: row.sha256 for row in session.execute(query) if row.sha256 is not None}


def load_file(session: Session, site_id: UUID, path: str) -> FileRecord | None:
    """Return one file of a site, or None."""
    row = session.get(FileRow, (site_id, path))
    return None if row is None else FileRecord(row.path, row.sha256, row.brought_sha256)


def count_bytes(session: Session, site_id: UUID) -> int:
    """Return how many bytes the site's blobs hold."""
    return session.scalar(select(func.sum(func.length(BlobRow.data))).where(BlobRow.site_id == site_id)) or 0


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
    session.execute(insert(FileRow), rows)


def _touch_files(session: Session, site_id: UUID) -> int:
    """Note that files of a site are others now, and return the revision that makes them so."""
    query = update(SiteRow).where(SiteRow.site_id == site_id)
    touched = query.values(files_revision=SiteRow.files_revision + 1).returning(SiteRow.files_revision)
    return session.scalars(touched).one()


def save_blobs(session: Session, site_id: UUID, blobs: Iterable[bytes]) -> list[str]:
    """Keep bytes, and return their SHA-256 hashes in the same order."""
    hashes, rows = [], {}
    for data in blobs:
        sha256 = hashlib.sha256(data).hexdigest()
        hashes.append(sha256)
        rows[sha256] = {"site_id": site_id, "sha256": sha256, "data": data}
    if rows:
        session.execute(insert(BlobRow).on_conflict_do_nothing(), list(rows.values()))
    return hashes


def load_blobs(session: Session, site_id: UUID, hashes: Collection[str]) -> dict[str, bytes]:
    """Return bytes by their hashes; all of them are there."""
    if not hashes:
        return {}
    rows = session.execute(_BLOBS, {"site_id": site_id, "hashes": list(hashes)})
    return {row.sha256: row.data for row in rows}


_BLOBS = select(BlobRow.sha256, BlobRow.data).where(
    BlobRow.site_id == SITE, BlobRow.sha256.in_(bindparam("hashes", expanding=True))
)


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
    author: str = "",
    key: UUID | None = None,
) -> ChangeRecord:
    """Record a change and bring its files to their new state. The site must be locked."""
    number = session.scalar(
        update(SiteRow)
        .where(SiteRow.site_id == site_id)
        .values(last_change=SiteRow.last_change + 1)
        .returning(SiteRow.last_change)
    )
    change = {
        "site_id": site_id,
        "number": number,
        "operation": operation,
        "title": title,
        "page": page,
        "parameters": parameters,
        "edits": edits,
        "author": author,
        "key": key,
    }
    row = session.scalars(insert(ChangeRow).returning(ChangeRow), change).one()
    session.execute(
        insert(ChangeFileRow),
        [
            {
                "site_id": site_id,
                "number": number,
                "path": file.path,
                "before_sha256": file.before_sha256,
                "after_sha256": file.after_sha256,
            }
            for file in files
        ],
    )
    set_files(session, site_id, {file.path: file.after_sha256 for file in files})
    return _change(row, tuple(files))


def set_files(session: Session, site_id: UUID, hashes: Mapping[str, str | None]) -> None:
    """Point paths to other bytes; None means that the file is not there."""
    if not hashes:
        return
    revision = _touch_files(session, site_id)
    rows = [
        {"site_id": site_id, "path": path, "sha256": sha256, "revision": revision} for path, sha256 in hashes.items()
    ]
    session.execute(_SET_FILES, rows)


_ADD_FILES = insert(FileRow)
_SET_FILES = _ADD_FILES.on_conflict_do_update(
    index_elements=["site_id", "path"],
    set_={"sha256": _ADD_FILES.excluded.sha256, "revision": _ADD_FILES.excluded.revision},
)


def set_undone(session: Session, site_id: UUID, number: int, *, undone: bool) -> None:
    """Mark a change as undone, or as made again."""
    session.execute(
        update(ChangeRow).where(ChangeRow.site_id == site_id, ChangeRow.number == number).values(undone=undone)
    )


def load_changes(session: Session, site_id: UUID) -> list[ChangeRecord]:
    """Return all changes of a site, the newest first, with their files."""
    files: dict[int, list[FileChange]] = {}
    query = select(ChangeFileRow).where(ChangeFileRow.site_id == site_id).order_by(ChangeFileRow.path)
    for row in session.scalars(query):
        files.setdefault(row.number, []).append(FileChange(row.path, row.before_sha256, row.after_sha256))
    rows = session.scalars(select(ChangeRow).where(ChangeRow.site_id == site_id).order_by(ChangeRow.number.desc()))
    return [_change(row, tuple(files.get(row.number, ()))) for row in rows]


def add_files(session: Session, site_id: UUID, files: Sequence[FileRecord]) -> None:
    """Add files to a site that has none, each as it is and as it was brought in."""
    rows = [
        {"site_id": site_id, "path": one.path, "sha256": one.sha256, "brought_sha256": one.brought_sha256}
        for one in files
    ]
    if rows:
        session.execute(insert(FileRow), rows)
        _touch_files(session, site_id)


def restore_changes(session: Session, site_id: UUID, changes: Sequence[ChangeRecord]) -> None:
    """Add changes to a site that has none; its files are as they left them already."""
    for change in changes:
        row = ChangeRow(
            site_id=site_id,
            number=change.number,
            operation=change.operation,
            title=change.title,
            page=change.page,
            parameters=change.parameters,
            edits=change.edits,
            undone=change.undone,
            author=change.author,
            created_at=change.created_at,
        )
        session.add(row)
        session.flush()
        session.add_all(
            ChangeFileRow(
                site_id=site_id,
                number=change.number,
                path=file.path,
                before_sha256=file.before_sha256,
                after_sha256=file.after_sha256,
            )
            for file in change.files
        )
    last = max((change.number for change in changes), default=0)
    session.execute(update(SiteRow).where(SiteRow.site_id == site_id).values(last_change=last))


_CHANGE = select(ChangeRow).where(ChangeRow.site_id == SITE, ChangeRow.key == bindparam("key"))


def find_change(session: Session, site_id: UUID, key: UUID) -> ChangeRecord | None:
    """Return the change that a request of this key made, or None."""
    row = session.scalar(_CHANGE, {"site_id": site_id, "key": key})
    if row is None:
        return None
    query = select(ChangeFileRow).where(ChangeFileRow.site_id == site_id, ChangeFileRow.number == row.number)
    files = session.scalars(query.order_by(ChangeFileRow.path))
    return _change(row, tuple(FileChange(file.path, file.before_sha256, file.after_sha256) for file in files))


def _change(row: ChangeRow, files: tuple[FileChange, ...]) -> ChangeRecord:
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
        row.key,
    )


# -------------------------------------------------------------------- analyses


def load_analyses(
    session: Session, site_id: UUID, hashes: Collection[str], version: int
) -> dict[tuple[str, str], str]:
    """Return the facts of pages as JSON, by the hash of their bytes and the digest of what else is known of them."""
    if not hashes:
        return {}
    rows = session.execute(_ANALYSES, {"site_id": site_id, "hashes": list(hashes), "version": version})
    return {(row.sha256, row.marks): row.facts for row in rows}


_ANALYSES = select(AnalysisRow.sha256, AnalysisRow.marks, cast(AnalysisRow.facts, Text).label("facts")).where(
    AnalysisRow.site_id == SITE,
    AnalysisRow.sha256.in_(bindparam("hashes", expanding=True)),
    AnalysisRow.core_version == bindparam("version"),
)


def save_analyses(session: Session, site_id: UUID, version: int, facts: Mapping[tuple[str, str], bytes]) -> None:
    """Keep facts of pages, by the hash of their bytes and the digest of what else was known of them."""
    rows = [
        {"site_id": site_id, "sha256": sha256, "core_version": version, "marks": marks, "facts": json.loads(found)}
        for (sha256, marks), found in facts.items()
    ]
    session.execute(insert(AnalysisRow).on_conflict_do_nothing(), rows)  # another reader may have found the same


# -------------------------------------------------------------------- geometries


def load_geometries(
    session: Session, site_id: UUID, width: int, height: int, text_size: int, path: str | None = None
) -> list[GeometryRecord]:
    """Return the pages as they were last measured in a window, or one page."""
    query = select(GeometryRow).where(
        GeometryRow.site_id == site_id,
        GeometryRow.width == width,
        GeometryRow.height == height,
        GeometryRow.text_size == text_size,
    )
    query = query if path is None else query.where(GeometryRow.path == path)
    return [GeometryRecord(row.path, row.sha256, row.digest, row.facts) for row in session.scalars(query)]


def save_geometry(
    session: Session, site_id: UUID, record: GeometryRecord, width: int, height: int, text_size: int
) -> None:
    """Keep a page as it was measured in a window, in the place of what was measured before."""
    row = {
        "site_id": site_id,
        "path": record.path,
        "width": width,
        "height": height,
        "text_size": text_size,
        "sha256": record.sha256,
        "digest": record.digest,
        "facts": record.facts,
    }
    statement = insert(GeometryRow).values(row)
    keys = ["site_id", "path", "width", "height", "text_size"]
    changed = {name: statement.excluded[name] for name in ("sha256", "digest", "facts")}
    session.execute(statement.on_conflict_do_update(index_elements=keys, set_=changed))
