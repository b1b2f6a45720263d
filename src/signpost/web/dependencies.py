"""What routers are given."""

from __future__ import annotations

from typing import Annotated
from uuid import UUID

from fastapi import Depends, Path, Query, Request

from signpost.store.database import Database


def _database(request: Request) -> Database:
    database: Database = request.app.state.database
    return database


Data = Annotated[Database, Depends(_database)]
SiteId = Annotated[UUID, Path()]
PathQuery = Annotated[str, Query(min_length=1, max_length=400)]
