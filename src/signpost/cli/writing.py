"""What a command writes: all files or none, whatever ends it, and nothing over what was saved since it was read.

Before the first file is touched, a journal in the folder says what is being replaced and under which names the files
wait. A run that is stopped puts everything back itself; after one that was killed, the next run in that folder does.
"""

from __future__ import annotations

import contextlib
import json
import os
import time
from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass, replace
from pathlib import Path
from typing import Any

from signpost.cli.folder import JOURNAL, tell
from signpost.cli.stopping import note_written, undisturbed
from signpost.core.text.errors import InputError, RequestError
from signpost.folders import writing
from signpost.folders.opened import OpenedFolder
from signpost.folders.processes import began
from signpost.folders.swapping import give
from signpost.folders.writing import ChangedMeanwhileError, Step

#: How many bytes of it are read at most.
_LONGEST = 64 * 1024 * 1024
#: How long an editor that has a displaced file open is waited for, and how often it is looked, in seconds.
_PATIENCE, _GLANCE = 3.0, 0.05


@dataclass(frozen=True, slots=True)
class Recovered:
    """What was put back after a run that was killed."""

    files: int
    kept: tuple[str, ...] = ()  # files as they were before it, beside those that were edited since


def write_all(root: Path, steps: Sequence[Step]) -> None:
    """Bring files to their new state, all or none.

    Raises InputError where one is not as it was read, OSError for what the system refuses; nothing is written then.
    """
    root.mkdir(parents=True, exist_ok=True)
    named = [replace(step, beside=writing.new_name()) for step in steps]
    with OpenedFolder(root.resolve()) as folder:
        done: list[Step] = []
        _note(folder, named, done=False)
        try:
            for step in named:
                writing.stage(folder, step)
            for step in named:
                with undisturbed():
                    writing.put(folder, step)
                    done.append(step)
            _refuse_late(folder, named)
            with undisturbed():
                _note(folder, named, done=True)
        except BaseException as error:
            with undisturbed():
                kept = _put_back(folder, named, {step.path: step.after_sha256 for step in named}, done)
                _forget(folder)
            for path in kept:
                tell(f"{path} is what was there before; the file beside it was saved since.")
            if isinstance(error, ChangedMeanwhileError):
                raise InputError(
                    f"{error.path} was saved by somebody else meanwhile, so nothing was written. Run it again."
                ) from error
            raise
        with undisturbed():
            note_written(str(root))
            _tidy(folder, named)
            _forget(folder)


def recover(root: Path) -> Recovered | None:
    """Put back what a run that was killed left half written in a folder; None where there is nothing of the kind.

    Raises RequestError where such a run is still at work.
    """
    if not (root / JOURNAL).is_file():
        return None
    with OpenedFolder(root.resolve()) as folder, undisturbed():
        journal = _read(folder)
        if journal.process != os.getpid() and began(journal.process) == journal.began:
            raise RequestError(f"Another signpost command is writing to {root} just now. Wait until it is done.")
        kept: list[str] = []
        if journal.done:
            _tidy(folder, journal.steps)
        else:
            kept = _put_back(folder, journal.steps, journal.hashes, journal.steps)
        _forget(folder)
    return Recovered(0 if journal.done else len(journal.steps), tuple(kept))


@dataclass(frozen=True, slots=True)
class _Journal:
    """What a run noted."""

    process: int
    began: str
    done: bool  # whether all was written, and only what was displaced is left
    steps: tuple[Step, ...]  # without the bytes
    hashes: dict[str, str | None]  # of what was to be there, by path


def _read(folder: OpenedFolder) -> _Journal:
    try:
        said: dict[str, Any] = json.loads(folder.read(JOURNAL, _LONGEST) or b"{}")
        files = said["files"]
        steps = tuple(
            Step(str(one["path"]), one["before"], None if one["after"] is None else b"", str(one["beside"]))
            for one in files
        )
        hashes = {str(one["path"]): one["after"] for one in files}
        return _Journal(int(said["process"]), str(said["began"]), bool(said["done"]), steps, hashes)
    except (ValueError, KeyError, TypeError) as error:
        raise RequestError(
            f"{folder.root / JOURNAL} is damaged. See which files are half written, then remove it."
        ) from error


def _note(folder: OpenedFolder, steps: Sequence[Step], *, done: bool) -> None:
    """Write the journal, which is on the disk then."""
    files = [
        {"path": step.path, "before": step.before, "after": step.after_sha256, "beside": step.beside}
        for step in steps
    ]
    said = {"process": os.getpid(), "began": began(os.getpid()), "done": done, "files": files}
    waiting = writing.new_name()
    with folder.within(JOURNAL) as (handle, name):
        file = os.open(waiting, os.O_WRONLY | os.O_CREAT | os.O_EXCL | os.O_NOFOLLOW, 0o600, dir_fd=handle)
        with os.fdopen(file, "w", encoding="utf-8") as opened:
            json.dump(said, opened)
            opened.flush()
            os.fsync(opened.fileno())
        if done:
            os.rename(waiting, name, src_dir_fd=handle, dst_dir_fd=handle)
        else:
            _claim(folder, handle, waiting, name)
    folder.sync("")


def _claim(folder: OpenedFolder, handle: int, waiting: str, name: str) -> None:
    """Give the journal its name. Raises RequestError where another run has begun meanwhile."""
    try:
        give(handle, waiting, name)
    except FileExistsError as error:
        os.unlink(waiting, dir_fd=handle)
        raise RequestError(
            f"Another signpost command is writing to {folder.root} just now. Wait until it is done."
        ) from error


def _forget(folder: OpenedFolder) -> None:
    with folder.within(JOURNAL) as (handle, name), contextlib.suppress(FileNotFoundError):
        os.unlink(name, dir_fd=handle)


def _refuse_late(folder: OpenedFolder, steps: Sequence[Step]) -> None:
    """Raise ChangedMeanwhileError where an editor saved into a file in the moment in which it was displaced."""
    for step in steps:
        if step.before is not None and folder.hash_beside(step.path, step.beside) != step.before:
            raise ChangedMeanwhileError(step.path)


def _put_back(
    folder: OpenedFolder, steps: Sequence[Step], hashes: Mapping[str, str | None], put: Collection[Step]
) -> list[str]:
    """Bring files back to what they were, whatever became of each; `put` are those that may be in their places.

    `hashes` are those of what was to be there. Returns where files are instead, where somebody saved the new ones.
    """
    kept = []
    for step in reversed(steps):
        try:
            writing.mend(folder, step)
            beside, after = folder.hash_beside(step.path, step.beside), hashes[step.path]
            if beside is not None and beside == after:  # it waits, and was never put there
                writing.drop(folder, step)
            elif beside is not None:
                kept += [path for path in [writing.put_back(folder, step, after)] if path]
            elif step.before is None and step in put and after is not None and folder.hash(step.path) == after:
                with folder.within(step.path) as (handle, name):
                    os.unlink(name, dir_fd=handle)
                folder.drop_empty(step.path)
        except OSError as error:  # the others are brought back all the same
            tell(f"{step.path} could not be brought back: {error.strerror}. It is beside it, as {step.beside}.")
    return kept


def _tidy(folder: OpenedFolder, steps: Sequence[Step]) -> None:
    """Remove what was displaced."""
    writing.finish(folder, [step.path for step in steps])
    until = time.monotonic() + _PATIENCE
    for step in steps:
        while not writing.is_final(folder, step) and time.monotonic() < until:
            time.sleep(_GLANCE)
        if step.before is not None and folder.hash_beside(step.path, step.beside) not in (None, step.before):
            tell(f"{writing.keep(folder, step)} was saved by somebody while {step.path} was written.")
        writing.drop(folder, step)
        if step.after is None:
            folder.drop_empty(step.path)
