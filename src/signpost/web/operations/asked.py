"""What every operation is asked with."""

from __future__ import annotations

from typing import Any

from pydantic import Field

from signpost.web.requests import Body, PagePath


class OperationBody(Body):
    """An operation on a page, as a request asks for it."""

    page: PagePath

    def parameters(self) -> dict[str, Any]:
        """Return what the operation is asked for, without its name and page."""
        return self.model_dump(exclude={"operation", "page"})


class ManyPages(OperationBody):
    """An operation whose edits of one page do not need those of another."""

    without: list[PagePath] | None = Field(None, max_length=20_000)  # pages that stay as they are
