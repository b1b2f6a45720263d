"""Facts of pages that were read, and of pages that were measured in a window."""

from __future__ import annotations

import json
from collections.abc import Collection, Mapping
from uuid import UUID

from sqlalchemy import Text, any_, bindparam, cast, select
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session

from signpost.store.models import ANALYSES, GEOMETRIES, SITE, SOME_HASHES
from signpost.store.records import GeometryRecord

# -------------------------------------------------------------------- analyses


def load_analyses(
    session: Session, site_id: UUID, hashes: Collection[str], version: int
) -> dict[tuple[str, str], str]:
    """Return the facts of pages as JSON, by the hash of their bytes and the digest of what else is known of them."""
    if not hashes:
        return {}
    rows = session.execute(_ANALYSES, {"site_id": site_id, "hashes": list(hashes), "version": version})
    return {(row.sha256, row.marks): row.facts for row in rows}


_ANALYSES = select(ANALYSES.c.sha256, ANALYSES.c.marks, cast(ANALYSES.c.facts, Text).label("facts")).where(
    ANALYSES.c.site_id == SITE,
    ANALYSES.c.sha256 == any_(SOME_HASHES),
    ANALYSES.c.core_version == bindparam("version"),
)


def save_analyses(session: Session, site_id: UUID, version: int, facts: Mapping[tuple[str, str], bytes]) -> None:
    """Keep facts of pages, by the hash of their bytes and the digest of what else was known of them."""
    rows = [
        {"site_id": site_id, "sha256": sha256, "core_version": version, "marks": marks, "facts": json.loads(found)}
        for (sha256, marks), found in facts.items()
    ]
    session.execute(_SAVE_ANALYSES, rows)


_SAVE_ANALYSES = insert(ANALYSES).on_conflict_do_nothing()  # another reader may have found the same


# -------------------------------------------------------------------- geometries


def load_geometries(
    session: Session, site_id: UUID, width: int, height: int, text_size: int, path: str | None = None
) -> list[GeometryRecord]:
    """Return the pages as they were last measured in a window, or one page."""
    query = select(GEOMETRIES).where(
        GEOMETRIES.c.site_id == site_id,
        GEOMETRIES.c.width == width,
        GEOMETRIES.c.height == height,
        GEOMETRIES.c.text_size == text_size,
    )
    query = query if path is None else query.where(GEOMETRIES.c.path == path)
    return [GeometryRecord(row.path, row.sha256, row.digest, row.facts) for row in session.execute(query)]


def save_geometry(
    session: Session, site_id: UUID, record: GeometryRecord, width: int, height: int, text_size: int
) -> None:
    """Keep a page as it was measured in a window, in the place of what was measured before."""
    row = {
        "site_id": site_id,
        "path": record.path,
        "width": width,
        "height": height,
        "text_size": text_size,
        "sha256": record.sha256,
        "digest": record.digest,
        "facts": record.facts,
    }
    statement = insert(GEOMETRIES).values(row)
    keys = ["site_id", "path", "width", "height", "text_size"]
    changed = {name: statement.excluded[name] for name in ("sha256", "digest", "facts")}
    session.execute(statement.on_conflict_do_update(index_elements=keys, set_=changed))
