"""What routers are given."""

from __future__ import annotations

import asyncio
import json
from collections.abc import AsyncIterator, Callable
from typing import Annotated, Any, Generic, TypeVar
from uuid import UUID

from fastapi import Depends, Path, Query, Request
from fastapi.encoders import jsonable_encoder
from fastapi.responses import StreamingResponse
from pydantic import BaseModel

from signpost.desk.progress import Told
from signpost.desk.syncing import change_with_folder
from signpost.web.errors import explain
from signpost.web.workers import Runner

T = TypeVar("T")


class LinesResponse(StreamingResponse):
    """Lines of JSON that come one after the other."""

    media_type = "application/x-ndjson"


class Line(BaseModel, Generic[T]):
    """A line of an answer that tells how far work has come: one of these."""

    told: Told | None = None
    found: T | None = None
    problem: dict[str, int | str] | None = None


def _line(name: str, value: Any) -> bytes:
    return json.dumps({name: jsonable_encoder(value)}).encode() + b"\n"


class Desk:
    """The desk's use cases, as one request asks for them."""

    def __init__(self, request: Request) -> None:
        self._request = request
        self._runner: Runner = request.app.state.runner

    @property
    def width(self) -> int:
        """How many use cases can run at once."""
        return self._runner.width

    async def run(self, use_case: Callable[..., T], *args: Any, **named: Any) -> T:
        """Return what a use case returns; it is stopped where it takes too long, or where the client leaves."""
        return await self._runner.run(self._request.is_disconnected, use_case, *args, **named)

    async def run_with_folder(self, use_case: Callable[..., T], site_id: UUID, *args: Any) -> T:
        """Return what a use case returns that changes a site; its folder follows, if this server opens folders."""
        if self._request.app.state.folders:
            return await self.run(change_with_folder, site_id, use_case, *args)
        return await self.run(use_case, site_id, *args)

    def stream(self, use_case: Callable[..., Any], *args: Any) -> LinesResponse:
        """Return what a use case tells while it works, and what it returns, as lines of JSON."""
        return LinesResponse(self._run_telling(use_case, *args))

    async def _run_telling(self, use_case: Callable[..., Any], *args: Any) -> AsyncIterator[bytes]:
        """Yield lines of JSON: how far a use case has come, as `told`, and at last its `found`, or a `problem`."""
        lines: asyncio.Queue[bytes] = asyncio.Queue()

        async def work() -> None:
            try:
                found = await self._runner.run_telling(
                    self._request.is_disconnected, lambda told: lines.put_nowait(_line("told", told)), use_case, *args
                )
                lines.put_nowait(_line("found", found))
            except Exception as error:  # noqa: BLE001 - the answer has begun, so whatever went wrong is its last line
                status, words = explain(error)[:2]
                lines.put_nowait(_line("problem", {"status": int(status), "detail": words}))

        working = asyncio.create_task(work())
        try:
            last = False
            while not last:
                line = await lines.get()
                last = not line.startswith(b'{"told"')
                yield line
        finally:
            working.cancel()


Asked = Annotated[Desk, Depends(Desk)]
SiteId = Annotated[UUID, Path()]
PathQuery = Annotated[str, Query(min_length=1, max_length=400)]
#: How many of a list are given at most.
Limit = Annotated[int, Query(ge=1, le=500)]
