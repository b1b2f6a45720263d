"""A site carried to where its readers are: what would be sent is shown first, and only that is sent."""

from __future__ import annotations

import hashlib
import json
from collections.abc import Mapping
from contextlib import closing
from dataclasses import dataclass
from enum import StrEnum
from uuid import UUID

from signpost.core.addresses.links import is_page_path
from signpost.core.text.diffs import FileDiff, unified_diff
from signpost.desk.changes import readable
from signpost.desk.deeds import note_deed
from signpost.desk.errors import ConflictError
from signpost.desk.targets import Reach, load_target, wanted_files
from signpost.desk.telling import tell
from signpost.hosting.targets import Target
from signpost.store import publishing as kept
from signpost.store import repositories as store
from signpost.store.database import Database


class Does(StrEnum):
    """What becomes of a file at a target."""

    SEND = "send"
    REPLACE = "replace"
    DELETE = "delete"
    FOREIGN = "foreign"  # something is there that was not published from here: it stays, unless asked


@dataclass(frozen=True, slots=True)
class PublishStep:
    """What becomes of one file."""

    path: str
    does: Does
    size: int  # bytes that are sent


@dataclass(frozen=True, slots=True)
class PublishPlan:
    """What a publication would do."""

    steps: tuple[PublishStep, ...]
    tag: str  # tells it from others


@dataclass(frozen=True, slots=True)
class Published:
    """What a publication did."""

    sent: int
    deleted: int
    wrong: tuple[str, ...]  # files that do not read back as they were sent


def plan_publication(
    database: Database, site_id: UUID, name: str, reach: Reach, *, anyway: bool = False
) -> PublishPlan:
    """Return what publishing to a target would do; nothing is sent.

    Files that are there, and were not published from here or were changed there since, stay as they are; with
    `anyway`, they are replaced.
    """
    with database.transaction() as session:
        there = kept.load_published(session, site_id, name)
    with closing(load_target(database, site_id, name, reach)[1]) as place:
        return _plan(database, site_id, place, wanted_files(database, site_id), there, anyway=anyway)


def diff_publication(database: Database, site_id: UUID, name: str, path: str, reach: Reach) -> str:
    """Return how a file at a target differs from the one here, as a unified diff; "" for files that are no text."""
    sha256 = wanted_files(database, site_id).get(path)
    with closing(load_target(database, site_id, name, reach)[1]) as place:
        there = place.read(path)
    with database.transaction() as session:
        here = None if sha256 is None else store.load_blobs(session, site_id, [sha256])[sha256]
    if any(data is not None and b"\0" in data for data in (there, here)):
        return ""
    return readable(unified_diff([FileDiff(path, there, here)]))


def _plan(
    database: Database,
    site_id: UUID,
    place: Target,
    wanted: Mapping[str, str],
    there: Mapping[str, str],
    *,
    anyway: bool,
) -> PublishPlan:
    changed = [path for path in sorted({*wanted, *there}) if wanted.get(path) != there.get(path)]
    with database.transaction() as session:
        hashes = [wanted[path] for path in changed if path in wanted]
        sizes = {sha256: len(data) for sha256, data in store.load_blobs(session, site_id, hashes).items()}
    steps = []
    for done, path in enumerate(changed):
        tell("Comparing", done, len(changed))
        now = place.read(path)
        found = None if now is None else hashlib.sha256(now).hexdigest()
        size = sizes.get(wanted.get(path, ""), 0)
        ours = found is None or found in (there.get(path), wanted.get(path)) or anyway
        if path not in wanted:
            steps.append(PublishStep(path, Does.DELETE if ours else Does.FOREIGN, 0))
        elif not ours:
            steps.append(PublishStep(path, Does.FOREIGN, size))
        else:
            steps.append(PublishStep(path, Does.SEND if found is None else Does.REPLACE, size))
    steps.sort(key=lambda step: (step.does is Does.DELETE, is_page_path(step.path), step.path))  # pages last
    facts = [[step.path, step.does, wanted.get(step.path)] for step in steps]
    return PublishPlan(tuple(steps), hashlib.sha256(json.dumps(facts).encode()).hexdigest())


def publish(
    database: Database, site_id: UUID, name: str, tag: str, reach: Reach, *, anyway: bool = False
) -> Published:
    """Publish a site to a target as was shown, and return what was done; each file is read back.

    Whoever is stopped in between goes on by publishing again. Raises ConflictError where it would do something else
    than was shown.
    """
    plan = plan_publication(database, site_id, name, reach, anyway=anyway)
    if plan.tag != tag:
        raise ConflictError("Something changed since this was shown, so nothing was sent. Look at the new list.")
    wanted = wanted_files(database, site_id)
    return _send(database, site_id, name, reach, plan, wanted)


def _send(
    database: Database, site_id: UUID, name: str, reach: Reach, plan: PublishPlan, wanted: Mapping[str, str]
) -> Published:
    _, target = load_target(database, site_id, name, reach)
    sent, deleted, wrong = 0, 0, []
    with database.transaction() as guard, closing(target) as place:
        kept.hold_target(guard, site_id, name)
        for done, step in enumerate(plan.steps):
            tell("Sending", done, len(plan.steps))
            if step.does is Does.FOREIGN:
                continue
            sha256 = wanted.get(step.path)
            if sha256 is None:
                place.delete(step.path)
                deleted += 1
            else:
                with database.transaction() as session:
                    data = store.load_blobs(session, site_id, [sha256])[sha256]
                place.write(step.path, data)
                sent += 1
                if place.read(step.path) != data:
                    wrong.append(step.path)
            with database.transaction() as session:
                kept.note_published(session, site_id, name, step.path, sha256)
    with database.transaction() as session:
        if sent or deleted:
            kept.add_publication(session, site_id, name, kept.load_published(session, site_id, name))
            note_deed(session, site_id, f"published to “{name}”")
    return Published(sent, deleted, tuple(wrong))


def undo_publication(database: Database, site_id: UUID, name: str, reach: Reach) -> Published:
    """Bring a target back to what it had before the last publication. Raises ConflictError where there is none."""
    with database.transaction() as session:
        done = kept.load_publications(session, site_id, name)
        there = kept.load_published(session, site_id, name)
    if not done:
        raise ConflictError("Nothing was published there yet.")
    wanted = done[1].files if len(done) > 1 else {}
    with closing(load_target(database, site_id, name, reach)[1]) as place:
        plan = _plan(database, site_id, place, wanted, there, anyway=False)
    result = _send(database, site_id, name, reach, plan, wanted)
    with database.transaction() as session:
        undone = 2 if result.sent or result.deleted else 1  # itself, and what was just kept of going back
        for one in kept.load_publications(session, site_id, name)[:undone]:
            kept.drop_publication(session, site_id, name, one.number)
    return result
