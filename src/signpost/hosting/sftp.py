"""A folder of a host, by SFTP; the host's key has to be known already."""

from __future__ import annotations

import contextlib
import posixpath
import stat
from collections.abc import Collection, Iterator, Mapping
from contextlib import contextmanager
from pathlib import Path
from typing import TYPE_CHECKING
from urllib.parse import unquote

from signpost.core.text.errors import InputError
from signpost.hosting.addresses import SFTP, read_address
from signpost.hosting.targets import MOST_BYTES, PATIENCE, ChangedThereError, Remote, beside, folders_of

if TYPE_CHECKING:
    from paramiko import SFTPClient, SSHClient


class SftpTarget:
    """A folder of a host, by SFTP; its key has to be known already."""

    width = 1

    def __init__(self, address: str, user: str, password: str, known_hosts: Path | None = None) -> None:
        found = read_address(address, SFTP)
        self._root, self._host, self._port = unquote(found.path), found.host, found.port
        self._user, self._password, self._known = user, password, known_hosts
        self._made: set[str] = set()
        self._client: SSHClient | None = None
        self._sftp: SFTPClient | None = None

    def _open(self) -> SFTPClient:
        """Return the connection, which stays for all that is done."""
        import paramiko  # noqa: PLC0415 - slow to load, and seldom needed

        if self._sftp is None:
            self._client = paramiko.SSHClient()
            self._client.load_system_host_keys(None if self._known is None else str(self._known))
            self._client.connect(
                self._host,
                self._port,
                self._user or None,
                self._password or None,
                timeout=PATIENCE,
                allow_agent=not self._password,
                look_for_keys=not self._password,
            )
            self._sftp = self._client.open_sftp()
            channel = self._sftp.get_channel()
            if channel is not None:
                channel.settimeout(PATIENCE)
        return self._sftp

    def close(self) -> None:
        """End the connection."""
        if self._client is not None:
            self._client.close()
        self._client = self._sftp = None

    @contextmanager
    def _connected(self, doing: str) -> Iterator[SFTPClient]:
        """Give the connection; what the host says of `doing` is told in its own words."""
        import paramiko  # noqa: PLC0415 - slow to load, and seldom needed

        try:
            yield self._open()
        except paramiko.AuthenticationException as error:
            raise InputError("The host refuses the user's name, password or key.") from error
        except paramiko.BadHostKeyException as error:
            raise InputError(
                "The host has another key than the one that is known. Ask your host before going on."
            ) from error
        except FileNotFoundError:
            raise
        except paramiko.SSHException as error:
            self.close()
            if "known_hosts" in str(error):
                raise InputError(
                    f"{self._host} is not known yet: connect once with ssh or sftp to check its key."
                ) from error
            raise InputError(f"{self._host} does not answer: {error}.") from error
        except (OSError, EOFError) as error:
            refused = isinstance(error, OSError) and self._is_open()
            if refused:
                raise InputError(f"The host refuses {doing}: {error.strerror or error}.") from error  # type: ignore[union-attr]
            self.close()
            raise InputError(f"{self._host} does not answer: {error or 'the connection broke'}.") from error

    def _is_open(self) -> bool:
        transport = None if self._client is None else self._client.get_transport()
        return transport is not None and transport.is_active()

    def _at(self, path: str) -> str:
        return posixpath.join(self._root, path)

    def look(self, paths: Collection[str]) -> Mapping[str, Remote]:
        """Return what is known of those of some files that are there, asked folder by folder."""
        found: dict[str, Remote] = {}
        if len(paths) == 1:
            (path,) = paths
            with contextlib.suppress(FileNotFoundError), self._connected(f"looking at {path}") as sftp:
                one = sftp.stat(self._at(path))
                found[path] = Remote(one.st_size, str(one.st_mtime or ""))
            return found
        for folder in sorted({posixpath.dirname(path) for path in paths}):
            with contextlib.suppress(FileNotFoundError), self._connected(f"listing {folder or '/'}") as sftp:
                for one in sftp.listdir_attr(self._at(folder) if folder else self._root):
                    path = posixpath.join(folder, one.filename)
                    if path in paths and not stat.S_ISDIR(one.st_mode or 0):
                        found[path] = Remote(one.st_size, str(one.st_mtime or ""))
        return found

    def read(self, path: str) -> bytes | None:
        """Return a file's bytes; None for one that is not there."""
        try:
            with self._connected(f"reading {path}") as sftp, sftp.open(self._at(path), "rb") as file:
                if (file.stat().st_size or 0) > MOST_BYTES:
                    raise InputError(f"{path} has more than {MOST_BYTES // 2**20} MB at the host.")
                file.prefetch()  # asked for piece by piece, each would wait for the one before
                return bytes(file.read(MOST_BYTES))
        except FileNotFoundError:
            return None

    def write(self, path: str, data: bytes, seen: Remote | None) -> bool:
        """Put a file there: beside its place first, and renamed there once it reads back as it was sent."""
        waiting = beside(path)
        with self._connected(f"writing {path}") as sftp:
            for folder in folders_of(path):
                if folder not in self._made:
                    with contextlib.suppress(OSError):
                        sftp.mkdir(self._at(folder))
                    self._made.add(folder)
            with sftp.open(self._at(waiting), "wb") as file:
                file.set_pipelined(True)
                file.write(data)
            mode = 0o644
            with contextlib.suppress(OSError):
                mode = stat.S_IMODE(sftp.stat(self._at(path)).st_mode or mode)
            with contextlib.suppress(OSError):
                sftp.chmod(self._at(waiting), mode)
        if self.read(waiting) != data:
            self.clear(path)
            return False
        try:
            self._refuse_changed(path, seen)
        except ChangedThereError:
            self.clear(path)
            raise
        with self._connected(f"renaming {waiting} to {path}") as sftp:
            self._put(sftp, waiting, path, new=seen is None)
        return True

    def _refuse_changed(self, path: str, seen: Remote | None) -> None:
        """Raise ChangedThereError for a file that is not as it was seen; a new one is refused by the host itself."""
        if seen is not None and self.look([path]).get(path) not in (seen, None):
            raise ChangedThereError(path)

    def _put(self, sftp: SFTPClient, waiting: str, path: str, *, new: bool) -> None:
        """Rename a file to its place. A host that does not put one in place of another gets it in two steps."""
        place, aside = self._at(path), f"{self._at(waiting)}-old"
        if new:
            try:
                sftp.rename(self._at(waiting), place)  # refused where something is there (version 3 of the protocol)
            except OSError as error:
                if not _is_there(sftp, place):
                    raise
                self.clear(path)
                raise ChangedThereError(path) from error
            return
        try:
            sftp.posix_rename(self._at(waiting), place)
        except OSError:  # an extension of OpenSSH, which others may not have
            sftp.rename(place, aside)
            try:
                sftp.rename(self._at(waiting), place)
            except OSError:
                sftp.rename(aside, place)
                raise
            sftp.remove(aside)

    def delete(self, path: str, seen: Remote) -> None:
        """Take a file away."""
        self._refuse_changed(path, seen)
        with contextlib.suppress(FileNotFoundError), self._connected(f"deleting {path}") as sftp:
            sftp.remove(self._at(path))

    def clear(self, path: str) -> None:
        """Take away what was left beside a file's place; a file that waits aside is put back first."""
        waiting = self._at(beside(path))
        with contextlib.suppress(FileNotFoundError), self._connected(f"tidying up beside {path}") as sftp:
            if _is_there(sftp, f"{waiting}-old"):
                if _is_there(sftp, self._at(path)):
                    sftp.remove(f"{waiting}-old")
                else:
                    sftp.rename(f"{waiting}-old", self._at(path))
            sftp.remove(waiting)


def _is_there(sftp: SFTPClient, path: str) -> bool:
    try:
        sftp.stat(path)
    except FileNotFoundError:
        return False
    return True
