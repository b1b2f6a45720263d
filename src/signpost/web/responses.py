"""What answers carry, beside the desk's own views."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from uuid import UUID

from signpost.desk.changes import Listed
from signpost.desk.linked_folders import WaitView
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
    waits: tuple[WaitView, ...] = ()  # its files that are not in the linked folder yet

    @classmethod
    def of(cls, record: ChangeRecord, *, can_turn: bool, waits: Sequence[WaitView] = ()) -> ChangeEntry:
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
            tuple(waits),
        )


@dataclass(frozen=True, slots=True)
class ChangesView:
    """A stretch of the list of changes."""

    entries: tuple[ChangeEntry, ...]  # the newest first
    more: bool  # whether there are older ones
    undoable: ChangeEntry | None  # what “Undo” undoes
    redoable: ChangeEntry | None  # what “Redo” makes again

    @classmethod
    def of(cls, listed: Listed) -> ChangesView:
        """Return the view of changes that were listed."""
        ends = (listed.undoable, listed.redoable)
        undoable, redoable = (None if one is None else ChangeEntry.of(one, can_turn=True) for one in ends)
        entries = tuple(ChangeEntry.of(record, can_turn=can) for record, can in listed.changes)
        return cls(entries, listed.more, undoable, redoable)


@dataclass(frozen=True, slots=True)
class SourceText:
    """A page's text."""

    text: str  # a line feed at every line end
    revision: str


@dataclass(frozen=True, slots=True)
class Successor:
    """The page that has what was on a part which is not there any more; None where nobody knows."""

    path: str | None
