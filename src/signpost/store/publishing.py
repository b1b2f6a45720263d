"""What is kept of the places that sites are published to."""

from __future__ import annotations

from collections.abc import Mapping
from uuid import UUID

from sqlalchemy import delete, func, select
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session

from signpost.store.models import PublicationRow, PublishedRow, TargetRow
from signpost.store.records import PublicationRecord, TargetRecord
from signpost.store.rows import digest_of


def hold_target(session: Session, site_id: UUID, target: str) -> None:
    """Wait until nobody else publishes to a target; it is held until the transaction ends."""
    session.execute(select(func.pg_advisory_xact_lock(digest_of("target", str(site_id), target))))


def load_targets(session: Session, site_id: UUID) -> list[TargetRecord]:
    """Return the targets of a site, by name."""
    rows = session.scalars(select(TargetRow).where(TargetRow.site_id == site_id).order_by(TargetRow.name))
    return [TargetRecord(row.name, row.kind, row.address, row.user_name, row.live) for row in rows]


def save_target(session: Session, site_id: UUID, target: TargetRecord) -> None:
    """Keep a target, in the place of one of its name."""
    values = {
        "kind": target.kind,
        "address": target.address,
        "user_name": target.user_name,
        "live": target.live,
    }
    statement = insert(TargetRow).values(site_id=site_id, name=target.name, **values)
    session.execute(statement.on_conflict_do_update(index_elements=["site_id", "name"], set_=values))


def delete_target(session: Session, site_id: UUID, name: str) -> None:
    """Forget a target, and what was put there."""
    session.execute(delete(TargetRow).where(TargetRow.site_id == site_id, TargetRow.name == name))
    for table in (PublishedRow, PublicationRow):
        session.execute(delete(table).where(table.site_id == site_id, table.target == name))


def load_published(session: Session, site_id: UUID, target: str) -> dict[str, str]:
    """Return what was put to a target, as hashes by path."""
    rows = session.scalars(select(PublishedRow).where(PublishedRow.site_id == site_id, PublishedRow.target == target))
    return {row.path: row.sha256 for row in rows}


def note_published(session: Session, site_id: UUID, target: str, path: str, sha256: str | None) -> None:
    """Keep that a file was put to a target, or taken away from there."""
    if sha256 is None:
        gone = (PublishedRow.site_id == site_id, PublishedRow.target == target, PublishedRow.path == path)
        session.execute(delete(PublishedRow).where(*gone))
        return
    statement = insert(PublishedRow).values(site_id=site_id, target=target, path=path, sha256=sha256)
    keys = ["site_id", "target", "path"]
    session.execute(statement.on_conflict_do_update(index_elements=keys, set_={"sha256": sha256}))


def load_publications(session: Session, site_id: UUID, target: str) -> list[PublicationRecord]:
    """Return the publications to a target, the newest first."""
    query = select(PublicationRow).where(PublicationRow.site_id == site_id, PublicationRow.target == target)
    rows = session.scalars(query.order_by(PublicationRow.number.desc()))
    return [PublicationRecord(row.number, row.files, row.created_at) for row in rows]


def add_publication(session: Session, site_id: UUID, target: str, files: Mapping[str, str]) -> None:
    """Keep what a target has now that a publication is finished."""
    query = select(func.max(PublicationRow.number)).where(
        PublicationRow.site_id == site_id, PublicationRow.target == target
    )
    number = (session.scalar(query) or 0) + 1
    session.add(PublicationRow(site_id=site_id, target=target, number=number, files=dict(files)))


def drop_publication(session: Session, site_id: UUID, target: str, number: int) -> None:
    """Forget a publication that was undone."""
    session.execute(
        delete(PublicationRow).where(
            PublicationRow.site_id == site_id, PublicationRow.target == target, PublicationRow.number == number
        )
    )
