"""Files put into a folder, each whole or not at all; what somebody saved there meanwhile is never written over.

Each file is written beside its place first, under a name that whoever asks has noted. Then the two swap names: what
was displaced is at hand under our own name, and is compared. Was it saved in that very moment, it goes back.
"""

from __future__ import annotations

import contextlib
import errno
import fcntl
import hashlib
import itertools
import os
import secrets
import stat
from collections.abc import Iterable
from dataclasses import dataclass

from signpost.folders import scanning, swapping
from signpost.folders.ignoring import TEMPORARY
from signpost.folders.opened import OpenedFolder, UnfitError, hash_plain, opened_plain
from signpost.folders.swapping import give, swap


@dataclass(frozen=True, slots=True)
class Step:
    """What becomes of one file."""

    path: str
    before: str | None  # SHA-256 of what has to be there; None for nothing
    after: bytes | None  # None for a file that goes
    beside: str = ""  # the name, in the same folder, that is ours while this is done
    like: str = ""  # the path of the file that a new one takes its mode from; "" for none

    @property
    def after_sha256(self) -> str | None:
        """The SHA-256 of what is to be there; None for nothing."""
        return None if self.after is None else hashlib.sha256(self.after).hexdigest()


class ChangedMeanwhileError(Exception):
    """A file of the folder is not as it has to be; it was left as it is."""

    def __init__(self, path: str) -> None:
        super().__init__(path)
        self.path = path


def new_name() -> str:
    """Return a name for a file that waits beside its place."""
    return f"{TEMPORARY}{secrets.token_hex(8)}"


def stage(folder: OpenedFolder, step: Step) -> None:
    """Write a step's file beside its place, with the mode of the one that is there. Raises OSError."""
    if step.after is None:
        return
    with folder.within(step.path, make=True) as (handle, _):
        file = os.open(step.beside, os.O_WRONLY | os.O_CREAT | os.O_EXCL | os.O_NOFOLLOW, 0o666, dir_fd=handle)
        try:
            with os.fdopen(file, "wb") as opened:
                opened.write(step.after)
                opened.flush()
                os.fsync(opened.fileno())
                about = folder.about(step.like or step.path)
                if about is not None and stat.S_ISREG(about.st_mode):
                    os.fchmod(opened.fileno(), stat.S_IMODE(about.st_mode))
        except BaseException:
            os.unlink(step.beside, dir_fd=handle)
            raise


def put(folder: OpenedFolder, step: Step) -> None:
    """Put a staged file in its place; what was there is beside it then, under the step's own name.

    Raises ChangedMeanwhileError where something else is there than has to be, which stays, and OSError. What is left
    beside then is not ours, and has to be looked at.
    """
    try:
        with folder.within(step.path) as (handle, name):
            if step.before is None:
                give(handle, step.beside, name)
            elif step.after is None:
                give(handle, name, step.beside)
                if not _is(handle, step.beside, step.before):
                    _go_back(handle, step, name)
            else:
                swap(handle, step.beside, name)
                if not _is(handle, step.beside, step.before):
                    _swap_back(handle, step, name)
    except (FileExistsError, FileNotFoundError, NotADirectoryError) as error:
        if step.after is not None and folder.hash_beside(step.path, step.beside) == step.after_sha256:
            drop(folder, step)
        raise ChangedMeanwhileError(step.path) from error


def _is(handle: int, name: str, sha256: str | None) -> bool:
    try:
        return hash_plain(handle, name, name) == sha256
    except UnfitError:
        return False


def _swap_back(handle: int, step: Step, name: str) -> None:
    """Put back what was saved in the moment of the swap. Was it saved over once more since, that counts."""
    swap(handle, step.beside, name)
    if _is(handle, step.beside, step.after_sha256):
        os.unlink(step.beside, dir_fd=handle)
    else:
        swap(handle, step.beside, name)
    raise ChangedMeanwhileError(step.path)


def _go_back(handle: int, step: Step, name: str) -> None:
    with contextlib.suppress(FileExistsError):  # saved once more: both are there
        give(handle, step.beside, name)
    raise ChangedMeanwhileError(step.path)


def mend(folder: OpenedFolder, step: Step) -> None:
    """Finish a swap in which somebody was stopped, on a file system that does it in two steps."""
    with contextlib.suppress(FileNotFoundError, NotADirectoryError), folder.within(step.path) as (handle, name):
        swapping.mend(handle, step.beside, name)


def put_back(folder: OpenedFolder, step: Step, after_sha256: str | None) -> str | None:
    """Bring back what a step displaced, where what it put there (by its hash) is there still.

    Returns None, or where it is instead: a name of its own, where somebody saved there since.
    """
    with folder.within(step.path, make=True) as (handle, name):
        try:
            give(handle, step.beside, name)
        except FileExistsError:
            swap(handle, step.beside, name)
        else:
            return None
        if _is(handle, step.beside, after_sha256):
            os.unlink(step.beside, dir_fd=handle)
            return None
        swap(handle, step.beside, name)
        return keep(folder, step)


def keep(folder: OpenedFolder, step: Step) -> str:
    """Give what is beside a step's place a name that its author finds, and return its path."""
    with folder.within(step.path) as (handle, name):
        for number in itertools.count():
            kept = f"{name}.orig{number or ''}"
            with contextlib.suppress(FileExistsError):
                give(handle, step.beside, kept)
                return step.path.removesuffix(name) + kept
    raise AssertionError


def is_done(folder: OpenedFolder, step: Step) -> bool:
    """Return whether a file is as a step would make it. Raises OSError for what cannot be looked at."""
    return folder.hash(step.path) == step.after_sha256


def is_final(folder: OpenedFolder, step: Step) -> bool:
    """Return whether nobody can save any more into what a step displaced: it has no name that others know.

    An editor may have had it open for writing. The system is asked that by a lease, which is refused then (fcntl(2),
    F_SETLEASE); where it gives none, some seconds have to pass.
    """
    try:
        with folder.within(step.path) as (handle, _), opened_plain(handle, step.beside, step.path) as file:
            try:
                fcntl.fcntl(file, fcntl.F_SETLEASE, fcntl.F_RDLCK)
            except OSError as error:
                return error.errno != errno.EAGAIN and scanning.is_old_enough(os.fstat(file))
            fcntl.fcntl(file, fcntl.F_SETLEASE, fcntl.F_UNLCK)
            return True
    except (FileNotFoundError, NotADirectoryError):
        return True


def drop(folder: OpenedFolder, step: Step) -> None:
    """Remove what is under a step's own name beside its place."""
    with contextlib.suppress(OSError), folder.within(step.path) as (handle, _):
        os.unlink(step.beside, dir_fd=handle)


def finish(folder: OpenedFolder, paths: Iterable[str]) -> None:
    """Let the disk keep what was put in place."""
    for parent in {path.rpartition("/")[0] for path in paths}:
        folder.sync(parent)
