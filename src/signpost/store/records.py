"""What the store hands out: frozen values."""

from __future__ import annotations

from dataclasses import dataclass, field
from datetime import datetime
from typing import Any
from uuid import UUID


@dataclass(frozen=True, slots=True)
class SiteRecord:
    """A site."""

    site_id: UUID
    name: str
    base: str | None
    created_at: datetime
    settings: dict[str, Any] = field(default_factory=dict)


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
    key: UUID | None = None  # of the request that made it


@dataclass(frozen=True, slots=True)
class GeometryRecord:
    """A page as it was measured in one window."""

    path: str
    sha256: str  # of the page's bytes
    digest: str  # digest of the page and of all that it may load
    facts: dict[str, Any]
