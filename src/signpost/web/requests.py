"""What requests carry."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import BaseModel, ConfigDict, Field, HttpUrl

PagePath = Annotated[str, Field(min_length=1, max_length=400)]
Level = Annotated[int, Field(ge=1, le=9)]
Identifier = Annotated[str, Field(max_length=200)]


class _Body(BaseModel):
    model_config = ConfigDict(extra="forbid")


class NewSite(_Body):
    """A site to be made."""

    name: str = Field(max_length=200)


class SiteNames(_Body):
    """A site's name and its own address."""

    name: str = Field(min_length=1, max_length=200)
    base: HttpUrl | None = None


class Draft(_Body):
    """A page's text as its author is typing it."""

    path: PagePath
    text: str


class _Operation(_Body):
    page: PagePath

    def parameters(self) -> dict[str, Any]:
        """Return what the operation is asked for, without its name and page."""
        return self.model_dump(exclude={"operation", "page"})


class Identify(_Operation):
    """Identifiers for the sections that have none."""

    operation: Literal["identify"]
    levels: list[Level] = [2, 3, 4, 5, 6]


class SetIdentifiers(_Operation):
    """Identifiers chosen by the author, by section index."""

    operation: Literal["set-identifiers"]
    identifiers: dict[int, Identifier] = Field(min_length=1)


class Rename(_Operation):
    """Another name for an identifier."""

    operation: Literal["rename"]
    old: Identifier
    new: Identifier


class Contents(_Operation):
    """Contents made or refreshed."""

    operation: Literal["contents"]
    levels: list[Level] = Field([2, 3], min_length=1)
    form: Literal["list", "row"] = "list"
    left_out: list[Identifier] = []


class NoContents(_Operation):
    """Contents taken out."""

    operation: Literal["no-contents"]


class Returns(_Operation):
    """Ways back made or refreshed."""

    operation: Literal["returns"]
    level: Level = 2
    to: Literal["top", "contents"] = "top"
    least_words: int = Field(0, ge=0)
    words: str = Field("Back to top", min_length=1, max_length=100, pattern=r"^[^<>&]+$")


class NoReturns(_Operation):
    """Ways back taken out."""

    operation: Literal["no-returns"]


class Parts(_Operation):
    """A page cut before these sections."""

    operation: Literal["parts"]
    sections: list[int] = Field(min_length=1)


class Type(_Operation):
    """A page's source as its author typed it, with a line feed at every line end."""

    operation: Literal["type"]
    text: str


Operation = Annotated[
    Identify | SetIdentifiers | Rename | Contents | NoContents | Returns | NoReturns | Parts | Type,
    Field(discriminator="operation"),
]
