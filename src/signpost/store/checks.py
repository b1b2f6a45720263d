"""What is wrong on pages, what was found out about a site, and what that depends on."""

from __future__ import annotations

from collections.abc import Collection, Mapping, Sequence
from typing import Any
from uuid import UUID

from sqlalchemy import (
    ARRAY,
    BigInteger,
    ColumnElement,
    String,
    any_,
    bindparam,
    case,
    delete,
    func,
    or_,
    select,
    update,
)
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session

from signpost.store.models import (
    ANSWERS,
    FINDING_COUNTS,
    FINDINGS,
    NEEDS,
    PAGES,
    SITE,
    SOME_PAGES,
    THAT_SITE,
    is_among,
)
from signpost.store.records import FindingRecord
from signpost.store.rows import add_rows, replacing

#: Among how many rows those who count findings of a rule are spread, so that they seldom wait for one another.
_SHARES = 16

# -------------------------------------------------------------------- what depends on what


def load_holders(session: Session, site_id: UUID, needs: Collection[int]) -> set[str]:
    """Return what depends on any of these: paths of pages, names of answers behind a line feed."""
    every = list(needs)
    rows = session.scalars(_HOLDERS, {"site_id": site_id, "needs": every}) if every else ()
    return set(rows)


_HOLDERS = (
    select(NEEDS.c.holder)
    .where(NEEDS.c.site_id == SITE, NEEDS.c.need == any_(bindparam("needs", type_=ARRAY(BigInteger))))
    .distinct()
)
_DELETE_NEEDS = delete(NEEDS).where(
    NEEDS.c.site_id == SITE, NEEDS.c.holder == bindparam("holder"), NEEDS.c.need == bindparam("need")
)
_NEEDS = select(NEEDS.c.holder, NEEDS.c.need).where(NEEDS.c.site_id == SITE, NEEDS.c.holder == any_(SOME_PAGES))


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
    gone = [
        {"site_id": site_id, "holder": holder, "need": need}
        for holder, old in known.items()
        for need in old.difference(needs[holder])
    ]
    new = [(holder, need) for holder, found in needs.items() for need in set(found) - known.get(holder, set())]
    if gone:
        session.execute(_DELETE_NEEDS, gone)
    rows = [{"site_id": site_id, "holder": holder, "need": need} for holder, need in sorted(new)]
    add_rows(session, NEEDS, rows, shared=shared)


def load_answers(session: Session, site_id: UUID) -> dict[str, str]:
    """Return what was found out about a site as a whole, by name."""
    return {row.name: row.value for row in session.execute(_ANSWERS, {"site_id": site_id})}


_ANSWERS = select(ANSWERS.c.name, ANSWERS.c.value).where(ANSWERS.c.site_id == SITE)
_SAVE_ANSWERS = replacing(ANSWERS, ["value"], ["site_id", "name"])


def save_answers(session: Session, site_id: UUID, answers: Mapping[str, str]) -> None:
    """Keep what was found out about a site as a whole."""
    rows = [{"site_id": site_id, "name": name, "value": value} for name, value in sorted(answers.items())]
    if rows:
        session.execute(_SAVE_ANSWERS, rows)


# -------------------------------------------------------------------- findings


def note_unchecked(session: Session, site_id: UUID, paths: Collection[str] | None = None) -> None:
    """Note that the findings of pages are out of date; of all without `paths`."""
    if paths is None:
        session.execute(_FORGET_CHECKS, {"site": site_id})
    elif paths:
        session.execute(_FORGET_SOME_CHECKS, {"site": site_id, "pages": list(paths)})


_FORGET_CHECKS = (
    update(PAGES).where(PAGES.c.site_id == THAT_SITE, PAGES.c.checked_by.is_not(None)).values(checked_by=None)
)
_FORGET_SOME_CHECKS = _FORGET_CHECKS.where(PAGES.c.path == any_(SOME_PAGES))


def _unchecked(site_id: UUID, usual: str, others: Mapping[str, str]) -> list[ColumnElement[bool]]:
    by = PAGES.c.checked_by
    if others:
        amiss = by.is_distinct_from(case(others, value=PAGES.c.path, else_=usual))
    else:
        amiss = or_(by.is_(None), by < usual, by > usual)  # as an index finds them
    return [PAGES.c.site_id == site_id, PAGES.c.unreadable.is_(None), amiss]


def load_unchecked(
    session: Session, site_id: UUID, usual: str, others: Mapping[str, str], paths: Collection[str] | None = None
) -> list[str]:
    """Return the readable pages, or those of `paths`, whose findings are not those of a check with this digest.

    `others` have digests of their own.
    """
    if paths is not None and not others:
        asked = {"site_id": site_id, "usual": usual, "pages": list(paths)}
        return list(session.scalars(_UNCHECKED_USUAL, asked))
    query = select(PAGES.c.path).where(*_unchecked(site_id, usual, others))
    query = query if paths is None else query.where(is_among(PAGES.c.path, paths))
    return list(session.scalars(query.order_by(PAGES.c.path)))


_UNCHECKED_USUAL = (
    select(PAGES.c.path)
    .where(PAGES.c.site_id == SITE, PAGES.c.unreadable.is_(None), PAGES.c.path == any_(SOME_PAGES))
    .where(PAGES.c.checked_by.is_distinct_from(bindparam("usual", type_=String)))
    .order_by(PAGES.c.path)
)


def count_unchecked(session: Session, site_id: UUID, usual: str, others: Mapping[str, str]) -> int:
    """Return how many readable pages have findings that are out of date."""
    return session.scalar(select(func.count()).select_from(PAGES).where(*_unchecked(site_id, usual, others))) or 0


def take_unchecked(session: Session, site_id: UUID, usual: str, others: Mapping[str, str], most: int) -> list[str]:
    """Return readable pages whose findings are out of date; no other transaction is given them meanwhile."""
    query = select(PAGES.c.path).where(*_unchecked(site_id, usual, others))
    return list(session.scalars(query.limit(most).with_for_update(skip_locked=True, key_share=True)))


def save_findings(session: Session, site_id: UUID, pages: Mapping[str, Sequence[FindingRecord]]) -> None:
    """Keep the findings of pages in the place of those that were kept."""
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
    _replace(session, site_id, pages, rows)


def delete_findings(session: Session, site_id: UUID, pages: Collection[str]) -> None:
    """Forget the findings of pages."""
    _replace(session, site_id, pages, [])


def _replace(session: Session, site_id: UUID, pages: Collection[str], rows: Sequence[Mapping[str, Any]]) -> None:
    """Put findings in the place of those of some pages, and add the difference to the counts by rule."""
    gone = session.execute(_DELETE_FINDINGS, {"site_id": site_id, "pages": list(pages)}).all()
    add_rows(session, FINDINGS, rows)
    counts: dict[str, list[int]] = {}
    for sign, found in ((1, [(row["rule"], row["pressed"], row["chosen"]) for row in rows]), (-1, gone)):
        for rule, pressed, chosen in found:
            count = counts.setdefault(rule, [0, 0, 0])
            count[:] = count[0] + sign, count[1] + sign * pressed, count[2] + sign * chosen
    changed = [
        {"site_id": site_id, "rule": rule, "number": number, "pressed": pressed, "chosen": chosen}
        for rule, (number, pressed, chosen) in sorted(counts.items())
        if number or pressed or chosen
    ]
    if changed:
        session.execute(_COUNT, changed)


_DELETE_FINDINGS = (
    delete(FINDINGS)
    .where(FINDINGS.c.site_id == SITE, FINDINGS.c.page == any_(SOME_PAGES))
    .returning(FINDINGS.c.rule, FINDINGS.c.pressed, FINDINGS.c.chosen)
)
_COUNTED = insert(FINDING_COUNTS).values(share=func.pg_backend_pid() % _SHARES)
_COUNT = _COUNTED.on_conflict_do_update(
    index_elements=["site_id", "rule", "share"],
    set_={name: FINDING_COUNTS.c[name] + _COUNTED.excluded[name] for name in ("number", "pressed", "chosen")},
)
