"""What routers are given."""

from __future__ import annotations

from collections.abc import Callable
from typing import Annotated, Any, TypeVar
from uuid import UUID

from fastapi import Depends, Path, Query, Request

from signpost.desk.syncing import sync_folder
from signpost.web.workers import Runner

T = TypeVar("T")


class Desk:
    """The desk's use cases, as one request asks for them."""

    def __init__(self, request: Request) -> None:
        self._request = request
        self._runner: Runner = request.app.state.runner

    @property
    def width(self) -> int:
        """How many use cases can run at once."""
        return self._runner.width

    async def run(self, use_case: Callable[..., T], *args: Any, **named: Any) -> T:
        """Return what a use case returns; it is stopped where it takes too long, or where the client leaves."""
        return await self._runner.run(self._request.is_disconnected, use_case, *args, **named)

    async def follow_folder(self, site_id: UUID) -> None:
        """Bring a site and its folder together, where this server opens folders at all."""
        if self._request.app.state.folders:
            await self.run(sync_folder, site_id)


Asked = Annotated[Desk, Depends(Desk)]
SiteId = Annotated[UUID, Path()]
PathQuery = Annotated[str, Query(min_length=1, max_length=400)]
#: How many of a list are given at most.
Limit = Annotated[int, Query(ge=1, le=500)]
