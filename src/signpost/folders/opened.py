"""A folder held open, so that its files are reached from it alone: no link, in no part of a path, leads elsewhere."""

from __future__ import annotations

import errno
import hashlib
import os
import stat
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from types import TracebackType

_FOLDER = os.O_RDONLY | os.O_DIRECTORY | os.O_NOFOLLOW | os.O_CLOEXEC
_FILE = os.O_RDONLY | os.O_NOFOLLOW | os.O_NONBLOCK | os.O_CLOEXEC  # a pipe that nobody writes to is not waited for
_PIECE = 1024 * 1024  # bytes read at a time


class UnfitError(OSError):
    """Something in the place of a file that no file of a site can be; `strerror` says what it is."""

    remedy = "Put a plain file in its place, or leave it out in .gitignore."

    def __init__(self, path: str, what: str) -> None:
        super().__init__(errno.EINVAL, what, path)


class TooLargeError(UnfitError):
    """A file of more bytes than are read."""

    remedy = "Make it smaller, or leave it out in .gitignore."

    def __init__(self, path: str, most: int) -> None:
        super().__init__(path, f"larger than {most // 2**20} MB")


class OpenedFolder:
    """A folder held open. Paths within are the site's, with "/"; each part of them has to be a folder, and no link.

    What is not there is told as None; whatever else the system refuses is raised as OSError.
    """

    def __init__(self, root: Path) -> None:
        """Open a folder by its full path, of which no part may be a link. Raises OSError where one is, or is none."""
        self.root = root
        self._handle = _open_plain(root)

    def __enter__(self) -> OpenedFolder:
        return self

    def __exit__(
        self, kind: type[BaseException] | None, error: BaseException | None, trace: TracebackType | None
    ) -> None:
        self.close()

    def close(self) -> None:
        """Let the folder go."""
        os.close(self._handle)

    @contextmanager
    def within(self, path: str, *, make: bool = False) -> Iterator[tuple[int, str]]:
        """Give a handle of the folder that a path is in, and the path's last part; with `make`, it is made.

        Raises FileNotFoundError or NotADirectoryError where there is none, and UnfitError where a link is on the way.
        """
        *folders, name = path.split("/")
        handle = os.dup(self._handle)
        try:
            for folder in folders:
                if make:
                    _make(handle, folder)
                further = _enter(handle, folder, path)
                os.close(handle)
                handle = further
            yield handle, name
        finally:
            os.close(handle)

    @contextmanager
    def folder(self, path: str) -> Iterator[int]:
        """Give a handle of a folder within; of the folder itself for ""."""
        with self.within(f"{path}/." if path else ".") as (handle, _):
            yield handle

    def about(self, path: str) -> os.stat_result | None:
        """Return what the system says of a file or folder, of a link itself; None where nothing is there."""
        try:
            with self.within(path) as (handle, name):
                return os.stat(name, dir_fd=handle, follow_symlinks=False)
        except (FileNotFoundError, NotADirectoryError):
            return None

    def about_beside(self, path: str, name: str) -> os.stat_result | None:
        """Return what the system says of a file in the folder that a path is in; None where nothing is there."""
        return self.about(_beside(path, name))

    def hash_beside(self, path: str, name: str) -> str | None:
        """Return the SHA-256 of a file in the folder that a path is in, as `hash` does."""
        return self.hash(_beside(path, name))

    def read_beside(self, path: str, name: str, most: int | None = None) -> bytes | None:
        """Return the bytes of a file in the folder that a path is in, as `read` does."""
        return self.read(_beside(path, name), most)

    def is_empty(self) -> bool:
        """Return whether nothing at all is in the folder."""
        with self.folder("") as handle, os.scandir(handle) as entries:
            return next(entries, None) is None

    def read(self, path: str, most: int | None = None) -> bytes | None:
        """Return a file's bytes; None where nothing is there.

        Raises UnfitError for what is no plain file, and for one of more than `most` bytes.
        """
        try:
            with self.within(path) as (handle, name):
                return read_plain(handle, name, path, most)
        except (FileNotFoundError, NotADirectoryError):
            return None

    def measure(self, path: str, most: int | None = None) -> tuple[str, int]:
        """Return the SHA-256 of a file, in hexadecimal digits, and its size in bytes.

        Raises FileNotFoundError where nothing is there, UnfitError for what is no plain file or has more bytes.
        """
        with self.within(path) as (handle, name):
            return measure_plain(handle, name, path, most)

    def hash(self, path: str) -> str | None:
        """Return the SHA-256 of a file, in hexadecimal digits; None where nothing is there. Raises as `read` does."""
        try:
            with self.within(path) as (handle, name):
                return hash_plain(handle, name, path)
        except (FileNotFoundError, NotADirectoryError):
            return None

    def sync(self, path: str) -> None:
        """Let the disk keep which files a folder has; where it cannot be asked to, it does so in its own time."""
        try:
            with self.folder(path) as handle:
                os.fsync(handle)
        except OSError:
            return

    def drop_empty(self, path: str) -> None:
        """Remove the folders that a file has left empty."""
        parts = path.split("/")[:-1]
        while parts:
            try:
                with self.within("/".join(parts)) as (handle, name):
                    os.rmdir(name, dir_fd=handle)
            except OSError:
                return
            parts.pop()


def _beside(path: str, name: str) -> str:
    folder = path.rpartition("/")[0]
    return f"{folder}/{name}" if folder else name


def _open_plain(root: Path) -> int:
    """Return a handle of a folder; each part of its path is opened by itself, so that none is a link."""
    handle = os.open(root.anchor, _FOLDER)
    try:
        for part in root.parts[1:]:
            further = _enter(handle, part, str(root))
            os.close(handle)
            handle = further
    except BaseException:
        os.close(handle)
        raise
    return handle


def _enter(handle: int, name: str, path: str) -> int:
    try:
        return os.open(name, _FOLDER, dir_fd=handle)
    except OSError as error:
        if error.errno in (errno.ELOOP, errno.ENOTDIR) and _is_link(handle, name):
            raise UnfitError(path, "behind a link to another place; links are not followed") from error
        raise


def _is_link(handle: int, name: str) -> bool:
    try:
        return stat.S_ISLNK(os.stat(name, dir_fd=handle, follow_symlinks=False).st_mode)
    except OSError:
        return False


def _make(handle: int, name: str) -> None:
    try:
        os.mkdir(name, dir_fd=handle)
    except FileExistsError:
        return


@contextmanager
def opened_plain(handle: int, name: str, path: str) -> Iterator[int]:
    """Give a handle of a plain file in a folder. Raises UnfitError for anything else, which is not waited for."""
    try:
        file = os.open(name, _FILE, dir_fd=handle)
    except OSError as error:
        if error.errno == errno.ELOOP:
            raise UnfitError(path, "a link to another place; links are not followed") from error
        if error.errno == errno.ENXIO:  # a socket
            raise UnfitError(path, "no plain file") from error
        raise
    try:
        mode = os.fstat(file).st_mode
        if not stat.S_ISREG(mode):
            raise UnfitError(path, _KINDS.get(stat.S_IFMT(mode), "no plain file"))
        yield file
    finally:
        os.close(file)


_KINDS = {
    stat.S_IFDIR: "a folder, and no file",
    stat.S_IFIFO: "a pipe, and no file",
    stat.S_IFCHR: "a device, and no file",
    stat.S_IFBLK: "a device, and no file",
}


def read_plain(handle: int, name: str, path: str, most: int | None = None) -> bytes:
    """Return the bytes of a plain file in a folder. Raises UnfitError for anything else, or for more than `most`."""
    return b"".join(_pieces(handle, name, path, most))


def measure_plain(handle: int, name: str, path: str, most: int | None = None) -> tuple[str, int]:
    """Return the SHA-256 and the size of a plain file in a folder, never held whole. Raises as `read_plain` does."""
    digest, size = hashlib.sha256(), 0
    for piece in _pieces(handle, name, path, most):
        digest.update(piece)
        size += len(piece)
    return digest.hexdigest(), size


def hash_plain(handle: int, name: str, path: str) -> str:
    """Return the SHA-256 of a plain file in a folder. Raises as `read_plain` does."""
    return measure_plain(handle, name, path)[0]


def _pieces(handle: int, name: str, path: str, most: int | None) -> Iterator[bytes]:
    size = 0
    with opened_plain(handle, name, path) as file:
        while piece := os.read(file, _PIECE):
            size += len(piece)
            if most is not None and size > most:
                raise TooLargeError(path, most)
            yield piece
