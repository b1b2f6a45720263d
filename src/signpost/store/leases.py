"""What one process at a time sees to, while no transaction stays open: whoever is gone holds nothing for long."""

from __future__ import annotations

from datetime import timedelta
from uuid import UUID

from sqlalchemy import delete, func, select, update
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session

from signpost.store.models import LeaseRow


def take_lease(session: Session, site_id: UUID, name: str, holder: str, seconds: float) -> str | None:
    """Take something of a site for some time; return who has it instead, None where it was taken.

    Raises IntegrityError where the site is not there.
    """
    until = func.now() + timedelta(seconds=seconds)
    statement = insert(LeaseRow).values(site_id=site_id, name=name, holder=holder, until=until)
    taking = statement.on_conflict_do_update(
        index_elements=["site_id", "name"],
        set_={"holder": holder, "until": until},
        where=LeaseRow.until < func.now(),
    ).returning(LeaseRow.holder)
    if session.execute(taking).one_or_none() is not None:
        return None
    return session.scalar(select(LeaseRow.holder).where(LeaseRow.site_id == site_id, LeaseRow.name == name)) or ""


def renew_lease(session: Session, site_id: UUID, name: str, holder: str, seconds: float) -> bool:
    """Hold on to something for some more time; return whether it is still the holder's."""
    statement = update(LeaseRow).where(LeaseRow.site_id == site_id, LeaseRow.name == name, LeaseRow.holder == holder)
    renewing = statement.values(until=func.now() + timedelta(seconds=seconds)).returning(LeaseRow.name)
    return session.execute(renewing).one_or_none() is not None


def end_lease(session: Session, site_id: UUID, name: str, holder: str) -> None:
    """Let go what a holder has."""
    session.execute(
        delete(LeaseRow).where(LeaseRow.site_id == site_id, LeaseRow.name == name, LeaseRow.holder == holder)
    )
