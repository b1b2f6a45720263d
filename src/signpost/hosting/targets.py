"""Places that a site is published to: a folder, a host by WebDAV, a host by SFTP."""

from __future__ import annotations

import base64
import contextlib
import posixpath
import stat
import urllib.error
import urllib.request
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import TYPE_CHECKING, Protocol
from urllib.parse import quote, urlsplit

from signpost.core.text.errors import InputError, RequestError
from signpost.folders.writing import Step, hash_at, write_all

if TYPE_CHECKING:
    from paramiko import SFTPClient, SSHClient

_PATIENCE = 30  # seconds that a host is waited for


class Target(Protocol):
    """A place that files are put to. Paths are the site's; all raise InputError where the place does not answer."""

    def read(self, path: str) -> bytes | None:
        """Return a file's bytes; None for one that is not there."""

    def write(self, path: str, data: bytes) -> None:
        """Put a file there, in the place of one that is."""

    def delete(self, path: str) -> None:
        """Take a file away; one that is not there is no mistake."""

    def close(self) -> None:
        """Let the place go."""


class FolderTarget:
    """A folder of this machine."""

    def __init__(self, root: Path) -> None:
        self._root = root

    def read(self, path: str) -> bytes | None:
        """Return a file's bytes; None for one that is not there."""
        with _told(str(self._root)):
            return None if hash_at(self._root, path) is None else (self._root / path).read_bytes()

    def write(self, path: str, data: bytes) -> None:
        """Put a file there whole."""
        with _told(str(self._root)):
            self._root.mkdir(parents=True, exist_ok=True)
            write_all(self._root, [Step(path, hash_at(self._root, path), data)])

    def delete(self, path: str) -> None:
        """Take a file away."""
        with _told(str(self._root)):
            write_all(self._root, [Step(path, hash_at(self._root, path), None)])

    def close(self) -> None:
        """There is nothing to let go."""


class DavTarget:
    """A folder of a host, by WebDAV (RFC 4918)."""

    def __init__(self, address: str, user: str = "", password: str = "") -> None:
        parts = urlsplit(address)
        if parts.scheme not in ("http", "https") or not parts.hostname:
            raise RequestError("A WebDAV address begins with https:// and names the folder, as the host tells it.")
        if parts.scheme == "http" and parts.hostname not in ("127.0.0.1", "localhost", "::1"):
            raise RequestError("The password would travel in the clear. Use the host's address with https://.")
        self._address = address.rstrip("/")
        self._made: set[str] = set()
        self._headers = {}
        if user:
            said = base64.b64encode(f"{user}:{password}".encode()).decode()
            self._headers["authorization"] = f"Basic {said}"

    def read(self, path: str) -> bytes | None:
        """Return a file's bytes; None for one that is not there."""
        status, data = self._ask("GET", path)
        return None if status == 404 else data  # noqa: PLR2004 - RFC 9110, 15.5.5

    def write(self, path: str, data: bytes) -> None:
        """Put a file there, with the folders that it is in."""
        folder = ""
        for part in posixpath.dirname(path).split("/"):
            folder = posixpath.join(folder, part)
            if folder and folder not in self._made:
                self._ask("MKCOL", folder, allowed=(405,))
                self._made.add(folder)
        self._ask("PUT", path, data)

    def delete(self, path: str) -> None:
        """Take a file away."""
        self._ask("DELETE", path)

    def close(self) -> None:
        """Each request ends by itself."""

    def _ask(
        self, method: str, path: str, data: bytes | None = None, allowed: tuple[int, ...] = ()
    ) -> tuple[int, bytes]:
        request = urllib.request.Request(  # noqa: S310 - checked to be http or https
            f"{self._address}/{quote(path)}", data, {**self._headers, "accept-encoding": "identity"}, method=method
        )
        try:
            with urllib.request.urlopen(request, timeout=_PATIENCE) as answer:  # noqa: S310
                return answer.status, answer.read()
        except urllib.error.HTTPError as error:
            if error.code == 404 and method in ("GET", "DELETE"):  # noqa: PLR2004
                return 404, b""
            if error.code in allowed:
                return error.code, b""
            if error.code in (401, 403):
                raise InputError("The host refuses the user's name or password.") from error
            raise InputError(f"The host refuses {method} of {path}: {error.code} {error.reason}.") from error
        except OSError as error:
            raise InputError(f"{self._address} does not answer: {getattr(error, 'reason', error)}.") from error


class SftpTarget:
    """A folder of a host, by SFTP; its key has to be known already."""

    def __init__(self, address: str, user: str, password: str, known_hosts: Path | None = None) -> None:
        parts = urlsplit(address)
        if parts.scheme != "sftp" or not parts.hostname:
            raise RequestError("An SFTP address is written as sftp://host/folder.")
        self._root, self._host, self._port = parts.path or "/", parts.hostname, parts.port or 22
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
                timeout=_PATIENCE,
                allow_agent=not self._password,
                look_for_keys=not self._password,
            )
            self._sftp = self._client.open_sftp()
        return self._sftp

    def close(self) -> None:
        """End the connection."""
        if self._client is not None:
            self._client.close()
        self._client = self._sftp = None

    @contextmanager
    def _connected(self) -> Iterator[SFTPClient]:
        import paramiko  # noqa: PLC0415 - slow to load, and seldom needed

        try:
            yield self._open()
        except paramiko.AuthenticationException as error:
            raise InputError("The host refuses the user's name, password or key.") from error
        except paramiko.BadHostKeyException as error:
            raise InputError(
                "The host has another key than the one that is known. Ask your host before going on."
            ) from error
        except paramiko.SSHException as error:
            self.close()
            raise InputError(
                f"{self._host} is not known yet: connect once with ssh or sftp to check its key. ({error})"
            ) from error
        except FileNotFoundError:
            raise
        except OSError as error:
            self.close()
            raise InputError(f"{self._host} does not answer: {error}.") from error

    def _at(self, path: str) -> str:
        return posixpath.join(self._root, path)

    def read(self, path: str) -> bytes | None:
        """Return a file's bytes; None for one that is not there."""
        try:
            with self._connected() as sftp, sftp.open(self._at(path), "rb") as file:
                file.prefetch()  # asked for piece by piece, each would wait for the one before
                return bytes(file.read())
        except FileNotFoundError:
            return None

    def write(self, path: str, data: bytes) -> None:
        """Put a file there whole: beside its place first, where the host can put it in place of another."""
        with self._connected() as sftp:
            folder = ""
            for part in posixpath.dirname(path).split("/"):
                folder = posixpath.join(folder, part)
                if folder and folder not in self._made:
                    with contextlib.suppress(OSError):
                        sftp.mkdir(self._at(folder))
                    self._made.add(folder)
            waiting = self._at(posixpath.join(posixpath.dirname(path), f".signpost-{posixpath.basename(path)}"))
            with sftp.open(waiting, "wb") as file:
                file.set_pipelined(True)
                file.write(data)
            with contextlib.suppress(OSError):
                sftp.chmod(waiting, stat.S_IMODE(sftp.stat(self._at(path)).st_mode or 0o644))
            sftp.posix_rename(waiting, self._at(path))

    def delete(self, path: str) -> None:
        """Take a file away."""
        with contextlib.suppress(FileNotFoundError), self._connected() as sftp:
            sftp.remove(self._at(path))


@contextmanager
def _told(place: str) -> Iterator[None]:
    """Let what goes wrong with a folder be told in words."""
    try:
        yield
    except OSError as error:
        raise InputError(f"{place} cannot be used: {error.strerror or error}.") from error
