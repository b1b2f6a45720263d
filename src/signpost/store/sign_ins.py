"""Passes of those who have signed in, and failures of those who tried: one table for all processes."""

from __future__ import annotations

from datetime import datetime, timedelta
from uuid import UUID, uuid4

from sqlalchemy import delete, func, select
from sqlalchemy.orm import Session

from signpost.store.models import FailureRow, PassRow

#: Failures that cost nothing; then how long one has to wait, doubled each time.
FREE_FAILURES = 3
FIRST_WAIT, LONGEST_WAIT = timedelta(seconds=2), timedelta(minutes=5)
#: After how long without a failure the ones before are forgotten.
FORGOTTEN = timedelta(hours=1)
#: How many failures of everybody together are judged in a span of time.
EVERYBODYS_FAILURES, EVERYBODYS_SPAN = 60, timedelta(minutes=1)
_EVERYBODY = "*"
_LOCK = 0x5161_0000  # of PostgreSQL's advisory locks: one sign-in at a time is judged


def judge(session: Session, caller: str, now: datetime, *, is_right: bool, is_known: bool = False) -> timedelta:
    """Return how long a caller has to wait until a key is judged; nothing where it was judged, and a failure noted.

    Keys are judged one at a time, whatever process they come to. `caller` is an address, or a browser that is known
    to have signed in before: that one does not wait for what others behind its address, or all together, do.
    """
    session.execute(select(func.pg_advisory_xact_lock(_LOCK)))
    callers = [caller] if is_known else [caller, _EVERYBODY]
    rows = {row.caller: row for row in session.scalars(select(FailureRow).where(FailureRow.caller.in_(callers)))}
    wait = max((row.until - now for row in rows.values()), default=timedelta())
    if wait > timedelta():
        return wait
    if is_right:
        session.execute(delete(FailureRow).where(FailureRow.caller == caller))
        return timedelta()
    session.execute(delete(FailureRow).where(FailureRow.last < now - FORGOTTEN, FailureRow.caller.not_in(callers)))
    for one in callers:
        row = rows.get(one) or FailureRow(caller=one, count=0, until=now, last=now)
        session.add(row)
        (_note_everybodys if one == _EVERYBODY else _note)(row, now)
    return timedelta()


def _note(row: FailureRow, now: datetime) -> None:
    row.count = 1 if now - row.last > FORGOTTEN else row.count + 1
    row.last = now
    beyond = row.count - FREE_FAILURES
    if beyond > 0:
        row.until = now + min(FIRST_WAIT * 2 ** min(beyond - 1, 20), LONGEST_WAIT)


def _note_everybodys(row: FailureRow, now: datetime) -> None:
    if now - row.last > EVERYBODYS_SPAN:  # `last` is when the span began
        row.count, row.last = 0, now
    row.count += 1
    if row.count >= EVERYBODYS_FAILURES:
        row.until = row.last + EVERYBODYS_SPAN


def begin_pass(session: Session, token_sha256: str, key_mark: str, until: datetime, now: datetime) -> None:
    """Let whoever has a token in until then; passes that are over go. `key_mark` tells keys apart."""
    session.execute(delete(PassRow).where(PassRow.until <= now))
    session.add(PassRow(pass_id=uuid4(), token_sha256=token_sha256, key_mark=key_mark, until=until))


def find_pass(session: Session, token_sha256: str, key_mark: str, now: datetime) -> UUID | None:
    """Return the pass that a token has with a key, None where that is not there or over."""
    valid = PassRow.until > now, PassRow.key_mark == key_mark
    return session.scalar(select(PassRow.pass_id).where(PassRow.token_sha256 == token_sha256, *valid))


def is_open(session: Session, pass_id: UUID, key_mark: str, now: datetime) -> bool:
    """Return whether a pass is there and not over."""
    valid = PassRow.until > now, PassRow.key_mark == key_mark
    return session.scalar(select(PassRow.pass_id).where(PassRow.pass_id == pass_id, *valid)) is not None


def end_pass(session: Session, pass_id: UUID) -> None:
    """Let nobody in with a pass any more."""
    session.execute(delete(PassRow).where(PassRow.pass_id == pass_id))
