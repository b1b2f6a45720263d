"""A host that is reached by SFTP, for tests: the library's own server over a folder, with one user."""

from __future__ import annotations

import errno
import os
import socket
import threading
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

import paramiko

USER, PASSWORD = "ada", "made up"


class _Door(paramiko.ServerInterface):
    """Lets one user in."""

    def check_auth_password(self, username: str, password: str) -> int:
        known = (username, password) == (USER, PASSWORD)
        return paramiko.common.AUTH_SUCCESSFUL if known else paramiko.common.AUTH_FAILED

    def check_channel_request(self, kind: str, chanid: int) -> int:  # noqa: ARG002
        return paramiko.common.OPEN_SUCCEEDED


class _Handle(paramiko.SFTPHandle):
    """A file that is open."""

    def stat(self):
        return paramiko.SFTPAttributes.from_stat(os.fstat(self.readfile.fileno()))


class _Files(paramiko.SFTPServerInterface):
    """The files of a folder."""

    root = Path()
    said = None  # is called with each request's name; what it raises as OSError is refused

    def _at(self, path: str) -> Path:
        return self.root / path.lstrip("/")

    def _say(self, request: str) -> None:
        if type(self).said is not None:
            type(self).said(request)

    def _do(self, work, *args) -> int:
        try:
            self._say(getattr(work, "__name__", "work"))
            work(*args)
        except OSError as error:
            return paramiko.SFTPServer.convert_errno(error.errno)
        return paramiko.sftp.SFTP_OK

    def stat(self, path: str):
        try:
            self._say("stat")
            return paramiko.SFTPAttributes.from_stat(self._at(path).stat())
        except OSError as error:
            return paramiko.SFTPServer.convert_errno(error.errno)

    lstat = stat

    def list_folder(self, path: str):
        try:
            self._say("list")
            return [
                paramiko.SFTPAttributes.from_stat(one.stat(), one.name) for one in sorted(self._at(path).iterdir())
            ]
        except OSError as error:
            return paramiko.SFTPServer.convert_errno(error.errno)

    def open(self, path: str, flags: int, attr):  # noqa: ARG002
        try:
            self._say("open")
            number = os.open(self._at(path), flags, 0o644)
        except OSError as error:
            return paramiko.SFTPServer.convert_errno(error.errno)
        handle = _Handle(flags)
        handle.readfile = handle.writefile = os.fdopen(
            number, "r+b" if flags & os.O_RDWR else "wb" if flags & os.O_WRONLY else "rb"
        )
        return handle

    def remove(self, path: str) -> int:
        return self._do(self._at(path).unlink)

    def rename(self, old: str, new: str) -> int:
        if self._at(new).exists():
            return paramiko.sftp.SFTP_FAILURE
        return self._do(self._at(old).rename, self._at(new))

    def posix_rename(self, old: str, new: str) -> int:
        return self._do(self._at(old).replace, self._at(new))

    def mkdir(self, path: str, attr) -> int:  # noqa: ARG002
        return self._do(self._at(path).mkdir)

    def chattr(self, path: str, attr) -> int:
        return self._do(self._at(path).chmod, attr.st_mode)


@contextmanager
def sftp_host(root: Path, known_hosts: Path, said=None) -> Iterator[tuple[str, list[str]]]:
    """Serve a folder, and yield its address and a list of the connections that came; its key is among the known.

    `said` is called with the name of each request; what it raises as OSError is refused, and what it raises as EOFError
    ends the connection.
    """
    key = paramiko.RSAKey.generate(2048)
    listening = socket.create_server(("127.0.0.1", 0))
    port = listening.getsockname()[1]
    keys = paramiko.HostKeys()
    keys.add(f"[127.0.0.1]:{port}", key.get_name(), key)
    keys.save(str(known_hosts))
    open_, came = [], []

    def say(request: str) -> None:
        try:
            if said is not None:
                said(request)
        except EOFError as error:
            for transport in open_:
                transport.close()
            raise OSError(errno.EIO, "cut") from error

    files = type("Files", (_Files,), {"root": root, "said": staticmethod(say)})

    def serve() -> None:
        while True:
            try:
                one, address = listening.accept()
            except OSError:
                return
            came.append(str(address))
            transport = paramiko.Transport(one)
            transport.add_server_key(key)
            transport.set_subsystem_handler("sftp", paramiko.SFTPServer, files)
            open_.append(transport)
            # With an event it does not wait here, where one who hangs up early would end the host for all who come later.
            transport.start_server(event=threading.Event(), server=_Door())

    threading.Thread(target=serve, daemon=True).start()
    try:
        yield f"sftp://127.0.0.1:{port}", came
    finally:
        listening.close()
        for transport in open_:
            transport.close()
