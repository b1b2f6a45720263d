"""What screens look for on a site: findings, pages, destinations, paths of files; a stretch of them, in an order."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any
from uuid import UUID

from sqlalchemy import ColumnElement, Float, and_, distinct, func, literal_column, or_, select, tuple_
from sqlalchemy.orm import Session

from signpost.store.index import PAGE
from signpost.store.models import (
    BLOBS,
    DESTINATIONS,
    FILES,
    FINDING_COUNTS,
    FINDINGS,
    PAGES,
    SITE,
    TOLD,
    WINDOWS,
    is_among,
)
from signpost.store.records import DestinationRecord, FindingRecord, FindingsAsked, PageRecord, SaidCount
from signpost.store.rows import storable
from signpost.store.told import DESTINATION

# -------------------------------------------------------------------- pages

#: By what pages can be put in order, beside their paths; each is in their summary.
_ORDERS = ("words", "sections", "links_in")


def find_pages(
    session: Session,
    site_id: UUID,
    words: str,
    order: str,
    start: int,
    limit: int,
    *,
    down: bool,
    asked: FindingsAsked,
) -> list[PageRecord]:
    """Return pages whose path or title contains some words, from the one at `start` on.

    They are in the order of their paths, of what their summary has under `order`, or of their "findings", which are
    those that are `asked` for.
    """
    query = select(*PAGE).where(*_found(site_id, words))
    by: ColumnElement[Any] = PAGES.c.path.expression
    if order in _ORDERS:
        by = func.coalesce(PAGES.c.summary[order].as_integer(), 0)  # pages that cannot be read have no summary
    elif order == "findings":
        number = func.count().label("number")
        counts = select(FINDINGS.c.page, number).where(*_asked(site_id, asked)).group_by(FINDINGS.c.page).subquery()
        query = query.outerjoin(counts, counts.c.page == PAGES.c.path)
        by = func.coalesce(counts.c.number, 0)
    query = query.order_by(by.desc() if down else by, PAGES.c.path).offset(start).limit(limit)
    return [PageRecord(*row) for row in session.execute(query)]


def count_pages(session: Session, site_id: UUID, words: str) -> int:
    """Return how many pages have some words in their path or title."""
    return session.scalar(select(func.count()).select_from(PAGES).where(*_found(site_id, words))) or 0


def longest_page(session: Session, site_id: UUID) -> float:
    """Return the length of a site's longest page, in windows."""
    return session.scalar(_LONGEST, {"site_id": site_id}) or 0.0


_LONGEST = select(func.max(literal_column(WINDOWS, Float))).where(PAGES.c.site_id == SITE)


def _found(site_id: UUID, words: str) -> list[ColumnElement[bool]]:
    where: list[ColumnElement[bool]] = [PAGES.c.site_id == site_id]
    if words:
        pattern = f"%{_escaped(words)}%"
        where.append(or_(PAGES.c.path.ilike(pattern), PAGES.c.summary["title"].astext.ilike(pattern)))
    return where


# -------------------------------------------------------------------- where links may lead


def find_destinations(
    session: Session, site_id: UUID, words: Sequence[str], besides: str, limit: int
) -> list[tuple[str, DestinationRecord]]:
    """Return where links may lead that are found by all of some words, folded, on other pages than one.

    Those whose text begins with the first of the words come first, then pages before what is on them.
    """
    if limit <= 0:
        return []
    query = (
        select(*DESTINATION)
        .where(DESTINATIONS.c.site_id == site_id, DESTINATIONS.c.page != besides)
        .order_by(DESTINATIONS.c.page, DESTINATIONS.c.number)
    )
    contained = [DESTINATIONS.c.words.like(f"%{_escaped(word)}%") for word in words]
    if not words:
        rows = list(session.execute(query.limit(limit)))
    else:  # by themselves, since an index finds what begins with two letters, but not what contains them
        first = DESTINATIONS.c.words.like(f"{_escaped(words[0])}%")
        rows = list(session.execute(query.where(first, *contained[1:]).limit(limit)))
        if len(rows) < limit:
            rows += session.execute(query.where(~first, *contained).limit(limit - len(rows)))
    return [(row.page, DestinationRecord(*row[1:])) for row in rows]


def find_keys(session: Session, site_id: UUID, kind: str, words: str, limit: int) -> list[str]:
    """Return keys of a kind that pages tell and that contain some words, in any case; those of most pages first."""
    where = [TOLD.c.site_id == site_id, TOLD.c.kind == kind]
    if words:
        where.append(TOLD.c.key.ilike(f"%{_escaped(words)}%"))
    number = func.count()
    query = select(TOLD.c.key).where(*where).group_by(TOLD.c.key).order_by(number.desc(), TOLD.c.key).limit(limit)
    return list(session.scalars(query))


def load_sizes(session: Session, site_id: UUID, hashes: Sequence[str]) -> dict[str, int]:
    """Return how many bytes files have, by their hashes."""
    size = func.octet_length(BLOBS.c.data)
    query = select(BLOBS.c.sha256, size).where(BLOBS.c.site_id == site_id, is_among(BLOBS.c.sha256, hashes))
    return {row[0]: row[1] for row in session.execute(query)}


def find_paths(session: Session, site_id: UUID, words: str, limit: int) -> list[str]:
    """Return paths of files that contain some words, in any case; those that begin with them first."""
    pattern = _escaped(words)
    query = select(FILES.c.path).where(
        FILES.c.site_id == site_id, FILES.c.sha256.is_not(None), FILES.c.path.ilike(f"%{pattern}%")
    )
    return list(session.scalars(query.order_by(~FILES.c.path.ilike(f"{pattern}%"), FILES.c.path).limit(limit)))


# -------------------------------------------------------------------- findings


def load_findings(session: Session, site_id: UUID, asked: FindingsAsked) -> list[tuple[int, FindingRecord]]:
    """Return findings as they are asked for, each with its number on its page, by pages and places."""
    query = select(FINDINGS.c.page, FINDINGS.c.number, FINDINGS.c.rule, FINDINGS.c.words, FINDINGS.c.view)
    query = query.where(*_asked(site_id, asked)).order_by(FINDINGS.c.page, FINDINGS.c.number)
    if asked.after is not None:
        query = query.where(tuple_(FINDINGS.c.page, FINDINGS.c.number) > asked.after)
    if asked.limit is not None:
        query = query.limit(asked.limit)
    return [(row.number, FindingRecord(row.page, row.rule, row.words, row.view)) for row in session.execute(query)]


def count_findings(session: Session, site_id: UUID, asked: FindingsAsked) -> dict[tuple[str, str], int]:
    """Return how many findings there are of those that are asked for, by page and rule."""
    query = select(FINDINGS.c.page, FINDINGS.c.rule, func.count().label("number")).where(*_asked(site_id, asked))
    rows = session.execute(query.group_by(FINDINGS.c.page, FINDINGS.c.rule))
    return {(row.page, row.rule): row.number for row in rows}


def count_by_rule(session: Session, site_id: UUID, asked: FindingsAsked) -> dict[str, tuple[int, int, int]]:
    """Return how many findings there are of each rule, how many one press fixes, and how many a choice."""
    if asked.pages is None and not (asked.words or asked.left_out or asked.aside):
        rows = session.execute(_COUNTS, {"site_id": site_id})
        return {row[0]: (row[1], row[2], row[3]) for row in rows if asked.rules is None or row[0] in asked.rules}
    pressed, chosen = func.count().filter(FINDINGS.c.pressed), func.count().filter(FINDINGS.c.chosen)
    query = select(FINDINGS.c.rule, func.count(), pressed, chosen).where(*_asked(site_id, asked))
    return {row[0]: (row[1], row[2], row[3]) for row in session.execute(query.group_by(FINDINGS.c.rule))}


def count_by_said(session: Session, site_id: UUID, asked: FindingsAsked, name: str, limit: int) -> list[SaidCount]:
    """Return how many findings say the same under a name of their views, most first, and how those are fixed."""
    said, number = FINDINGS.c.view[name].astext, func.count()
    pressed, chosen = number.filter(FINDINGS.c.pressed), number.filter(FINDINGS.c.chosen)
    query = select(said, number, func.count(distinct(FINDINGS.c.page)), pressed, chosen).where(
        *_asked(site_id, asked)
    )
    rows = session.execute(query.group_by(said).order_by(number.desc(), said).limit(limit))
    return [SaidCount(row[0] or "", *row[1:]) for row in rows]


_NUMBER = func.sum(FINDING_COUNTS.c.number)
_COUNTS = (
    select(FINDING_COUNTS.c.rule, _NUMBER, func.sum(FINDING_COUNTS.c.pressed), func.sum(FINDING_COUNTS.c.chosen))
    .where(FINDING_COUNTS.c.site_id == SITE)
    .group_by(FINDING_COUNTS.c.rule)
    .having(_NUMBER > 0)
)


def _asked(site_id: UUID, asked: FindingsAsked) -> list[ColumnElement[bool]]:
    where: list[ColumnElement[bool]] = [FINDINGS.c.site_id == site_id]
    if asked.pages is not None:
        where.append(is_among(FINDINGS.c.page, asked.pages))
    if asked.rules is not None:
        where.append(is_among(FINDINGS.c.rule, asked.rules))
    if asked.words:
        pattern = f"%{_escaped(asked.words)}%"
        said = FINDINGS.c.view["message"].astext.ilike(pattern)
        where.append(or_(FINDINGS.c.page.ilike(pattern), said, is_among(FINDINGS.c.rule, asked.or_rules)))
    if asked.of is not None:
        where.append(FINDINGS.c.view[asked.of[0]].astext == storable(asked.of[1]))
    where += [~_is_below(folder) for folder in asked.left_out]
    for rule, page, words in asked.aside:
        covered = [FINDINGS.c.rule == rule]
        covered += [FINDINGS.c.page == page] if page else []
        covered += [FINDINGS.c.words == words] if words else []
        where.append(~and_(*covered))
    return where


def _is_below(folder: str) -> ColumnElement[bool]:
    return or_(FINDINGS.c.page == folder, FINDINGS.c.page.startswith(folder.rstrip("/") + "/", autoescape=True))


def _escaped(words: str) -> str:
    """Return words as a pattern takes them literally."""
    return storable(words).replace("\\", "\\\\").replace("%", "\\%").replace("_", "\\_")
