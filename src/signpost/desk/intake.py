"""Bringing files in: what is taken, what is skipped and why, and how much may come."""

from __future__ import annotations

import lzma
import stat
import struct
import zipfile
import zlib
from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass
from io import BytesIO
from uuid import UUID

from sqlalchemy.orm import Session

from signpost.core.addresses.paths import Clash, PathIndex, find_path_objection
from signpost.core.text.words import count_of
from signpost.desk.deeds import note_deed, record_change
from signpost.desk.errors import ConflictError, NotThereError, TooMuchError
from signpost.desk.indexing import bring_up_to_date
from signpost.desk.loading import load_record
from signpost.store import limits
from signpost.store import repositories as store
from signpost.store.database import Database
from signpost.store.records import ChangeRecord, FileChange, SiteRecord

#: The largest file, in bytes.
FILE_BYTES = 16 * 1024 * 1024
#: The largest page that is worked on, in bytes.
PAGE_BYTES = 8 * 1024 * 1024
#: How many files a site may have.
SITE_FILES = 10_000
#: The largest archive, in bytes, and how many times its size it may unpack to.
ARCHIVE_BYTES = 128 * 1024 * 1024
ARCHIVE_EXPANSION = 200

#: All that the standard library raises for an archive that is broken, in its directory or in what it contains.
BROKEN = (
    zipfile.BadZipFile, zlib.error, lzma.LZMAError, struct.error, EOFError, OSError, UnicodeError, ValueError,
    NotImplementedError, RuntimeError, IndexError, KeyError, OverflowError, MemoryError,
)  # fmt: skip
#: Up to how many files brought in are read at once; where there are more, whoever opens the site has them read.
INDEXED_AT_ONCE = 100
_LEFTOVERS = frozenset([".ds_store", "thumbs.db", "desktop.ini", "__macosx"])


@dataclass(frozen=True, slots=True)
class Skipped:
    """A file that was not taken."""

    path: str
    reason: str
    asks: bool = False  # whether it is taken where the author says so


@dataclass(frozen=True, slots=True)
class Choices:
    """What an author decided of files that get in the way of others."""

    replace: bool = False  # whether files that are there already are replaced
    anyway: frozenset[str] = frozenset()  # paths that are taken though others are alike


@dataclass(frozen=True, slots=True)
class Intake:
    """What came of bringing files in."""

    taken: tuple[str, ...]  # those that replaced others too
    replaced: tuple[str, ...]
    skipped: tuple[Skipped, ...]


def create_site(database: Database, name: str, base: str | None = None) -> SiteRecord:
    """Return a new, empty site."""
    with database.transaction() as session:
        return store.add_site(session, name.strip() or "Untitled site", base)


_NO_CHOICES = Choices()


def bring_in_files(
    database: Database,
    site_id: UUID,
    files: Iterable[tuple[str, bytes]],
    root: str = "",
    choices: Choices = _NO_CHOICES,
) -> Intake:
    """Bring files in by path, and return what was taken; `root` is a leading folder to leave out of the paths."""
    return _bring_in(database, site_id, [(_below(path, root), data) for path, data in files], (), choices)


def bring_in_archive(database: Database, site_id: UUID, data: bytes, choices: Choices = _NO_CHOICES) -> Intake:
    """Bring in the files of a ZIP archive, and return what was taken.

    A single folder around everything is left out of the paths.

    Raises ConflictError for bytes that are no ZIP archive, TooMuchError for one beyond the limits.
    """
    try:
        archive = zipfile.ZipFile(BytesIO(data))
    except BROKEN as error:
        raise ConflictError(
            "This is not a ZIP archive, or it is damaged. Pack the folder again and choose it."
        ) from error
    with archive:
        members = [member for member in archive.infolist() if not member.is_dir()]
        if len(members) > SITE_FILES:
            raise TooMuchError(f"The archive contains {len(members)} files; a site may have {SITE_FILES}.")
        total = sum(member.file_size for member in members)
        if total > limits.SITE_BYTES or total > max(len(data), 1024) * ARCHIVE_EXPANSION:
            raise TooMuchError(
                "The archive would unpack to far more than a site may contain, so none of it was taken."
            )
        skipped: list[Skipped] = []
        root = _common_folder([member.filename for member in members])
        files = list(_unpack(archive, members, root, skipped))
    return _bring_in(database, site_id, files, skipped, choices)


def _unpack(
    archive: zipfile.ZipFile, members: Iterable[zipfile.ZipInfo], root: str, skipped: list[Skipped]
) -> Iterator[tuple[str, bytes]]:
    for member in members:
        path = _below(member.filename, root)
        if stat.S_ISLNK(member.external_attr >> 16):
            skipped.append(Skipped(path, "a link to another file; bring the file itself"))
        elif member.flag_bits & 1:
            skipped.append(Skipped(path, "locked with a password; pack it without one"))
        elif member.file_size > FILE_BYTES:
            skipped.append(Skipped(path, _too_large(member.file_size, FILE_BYTES)))
        else:
            try:
                with archive.open(member) as file:
                    content = file.read(FILE_BYTES + 1)
            except BROKEN:
                skipped.append(Skipped(path, "damaged in the archive; pack it again"))
                continue
            yield path, content


def _bring_in(
    database: Database,
    site_id: UUID,
    files: Iterable[tuple[str, bytes]],
    skipped: Iterable[Skipped],
    choices: Choices,
) -> Intake:
    left_out = list(skipped)
    with database.transaction() as session:
        load_record(session, site_id, lock="alone")
        known = {file.path: file.sha256 for file in store.load_files(session, site_id)}
        there = {path: sha256 for path, sha256 in known.items() if sha256 is not None}
        taken, replacing = _sort_out(files, there, choices, left_out)
        if len(there) + len(taken) > SITE_FILES:
            raise TooMuchError(f"A site may have {SITE_FILES} files; none of these were taken.")
        brought = [*taken.values(), *replacing.values()]
        if store.count_bytes(session, site_id) + sum(map(len, brought)) > limits.SITE_BYTES:
            raise TooMuchError(f"A site may contain {limits.SITE_BYTES // 2**20} MB; none of these files were taken.")
        store.bring_in(session, site_id, {path: data for path, data in taken.items() if path not in known})
        # a file that was there once, and was removed, comes back by a change that can be undone
        changing = replacing | {path: data for path, data in taken.items() if path in known}
        if changing:
            _replace(session, site_id, changing, known)
        if taken:
            note_deed(session, site_id, f"brought in {count_of(len(taken), 'file')}")
        if len(taken) + len(replacing) <= INDEXED_AT_ONCE:
            bring_up_to_date(session, site_id)
    return Intake((*taken, *replacing), tuple(replacing), tuple(left_out))


def _sort_out(
    files: Iterable[tuple[str, bytes]], there: Mapping[str, str], choices: Choices, left_out: list[Skipped]
) -> tuple[dict[str, bytes], dict[str, bytes]]:
    """Return which files are taken, and which replace others; what else there is goes to `left_out`."""
    taken: dict[str, bytes] = {}
    replacing: dict[str, bytes] = {}
    index = PathIndex(there)
    for path, data in files:
        reason = _objection(path, data)
        if reason is not None:
            left_out.append(Skipped(path, reason))
            continue
        clash = index.find_clash(path)
        if clash is None or (clash[0] is Clash.ALIKE and path in choices.anyway):
            taken[path] = data
            index.add(path)
        elif clash[0] is Clash.SAME and choices.replace and path in there and path not in replacing:
            replacing[path] = data
        else:
            left_out.append(_clashing(path, *clash, in_site=path in there))
    return taken, replacing


def _clashing(path: str, clash: Clash, other: str, *, in_site: bool) -> Skipped:
    if clash is Clash.SAME:
        return Skipped(path, "there already" if in_site else "there already, brought in with these files")
    if clash is Clash.FOLDER:
        return Skipped(path, f"cannot be beside “{other}”: one would be a folder. Rename one of them")
    return Skipped(
        path, f"differs from “{other}” in capitals or accents alone; many computers keep only one", asks=True
    )


def _replace(session: Session, site_id: UUID, files: Mapping[str, bytes], known: Mapping[str, str | None]) -> None:
    """Record other bytes of files as a change, which can be undone."""
    hashes = dict(zip(files, store.save_blobs(session, site_id, files.values()), strict=True))
    changed = [FileChange(path, known[path], sha256) for path, sha256 in hashes.items() if known[path] != sha256]
    if changed:
        title = f"{changed[0].path} replaced" if len(changed) == 1 else f"{len(changed)} files replaced"
        record_change(session, site_id, operation="replace", title=title, page=changed[0].path, files=changed)


def remove_file(database: Database, site_id: UUID, path: str) -> ChangeRecord:
    """Return the change that took a file out of its site; undoing it brings the file back. Raises NotThereError."""
    with database.transaction() as session:
        load_record(session, site_id, lock="alone")
        file = store.load_file(session, site_id, path)
        if file is None or file.sha256 is None:
            raise NotThereError(f"The site has no file “{path}”.")
        gone = [FileChange(path, file.sha256, None)]
        change = record_change(session, site_id, operation="remove", title=f"{path} removed", page=path, files=gone)
        bring_up_to_date(session, site_id)
        return change


def _objection(path: str, data: bytes) -> str | None:
    """Return why a file is not taken; None where it is."""
    if any(part.lower() in _LEFTOVERS for part in path.split("/")):
        return "left by the system; it is not part of the site"
    objection = find_path_objection(path)
    if objection is not None:
        return objection
    limit = PAGE_BYTES if path.lower().endswith((".html", ".htm")) else FILE_BYTES
    return _too_large(len(data), limit) if len(data) > limit else None


def _too_large(size: int, limit: int) -> str:
    return f"{size / 2**20:.1f} MB; at most {limit // 2**20} MB are taken"


def _common_folder(paths: list[str]) -> str:
    """Return the single folder that all paths begin with, leftovers of the system aside; "" where there is none."""
    firsts = {path.split("/", 1)[0] for path in paths if path.split("/", 1)[0].lower() not in _LEFTOVERS}
    whole = all("/" in path for path in paths)
    return firsts.pop() if len(firsts) == 1 and whole else ""


def _below(path: str, root: str) -> str:
    path = path.removeprefix("./")
    return path[len(root) + 1 :] if root and path.startswith(root + "/") else path
