"""A site carried to where its readers are: what would be sent is shown first, and only that is sent."""

from __future__ import annotations

import hashlib
import json
import os
from collections.abc import Mapping
from contextlib import closing
from dataclasses import dataclass
from datetime import datetime
from enum import StrEnum
from functools import partial
from pathlib import Path
from uuid import UUID

from signpost.core.addresses.links import is_page_path
from signpost.core.landings.geometry import Window
from signpost.core.page.lengths import WINDOW_HEIGHT, WINDOW_WIDTH
from signpost.core.site.site import SITE_FILE
from signpost.core.text.diffs import FileDiff, unified_diff
from signpost.core.text.errors import RequestError
from signpost.desk.changes import readable
from signpost.desk.deeds import note_deed
from signpost.desk.errors import ConflictError, NotThereError
from signpost.desk.linked import allowed_folder
from signpost.desk.loading import load_record
from signpost.desk.opening import opened
from signpost.desk.telling import tell
from signpost.hosting.landings import find_bad_landings
from signpost.hosting.practice import Way, read_way, write_way
from signpost.hosting.targets import DavTarget, FolderTarget, SftpTarget, Target
from signpost.hosting.walking import LiveFinding, redirect_rules, walk_live
from signpost.store import publishing as kept
from signpost.store import repositories as store
from signpost.store.database import Database
from signpost.store.records import PublicationRecord, TargetRecord


class TargetKind(StrEnum):
    """How files get to a target."""

    PRACTICE = "practice"  # the host that comes with the product
    FOLDER = "folder"
    WEBDAV = "webdav"
    SFTP = "sftp"


@dataclass(frozen=True, slots=True)
class Reach:
    """What of this machine publishing may use."""

    folders: tuple[str, ...]  # in which targets may be
    host_folder: str  # of the practice host; "" where there is none
    host_address: str
    secrets: str  # the file that has the passwords


@dataclass(frozen=True, slots=True)
class TargetView:
    """A target as its site's desk shows it."""

    name: str
    kind: TargetKind
    address: str
    user_name: str
    live: str  # the address that readers use; "" where it is not known
    has_secret: bool
    way: Way | None  # to readers of the practice host
    published_at: datetime | None
    publications: int


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


@dataclass(frozen=True, slots=True)
class LiveView:
    """What readers get."""

    address: str
    pages: int
    files: int
    newer_here: tuple[str, ...]
    jumps: int | None  # that were followed in Chromium; None where it does not run here
    findings: tuple[LiveFinding, ...]


# ---------------------------------------------------------------- targets


def list_targets(database: Database, site_id: UUID, reach: Reach) -> list[TargetView]:
    """Return the targets of a site."""
    secrets = _read_secrets(reach)
    with database.transaction() as session:
        load_record(session, site_id)
        found = kept.load_targets(session, site_id)
        done = {one.name: kept.load_publications(session, site_id, one.name) for one in found}
    return [_view(one, done[one.name], has_secret=_secret_key(site_id, one.name) in secrets) for one in found]


def _view(target: TargetRecord, done: list[PublicationRecord], *, has_secret: bool) -> TargetView:
    folder = Path(target.address)
    way = read_way(folder.parent, folder.name) if target.kind == TargetKind.PRACTICE else None
    return TargetView(
        target.name,
        TargetKind(target.kind),
        target.address,
        target.user_name,
        target.live,
        has_secret,
        way,
        done[0].created_at if done else None,
        len(done),
    )


def save_target(
    database: Database,
    site_id: UUID,
    target: TargetRecord,
    secret: str | None,
    reach: Reach,
    way: Way | None = None,
) -> list[TargetView]:
    """Keep a target of a site, and the way to readers of the practice host. Raises RequestError for one of no use."""
    name = target.name.strip()
    if not name:
        raise RequestError("Give the target a name, such as “our host”.")
    kind = TargetKind(target.kind)
    address, live = target.address.strip(), target.live.strip()
    if kind is TargetKind.PRACTICE:
        if not reach.host_folder:
            raise RequestError("The practice host does not run here.")
        slug = _slug(database, site_id)
        address, live = str(Path(reach.host_folder) / slug), f"{reach.host_address}/{slug}/"
        write_way(Path(reach.host_folder), slug, way or Way())
    made = TargetRecord(name, kind, address, target.user_name.strip(), live)
    _connect(made, secret or "", reach)
    with database.transaction() as session:
        load_record(session, site_id, lock="alone")
        kept.save_target(session, site_id, made)
        note_deed(session, site_id, f"set up “{name}” to publish to")
    if secret is not None:
        _write_secret(reach, _secret_key(site_id, name), secret)
    return list_targets(database, site_id, reach)


def delete_target(database: Database, site_id: UUID, name: str, reach: Reach) -> list[TargetView]:
    """Forget a target; what is there stays there."""
    with database.transaction() as session:
        load_record(session, site_id, lock="alone")
        kept.delete_target(session, site_id, name)
    _write_secret(reach, _secret_key(site_id, name), "")
    return list_targets(database, site_id, reach)


def _slug(database: Database, site_id: UUID) -> str:
    with database.transaction() as session:
        name = load_record(session, site_id).name
    plain = "".join(letter if letter.isascii() and letter.isalnum() else "-" for letter in name.lower())
    return f"{'-'.join(plain.split('-')).strip('-') or 'site'}-{str(site_id)[:4]}"


def _connect(target: TargetRecord, secret: str, reach: Reach) -> Target:
    """Return the place that a target is. Raises RequestError for one that may not be used."""
    if not reach.folders:
        raise RequestError("This server publishes nowhere, since others can reach it. Export the files instead.")
    match TargetKind(target.kind):
        case TargetKind.PRACTICE:
            return FolderTarget(Path(target.address))
        case TargetKind.FOLDER:
            path = Path(target.address).expanduser()
            allowed_folder(str(path if path.is_dir() else path.parent), reach.folders)
            return FolderTarget(path)
        case TargetKind.WEBDAV:
            return DavTarget(target.address, target.user_name, secret)
        case TargetKind.SFTP:
            return SftpTarget(target.address, target.user_name, secret)


# ---------------------------------------------------------------- secrets: in a file that its owner alone reads


def _secret_key(site_id: UUID, name: str) -> str:
    return f"{site_id}/{name}"


def _read_secrets(reach: Reach) -> dict[str, str]:
    try:
        found: dict[str, str] = json.loads(Path(reach.secrets).read_text(encoding="utf-8"))
    except (OSError, ValueError):
        return {}
    return found


def _write_secret(reach: Reach, key: str, secret: str) -> None:
    secrets = _read_secrets(reach)
    if not secret and key not in secrets:
        return
    secrets.pop(key, None)
    if secret:
        secrets[key] = secret
    file = Path(reach.secrets)
    try:
        file.parent.mkdir(parents=True, exist_ok=True, mode=0o700)
        waiting = file.with_suffix(".new")
        waiting.unlink(missing_ok=True)
        handle = os.open(waiting, os.O_WRONLY | os.O_CREAT | os.O_EXCL, 0o600)
        with os.fdopen(handle, "w", encoding="utf-8") as opened_file:
            json.dump(secrets, opened_file)
        waiting.replace(file)
    except OSError as error:
        raise RequestError(f"The password cannot be kept in {file}: {error.strerror}.") from error


# ---------------------------------------------------------------- publishing


def _load(database: Database, site_id: UUID, name: str, reach: Reach) -> tuple[TargetRecord, Target]:
    with database.transaction() as session:
        load_record(session, site_id)
        target = next((one for one in kept.load_targets(session, site_id) if one.name == name), None)
    if target is None:
        raise NotThereError(f"The site has no target “{name}”.")
    return target, _connect(target, _read_secrets(reach).get(_secret_key(site_id, name), ""), reach)


def _wanted(database: Database, site_id: UUID) -> dict[str, str]:
    """Return the files of a site that readers get, as hashes by path: not what its author says of it to us."""
    with database.transaction() as session:
        files = store.load_files(session, site_id)
    return {file.path: file.sha256 for file in files if file.sha256 is not None and file.path != SITE_FILE}


def plan_publication(
    database: Database, site_id: UUID, name: str, reach: Reach, *, anyway: bool = False
) -> PublishPlan:
    """Return what publishing to a target would do; nothing is sent.

    Files that are there, and were not published from here or were changed there since, stay as they are; with
    `anyway`, they are replaced.
    """
    with database.transaction() as session:
        there = kept.load_published(session, site_id, name)
    with closing(_load(database, site_id, name, reach)[1]) as place:
        return _plan(database, site_id, place, _wanted(database, site_id), there, anyway=anyway)


def diff_publication(database: Database, site_id: UUID, name: str, path: str, reach: Reach) -> str:
    """Return how a file at a target differs from the one here, as a unified diff; "" for files that are no text."""
    sha256 = _wanted(database, site_id).get(path)
    with closing(_load(database, site_id, name, reach)[1]) as place:
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
    wanted = _wanted(database, site_id)
    return _send(database, site_id, name, reach, plan, wanted)


def _send(
    database: Database, site_id: UUID, name: str, reach: Reach, plan: PublishPlan, wanted: Mapping[str, str]
) -> Published:
    _, target = _load(database, site_id, name, reach)
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
    with closing(_load(database, site_id, name, reach)[1]) as place:
        plan = _plan(database, site_id, place, wanted, there, anyway=False)
    result = _send(database, site_id, name, reach, plan, wanted)
    with database.transaction() as session:
        undone = 2 if result.sent or result.deleted else 1  # itself, and what was just kept of going back
        for one in kept.load_publications(session, site_id, name)[:undone]:
            kept.drop_publication(session, site_id, name, one.number)
    return result


# ---------------------------------------------------------------- as readers get it


def walk_site(database: Database, site_id: UUID, name: str, reach: Reach) -> LiveView:
    """Return what readers get at a target's address, compared with the site. Raises RequestError for no address."""
    target, _ = _load(database, site_id, name, reach)
    if not target.live.startswith(("http://", "https://")):
        raise RequestError("Say at which address readers find the pages first.")
    hashes = _wanted(database, site_id)
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
        there = set(kept.load_published(session, site_id, name))
        now = {file.path for file in store.load_files(session, site_id) if file.sha256 is not None}
        moves: dict[str, str] = {}
        for change in reversed(store.load_changes(session, site_id)):
            if not change.undone:
                moves.update(change.parameters.get("moves") or {})
    pairs = []
    for old in sorted(there - now):
        goal, seen = old, set()
        while goal not in now and goal in moves and goal not in seen:
            seen.add(goal)
            goal = moves[goal]
        if goal in now:
            pairs.append((old, goal))
    return redirect_rules(pairs, form)
