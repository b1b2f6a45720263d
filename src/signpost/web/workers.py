"""Where use cases run: in processes that can be stopped, so that no page delays another author's work.

A process does one thing at a time. It is stopped, and another takes its place, where the one thing takes too long or
where nobody waits for it any more; what it was writing is rolled back by the database.
"""

from __future__ import annotations

import asyncio
import contextlib
import logging
import multiprocessing
import os
import resource
import signal
import threading
import time
from collections.abc import Callable, Iterable
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from functools import partial
from http import HTTPStatus
from multiprocessing.connection import Connection
from multiprocessing.context import ForkServerContext
from multiprocessing.process import BaseProcess
from typing import Any, Protocol, TypeVar

from starlette.concurrency import run_in_threadpool

from signpost.desk import reading
from signpost.desk.deeds import AUTHOR, Author
from signpost.desk.progress import TELLER, Teller, Told
from signpost.store.database import Database, again_after_deadlock
from signpost.web.errors import RefusedError, explain

T = TypeVar("T")

#: How long a use case may take, in seconds.
DEADLINE = 45.0
#: How often it is looked whether somebody still waits, in seconds.
_GLANCE = 0.25
#: How many people may wait for a process; a further one is told at once that the server is busy.
MOST_WAITING = 60
#: How much memory a process may take, in bytes; a use case that needs more is refused.
MEMORY = 3 * 1024**3

#: How many bytes of pages all processes together keep at hand, and each at least.
KEPT = 192 * 1024**2
_KEPT_AT_LEAST = 16 * 1024**2

_log = logging.getLogger(__name__)
_context: ForkServerContext = multiprocessing.get_context("forkserver")

#: Whether the client has gone.
Gone = Callable[[], Any]


#: How often work tells how far it has come at most, in seconds.
_TOLD_EVERY = 0.2


class Runner(Protocol):
    """Runs use cases: functions of the desk whose first argument is the database."""

    width: int  # how many can run at once

    async def run(self, gone: Gone, use_case: Callable[..., T], *args: Any, **named: Any) -> T:
        """Return what a use case returns, or raise what it raises."""

    async def run_telling(self, gone: Gone, teller: Teller, use_case: Callable[..., T], *args: Any) -> T:
        """Return what a use case returns, or raise what it raises; `teller` is called while it goes on."""

    async def run_in_background(self, use_case: Callable[..., T], *args: Any) -> T:
        """Return what a use case returns that nobody waits for; people always find room beside it."""

    def close(self) -> None:
        """Let all go."""


async def _stays() -> bool:
    """Return that nobody has gone."""
    return False


def _quietly(call: Callable[..., Any], *args: Any) -> None:
    """Call what may have ended already."""
    with contextlib.suppress(RuntimeError):
        call(*args)


class Threads:
    """Runs use cases in this process: nothing is stopped, and whatever a test has replaced is seen."""

    def __init__(self, database: Database) -> None:
        self._database = database
        self.width = 1

    async def run(self, gone: Gone, use_case: Callable[..., T], *args: Any, **named: Any) -> T:  # noqa: ARG002
        """Return what a use case returns."""
        return await run_in_threadpool(again_after_deadlock, use_case, self._database, *args, **named)

    async def run_telling(self, gone: Gone, teller: Teller, use_case: Callable[..., T], *args: Any) -> T:
        """Return what a use case returns."""
        loop = asyncio.get_running_loop()
        TELLER.set(lambda told: _quietly(loop.call_soon_threadsafe, teller, told))
        return await self.run(gone, use_case, *args)

    async def run_in_background(self, use_case: Callable[..., T], *args: Any) -> T:
        """Return what a use case returns."""
        return await self.run(_stays, use_case, *args)

    def close(self) -> None:
        """There is nothing to let go."""


@dataclass(slots=True)
class _Worker:
    """A process, and the way to it."""

    process: BaseProcess
    pipe: Connection

    def stop(self) -> None:
        """Stop the process wherever it is."""
        with contextlib.suppress(OSError):
            self.pipe.close()
        self.process.kill()
        self.process.join(5)


class Processes:
    """Runs use cases in a few processes, each with a connection and pages of its own; one is left to people."""

    def __init__(self, url: str, count: int, deadline: float = DEADLINE) -> None:
        self._url = url
        self.width = count
        self._deadline = deadline
        self._idle: asyncio.LifoQueue[_Worker] = asyncio.LifoQueue()
        self._people = 0  # who wait for a process
        self._background = asyncio.Semaphore(max(count - 1, 1))
        self._workers: dict[int, _Worker] = {}
        self._starting = ThreadPoolExecutor(1, "worker-start")
        self._waiting = ThreadPoolExecutor(count, "worker-wait")
        _context.set_forkserver_preload(["signpost.web.workers", "signpost.desk.changes"])
        for _ in range(count):
            self._idle.put_nowait(self._start())

    def _start(self) -> _Worker:
        ours, theirs = _context.Pipe()
        process = _context.Process(target=_work, args=(theirs, self._url, KEPT // self.width), daemon=True)
        process.start()
        theirs.close()
        worker = _Worker(process, ours)
        self._workers[id(worker)] = worker
        return worker

    async def _replace(self, worker: _Worker) -> None:
        """Stop a process and put another one in its place."""
        self._workers.pop(id(worker), None)
        loop = asyncio.get_running_loop()
        await loop.run_in_executor(self._starting, worker.stop)
        self._idle.put_nowait(await loop.run_in_executor(self._starting, self._start))

    async def run(self, gone: Gone, use_case: Callable[..., T], *args: Any, **named: Any) -> T:
        """Return what a use case returns; raises RefusedError with what it refused, or why it was stopped."""
        return await self._run(gone, None, use_case, args, named)

    async def run_telling(self, gone: Gone, teller: Teller, use_case: Callable[..., T], *args: Any) -> T:
        """Return what a use case returns; it is stopped only where it tells nothing for too long."""
        return await self._run(gone, teller, use_case, args, {})

    async def run_in_background(self, use_case: Callable[..., T], *args: Any) -> T:
        """Return what a use case returns; raises RefusedError as `run` does. One process never does such work."""
        async with self._background:
            return await self._do(await self._idle.get(), _stays, None, use_case, args, {})

    async def _run(self, gone: Gone, teller: Teller | None, use_case: Callable[..., T], args: Any, named: Any) -> T:
        if self._people >= MOST_WAITING:
            raise RefusedError(HTTPStatus.SERVICE_UNAVAILABLE, _BUSY)
        self._people += 1
        try:
            worker = await self._take(gone)
        finally:
            self._people -= 1
        return await self._do(worker, gone, teller, use_case, args, named)

    async def _do(
        self, worker: _Worker, gone: Gone, teller: Teller | None, use_case: Callable[..., T], args: Any, named: Any
    ) -> T:
        answered = False
        try:
            worker.pipe.send((use_case, args, named, AUTHOR.get()))
            refused, found = await self._answer(worker, gone, teller, partial(too_long, use_case, args))
            answered = True
        except (EOFError, OSError) as error:
            raise RefusedError(HTTPStatus.SERVICE_UNAVAILABLE, _BROKEN) from error
        finally:
            if answered:
                self._idle.put_nowait(worker)
            else:
                await asyncio.shield(asyncio.ensure_future(self._replace(worker)))
        if refused:
            raise RefusedError(*found)
        return found  # type: ignore[no-any-return]

    async def _take(self, gone: Gone) -> _Worker:
        """Return a process that has nothing to do, waiting for one as long as somebody waits."""
        waited = 0.0
        while True:
            try:
                return await asyncio.wait_for(self._idle.get(), _GLANCE)
            except TimeoutError:
                waited += _GLANCE
                if await gone():
                    raise RefusedError(HTTPStatus.SERVICE_UNAVAILABLE, "Nobody waits any more.") from None
                if waited > self._deadline:
                    raise RefusedError(HTTPStatus.SERVICE_UNAVAILABLE, _BUSY) from None

    async def _answer(
        self, worker: _Worker, gone: Gone, teller: Teller | None, words: Callable[[float], str]
    ) -> tuple[bool, Any]:
        """Return whether a process refused, and what it says, waiting no longer than the deadline.

        Where it tells how far it has come, and somebody listens, the deadline begins anew.
        """
        loop = asyncio.get_running_loop()
        waited = 0.0
        while True:
            while not await loop.run_in_executor(self._waiting, worker.pipe.poll, _GLANCE):
                waited += _GLANCE
                if await gone():
                    raise RefusedError(HTTPStatus.SERVICE_UNAVAILABLE, "Nobody waits any more.")
                if waited > self._deadline:
                    raise RefusedError(HTTPStatus.SERVICE_UNAVAILABLE, words(self._deadline))
            found: Told | tuple[bool, Any] = await loop.run_in_executor(self._waiting, worker.pipe.recv)
            if not isinstance(found, Told):
                return found
            if teller is not None:
                teller(found)
                waited = 0.0

    def close(self) -> None:
        """Stop all processes."""
        for worker in list(self._workers.values()):
            worker.stop()
        self._starting.shutdown(wait=False)
        self._waiting.shutdown(wait=False)


_BROKEN = "The process that worked on this stopped. See whether it was done, and try again in a moment."
_BUSY = "The server is busy with other pages; nothing was written. Try again in a moment."
#: What took too long, by the desk's room that it was asked of, and what to do about it.
_SUBJECTS = {
    "publishing": ("The host did not get on", "What was sent stays there, and publishing again goes on from it."),
    "publication_plans": ("The host did not get on", "Nothing was sent. See whether it answers, and try again."),
    "live": ("The host did not get on", "What was found stays, and checking again goes on from there."),
    "syncing": ("The folder did not answer", "Nothing is lost. See whether its disk is there, and try again."),
    "linked_folders": (
        "The folder did not answer",
        "Nothing was written. See whether its disk is there, and try again.",
    ),
    "measures": ("The browser did not measure", "The estimate stays. Try again in a moment."),
    "intake": ("Taking the files in was not done", "Nothing was taken in. Bring fewer files at once."),
    "desks": ("Taking the desk in or out was not done", "Nothing was written. Try again in a moment."),
    **dict.fromkeys(
        ("changes", "drafts", "preview", "places", "parts"),
        ("Work on this page was not done", "Nothing was written. Work on a shorter page, or cut it into parts."),
    ),
}
_ANYTHING = ("This was not done", "Nothing was written. Try again in a moment.")


def too_long(use_case: Callable[..., Any], args: Iterable[Any], seconds: float) -> str:
    """Return what people are told where a use case was stopped: what took long, and what fits that.

    A use case may be done by another one, among whose arguments it is then.
    """
    done = next((one for one in args if callable(one)), use_case)
    module = (done.func if isinstance(done, partial) else done).__module__
    what, then = _SUBJECTS.get(module.rpartition(".")[2], _ANYTHING)
    return f"{what} within {seconds:.0f} seconds, so it was stopped. {then}"


def _work(pipe: Connection, url: str, kept: int) -> None:
    """Do what is asked through a pipe, until there is nobody at its other end; `kept` bytes of pages stay at hand."""
    reading.KEPT_BYTES = max(kept, _KEPT_AT_LEAST)
    signal.signal(signal.SIGINT, signal.SIG_IGN)
    threading.Thread(target=_follow_parent, daemon=True).start()
    _bound_memory()
    database = Database(url, connections=1)
    while True:
        try:
            use_case, args, named, author = pipe.recv()
        except (EOFError, OSError):
            return
        AUTHOR.set(author if isinstance(author, Author) else Author())
        TELLER.set(_teller(pipe))
        try:
            pipe.send(_do(use_case, database, args, named))
        except (BrokenPipeError, OSError):
            return


def _teller(pipe: Connection) -> Teller:
    """Return what tells through a pipe how far work has come, now and then."""
    last = 0.0

    def teller(told: Told) -> None:
        nonlocal last
        now = time.monotonic()
        if now - last > _TOLD_EVERY:
            last = now
            pipe.send(told)

    return teller


def _do(use_case: Callable[..., Any], database: Database, args: Any, named: Any) -> tuple[bool, Any]:
    """Return whether a use case refused, and what it says."""
    try:
        return False, again_after_deadlock(use_case, database, *args, **named)
    except MemoryError:
        words = f"This needs more than {MEMORY // 2**30} GB of memory."
        return True, (HTTPStatus.REQUEST_ENTITY_TOO_LARGE, words)
    except Exception as error:  # noqa: BLE001 - whatever went wrong is told, in the words that people are shown
        return True, explain(error)


def _bound_memory() -> None:
    _, hard = resource.getrlimit(resource.RLIMIT_AS)
    most = MEMORY if hard == resource.RLIM_INFINITY else min(MEMORY, hard)
    resource.setrlimit(resource.RLIMIT_AS, (most, hard))


def _follow_parent() -> None:
    """End with the process that this one works for, even where that was killed."""
    multiprocessing.connection.wait([multiprocessing.parent_process().sentinel])  # type: ignore[union-attr]
    os._exit(1)
