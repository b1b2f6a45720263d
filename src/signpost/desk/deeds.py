"""Who is at work: what they do to a site is kept with it, so that others who have it open are told."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping, Sequence
from contextlib import contextmanager
from contextvars import ContextVar
from dataclasses import dataclass
from typing import Any
from uuid import UUID

from sqlalchemy.orm import Session

from signpost.desk.errors import NotThereError
from signpost.desk.loading import load_record
from signpost.desk.settings import Settings, dump_settings, read_settings
from signpost.store import repositories as store
from signpost.store.database import Database
from signpost.store.records import ChangeRecord, DeedRecord, FileChange


@dataclass(frozen=True, slots=True)
class Author:
    """Someone at work, and in which window."""

    window: str = ""  # a name that a window gives itself, so that it knows its own deeds
    name: str = ""  # as they call themselves


#: Who asks for what is being done.
AUTHOR: ContextVar[Author] = ContextVar("author", default=Author())  # noqa: B039 - it cannot be changed


@contextmanager
def author(name: str) -> Iterator[None]:
    """Let what is done in the block be somebody else's deed, who has no window."""
    token = AUTHOR.set(Author("", name))
    try:
        yield
    finally:
        AUTHOR.reset(token)


def note_deed(session: Session, site_id: UUID, deed: str) -> None:
    """Keep what is done to a site, in words that end a sentence which begins with who did it. It must be locked."""
    who = AUTHOR.get()
    store.note_deed(session, site_id, who.window, who.name, deed)


def record_change(
    session: Session,
    site_id: UUID,
    *,
    operation: str,
    title: str,
    page: str,
    files: Sequence[FileChange],
    edits: int | None = None,
    parameters: Mapping[str, Any] | None = None,
) -> ChangeRecord:
    """Return a change that is recorded, its files brought to their new state. The site must be locked."""
    who = AUTHOR.get()
    return store.add_change(
        session,
        site_id,
        operation=operation,
        title=title,
        page=page,
        parameters=dict(parameters or {}),
        edits=len(files) if edits is None else edits,
        files=files,
        window=who.window,
        author=who.name,
        deed=f"made a change: {title}",
    )


def last_deed(database: Database, site_id: UUID) -> DeedRecord:
    """Return what was done last to a site. Raises NotThereError."""
    with database.transaction() as session:
        found = store.load_deed(session, site_id)
    if found is None:
        raise NotThereError("This site is not there any more. Go back to the list of sites.")
    return found


def change_settings(
    database: Database, site_id: UUID, change: Callable[[Settings], Settings], deed: str, path: str = ""
) -> Settings:
    """Return the settings of a site as `change` made them; they are kept.

    Raises NotThereError where the site is not there, or has no file at `path`, if one is given.
    """
    with database.transaction() as session:
        kept = read_settings(load_record(session, site_id, lock="alone").settings)
        if path and store.load_file(session, site_id, path) is None:
            raise NotThereError(f"The site has no page “{path}”.")
        changed = change(kept)
        store.save_settings(session, site_id, dump_settings(changed))
        note_deed(session, site_id, deed)
    return changed
