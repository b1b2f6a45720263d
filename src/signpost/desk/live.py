"""A published site as readers get it, and where its pages were before.

What a walk has found is kept as it comes: whoever stops it sees that, and it goes on from there.
"""

from __future__ import annotations

import hashlib
from collections.abc import Iterable, Mapping
from concurrent.futures import ThreadPoolExecutor, as_completed
from contextlib import ExitStack
from dataclasses import asdict, dataclass
from datetime import UTC, datetime, timedelta
from typing import Any
from uuid import UUID

from signpost.browser.live import LiveLanding
from signpost.core.addresses.links import is_page_path
from signpost.core.landings.geometry import Window
from signpost.core.page import Page, read_page
from signpost.core.page.lengths import WINDOW_HEIGHT, WINDOW_WIDTH
from signpost.core.site.site import Site
from signpost.core.text.errors import RequestError, SignpostError
from signpost.core.text.source import read_source
from signpost.desk.leases import held
from signpost.desk.loading import load_record
from signpost.desk.opening import opened
from signpost.desk.progress import tell
from signpost.desk.targets import Surroundings, load_target, wanted_files
from signpost.hosting.landings import find_bad_landings, follow_jumps
from signpost.hosting.walking import (
    Fetcher,
    Heard,
    LiveFinding,
    LiveJump,
    find_beside,
    find_on_pages,
    find_unlike,
    jumps_of,
    redirect_rules,
)
from signpost.store import publishing as kept
from signpost.store import repositories as store
from signpost.store.database import Database
from signpost.store.walked import forget_walked, load_walked, save_walked

#: How many files are asked for at once, and after how many it is kept what came.
_WIDTH, _KEPT_AT_ONCE = 6, 10
#: How long what a walk has found may be gone on from.
_FRESH = timedelta(hours=1)


@dataclass(frozen=True, slots=True)
class LiveView:
    """What readers get."""

    address: str
    pages: int
    files: int  # that were asked for
    of_files: int  # how many there are
    newer_here: tuple[str, ...]
    jumps: int | None  # that were followed in Chromium; None where it does not run here
    findings: tuple[LiveFinding, ...]
    is_whole: bool  # whether the walk came to its end


@dataclass(frozen=True, slots=True)
class _Walk:
    """A walk of a site at a target."""

    database: Database
    site_id: UUID
    name: str
    address: str
    hashes: Mapping[str, str]
    base: str | None  # the site's own address

    def load(self, kind: Any) -> dict[str, dict[str, Any]]:
        """Return what was found of a kind, by path."""
        with self.database.transaction() as session:
            return load_walked(session, self.site_id, self.name, kind)

    def save(self, kind: Any, found: Mapping[str, dict[str, Any]], bytes_: Iterable[bytes] = ()) -> None:
        """Keep what was found, and bytes that it speaks of."""
        with self.database.transaction(lasting=False) as session:
            store.save_blobs(session, self.site_id, bytes_)
            save_walked(session, self.site_id, self.name, kind, found)


def walk_site(database: Database, site_id: UUID, name: str, reach: Surroundings) -> LiveView:
    """Return what readers get at a target's address, compared with the site. Raises RequestError for no address.

    A walk that was stopped lately is gone on with.
    """
    walk = _begin(database, site_id, name, reach)
    with held(database, site_id, f"walk {name}"):
        state = walk.load("walk").get("", {})
        begun = datetime.fromisoformat(state["begun"]) if "begun" in state else None
        going_on = begun is not None and not state.get("done") and state.get("address") == walk.address
        if not going_on or begun is None or datetime.now(UTC) - begun > _FRESH:
            with database.transaction() as session:
                forget_walked(session, site_id, name)
            state = {"begun": datetime.now(UTC).isoformat(), "address": walk.address}
            walk.save("walk", {"": state})
        with Fetcher(_WIDTH) as fetcher:
            _ask_for_files(walk, fetcher)
            live = _live_pages(walk)
            _ask_beside(walk, fetcher, live)
        _follow(walk, live)
        walk.save("walk", {"": {**state, "done": True}})
    return view_walk(database, site_id, name, reach)


def view_walk(database: Database, site_id: UUID, name: str, reach: Surroundings) -> LiveView:
    """Return what the last walk found, or has found so far. Raises RequestError for no address."""
    walk = _begin(database, site_id, name, reach)
    files = {path: Heard(**said) for path, said in walk.load("file").items() if path in walk.hashes}
    beside = {path: int(said["status"]) for path, said in walk.load("beside").items()}
    live = _live_pages(walk)
    there = Site(live, frozenset(files), walk.base)
    findings: list[LiveFinding] = []
    with opened(database, site_id) as loaded:
        asked = [path for path in files if path in loaded.pages]
        loaded.pages.fetch(asked)
        for path, heard in sorted(files.items()):
            findings += find_unlike(loaded.site.pages.get(path), path, heard)
        for path in sorted(live):
            findings += find_on_pages(there, live[path], walk.hashes)
        findings += find_beside(loaded.site, asked, walk.hashes, beside)
    jumps, landings = _jumps(there, live), walk.load("landings")
    found = {(path, fragment): LiveLanding(**said) for path, by in landings.items() for fragment, said in by.items()}
    findings += find_bad_landings(jumps, found)
    state = walk.load("walk").get("", {})
    followed = None if state.get("no_browser") else len(found)
    newer = tuple(
        path for path, heard in sorted(files.items()) if heard.is_there and heard.sha256 != walk.hashes[path]
    )
    return LiveView(
        walk.address,
        len(live),
        len(files),
        len(walk.hashes),
        newer,
        followed,
        tuple(findings),
        bool(state.get("done")),
    )


def _begin(database: Database, site_id: UUID, name: str, reach: Surroundings) -> _Walk:
    target, _ = load_target(database, site_id, name, reach)
    if not target.live.startswith(("http://", "https://")):
        raise RequestError("Say at which address readers find the pages first.")
    with database.transaction() as session:
        base = load_record(session, site_id).base
    return _Walk(database, site_id, name, target.live, wanted_files(database, site_id), base)


def _ask_for_files(walk: _Walk, fetcher: Fetcher) -> None:
    """Ask for every file that was not asked for yet, several at once."""
    known = walk.load("file")
    paths = sorted(walk.hashes.keys() - known.keys())
    news: dict[str, dict[str, Any]] = {}
    others: list[bytes] = []
    with ThreadPoolExecutor(_WIDTH) as pool:
        asked = {pool.submit(fetcher.fetch, walk.address, path): path for path in paths}
        try:
            for done, one in enumerate(as_completed(asked), start=len(known)):
                tell("Asking for every file", done, len(walk.hashes))
                path, answer = asked[one], one.result()
                sha256 = hashlib.sha256(answer.data).hexdigest()
                news[path] = asdict(Heard(answer.status, answer.kind, answer.charset, len(answer.chain), sha256))
                if is_page_path(path) and sha256 != walk.hashes[path]:
                    others.append(answer.data)
                if len(news) >= _KEPT_AT_ONCE:
                    walk.save("file", news, others)
                    news, others = {}, []
        finally:
            for one in asked:
                one.cancel()
            walk.save("file", news, others)


def _live_pages(walk: _Walk) -> dict[str, Page]:
    """Return the pages as they came; those that came as they are here are read from what is kept."""
    files = {path: Heard(**said) for path, said in walk.load("file").items()}
    pages: dict[str, Page] = {}
    for path, heard in sorted(files.items()):
        if not heard.is_there or not is_page_path(path) or path not in walk.hashes:
            continue
        tell("Reading the pages as they came", len(pages), len(files))
        with walk.database.transaction() as session:
            data = store.load_blobs(session, walk.site_id, [heard.sha256]).get(heard.sha256)
        try:
            if data is not None:
                pages[path] = read_page(path, read_source(data))
        except SignpostError:
            continue  # that it cannot be read is told with what differs
    return pages


def _ask_beside(walk: _Walk, fetcher: Fetcher, live: Mapping[str, Page]) -> None:
    """Ask for what links lead to and the site does not have."""
    known = walk.load("beside")
    with opened(walk.database, walk.site_id) as loaded:
        loaded.pages.fetch(live)
        site = loaded.site
        goals = {
            found[0]
            for path in live
            if path in site.pages
            for link in site.pages[path].links
            if link.href is not None and (found := site.resolve(path, link.href)) is not None
            if site.file_at(found[0]) not in walk.hashes
        }
    wanted = sorted(goals - known.keys())
    with ThreadPoolExecutor(_WIDTH) as pool:
        asked = {pool.submit(fetcher.fetch, walk.address, path): path for path in wanted}
        for done, one in enumerate(as_completed(asked)):
            tell("Asking for what the site does not have", done, len(wanted))
            walk.save("beside", {asked[one]: {"status": one.result().status}})


def _jumps(there: Site, live: Mapping[str, Page]) -> dict[tuple[str, str], LiveJump]:
    found: dict[tuple[str, str], LiveJump] = {}
    for path in sorted(live):
        for goal, jump in jumps_of(there, live[path]):
            found.setdefault(goal, jump)
    return found


def _follow(walk: _Walk, live: Mapping[str, Page]) -> None:
    """Follow the jumps to every page that was not looked at yet, several pages at once."""
    known = walk.load("landings")
    jumps = _jumps(Site(dict(live), frozenset(live), walk.base), live)
    wanted: dict[str, list[str]] = {}
    for path, fragment in jumps:
        if path not in known:
            wanted.setdefault(path, []).append(fragment)
    done, total = sum(len(by) for by in known.values()), len(jumps)
    with ExitStack() as stack:
        came = follow_jumps(walk.address, wanted, Window(WINDOW_WIDTH, WINDOW_HEIGHT), stack)
        if came is None:
            state = walk.load("walk").get("", {})
            walk.save("walk", {"": {**state, "no_browser": True}})
            return
        for path, landings in came:
            if landings is None:
                done += 1
                tell("Following jumps", min(done, total), total)
            else:
                walk.save("landings", {path: {fragment: asdict(one) for fragment, one in landings.items()}})


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
