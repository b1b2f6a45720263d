"""What is kept of the places that sites are published to."""

from __future__ import annotations

from collections.abc import Collection, Mapping
from uuid import UUID

from sqlalchemy import delete, func, select, update
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session

from signpost.store.models import PublicationFileRow, PublicationRow, PublishedRow, TargetRow
from signpost.store.records import PublicationRecord, PublishedRecord, ReplacedRecord, TargetRecord
from signpost.store.walked import forget_walked

#: How many publications to a target are kept, so that each can be taken back.
MOST_PUBLICATIONS = 20


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


def rename_target(session: Session, site_id: UUID, name: str, new: str) -> None:
    """Give a target another name, with what is known of what was put there."""
    session.execute(update(TargetRow).where(TargetRow.site_id == site_id, TargetRow.name == name).values(name=new))
    moved = [*session.scalars(select(PublicationRow).where(*_to(PublicationRow, site_id, name)))]
    rows = [
        {
            "site_id": site_id,
            "target": new,
            "number": row.number,
            "address": row.address,
            "created_at": row.created_at,
        }
        for row in moved
    ]
    if rows:
        session.execute(insert(PublicationRow), rows)
    for table in (PublicationFileRow, PublishedRow):
        session.execute(update(table).where(*_to(table, site_id, name)).values(target=new))
    session.execute(delete(PublicationRow).where(*_to(PublicationRow, site_id, name)))


def _to(table: type[PublicationRow | PublicationFileRow | PublishedRow], site_id: UUID, target: str) -> tuple:  # type: ignore[type-arg]
    return table.site_id == site_id, table.target == target


def delete_target(session: Session, site_id: UUID, name: str) -> None:
    """Forget a target, and what was put there."""
    session.execute(delete(TargetRow).where(TargetRow.site_id == site_id, TargetRow.name == name))
    for table in (PublishedRow, PublicationRow):
        session.execute(delete(table).where(*_to(table, site_id, name)))
    forget_walked(session, site_id, name)


# -------------------------------------------------------------------- what is there


def load_published(session: Session, site_id: UUID, target: str, address: str) -> dict[str, PublishedRecord]:
    """Return what was put to a target at an address, by path."""
    query = select(PublishedRow).where(*_to(PublishedRow, site_id, target), PublishedRow.address == address)
    rows = session.scalars(query)
    return {row.path: PublishedRecord(row.sha256, row.sending, row.size, row.tag) for row in rows}


def save_published(
    session: Session, site_id: UUID, target: str, address: str, files: Mapping[str, PublishedRecord | None]
) -> None:
    """Keep what is known of some files at a target; None for one that is not ours, or not there any more."""
    gone = [path for path, file in files.items() if file is None]
    if gone:
        session.execute(
            delete(PublishedRow).where(
                *_to(PublishedRow, site_id, target), PublishedRow.address == address, PublishedRow.path.in_(gone)
            )
        )
    at = {"site_id": site_id, "target": target, "address": address}
    rows = [{**at, "path": path, **file._asdict()} for path, file in files.items() if file is not None]
    if rows:
        statement = insert(PublishedRow)
        new = {name: statement.excluded[name] for name in PublishedRecord._fields}
        keys = ["site_id", "target", "address", "path"]
        session.execute(statement.on_conflict_do_update(index_elements=keys, set_=new), rows)


# -------------------------------------------------------------------- publications


def load_publications(session: Session, site_id: UUID, target: str, address: str) -> list[PublicationRecord]:
    """Return the publications to a target at an address, the newest first."""
    query = select(PublicationRow).where(*_to(PublicationRow, site_id, target), PublicationRow.address == address)
    rows = session.scalars(query.order_by(PublicationRow.number.desc()))
    return [PublicationRecord(row.number, row.created_at) for row in rows]


def begin_publication(session: Session, site_id: UUID, target: str, address: str) -> int:
    """Return the number of a new publication; those that are too old to be taken back are forgotten."""
    query = select(func.max(PublicationRow.number)).where(*_to(PublicationRow, site_id, target))
    number = (session.scalar(query) or 0) + 1
    session.add(PublicationRow(site_id=site_id, target=target, number=number, address=address))
    session.flush()
    session.execute(
        delete(PublicationRow).where(
            *_to(PublicationRow, site_id, target), PublicationRow.number <= number - MOST_PUBLICATIONS
        )
    )
    return number


def note_replaced(
    session: Session, site_id: UUID, target: str, number: int, files: Mapping[str, ReplacedRecord]
) -> None:
    """Keep what a publication replaces, by path."""
    rows = [
        {
            "site_id": site_id,
            "target": target,
            "number": number,
            "path": path,
            "before_sha256": file.sha256,
            "after_sha256": file.after_sha256,
            "was_foreign": file.foreign,
        }
        for path, file in files.items()
    ]
    if rows:
        session.execute(insert(PublicationFileRow).on_conflict_do_nothing(), rows)


def load_replaced(session: Session, site_id: UUID, target: str, number: int) -> dict[str, ReplacedRecord]:
    """Return what a publication replaced, by path."""
    query = select(PublicationFileRow).where(
        *_to(PublicationFileRow, site_id, target), PublicationFileRow.number == number
    )
    return {
        row.path: ReplacedRecord(row.before_sha256, row.after_sha256, row.was_foreign)
        for row in session.scalars(query)
    }


def forget_replaced(session: Session, site_id: UUID, target: str, number: int, paths: Collection[str]) -> None:
    """Forget what a publication replaced of some files; the publication too, where nothing is left of it."""
    of_it = (*_to(PublicationFileRow, site_id, target), PublicationFileRow.number == number)
    session.execute(delete(PublicationFileRow).where(*of_it, PublicationFileRow.path.in_(list(paths))))
    left = session.scalar(select(func.count()).select_from(PublicationFileRow).where(*of_it))
    if not left:
        session.execute(
            delete(PublicationRow).where(*_to(PublicationRow, site_id, target), PublicationRow.number == number)
        )
