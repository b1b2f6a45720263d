"""The reading of sites that somebody waits for: one for each site, however many look on."""

from __future__ import annotations

import asyncio
from collections.abc import AsyncIterator
from dataclasses import dataclass, field
from uuid import UUID

from signpost.desk import working
from signpost.desk.working import WorkLeft
from signpost.web.workers import Runner


@dataclass(frozen=True, slots=True)
class Progress:
    """How far the reading of a site has come."""

    left: WorkLeft
    total: int  # of what is done next


@dataclass
class _Reading:
    """The reading of one site."""

    latest: Progress | None = None
    problem: Exception | None = None
    is_over: bool = False
    followers: int = 0
    news: asyncio.Condition = field(default_factory=asyncio.Condition)
    task: asyncio.Task[None] | None = None

    async def wait_beyond(self, told: Progress | None) -> None:
        """Return once there is something else to tell, or nothing any more."""
        async with self.news:
            await self.news.wait_for(lambda: self.is_over or self.latest is not told)


class Readings:
    """Has sites read and checked by as many processes as may work in the background, as long as somebody looks on."""

    def __init__(self, runner: Runner) -> None:
        self._runner = runner
        self._going: dict[UUID, _Reading] = {}

    async def follow(self, site_id: UUID) -> AsyncIterator[Progress]:
        """Yield how far the reading of a site has come, until there is no more to do. Raises what its work raises."""
        reading = self._going.get(site_id)
        if reading is None:
            reading = self._going[site_id] = _Reading()
            reading.task = asyncio.create_task(self._read(site_id, reading))
        reading.followers += 1
        told: Progress | None = None
        try:
            while not reading.is_over or reading.latest is not told:
                await reading.wait_beyond(told)
                if reading.latest is not None and reading.latest is not told:
                    told = reading.latest
                    yield told
            if reading.problem is not None:
                raise reading.problem
        finally:
            reading.followers -= 1
            if not reading.followers and reading.task is not None:
                reading.task.cancel()
                self._forget(site_id, reading)

    def _forget(self, site_id: UUID, reading: _Reading) -> None:
        if self._going.get(site_id) is reading:
            del self._going[site_id]

    async def _read(self, site_id: UUID, reading: _Reading) -> None:
        try:
            first = await self._runner.run_in_background(working.take_up, site_id)
            most = {"read": first.unread, "checked": first.unchecked}
            await _tell(reading, first, most)

            async def work() -> None:
                while (left := await self._runner.run_in_background(working.work_off_or_rest, site_id)) is not None:
                    await _tell(reading, left, most)

            async with asyncio.TaskGroup() as group:
                for _ in range(max(self._runner.width - 1, 1)):
                    group.create_task(work())
        except* Exception as errors:  # noqa: BLE001 - whatever went wrong is told to all who look on
            reading.problem = errors.exceptions[0]
        finally:
            reading.is_over = True
            self._forget(site_id, reading)
            async with reading.news:
                reading.news.notify_all()


async def _tell(reading: _Reading, left: WorkLeft, most: dict[str, int]) -> None:
    most[left.what] = max(most[left.what], left.unread or left.unchecked)
    reading.latest = Progress(left, most[left.what])
    async with reading.news:
        reading.news.notify_all()
