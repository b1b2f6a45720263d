"""The files of a folder, and which of them are others than they were."""

from __future__ import annotations

import hashlib
import os
import stat
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from pathlib import Path

from signpost.core.addresses.paths import find_path_objection
from signpost.core.text.errors import InputError
from signpost.folders.ignoring import Ignored, is_leftover


@dataclass(frozen=True, slots=True)
class Stamp:
    """A file as it was seen last."""

    sha256: str
    size: int  # in bytes
    mtime: int  # in nanoseconds


@dataclass(frozen=True, slots=True)
class Seen:
    """What is in a folder."""

    files: Mapping[str, Stamp]  # by path within it, with "/"
    passed_over: Sequence[tuple[str, str]]  # paths, and why they cannot be a part of a site


def scan(
    root: Path,
    known: Mapping[str, Stamp],
    patterns: Sequence[str] = (),
    *,
    most_files: int,
    most_bytes: int,
) -> Seen:
    """Return the files of a folder; those as large and as old as they were known are not read again.

    Links are not followed. Raises InputError for a folder that cannot be read, or with too many files.
    """
    files: dict[str, Stamp] = {}
    passed: list[tuple[str, str]] = []
    ignored = Ignored(patterns)
    try:
        _walk(root, "", ignored, known, files, passed, most_files, most_bytes)
    except OSError as error:
        raise InputError(f"{root} cannot be read: {error.strerror or error}.") from error
    return Seen(files, passed)


def _walk(
    root: Path,
    folder: str,
    ignored: Ignored,
    known: Mapping[str, Stamp],
    files: dict[str, Stamp],
    passed: list[tuple[str, str]],
    most_files: int,
    most_bytes: int,
) -> None:
    ignored.enter(root, folder)
    within = []
    with os.scandir(root / folder) as entries:
        for entry in sorted(entries, key=lambda one: one.name):
            path = f"{folder}/{entry.name}" if folder else entry.name
            is_folder = entry.is_dir(follow_symlinks=False)
            if is_leftover(entry.name) or ignored.has(path, is_folder=is_folder):
                continue
            if entry.is_symlink():
                passed.append((path, "a link to another place; links are not followed"))
            elif is_folder:
                within.append(path)
            elif stat.S_ISREG(entry.stat(follow_symlinks=False).st_mode):
                _take(root, path, known, files, passed, most_bytes)
            if len(files) > most_files:
                raise InputError(f"{root} has more than {most_files:,} files. Open the folder of one site.")
    for path in within:
        _walk(root, path, ignored, known, files, passed, most_files, most_bytes)


def _take(
    root: Path,
    path: str,
    known: Mapping[str, Stamp],
    files: dict[str, Stamp],
    passed: list[tuple[str, str]],
    most_bytes: int,
) -> None:
    objection = find_path_objection(path)
    if objection is not None:
        passed.append((path, objection))
        return
    try:
        found = stamp(root, path, known.get(path), most_bytes)
    except OSError as error:
        passed.append((path, error.strerror or str(error)))
        return
    if found is None:
        passed.append((path, f"larger than {most_bytes // 2**20} MB"))
    else:
        files[path] = found


def stamp(root: Path, path: str, known: Stamp | None, most_bytes: int) -> Stamp | None:
    """Return a file as it is; what is known where its size and time are. None for one that is too large.

    Raises OSError for one that cannot be read.
    """
    file = root / path
    about = file.stat(follow_symlinks=False)
    if known is not None and (known.size, known.mtime) == (about.st_size, about.st_mtime_ns):
        return known
    if about.st_size > most_bytes:
        return None
    data = file.read_bytes()
    return Stamp(hashlib.sha256(data).hexdigest(), len(data), about.st_mtime_ns)
