"""What is kept of the folders that sites are linked to."""

from __future__ import annotations

from collections.abc import Collection, Mapping
from dataclasses import asdict
from uuid import UUID

from sqlalchemy import delete, select, update
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session

from signpost.store.models import FolderConflictRow, FolderFileRow, FolderRow, FolderWaitRow, FolderWriteRow
from signpost.store.records import ConflictRecord, FolderFileRecord, FolderRecord, WaitRecord, WriteRecord


def add_folder(session: Session, site_id: UUID, folder: str, host: str) -> None:
    """Link a site to a folder."""
    session.add(FolderRow(site_id=site_id, folder=folder, host=host, away=""))
    session.flush()


def load_folder(session: Session, site_id: UUID) -> FolderRecord | None:
    """Return the folder of a site, or None."""
    row = session.get(FolderRow, site_id, populate_existing=True)
    return None if row is None else FolderRecord(row.site_id, row.folder, row.host, row.away)


def load_folders(session: Session, host: str) -> list[FolderRecord]:
    """Return the folders of all sites that one machine has."""
    rows = session.scalars(select(FolderRow).where(FolderRow.host == host).order_by(FolderRow.folder))
    return [FolderRecord(row.site_id, row.folder, row.host, row.away) for row in rows]


def note_away(session: Session, site_id: UUID, away: str) -> None:
    """Keep why a folder cannot be used; "" where it can."""
    session.execute(update(FolderRow).where(FolderRow.site_id == site_id).values(away=away))


def delete_folder(session: Session, site_id: UUID) -> None:
    """Forget the folder of a site, and all that is kept of it."""
    for table in (FolderRow, FolderFileRow, FolderWriteRow, FolderWaitRow, FolderConflictRow):
        session.execute(delete(table).where(table.site_id == site_id))


def load_agreed(session: Session, site_id: UUID) -> dict[str, FolderFileRecord]:
    """Return the files as folder and site last agreed on them, by path."""
    rows = session.scalars(select(FolderFileRow).where(FolderFileRow.site_id == site_id))
    return {row.path: FolderFileRecord(row.sha256, row.size, row.changed) for row in rows}


def save_agreed(session: Session, site_id: UUID, files: Mapping[str, FolderFileRecord | None]) -> None:
    """Keep what folder and site agree on of some files; None for a file that neither has."""
    gone = [path for path, file in files.items() if file is None]
    if gone:
        session.execute(delete(FolderFileRow).where(FolderFileRow.site_id == site_id, FolderFileRow.path.in_(gone)))
    rows = [{"site_id": site_id, "path": path, **file._asdict()} for path, file in files.items() if file is not None]
    if rows:
        statement = insert(FolderFileRow)
        new = {name: statement.excluded[name] for name in ("sha256", "size", "changed")}
        session.execute(statement.on_conflict_do_update(index_elements=["site_id", "path"], set_=new), rows)


def load_writes(session: Session, site_id: UUID) -> list[WriteRecord]:
    """Return what is being written to the folder, or was and is not settled yet."""
    rows = session.scalars(select(FolderWriteRow).where(FolderWriteRow.site_id == site_id))
    return [WriteRecord(row.path, row.before_sha256, row.after_sha256, row.beside, row.agreed) for row in rows]


def begin_writes(session: Session, site_id: UUID, writes: Collection[WriteRecord]) -> None:
    """Keep what is about to be written to the folder, and under which names it waits there."""
    if writes:
        session.execute(insert(FolderWriteRow), [{"site_id": site_id, **write._asdict()} for write in writes])


def note_in_place(session: Session, site_id: UUID, write: WriteRecord, size: int) -> None:
    """Keep that what was written is in the folder, `size` bytes long, and that folder and site agree on it."""
    of_write = (FolderWriteRow.site_id == site_id) & (FolderWriteRow.beside == write.beside)
    session.execute(update(FolderWriteRow).where(of_write).values(agreed=True))
    # its time is too new to tell whether it is saved again just now: it is read when it is looked at
    after = write.after_sha256
    save_agreed(session, site_id, {write.path: None if after is None else FolderFileRecord(after, size, 0)})


def end_writes(session: Session, site_id: UUID, writes: Collection[WriteRecord]) -> None:
    """Forget what was written."""
    if writes:
        names = [write.beside for write in writes]
        of_site = FolderWriteRow.site_id == site_id
        session.execute(delete(FolderWriteRow).where(of_site, FolderWriteRow.beside.in_(names)))


def load_waits(session: Session, site_id: UUID) -> list[WaitRecord]:
    """Return the files that folder and site cannot bring together for now, by path."""
    rows = session.scalars(select(FolderWaitRow).where(FolderWaitRow.site_id == site_id).order_by(FolderWaitRow.path))
    return [WaitRecord(row.path, row.side, row.why, row.remedy) for row in rows]  # type: ignore[arg-type]


def save_waits(session: Session, site_id: UUID, waits: Collection[WaitRecord]) -> None:
    """Keep which files wait, in the place of what was kept."""
    session.execute(delete(FolderWaitRow).where(FolderWaitRow.site_id == site_id))
    if waits:
        session.execute(insert(FolderWaitRow), [{"site_id": site_id, **asdict(one)} for one in waits])


def load_conflicts(session: Session, site_id: UUID) -> dict[str, ConflictRecord]:
    """Return the files that were edited on both sides, by path."""
    rows = session.scalars(select(FolderConflictRow).where(FolderConflictRow.site_id == site_id))
    return {row.path: ConflictRecord(row.path, row.base_sha256, row.folder_sha256) for row in rows}


def save_conflicts(session: Session, site_id: UUID, conflicts: Collection[ConflictRecord]) -> None:
    """Keep which files were edited on both sides, in the place of what was kept."""
    session.execute(delete(FolderConflictRow).where(FolderConflictRow.site_id == site_id))
    rows = [
        {
            "site_id": site_id,
            "path": one.path,
            "base_sha256": one.base_sha256,
            "folder_sha256": one.folder_sha256,
        }
        for one in conflicts
    ]
    if rows:
        session.execute(insert(FolderConflictRow), rows)
