"""Operations on contents, and on lists of entries."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from signpost.core.contents import Unplaced
from signpost.core.entries.planning import Bar
from signpost.core.entries.terms import MOST_TERMS
from signpost.web.operations.asked import OperationBody
from signpost.web.requests import Body, Identifier, Level, Line


class Contents(OperationBody):
    """Contents made or refreshed; what is not said stays as it is."""

    operation: Literal["contents"]
    levels: Annotated[list[Level], Field(min_length=1)] | None = None
    form: Literal["list", "row"] | None = None
    left_out: list[Identifier] | None = None
    ordered: bool | None = None
    numbered: bool | None = None
    label: Annotated[str, Field(max_length=100)] = ""
    separator: Annotated[str, Field(max_length=20)] = ""
    prefix: Annotated[str, Field(max_length=40)] | None = None
    suffix: Annotated[str, Field(max_length=40)] | None = None
    spot: Literal["lead", "top", "side", "section"] = "lead"
    before: int | None = None
    home: int | None = None
    block: Annotated[int, Field(ge=0)] | Literal["new"] | None = None
    kept: list[int] = Field([])


class Adopt(OperationBody):
    """A list made by hand made the page's contents; `sections` says what its entries mean, by their positions."""

    operation: Literal["adopt"]
    start: int
    levels: Annotated[list[Level], Field(min_length=1)] | None = None
    sections: dict[int, Annotated[int, Field(ge=0)] | Unplaced] = Field({})


class MoveContents(OperationBody):
    """Contents moved to another place."""

    operation: Literal["move-contents"]
    block: int = 0
    spot: Literal["lead", "top", "side", "section"] = "lead"
    before: int | None = None


class Entry(OperationBody):
    """Words of an entry; without any, those of its heading."""

    operation: Literal["entry"]
    block: int = 0
    section: int
    words: Annotated[str, Field(max_length=400)] = ""


class TermRow(Body):
    """A term of an entry list."""

    term: Line
    label: Annotated[str, Field(max_length=400)] = ""
    identifier: Identifier = ""
    text: Annotated[str, Field(max_length=50_000)] = ""


class Entries(OperationBody):
    """An entry for each term, in a section or right on the page; those that are there are brought up to date."""

    operation: Literal["entries"]
    terms: list[TermRow] = Field(min_length=1, max_length=MOST_TERMS)
    home: int | None = None
    bar: Bar = Bar.LETTERS
    sort: bool = True


class NoContents(OperationBody):
    """Contents removed; all of them where no block is chosen."""

    operation: Literal["no-contents"]
    block: int | None = None
