"""Files put into a folder: each whole or not at all, and none where one is not as it was."""

from __future__ import annotations

import hashlib
import os
import tempfile
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from pathlib import Path

from signpost.folders.ignoring import TEMPORARY


@dataclass(frozen=True, slots=True)
class Step:
    """What becomes of one file."""

    path: str
    before: str | None  # SHA-256 of what has to be there; None for nothing
    after: bytes | None  # None for a file that goes


class ChangedMeanwhileError(Exception):
    """A file of the folder is not as it was; nothing was written."""

    def __init__(self, path: str) -> None:
        super().__init__(path)
        self.path = path


def hash_at(root: Path, path: str) -> str | None:
    """Return the SHA-256 of a file; None where there is none. Raises OSError for one that cannot be read."""
    file = root / path
    if _has_link(root, path):
        raise OSError(f"{path} is behind a link, and links are not followed")
    try:
        return hashlib.sha256(file.read_bytes()).hexdigest()
    except (FileNotFoundError, NotADirectoryError):
        return None


def _has_link(root: Path, path: str) -> bool:
    at = root
    for part in path.split("/"):
        at = at / part
        if at.is_symlink():
            return True
    return False


def write_all(root: Path, steps: Sequence[Step]) -> None:
    """Bring files to their new state: all are written beside their places first, then put there.

    Whoever stops this between two files can call it again with the same steps. Raises ChangedMeanwhileError where a
    file is neither as it has to be nor done already, and OSError where one cannot be written; nothing is put in place
    then.
    """
    waiting: list[tuple[Step, Path | None]] = []
    try:
        for step in steps:
            if not _is_done(root, step):
                file = None if step.after is None else _written_beside(root, step)
                waiting.append((step, file))
        _refuse_changed(root, [step for step, _ in waiting])
    except BaseException:
        for _, file in waiting:
            if file is not None:
                file.unlink(missing_ok=True)
        raise
    for step, file in waiting:
        if file is not None:
            file.replace(root / step.path)
        else:
            (root / step.path).unlink(missing_ok=True)
            _drop_empty(root, step.path)
    _sync_folders(root, (step.path for step, _ in waiting))


def _refuse_changed(root: Path, steps: Iterable[Step]) -> None:
    """Raise ChangedMeanwhileError where a file is not as it has to be."""
    for step in steps:
        if hash_at(root, step.path) != step.before:
            raise ChangedMeanwhileError(step.path)


def _is_done(root: Path, step: Step) -> bool:
    after = None if step.after is None else hashlib.sha256(step.after).hexdigest()
    return hash_at(root, step.path) == after


def _written_beside(root: Path, step: Step) -> Path:
    """Return a new file in the folder that a file goes to, with its bytes and the mode of the one that is there."""
    goal = root / step.path
    goal.parent.mkdir(parents=True, exist_ok=True)
    handle, name = tempfile.mkstemp(prefix=TEMPORARY, dir=goal.parent)
    file = Path(name)
    try:
        with os.fdopen(handle, "wb") as opened:
            opened.write(step.after or b"")
            opened.flush()
            os.fsync(opened.fileno())
        file.chmod(goal.stat().st_mode & 0o7777 if goal.exists() else 0o666 & ~_mask())
    except BaseException:
        file.unlink(missing_ok=True)
        raise
    return file


def _mask() -> int:
    mask = os.umask(0)
    os.umask(mask)
    return mask


def _drop_empty(root: Path, path: str) -> None:
    """Remove the folders that a file leaves empty."""
    for folder in (root / path).parents:
        if folder == root:
            return
        try:
            folder.rmdir()
        except OSError:
            return


def _sync_folders(root: Path, paths: Iterable[str]) -> None:
    """Let the disk keep which files are there; where it cannot be asked to, it does so in its own time."""
    for folder in {(root / path).parent for path in paths}:
        try:
            handle = os.open(folder, os.O_RDONLY)
        except OSError:
            continue
        try:
            os.fsync(handle)
        except OSError:
            pass
        finally:
            os.close(handle)


def clear_leftovers(root: Path) -> None:
    """Remove files that were written beside their places and never put there, as after a loss of power."""
    for file in root.rglob(f"{TEMPORARY}*"):
        if file.is_file() and not file.is_symlink():
            file.unlink(missing_ok=True)
