"""Pages of a folder measured in Chromium, without a window, served on loopback for that long and to nobody else."""

from __future__ import annotations

import json
import mimetypes
import os
import secrets
import shutil
import signal
import socket
import subprocess
import sys
import tempfile
import threading
import time
from collections.abc import Callable, Collection, Iterator, Mapping, Sequence
from contextlib import contextmanager, suppress
from http import HTTPStatus
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from pathlib import Path
from string import Template
from urllib.parse import quote, unquote, urlsplit

from pydantic import TypeAdapter, ValidationError

from signpost.browser.frames import SCRIPTS, Frame, read_script
from signpost.core.landings.geometry import Geometry, Window
from signpost.core.landings.measured import MeasuredPage
from signpost.core.landings.prepared import prepare_page
from signpost.core.page import Page

#: What Chromium is called where it is installed.
_NAMES = ("chromium", "chromium-browser", "google-chrome", "chrome")
#: How long nothing may be heard, in seconds; the driver gives up on a page before that.
_PATIENCE = 45.0
_GLANCE = 0.5  # seconds between two looks at whether it still runs
#: Windows narrower than this are of phones and tablets, whose scroll bars take no room; in CSS pixels.
_BARE_BELOW = 1000
_OPTIONS = (
    "--headless",
    "--disable-gpu",
    "--disable-extensions",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
    "--no-first-run",
    "--no-default-browser-check",
    "--mute-audio",
)
#: As whom Chromium runs where its parent may do everything: as one who may do nothing.
_NOBODY = "nobody"
_GEOMETRY = TypeAdapter(Geometry)


def find_chromium() -> str | None:
    """Return the program; None where it is not installed."""
    return next((found for name in _NAMES if (found := shutil.which(name))), None)


def measure_pages(
    program: str, pages: Mapping[str, Page], read: Callable[[str], bytes | None], window: Window
) -> dict[str, MeasuredPage]:
    """Return pages as they are in a window, by their paths; one that Chromium does not render is left out.

    `program` is Chromium's own, `read` gives the bytes of a file of the site, None where it has none.
    """
    serving = _Serving(pages, read, window)
    size = f"--window-size={window.width + 200},{window.height + 200}"
    with _server(serving) as address, reaching([address]) as only:
        # where no sandbox can be had: scripts of the pages do not run here, so the browser is no way in
        for sandbox in ([], ["--no-sandbox"]):
            with profile() as folder:
                command = [program, *only, *sandbox, size, f"--user-data-dir={folder}", address]
                with running(command, folder) as browser:
                    serving.wait(browser)
            if serving.was_asked:
                break
    return serving.found


@contextmanager
def reaching(origins: Collection[str]) -> Iterator[tuple[str, ...]]:
    """Yield the options of a Chromium without a window that reaches some origins and nothing else.

    All else is sent to a proxy at a port that this process holds and nobody answers at: other hosts, other ports of
    this computer, sockets of the web. Names are not looked up, and nothing goes by UDP, which knows no proxy.
    """
    parts = [urlsplit(origin) for origin in origins]
    hosts = {one.hostname or "" for one in parts}
    with socket.socket() as deaf:
        deaf.bind(("127.0.0.1", 0))
        yield (
            *_OPTIONS,
            f"--proxy-server=http://127.0.0.1:{deaf.getsockname()[1]}",
            f"--proxy-bypass-list=<-loopback>;{';'.join(one.netloc.rpartition('@')[2] for one in parts)}",
            f"--host-resolver-rules=MAP * ~NOTFOUND,{','.join(f'EXCLUDE {host}' for host in sorted(hosts))}",
            "--webrtc-ip-handling-policy=disable_non_proxied_udp",
            "--disable-quic",
        )


@contextmanager
def profile() -> Iterator[str]:
    """Yield an empty folder for a Chromium to keep what it needs; it goes afterwards."""
    alone = _may_do_everything()
    within = "/tmp" if alone else None  # noqa: S108 - whoever may do nothing does not reach the folders of who may
    with tempfile.TemporaryDirectory(prefix="signpost-", ignore_cleanup_errors=True, dir=within) as folder:
        if alone:
            shutil.chown(folder, _NOBODY)
        yield folder


def _may_do_everything() -> bool:
    return getattr(os, "geteuid", lambda: 1)() == 0


@contextmanager
def running(
    command: Sequence[str], home: str, environment: Mapping[str, str] | None = None, handles: Sequence[int] = ()
) -> Iterator[subprocess.Popen[bytes]]:
    """Run a program, and stop it and all that it has started afterwards; it is given some open files.

    Where this process may do everything, the program runs as one who may do nothing, at home in its profile: Chromium
    has no sandbox otherwise.
    """
    quiet = subprocess.DEVNULL
    as_whom = _NOBODY if _may_do_everything() else None
    program = subprocess.Popen(  # noqa: S603 - a list
        command,
        stdout=quiet,
        stderr=quiet,
        start_new_session=True,
        env={**os.environ, "HOME": home, **(environment or {})},
        pass_fds=handles,
        cwd=home,
        user=as_whom,
        group=_group_of(as_whom),
        extra_groups=None if as_whom is None else [],
    )
    try:
        yield program
    finally:
        with suppress(ProcessLookupError):
            os.killpg(program.pid, signal.SIGTERM)
        with suppress(subprocess.TimeoutExpired):
            program.wait(5)
        with suppress(ProcessLookupError):  # those that outlive it
            os.killpg(program.pid, signal.SIGKILL)
        program.wait()


def _group_of(user: str | None) -> int | None:
    if user is None:
        return None
    import pwd  # noqa: PLC0415 - not every system has it, nor one who may do everything

    return pwd.getpwnam(user).pw_gid


class _Serving:
    """What is served while pages are measured, and what was measured."""

    def __init__(self, pages: Mapping[str, Page], read: Callable[[str], bytes | None], window: Window) -> None:
        self.paths: Sequence[str] = sorted(pages)
        self.pages = pages
        self.read = read
        self.window = window
        self.secret = secrets.token_urlsafe(16)  # without which nothing is answered
        self.found: dict[str, MeasuredPage] = {}
        self.was_asked = False  # whether Chromium has come at all
        self._heard = threading.Event()
        self._done = False

    def wait(self, browser: subprocess.Popen[bytes]) -> None:
        """Return once all pages are measured, Chromium has ended, or nothing was heard of it for too long."""
        heard = time.monotonic()
        while not self._done and browser.poll() is None and time.monotonic() - heard < _PATIENCE:
            if self._heard.wait(_GLANCE):
                self._heard.clear()
                heard = time.monotonic()

    def keep(self, number: int | None, facts: bytes) -> None:
        """Keep what was measured of a page; None says that there are no more."""
        if number is None:
            self._done = True
        elif number < len(self.paths):
            path = self.paths[number]
            window = {"width": self.window.width, "height": self.window.height, "text_size": self.window.text_size}
            try:
                geometry = _GEOMETRY.validate_python({"window": window, **json.loads(facts)})
                self.found[path] = MeasuredPage(self.pages[path], geometry)
            except (ValueError, TypeError, ValidationError):
                pass  # as one that was not rendered
        self._heard.set()

    def answer(self, origin: str, path: str) -> tuple[bytes, dict[str, str]] | None:
        """Return what is at a path, and its headers."""
        base = f"/{self.secret}/"
        if not path.startswith(base):
            return None
        self.was_asked = True
        name = path.removeprefix(base)
        if not name:
            return self._driver(), {"content-type": "text/html; charset=utf-8", "cache-control": "no-store"}
        if name.startswith("site/"):
            return self._file(origin + base, unquote(name.removeprefix("site/")))
        if name.removesuffix(".js") in SCRIPTS:
            return read_script(name.removesuffix(".js")), {"content-type": "text/javascript"}
        return None

    def _driver(self) -> bytes:
        addresses = [f"site/{quote(path)}" for path in self.paths]
        written = json.dumps(addresses).replace("<", "\\u003c")
        page = Template((Path(__file__).parent / "driver.html").read_text("utf-8"))
        return page.substitute(pages=written, width=self.window.width, height=self.window.height).encode()

    def _file(self, base: str, path: str) -> tuple[bytes, dict[str, str]] | None:
        frame = Frame(
            base + "site/",
            base,
            None if self.window.text_size == 100 else self.window.text_size,  # noqa: PLR2004 - the usual size
            bare=self.window.width < _BARE_BELOW,
        )
        headers = frame.headers
        if path in self.pages:
            headers["content-type"] = "text/html; charset=utf-8"
            return prepare_page(self.pages[path], frame.additions, frame.mark), headers
        data = self.read(path)
        headers["content-type"] = mimetypes.guess_type(path)[0] or "application/octet-stream"
        return None if data is None else (data, headers)


class _Server(ThreadingHTTPServer):
    """A server whose client may leave at any time."""

    def handle_error(self, request: object, client_address: object) -> None:
        """Say what went wrong, but for a client that has left."""
        if not isinstance(sys.exception(), ConnectionError):
            super().handle_error(request, client_address)  # type: ignore[arg-type]


@contextmanager
def _server(serving: _Serving) -> Iterator[str]:
    """Serve on loopback, and yield the address that Chromium opens."""

    class Handler(BaseHTTPRequestHandler):
        """Answers Chromium."""

        protocol_version = "HTTP/1.1"

        def do_GET(self) -> None:
            found = serving.answer(f"http://{self.headers['host']}", self.path.partition("?")[0])
            self._send(*(found or (b"", {})), HTTPStatus.OK if found else HTTPStatus.NOT_FOUND)

        def do_POST(self) -> None:
            body = self.rfile.read(int(self.headers.get("content-length") or 0))
            base, _, number = self.path.rpartition("/")
            known = base == f"/{serving.secret}" and (number == "done" or (number.isascii() and number.isdigit()))
            if known:
                serving.keep(None if number == "done" else int(number), body)
            self._send(b"", {}, HTTPStatus.NO_CONTENT if known else HTTPStatus.NOT_FOUND)

        def _send(self, data: bytes, headers: Mapping[str, str], status: HTTPStatus) -> None:
            self.send_response(status)
            for name, value in headers.items():
                self.send_header(name, value)
            if status is not HTTPStatus.NO_CONTENT:
                self.send_header("content-length", str(len(data)))
            self.end_headers()
            self.wfile.write(data)

        def log_message(self, *_: object) -> None:
            """Say nothing."""

    with _Server(("127.0.0.1", 0), Handler) as server:
        thread = threading.Thread(target=server.serve_forever, daemon=True)
        thread.start()
        try:
            yield f"http://127.0.0.1:{server.server_port}/{serving.secret}/"
        finally:
            server.shutdown()
            thread.join()
