"""The index of a site: what its pages tell, what is wrong on them, what that depends on."""

from __future__ import annotations

import hashlib
from collections.abc import Collection, Iterable, Iterator, Mapping, Sequence
from typing import Any, cast
from uuid import UUID

from psycopg import sql
from psycopg.types.json import Jsonb
from sqlalchemy import (
    ARRAY,
    BigInteger,
    ColumnElement,
    Integer,
    String,
    Table,
    any_,
    bindparam,
    case,
    delete,
    func,
    select,
    text,
    tuple_,
    update,
)
from sqlalchemy.dialects.postgresql import Insert, insert
from sqlalchemy.orm import Session

from signpost.store.models import (
    SITE,
    SOME_PAGES,
    AnalysisRow,
    AnswerRow,
    DestinationRow,
    FileRow,
    FindingRow,
    NeedRow,
    PageRow,
    SiteRow,
    ToldRow,
)
from signpost.store.records import DestinationRecord, FindingRecord, PageRecord, ToldRecord

#: What a statement takes at a time: PostgreSQL takes 65,535 parameters.
_ROWS = 5000
#: From how many rows on they are copied, which is ten times as fast as to insert them.
_FEW = 50
#: The paths of pages, as `is_page_path` knows them.
_PAGE_PATHS = r"\.(html|htm|xhtml|shtml)$"


def digest_of(*pieces: str) -> int:
    """Return a number of 64 bits, signed, that tells pieces of text from others."""
    data = "\0".join(pieces).encode("utf-8", "surrogatepass")
    return int.from_bytes(hashlib.blake2b(data, digest_size=8).digest(), signed=True)


def storable(text: str) -> str:
    """Return text as PostgreSQL keeps it, which knows no NUL; browsers read one as U+FFFD too (HTML 13.2.3.5)."""
    return text.replace("\0", "\ufffd")


#: What adds rows to tables: not to their classes, which would part the rows by what is NULL in them.
_ADDING: dict[type[Any], Insert] = {
    table: insert(cast("Table", table.__table__)).on_conflict_do_nothing()
    for table in (ToldRow, DestinationRow, NeedRow, FindingRow)
}


def _insert(session: Session, table: type[Any], rows: Sequence[Mapping[str, Any]], *, shared: bool = False) -> None:
    """Add rows that are not there yet; where they are `shared`, other transactions may add the same."""
    if shared or len(rows) < _FEW:
        if rows:
            session.execute(_ADDING[table], rows)
        return
    names = list(rows[0])
    statement = sql.SQL("COPY {} ({}) FROM STDIN").format(
        sql.Identifier(table.__tablename__), sql.SQL(", ").join(map(sql.Identifier, names))
    )
    connection = session.connection().connection.driver_connection
    assert connection is not None  # noqa: S101 - the session has one
    with connection.cursor() as cursor, cursor.copy(statement) as copy:
        for row in rows:
            copy.write_row([Jsonb(row[name]) if isinstance(row[name], dict) else row[name] for name in names])


# -------------------------------------------------------------------- what is indexed


def load_unindexed(
    session: Session, site_id: UUID, most: int | None = None
) -> dict[str, tuple[str | None, str | None]]:
    """Return files that are other than the index knows them, by path: their hash there, and as they are."""
    rows = session.execute(_UNINDEXED, {"site_id": site_id, "most": most})
    return {row.path: (row.indexed_sha256, row.sha256) for row in rows}


_UNINDEXED = (
    select(FileRow.path, FileRow.indexed_sha256, FileRow.sha256)
    .where(FileRow.site_id == SITE, FileRow.sha256.is_distinct_from(FileRow.indexed_sha256))
    .order_by(FileRow.path)
    .limit(bindparam("most", type_=Integer))
)


def forget_indexed(session: Session, site_id: UUID) -> None:
    """Note that the index has to look at all files of a site again."""
    query = update(FileRow).where(FileRow.site_id == site_id, FileRow.sha256.is_not(None))
    session.execute(query.values(indexed_sha256=None), execution_options={"synchronize_session": False})


def note_indexed(session: Session, site_id: UUID, paths: Collection[str]) -> None:
    """Note that the index knows files as they are."""
    query = update(FileRow).where(FileRow.site_id == site_id, FileRow.path.in_(paths))
    session.execute(query.values(indexed_sha256=FileRow.sha256), execution_options={"synchronize_session": False})


def note_indexed_by(session: Session, site_id: UUID, digest: str) -> None:
    """Keep the digest of what a site's index depends on beside its files."""
    session.execute(update(SiteRow).where(SiteRow.site_id == site_id).values(indexed_by=digest))


def take_unread(session: Session, site_id: UUID, version: int, most: int) -> dict[str, str]:
    """Return pages that the index does not know and of which no facts are kept, by path, with their hashes.

    Until the transaction ends, no other one is given them.
    """
    kept = select(AnalysisRow.sha256).where(AnalysisRow.site_id == site_id, AnalysisRow.core_version == version)
    query = select(FileRow.path, FileRow.sha256).where(
        FileRow.site_id == site_id,
        FileRow.sha256.is_distinct_from(FileRow.indexed_sha256),
        FileRow.path.regexp_match(_PAGE_PATHS, "i"),
        FileRow.sha256.not_in(kept),  # looked up in a hash table, however little is known of tables that just grew
    )
    rows = session.execute(query.limit(most).with_for_update(skip_locked=True, key_share=True))
    return {row.path: row.sha256 for row in rows if row.sha256 is not None}


def note_unreadable(session: Session, site_id: UUID, version: int, hashes: Collection[str]) -> None:
    """Note of bytes that they were looked at, where no facts of them are kept, so that they are not taken again."""
    rows = [
        {"site_id": site_id, "sha256": sha256, "core_version": version, "marks": "", "facts": {}} for sha256 in hashes
    ]
    if rows:
        session.execute(insert(AnalysisRow).on_conflict_do_nothing(), rows)


def count_anew(session: Session) -> None:
    """Have the database look at tables that just grew by much, or it would search them as if they were small."""
    for table in (AnalysisRow, PageRow, ToldRow, NeedRow, FindingRow, DestinationRow):
        session.execute(text(f"ANALYZE {table.__tablename__}"))


def load_sites_out_of_date(session: Session) -> list[UUID]:
    """Return the sites with files that their index does not know, or pages whose findings are out of date.

    Those that rest are left out.
    """
    unindexed = select(FileRow.site_id).where(FileRow.sha256.is_distinct_from(FileRow.indexed_sha256))
    unchecked = select(PageRow.site_id).where(PageRow.checked_by.is_(None), PageRow.unreadable.is_(None))
    found = {*session.scalars(unindexed.distinct()), *session.scalars(unchecked.distinct())}
    return sorted(site_id for site_id in found if not is_resting(session, site_id))


def is_resting(session: Session, site_id: UUID) -> bool:
    """Return whether a site is left alone until it is opened again."""
    return bool(session.scalar(select(SiteRow.resting).where(SiteRow.site_id == site_id)))


def note_resting(session: Session, site_id: UUID, *, resting: bool) -> None:
    """Note whether a site is left alone until it is opened again."""
    changed = update(SiteRow).where(SiteRow.site_id == site_id, SiteRow.resting.is_not(resting))
    session.execute(changed.values(resting=resting))


def load_indexed_by(session: Session, site_id: UUID) -> str:
    """Return the digest of what a site's index depends on, beside its files."""
    return session.scalar(select(SiteRow.indexed_by).where(SiteRow.site_id == site_id)) or ""


# -------------------------------------------------------------------- pages


PAGE = (
    PageRow.path,
    PageRow.sha256,
    PageRow.repeated,
    PageRow.unreadable,
    PageRow.summary,
    PageRow.checked_by,
)


def load_pages(session: Session, site_id: UUID, paths: Collection[str] | None = None) -> dict[str, PageRecord]:
    """Return what the index knows of pages, by path; of all of them without `paths`."""
    if paths is not None and not paths:
        return {}
    asked = {"site_id": site_id} if paths is None else {"site_id": site_id, "pages": list(paths)}
    rows = session.execute(_PAGES if paths is None else _SOME_PAGES, asked)
    return {row.path: PageRecord(*row) for row in rows}


_PAGES = select(*PAGE).where(PageRow.site_id == SITE).order_by(PageRow.path)
_SOME_PAGES = _PAGES.where(PageRow.path.in_(SOME_PAGES))


def load_unreadable(session: Session, site_id: UUID) -> dict[str, str]:
    """Return the pages that cannot be read, by path, with the reason."""
    query = select(PageRow.path, PageRow.unreadable).where(
        PageRow.site_id == site_id, PageRow.unreadable.is_not(None)
    )
    return {row.path: row.unreadable or "" for row in session.execute(query)}


def save_pages(session: Session, site_id: UUID, pages: Iterable[PageRecord]) -> None:
    """Keep what the index knows of pages, in the place of what it knew."""
    rows = [
        {
            "site_id": site_id,
            "path": page.path,
            "sha256": page.sha256,
            "repeated": page.repeated,
            "unreadable": page.unreadable,
            "summary": page.summary,
            "checked_by": page.checked_by,
        }
        for page in pages
    ]
    for start in range(0, len(rows), _ROWS):
        session.execute(_SAVE_PAGES, rows[start : start + _ROWS])


def _replacing(table: type[Any], names: Sequence[str], key: Sequence[str]) -> Insert:
    """Return what adds rows to a table, or gives those that are there by a key other values of these names."""
    statement = insert(cast("Table", table.__table__))
    changed = {name: statement.excluded[name] for name in names}
    return statement.on_conflict_do_update(index_elements=key, set_=changed)


_SAVE_PAGES = _replacing(PageRow, ["sha256", "repeated", "unreadable", "summary", "checked_by"], ["site_id", "path"])


def delete_pages(session: Session, site_id: UUID, paths: Collection[str]) -> None:
    """Forget pages that are not there any more, with all that was known of them."""
    if paths:
        session.execute(delete(PageRow).where(PageRow.site_id == site_id, PageRow.path.in_(paths)))
        delete_destinations(session, site_id, paths)
        session.execute(delete(ToldRow).where(ToldRow.site_id == site_id, ToldRow.page.in_(paths)))
        session.execute(delete(FindingRow).where(FindingRow.site_id == site_id, FindingRow.page.in_(paths)))
        session.execute(delete(NeedRow).where(NeedRow.site_id == site_id, NeedRow.holder.in_(paths)))


# -------------------------------------------------------------------- what pages tell


def load_told_by(session: Session, site_id: UUID, pages: Collection[str]) -> dict[str, set[ToldRecord]]:
    """Return what pages tell, by their paths."""
    found: dict[str, set[ToldRecord]] = {}
    for row in session.execute(_TOLD_BY, {"site_id": site_id, "pages": list(pages)}):
        found.setdefault(row.page, set()).add(ToldRecord(row.kind, row.key, row.value))
    return found


_TOLD_BY = select(ToldRow.page, ToldRow.kind, ToldRow.key, ToldRow.value).where(
    ToldRow.site_id == SITE, ToldRow.page.in_(SOME_PAGES)
)


def load_told_of_kind(
    session: Session, site_id: UUID, kind: str, pages: Collection[str]
) -> dict[str, list[tuple[str, str]]]:
    """Return what some pages tell of one kind, by their paths: keys and values."""
    query = select(ToldRow.page, ToldRow.key, ToldRow.value).where(
        ToldRow.site_id == site_id, ToldRow.page.in_(pages), ToldRow.kind == kind
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


_TOLD = select(ToldRow.key, ToldRow.page, ToldRow.value).where(
    ToldRow.site_id == SITE, ToldRow.kind == bindparam("kind")
)
_TOLD_OF = _TOLD.where(ToldRow.key_digest == any_(bindparam("digests", type_=ARRAY(BigInteger))))
_TOLD_IN_ORDER = _TOLD.order_by(ToldRow.page, ToldRow.digest)
_TOLD_UNDER = _TOLD_IN_ORDER.where(ToldRow.key_digest == bindparam("digest"), ToldRow.key == bindparam("key"))


def load_told(session: Session, site_id: UUID, kind: str, key: str | None = None) -> Iterator[tuple[str, str, str]]:
    """Yield what pages tell of one kind under a key, or under all: key, page, value, in the order of the pages."""
    asked: dict[str, Any] = {"site_id": site_id, "kind": kind}
    if key is not None:
        asked |= {"digest": digest_of(key), "key": key}
    for row in session.execute(_TOLD_IN_ORDER if key is None else _TOLD_UNDER, asked):
        yield row.key, row.page, row.value


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
    _insert(session, ToldRow, found)


def delete_told(session: Session, site_id: UUID, rows: Iterable[tuple[str, ToldRecord]]) -> None:
    """Forget what pages tell no longer, each with the page's path."""
    keys = [(page, told.kind, digest_of(told.key, told.value)) for page, told in rows]
    for start in range(0, len(keys), _ROWS):
        some = tuple_(ToldRow.page, ToldRow.kind, ToldRow.digest).in_(keys[start : start + _ROWS])
        session.execute(delete(ToldRow).where(ToldRow.site_id == site_id, some))


# -------------------------------------------------------------------- where links may lead


DESTINATION = (
    DestinationRow.page,
    DestinationRow.section,
    DestinationRow.level,
    DestinationRow.identifier,
    DestinationRow.text,
    DestinationRow.words,
)


def save_destinations(session: Session, site_id: UUID, pages: Mapping[str, Sequence[DestinationRecord]]) -> None:
    """Keep where links may lead on pages, in the place of what was kept of them."""
    known: dict[str, list[DestinationRecord]] = {}
    for row in session.execute(_DESTINATIONS, {"site_id": site_id, "pages": list(pages)}):
        known.setdefault(row.page, []).append(DestinationRecord(*row[1:]))
    others = {page: found for page, found in pages.items() if list(found) != known.get(page, [])}
    delete_destinations(session, site_id, others)
    rows = [
        {"site_id": site_id, "page": page, "number": number, **one._asdict()}
        for page, found in others.items()
        for number, one in enumerate(found)
    ]
    _insert(session, DestinationRow, rows)


_DESTINATIONS = (
    select(*DESTINATION)
    .where(DestinationRow.site_id == SITE, DestinationRow.page.in_(SOME_PAGES))
    .order_by(DestinationRow.page, DestinationRow.number)
)


def delete_destinations(session: Session, site_id: UUID, pages: Collection[str]) -> None:
    """Forget where links may lead on pages."""
    if pages:
        there = (DestinationRow.site_id == site_id, DestinationRow.page.in_(pages))
        session.execute(delete(DestinationRow).where(*there))


# -------------------------------------------------------------------- what depends on what


def load_holders(session: Session, site_id: UUID, needs: Collection[int]) -> set[str]:
    """Return what depends on any of these: paths of pages, names of answers behind a line feed."""
    query = select(NeedRow.holder).where(NeedRow.site_id == site_id).distinct()
    found: set[str] = set()
    every = list(needs)
    for start in range(0, len(every), _ROWS):
        found |= set(session.scalars(query.where(NeedRow.need.in_(every[start : start + _ROWS]))))
    return found


_NEEDS = select(NeedRow.holder, NeedRow.need).where(NeedRow.site_id == SITE, NeedRow.holder.in_(SOME_PAGES))


def save_needs(
    session: Session, site_id: UUID, needs: Mapping[str, Collection[int]], *, shared: bool = False
) -> None:
    """Keep what pages or answers depend on, in the place of what was kept of them.

    Where they are `shared`, as answers are, other transactions may keep the same.
    """
    if not needs:
        return
    known: dict[str, set[int]] = {}
    for row in session.execute(_NEEDS, {"site_id": site_id, "pages": list(needs)}):
        known.setdefault(row.holder, set()).add(row.need)
    gone = [(holder, need) for holder, old in known.items() for need in old.difference(needs[holder])]
    new = [(holder, need) for holder, found in needs.items() for need in set(found) - known.get(holder, set())]
    for start in range(0, len(gone), _ROWS):
        some = tuple_(NeedRow.holder, NeedRow.need).in_(gone[start : start + _ROWS])
        session.execute(delete(NeedRow).where(NeedRow.site_id == site_id, some))
    rows = [{"site_id": site_id, "holder": holder, "need": need} for holder, need in sorted(new)]
    _insert(session, NeedRow, rows, shared=shared)


def load_answers(session: Session, site_id: UUID) -> dict[str, str]:
    """Return what was found out about a site as a whole, by name."""
    return {row.name: row.value for row in session.execute(_ANSWERS, {"site_id": site_id})}


_ANSWERS = select(AnswerRow.name, AnswerRow.value).where(AnswerRow.site_id == SITE)
_SAVE_ANSWERS = _replacing(AnswerRow, ["value"], ["site_id", "name"])


def save_answers(session: Session, site_id: UUID, answers: Mapping[str, str]) -> None:
    """Keep what was found out about a site as a whole."""
    rows = [{"site_id": site_id, "name": name, "value": value} for name, value in sorted(answers.items())]
    if rows:
        session.execute(_SAVE_ANSWERS, rows)


# -------------------------------------------------------------------- findings


def note_unchecked(session: Session, site_id: UUID, paths: Collection[str] | None = None) -> None:
    """Note that the findings of pages are out of date; of all without `paths`."""
    query = update(PageRow).where(PageRow.site_id == site_id, PageRow.checked_by.is_not(None))
    query = query if paths is None else query.where(PageRow.path.in_(paths))
    session.execute(query.values(checked_by=None), execution_options={"synchronize_session": False})


def _unchecked(site_id: UUID, usual: str, others: Mapping[str, str]) -> list[ColumnElement[bool]]:
    wanted: ColumnElement[str] | str = case(others, value=PageRow.path, else_=usual) if others else usual
    return [PageRow.site_id == site_id, PageRow.unreadable.is_(None), PageRow.checked_by.is_distinct_from(wanted)]


def load_unchecked(
    session: Session, site_id: UUID, usual: str, others: Mapping[str, str], paths: Collection[str] | None = None
) -> list[str]:
    """Return the readable pages, or those of `paths`, whose findings are not those of a check with this digest.

    `others` have digests of their own.
    """
    if paths is not None and not others:
        asked = {"site_id": site_id, "usual": usual, "pages": list(paths)}
        return list(session.scalars(_UNCHECKED_USUAL, asked))
    query = select(PageRow.path).where(*_unchecked(site_id, usual, others))
    query = query if paths is None else query.where(PageRow.path.in_(paths))
    return list(session.scalars(query.order_by(PageRow.path)))


_UNCHECKED_USUAL = (
    select(PageRow.path)
    .where(PageRow.site_id == SITE, PageRow.unreadable.is_(None), PageRow.path.in_(SOME_PAGES))
    .where(PageRow.checked_by.is_distinct_from(bindparam("usual", type_=String)))
    .order_by(PageRow.path)
)


def count_unchecked(session: Session, site_id: UUID, usual: str, others: Mapping[str, str]) -> int:
    """Return how many readable pages have findings that are out of date."""
    return session.scalar(select(func.count()).select_from(PageRow).where(*_unchecked(site_id, usual, others))) or 0


def take_unchecked(session: Session, site_id: UUID, usual: str, others: Mapping[str, str], most: int) -> list[str]:
    """Return readable pages whose findings are out of date; no other transaction is given them meanwhile."""
    query = select(PageRow.path).where(*_unchecked(site_id, usual, others))
    return list(session.scalars(query.limit(most).with_for_update(skip_locked=True, key_share=True)))


_DELETE_FINDINGS = (
    delete(FindingRow)
    .where(FindingRow.site_id == SITE, FindingRow.page.in_(SOME_PAGES))
    .execution_options(synchronize_session=False)
)


def save_findings(session: Session, site_id: UUID, pages: Mapping[str, Sequence[FindingRecord]]) -> None:
    """Keep the findings of pages in the place of those that were kept."""
    session.execute(_DELETE_FINDINGS, {"site_id": site_id, "pages": list(pages)})
    rows = [
        {
            "site_id": site_id,
            "page": page,
            "number": number,
            "rule": one.rule,
            "pressed": one.view["fixable"],
            "chosen": not one.view["fixable"] and len(one.view["choices"]) > 0,
            "words": one.words,
            "view": one.view,
        }
        for page, found in pages.items()
        for number, one in enumerate(found)
    ]
    _insert(session, FindingRow, rows)
