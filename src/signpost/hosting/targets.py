"""Places that a site is published to: what each can do, and a folder of this machine."""

from __future__ import annotations

import hashlib
import os
import posixpath
from collections.abc import Collection, Iterator, Mapping
from contextlib import contextmanager
from dataclasses import dataclass
from pathlib import Path
from typing import Protocol

from signpost.core.text.errors import InputError
from signpost.folders import writing
from signpost.folders.opened import OpenedFolder, UnfitError
from signpost.folders.writing import ChangedMeanwhileError, Step

#: How long a host is waited for, and how long one answer may take as a whole, in seconds.
PATIENCE, LONGEST = 30.0, 300.0
#: The largest file that is read from a place, in bytes.
MOST_BYTES = 64 * 1024 * 1024


@dataclass(frozen=True, slots=True)
class Remote:
    """A file as its place tells of it, without being read."""

    size: int | None  # in bytes; None where that is not told
    tag: str  # that changes with its bytes: an entity tag, or a time; "" where none is told


class ChangedThereError(Exception):
    """A file is not any more as it was seen there, and was left as it is."""


class Target(Protocol):
    """A place that files are put to. Paths are the site's; all raise InputError where the place does not answer."""

    width: int  # how many files can be seen to at once

    def look(self, paths: Collection[str]) -> Mapping[str, Remote]:
        """Return what is known of those of some files that are there."""

    def read(self, path: str) -> bytes | None:
        """Return a file's bytes; None for one that is not there."""

    def write(self, path: str, data: bytes, seen: Remote | None) -> bool:
        """Put a file there whole, and return whether it reads back as it was sent; where not, it is not put there.

        `seen` is what was there when it was looked at, None for nothing. Raises ChangedThereError where that has
        changed right before the file would get its place.
        """

    def delete(self, path: str, seen: Remote) -> None:
        """Take a file away; one that is not there is no mistake. Raises ChangedThereError as `write` does."""

    def clear(self, path: str) -> None:
        """Take away what was left beside a file's place by whoever was stopped while it was put there."""

    def close(self) -> None:
        """Let the place go."""


def beside(path: str) -> str:
    """Return the path under which a file waits beside its place: of its own name alone, so that it is known again."""
    name = hashlib.sha256(posixpath.basename(path).encode("utf-8", "surrogateescape")).hexdigest()[:16]
    return posixpath.join(posixpath.dirname(path), f".signpost-{name}")


def folders_of(path: str) -> list[str]:
    """Return the folders that a path is in, the outermost first."""
    parts = path.split("/")[:-1]
    return ["/".join(parts[: count + 1]) for count in range(len(parts))]


def _remote(about: os.stat_result) -> Remote:
    return Remote(about.st_size, str(about.st_ctime_ns))


def _step(folder: OpenedFolder, path: str, data: bytes | None, seen: Remote | None) -> Step:
    """Return what becomes of a file that is as it was seen. Raises ChangedThereError for one that is not."""
    step = Step(path, folder.hash(path), data, posixpath.basename(beside(path)))
    about = folder.about(path)  # after its bytes: was it saved while they were read, it is another one by its time
    if (None if about is None else _remote(about)) != seen:
        raise ChangedThereError(path)
    writing.drop(folder, step)
    return step


def _put(folder: OpenedFolder, step: Step) -> None:
    """Put a file in its place. Raises ChangedThereError where it was saved in that very moment, and stays."""
    try:
        writing.put(folder, step)
    except ChangedMeanwhileError as error:
        raise ChangedThereError(step.path) from error
    writing.drop(folder, step)
    writing.finish(folder, [step.path])


class FolderTarget:
    """A folder of this machine."""

    width = 1

    def __init__(self, root: Path) -> None:
        self._root = root

    @contextmanager
    def _opened(self, *, make: bool = False) -> Iterator[OpenedFolder | None]:
        """Give the folder held open; None where it is not there and is not to be made."""
        try:
            if make:
                self._root.mkdir(parents=True, exist_ok=True)
            elif not self._root.exists():
                yield None
                return
            with OpenedFolder(self._root.parent.resolve() / self._root.name) as folder:
                yield folder
        except OSError as error:
            what = f"{self._root}: {error.filename}" if isinstance(error, UnfitError) else self._root
            raise InputError(f"{what} cannot be used: {error.strerror or error}.") from error

    def look(self, paths: Collection[str]) -> Mapping[str, Remote]:
        """Return what is known of those of some files that are there."""
        with self._opened() as folder:
            found = {path: folder.about(path) for path in paths} if folder is not None else {}
        return {path: _remote(about) for path, about in found.items() if about}

    def read(self, path: str) -> bytes | None:
        """Return a file's bytes; None for one that is not there."""
        with self._opened() as folder:
            return None if folder is None else folder.read(path, MOST_BYTES)

    def write(self, path: str, data: bytes, seen: Remote | None) -> bool:
        """Put a file there whole; it is read back before it is put in its place."""
        with self._opened(make=True) as folder:
            assert folder is not None  # noqa: S101 - it was made
            step = _step(folder, path, data, seen)
            writing.stage(folder, step)
            if folder.hash_beside(path, step.beside) != step.after_sha256:
                writing.drop(folder, step)
                return False
            _put(folder, step)
        return True

    def delete(self, path: str, seen: Remote) -> None:
        """Take a file away, and the folders that it leaves empty."""
        with self._opened() as folder:
            if folder is not None and folder.about(path) is not None:
                _put(folder, _step(folder, path, None, seen))
                folder.drop_empty(path)

    def clear(self, path: str) -> None:
        """Take away what was left beside a file's place."""
        with self._opened() as folder:
            if folder is not None:
                writing.drop(folder, Step(path, None, None, posixpath.basename(beside(path))))

    def close(self) -> None:
        """There is nothing to let go."""
