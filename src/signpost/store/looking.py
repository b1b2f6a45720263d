"""What screens look for on a site: findings, pages, destinations, paths of files; a stretch of them, in an order."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any
from uuid import UUID

from sqlalchemy import ColumnElement, and_, func, or_, select, tuple_
from sqlalchemy.orm import Session

from signpost.store.index import DESTINATION, PAGE, storable
from signpost.store.models import BlobRow, DestinationRow, FileRow, FindingRow, PageRow, ToldRow
from signpost.store.records import DestinationRecord, FindingRecord, FindingsAsked, PageRecord

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
    by: ColumnElement[Any] = PageRow.path.expression
    if order in _ORDERS:
        by = func.coalesce(PageRow.summary[order].as_integer(), 0)  # pages that cannot be read have no summary
    elif order == "findings":
        number = func.count().label("number")
        counts = select(FindingRow.page, number).where(*_asked(site_id, asked)).group_by(FindingRow.page).subquery()
        query = query.outerjoin(counts, counts.c.page == PageRow.path)
        by = func.coalesce(counts.c.number, 0)
    query = query.order_by(by.desc() if down else by, PageRow.path).offset(start).limit(limit)
    return [PageRecord(*row) for row in session.execute(query)]


def count_pages(session: Session, site_id: UUID, words: str) -> int:
    """Return how many pages have some words in their path or title."""
    return session.scalar(select(func.count()).select_from(PageRow).where(*_found(site_id, words))) or 0


def longest_page(session: Session, site_id: UUID) -> float:
    """Return the length of a site's longest page, in windows."""
    longest = func.max(PageRow.summary["windows"].as_float())
    return session.scalar(select(longest).where(PageRow.site_id == site_id)) or 0.0


def _found(site_id: UUID, words: str) -> list[ColumnElement[bool]]:
    where: list[ColumnElement[bool]] = [PageRow.site_id == site_id]
    if words:
        pattern = f"%{_escaped(words)}%"
        where.append(or_(PageRow.path.ilike(pattern), PageRow.summary["title"].astext.ilike(pattern)))
    return where


# -------------------------------------------------------------------- where links may lead


def find_destinations(
    session: Session, site_id: UUID, words: Sequence[str], besides: str, limit: int
) -> list[tuple[str, DestinationRecord]]:
    """Return where links may lead that are found by all of some words, folded, on other pages than one.

    Those whose text begins with the first of the words come first, then pages before what is on them.
    """
    where = [DestinationRow.site_id == site_id, DestinationRow.page != besides]
    where += [DestinationRow.words.like(f"%{_escaped(word)}%") for word in words]
    order: list[Any] = [DestinationRow.page, DestinationRow.number]
    if words:
        order.insert(0, ~DestinationRow.words.like(f"{_escaped(words[0])}%"))
    rows = session.execute(select(*DESTINATION).where(*where).order_by(*order).limit(limit))
    return [(row.page, DestinationRecord(*row[1:])) for row in rows]


def find_keys(session: Session, site_id: UUID, kind: str, words: str, limit: int) -> list[str]:
    """Return keys of a kind that pages tell and that contain some words, in any case; those of most pages first."""
    where = [ToldRow.site_id == site_id, ToldRow.kind == kind]
    if words:
        where.append(ToldRow.key.ilike(f"%{_escaped(words)}%"))
    number = func.count()
    query = select(ToldRow.key).where(*where).group_by(ToldRow.key).order_by(number.desc(), ToldRow.key).limit(limit)
    return list(session.scalars(query))


def load_sizes(session: Session, site_id: UUID, hashes: Sequence[str]) -> dict[str, int]:
    """Return how many bytes files have, by their hashes."""
    size = func.octet_length(BlobRow.data)
    query = select(BlobRow.sha256, size).where(BlobRow.site_id == site_id, BlobRow.sha256.in_(hashes))
    return {row[0]: row[1] for row in session.execute(query)}


def find_paths(session: Session, site_id: UUID, words: str, limit: int) -> list[str]:
    """Return paths of files that contain some words, in any case; those that begin with them first."""
    pattern = _escaped(words)
    query = select(FileRow.path).where(
        FileRow.site_id == site_id, FileRow.sha256.is_not(None), FileRow.path.ilike(f"%{pattern}%")
    )
    return list(session.scalars(query.order_by(~FileRow.path.ilike(f"{pattern}%"), FileRow.path).limit(limit)))


# -------------------------------------------------------------------- findings


def load_findings(session: Session, site_id: UUID, asked: FindingsAsked) -> list[tuple[int, FindingRecord]]:
    """Return findings as they are asked for, each with its number on its page, by pages and places."""
    query = select(FindingRow.page, FindingRow.number, FindingRow.rule, FindingRow.words, FindingRow.view)
    query = query.where(*_asked(site_id, asked)).order_by(FindingRow.page, FindingRow.number)
    if asked.after is not None:
        query = query.where(tuple_(FindingRow.page, FindingRow.number) > asked.after)
    if asked.limit is not None:
        query = query.limit(asked.limit)
    return [(row.number, FindingRecord(row.page, row.rule, row.words, row.view)) for row in session.execute(query)]


def count_findings(session: Session, site_id: UUID, asked: FindingsAsked) -> dict[tuple[str, str], int]:
    """Return how many findings there are of those that are asked for, by page and rule."""
    query = select(FindingRow.page, FindingRow.rule, func.count().label("number")).where(*_asked(site_id, asked))
    rows = session.execute(query.group_by(FindingRow.page, FindingRow.rule))
    return {(row.page, row.rule): row.number for row in rows}


def count_by_rule(session: Session, site_id: UUID, asked: FindingsAsked) -> dict[str, tuple[int, int, int]]:
    """Return how many findings there are of each rule, how many one press fixes, and how many a choice."""
    pressed, chosen = func.count().filter(FindingRow.pressed), func.count().filter(FindingRow.chosen)
    query = select(FindingRow.rule, func.count(), pressed, chosen).where(*_asked(site_id, asked))
    return {row[0]: (row[1], row[2], row[3]) for row in session.execute(query.group_by(FindingRow.rule))}


def _asked(site_id: UUID, asked: FindingsAsked) -> list[ColumnElement[bool]]:
    where: list[ColumnElement[bool]] = [FindingRow.site_id == site_id]
    if asked.pages is not None:
        where.append(FindingRow.page.in_(asked.pages))
    if asked.rules is not None:
        where.append(FindingRow.rule.in_(asked.rules))
    if asked.words:
        pattern = f"%{_escaped(asked.words)}%"
        said = FindingRow.view["message"].astext.ilike(pattern)
        where.append(or_(FindingRow.page.ilike(pattern), said, FindingRow.rule.in_(asked.or_rules)))
    where += [~_is_below(folder) for folder in asked.left_out]
    for rule, page, words in asked.aside:
        covered = [FindingRow.rule == rule]
        covered += [FindingRow.page == page] if page else []
        covered += [FindingRow.words == words] if words else []
        where.append(~and_(*covered))
    return where


def _is_below(folder: str) -> ColumnElement[bool]:
    return or_(FindingRow.page == folder, FindingRow.page.startswith(folder.rstrip("/") + "/", autoescape=True))


def _escaped(words: str) -> str:
    """Return words as a pattern takes them literally."""
    return storable(words).replace("\\", "\\\\").replace("%", "\\%").replace("_", "\\_")
