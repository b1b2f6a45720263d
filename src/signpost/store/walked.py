"""What a walk of a published site has found so far."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any, Literal
from uuid import UUID

from sqlalchemy import delete, select
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session

from signpost.store.models import WalkedRow

#: What is kept: what a host answers for a file, for an address beside the site's files, where the jumps to a page
#: land, and of the walk as a whole under the path "".
WalkedKind = Literal["file", "beside", "landings", "walk"]


def load_walked(session: Session, site_id: UUID, target: str, kind: WalkedKind) -> dict[str, dict[str, Any]]:
    """Return what was found of a kind, by path."""
    query = select(WalkedRow.path, WalkedRow.said).where(
        WalkedRow.site_id == site_id, WalkedRow.target == target, WalkedRow.kind == kind
    )
    return {row.path: row.said for row in session.execute(query)}


def save_walked(
    session: Session, site_id: UUID, target: str, kind: WalkedKind, found: Mapping[str, dict[str, Any]]
) -> None:
    """Keep what was found; the hash that it says, under "sha256", holds the bytes that came."""
    rows = [
        {"site_id": site_id, "target": target, "kind": kind, "path": path, "said": said, "sha256": said.get("sha256")}
        for path, said in found.items()
    ]
    if rows:
        statement = insert(WalkedRow)
        new = {name: statement.excluded[name] for name in ("said", "sha256", "at")}
        keys = ["site_id", "target", "kind", "path"]
        session.execute(statement.on_conflict_do_update(index_elements=keys, set_=new), rows)


def forget_walked(session: Session, site_id: UUID, target: str) -> None:
    """Forget what a walk found."""
    session.execute(delete(WalkedRow).where(WalkedRow.site_id == site_id, WalkedRow.target == target))
