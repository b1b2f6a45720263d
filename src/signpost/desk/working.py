"""Long work on a site, a batch at a time: pages read, indexed, checked.

What is to be done is what is out of date, which the database knows; so nothing is lost where work stops, and any
process that sees the database can go on with it. Each takes a batch that no other one has.
"""

from __future__ import annotations

import time
from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from itertools import islice
from typing import Literal
from uuid import UUID

from sqlalchemy.orm import Session

from signpost.core import CORE_VERSION
from signpost.core.page import Page
from signpost.desk.findings import checked_by, keep_findings
from signpost.desk.indexing import bring_up_to_date, index_digest, is_indexed, tell_ahead
from signpost.desk.loading import load_indexed, load_known, load_record
from signpost.desk.reading import BATCH, read_all
from signpost.store import checks
from signpost.store import index as store
from signpost.store.database import Database

#: How long a batch takes, in seconds: then whoever else waits for a process has their turn.
STEP = 0.2
#: At what share of it no more is begun, since what was found out is still to be kept.
_ENOUGH = 0.6
#: How many pages are begun at once, and how many files are indexed in a batch.
_BEGUN, _INDEXED = 8, 300
#: After how many the database has to look at its tables again.
_GROWN = 500


@dataclass(frozen=True, slots=True)
class WorkLeft:
    """How much of a site is out of date."""

    unread: int  # pages
    unchecked: int  # pages that are read

    @property
    def what(self) -> Literal["read", "checked"]:
        """What is done next."""
        return "read" if self.unread else "checked"


def find_work(database: Database, site_id: UUID) -> WorkLeft:
    """Return how much of a site is out of date. Raises NotThereError."""
    with database.snapshot() as session:
        return _left(session, site_id)


def take_up(database: Database, site_id: UUID) -> WorkLeft:
    """Return how much of a site is out of date, which is worked off from now on. Raises NotThereError."""
    with database.transaction() as session:
        store.note_resting(session, site_id, resting=False)
        return _left(session, site_id)


def let_rest(database: Database, site_id: UUID) -> None:
    """Leave a site as it is until it is opened again. Raises NotThereError."""
    with database.transaction() as session:
        load_record(session, site_id)
        store.note_resting(session, site_id, resting=True)


def work_off_or_rest(database: Database, site_id: UUID) -> WorkLeft | None:
    """Do what `work_off` does, but nothing on a site that rests."""
    with database.snapshot() as session:
        if store.is_resting(session, site_id):
            return None
    return work_off(database, site_id)


def _left(session: Session, site_id: UUID) -> WorkLeft:
    known = load_known(session, site_id)
    unread = store.count_unread(session, site_id, index_digest(known))
    usual, others = checked_by(known.settings)
    return WorkLeft(unread, checks.count_unchecked(session, site_id, usual, others))


def work_off(database: Database, site_id: UUID) -> WorkLeft | None:
    """Do a batch of what is out of date on a site; return what is left, None where nothing is or others have it.

    Raises NotThereError.
    """
    with database.transaction(lasting=False) as session:
        store.plan_anew(session)
        known = load_known(session, site_id)
        if not known.record.indexed_by:
            load_record(session, site_id, lock="shared")
            known = load_known(session, site_id)  # as it stays until this is done
        settings = known.settings
        taken = store.take_unread(session, site_id, CORE_VERSION, BATCH)
        if taken:
            for some in _until_enough(taken):
                hashes = {path: taken[path] for path in some}
                readings = {path: settings.read_options(path) for path in some}
                read = dict(read_all(session, site_id, hashes, readings, for_others=True))
                unreadable = [taken[path] for path, page in read.items() if not isinstance(page, Page)]
                store.note_unreadable(session, site_id, CORE_VERSION, unreadable)
                if not known.record.indexed_by:
                    tell_ahead(session, site_id, known, read, hashes)
            return _left(session, site_id)
    with database.transaction(lasting=False) as session:
        store.plan_anew(session)
        load_record(session, site_id, lock="shared")
        known = load_known(session, site_id)
        if is_indexed(known):
            taken_pages = checks.take_unchecked(session, site_id, *checked_by(known.settings), BATCH)
            if not taken_pages:
                return None
            loaded = load_indexed(session, known, committed=True)
            checked = 0
            for some in _until_enough(taken_pages):
                keep_findings(loaded, some)
                checked += len(some)
            left = _left(session, site_id)
            if left.unchecked // _GROWN < (left.unchecked + checked) // _GROWN:
                store.count_anew(session, store.CHECKED)
            return left
    with database.transaction(lasting=False) as session:
        load_record(session, site_id, lock="alone")
        if is_indexed(bring_up_to_date(session, site_id, _INDEXED)):
            store.count_anew(session, store.INDEXED)
        return _left(session, site_id)


def _until_enough(paths: Iterable[str]) -> Iterator[list[str]]:
    """Yield paths, a few at a time, as long as a batch may take; the first few always."""
    until = time.monotonic() + _ENOUGH * STEP
    left = iter(paths)
    while some := list(islice(left, _BEGUN)):
        yield some
        if time.monotonic() >= until:
            return


def find_sites_with_work(database: Database) -> list[UUID]:
    """Return the sites of which something is out of date."""
    with database.snapshot() as session:
        return store.load_sites_out_of_date(session)
