"""Sites opened to be looked at, or to be changed."""

from __future__ import annotations

import logging
from collections.abc import Collection, Iterator, Mapping
from contextlib import contextmanager
from uuid import UUID

from sqlalchemy.orm import Session

from signpost.desk.findings import find_unchecked, keep_findings
from signpost.desk.indexing import AT_ONCE, bring_up_to_date, count_unindexed, is_indexed
from signpost.desk.loading import LoadedSite, load_arriving, load_indexed, load_known, load_record
from signpost.store.database import Database

#: Stands for all pages of a site.
EVERY_PAGE = None
#: How many pages are checked at a time, while nobody else can change the site.
_CHECKED_AT_ONCE = 20
#: Up to how many pages that are not read yet are read before anything is shown.
FEW_UNREAD = 40
#: How many files of a change are looked at next.
_LOOKED_AT = 3
#: Characters of a page beyond which its check takes seconds.
_LONG = 2_000_000

_log = logging.getLogger(__name__)


@contextmanager
def opened(
    database: Database, site_id: UUID, *, checked: Collection[str] | None = (), at_once: str | None = None
) -> Iterator[LoadedSite]:
    """Give a site as it is at this moment, for as long as the block lasts; whoever changes it meanwhile is not seen.

    Its index is brought up to date first where it is not, and so are the findings of the pages that are `checked`.
    Who wants one page `at_once` gets it as it is alone where many others are not read yet: the site `is_arriving`
    then. Raises NotThereError.
    """
    while True:
        with database.snapshot() as session:
            known = load_known(session, site_id)
            if at_once is not None and not is_indexed(known) and count_unindexed(session, known) > FEW_UNREAD:
                yield load_arriving(session, known, at_once)
                return
            if is_indexed(known):
                loaded = load_indexed(session, known, committed=True)
                if checked == () or not find_unchecked(loaded, checked):
                    yield loaded
                    return
        _go_on(database, site_id, checked)


def _go_on(database: Database, site_id: UUID, checked: Collection[str] | None) -> None:
    """Bring some more of a site's index up to date, or check some more of the pages that are to be checked."""
    with database.transaction(lasting=False) as session:
        load_record(session, site_id, lock="alone")
        known = bring_up_to_date(session, site_id, AT_ONCE)
        if is_indexed(known) and checked != ():
            loaded = load_indexed(session, known)
            keep_findings(loaded, find_unchecked(loaded, checked)[:_CHECKED_AT_ONCE])


def follow_change(session: Session, site_id: UUID, changed: Mapping[str, bytes | None]) -> None:
    """Bring the index of a site up to date behind a change of some files, and check those of them that are pages.

    What a file has now is given where it is at hand.

    Where they are few: whoever made the change looks at them next, and would wait for that then. No rule keeps a
    change from being made: what fails, or takes long, is left to whoever looks. The site must be locked.
    """
    known = bring_up_to_date(session, site_id, at_hand=[data for data in changed.values() if data is not None])
    if len(changed) > _LOOKED_AT:
        return
    loaded = load_indexed(session, known)
    pages = [path for path in changed if path in loaded.pages]
    if any(len(loaded.pages[path].text) > _LONG for path in pages):
        return
    try:
        with session.begin_nested():
            keep_findings(loaded, pages)
    except Exception as error:  # noqa: BLE001 - whatever it is, the change stands, and it shows again when somebody looks
        _log.warning("the pages of a change were not checked with it: %s", error)


def load_locked(session: Session, site_id: UUID) -> LoadedSite:
    """Return a site that is locked, with its index brought up to date. Raises NotThereError."""
    known = load_known(session, site_id)
    if not is_indexed(known):
        known = bring_up_to_date(session, site_id)
    return load_indexed(session, known)
