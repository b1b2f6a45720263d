"""The files of a folder, and which of them are others than they were."""

from __future__ import annotations

import os
import stat
import time
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass

from signpost.core.addresses.paths import find_path_objection
from signpost.core.text.errors import InputError
from signpost.folders.ignoring import Ignored, is_leftover
from signpost.folders.opened import OpenedFolder, UnfitError

#: How long after its last change a file may change again without another time, in nanoseconds: as long as clocks of
#: file systems are coarse.
_TOO_NEW = 2_000_000_000
#: How deep folders may be within each other.
_DEEPEST = 64


@dataclass(frozen=True, slots=True)
class Stamp:
    """A file as it was seen last."""

    sha256: str
    size: int  # in bytes
    changed: int  # when its bytes, mode or name changed, in nanoseconds (ctime); 0 where that tells nothing


@dataclass(frozen=True, slots=True)
class Seen:
    """What is in a folder."""

    files: Mapping[str, Stamp]  # by path within it, with "/"
    passed_over: Mapping[str, OSError]  # by path, why it cannot be a part of a site


@dataclass(frozen=True, slots=True)
class FolderEntry:
    """Something in a folder that no rule leaves out, and that is no folder."""

    path: str
    about: os.stat_result  # of a link itself


def walk(folder: OpenedFolder, patterns: Sequence[str] = ()) -> Iterator[FolderEntry]:
    """Yield what is in a folder, and in those within; what its own files and `patterns` leave out is not there.

    Links are not followed. Raises OSError for a folder that cannot be read.
    """
    yield from _walk(folder, "", Ignored(patterns))


def _walk(folder: OpenedFolder, at: str, ignored: Ignored) -> Iterator[FolderEntry]:
    ignored.enter(folder, at)
    within = []
    with folder.folder(at) as handle, os.scandir(handle) as entries:
        for entry in sorted(entries, key=lambda one: one.name):
            path = f"{at}/{entry.name}" if at else entry.name
            is_folder = entry.is_dir(follow_symlinks=False)
            if is_leftover(entry.name) or ignored.has(path, is_folder=is_folder):
                continue
            if is_folder:
                within.append(path)
            else:
                yield FolderEntry(path, entry.stat(follow_symlinks=False))
    for path in within:
        if path.count("/") < _DEEPEST:
            yield from _walk(folder, path, ignored)


def scan(
    folder: OpenedFolder,
    known: Mapping[str, Stamp],
    patterns: Sequence[str] = (),
    *,
    most_files: int,
    most_bytes: int,
) -> Seen:
    """Return the files of a folder; those that did not change since they were known are not read again.

    Raises InputError for a folder that cannot be read, or with too many files.
    """
    files: dict[str, Stamp] = {}
    passed: dict[str, OSError] = {}
    try:
        for entry in walk(folder, patterns):
            objection = _objection(entry)
            if objection is not None:
                passed[entry.path] = UnfitError(entry.path, objection)
                continue
            try:
                files[entry.path] = stamp(folder, entry.path, entry.about, known.get(entry.path), most_bytes)
            except FileNotFoundError:
                continue  # gone meanwhile
            except OSError as error:
                passed[entry.path] = error
            if len(files) > most_files:
                raise InputError(f"{folder.root} has more than {most_files:,} files. Open the folder of one site.")
    except OSError as error:
        raise InputError(f"{folder.root} cannot be read: {error.strerror or error}.") from error
    return Seen(files, passed)


def _objection(entry: FolderEntry) -> str | None:
    """Return why something cannot be a file of a site; None where it can."""
    if stat.S_ISLNK(entry.about.st_mode):
        return "a link to another place; links are not followed"
    if not stat.S_ISREG(entry.about.st_mode):
        return "no plain file"
    return find_path_objection(entry.path)


def stamp(folder: OpenedFolder, path: str, about: os.stat_result, known: Stamp | None, most_bytes: int) -> Stamp:
    """Return a file as it is; what is known where it did not change since.

    Raises UnfitError for one that is too large, and OSError for one that cannot be read.
    """
    if known is not None and known.changed and (known.size, known.changed) == (about.st_size, about.st_ctime_ns):
        return known
    sha256, size = folder.measure(path, most_bytes)
    return Stamp(sha256, size, about.st_ctime_ns if is_old_enough(about) else 0)


def is_old_enough(about: os.stat_result) -> bool:
    """Return whether a file has been as it is for long enough that another change would have another time."""
    return time.time_ns() - about.st_ctime_ns > _TOO_NEW
