"""What the store hands out: frozen values."""

from __future__ import annotations

from collections.abc import Collection
from dataclasses import dataclass, field
from datetime import datetime
from typing import Any, Literal, NamedTuple
from uuid import UUID


@dataclass(frozen=True, slots=True)
class SiteRecord:
    """A site."""

    site_id: UUID
    name: str
    base: str | None
    created_at: datetime
    settings: dict[str, Any] = field(default_factory=dict)
    indexed_by: str = ""  # digest of what its index depends on beside its files
    is_indexed: bool = False  # whether its index knows all files as they are
    site_file: str | None = None  # hash of its own file that says how it is checked
    files_revision: int = 0  # goes up whenever its files are others
    has_unreadable: bool = True  # whether any of its pages cannot be read


@dataclass(frozen=True, slots=True)
class DeedRecord:
    """What was done last to a site."""

    revision: int  # goes up with everything that is done to the site
    window: str  # in which it was done, by the name that window gave itself
    author: str  # as they call themselves; "" for nobody in particular
    deed: str


@dataclass(frozen=True, slots=True)
class FileRecord:
    """A file of a site; hashes are SHA-256, hexadecimal."""

    path: str
    sha256: str | None  # None: not there at present
    brought_sha256: str | None  # None: made here

    @property
    def changed(self) -> bool:
        """Whether it differs from what was brought in."""
        return self.sha256 != self.brought_sha256


@dataclass(frozen=True, slots=True)
class FileChange:
    """What a change did to one file; None stands for a file that is not there."""

    path: str
    before_sha256: str | None
    after_sha256: str | None


@dataclass(frozen=True, slots=True)
class ChangeRecord:
    """A change."""

    number: int  # 1-based within the site
    operation: str
    title: str
    page: str
    edits: int
    undone: bool
    created_at: datetime
    parameters: dict[str, Any] = field(default_factory=dict)
    files: tuple[FileChange, ...] = ()
    author: str = ""  # as they call themselves


class RequestRecord(NamedTuple):
    """A request that made a change, undid it or made it again."""

    number: int  # of the change
    digest: str  # of what was asked; "" where that is not known


@dataclass(frozen=True, slots=True)
class GeometryRecord:
    """A page as it was measured in one window."""

    path: str
    sha256: str  # of the page's bytes
    digest: str  # digest of the page and of all that it may load
    facts: dict[str, Any]


@dataclass(frozen=True, slots=True)
class PageRecord:
    """What the index knows of a page."""

    path: str
    sha256: str  # of its bytes
    repeated: list[str]  # digests of its blocks that other pages repeat
    unreadable: str | None  # why it cannot be read
    summary: dict[str, Any]
    checked_by: str | None  # digest of how its findings were found; None: out of date


class ToldRecord(NamedTuple):
    """What a page tells of itself that others ask for."""

    kind: str
    key: str
    value: str


class DestinationRecord(NamedTuple):
    """Where a link may lead on a page."""

    section: int | None  # by index; None for the page, or what is no section
    level: int  # of the heading; 0 for others
    identifier: str | None
    text: str
    words: str  # what it is found by


@dataclass(frozen=True, slots=True)
class FindingRecord:
    """A finding as it is kept."""

    page: str
    rule: str
    words: str  # of the source, by which the place is known again
    view: dict[str, Any]


@dataclass(frozen=True, slots=True)
class FindingsAsked:
    """Which findings are asked for."""

    pages: Collection[str] | None = None  # None for all pages
    rules: Collection[str] | None = None  # None for all
    words: str = ""  # that the page's path or the message contains, in any case
    or_rules: tuple[str, ...] = ()  # of which findings are wanted without these words as well
    aside: tuple[tuple[str, str, str], ...] = ()  # rule, page and words of what is left out; "" for any
    left_out: tuple[str, ...] = ()  # folders and pages
    of: tuple[str, str] | None = None  # a name of what a view says, and what it is to say
    after: tuple[str, int] | None = None  # page and number of the one before the first
    limit: int | None = None


@dataclass(frozen=True, slots=True)
class SaidCount:
    """How many findings say the same."""

    said: str
    count: int
    pages: int  # on how many they are
    pressed: int  # of them that one press fixes
    chosen: int  # of them that are fixed by a choice


@dataclass(frozen=True, slots=True)
class FolderRecord:
    """The folder that a site is linked to."""

    site_id: UUID
    folder: str  # its full path
    host: str  # the machine that has it
    away: str  # why it cannot be used now; "" where it can


class FolderFileRecord(NamedTuple):
    """A file as folder and site had it when they last agreed."""

    sha256: str
    size: int  # in bytes
    changed: int  # ctime, in nanoseconds; 0 where that tells nothing


class WriteRecord(NamedTuple):
    """A file that is being written to a folder; hashes are SHA-256, None for a file that is not there."""

    path: str
    before_sha256: str | None
    after_sha256: str | None
    beside: str  # the name, in the same folder, that is ours: it waits there, and what it displaced is there then
    agreed: bool = False  # whether it is in place, and folder and site agree on it


@dataclass(frozen=True, slots=True)
class WaitRecord:
    """A file that folder and site cannot bring together for now."""

    path: str
    side: Literal["desk", "folder"]  # whose state waits to be taken over
    why: str
    remedy: str  # what its author can do


@dataclass(frozen=True, slots=True)
class ConflictRecord:
    """A file that was edited on both sides; hashes are SHA-256, None for a file that is not there."""

    path: str
    base_sha256: str | None
    folder_sha256: str | None


@dataclass(frozen=True, slots=True)
class TargetRecord:
    """A place that a site is published to."""

    name: str
    kind: str
    address: str
    user_name: str = ""
    live: str = ""  # the address that readers use


class PublishedRecord(NamedTuple):
    """A file as it was put to a target; hashes are SHA-256."""

    sha256: str | None  # that was read back there; None for nothing yet
    sending: str | None = None  # that is being put there; None for nothing
    size: int | None = None  # as the target tells it, in bytes
    tag: str = ""  # as the target tells it


class ReplacedRecord(NamedTuple):
    """What a publication replaced; hashes are SHA-256, None for a file that was not there, or is not any more."""

    sha256: str | None  # of what was there
    after_sha256: str | None
    foreign: bool = False  # whether that was not put there from here


@dataclass(frozen=True, slots=True)
class PublicationRecord:
    """A publication that can be taken back."""

    number: int  # 1-based
    created_at: datetime
