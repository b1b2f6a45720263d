"""What changed in a site, written to its linked folder; what that displaced is seen to."""

from __future__ import annotations

import logging
from uuid import UUID

from signpost.desk.deeds import author, record_change
from signpost.desk.folder_taking import FOLDER, bring_edits_together, record_aside, wait_for
from signpost.desk.indexing import bring_up_to_date
from signpost.desk.intake import FILE_BYTES
from signpost.desk.loading import load_record
from signpost.folders import writing
from signpost.folders.opened import OpenedFolder
from signpost.folders.writing import ChangedMeanwhileError, Step
from signpost.store import folders as kept
from signpost.store import repositories as store
from signpost.store.database import Database
from signpost.store.records import FileChange, FolderFileRecord, WaitRecord, WriteRecord

_log = logging.getLogger(__name__)


def write_changes(
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
            _agree(database, site_id, write, step.after)
            done.append(write)
        except ChangedMeanwhileError:
            changed = True
            _doubt(database, site_id, write.path, agreed.get(write.path))
        except OSError as error:  # what is beside may be the author's by now, and is looked at below
            waits[write.path] = wait_for(write.path, "desk", error)
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


def _agree(database: Database, site_id: UUID, write: WriteRecord, after: bytes | None) -> None:
    """Keep that folder and site agree on what was written."""
    with database.transaction() as session:
        kept.note_in_place(session, site_id, write, len(after or b""))


def settle(database: Database, site_id: UUID, folder: OpenedFolder, *, at_last: bool = False) -> None:
    """See to what was written before, or was being written when somebody was stopped.

    Only names that were noted are ours, whatever else begins like them. `at_last`, nothing is left beside.
    """
    with database.transaction() as session:
        writes = kept.load_writes(session, site_id)
        agreed = kept.load_agreed(session, site_id)
    for write in writes:
        base = agreed[write.path].sha256 if write.path in agreed else None
        if not write.agreed and base == write.before_sha256 and _is_in_place(folder, write):
            _agree(database, site_id, write, _step(database, site_id, write).after)
    settled = [write for write in writes if _is_settled(database, site_id, folder, write, at_last=at_last)]
    with database.transaction() as session:
        kept.end_writes(session, site_id, settled)


def _is_in_place(folder: OpenedFolder, write: WriteRecord) -> bool:
    """Return whether a write got to its place before somebody was stopped, whatever was saved over it since."""
    try:
        writing.mend(folder, Step(write.path, write.before_sha256, None, write.beside))
        if folder.hash(write.path) == write.after_sha256:
            return True
        before = write.before_sha256  # what was displaced has the name that the write had
        return before is not None and folder.hash_beside(write.path, write.beside) == before
    except OSError:
        return False


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
        merged = bring_edits_together(session, site_id, write.before_sha256, ours, theirs)
        late, both = store.save_blobs(session, site_id, [theirs, merged or theirs])
        if merged is not None and both == ours:
            return
        title = f"Saved outside while the desk wrote: {path}"
        if merged is None:
            record_aside(session, site_id, path, title, ours, late)
        else:
            with author(FOLDER):
                files = [FileChange(path, ours, both)]
                record_change(session, site_id, operation="outside", title=title, page=path, files=files)
        bring_up_to_date(session, site_id)
