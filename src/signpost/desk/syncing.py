"""A site and its folder brought together: both hold the same, whoever edits.

What both last agreed on is kept for each file. A file that only one side changed since goes to the other; where both
did, their edits are brought together if they touch other lines, and are the author's to decide otherwise.
"""

from __future__ import annotations

import hashlib
import logging
import socket
from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any, TypeVar
from uuid import UUID

from sqlalchemy.orm import Session

from signpost.core.findings.site_file import read_site_file
from signpost.core.site.site import SITE_FILE
from signpost.core.text.errors import InputError
from signpost.core.text.merging import merge
from signpost.desk.deeds import record_change
from signpost.desk.indexing import bring_up_to_date
from signpost.desk.intake import FILE_BYTES, INDEXED_AT_ONCE, SITE_FILES
from signpost.desk.loading import load_record
from signpost.desk.settings import read_settings
from signpost.folders import version_control
from signpost.folders.scanning import Seen, Stamp, scan
from signpost.folders.writing import ChangedMeanwhileError, Step, clear_leftovers, hash_at, write_all
from signpost.store import folders as kept
from signpost.store import repositories as store
from signpost.store.database import Database, again_after_deadlock
from signpost.store.records import ConflictRecord, FileChange, FolderFileRecord

#: How often folder and site are compared at most, where one of them changes meanwhile.
_ROUNDS = 3
_log = logging.getLogger(__name__)

T = TypeVar("T")


@dataclass(frozen=True, slots=True)
class Synced:
    """What came of bringing folder and site together."""

    taken: int = 0  # files that the site took from the folder
    written: int = 0  # files that were written to the folder
    conflicts: int = 0  # files that wait for their author's decision
    away: str = ""  # why the folder cannot be used; "" where it can


def this_host() -> str:
    """Return the name of this machine, as folders are told apart by it."""
    return socket.gethostname()


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
    with database.transaction() as guard:
        link = kept.load_folder(guard, site_id)
        if link is None or link.host != this_host():
            return Synced()
        kept.hold_folder(guard, site_id)
        result = Synced()
        root = Path(link.folder)
        try:
            _finish(database, site_id, root)
            for _ in range(_ROUNDS):
                seen = _look(database, site_id, root)
                taken, conflicts = _take(database, site_id, root, seen)
                written = _write(database, site_id, root)
                result = Synced(result.taken + taken, result.written + len(written or ()), conflicts)
                if written:
                    _commit(database, site_id, root, written)
                if written is not None:
                    break
        except (InputError, OSError) as error:
            result = Synced(result.taken, result.written, result.conflicts, _away(root, error))
        if result.away != link.away:
            kept.note_away(guard, site_id, result.away)
        return result


def _away(root: Path, error: Exception) -> str:
    if isinstance(error, OSError):
        return f"{root} cannot be written: {error.strerror or error}."
    return str(error)


def _look(database: Database, site_id: UUID, root: Path) -> Seen:
    """Return what the folder has. Raises InputError for one that is away: its files were not deleted then."""
    with database.transaction() as session:
        known = {path: Stamp(*file) for path, file in kept.load_agreed(session, site_id).items()}
    if not root.is_dir():
        raise InputError(f"{root} is not there. Put the disk in, or connect to the share.")
    seen = scan(root, known, _patterns(root), most_files=SITE_FILES, most_bytes=FILE_BYTES)
    if known and not seen.files and not any(root.iterdir()):
        raise InputError(f"{root} is empty. If its files were deleted on purpose, unlink the folder.")
    return seen


def _patterns(root: Path) -> tuple[str, ...]:
    """Return what the site's own file says is no part of the site."""
    try:
        return read_site_file((root / SITE_FILE).read_text(encoding="utf-8")).ignored
    except (OSError, UnicodeDecodeError, InputError):
        return ()


@dataclass(slots=True)
class _Taking:
    """What the site takes from its folder."""

    agreed: dict[str, FolderFileRecord | None] = field(default_factory=dict)
    changes: dict[str, tuple[str | None, bytes | None]] = field(default_factory=dict)  # hash before, and bytes after
    conflicts: list[ConflictRecord] = field(default_factory=list)


def _take(database: Database, site_id: UUID, root: Path, seen: Seen) -> tuple[int, int]:
    """Take what changed in the folder into the site; return how many files that are, and how many are in conflict."""
    passed = {path for path, _ in seen.passed_over}
    with database.transaction() as session:
        load_record(session, site_id, lock="alone")
        known = {file.path: file.sha256 for file in store.load_files(session, site_id)}
        agreed = kept.load_agreed(session, site_id)
        before = kept.load_conflicts(session, site_id)
        taking = _Taking()
        made_here = {path for path, sha256 in known.items() if sha256 is not None and path not in agreed}
        for path in sorted({*seen.files, *agreed, *before, *made_here} - passed):
            _compare(session, site_id, root, path, seen.files.get(path), known.get(path), agreed.get(path), taking)
        if not agreed and not any(known.values()) and taking.changes:  # the first time
            store.bring_in(session, site_id, {path: data or b"" for path, (_, data) in taking.changes.items()})
        elif taking.changes:
            _record(session, site_id, taking.changes)
        kept.save_agreed(session, site_id, taking.agreed)
        if [*before.values()] != taking.conflicts:
            kept.save_conflicts(session, site_id, taking.conflicts)
        if 0 < len(taking.changes) <= INDEXED_AT_ONCE:
            bring_up_to_date(session, site_id)
    return len(taking.changes), len(taking.conflicts)


def _compare(
    session: Session,
    site_id: UUID,
    root: Path,
    path: str,
    there: Stamp | None,
    ours: str | None,
    agreed: FolderFileRecord | None,
    taking: _Taking,
) -> None:
    """Decide what becomes of one file."""
    base = None if agreed is None else agreed.sha256
    theirs = hash_at(root, path) if there is None else there.sha256  # what is ignored may be there all the same
    if theirs == ours:
        if there is not None or theirs is None:
            taking.agreed[path] = None if there is None else FolderFileRecord(there.sha256, there.size, there.mtime)
        return
    if theirs == base:
        return  # the site's own edit, which is written
    data = _read(root, path, theirs)
    if theirs is not None and data is None:
        return  # it is being written just now
    now = None if there is None else FolderFileRecord(there.sha256, there.size, there.mtime)
    if ours == base:
        taking.changes[path] = (ours, data)
        taking.agreed[path] = now
        return
    merged = _merged(session, site_id, base, ours, data)
    if merged is not None:
        taking.changes[path] = (ours, merged)
        taking.agreed[path] = now
        return
    if data is not None:
        store.save_blobs(session, site_id, [data])
    taking.conflicts.append(ConflictRecord(path, base, theirs))


def _read(root: Path, path: str, sha256: str | None) -> bytes | None:
    """Return a file's bytes; None for one that is not there, or not any more as it was seen."""
    if sha256 is None:
        return None
    try:
        data = (root / path).read_bytes()
    except OSError:
        return None
    return data if hashlib.sha256(data).hexdigest() == sha256 else None


def _merged(
    session: Session, site_id: UUID, base: str | None, ours: str | None, theirs: bytes | None
) -> bytes | None:
    """Return the edits of both sides brought together; None where they touch, or one side has no file."""
    if base is None or ours is None or theirs is None:
        return None
    blobs = store.load_blobs(session, site_id, {base, ours})
    if any(b"\0" in data for data in (*blobs.values(), theirs)):
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
    record_change(session, site_id, operation="outside", title=title, page=page, files=files, parameters=parameters)


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
        changes = store.load_changes(session, site_id)
    made = (
        change.title
        for change in changes
        if change.operation != "outside" and not change.undone and any(file.path in paths for file in change.files)
    )
    message = next(made, "Edited at the desk")
    if done is not None and done.deed.startswith(("undid", "made again")):
        message = done.deed[0].upper() + done.deed[1:]
    try:
        if version_control.is_work_tree(root):
            version_control.commit(root, paths, message)
    except InputError as error:
        _log.warning("a change is in the folder, and not committed: %s", error)


def _write(database: Database, site_id: UUID, root: Path) -> list[str] | None:
    """Write to the folder what changed in the site; return which files, or None where one changed meanwhile."""
    with database.transaction() as session:
        load_record(session, site_id, lock="shared")
        known = {file.path: file.sha256 for file in store.load_files(session, site_id)}
        agreed = kept.load_agreed(session, site_id)
        conflicts = kept.load_conflicts(session, site_id)
        wanted: dict[str, tuple[str | None, str | None]] = {}
        for path in sorted({*known, *agreed} - conflicts.keys()):
            base = agreed[path].sha256 if path in agreed else None
            if known.get(path) != base:
                wanted[path] = (base, known.get(path))
        kept.begin_writes(session, site_id, wanted)
    return _carry_out(database, site_id, root, wanted) if wanted else []


def _carry_out(
    database: Database, site_id: UUID, root: Path, wanted: Mapping[str, tuple[str | None, str | None]]
) -> list[str] | None:
    with database.transaction() as session:
        blobs = store.load_blobs(session, site_id, {after for _, after in wanted.values() if after})
    steps = [Step(path, before, blobs[after] if after else None) for path, (before, after) in wanted.items()]
    try:
        write_all(root, steps)
    except (ChangedMeanwhileError, OSError) as error:
        with database.transaction() as session:
            kept.end_writes(session, site_id)
        if isinstance(error, ChangedMeanwhileError):
            return None
        raise
    _agree(database, site_id, root, steps)
    return [step.path for step in steps]


def _agree(database: Database, site_id: UUID, root: Path, steps: Sequence[Step]) -> None:
    """Keep that folder and site agree on what was written."""
    agreed: dict[str, FolderFileRecord | None] = {}
    for step in steps:
        if step.after is None:
            agreed[step.path] = None
            continue
        about = (root / step.path).stat()
        # a file that was edited again in this moment is another one by its time, and is read when it is looked at
        sha256 = hashlib.sha256(step.after).hexdigest()
        same = hash_at(root, step.path) == sha256
        agreed[step.path] = FolderFileRecord(sha256, about.st_size, about.st_mtime_ns if same else 0)
    with database.transaction() as session:
        kept.save_agreed(session, site_id, agreed)
        kept.end_writes(session, site_id)


def _finish(database: Database, site_id: UUID, root: Path) -> None:
    """Finish what was being written when somebody was stopped: a change is in the folder whole then."""
    with database.transaction() as session:
        writes = kept.load_writes(session, site_id)
    if not writes or not root.is_dir():
        return
    clear_leftovers(root)
    with database.transaction() as session:
        blobs = store.load_blobs(session, site_id, {after for _, after in writes.values() if after})
    done = []
    for path, (before, after) in writes.items():
        step = Step(path, before, blobs[after] if after else None)
        try:
            write_all(root, [step])
        except ChangedMeanwhileError:
            continue  # it was edited since: both sides are compared as ever
        done.append(step)
    _agree(database, site_id, root, done)
