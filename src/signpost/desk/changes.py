"""Changes: planned and shown, applied as one, undone and redone."""

from __future__ import annotations

import hashlib
import json
import re
import time
from collections import Counter
from collections.abc import Callable, Collection, Mapping, Sequence
from dataclasses import asdict, dataclass
from functools import partial
from uuid import UUID, uuid4

from sqlalchemy.exc import OperationalError
from sqlalchemy.orm import Session

from signpost.core.operations import Operation, Planned, Situation
from signpost.core.operations.findings import FixFindings
from signpost.core.operations.pages import Type
from signpost.core.site.plans import Question, SitePlan
from signpost.core.text.diffs import FileDiff, unified_diff
from signpost.core.text.errors import RequestError
from signpost.desk.deeds import note_deed, record_change
from signpost.desk.drafts import brought_up
from signpost.desk.errors import ConflictError, NotThereError, UnsureError
from signpost.desk.findings import faulty_pages, find_unchecked, keep_findings
from signpost.desk.loading import LoadedSite, load_record
from signpost.desk.measures import Measures
from signpost.desk.opening import EVERY_PAGE, follow_change, load_locked, opened
from signpost.desk.progress import tell
from signpost.desk.settings import dump_settings, read_settings
from signpost.store import repositories as store
from signpost.store.database import Database
from signpost.store.records import ChangeRecord, FileChange

#: How long a database that went away is waited for before it is asked again, in seconds.
_PATIENCE = (0.0, 0.2, 0.5, 1.0, 2.0)


@dataclass(frozen=True, slots=True)
class PlannedFile:
    """What a plan would do to one file."""

    path: str
    edits: int
    is_new: bool
    moved_from: str | None  # its path before, where it has another one
    diff: str  # unified, for reading: bytes that are no UTF-8 shown as windows-1252
    reasons: tuple[str, ...]  # in the order of the edits, each once


@dataclass(frozen=True, slots=True)
class KindCount:
    """How many edits of a plan have one reason."""

    reason: str
    edits: int


@dataclass(frozen=True, slots=True)
class PlannedChange:
    """A plan as it waits in the tray."""

    title: str
    tag: str  # identifies the plan and the bytes it was made for
    edits: int
    kinds: tuple[KindCount, ...]  # the edits by what they are for, the most first
    files: tuple[PlannedFile, ...]
    notes: tuple[str, ...]
    question: Question | None  # what is to be answered before it can be applied


@dataclass(frozen=True, slots=True)
class _Outcome:
    planned: Planned
    before: Mapping[str, bytes | None]
    after: Mapping[str, bytes | None]
    tag: str

    def file(self, path: str) -> PlannedFile:
        """Return what the plan would do to one file."""
        plan = self.planned.plan
        old = next((old for old, new in plan.moves.items() if new == path), None)
        edits = plan.edits.get(old or path)
        diff = FileDiff(path, self.before[old or path], self.after[path], old)
        return PlannedFile(
            path=path,
            edits=len(edits) if edits else int(old is None),
            is_new=path in plan.new_files and self.before[path] is None,
            moved_from=old,
            diff=readable(unified_diff([diff])),
            reasons=tuple(dict.fromkeys(edit.reason for edit in edits.edits)) if edits else (),
        )


def plan_change(database: Database, site_id: UUID, page: str, operation: Operation) -> PlannedChange:
    """Return what an operation would do; nothing is written."""
    with opened(database, site_id, checked=EVERY_PAGE if _fixes_all(operation) else ()) as loaded:
        outcome = _work_out(loaded, page, operation)
    plan = outcome.planned.plan
    here, moved = plan.moves.get(page, page), set(plan.moves.values())
    shown = (path for path in outcome.after if path not in plan.moves or outcome.after[path] is not None)
    order = sorted(shown, key=lambda path: (path not in moved, path != here, path))
    files = tuple(outcome.file(path) for path in order)
    title, tag = outcome.planned.title, outcome.tag
    return PlannedChange(title, tag, plan.count, _kinds(plan), files, plan.notes, plan.question)


#: What a reason says of the one thing that it is about.
_NAMED = re.compile(r"\s*“[^”]*”")


def _kinds(plan: SitePlan) -> tuple[KindCount, ...]:
    """Return how many edits of a plan have which reason."""
    found = Counter(_NAMED.sub("", edit.reason) for edits in plan.edits.values() for edit in edits.edits)
    for words, number in (
        ("new file", len(plan.new_files)),
        ("file deleted", len(plan.gone)),
        ("file moved", len(plan.moves)),
    ):
        found[words] += number
    return tuple(KindCount(reason, number) for reason, number in found.most_common() if number)


def _fixes_all(operation: Operation) -> bool:
    """Return whether an operation asks for what is wrong on any page."""
    return isinstance(operation, FixFindings) and operation.everywhere


def apply_change(
    database: Database,
    site_id: UUID,
    page: str,
    operation: Operation,
    tag: str,
    key: UUID | None = None,
) -> ChangeRecord:
    """Return the change made of the plan that `tag` identifies.

    `key` is the request's own: asked for once more, the change that it made is returned. Raises ConflictError, and
    writes nothing, where the same request would no longer do what was shown; RequestError where the key was another
    request's. Where the database goes away, it is asked, once it is back, whether the change was kept; raises
    UnsureError where it stays away.
    """
    key = key or uuid4()
    return _surely(database, site_id, key, partial(_apply, database, site_id, page, operation, tag, key))


def _surely(database: Database, site_id: UUID, key: UUID, write: Callable[[], ChangeRecord]) -> ChangeRecord:
    """Return what was written; where the connection broke meanwhile, it is found out whether it was."""
    try:
        return write()
    except OperationalError as error:
        if not error.connection_invalidated:
            raise
        done = _find_out(database, site_id, key)
        if done is None:
            raise
        return done


def find_change(database: Database, site_id: UUID, key: UUID) -> ChangeRecord:
    """Return the change that the request of this key made, undid or made again. Raises NotThereError for none."""
    with database.transaction() as session:
        load_record(session, site_id, lock="alone")  # whoever still writes it is waited for
        asked = store.find_request(session, site_id, key)
        found = None if asked is None else store.load_change(session, site_id, asked.number)
    if found is None:
        raise NotThereError("No change was made by that request; nothing was written.")
    return found


def _done_before(session: Session, site_id: UUID, key: UUID, digest: str) -> ChangeRecord | None:
    """Return the change that this very request was about already. Raises RequestError for another request's key."""
    asked = store.find_request(session, site_id, key)
    if asked is None:
        return None
    if asked.digest not in ("", digest):
        raise RequestError("This Idempotency-Key came with another request before. Send each with its own.")
    return store.load_change(session, site_id, asked.number)


def _digest(*asked: object) -> str:
    return hashlib.sha256(json.dumps(asked, sort_keys=True, default=str).encode()).hexdigest()


def _find_out(database: Database, site_id: UUID, key: UUID) -> ChangeRecord | None:
    """Return the change that was kept although the connection broke, or None. Raises UnsureError."""
    for wait in _PATIENCE:
        time.sleep(wait)
        try:
            return find_change(database, site_id, key)
        except NotThereError:
            return None
        except OperationalError:
            continue
    raise UnsureError(
        "The database went away while the change was written. Once it answers, the list of changes shows whether it "
        "was."
    )


def _apply(
    database: Database,
    site_id: UUID,
    page: str,
    operation: Operation,
    tag: str,
    key: UUID,
) -> ChangeRecord:
    with database.transaction() as session:
        load_record(session, site_id, lock="alone")
        said = asdict(operation)
        digest = _digest(page, operation.does, said, tag)
        done = _done_before(session, site_id, key, digest)
        if done is not None:
            return done
        loaded = load_locked(session, site_id)
        if _fixes_all(operation):
            keep_findings(loaded, find_unchecked(loaded))
        outcome = _work_out(loaded, page, operation)
        if outcome.tag != tag:
            raise ConflictError(
                "A page changed after these edits were shown, so nothing was written. Review the new edits."
            )
        if outcome.planned.plan.question is not None:
            raise RequestError(outcome.planned.plan.question.words)
        if not outcome.after:
            raise ConflictError("There is nothing to change.")
        store.save_blobs(session, site_id, [data for data in outcome.after.values() if data is not None])
        files = [FileChange(path, _hash(outcome.before[path]), _hash(data)) for path, data in outcome.after.items()]
        change = record_change(
            session,
            site_id,
            operation=operation.does,
            title=outcome.planned.title,
            page=page,
            parameters={} if operation.is_long else said,
            edits=outcome.planned.plan.count,
            files=files,
        )
        store.note_request(session, site_id, key, change.number, digest)
        if outcome.planned.plan.moves:
            carried = read_settings(loaded.record.settings).carried(outcome.planned.plan.moves)
            store.save_settings(session, site_id, dump_settings(carried))
        follow_change(session, site_id, outcome.after)
        return change


def undo_change(database: Database, site_id: UUID, number: int, key: UUID | None = None) -> ChangeRecord:
    """Return the change that was undone: every file it touched is again what it was before, to the byte.

    `key` is the request's own, as for `apply_change`.
    """
    return _turn_surely(database, site_id, number, key or uuid4(), undo=True)


def redo_change(database: Database, site_id: UUID, number: int, key: UUID | None = None) -> ChangeRecord:
    """Return the change that was made again. `key` is the request's own, as for `apply_change`."""
    return _turn_surely(database, site_id, number, key or uuid4(), undo=False)


@dataclass(frozen=True, slots=True)
class Listed:
    """A stretch of a site's changes, the newest first."""

    changes: tuple[tuple[ChangeRecord, bool], ...]  # each with whether it can be undone or redone now
    more: bool  # whether there are older ones
    undoable: ChangeRecord | None  # what “Undo” undoes
    redoable: ChangeRecord | None  # what “Redo” makes again


#: How many changes are looked through at most for one that can be undone or redone.
_LOOKED_THROUGH = 200


def show_changes(
    database: Database, site_id: UUID, before: int | None = None, limit: int = 50, path: str = ""
) -> Listed:
    """Return as many changes of a site as `limit` says, of those older than `before`; or those of one file."""
    with database.snapshot() as session:
        load_record(session, site_id)
        found = store.load_changes(session, site_id, before=before, limit=limit + 1, path=path)
        listed = _turnable(session, site_id, found[:limit])
        newest = listed if before is None and not path else ()
        undoable = next((change for change, can in newest if can and not change.undone), None)
        if undoable is None:
            latest = store.load_changes(session, site_id, limit=_LOOKED_THROUGH)
            undoable = next((one for one, can in _turnable(session, site_id, latest) if can and not one.undone), None)
        undone = _turnable(session, site_id, store.load_undone(session, site_id, _LOOKED_THROUGH))
        redoable = next((change for change, can in reversed(undone) if can), None)
        return Listed(listed, len(found) > limit, undoable, redoable)


def list_changes(database: Database, site_id: UUID) -> list[tuple[ChangeRecord, bool]]:
    """Return all changes of a site, the newest first, each with whether it can be undone or redone now."""
    with database.snapshot() as session:
        load_record(session, site_id)
        return list(_turnable(session, site_id, store.load_changes(session, site_id)))


def _turnable(
    session: Session, site_id: UUID, changes: Sequence[ChangeRecord]
) -> tuple[tuple[ChangeRecord, bool], ...]:
    there = store.load_hashes(session, site_id, {file.path for change in changes for file in change.files})
    return tuple((change, not _obstacles(change, there)) for change in changes)


def _turn_surely(database: Database, site_id: UUID, number: int, key: UUID, *, undo: bool) -> ChangeRecord:
    return _surely(database, site_id, key, partial(_turn, database, site_id, number, key, undo=undo))


def _turn(database: Database, site_id: UUID, number: int, key: UUID, *, undo: bool) -> ChangeRecord:
    with database.transaction() as session:
        load_record(session, site_id, lock="alone")
        digest = _digest("undo" if undo else "redo", number)
        done = _done_before(session, site_id, key, digest)
        if done is not None:
            return done
        change = store.load_change(session, site_id, number)
        if change is None:
            raise NotThereError("This change is not there any more. Reload the list of changes.")
        if change.undone is undo:
            raise ConflictError(f"“{change.title}” is {'undone' if undo else 'in force'} already.")
        there = store.load_hashes(session, site_id, [file.path for file in change.files])
        obstacles = _obstacles(change, there)
        if obstacles:
            raise ConflictError(_in_the_way(session, site_id, change, obstacles, undo=undo))
        hashes = {file.path: file.before_sha256 if undo else file.after_sha256 for file in change.files}
        store.set_files(session, site_id, hashes)
        store.set_undone(session, site_id, number, undone=undo)
        store.note_request(session, site_id, key, number, digest)
        note_deed(session, site_id, f"{'undid' if undo else 'made again'} “{change.title}”")
        follow_change(session, site_id, dict.fromkeys(hashes))
        return change


def _in_the_way(
    session: Session, site_id: UUID, change: ChangeRecord, obstacles: Collection[str], *, undo: bool
) -> str:
    """Return why a change cannot be undone or redone: which later changes are in the way, and what to do."""
    found = store.load_changes_of(session, site_id, obstacles, after=change.number, limit=50)
    later = [one.title for one in found]
    changed = f"{', '.join(obstacles)} changed since"
    if later:
        shown = ", ".join(f"“{title}”" for title in later[:3]) + (f" and {len(later) - 3} more" if later[3:] else "")
        changed += f", by {shown}"
    do = f"{'Undo' if undo else 'Redo'} the changes in order."
    if undo and change.operation == "parts":
        do = f"Undo those first, or join the parts of {change.page} instead: that keeps what you edited since."
    return f"“{change.title}” cannot be {'undone' if undo else 'redone'}: {changed}. {do}"


def _obstacles(change: ChangeRecord, hashes: Mapping[str, str]) -> list[str]:
    """Return the files that are not as the change left them, or, where it is undone, as it found them.

    `hashes` are those of the files that are there.
    """
    return [
        file.path
        for file in change.files
        if hashes.get(file.path) != (file.before_sha256 if change.undone else file.after_sha256)
    ]


def _work_out(loaded: LoadedSite, page: str, operation: Operation) -> _Outcome:
    if isinstance(operation, Type):
        operation = brought_up(loaded, page, operation)
    here = Situation(
        loaded.site,
        loaded.page(page),
        loaded.settings.preferences,
        lambda window: Measures(loaded, window).lengths,
        partial(faulty_pages, loaded),
        tell,
    )
    planned = operation.plan(here)
    plan = planned.plan
    before: dict[str, bytes | None] = {path: loaded.site.source(path).data for path in plan.edits}
    others = {path: loaded.files[path].sha256 or "" for path in (*plan.gone, *plan.moves) if path not in before}
    blobs = store.load_blobs(loaded.session, loaded.record.site_id, set(others.values()))
    before |= {path: blobs[sha256] for path, sha256 in others.items()}
    after = plan.outcome(loaded.site.source, lambda path: before[path] or b"")
    before = {**dict.fromkeys(after), **before}
    facts = [[path, _hash(before[path]), _hash(after[path])] for path in sorted(after)]
    tag = hashlib.sha256(json.dumps([operation.does, page, facts]).encode()).hexdigest()
    return _Outcome(planned, before, after, tag)


def _hash(data: bytes | None) -> str | None:
    return None if data is None else hashlib.sha256(data).hexdigest()


def readable(diff: bytes) -> str:
    """Return a diff as text for the eye: each line in UTF-8, or else in windows-1252."""
    lines = []
    for line in diff.split(b"\n"):
        try:
            lines.append(line.decode())
        except UnicodeDecodeError:
            lines.append(line.decode("cp1252", "replace"))
    return "\n".join(lines).replace("\r", "")
