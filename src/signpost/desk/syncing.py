"""A site and its folder brought together: both hold the same, whoever edits.

What both last agreed on is kept for each file. A file that only one side changed since goes to the other; where both
did, their edits are brought together if they touch other lines, and are the author's to decide otherwise. Each file
stands for itself: one that cannot be read or written waits, and says why.
"""

from __future__ import annotations

import contextlib
import logging
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from pathlib import Path
from typing import Any, TypeVar
from uuid import UUID

from signpost.core.text.errors import InputError
from signpost.core.text.words import count_of
from signpost.desk.folder_taking import FOLDER, look_at, take_changes
from signpost.desk.folder_writing import settle, write_changes
from signpost.desk.leases import held, this_host
from signpost.desk.loading import load_record
from signpost.desk.settings import read_settings
from signpost.folders import version_control
from signpost.folders.opened import OpenedFolder, UnfitError
from signpost.store import folders as kept
from signpost.store import repositories as store
from signpost.store.database import Database, again_after_deadlock
from signpost.store.limits import SiteFullError
from signpost.store.records import WaitRecord

#: How often folder and site are compared at most, where one of them changes meanwhile.
_ROUNDS = 3
#: How many files that wait are kept at most, each with its reason.
_MOST_WAITS = 500
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
                store.note_deed(session, site_id, "", FOLDER, "is away" if result.away else "is there again")
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
    settle(database, site_id, folder)
    taken = written = conflicts = 0
    waits: dict[str, WaitRecord] = {}
    for _ in range(_ROUNDS):
        waits.clear()
        seen = look_at(database, site_id, folder)
        more, conflicts = take_changes(database, site_id, folder, seen, waits)
        done, changed = write_changes(database, site_id, folder, waits)
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
            store.note_deed(session, site_id, "", FOLDER, deed)
    return Synced(taken, written, conflicts, len(waits))


def _away(root: Path, error: Exception) -> str:
    if isinstance(error, OSError):
        return f"{root} cannot be used: {error.strerror or error}."
    return str(error)


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
        settle(database, site_id, folder, at_last=True)
