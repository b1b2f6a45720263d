"""Watches the folders that sites are linked to: what is saved in any editor is at the desk a moment later."""

from __future__ import annotations

import asyncio
import logging
from pathlib import Path
from uuid import UUID

from watchfiles import awatch

from signpost.desk import linked_folders, syncing
from signpost.folders.ignoring import is_leftover
from signpost.web.workers import Runner

#: How often it is looked which folders there are, and which of them are away, in seconds.
_EVERY = 2.0
#: How long a folder has to be quiet until it is looked at, and how long it may go on without, in milliseconds.
_QUIET, _LONGEST = 60, 1_600
#: After how long without a word it is looked all the same, in milliseconds.
_SILENT = 3_000

_log = logging.getLogger(__name__)


async def watch_folders(runner: Runner) -> None:
    """See to all linked folders of this machine, until it is cancelled."""
    watched: dict[UUID, asyncio.Task[None]] = {}
    revisions: dict[UUID, int] = {}
    try:
        while True:
            try:
                here = {one.site_id: one for one in await runner.run_in_background(linked_folders.folders_here)}
                for site_id in [*watched]:
                    if site_id not in here or watched[site_id].done():
                        watched.pop(site_id).cancel()
                for site_id, one in here.items():
                    if site_id not in watched and Path(one.folder).is_dir():
                        watched[site_id] = asyncio.create_task(_watch(runner, site_id, Path(one.folder)))
                    revision = await runner.run_in_background(linked_folders.files_revision, site_id)
                    if one.away or revisions.get(site_id) != revision:  # it may be back; or the site changed
                        await runner.run_in_background(syncing.sync_folder, site_id)
                        revisions[site_id] = await runner.run_in_background(linked_folders.files_revision, site_id)
            except Exception as error:  # noqa: BLE001 - whatever went wrong, it is tried again
                _log.warning("a folder cannot be seen to, and will be tried again: %s", error)
            await asyncio.sleep(_EVERY)
    finally:
        for task in watched.values():
            task.cancel()


async def _watch(runner: Runner, site_id: UUID, root: Path) -> None:
    """Bring a site and its folder together whenever something changes there."""

    def matters(_: object, path: str) -> bool:
        try:
            within = Path(path).relative_to(root)
        except ValueError:
            return False
        return not any(is_leftover(name) and name != ".gitignore" for name in within.parts)

    # it is looked after a while without a word too: what was saved before the watch stood, or is not told, is found
    async for _ in awatch(
        root,
        watch_filter=matters,
        step=_QUIET,
        debounce=_LONGEST,
        rust_timeout=_SILENT,
        yield_on_timeout=True,
        ignore_permission_denied=True,
    ):
        await runner.run_in_background(syncing.sync_folder, site_id)
