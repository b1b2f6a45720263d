"""What requests carry."""

from __future__ import annotations

from dataclasses import asdict
from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field, HttpUrl

from signpost.core.naming import Digits, IdentifierRule
from signpost.desk.settings import Settings

PagePath = Annotated[str, Field(min_length=1, max_length=400)]
Level = Annotated[int, Field(ge=1, le=9)]
HeadingLevel = Annotated[int, Field(ge=1, le=6)]
Identifier = Annotated[str, Field(max_length=200)]
Line = Annotated[str, Field(min_length=1, max_length=400)]
Selector = Annotated[str, Field(max_length=300)]


class Body(BaseModel):
    """A body of a request; what it does not know is refused."""

    model_config = ConfigDict(extra="forbid")


class NewSite(Body):
    """A site to be made."""

    name: str = Field(max_length=200)


class SiteNames(Body):
    """A site's name and its own address."""

    name: str = Field(min_length=1, max_length=200)
    base: HttpUrl | None = None


class Draft(Body):
    """A page's text as its author is typing it."""

    path: PagePath
    text: str


class SiteSettings(Body):
    """How identifiers are made on a site, and how many words may stand without a heading."""

    longest: int = Field(40, ge=8, le=120)
    least_words: int = Field(2, ge=1, le=10)
    joiner: Literal["-", "_", ".", ""] = "-"
    transliterate: bool = True
    levels: list[HeadingLevel] = Field([2, 3, 4, 5, 6], min_length=1)
    prefix: str = Field("", max_length=20, pattern=r"^[A-Za-z0-9._~-]*$")
    digits: Digits = Digits.SPELL
    lead: str = Field("section", min_length=1, max_length=20, pattern=r"^[A-Za-z][A-Za-z0-9._~-]*$")
    longest_run: int = Field(400, ge=50, le=100_000)

    @classmethod
    def of(cls, settings: Settings) -> SiteSettings:
        """Return the settings of a site."""
        return cls.model_validate(asdict(settings.identifiers) | {"longest_run": settings.longest_run})

    def settings(self) -> Settings:
        """Return them as the desk keeps them."""
        rule = self.model_dump(exclude={"longest_run"}) | {"levels": tuple(self.levels)}
        return Settings(IdentifierRule(**rule), self.longest_run)


class Refusal(Body):
    """A look-alike that is no heading; with `again`, it shall be offered again."""

    path: PagePath
    key: Line
    again: bool = False


class SaidRegions(Body):
    """What is content and what is furniture; for all pages of the site where `path` is empty."""

    path: Annotated[str, Field(max_length=400)] = ""
    content: Selector | None = None
    chrome: list[Selector] = Field([], max_length=50)
    own: list[Selector] = Field([], max_length=50)


class PastedTerms(Body):
    """Terms as an author pastes them: a line each, or a table."""

    text: Annotated[str, Field(max_length=2_000_000)]
