"""A host that is reached by WebDAV, for tests: the kept server over a folder, which fails where it is told to."""

from __future__ import annotations

import socket
import threading
import time
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Any

import uvicorn
from a2wsgi import WSGIMiddleware
from wsgidav.wsgidav_app import WsgiDAVApp

USER, PASSWORD = "ada", "made up"


class Host:
    """The application of a host; `fault` is what it does at the request whose number is `at`, 1-based."""

    def __init__(self, root: Path) -> None:
        config: dict[str, Any] = {
            "provider_mapping": {"/": {"root": str(root)}},
            "simple_dc": {"user_mapping": {"*": {USER: {"password": PASSWORD}}}},
            "http_authenticator": {"accept_basic": True, "accept_digest": False, "default_to_digest": False},
            "mount_path": "",
            "dir_browser": {"enable": False},
            "verbose": 0,
            "logging": {"enable": False},
        }
        self._app = WSGIMiddleware(WsgiDAVApp(config))
        self.asked: list[tuple[str, str]] = []
        self.fault, self.at = "", 0
        self.refused: frozenset[str] = frozenset()  # methods that it does not know
        self.elsewhere = b"http://127.0.0.2:1/elsewhere"  # where it leads on to

    def fails(self, fault: str = "", at: int = 0) -> None:
        """Let the request of this number fail, counted from now on."""
        self.asked.clear()
        self.fault, self.at = fault, at

    async def __call__(self, scope, receive, send) -> None:
        if scope["type"] != "http":
            return
        self.asked.append((scope["method"], scope["path"]))
        if scope["method"] in self.refused:
            await _answer(send, 405)
            return
        fault = self.fault if len(self.asked) == self.at else ""
        if fault == "refuses":
            await _answer(send, 500)
        elif fault == "redirects":
            await _answer(send, 302, location=self.elsewhere)
        elif fault == "cuts before":
            await _cut(send)
        elif fault == "cuts after":
            await self._app(scope, receive, _nowhere)
            await _cut(send)
        elif fault == "truncates":
            await self._app(scope, _shortened(receive), send)
        else:
            await self._app(scope, receive, send)


async def _answer(send, status: int, **headers: bytes) -> None:
    said = [(name.encode(), value) for name, value in headers.items()]
    await send({"type": "http.response.start", "status": status, "headers": [*said, (b"content-length", b"0")]})
    await send({"type": "http.response.body", "body": b""})


async def _cut(send) -> None:
    """Begin an answer that never ends, and break off."""
    await send({"type": "http.response.start", "status": 200, "headers": [(b"content-length", b"1000")]})
    await send({"type": "http.response.body", "body": b"half", "more_body": True})
    raise ConnectionResetError


async def _nowhere(_message) -> None:
    """Answer nobody."""


def _shortened(receive):
    async def shorter():
        message = await receive()
        if message.get("type") == "http.request":
            return {**message, "body": message["body"][: len(message["body"]) // 2]}
        return message

    return shorter


@contextmanager
def dav_host(root: Path) -> Iterator[tuple[str, Host]]:
    """Serve a folder, and yield its address and the host."""
    host = Host(root)
    with socket.socket() as free:
        free.bind(("127.0.0.1", 0))
        port = free.getsockname()[1]
    server = uvicorn.Server(uvicorn.Config(host, host="127.0.0.1", port=port, log_level="critical", lifespan="off"))
    thread = threading.Thread(target=server.run, daemon=True)
    thread.start()
    while not server.started:
        time.sleep(0.01)
    try:
        yield f"http://127.0.0.1:{port}", host
    finally:
        server.should_exit = True
        thread.join(10)
