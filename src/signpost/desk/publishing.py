"""A site carried to where its readers are: what would be sent is shown first, and only that is sent.

What was put to a target is known by the target and its address, for files that were read back there. Before anything
is sent, the target is asked what it has; whatever differs from that is shown, and is its author's.
"""

from __future__ import annotations

import hashlib
from collections.abc import Callable, Iterator, Mapping
from concurrent.futures import ThreadPoolExecutor, as_completed
from contextlib import closing
from dataclasses import dataclass, field
from uuid import UUID

from signpost.core.addresses.links import is_page_path
from signpost.desk.deeds import note_deed
from signpost.desk.errors import ConflictError
from signpost.desk.leases import held
from signpost.desk.progress import tell
from signpost.desk.publication_plans import Does, Place, PlannedPublication, PublishStep, plan_for, shown_plan
from signpost.desk.targets import Surroundings, load_target, wanted_files
from signpost.hosting.targets import ChangedThereError
from signpost.store import publishing as kept
from signpost.store import repositories as store
from signpost.store.database import Database
from signpost.store.records import PublishedRecord, ReplacedRecord

#: How many bytes of what was not published from here are kept of one publication, so that they can be put back.
KEPT_BYTES = 64 * 1024 * 1024
#: How many files, and about how many bytes, are sent until it is noted that they are there.
_NOTED_AT_ONCE, _BYTES_AT_ONCE = 100, 16 * 1024 * 1024


@dataclass(frozen=True, slots=True)
class Published:
    """What a publication did."""

    sent: int
    deleted: int
    wrong: tuple[str, ...]  # files that did not read back as they were sent; they were not put in place
    left: tuple[str, ...] = ()  # files that somebody changed at the target meanwhile; they stay as they are there


def publish(
    database: Database,
    site_id: UUID,
    name: str,
    tag: str,
    reach: Surroundings,
    *,
    anyway: bool = False,
    thorough: bool = False,
) -> Published:
    """Publish a site to a target as was shown, and return what was done; each file is read back.

    Whoever is stopped in between goes on by publishing again. Raises ConflictError where it would do something else
    than was shown.
    """
    record, target = load_target(database, site_id, name, reach)
    with closing(target), held(database, site_id, f"target {name}"):
        place = Place(database, site_id, record, target)
        wanted = wanted_files(database, site_id)
        place.tidy()
        planned = plan_for(place, wanted, anyway=anyway, thorough=thorough)
        if shown_plan(planned, wanted).tag != tag:
            raise ConflictError("Something changed since this was shown, so nothing was sent. Look at the new list.")
        place.save(planned.adopted)
        if not planned.before:
            return Published(0, 0, ())
        with database.transaction() as session:
            number = kept.begin_publication(session, site_id, name, record.address)
            note_deed(session, site_id, f"published to “{name}”")
        return _send(place, planned, wanted, number)


def undo_publication(database: Database, site_id: UUID, name: str, reach: Surroundings) -> Published:
    """Bring a target back to what it had before the last publication, to the byte, and return what was done.

    What was changed there since stays. Raises ConflictError where there is no publication to take back.
    """
    record, target = load_target(database, site_id, name, reach)
    with closing(target), held(database, site_id, f"target {name}"):
        place = Place(database, site_id, record, target)
        with database.transaction() as session:
            done = kept.load_publications(session, site_id, name, record.address)
            if not done:
                raise ConflictError("Nothing was published there yet.")
            replaced = kept.load_replaced(session, site_id, name, done[0].number)
        wanted = {path: file.sha256 for path, file in replaced.items()}
        place.tidy()
        planned = plan_for(place, wanted, whole=False)
        place.save(planned.adopted)
        result = _send(place, planned, wanted, None)
        stay = {*result.wrong, *result.left, *(step.path for step in planned.steps if step.does is Does.FOREIGN)}
        place.save({path: None for path, file in replaced.items() if file.foreign and path not in stay})
        with database.transaction() as session:
            kept.forget_replaced(session, site_id, name, done[0].number, wanted.keys() - stay)
            note_deed(session, site_id, f"took back what was published to “{name}”")
        return Published(result.sent, result.deleted, result.wrong, tuple(sorted(stay - {*result.wrong})))


@dataclass(slots=True)
class _Sending:
    """What came of a publication so far."""

    sent: list[str] = field(default_factory=list)
    deleted: list[str] = field(default_factory=list)
    wrong: list[str] = field(default_factory=list)
    left: list[str] = field(default_factory=list)
    news: dict[str, PublishedRecord | None] = field(default_factory=dict)  # that are not kept yet


def _send(
    place: Place, planned: PlannedPublication, wanted: Mapping[str, str | None], number: int | None
) -> Published:
    """Do the steps of a plan, pages last and deletions after them; with a `number`, what is replaced is kept."""
    known = place.load()
    steps = [step for step in planned.steps if step.does is not Does.FOREIGN]
    _begin(place, steps, planned, wanted, known, number)
    came = _Sending()
    done = 0
    with ThreadPoolExecutor(place.target.width) as pool:
        for batch in _batches(steps):
            blobs = place.blobs({sha256 for step in batch if (sha256 := wanted.get(step.path))})
            asked = {
                pool.submit(_do, place, planned, step, blobs.get(wanted.get(step.path) or "")): step for step in batch
            }
            try:
                for one in as_completed(asked):
                    tell("Sending", done, len(steps))
                    done += 1
                    _note(came, asked[one], one.result(), known.get(asked[one].path), wanted.get(asked[one].path))
            finally:
                for one in asked:
                    one.cancel()
                place.save(came.news)
                came.news.clear()
    came.wrong += _confirm(place, came.sent, wanted)
    return Published(len(came.sent), len(came.deleted), tuple(sorted(came.wrong)), tuple(sorted(came.left)))


def _batches(steps: list[PublishStep]) -> Iterator[list[PublishStep]]:
    """Yield what can be done at once, and is noted at once: first what pages need, then pages, then what goes."""
    groups: tuple[Callable[[PublishStep], bool], ...] = (
        lambda step: step.does is not Does.DELETE and not is_page_path(step.path),
        lambda step: step.does is not Does.DELETE and is_page_path(step.path),
        lambda step: step.does is Does.DELETE,
    )
    for belongs in groups:
        batch: list[PublishStep] = []
        for step in steps:
            if belongs(step):
                batch.append(step)
                if len(batch) == _NOTED_AT_ONCE or sum(one.size for one in batch) > _BYTES_AT_ONCE:
                    yield batch
                    batch = []
        if batch:
            yield batch


def _begin(
    place: Place,
    steps: list[PublishStep],
    planned: PlannedPublication,
    wanted: Mapping[str, str | None],
    known: Mapping[str, PublishedRecord],
    number: int | None,
) -> None:
    """Keep what is about to be put to a target, and what is there in its place."""
    foreign: set[str] = set()
    if number is not None:
        foreign = {step.path for step in steps if _is_foreign(known.get(step.path), planned.before[step.path])}
        _keep_foreign(place, [path for path in sorted(foreign) if planned.before[path] is not None], planned)
    with place.database.transaction() as session:
        if number is not None:
            rows = {
                step.path: ReplacedRecord(planned.before[step.path], wanted.get(step.path), step.path in foreign)
                for step in steps
            }
            kept.note_replaced(session, place.site_id, place.record.name, number, rows)
        sending = {
            step.path: (known.get(step.path) or PublishedRecord(None))._replace(sending=wanted.get(step.path))
            for step in steps
            if step.does is not Does.DELETE
        }
        kept.save_published(session, place.site_id, place.record.name, place.record.address, sending)


def _is_foreign(record: PublishedRecord | None, before: str | None) -> bool:
    """Return whether what is replaced was not put there from here."""
    return before is not None and (record is None or record.sha256 != before)


def _keep_foreign(place: Place, foreign: list[str], planned: PlannedPublication) -> None:
    """Keep the bytes of files that were not put there from here, so that they can be put back.

    Raises ConflictError where they are too many.
    """
    if sum((planned.found[path].size or 0) for path in foreign) > KEPT_BYTES:
        raise ConflictError(
            f"More than {KEPT_BYTES // 2**20} MB that were not published from here would be replaced, and could not "
            "be put back. Nothing was sent: download and remove them there first."
        )
    for path in foreign:
        data = place.target.read(path)
        if data is None or hashlib.sha256(data).hexdigest() != planned.before[path]:
            raise ConflictError(f"{path} was changed at the target just now, so nothing was sent. Look once more.")
        with place.database.transaction() as session:
            store.save_blobs(session, place.site_id, [data])


def _do(place: Place, planned: PlannedPublication, step: PublishStep, data: bytes | None) -> bool | None:
    """Do a step; return whether it came out right, None where somebody changed the file meanwhile."""
    seen = planned.found.get(step.path)
    try:
        if data is not None:
            return place.target.write(step.path, data, seen)
        if seen is not None:
            place.target.delete(step.path, seen)
    except ChangedThereError:
        return None
    return True


def _note(
    came: _Sending, step: PublishStep, right: bool | None, record: PublishedRecord | None, sha256: str | None
) -> None:
    """Note what came of a step."""
    if right is None:
        came.left.append(step.path)
        came.news[step.path] = record
    elif step.does is Does.DELETE:
        came.deleted.append(step.path)
        came.news[step.path] = None
    elif right:
        came.sent.append(step.path)
        came.news[step.path] = PublishedRecord(sha256)
    else:
        came.wrong.append(step.path)


def _confirm(place: Place, sent: list[str], wanted: Mapping[str, str | None]) -> list[str]:
    """Note what the target tells of the files that were sent; return those that are not as long there as here."""
    if not sent:
        return []
    found = place.target.look(sent)
    with place.database.transaction() as session:
        sizes = store.load_sizes(session, place.site_id, [sha256 for path in sent if (sha256 := wanted[path])])
    news: dict[str, PublishedRecord | None] = {}
    wrong = []
    for path in sent:
        remote, sha256 = found.get(path), wanted[path]
        if remote is None or (remote.size is not None and remote.size != sizes.get(sha256 or "")):
            wrong.append(path)
            news[path] = PublishedRecord(None, sha256)
        else:
            news[path] = PublishedRecord(sha256, None, remote.size, remote.tag)
    place.save(news)
    return wrong
