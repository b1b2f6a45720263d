"""What a site keeps of what it was: how much that is, what of it nothing needs, and what its author lets go."""

from __future__ import annotations

from datetime import datetime
from uuid import UUID

from sqlalchemy import TextClause, bindparam, text
from sqlalchemy.orm import Session

#: What holds bytes: a file as it is or was brought in, a change, a publication that can be taken back, what a target
#: has, and what folder and site began from, disagree on or are being written.
_HELD_BY = """
    SELECT sha256 FROM files WHERE site_id = :site_id
    UNION ALL SELECT brought_sha256 FROM files WHERE site_id = :site_id
    UNION ALL SELECT before_sha256 FROM change_files WHERE site_id = :site_id {kept}
    UNION ALL SELECT after_sha256 FROM change_files WHERE site_id = :site_id {kept}
    UNION ALL SELECT before_sha256 FROM publication_files WHERE site_id = :site_id
    UNION ALL SELECT sha256 FROM published WHERE site_id = :site_id
    UNION ALL SELECT sha256 FROM walked WHERE site_id = :site_id
    UNION ALL SELECT sha256 FROM folder_files WHERE site_id = :site_id
    UNION ALL SELECT base_sha256 FROM folder_conflicts WHERE site_id = :site_id
    UNION ALL SELECT folder_sha256 FROM folder_conflicts WHERE site_id = :site_id
    UNION ALL SELECT before_sha256 FROM folder_writes WHERE site_id = :site_id
    UNION ALL SELECT after_sha256 FROM folder_writes WHERE site_id = :site_id
"""
#: Changes that stay however old they are: they tell where files went to which links from elsewhere may still lead.
_OLD = "number < :first AND NOT parameters ? 'moves'"
_GONE = f"SELECT number FROM changes WHERE site_id = :site_id AND {_OLD}"


def count_stored(session: Session, site_id: UUID) -> int:
    """Return how many bytes a site keeps, earlier states included."""
    found = session.scalar(text("SELECT stored_bytes FROM sites WHERE site_id = :site_id"), {"site_id": site_id})
    return int(found or 0)


def count_changes(session: Session, site_id: UUID) -> int:
    """Return how many changes a site keeps."""
    found = session.scalar(text("SELECT count(*) FROM changes WHERE site_id = :site_id"), {"site_id": site_id})
    return int(found or 0)


def drop_unneeded(session: Session, site_id: UUID, core_version: int, limit: int) -> int:
    """Forget what nothing needs, at most so many rows of a kind; return how many were forgotten.

    Facts of pages by other rules or of bytes that no file has, sizes of pages that are gone, and bytes that nothing
    holds and that were kept for an hour.
    """
    asked = {"site_id": site_id, "version": core_version, "limit": limit}
    return sum(session.execute(statement, asked).rowcount for statement in _DROPPED)  # type: ignore[attr-defined]


_DROPPED: tuple[TextClause, ...] = (
    text(
        "DELETE FROM analyses WHERE ctid IN (SELECT a.ctid FROM analyses a WHERE a.site_id = :site_id AND ("
        "a.core_version <> :version OR NOT EXISTS (SELECT 1 FROM files f WHERE f.site_id = :site_id "
        "AND f.sha256 = a.sha256)) LIMIT :limit) AND site_id = :site_id"
    ),
    text(
        "DELETE FROM geometries WHERE ctid IN (SELECT g.ctid FROM geometries g WHERE g.site_id = :site_id AND NOT "
        "EXISTS (SELECT 1 FROM files f WHERE f.site_id = :site_id AND f.path = g.path AND f.sha256 IS NOT NULL) "
        "LIMIT :limit) AND site_id = :site_id"
    ),
    text(
        "DELETE FROM blobs WHERE site_id = :site_id AND sha256 IN (SELECT b.sha256 FROM blobs b WHERE "
        "b.site_id = :site_id AND b.kept_at < now() - interval '1 hour' AND NOT EXISTS (SELECT 1 FROM ("
        f"{_HELD_BY.format(kept='')}) held WHERE held.sha256 = b.sha256) LIMIT :limit)"
    ),
)


def first_kept(session: Session, site_id: UUID, last: int | None, since: datetime | None) -> int:
    """Return the number of the oldest change that stays where the last so many do, or those made since a moment."""
    newest = session.scalar(text("SELECT last_change FROM sites WHERE site_id = :site_id"), {"site_id": site_id}) or 0
    first = newest + 1
    if last is not None:
        query = "SELECT number FROM changes WHERE site_id = :site_id ORDER BY number DESC OFFSET :last LIMIT 1"
        older = session.scalar(text(query), {"site_id": site_id, "last": last})
        first = 1 if older is None else int(older) + 1
    if since is not None:
        query = "SELECT min(number) FROM changes WHERE site_id = :site_id AND created_at >= :since"
        kept = session.scalar(text(query), {"site_id": site_id, "since": since})
        first = min(first, int(kept)) if last is not None and kept is not None else int(kept or newest + 1)
    return first


def count_older(session: Session, site_id: UUID, first: int, *, first_states: bool) -> tuple[int, int]:
    """Return how many changes are older than one, and how many bytes nothing holds without them."""
    asked = {"site_id": site_id, "first": first}
    changes = session.scalar(text(f"SELECT count(*) FROM ({_GONE}) gone"), asked) or 0
    held = _HELD_BY.format(kept=f"AND number NOT IN ({_GONE})")
    if not first_states:
        brought = "SELECT brought_sha256 FROM files WHERE site_id = :site_id"
        held = held.replace(brought, f"SELECT sha256 FROM ({_BROUGHT_NOW}) brought")
    query = (
        f"WITH touched AS (SELECT before_sha256 AS sha256 FROM change_files WHERE site_id = :site_id AND number IN "
        f"({_GONE}) UNION SELECT after_sha256 FROM change_files WHERE site_id = :site_id AND number IN ({_GONE}) "
        "UNION SELECT brought_sha256 FROM files WHERE site_id = :site_id) "
        "SELECT coalesce(sum(b.size), 0) FROM blobs b JOIN touched ON touched.sha256 = b.sha256 "
        f"WHERE b.site_id = :site_id AND NOT EXISTS (SELECT 1 FROM ({held}) held WHERE held.sha256 = b.sha256)"
    )
    return int(changes), int(session.scalar(text(query), asked) or 0)


#: What files are taken to have been brought in as, where the changes before one are let go: as that found them.
_BROUGHT_NOW = (
    "SELECT f.path, coalesce((SELECT c.before_sha256 FROM change_files c WHERE c.site_id = :site_id "
    "AND c.path = f.path AND c.number >= :first ORDER BY c.number LIMIT 1), f.sha256) AS sha256 "
    "FROM files f WHERE f.site_id = :site_id"
)


def drop_older(session: Session, site_id: UUID, first: int, *, first_states: bool) -> None:
    """Forget the changes older than one; without `first_states`, what files were brought in as, too."""
    asked = {"site_id": site_id, "first": first}
    if not first_states:
        query = (
            f"UPDATE files SET brought_sha256 = brought.sha256 FROM ({_BROUGHT_NOW}) brought "
            "WHERE files.site_id = :site_id AND files.path = brought.path"
        )
        session.execute(text(query), asked)
    session.execute(text(f"DELETE FROM changes WHERE site_id = :site_id AND {_OLD}"), asked)


def drop_unheld(session: Session, site_id: UUID, most: int) -> int:
    """Forget bytes that nothing holds, at most so many, however new they are; the site must be locked."""
    query = (
        "DELETE FROM blobs WHERE site_id = :site_id AND sha256 IN (SELECT b.sha256 FROM blobs b WHERE "
        f"b.site_id = :site_id AND NOT EXISTS (SELECT 1 FROM ({_HELD_BY.format(kept='')}) held "
        "WHERE held.sha256 = b.sha256) LIMIT :limit)"
    )
    statement = text(query).bindparams(bindparam("limit", most))
    return session.execute(statement, {"site_id": site_id}).rowcount  # type: ignore[attr-defined,no-any-return]
