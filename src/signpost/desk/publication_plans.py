"""What publishing a site to a target would do: the target is asked what it has, and what differs is shown."""

from __future__ import annotations

import hashlib
import json
from collections.abc import Collection, Iterator, Mapping
from concurrent.futures import Future, ThreadPoolExecutor, as_completed
from contextlib import closing
from dataclasses import dataclass, field
from enum import StrEnum
from uuid import UUID

from signpost.core.addresses.links import is_page_path
from signpost.core.text.diffs import FileDiff, unified_diff
from signpost.desk.changes import readable
from signpost.desk.intake import FILE_BYTES
from signpost.desk.progress import tell
from signpost.desk.targets import Surroundings, load_target, wanted_files
from signpost.hosting.targets import Remote, Target
from signpost.store import publishing as kept
from signpost.store import repositories as store
from signpost.store.database import Database
from signpost.store.records import PublishedRecord, TargetRecord


class Does(StrEnum):
    """What becomes of a file at a target."""

    SEND = "send"
    REPLACE = "replace"
    DELETE = "delete"
    FOREIGN = "foreign"  # something is there that was not published from here: it stays, unless asked


class Seen(StrEnum):
    """How what a target has differs from what was put there."""

    AS_KNOWN = ""
    MISSING = "missing"  # deleted there
    ALTERED = "altered"  # changed there
    TORN = "torn"  # put there from here, and not whole


@dataclass(frozen=True, slots=True)
class PublishStep:
    """What becomes of one file."""

    path: str
    does: Does
    size: int  # bytes that are sent
    seen: Seen = Seen.AS_KNOWN


@dataclass(frozen=True, slots=True)
class PublishPlan:
    """What a publication would do."""

    steps: tuple[PublishStep, ...]
    tag: str  # tells it from others


@dataclass(frozen=True, slots=True)
class Place:
    """A target, open."""

    database: Database
    site_id: UUID
    record: TargetRecord
    target: Target

    def load(self) -> dict[str, PublishedRecord]:
        """Return what was put there."""
        with self.database.transaction() as session:
            return kept.load_published(session, self.site_id, self.record.name, self.record.address)

    def save(self, files: Mapping[str, PublishedRecord | None]) -> None:
        """Keep what is known of some files there."""
        if files:
            with self.database.transaction() as session:
                kept.save_published(session, self.site_id, self.record.name, self.record.address, files)

    def tidy(self) -> None:
        """Take away what whoever was stopped has left beside files that were being put there."""
        for path, record in self.load().items():
            if record.sending is not None:
                self.target.clear(path)

    def blobs(self, hashes: Collection[str]) -> dict[str, bytes]:
        """Return bytes that are kept, by their hashes."""
        with self.database.transaction() as session:
            return store.load_blobs(session, self.site_id, hashes)


@dataclass(slots=True)
class PlannedPublication:
    """A plan, and what it was made of."""

    steps: list[PublishStep] = field(default_factory=list)
    found: dict[str, Remote] = field(default_factory=dict)  # what the target tells of files that are there
    adopted: dict[str, PublishedRecord | None] = field(default_factory=dict)  # what is known better now
    before: dict[str, str | None] = field(default_factory=dict)  # hashes of what is there, of files that change


def plan_publication(
    database: Database, site_id: UUID, name: str, reach: Surroundings, *, anyway: bool = False, thorough: bool = False
) -> PublishPlan:
    """Return what publishing to a target would do; nothing is sent.

    Files that are there, and were not published from here or were changed there since, stay as they are; with
    `anyway`, they are replaced. The target is asked what it has; with `thorough`, every file is read and compared.
    """
    record, target = load_target(database, site_id, name, reach)
    with closing(target):
        place = Place(database, site_id, record, target)
        wanted = wanted_files(database, site_id)
        unfinished = {path for path, record in place.load().items() if record.sending is not None}
        planned = plan_for(place, wanted, anyway=anyway, thorough=thorough)
        # what may have left something beside it stays unfinished until that is taken away
        place.save({path: record for path, record in planned.adopted.items() if path not in unfinished})
    return shown_plan(planned, wanted)


def diff_publication(database: Database, site_id: UUID, name: str, path: str, reach: Surroundings) -> str:
    """Return how a file at a target differs from the one here, as a unified diff; "" for files that are no text."""
    sha256 = wanted_files(database, site_id).get(path)
    with closing(load_target(database, site_id, name, reach)[1]) as place:
        there = place.read(path)
    with database.transaction() as session:
        here = None if sha256 is None else store.load_blobs(session, site_id, [sha256])[sha256]
    if any(data is not None and b"\0" in data for data in (there, here)):
        return ""
    return readable(unified_diff([FileDiff(path, there, here)]))


def shown_plan(planned: PlannedPublication, wanted: Mapping[str, str | None]) -> PublishPlan:
    """Return a plan as it is shown; its tag tells it from one that would do something else."""
    facts = [[step.path, step.does, wanted.get(step.path)] for step in planned.steps]
    return PublishPlan(tuple(planned.steps), hashlib.sha256(json.dumps(facts).encode()).hexdigest())


# ---------------------------------------------------------------- what would be done


def plan_for(
    place: Place,
    wanted: Mapping[str, str | None],
    *,
    anyway: bool = False,
    thorough: bool = False,
    whole: bool = True,
) -> PlannedPublication:
    """Return what would bring a target to what is wanted: hashes by path, None for a file that goes.

    Where it is `whole`, what was put there and is not wanted goes too.
    """
    known = place.load()
    paths = sorted({*wanted, *known} if whole else wanted)
    tell("Asking what is there", 0, len(paths))
    planned = PlannedPublication(found=dict(place.target.look(paths)))
    unsure = {
        path
        for path, remote in planned.found.items()
        if thorough or _is_unsure(wanted.get(path), known.get(path), remote)
    }
    there = dict(_read_hashes(place, sorted(unsure)))
    for path in paths:
        record = known.get(path)
        sure = record.sha256 if record is not None and path in planned.found else None
        now = there.get(path) if path in unsure else sure
        _decide(planned, path, wanted.get(path), record, now, anyway=anyway)
    with place.database.transaction() as session:
        hashes = [sha256 for step in planned.steps if (sha256 := wanted.get(step.path))]
        sizes = store.load_sizes(session, place.site_id, hashes)
    planned.steps = [
        PublishStep(step.path, step.does, sizes.get(wanted.get(step.path) or "", 0), step.seen)
        for step in planned.steps
    ]
    planned.steps.sort(key=lambda step: (step.does is Does.DELETE, is_page_path(step.path), step.path))  # pages last
    return planned


def _is_unsure(wanted: str | None, record: PublishedRecord | None, remote: Remote) -> bool:
    """Return whether a file at a target has to be read to know what it is."""
    if record is None:
        return wanted is not None
    if record.sending is not None or record.sha256 is None:
        return True
    tells = bool(record.tag) or record.size is not None
    return not tells or (record.size, record.tag) != (remote.size, remote.tag)


def _read_hashes(place: Place, paths: list[str]) -> Iterator[tuple[str, str]]:
    """Yield the hashes of files as they are at a target, by path."""
    with ThreadPoolExecutor(place.target.width) as pool:
        asked: dict[Future[bytes | None], str] = {pool.submit(place.target.read, path): path for path in paths}
        try:
            for done, one in enumerate(as_completed(asked)):
                tell("Comparing", done, len(paths))
                data = one.result()
                if data is not None:
                    yield asked[one], hashlib.sha256(data).hexdigest()
        finally:
            for one in asked:
                one.cancel()


def _decide(
    planned: PlannedPublication,
    path: str,
    wanted: str | None,
    record: PublishedRecord | None,
    now: str | None,
    *,
    anyway: bool,
) -> None:
    """Decide what becomes of one file. `now` is the hash of what is there, None for nothing."""
    remote = planned.found.get(path)
    ours = None if record is None else record.sha256
    if now is not None and remote is not None and now in (wanted, ours):
        better = PublishedRecord(now, None, remote.size, remote.tag)
        if better != record:
            planned.adopted[path] = better
    if now == wanted:
        if wanted is None and record is not None:
            planned.adopted[path] = None
        return
    seen = Seen.AS_KNOWN
    if record is not None and now != ours:
        torn = record.sending is not None
        seen = Seen.MISSING if now is None else Seen.TORN if torn else Seen.ALTERED
        if torn and now is None:
            seen = Seen.AS_KNOWN
    if now is None:
        planned.steps.append(PublishStep(path, Does.SEND, 0, seen))
        planned.before[path] = None
        return
    foreign = record is None or seen is Seen.ALTERED
    large = foreign and (remote is None or (remote.size or 0) > FILE_BYTES)
    if foreign and (not anyway or large):
        planned.steps.append(PublishStep(path, Does.FOREIGN, 0, seen))
        return
    planned.steps.append(PublishStep(path, Does.DELETE if wanted is None else Does.REPLACE, 0, seen))
    planned.before[path] = ours if seen is Seen.TORN else now
