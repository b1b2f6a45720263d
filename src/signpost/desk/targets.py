"""Places that a site is published to, and the passwords that they need."""

from __future__ import annotations

import json
import os
from dataclasses import dataclass, replace
from datetime import datetime
from enum import StrEnum
from pathlib import Path
from uuid import UUID

from signpost.core.site.site import SITE_FILE
from signpost.core.text.errors import RequestError
from signpost.desk.deeds import note_deed
from signpost.desk.errors import ConflictError, NotThereError
from signpost.desk.linked_folders import allowed_folder, named_folder
from signpost.desk.loading import load_record
from signpost.hosting.addresses import read_address
from signpost.hosting.dav import DavTarget
from signpost.hosting.practice import DAV_USER, address_of
from signpost.hosting.practice_settings import (
    SettingsError,
    Way,
    dav_password,
    forget_folder,
    label_of,
    read_way,
    write_way,
)
from signpost.hosting.sftp import SftpTarget
from signpost.hosting.targets import FolderTarget, Target
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
class Surroundings:
    """What of this machine publishing may use."""

    folders: tuple[str, ...]  # in which targets may be
    host_folder: str  # of the practice host; "" where there is none
    host_address: str
    secrets: str  # the file that has the passwords


@dataclass(frozen=True, slots=True)
class PracticeView:
    """How the practice host keeps a site, and how files get to it by WebDAV, to practise that too."""

    way: Way  # to readers
    wrong: str  # what is wrong with how that is kept; "" for nothing
    address: str
    user_name: str
    password: str


@dataclass(frozen=True, slots=True)
class TargetView:
    """A target as its site's desk shows it."""

    name: str
    kind: TargetKind
    address: str
    user_name: str
    live: str  # the address that readers use; "" where it is not known
    has_secret: bool
    practice: PracticeView | None  # of the practice host
    published_at: datetime | None
    publications: int


def list_targets(database: Database, site_id: UUID, reach: Surroundings) -> list[TargetView]:
    """Return the targets of a site."""
    secrets = _read_secrets(reach)
    with database.transaction() as session:
        load_record(session, site_id)
        found = kept.load_targets(session, site_id)
        done = {one.name: kept.load_publications(session, site_id, one.name, one.address) for one in found}
    return [_view(one, done[one.name], reach, has_secret=_secret_key(site_id, one.name) in secrets) for one in found]


def _view(
    target: TargetRecord, done: list[PublicationRecord], reach: Surroundings, *, has_secret: bool
) -> TargetView:
    return TargetView(
        target.name,
        TargetKind(target.kind),
        target.address,
        target.user_name,
        _live(target, reach),
        has_secret,
        _practice(Path(target.address), reach) if target.kind == TargetKind.PRACTICE else None,
        done[0].created_at if done else None,
        len(done),
    )


def _live(target: TargetRecord, reach: Surroundings) -> str:
    """Return the address that readers of a target use: the practice host's goes with its port."""
    if target.kind != TargetKind.PRACTICE:
        return target.live
    return address_of(reach.host_address, Path(target.address).name) if reach.host_address else ""


def _practice(folder: Path, reach: Surroundings) -> PracticeView | None:
    if not reach.host_address:
        return None
    root, site = folder.parent, folder.name
    try:
        way, wrong = read_way(root, site), ""
    except SettingsError as error:
        way, wrong = Way(), str(error)
    return PracticeView(way, wrong, f"{reach.host_address}/dav/{site}", DAV_USER, dav_password(root, site))


def save_target(
    database: Database,
    site_id: UUID,
    target: TargetRecord,
    secret: str | None,
    reach: Surroundings,
    way: Way | None = None,
    was: str = "",
) -> list[TargetView]:
    """Keep a target of a site, and the way to readers of the practice host.

    `was` is the name of the target that is edited, "" for a new one. Its password stays while host, address and user
    stay. Raises RequestError for one of no use, ConflictError where another one has its name.
    """
    name = target.name.strip()
    if not name:
        raise RequestError("Give the target a name, such as “our host”.")
    kind = TargetKind(target.kind)
    address, live = target.address.strip(), target.live.strip()
    if kind is TargetKind.PRACTICE:
        if not reach.host_folder:
            raise RequestError("The practice host does not run here.")
        folder = _practice_folder(database, site_id, was, reach)
        address, live = str(folder), ""
        write_way(folder.parent, folder.name, way or Way())
    if live:
        read_address(live)
    made = TargetRecord(name, kind, address, target.user_name.strip(), live)
    _connect(made, secret or "", reach)
    with database.transaction() as session:
        load_record(session, site_id, lock="alone")
        known = {one.name: one for one in kept.load_targets(session, site_id)}
        if name in known and name != was:
            raise ConflictError(f"There is a target “{name}” already. Give this one another name, or edit that one.")
        before = known.get(was)
        if before is not None and name != was:
            kept.rename_target(session, site_id, was, name)
        kept.save_target(session, site_id, made)
        note_deed(session, site_id, f"set up “{name}” to publish to")
    if before is not None:
        _carry_secret(reach, site_id, before, made)
    if secret is not None:
        _write_secret(reach, _secret_key(site_id, name), secret)
    return list_targets(database, site_id, reach)


def _carry_secret(reach: Surroundings, site_id: UUID, before: TargetRecord, now: TargetRecord) -> None:
    """Let a password follow its target's name; it does not go where it was not meant for."""
    old, new = _secret_key(site_id, before.name), _secret_key(site_id, now.name)
    said = _read_secrets(reach).get(old, "")
    same = (before.kind, before.address, before.user_name) == (now.kind, now.address, now.user_name)
    if old != new:
        _write_secret(reach, old, "")
    if old != new or not same:
        _write_secret(reach, new, said if same else "")


def forget_targets(database: Database, site_id: UUID, reach: Surroundings) -> None:
    """Forget the passwords of all targets of a site, and take what it has off the practice host.

    What was published elsewhere stays there.
    """
    for key in _read_secrets(reach):
        if key.startswith(f"{site_id}/"):
            _write_secret(reach, key, "")
    with database.transaction() as session:
        found = kept.load_targets(session, site_id)
    for folder in {Path(one.address) for one in found if one.kind == TargetKind.PRACTICE}:
        if reach.host_folder and folder.parent == Path(reach.host_folder):
            forget_folder(folder.parent, folder.name)


def delete_target(database: Database, site_id: UUID, name: str, reach: Surroundings) -> list[TargetView]:
    """Forget a target; what is there stays there."""
    with database.transaction() as session:
        load_record(session, site_id, lock="alone")
        kept.delete_target(session, site_id, name)
    _write_secret(reach, _secret_key(site_id, name), "")
    return list_targets(database, site_id, reach)


def _practice_folder(database: Database, site_id: UUID, was: str, reach: Surroundings) -> Path:
    """Return the folder of a site on the practice host: the one that it has, whatever it is called now."""
    with database.transaction() as session:
        name = load_record(session, site_id).name
        there = {one.name: one.address for one in kept.load_targets(session, site_id) if one.kind == "practice"}
    folder = Path(there.get(was) or next(iter(there.values()), "") or "-")
    if folder.parent == Path(reach.host_folder):
        return folder
    return Path(reach.host_folder) / label_of(name, str(site_id)[:8])


def _connect(target: TargetRecord, secret: str, reach: Surroundings) -> Target:
    """Return the place that a target is. Raises RequestError for one that may not be used."""
    if not reach.folders:
        raise RequestError("This server publishes nowhere, since others can reach it. Export the files instead.")
    match TargetKind(target.kind):
        case TargetKind.PRACTICE:
            return FolderTarget(Path(target.address))
        case TargetKind.FOLDER:
            path = named_folder(target.address)
            allowed_folder(str(path if path.is_dir() else path.parent), reach.folders)
            return FolderTarget(path)
        case TargetKind.WEBDAV:
            return DavTarget(target.address, target.user_name, secret)
        case TargetKind.SFTP:
            return SftpTarget(target.address, target.user_name, secret)


def load_target(database: Database, site_id: UUID, name: str, reach: Surroundings) -> tuple[TargetRecord, Target]:
    """Return a target of a site and the place that it is. Raises NotThereError, or RequestError for one of no use."""
    with database.transaction() as session:
        load_record(session, site_id)
        target = next((one for one in kept.load_targets(session, site_id) if one.name == name), None)
    if target is None:
        raise NotThereError(f"The site has no target “{name}”.")
    target = replace(target, live=_live(target, reach))
    return target, _connect(target, _read_secrets(reach).get(_secret_key(site_id, name), ""), reach)


def wanted_files(database: Database, site_id: UUID) -> dict[str, str]:
    """Return the files of a site that readers get, as hashes by path: not what its author says of it to us."""
    with database.transaction() as session:
        files = store.load_files(session, site_id)
    return {file.path: file.sha256 for file in files if file.sha256 is not None and file.path != SITE_FILE}


# ---------------------------------------------------------------- secrets: in a file that its owner alone reads


def _secret_key(site_id: UUID, name: str) -> str:
    return f"{site_id}/{name}"


def _read_secrets(reach: Surroundings) -> dict[str, str]:
    try:
        found: dict[str, str] = json.loads(Path(reach.secrets).read_text(encoding="utf-8"))
    except (OSError, ValueError):
        return {}
    return found


def _write_secret(reach: Surroundings, key: str, secret: str) -> None:
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
