"""Work that nobody waits for: pages read and checked after they were brought in, or after a restart."""

from __future__ import annotations

import asyncio
import logging

from signpost.desk import working
from signpost.web.workers import Runner

#: How often it is looked whether there is work, in seconds.
_EVERY = 10.0
#: How long others are let go first between two batches, in seconds.
_PAUSE = 0.2

_log = logging.getLogger(__name__)


async def work_in_background(runner: Runner) -> None:
    """Work off what is out of date on any site, a batch of each in turn, until it is cancelled."""
    while True:
        await asyncio.sleep(_EVERY)
        try:
            sites = await runner.run(_stays, working.find_sites_with_work)
            while sites:
                sites = [site_id for site_id in sites if await runner.run(_stays, working.work_off_or_rest, site_id)]
                await asyncio.sleep(_PAUSE)
        except Exception as error:  # noqa: BLE001 - whatever went wrong, it is tried again
            _log.warning("work on a site stopped, and will be tried again: %s", error)


async def _stays() -> bool:
    return False
