"""A site that is a folder on this machine's disk: both sides hold the same, whoever edits.

What folder and site last agreed on is kept for each file. A file that only one side changed since goes to the other;
where both did, their edits are brought together if they touch other lines, and are the author's to decide otherwise.
"""

from __future__ import annotations

import hashlib
import socket
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from pathlib import Path
from typing import Literal
from uuid import UUID

from sqlalchemy.orm import Session

from signpost.core.findings.site_file import read_site_file
from signpost.core.site.site import SITE_FILE
from signpost.core.text.errors import InputError, RequestError
from signpost.core.text.merging import merge
from signpost.desk.deeds import record_change
from signpost.desk.errors import NotThereError
from signpost.desk.indexing import bring_up_to_date
from signpost.desk.intake import FILE_BYTES, INDEXED_AT_ONCE, SITE_FILES
from signpost.desk.loading import load_record
from signpost.folders.scanning import Seen, Stamp, scan
from signpost.folders.writing import ChangedMeanwhileError, Step, clear_leftovers, hash_at, write_all
from signpost.store import folders as kept
from signpost.store import repositories as store
from signpost.store.database import Database
from signpost.store.records import ConflictRecord, FileChange, FolderFileRecord, FolderRecord, SiteRecord

#: How often folder and site are compared at most, where one of them changes meanwhile.
_ROUNDS = 3


@dataclass(frozen=True, slots=True)
class Synced:
    """What came of bringing folder and site together."""

    taken: int = 0  # files that the site took from the folder
    written: int = 0  # files that were written to the folder
    conflicts: int = 0  # files that wait for their author's decision
    away: str = ""  # why the folder cannot be used; "" where it can


@dataclass(frozen=True, slots=True)
class ConflictView:
    """A file that was edited here and in the folder, in the same place."""

    path: str
    base: str | None  # the texts, for reading; None for a file that is not there
    desk: str | None
    folder: str | None


@dataclass(frozen=True, slots=True)
class FolderView:
    """The folder of a site."""

    folder: str
    away: str
    conflicts: tuple[ConflictView, ...]


def this_host() -> str:
    """Return the name of this machine, as folders are told apart by it."""
    return socket.gethostname()


# ---------------------------------------------------------------- linking


def allowed_folder(path: str, allowed: Sequence[str]) -> Path:
    """Return a folder by its path. Raises RequestError for none, or one outside those that are allowed."""
    root = Path(path).expanduser()
    if not root.is_absolute() or not root.is_dir():
        raise RequestError(f"{path} is not a folder of this computer. Write its full path.")
    root = root.resolve()
    if not any(root.is_relative_to(Path(one).resolve()) and root != Path("/") for one in allowed):
        raise RequestError(
            f"{root} is outside the folders that may be opened. Start the server with SIGNPOST_FOLDERS={root.parent}."
            if allowed
            else "This server opens no folders, since others can reach it. Bring the files in instead."
        )
    return root


def link_folder(database: Database, path: str, allowed: Sequence[str]) -> SiteRecord:
    """Return the site that is a folder: a new one, or the one that is linked to it already.

    Its files are taken in at once; pages are read when somebody looks at them. Raises RequestError for a folder that
    may not be opened, or that is within a linked one or around it.
    """
    root = allowed_folder(path, allowed)
    with database.transaction() as session:
        for one in kept.load_folders(session, this_host()):
            other = Path(one.folder)
            if other == root:
                return load_record(session, one.site_id)
            if root.is_relative_to(other) or other.is_relative_to(root):
                raise RequestError(f"{other} is open as a site already, and one of the two is within the other.")
        site = store.add_site(session, root.name)
        kept.add_folder(session, site.site_id, str(root), this_host())
    result = sync_folder(database, site.site_id)
    if result.away:
        with database.transaction() as session:
            store.delete_site(session, site.site_id)
        raise RequestError(result.away)
    return site


def unlink_folder(database: Database, site_id: UUID) -> None:
    """Let a site be a copy of its own again; folder and site stay as they are."""
    with database.transaction() as session:
        load_record(session, site_id, lock="alone")
        kept.delete_folder(session, site_id)


def folders_here(database: Database) -> list[FolderRecord]:
    """Return the folders of this machine that sites are linked to."""
    with database.transaction() as session:
        return kept.load_folders(session, this_host())


def files_revision(database: Database, site_id: UUID) -> int:
    """Return a number that goes up whenever files of a site are others; -1 for a site that is not there."""
    with database.transaction() as session:
        site = store.load_site(session, site_id)
    return -1 if site is None else site.files_revision


def view_folder(database: Database, site_id: UUID) -> FolderView | None:
    """Return the folder of a site, with what waits for a decision; None for a site that has none."""
    with database.transaction() as session:
        load_record(session, site_id)
        link = kept.load_folder(session, site_id)
        if link is None:
            return None
        conflicts = kept.load_conflicts(session, site_id)
        now = store.load_hashes(session, site_id, conflicts)
        hashes = {one for conflict in conflicts.values() for one in (conflict.base_sha256, conflict.folder_sha256)}
        blobs = store.load_blobs(session, site_id, {one for one in (*hashes, *now.values()) if one})
    views = (
        ConflictView(
            path,
            _readable(blobs, one.base_sha256),
            _readable(blobs, now.get(path)),
            _readable(blobs, one.folder_sha256),
        )
        for path, one in sorted(conflicts.items())
    )
    return FolderView(link.folder, link.away, tuple(views))


def _readable(blobs: Mapping[str, bytes], sha256: str | None) -> str | None:
    return None if sha256 is None else blobs[sha256].decode("utf-8", "replace")


def find_folders(under: str, allowed: Sequence[str]) -> list[str]:
    """Return the folders within one that may be opened, by their full paths; those allowed where `under` is ""."""
    if not under:
        return [str(Path(one).resolve()) for one in allowed]
    root = allowed_folder(under, allowed)
    try:
        found = [one for one in root.iterdir() if one.is_dir() and not one.is_symlink() and one.name[0] != "."]
    except OSError as error:
        raise RequestError(f"{root} cannot be read: {error.strerror}.") from error
    return sorted(str(one) for one in found)


# ---------------------------------------------------------------- bringing both together


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
                result = Synced(result.taken + taken, result.written + (written or 0), conflicts)
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


def _write(database: Database, site_id: UUID, root: Path) -> int | None:
    """Write to the folder what changed in the site; return how many files, or None where one changed meanwhile."""
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
    return _carry_out(database, site_id, root, wanted) if wanted else 0


def _carry_out(
    database: Database, site_id: UUID, root: Path, wanted: Mapping[str, tuple[str | None, str | None]]
) -> int | None:
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
    return len(steps)


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


# ---------------------------------------------------------------- deciding


def decide(database: Database, site_id: UUID, path: str, side: Literal["desk", "folder"]) -> Synced:
    """Settle a file that was edited on both sides: the version of one side counts, the other stays in the changes.

    Raises NotThereError where nothing waits to be decided there.
    """
    with database.transaction() as session:
        load_record(session, site_id, lock="alone")
        conflict = kept.load_conflicts(session, site_id).get(path)
        link = kept.load_folder(session, site_id)
        if conflict is None or link is None:
            raise NotThereError(f"Nothing is to be decided about “{path}” any more.")
        ours = store.load_hashes(session, site_id, [path]).get(path)
        theirs = conflict.folder_sha256
        outside = [FileChange(path, ours, theirs)]
        record_change(
            session, site_id, operation="outside", title=f"Edited outside: {path}", page=path, files=outside
        )
        if side == "desk":
            back = [FileChange(path, theirs, ours)]
            title = f"The desk's {path} kept"
            record_change(session, site_id, operation="outside", title=title, page=path, files=back)
        file = Path(link.folder) / path
        about = file.stat() if theirs is not None and file.is_file() else None
        agreed = None if theirs is None else FolderFileRecord(theirs, about.st_size if about else 0, 0)
        kept.save_agreed(session, site_id, {path: agreed})
        others = [one for one in kept.load_conflicts(session, site_id).values() if one.path != path]
        kept.save_conflicts(session, site_id, others)
        bring_up_to_date(session, site_id)
    return sync_folder(database, site_id)
