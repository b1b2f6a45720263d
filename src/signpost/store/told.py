"""What pages tell of themselves that others ask for, and where links may lead on them."""

from __future__ import annotations

from collections.abc import Collection, Iterable, Iterator, Mapping, Sequence
from typing import Any
from uuid import UUID

from sqlalchemy import ARRAY, BigInteger, any_, bindparam, delete, select
from sqlalchemy.orm import Session

from signpost.store.models import DESTINATIONS, SITE, SOME_PAGES, TOLD, is_among
from signpost.store.records import DestinationRecord, ToldRecord
from signpost.store.rows import add_rows, digest_of

# -------------------------------------------------------------------- what pages tell


def load_told_by(session: Session, site_id: UUID, pages: Collection[str]) -> dict[str, set[ToldRecord]]:
    """Return what pages tell, by their paths."""
    found: dict[str, set[ToldRecord]] = {}
    for row in session.execute(_TOLD_BY, {"site_id": site_id, "pages": list(pages)}):
        found.setdefault(row.page, set()).add(ToldRecord(row.kind, row.key, row.value))
    return found


_TOLD_BY = select(TOLD.c.page, TOLD.c.kind, TOLD.c.key, TOLD.c.value).where(
    TOLD.c.site_id == SITE, TOLD.c.page == any_(SOME_PAGES)
)


def load_told_of_kind(
    session: Session, site_id: UUID, kind: str, pages: Collection[str]
) -> dict[str, list[tuple[str, str]]]:
    """Return what some pages tell of one kind, by their paths: keys and values."""
    query = select(TOLD.c.page, TOLD.c.key, TOLD.c.value).where(
        TOLD.c.site_id == site_id, is_among(TOLD.c.page, pages), TOLD.c.kind == kind
    )
    found: dict[str, list[tuple[str, str]]] = {}
    for row in session.execute(query):
        found.setdefault(row.page, []).append((row.key, row.value))
    return found


def load_told_of(
    session: Session, site_id: UUID, asked: Collection[tuple[str, str]]
) -> Iterator[tuple[str, str, str, str]]:
    """Yield what pages tell of some kinds under some keys: kind, key, page, value."""
    # each kind by itself, so that a table without statistics is searched well too
    for kind in {kind for kind, _ in asked}:
        digests = [digest_of(key) for other, key in asked if other == kind]
        for row in session.execute(_TOLD_OF, {"site_id": site_id, "kind": kind, "digests": digests}):
            if (kind, row.key) in asked:
                yield kind, row.key, row.page, row.value


_TOLD = select(TOLD.c.key, TOLD.c.page, TOLD.c.value).where(TOLD.c.site_id == SITE, TOLD.c.kind == bindparam("kind"))
_TOLD_OF = _TOLD.where(TOLD.c.key_digest == any_(bindparam("digests", type_=ARRAY(BigInteger))))
_TOLD_IN_ORDER = _TOLD.order_by(TOLD.c.page, TOLD.c.digest)
_TOLD_UNDER = _TOLD_IN_ORDER.where(TOLD.c.key_digest == bindparam("digest"), TOLD.c.key == bindparam("key"))


def load_told(session: Session, site_id: UUID, kind: str, key: str | None = None) -> Iterator[tuple[str, str, str]]:
    """Yield what pages tell of one kind under a key, or under all: key, page, value, in the order of the pages."""
    asked: dict[str, Any] = {"site_id": site_id, "kind": kind}
    if key is not None:
        asked |= {"digest": digest_of(key), "key": key}
    for row in session.execute(_TOLD_IN_ORDER if key is None else _TOLD_UNDER, asked):
        yield row.key, row.page, row.value


def is_told(session: Session, site_id: UUID, kind: str, key: str) -> bool:
    """Return whether any page tells something of a kind under a key."""
    asked = {"site_id": site_id, "kind": kind, "digest": digest_of(key), "key": key}
    return session.execute(_TOLD_UNDER, asked).first() is not None


def load_tellers(session: Session, site_id: UUID, kind: str, key: str, pages: Collection[str]) -> set[str]:
    """Return which of some pages tell anything of a kind under a key."""
    asked = {"site_id": site_id, "kind": kind, "key": key, "pages": list(pages)}
    return set(session.scalars(_TELLERS, asked))


_TELLERS = select(TOLD.c.page).where(
    TOLD.c.site_id == SITE,
    TOLD.c.page == any_(SOME_PAGES),
    TOLD.c.kind == bindparam("kind"),
    TOLD.c.key == bindparam("key"),  # not by its digest: the pages are few, those with the key may be all
)


def add_told(session: Session, site_id: UUID, rows: Iterable[tuple[str, ToldRecord]]) -> None:
    """Keep what pages tell, each with the page's path."""
    found = [
        {
            "site_id": site_id,
            "page": page,
            "kind": told.kind,
            "digest": digest_of(told.key, told.value),
            "key_digest": digest_of(told.key),
            "key": told.key,
            "value": told.value,
        }
        for page, told in rows
    ]
    add_rows(session, TOLD, found)


def delete_told(session: Session, site_id: UUID, rows: Iterable[tuple[str, ToldRecord]]) -> None:
    """Forget what pages tell no longer, each with the page's path."""
    gone = [
        {"site_id": site_id, "page": page, "kind": told.kind, "digest": digest_of(told.key, told.value)}
        for page, told in rows
    ]
    if gone:
        session.execute(_DELETE_TOLD, gone)


_DELETE_TOLD = delete(TOLD).where(
    TOLD.c.site_id == SITE,
    TOLD.c.page == bindparam("page"),
    TOLD.c.kind == bindparam("kind"),
    TOLD.c.digest == bindparam("digest"),
)


# -------------------------------------------------------------------- where links may lead


DESTINATION = (
    DESTINATIONS.c.page,
    DESTINATIONS.c.section,
    DESTINATIONS.c.level,
    DESTINATIONS.c.identifier,
    DESTINATIONS.c.text,
    DESTINATIONS.c.words,
)


def save_destinations(session: Session, site_id: UUID, pages: Mapping[str, Sequence[DestinationRecord]]) -> None:
    """Keep where links may lead on pages, in the place of what was kept of them."""
    known: dict[str, list[DestinationRecord]] = {}
    for row in session.execute(_DESTINATIONS, {"site_id": site_id, "pages": list(pages)}):
        known.setdefault(row.page, []).append(DestinationRecord(*row[1:]))
    others = {page: found for page, found in pages.items() if list(found) != known.get(page, [])}
    delete_destinations(session, site_id, others.keys() & known.keys())
    rows = [
        {"site_id": site_id, "page": page, "number": number, **one._asdict()}
        for page, found in others.items()
        for number, one in enumerate(found)
    ]
    add_rows(session, DESTINATIONS, rows)


_DESTINATIONS = (
    select(*DESTINATION)
    .where(DESTINATIONS.c.site_id == SITE, DESTINATIONS.c.page == any_(SOME_PAGES))
    .order_by(DESTINATIONS.c.page, DESTINATIONS.c.number)
)


def delete_destinations(session: Session, site_id: UUID, pages: Collection[str]) -> None:
    """Forget where links may lead on pages."""
    if pages:
        session.execute(_DELETE_DESTINATIONS, {"site_id": site_id, "pages": list(pages)})


_DELETE_DESTINATIONS = delete(DESTINATIONS).where(
    DESTINATIONS.c.site_id == SITE, DESTINATIONS.c.page == any_(SOME_PAGES)
)
