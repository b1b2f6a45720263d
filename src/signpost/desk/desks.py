"""A site's whole desk as one archive: its files, all changes with their earlier states, what was settled."""

from __future__ import annotations

import hashlib
import json
import zipfile
from collections.abc import Iterable
from io import BytesIO
from typing import Annotated, Any
from uuid import UUID

from pydantic import (
    AfterValidator,
    AwareDatetime,
    BaseModel,
    Field,
    HttpUrl,
    TypeAdapter,
    ValidationError,
    model_validator,
)

from signpost.core.addresses.links import is_page_path
from signpost.core.addresses.paths import find_path_objection
from signpost.desk.deeds import note_deed
from signpost.desk.errors import ConflictError, TooMuchError
from signpost.desk.intake import BROKEN, FILE_BYTES, PAGE_BYTES, SITE_FILES
from signpost.desk.loading import load_record
from signpost.desk.settings import SITE_NAME, dump_settings, read_settings
from signpost.store import repositories as store
from signpost.store.database import Database
from signpost.store.limits import SITE_BYTES
from signpost.store.records import ChangeRecord, FileChange, FileRecord, SiteRecord

#: What the archive's own list is called, and the version of its form.
_LIST, _FORM = "desk.json", 1


def _site_path(path: str) -> str:
    objection = find_path_objection(path)
    if objection is not None:
        raise ValueError(objection)
    return path


_Path = Annotated[str, Field(min_length=1, max_length=400), AfterValidator(_site_path)]
_Sha256 = Annotated[str, Field(pattern="^[0-9a-f]{64}$")]
_Line = Annotated[str, Field(max_length=2000)]


class _File(BaseModel):
    path: _Path
    sha256: _Sha256 | None
    brought_sha256: _Sha256 | None


class _FileChange(BaseModel):
    path: _Path
    before_sha256: _Sha256 | None
    after_sha256: _Sha256 | None


class _Change(BaseModel):
    number: Annotated[int, Field(ge=1, lt=2**53)]
    operation: Annotated[str, Field(max_length=100)]
    title: _Line
    page: _Line
    edits: Annotated[int, Field(ge=0, lt=2**31)]
    undone: bool
    created_at: AwareDatetime
    parameters: dict[str, Any]
    author: _Line
    files: list[_FileChange]

    @model_validator(mode="after")
    def _each_file_once(self) -> _Change:
        _refuse_twice(one.path for one in self.files)
        moves = self.parameters.get("moves", {})
        if not isinstance(moves, dict) or not all(isinstance(goal, str) for goal in moves.values()):
            raise ValueError("moves lead from paths to paths")
        return self


class _Desk(BaseModel):
    form: int
    name: Annotated[str, Field(max_length=SITE_NAME)]
    base: str | None
    settings: dict[str, Any]
    files: list[_File]
    changes: list[_Change]

    @model_validator(mode="after")
    def _each_once(self) -> _Desk:
        _refuse_twice(one.path for one in self.files)
        _refuse_twice(one.number for one in self.changes)
        if self.base is not None:
            _ADDRESS.validate_python(self.base)
        return self


_ADDRESS: TypeAdapter[HttpUrl] = TypeAdapter(HttpUrl)


def _refuse_twice(values: Iterable[object]) -> None:
    """Raise ValueError where one of some values comes twice."""
    found = [*values]
    if len({*found}) != len(found):
        raise ValueError("one of these is there twice")


def _read_list(data: bytes) -> _Desk:
    """Return what an archive says of itself. Raises ValueError for what no desk says, or no database takes."""
    text = data.decode()  # which no lone surrogate comes of
    said = json.loads(text, parse_constant=_refuse_constant)
    json.dumps(said, ensure_ascii=False).encode()  # but one that is written as an escape is refused here
    if "\\u0000" in text:
        raise ValueError("a NUL is in no text")
    return _Desk.model_validate(said)


def _refuse_constant(name: str) -> float:
    raise ValueError(f"{name} is no number of JSON")


def pack_desk(database: Database, site_id: UUID) -> bytes:
    """Return a site's desk as a ZIP archive, which another installation can take in."""
    with database.snapshot() as session:
        record = load_record(session, site_id)
        files = store.load_files(session, site_id)
        changes = store.load_changes(session, site_id)
        hashes = {one for file in files for one in (file.sha256, file.brought_sha256) if one}
        hashes |= {
            one
            for change in changes
            for file in change.files
            for one in (file.before_sha256, file.after_sha256)
            if one
        }
        blobs = store.load_blobs(session, site_id, hashes)
    said = _Desk(
        form=_FORM,
        name=record.name,
        base=record.base,
        settings=dump_settings(read_settings(record.settings)),
        files=[_File(path=one.path, sha256=one.sha256, brought_sha256=one.brought_sha256) for one in files],
        changes=[_packed(change) for change in reversed(changes)],
    )
    packed = BytesIO()
    with zipfile.ZipFile(packed, "w", zipfile.ZIP_DEFLATED) as archive:
        archive.writestr(_LIST, said.model_dump_json(indent=1))
        for sha256, data in sorted(blobs.items()):
            archive.writestr(f"bytes/{sha256}", data)
    return packed.getvalue()


def _packed(change: ChangeRecord) -> _Change:
    files = [
        _FileChange(path=one.path, before_sha256=one.before_sha256, after_sha256=one.after_sha256)
        for one in change.files
    ]
    return _Change(
        number=change.number,
        operation=change.operation,
        title=change.title,
        page=change.page,
        edits=change.edits,
        undone=change.undone,
        created_at=change.created_at,
        parameters=change.parameters,
        author=change.author,
        files=files,
    )


def unpack_desk(database: Database, data: bytes) -> SiteRecord:
    """Return a new site with the desk that an archive has.

    Raises ConflictError for one that is no desk or is damaged, and TooMuchError for one beyond the limits; nothing is
    taken then.
    """
    try:
        with zipfile.ZipFile(BytesIO(data)) as archive:
            if sum(member.file_size for member in archive.infolist()) > SITE_BYTES:
                raise TooMuchError("The archive would unpack to more than a site may contain.")
            said = _read_list(archive.read(_LIST))
            blobs = {
                name.removeprefix("bytes/"): archive.read(name)
                for name in archive.namelist()
                if name.startswith("bytes/")
            }
    except (*BROKEN, RecursionError, ValidationError) as error:
        raise ConflictError("This is not a desk that was exported, or it is damaged. Export it again.") from error
    _refuse_damaged(said, blobs)
    with database.transaction() as session:
        site = store.add_site(session, said.name.strip()[:400] or "Untitled site", said.base)
        store.save_settings(session, site.site_id, dump_settings(read_settings(said.settings)))
        store.save_blobs(session, site.site_id, blobs.values())
        files = [FileRecord(one.path, one.sha256, one.brought_sha256) for one in said.files]
        store.add_files(session, site.site_id, files)
        store.restore_changes(session, site.site_id, [_unpacked(change) for change in said.changes])
        note_deed(session, site.site_id, "took in the desk")
        return site


def _is_large(path: str, data: bytes) -> bool:
    return len(data) > (PAGE_BYTES if is_page_path(path) else FILE_BYTES)


def _unpacked(change: _Change) -> ChangeRecord:
    files = tuple(FileChange(one.path, one.before_sha256, one.after_sha256) for one in change.files)
    return ChangeRecord(
        change.number,
        change.operation,
        change.title,
        change.page,
        change.edits,
        change.undone,
        change.created_at,
        change.parameters,
        files,
        change.author,
    )


def _refuse_damaged(said: _Desk, blobs: dict[str, bytes]) -> None:
    """Raise ConflictError where bytes are missing or are others, or a path could not be one of a site."""
    if said.form != _FORM:
        raise ConflictError("This desk was exported by another version. Export it again with this one.")
    if len(said.files) > SITE_FILES:
        raise TooMuchError(f"A site may have {SITE_FILES} files; the archive has {len(said.files)}.")
    wanted = {one for file in said.files for one in (file.sha256, file.brought_sha256) if one}
    changed = [file for change in said.changes for file in change.files]
    wanted |= {one for file in changed for one in (file.before_sha256, file.after_sha256) if one}
    large = [file.path for file in said.files if file.sha256 and _is_large(file.path, blobs.get(file.sha256, b""))]
    if large:
        raise TooMuchError(f"{large[0]} is larger than a site takes; none of the desk was taken.")
    sound = wanted <= blobs.keys() and all(
        hashlib.sha256(data).hexdigest() == sha256 for sha256, data in blobs.items()
    )
    if not sound:
        raise ConflictError("The archive is damaged: some of its files are missing or changed. Export it again.")
