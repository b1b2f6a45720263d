"""Chromium driven through its debugging pipe: commands and answers as JSON, each ended by a NUL."""

from __future__ import annotations

import json
import os
import select
import time
from collections.abc import Iterator, Sequence
from contextlib import contextmanager
from typing import Any

from signpost.browser.chromium import profile, running

#: How long an answer is waited for, in seconds.
_PATIENCE = 30.0
_PIECE = 1 << 16  # bytes that are read at once
#: Chromium reads commands at 3 and answers at 4. It takes more address space than its parent may.
_START = 'ulimit -S -v unlimited 2>/dev/null; exec "$@" 3<&"$SIGNPOST_IN" 4>&"$SIGNPOST_OUT"'


class DevtoolsError(Exception):
    """Chromium does not answer, or refuses a command."""


class Tab:
    """A page that Chromium has open."""

    def __init__(self, write: int, read: int) -> None:
        self._write, self._read = write, read
        self._waiting = b""
        self._number = 0
        self._session = ""
        self._seen: list[str] = []
        target = self.ask("Target.createTarget", url="about:blank")["targetId"]
        self._session = self.ask("Target.attachToTarget", targetId=target, flatten=True)["sessionId"]
        self.ask("Page.enable")

    def ask(self, method: str, patience: float = _PATIENCE, **parameters: Any) -> dict[str, Any]:
        """Return what a command answers. Raises DevtoolsError."""
        self._number += 1
        said: dict[str, Any] = {"id": self._number, "method": method, "params": parameters}
        if self._session:
            said["sessionId"] = self._session
        try:
            os.write(self._write, json.dumps(said).encode() + b"\0")
        except OSError as error:
            raise DevtoolsError("Chromium has ended.") from error
        until = time.monotonic() + patience
        while True:
            found = self._next(until)
            if found.get("id") == self._number:
                if "error" in found:
                    raise DevtoolsError(str(found["error"].get("message", method)))
                answer: dict[str, Any] = found.get("result", {})
                return answer
            self._seen.append(str(found.get("method", "")))

    def open(self, address: str) -> None:
        """Go to an address, and return once its page is loaded. Raises DevtoolsError."""
        self._seen.clear()
        found = self.ask("Page.navigate", url=address)
        if "errorText" in found:
            raise DevtoolsError(f"{address}: {found['errorText']}")
        until = time.monotonic() + _PATIENCE
        while "Page.loadEventFired" not in self._seen:
            self._seen.append(str(self._next(until).get("method", "")))

    def evaluate(self, expression: str) -> Any:
        """Return the value of an expression on the page, once it is settled. Raises DevtoolsError."""
        found = self.ask("Runtime.evaluate", expression=expression, awaitPromise=True, returnByValue=True)
        if "exceptionDetails" in found:
            raise DevtoolsError(str(found["exceptionDetails"].get("text", "a script failed")))
        return found["result"].get("value")

    def _next(self, until: float) -> dict[str, Any]:
        """Return the next message. Raises DevtoolsError where none comes in time."""
        while b"\0" not in self._waiting:
            left = until - time.monotonic()
            if left <= 0 or not select.select([self._read], [], [], left)[0]:
                raise DevtoolsError("Chromium does not answer.")
            piece = os.read(self._read, _PIECE)
            if not piece:
                raise DevtoolsError("Chromium has ended.")
            self._waiting += piece
        line, _, self._waiting = self._waiting.partition(b"\0")
        message: dict[str, Any] = json.loads(line)
        return message


@contextmanager
def open_tab(program: str, options: Sequence[str]) -> Iterator[Tab]:
    """Run Chromium with options, and yield a page of it; it ends with that, or with this process."""
    into, out = os.pipe(), os.pipe()
    ours = {*into, *out}  # each is closed once: its number may be that of another file by then
    with profile() as home:
        command = [program, *options, "--remote-debugging-pipe", f"--user-data-dir={home}", "about:blank"]
        environment = {"SIGNPOST_IN": str(into[0]), "SIGNPOST_OUT": str(out[1])}
        try:
            with running(["bash", "-c", _START, "chromium", *command], home, environment, (into[0], out[1])):
                for theirs in (into[0], out[1]):
                    ours.discard(theirs)
                    os.close(theirs)
                yield Tab(into[1], out[0])
        finally:
            for one in ours:
                os.close(one)
