"""What answers carry, beside the desk's own views."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime
from uuid import UUID

from signpost.store.records import ChangeRecord, SiteRecord


@dataclass(frozen=True, slots=True)
class SiteEntry:
    """A site in the list of sites."""

    site_id: UUID
    name: str
    base: str | None
    created_at: datetime

    @classmethod
    def of(cls, record: SiteRecord) -> SiteEntry:
        """Return the entry of a site."""
        return cls(record.site_id, record.name, record.base, record.created_at)


@dataclass(frozen=True, slots=True)
class Revision:
    """Bytes that are kept."""

    sha256: str


@dataclass(frozen=True, slots=True)
class ChangeEntry:
    """A change in the list of changes."""

    number: int
    operation: str
    title: str
    page: str
    edits: int
    paths: tuple[str, ...]
    undone: bool
    can_turn: bool  # whether it can be undone now, or redone where it is undone
    created_at: datetime
    author: str  # as they call themselves; "" for nobody in particular
    moves: dict[str, str]  # new paths of files by their old ones

    @classmethod
    def of(cls, record: ChangeRecord, *, can_turn: bool) -> ChangeEntry:
        """Return the entry of a change."""
        paths = tuple(file.path for file in record.files)
        return cls(
            record.number,
            record.operation,
            record.title,
            record.page,
            record.edits,
            paths,
            record.undone,
            can_turn,
            record.created_at,
            record.author,
            dict(record.parameters.get("moves", ())),
        )


@dataclass(frozen=True, slots=True)
class SourceText:
    """A page's text."""

    text: str  # a line feed at every line end
    revision: str


@dataclass(frozen=True, slots=True)
class Successor:
    """The page that has what was on a part which is not there any more; None where nobody knows."""

    path: str | None
