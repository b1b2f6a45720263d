"""What a site keeps of what it was: shown, shortened by its author, and let go where nothing needs it."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from uuid import UUID

from signpost.core import CORE_VERSION
from signpost.core.text.words import count_of
from signpost.desk.deeds import note_deed
from signpost.desk.errors import ConflictError
from signpost.desk.loading import load_record
from signpost.store import keeping as store
from signpost.store.database import Database
from signpost.store.limits import SITE_BYTES

#: How many rows of a kind are forgotten in one step, so that nobody waits for it.
_AT_ONCE = 500


@dataclass(frozen=True, slots=True)
class Kept:
    """What a site keeps."""

    changes: int
    stored_bytes: int  # of files, earlier states included
    most_bytes: int


@dataclass(frozen=True, slots=True)
class Shortening:
    """What is let go where a site's history is shortened."""

    first: int  # the number of the oldest change that stays
    changes: int  # that are let go
    freed_bytes: int


def view_kept(database: Database, site_id: UUID) -> Kept:
    """Return what a site keeps. Raises NotThereError."""
    with database.snapshot() as session:
        load_record(session, site_id)
        return Kept(store.count_changes(session, site_id), store.count_stored(session, site_id), SITE_BYTES)


def plan_shortening(
    database: Database, site_id: UUID, last: int | None, days: int | None, *, first_states: bool
) -> Shortening:
    """Return what is let go where the last so many changes stay, and those of so many days; nothing is let go yet.

    With `first_states`, each file stays as it was brought in, too.
    """
    with database.snapshot() as session:
        load_record(session, site_id)
        since = None if days is None else datetime.now(UTC) - timedelta(days=days)
        first = store.first_kept(session, site_id, last, since)
        return Shortening(first, *store.count_older(session, site_id, first, first_states=first_states))


def shorten(database: Database, site_id: UUID, first: int, changes: int, *, first_states: bool) -> Kept:
    """Let the changes go that are older than one, and what only they held; return what is kept.

    `changes` is how many that were when it was shown. Raises ConflictError where it is another number now.
    """
    with database.transaction() as session:
        load_record(session, site_id, lock="alone")
        number, _ = store.count_older(session, site_id, first, first_states=first_states)
        if number != changes:
            raise ConflictError("The history changed since this was shown, so nothing was let go. Look once more.")
        store.drop_older(session, site_id, first, first_states=first_states)
        while store.drop_unheld(session, site_id, _AT_ONCE):
            pass
        note_deed(session, site_id, f"shortened the history by {count_of(number, 'change')}")
    return view_kept(database, site_id)


def tidy(database: Database, site_id: UUID) -> bool:
    """Forget a little of what nothing on a site needs any more; return whether there may be more of it."""
    with database.transaction(lasting=False) as session:
        load_record(session, site_id, lock="alone")
        return store.drop_unneeded(session, site_id, CORE_VERSION, _AT_ONCE) >= _AT_ONCE
