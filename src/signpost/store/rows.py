"""Rows as tables take them: added, many at once, or in the place of others; and what stands for text there."""

from __future__ import annotations

import hashlib
from collections.abc import Mapping, Sequence
from typing import Any

from psycopg import sql
from psycopg.types.json import Jsonb
from sqlalchemy import Table
from sqlalchemy.dialects.postgresql import Insert, insert
from sqlalchemy.orm import Session

from signpost.store.models import DESTINATIONS, FINDINGS, NEEDS, TOLD

#: What a statement takes at a time: PostgreSQL takes 65,535 parameters.
ROWS = 5000
#: From how many rows on they are copied, which is ten times as fast as to insert them.
_FEW = 50


def digest_of(*pieces: str) -> int:
    """Return a number of 64 bits, signed, that tells pieces of text from others."""
    data = "\0".join(pieces).encode("utf-8", "surrogatepass")
    return int.from_bytes(hashlib.blake2b(data, digest_size=8).digest(), signed=True)


def storable(text: str) -> str:
    """Return text as PostgreSQL keeps it, which knows no NUL; browsers read one as U+FFFD too (HTML 13.2.3.5)."""
    return text.replace("\0", "\ufffd")


#: The statements that add rows, by table.
_ADDING: dict[Table, Insert] = {
    table: insert(table).on_conflict_do_nothing() for table in (TOLD, DESTINATIONS, NEEDS, FINDINGS)
}


def add_rows(session: Session, table: Table, rows: Sequence[Mapping[str, Any]], *, shared: bool = False) -> None:
    """Add rows that are not there yet; where they are `shared`, other transactions may add the same."""
    if shared or len(rows) < _FEW:
        if rows:
            session.execute(_ADDING[table], rows)
        return
    names = list(rows[0])
    statement = sql.SQL("COPY {} ({}) FROM STDIN").format(
        sql.Identifier(table.name), sql.SQL(", ").join(map(sql.Identifier, names))
    )
    connection = session.connection().connection.driver_connection
    assert connection is not None  # noqa: S101 - the session has one
    with connection.cursor() as cursor, cursor.copy(statement) as copy:
        for row in rows:
            copy.write_row([Jsonb(row[name]) if isinstance(row[name], dict) else row[name] for name in names])


def replacing(table: Table, names: Sequence[str], key: Sequence[str]) -> Insert:
    """Return what adds rows to a table, or gives those that are there by a key other values of these names."""
    statement = insert(table)
    changed = {name: statement.excluded[name] for name in names}
    return statement.on_conflict_do_update(index_elements=key, set_=changed)
