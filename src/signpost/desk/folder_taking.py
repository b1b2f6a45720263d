"""What changed in a linked folder, taken into its site: each file compared with what both agreed on last."""

from __future__ import annotations

import errno
import hashlib
from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field
from typing import Literal
from uuid import UUID

from sqlalchemy.orm import Session

from signpost.core.findings.site_file import read_site_file
from signpost.core.site.site import SITE_FILE
from signpost.core.text.errors import InputError
from signpost.core.text.merging import merge
from signpost.core.text.words import count_of
from signpost.desk.deeds import author, record_change
from signpost.desk.indexing import bring_up_to_date
from signpost.desk.intake import FILE_BYTES, INDEXED_AT_ONCE, SITE_FILES
from signpost.desk.loading import load_record
from signpost.folders.opened import OpenedFolder, UnfitError
from signpost.folders.scanning import Seen, Stamp, scan
from signpost.store import folders as kept
from signpost.store import repositories as store
from signpost.store.database import Database
from signpost.store.records import ConflictRecord, FileChange, FolderFileRecord, WaitRecord

#: How many bytes of the site's own file are read at most.
_SITE_FILE_BYTES = 256 * 1024
#: Whose deed it is what the folder alone tells.
FOLDER = "The folder"


#: What can be done about a file that the system refuses, by what it says (errno(3)).
_REMEDIES = {
    errno.EACCES: "Allow it in the file's or the folder's permissions.",
    errno.EPERM: "Allow it in the file's or the folder's permissions.",
    errno.EROFS: "The disk is mounted for reading alone; mount it for writing.",
    errno.ENOSPC: "Make room on the disk.",
    errno.EDQUOT: "Make room on the disk.",
    errno.ENAMETOOLONG: "Give it a shorter name at the desk.",
}


def wait_for(path: str, side: Literal["desk", "folder"], error: OSError) -> WaitRecord:
    """Return a file that waits for what the system refuses."""
    known = _REMEDIES.get(error.errno or 0, "See what is there.")
    remedy = error.remedy if isinstance(error, UnfitError) else known
    return WaitRecord(path, side, error.strerror or str(error), remedy)


def look_at(database: Database, site_id: UUID, folder: OpenedFolder) -> Seen:
    """Return what the folder has. Raises InputError for one that is away: its files were not deleted then."""
    with database.transaction() as session:
        known = {path: Stamp(*file) for path, file in kept.load_agreed(session, site_id).items()}
    seen = scan(folder, known, _patterns(folder), most_files=SITE_FILES, most_bytes=FILE_BYTES)
    if known and not seen.files and not seen.passed_over and folder.is_empty():
        raise InputError(f"{folder.root} is empty. If its files were deleted on purpose, unlink the folder.")
    return seen


def _patterns(folder: OpenedFolder) -> tuple[str, ...]:
    """Return what the site's own file says is no part of the site."""
    try:
        return read_site_file((folder.read(SITE_FILE, _SITE_FILE_BYTES) or b"").decode()).ignored
    except (OSError, UnicodeDecodeError, InputError):
        return ()


@dataclass(frozen=True, slots=True)
class _Found:
    """A file as it is in the folder."""

    stamp: FolderFileRecord | None  # None for none, or one that is ignored
    sha256: str | None
    data: bytes | None = None  # where it differs from what both agreed on


@dataclass(slots=True)
class _Taking:
    """What the site takes from its folder."""

    agreed: dict[str, FolderFileRecord | None] = field(default_factory=dict)
    changes: dict[str, tuple[str | None, bytes | None]] = field(default_factory=dict)  # hash before, and bytes after
    conflicts: list[ConflictRecord] = field(default_factory=list)


def take_changes(
    database: Database, site_id: UUID, folder: OpenedFolder, seen: Seen, waits: dict[str, WaitRecord]
) -> tuple[int, int]:
    """Take what changed in the folder into the site; return how many files that are, and how many are in conflict.

    What cannot be read goes to `waits`.
    """
    found = _read(database, site_id, folder, seen, waits)
    with database.transaction() as session:
        load_record(session, site_id, lock="alone")
        known = {file.path: file.sha256 for file in store.load_files(session, site_id)}
        agreed = kept.load_agreed(session, site_id)
        before = kept.load_conflicts(session, site_id)
        taking = _Taking(conflicts=[before[path] for path in sorted(before.keys() & waits.keys())])
        for path, there in found.items():
            _compare(session, site_id, path, there, known.get(path), agreed.get(path), before.get(path), taking)
        if not agreed and not any(known.values()) and taking.changes:  # the first time
            store.bring_in(session, site_id, {path: data or b"" for path, (_, data) in taking.changes.items()})
        elif taking.changes:
            _record(session, site_id, taking.changes)
        kept.save_agreed(session, site_id, taking.agreed)
        taking.conflicts.sort(key=lambda one: one.path)
        if [before[path] for path in sorted(before)] != taking.conflicts:
            kept.save_conflicts(session, site_id, taking.conflicts)
            deed = f"has {count_of(len(taking.conflicts), 'file')} that were edited on both sides"
            store.note_deed(session, site_id, "", FOLDER, deed)
        if 0 < len(taking.changes) <= INDEXED_AT_ONCE:
            bring_up_to_date(session, site_id)
    return len(taking.changes), len(taking.conflicts)


def _read(
    database: Database, site_id: UUID, folder: OpenedFolder, seen: Seen, waits: dict[str, WaitRecord]
) -> dict[str, _Found]:
    """Return the files of folder and site as they are in the folder, with the bytes of those that differ."""
    for path, error in seen.passed_over.items():
        waits[path] = wait_for(path, "folder", error)
    with database.transaction() as session:
        known = {file.path: file.sha256 for file in store.load_files(session, site_id)}
        agreed = kept.load_agreed(session, site_id)
        conflicts = kept.load_conflicts(session, site_id)
    made_here = {path for path, sha256 in known.items() if sha256 is not None and path not in agreed}
    found: dict[str, _Found] = {}
    for path in sorted({*seen.files, *agreed, *conflicts, *made_here} - waits.keys()):
        there = seen.files.get(path)
        try:
            # what is ignored may be there all the same
            theirs = folder.hash(path) if there is None else there.sha256
            stamp = None if there is None else FolderFileRecord(there.sha256, there.size, there.changed)
            found[path] = _Found(stamp, theirs)
            base = agreed[path].sha256 if path in agreed else None
            if theirs is not None and theirs not in (base, known.get(path)):
                found[path] = _Found(stamp, theirs, folder.read(path, FILE_BYTES))
        except OSError as error:
            waits[path] = wait_for(path, "folder", error)
            found.pop(path, None)
    return found


def _compare(
    session: Session,
    site_id: UUID,
    path: str,
    there: _Found,
    ours: str | None,
    agreed: FolderFileRecord | None,
    before: ConflictRecord | None,
    taking: _Taking,
) -> None:
    """Decide what becomes of one file; `before` is the conflict in which it was already."""
    base = None if agreed is None else agreed.sha256
    theirs, data = there.sha256, there.data
    if before is not None and before.folder_sha256 not in (None, theirs):  # saved once more while it was undecided
        record_aside(session, site_id, path, f"Saved outside before: {path}", ours, before.folder_sha256)
    if theirs == ours:
        if (there.stamp is not None or theirs is None) and there.stamp != agreed:
            taking.agreed[path] = there.stamp
        return
    if theirs == base:
        return  # the site's own edit, which is written
    if theirs is not None and (data is None or hashlib.sha256(data).hexdigest() != theirs):
        return  # it is being written just now, and looked at again in a moment
    if ours == base:
        taking.changes[path] = (ours, data)
        taking.agreed[path] = there.stamp
        return
    if data is not None:
        store.save_blobs(session, site_id, [data])  # what both begin from next, or what is in conflict
    merged = bring_edits_together(session, site_id, base, ours, data)
    if merged is not None:
        taking.changes[path] = (ours, merged)
        taking.agreed[path] = there.stamp
        return
    taking.conflicts.append(ConflictRecord(path, base, theirs))


def bring_edits_together(
    session: Session, site_id: UUID, base: str | None, ours: str | None, theirs: bytes | None
) -> bytes | None:
    """Return the edits of both sides brought together; None where they touch, or one side has no file or no base."""
    if base is None or ours is None or theirs is None:
        return None
    blobs = store.load_blobs(session, site_id, {base, ours})
    if base not in blobs or any(b"\0" in data for data in (*blobs.values(), theirs)):
        return None
    return merge(blobs[base], blobs[ours], theirs)


def _record(session: Session, site_id: UUID, changes: Mapping[str, tuple[str | None, bytes | None]]) -> None:
    """Record what was edited outside as one change."""
    store.save_blobs(session, site_id, [data for _, data in changes.values() if data is not None])
    files = [
        FileChange(path, before, None if data is None else hashlib.sha256(data).hexdigest())
        for path, (before, data) in changes.items()
    ]
    files = [file for file in files if file.before_sha256 != file.after_sha256]
    if not files:
        return
    moves = _moves(files)
    if moves:
        (old, new), *others = moves.items()
        title = f"Moved outside: {old} is now {new}" + (f", and {len(others)} more" if others else "")
    else:
        title = f"Edited outside: {files[0].path}" + (f" and {len(files) - 1} more" if len(files) > 1 else "")
    parameters = {"moves": moves} if moves else {}
    page = files[0].path
    with author(FOLDER):
        record_change(
            session, site_id, operation="outside", title=title, page=page, files=files, parameters=parameters
        )


def _moves(files: Iterable[FileChange]) -> dict[str, str]:
    """Return the files that have another path now, by their bytes; those that several have are told apart by name."""
    files = [*files]
    came: dict[str, list[str]] = {}
    for file in files:
        if file.before_sha256 is None and file.after_sha256 is not None:
            came.setdefault(file.after_sha256, []).append(file.path)
    moves = {}
    for file in files:
        if file.after_sha256 is None and came.get(file.before_sha256 or ""):
            alike = came[file.before_sha256 or ""]
            same_name = [path for path in alike if path.split("/")[-1] == file.path.split("/")[-1]]
            moves[file.path] = (same_name or alike)[0]
            alike.remove(moves[file.path])
    return moves


def record_aside(
    session: Session, site_id: UUID, path: str, title: str, ours: str | None, theirs: str | None
) -> None:
    """Record a version that was saved outside and is not taken over, as a change that was made and taken back."""
    with author(FOLDER):
        made = [FileChange(path, ours, theirs)]
        record_change(session, site_id, operation="outside", title=title, page=path, files=made)
        back = [FileChange(path, theirs, ours)]
        record_change(session, site_id, operation="outside", title=f"The desk's {path} kept", page=path, files=back)
