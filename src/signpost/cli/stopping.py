"""A command that is stopped by a signal: it puts right what it began, says one line, and tells by which signal."""

from __future__ import annotations

import signal
from collections.abc import Iterator
from contextlib import contextmanager
from types import FrameType

_SIGNALS = (signal.SIGINT, signal.SIGTERM, signal.SIGHUP)


class StoppedError(BaseException):
    """The command was stopped: no Exception, so that nothing takes it for something that went wrong."""

    def __init__(self, number: int) -> None:
        super().__init__("Stopped after all was written." if _WRITTEN else "Stopped; nothing was written.")
        self.code = 128 + number  # as shells tell it


_WRITTEN: list[str] = []


def note_written(what: str) -> None:
    """Note that something was written, which whoever is stopped from now on says."""
    _WRITTEN.append(what)


def listen() -> None:
    """Let signals that stop the command raise StoppedError wherever it is."""

    def stop(number: int, _frame: FrameType | None) -> None:
        raise StoppedError(number)

    for one in _SIGNALS:
        if signal.getsignal(one) is not signal.SIG_IGN:  # as `nohup` wants it
            signal.signal(one, stop)


@contextmanager
def undisturbed() -> Iterator[None]:
    """Let signals that stop the command wait until the block is left."""
    signal.pthread_sigmask(signal.SIG_BLOCK, _SIGNALS)
    try:
        yield
    finally:
        signal.pthread_sigmask(signal.SIG_UNBLOCK, _SIGNALS)
