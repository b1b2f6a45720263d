"""A published site as readers get it, and where its pages were before."""

from __future__ import annotations

from dataclasses import dataclass
from functools import partial
from uuid import UUID

from signpost.core.landings.geometry import Window
from signpost.core.page.lengths import WINDOW_HEIGHT, WINDOW_WIDTH
from signpost.core.text.errors import RequestError
from signpost.desk.loading import load_record
from signpost.desk.opening import opened
from signpost.desk.targets import Reach, load_target, wanted_files
from signpost.desk.telling import tell
from signpost.hosting.landings import find_bad_landings
from signpost.hosting.walking import LiveFinding, redirect_rules, walk_live
from signpost.store import publishing as kept
from signpost.store import repositories as store
from signpost.store.database import Database


@dataclass(frozen=True, slots=True)
class LiveView:
    """What readers get."""

    address: str
    pages: int
    files: int
    newer_here: tuple[str, ...]
    jumps: int | None  # that were followed in Chromium; None where it does not run here
    findings: tuple[LiveFinding, ...]


def walk_site(database: Database, site_id: UUID, name: str, reach: Reach) -> LiveView:
    """Return what readers get at a target's address, compared with the site. Raises RequestError for no address."""
    target, _ = load_target(database, site_id, name, reach)
    if not target.live.startswith(("http://", "https://")):
        raise RequestError("Say at which address readers find the pages first.")
    hashes = wanted_files(database, site_id)
    with opened(database, site_id) as loaded:
        loaded.pages.fetch(sorted(loaded.pages))
        walk = walk_live(loaded.site, hashes, target.live, tell=partial(tell, "Asking for every file"))
    jumps = partial(tell, "Following jumps, page by page")
    landed = find_bad_landings(target.live, walk.jumps, Window(WINDOW_WIDTH, WINDOW_HEIGHT), jumps)
    followed, bad = (None, []) if landed is None else landed
    findings = (*walk.findings, *bad)
    return LiveView(target.live, walk.pages, walk.files, tuple(walk.newer_here), followed, findings)


def redirects_of(database: Database, site_id: UUID, name: str, form: str) -> str:
    """Return the redirects from where pages were at the last publication to where they are now, in an open form.

    `form` is "csv", "apache", "nginx" or anything else for plain pairs.
    """
    with database.transaction() as session:
        load_record(session, site_id)
        address = next((one.address for one in kept.load_targets(session, site_id) if one.name == name), "")
        there = set(kept.load_published(session, site_id, name, address))
        now = {file.path for file in store.load_files(session, site_id) if file.sha256 is not None}
        moves: dict[str, str] = {}
        for change in store.load_moving_changes(session, site_id):
            moves |= change.parameters["moves"]
    pairs = []
    for old in sorted(there - now):
        goal, seen = old, set()
        while goal not in now and goal in moves and goal not in seen:
            seen.add(goal)
            goal = moves[goal]
        if goal in now:
            pairs.append((old, goal))
    return redirect_rules(pairs, form)
