"""A site that is a folder on this machine's disk: opened, shown, decided about, compared with commits, unlinked."""

from __future__ import annotations

from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass, replace
from pathlib import Path
from typing import Literal
from uuid import UUID

from sqlalchemy.orm import Session

from signpost.core.site.told import Kind
from signpost.core.text.edits import apply_edits, edits_for_typed_text
from signpost.core.text.errors import InputError, RequestError
from signpost.core.text.merging import Piece, merge_pieces, pieces_without_base
from signpost.core.text.source import read_source
from signpost.desk.deeds import author, change_settings, record_change
from signpost.desk.drafts import MergedPiece
from signpost.desk.errors import NotThereError
from signpost.desk.folder_taking import FOLDER
from signpost.desk.indexing import bring_up_to_date
from signpost.desk.leases import this_host
from signpost.desk.loading import load_record
from signpost.desk.settings import read_settings
from signpost.desk.syncing import Synced, let_go, sync_folder
from signpost.folders import version_control
from signpost.folders.version_control import Commit
from signpost.store import folders as kept
from signpost.store import repositories as store
from signpost.store import told
from signpost.store.database import Database
from signpost.store.records import FileChange, FolderFileRecord, FolderRecord, SiteRecord
from signpost.store.rows import storable

#: How many files that differ from the last commit are listed.
_MOST_DIFFERING = 200


@dataclass(frozen=True, slots=True)
class ConflictView:
    """A file that was edited here and in the folder, in the same place."""

    path: str
    base: str | None  # the texts, for reading; None for a file that is not there
    desk: str | None
    folder: str | None
    pieces: tuple[MergedPiece, ...]  # the file in pieces, `ours` being the desk's; none where a side has no text


@dataclass(frozen=True, slots=True)
class WaitView:
    """A file that folder and site cannot bring together for now."""

    path: str
    side: Literal["desk", "folder"]  # whose state waits to be taken over
    why: str
    remedy: str  # what its author can do


@dataclass(frozen=True, slots=True)
class FolderView:
    """The folder of a site."""

    folder: str
    away: str
    conflicts: tuple[ConflictView, ...]
    waits: tuple[WaitView, ...]
    moves: dict[str, str]  # new paths, by their old ones, of files moved outside to which links still lead
    is_work_tree: bool  # of git
    commits: bool  # whether each change is committed
    runs: tuple[str, ...]  # what of its own the repository runs when something is committed
    differing: tuple[str, ...]  # files that are not as in the last commit, where it is a work tree


# ---------------------------------------------------------------- linking


def named_folder(path: str) -> Path:
    """Return a folder by its path as somebody writes it, `~` for their own. Raises RequestError for what is none."""
    try:
        root = Path(path).expanduser()
        root.is_dir()
    except (OSError, RuntimeError, ValueError) as error:  # too long, somebody unknown, a NUL
        raise RequestError(f"{path[:200]!r} is not a folder of this computer: {error}.") from error
    if not root.is_absolute():
        raise RequestError(f"{path[:200]} is not a folder of this computer. Write its full path.")
    return root


def allowed_folder(path: str, allowed: Sequence[str]) -> Path:
    """Return a folder by its path. Raises RequestError for none, or one outside those that are allowed."""
    root = named_folder(path)
    if not root.is_dir():
        raise RequestError(f"{path[:200]} is not a folder of this computer. Write its full path.")
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
    let_go(database, site_id)
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
        waits = tuple(WaitView(one.path, one.side, one.why, one.remedy) for one in kept.load_waits(session, site_id))
        moves = _moves_to_follow(session, site_id)
        now = store.load_hashes(session, site_id, conflicts)
        commits = read_settings(load_record(session, site_id).settings).commits
        hashes = {one for conflict in conflicts.values() for one in (conflict.base_sha256, conflict.folder_sha256)}
        blobs = store.load_blobs(session, site_id, {one for one in (*hashes, *now.values()) if one})
    views = (
        _conflict_view(path, *(_readable(blobs, one) for one in (one.base_sha256, now.get(path), one.folder_sha256)))
        for path, one in sorted(conflicts.items())
    )
    is_tree, differ = _versions(Path(link.folder))
    runs = tuple(version_control.programs_run(Path(link.folder))) if is_tree else ()
    return FolderView(
        link.folder, link.away, tuple(views), waits, moves, is_tree, commits, runs, tuple(differ[:_MOST_DIFFERING])
    )


def _conflict_view(path: str, base: str | None, ours: str | None, theirs: str | None) -> ConflictView:
    pieces: list[Piece[str]] = []
    if ours is not None and theirs is not None:
        pieces = pieces_without_base(ours, theirs) if base is None else merge_pieces(base, ours, theirs)
    shown = tuple(MergedPiece(one.base, one.ours, one.theirs, one.merged) for one in pieces)
    return ConflictView(path, base, ours, theirs, shown)


def _moves_to_follow(session: Session, site_id: UUID) -> dict[str, str]:
    """Return where files are that were moved outside, as long as links lead to where they were."""
    moves: dict[str, str] = {}
    for change in store.load_moving_changes(session, site_id):
        moves |= change.parameters["moves"]
    there = store.load_hashes(session, site_id, {*moves, *moves.values()})
    found = {}
    for old in moves:
        goal, seen = old, set()
        while goal in moves and goal not in there and goal not in seen:
            seen.add(goal)
            goal = moves[goal]
        if old not in there and goal in there and told.is_told(session, site_id, Kind.LINK, storable(old)):
            found[old] = goal
    return found


def waiting_of(database: Database, site_id: UUID, paths: Collection[str]) -> list[WaitView]:
    """Return which of some files are not in the linked folder as they are at the desk, and why."""
    with database.transaction() as session:
        found = kept.load_waits(session, site_id)
    return [
        WaitView(one.path, one.side, one.why, one.remedy)
        for one in found
        if one.side == "desk" and one.path in set(paths)
    ]


def _versions(root: Path) -> tuple[bool, list[str]]:
    """Return whether a folder is a work tree of git, and which of its files differ from the last commit."""
    if not root.is_dir() or not version_control.is_work_tree(root):
        return False, []
    try:
        return True, version_control.differing(root)
    except InputError:
        return True, []


def set_commits(database: Database, site_id: UUID, *, commits: bool) -> FolderView | None:
    """Let each change in a linked folder be committed with its name, or not; return the folder."""
    change_settings(
        database,
        site_id,
        lambda settings: replace(settings, commits=commits),
        "has changes committed" if commits else "has changes committed no longer",
    )
    return view_folder(database, site_id)


def commits_of(database: Database, site_id: UUID, path: str) -> list[Commit]:
    """Return the last commits that changed a file. Raises InputError where git cannot be asked."""
    return version_control.commits_of(_root(database, site_id), path)


def bring_in_committed(database: Database, site_id: UUID, path: str, name: str) -> str:
    """Return the hash of a file as a commit has it, whose bytes are kept so that they can be compared.

    Raises NotThereError for a commit that does not have it.
    """
    data = version_control.read_committed(_root(database, site_id), name, path)
    if data is None:
        raise NotThereError(f"That commit has no file “{path}”.")
    with database.transaction() as session:
        return store.save_blobs(session, site_id, [data])[0]


def _root(database: Database, site_id: UUID) -> Path:
    with database.transaction() as session:
        load_record(session, site_id)
        link = kept.load_folder(session, site_id)
    if link is None:
        raise NotThereError("The site is not linked to a folder.")
    return Path(link.folder)


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


# ---------------------------------------------------------------- deciding


def decide(
    database: Database, site_id: UUID, path: str, side: Literal["desk", "folder", "text"], text: str = ""
) -> Synced:
    """Settle a file that was edited on both sides: the version of one side counts, or a text put together of both.

    Whichever does not count stays in the changes. Raises NotThereError where nothing waits to be decided there.
    """
    with database.transaction() as session:
        load_record(session, site_id, lock="alone")
        conflict = kept.load_conflicts(session, site_id).get(path)
        if conflict is None or kept.load_folder(session, site_id) is None:
            raise NotThereError(f"Nothing is to be decided about “{path}” any more.")
        ours = store.load_hashes(session, site_id, [path]).get(path)
        theirs = conflict.folder_sha256
        outside = [FileChange(path, ours, theirs)]
        with author(FOLDER):
            record_change(
                session, site_id, operation="outside", title=f"Edited outside: {path}", page=path, files=outside
            )
        if side == "desk":
            _record_decided(session, site_id, f"The desk's {path} kept", path, theirs, ours)
        elif side == "text":
            made = _put_together(session, site_id, theirs or ours, text)
            _record_decided(session, site_id, f"{path} put together of both", path, theirs, made)
        # both have seen that, whatever the folder has by now: what was saved there since is compared as ever
        kept.save_agreed(session, site_id, {path: None if theirs is None else FolderFileRecord(theirs, 0, 0)})
        others = [one for one in kept.load_conflicts(session, site_id).values() if one.path != path]
        kept.save_conflicts(session, site_id, others)
        bring_up_to_date(session, site_id)
    return sync_folder(database, site_id)


def _record_decided(
    session: Session, site_id: UUID, title: str, path: str, before: str | None, after: str | None
) -> None:
    files = [FileChange(path, before, after)]
    record_change(session, site_id, operation="outside", title=title, page=path, files=files)


def _put_together(session: Session, site_id: UUID, like: str | None, text: str) -> str:
    """Return the hash of a text that was put together, kept in the encoding and with the line ends of a file."""
    data = text.encode()
    if like is not None:
        source = read_source(store.load_blobs(session, site_id, [like])[like])
        data = apply_edits(source, edits_for_typed_text(source, text))
    return store.save_blobs(session, site_id, [data])[0]
