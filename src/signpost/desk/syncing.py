"""A site and its folder brought together: both hold the same, whoever edits.

What both last agreed on is kept for each file. A file that only one side changed since goes to the other; where both
did, their edits are brought together if they touch other lines, and are the author's to decide otherwise. Each file
stands for itself: one that cannot be read or written waits, and says why.
"""

from __future__ import annotations

import contextlib
import errno
import hashlib
import logging
from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any, Literal, TypeVar
from uuid import UUID

from sqlalchemy.orm import Session

from signpost.core.findings.site_file import read_site_file
from signpost.core.site.site import SITE_FILE
from signpost.core.text.errors import InputError
from signpost.core.text.merging import merge
from signpost.desk.deeds import author, record_change
from signpost.desk.holding import held, this_host
from signpost.desk.indexing import bring_up_to_date
from signpost.desk.intake import FILE_BYTES, INDEXED_AT_ONCE, SITE_FILES
from signpost.desk.loading import load_record
from signpost.desk.operations.asked import count_of
from signpost.desk.settings import read_settings
from signpost.folders import version_control, writing
from signpost.folders.opened import OpenedFolder, UnfitError
from signpost.folders.scanning import Seen, Stamp, scan
from signpost.folders.writing import ChangedMeanwhileError, Step
from signpost.store import folders as kept
from signpost.store import repositories as store
from signpost.store.database import Database, again_after_deadlock
from signpost.store.limits import SiteFullError
from signpost.store.records import ConflictRecord, FileChange, FolderFileRecord, WaitRecord, WriteRecord

#: How often folder and site are compared at most, where one of them changes meanwhile.
_ROUNDS = 3
#: How many files that wait are kept at most, each with its reason.
_MOST_WAITS = 500
#: How many bytes of the site's own file are read at most.
_SITE_FILE_BYTES = 256 * 1024
#: Whose deed it is what the folder alone tells.
_FOLDER = "The folder"
_log = logging.getLogger(__name__)

T = TypeVar("T")


@dataclass(frozen=True, slots=True)
class Synced:
    """What came of bringing folder and site together."""

    taken: int = 0  # files that the site took from the folder
    written: int = 0  # files that were written to the folder
    conflicts: int = 0  # files that wait for their author's decision
    waiting: int = 0  # files that cannot be read or written for now
    away: str = ""  # why the folder cannot be used; "" where it can


# ---------------------------------------------------------------- bringing both together


def change_with_folder(database: Database, site_id: UUID, use_case: Callable[..., T], *args: Any) -> T:
    """Return what a use case returns that changes a site; before and after it, site and folder are brought together.

    Before, so that nothing is written over that was saved in the folder meanwhile; after, so that it has the change.
    """
    with database.transaction() as session:
        has_folder = kept.load_folder(session, site_id) is not None
    if not has_folder:
        return use_case(database, site_id, *args)
    again_after_deadlock(sync_folder, database, site_id)
    found = again_after_deadlock(use_case, database, site_id, *args)
    again_after_deadlock(sync_folder, database, site_id)
    return found


def sync_folder(database: Database, site_id: UUID) -> Synced:
    """Bring a site and its folder together, and return what came of it; a site without one is left as it is."""
    with database.transaction() as session:
        link = kept.load_folder(session, site_id)
    if link is None or link.host != this_host():
        return Synced()
    with held(database, site_id, "folder"):
        try:
            with open_root(Path(link.folder)) as folder:
                result = _bring_together(database, site_id, folder)
        except (InputError, OSError, SiteFullError) as error:
            result = Synced(away=_away(Path(link.folder), error))
        if result.away != link.away:
            with database.transaction() as session:
                kept.note_away(session, site_id, result.away)
                store.note_deed(session, site_id, "", _FOLDER, "is away" if result.away else "is there again")
    return result


def open_root(root: Path) -> OpenedFolder:
    """Return a linked folder, held open. Raises InputError where it is not there, or behind a link."""
    try:
        return OpenedFolder(root)
    except UnfitError as error:
        raise InputError(
            f"{root} is a link now, or behind one, and links are not followed. Unlink it, and open the folder itself."
        ) from error
    except (FileNotFoundError, NotADirectoryError) as error:
        raise InputError(f"{root} is not there. Put the disk in, or connect to the share.") from error


def _bring_together(database: Database, site_id: UUID, folder: OpenedFolder) -> Synced:
    """Compare and write until both hold the same, but for what waits."""
    _settle(database, site_id, folder)
    taken = written = conflicts = 0
    waits: dict[str, WaitRecord] = {}
    for _ in range(_ROUNDS):
        waits.clear()
        seen = _look(database, site_id, folder)
        more, conflicts = _take(database, site_id, folder, seen, waits)
        done, changed = _write(database, site_id, folder, waits)
        taken, written = taken + more, written + len(done)
        if done:
            _commit(database, site_id, folder.root, done)
        if not changed:
            break
    with database.transaction() as session:
        found = [waits[path] for path in sorted(waits)[:_MOST_WAITS]]
        if {*found} != {*kept.load_waits(session, site_id)}:  # databases put letters in orders of their own
            kept.save_waits(session, site_id, found)
            deed = f"has {count_of(len(found), 'file')} waiting" if found else "has nothing waiting any more"
            store.note_deed(session, site_id, "", _FOLDER, deed)
    return Synced(taken, written, conflicts, len(waits))


def _away(root: Path, error: Exception) -> str:
    if isinstance(error, OSError):
        return f"{root} cannot be used: {error.strerror or error}."
    return str(error)


#: What can be done about a file that the system refuses, by what it says (errno(3)).
_REMEDIES = {
    errno.EACCES: "Allow it in the file's or the folder's permissions.",
    errno.EPERM: "Allow it in the file's or the folder's permissions.",
    errno.EROFS: "The disk is mounted for reading alone; mount it for writing.",
    errno.ENOSPC: "Make room on the disk.",
    errno.EDQUOT: "Make room on the disk.",
    errno.ENAMETOOLONG: "Give it a shorter name at the desk.",
}


def _wait(path: str, side: Literal["desk", "folder"], error: OSError) -> WaitRecord:
    """Return a file that waits for what the system refuses."""
    known = _REMEDIES.get(error.errno or 0, "See what is there.")
    remedy = error.remedy if isinstance(error, UnfitError) else known
    return WaitRecord(path, side, error.strerror or str(error), remedy)


def _look(database: Database, site_id: UUID, folder: OpenedFolder) -> Seen:
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


def _take(
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
            store.note_deed(session, site_id, "", _FOLDER, deed)
        if 0 < len(taking.changes) <= INDEXED_AT_ONCE:
            bring_up_to_date(session, site_id)
    return len(taking.changes), len(taking.conflicts)


def _read(
    database: Database, site_id: UUID, folder: OpenedFolder, seen: Seen, waits: dict[str, WaitRecord]
) -> dict[str, _Found]:
    """Return the files of folder and site as they are in the folder, with the bytes of those that differ."""
    for path, error in seen.passed_over.items():
        waits[path] = _wait(path, "folder", error)
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
            waits[path] = _wait(path, "folder", error)
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
        _record_aside(session, site_id, path, f"Saved outside before: {path}", ours, before.folder_sha256)
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
    merged = _merged(session, site_id, base, ours, data)
    if merged is not None:
        taking.changes[path] = (ours, merged)
        taking.agreed[path] = there.stamp
        return
    taking.conflicts.append(ConflictRecord(path, base, theirs))


def _merged(
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
    with author(_FOLDER):
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


# ---------------------------------------------------------------- writing


def _commit(database: Database, site_id: UUID, root: Path, paths: Sequence[str]) -> None:
    """Commit what was written under the name of the change, where its author wants that. What git refuses is left."""
    with database.transaction() as session:
        if not read_settings(load_record(session, site_id).settings).commits:
            return
        done = store.load_deed(session, site_id)
        changes = store.load_changes_of(session, site_id, paths, limit=20)
    made = (change.title for change in changes if change.operation != "outside")
    message = next(made, "Edited at the desk")
    if done is not None and done.deed.startswith(("undid", "made again")):
        message = done.deed[0].upper() + done.deed[1:]
    try:
        if version_control.is_work_tree(root):
            version_control.commit(root, paths, message)
    except InputError as error:
        _log.warning("a change is in the folder, and not committed: %s", error)


def _write(
    database: Database, site_id: UUID, folder: OpenedFolder, waits: dict[str, WaitRecord]
) -> tuple[list[str], bool]:
    """Write to the folder what changed in the site; return which files, and whether one changed there meanwhile.

    What cannot be written goes to `waits`. What is displaced stays beside the files until it is settled (`_settle`).
    """
    with database.transaction() as session:
        load_record(session, site_id, lock="shared")
        known = {file.path: file.sha256 for file in store.load_files(session, site_id)}
        agreed = kept.load_agreed(session, site_id)
        left_out = {*kept.load_conflicts(session, site_id), *waits}
        writes = []
        for path in sorted({*known, *agreed} - left_out):
            base = agreed[path].sha256 if path in agreed else None
            if known.get(path) != base:
                writes.append(WriteRecord(path, base, known.get(path), writing.new_name()))
        kept.begin_writes(session, site_id, writes)
    changed = False
    done: list[WriteRecord] = []
    for write in writes:
        step = _step(database, site_id, write)
        try:
            if not writing.is_done(folder, step):
                writing.stage(folder, step)
                writing.put(folder, step)
            _agree(database, site_id, step)
            done.append(write)
        except ChangedMeanwhileError:
            changed = True
            _doubt(database, site_id, write.path, agreed.get(write.path))
        except OSError as error:  # what is beside may be the author's by now, and is looked at below
            waits[write.path] = _wait(write.path, "desk", error)
    writing.finish(folder, [write.path for write in done])
    settled = [write for write in writes if _is_settled(database, site_id, folder, write)]
    with database.transaction() as session:
        kept.end_writes(session, site_id, settled)
    return [write.path for write in done], changed


def _step(database: Database, site_id: UUID, write: WriteRecord) -> Step:
    with database.transaction() as session:
        blobs = store.load_blobs(session, site_id, [write.after_sha256] if write.after_sha256 else [])
    after = blobs[write.after_sha256] if write.after_sha256 else None
    return Step(write.path, write.before_sha256, after, write.beside)


def _doubt(database: Database, site_id: UUID, path: str, agreed: FolderFileRecord | None) -> None:
    """Have a file read again though its size and time may be as they were."""
    if agreed is not None:
        with database.transaction() as session:
            kept.save_agreed(session, site_id, {path: agreed._replace(changed=0)})


def _agree(database: Database, site_id: UUID, step: Step) -> None:
    """Keep that folder and site agree on what was written."""
    agreed = None
    if step.after is not None:
        # its time is too new to tell whether it is saved again just now: it is read when it is looked at
        agreed = FolderFileRecord(step.after_sha256 or "", len(step.after), 0)
    with database.transaction() as session:
        kept.save_agreed(session, site_id, {step.path: agreed})


def let_go(database: Database, site_id: UUID) -> None:
    """Remove what is ours from a site's folder, before the two go their own ways."""
    with database.transaction() as session:
        link = kept.load_folder(session, site_id)
    if link is None or link.host != this_host():
        return
    with (
        contextlib.suppress(InputError, OSError),
        held(database, site_id, "folder"),
        open_root(Path(link.folder)) as folder,
    ):
        _settle(database, site_id, folder, at_last=True)


def _settle(database: Database, site_id: UUID, folder: OpenedFolder, *, at_last: bool = False) -> None:
    """See to what was written before, or was being written when somebody was stopped.

    Only names that were noted are ours, whatever else begins like them. `at_last`, nothing is left beside.
    """
    with database.transaction() as session:
        writes = kept.load_writes(session, site_id)
    settled = [write for write in writes if _is_settled(database, site_id, folder, write, at_last=at_last)]
    with database.transaction() as session:
        kept.end_writes(session, site_id, settled)


def _is_settled(
    database: Database, site_id: UUID, folder: OpenedFolder, write: WriteRecord, *, at_last: bool = False
) -> bool:
    """See to what is beside a file that was written, and return whether nothing is there any more.

    What was displaced stays as long as an editor may save into it; was something saved there, that is taken in. What
    waits beside its place and never got there is removed: it is written anew.
    """
    step = Step(write.path, write.before_sha256, None, write.beside)
    try:
        writing.mend(folder, step)
        if not at_last and not writing.is_final(folder, step):
            return False
        found = folder.hash_beside(write.path, write.beside)
        if found not in (None, write.before_sha256, write.after_sha256):
            _take_late(database, site_id, write, folder.read_beside(write.path, write.beside, FILE_BYTES))
    except OSError as error:
        _log.warning("what is beside %s cannot be looked at: %s", write.path, error)
        return False
    writing.drop(folder, step)
    if write.after_sha256 is None:
        folder.drop_empty(write.path)
    return True


def _take_late(database: Database, site_id: UUID, write: WriteRecord, theirs: bytes | None) -> None:
    """Take in what was saved into a file in the moment in which it was displaced.

    Where it cannot be brought together with what is there now, it is a change that was made and taken back, so that
    the list of changes has it.
    """
    if theirs is None:
        return
    path = write.path
    with database.transaction() as session:
        load_record(session, site_id, lock="alone")
        ours = store.load_hashes(session, site_id, [path]).get(path)
        merged = _merged(session, site_id, write.before_sha256, ours, theirs)
        late, both = store.save_blobs(session, site_id, [theirs, merged or theirs])
        if merged is not None and both == ours:
            return
        title = f"Saved outside while the desk wrote: {path}"
        if merged is None:
            _record_aside(session, site_id, path, title, ours, late)
        else:
            with author(_FOLDER):
                files = [FileChange(path, ours, both)]
                record_change(session, site_id, operation="outside", title=title, page=path, files=files)
        bring_up_to_date(session, site_id)


def _record_aside(
    session: Session, site_id: UUID, path: str, title: str, ours: str | None, theirs: str | None
) -> None:
    """Record a version that was saved outside and is not taken over, as a change that was made and taken back."""
    with author(_FOLDER):
        made = [FileChange(path, ours, theirs)]
        record_change(session, site_id, operation="outside", title=title, page=path, files=made)
        back = [FileChange(path, theirs, ours)]
        record_change(session, site_id, operation="outside", title=f"The desk's {path} kept", page=path, files=back)
