"""Work that nobody waits for: pages read and checked after they were brought in, or after a restart."""

from __future__ import annotations

import asyncio
import logging
import time

from signpost.desk import history, pages, working
from signpost.web.workers import Runner

#: How often it is looked whether there is work, in seconds.
_EVERY = 10.0
#: How long others are let go first between two batches, in seconds.
_PAUSE = 0.2

#: How often what nothing needs any more is let go, in seconds.
_TIDIED_EVERY = 3_600.0

_log = logging.getLogger(__name__)


async def work_in_background(runner: Runner) -> None:
    """Work off what is out of date on any site, a batch of each in turn, until it is cancelled."""
    tidied = float("-inf")
    while True:
        await asyncio.sleep(_EVERY)
        if time.monotonic() - tidied > _TIDIED_EVERY:
            tidied = time.monotonic()
            await _tidy(runner)
        try:
            sites = await runner.run_in_background(working.find_sites_with_work)
            while sites:
                sites = [
                    site_id for site_id in sites if await runner.run_in_background(working.work_off_or_rest, site_id)
                ]
                await asyncio.sleep(_PAUSE)
        except Exception as error:  # noqa: BLE001 - whatever went wrong, it is tried again
            _log.warning("work on a site stopped, and will be tried again: %s", error)


async def _tidy(runner: Runner) -> None:
    """Let go what nothing needs any more on any site, a little at a time."""
    try:
        for site in await runner.run_in_background(pages.list_sites):
            while await runner.run_in_background(history.tidy, site.site_id):
                await asyncio.sleep(_PAUSE)
    except Exception as error:  # noqa: BLE001 - it comes again
        _log.warning("what nothing needs could not be let go: %s", error)
