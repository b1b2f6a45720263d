"""Operations on headings, sections, and pages made of them."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from signpost.web.operations.asked import OperationBody
from signpost.web.requests import HeadingLevel, Identifier, Level, Line, PagePath


class Promote(OperationBody):
    """Look-alike headings made real: their levels by index."""

    operation: Literal["promote"]
    levels: dict[int, HeadingLevel] = Field(min_length=1)


class Levels(OperationBody):
    """Headings brought to levels, by section index."""

    operation: Literal["levels"]
    levels: dict[int, HeadingLevel] = Field(min_length=1)
    with_subsections: bool = False


class Shift(OperationBody):
    """Headings lowered, or raised where `by` is negative."""

    operation: Literal["shift"]
    sections: list[int] = Field(min_length=1)
    by: Annotated[int, Field(ge=-5, le=5)]
    with_subsections: bool = True


class Repair(OperationBody):
    """A repair of the levels that was proposed."""

    operation: Literal["repair"]
    code: Literal["gaps", "several-h1", "no-h1"]


class Words(OperationBody):
    """Other words for a heading."""

    operation: Literal["words"]
    section: int
    words: Line


class InsertHeading(OperationBody):
    """A new heading before a block."""

    operation: Literal["insert-heading"]
    before: int
    level: HeadingLevel
    words: Line
    identifier: Identifier = ""


class Wrap(OperationBody):
    """Sections put into elements of their own."""

    operation: Literal["wrap"]
    levels: list[Level] = Field([2, 3, 4, 5, 6], min_length=1)


class Unwrap(OperationBody):
    """Section elements removed."""

    operation: Literal["unwrap"]
    levels: list[Level] = Field([1, 2, 3, 4, 5, 6], min_length=1)


class Separators(OperationBody):
    """Separators before sections."""

    operation: Literal["separators"]
    levels: list[Level] = Field([2], min_length=1)


class NoSeparators(OperationBody):
    """Separators removed."""

    operation: Literal["no-separators"]
    levels: list[Level] = Field([1, 2, 3, 4, 5, 6], min_length=1)


class Plain(OperationBody):
    """What needs no choice: comments behind far end tags on and off, raw samples escaped, what we made removed."""

    operation: Literal["end-notes", "no-end-notes", "escape-samples", "no-back-to-top", "no-letters", "no-style"]


class Move(OperationBody):
    """A section moved one step, with its subsections."""

    operation: Literal["move"]
    section: int
    direction: Literal["up", "down", "in", "out"]


class Drop(OperationBody):
    """A section moved before, after or into another one."""

    operation: Literal["drop"]
    section: int
    target: int
    where: Literal["before", "after", "into"]


class SectionEdit(OperationBody):
    """A section duplicated or removed, with its subsections."""

    operation: Literal["duplicate", "remove-section"]
    section: int


class Skeleton(OperationBody):
    """Titles made into headings with identifiers, and contents; before a block or at the end."""

    operation: Literal["skeleton"]
    titles: Annotated[str, Field(max_length=20_000)]
    highest: HeadingLevel = 2
    before: int | None = None
    contents: bool = True


class NewPage(OperationBody):
    """A new page made of titles; with `take_frame`, what is around the content of `page` is taken over."""

    operation: Literal["new-page"]
    path: PagePath
    title: Line
    titles: Annotated[str, Field(max_length=20_000)]
    take_frame: bool = True
    contents: bool = True


class CopyPage(OperationBody):
    """A new page that is a copy of this one, with a title of its own."""

    operation: Literal["copy-page"]
    path: PagePath
    title: Line


class Title(OperationBody):
    """Another title for the page; a first heading that said the same follows."""

    operation: Literal["title"]
    words: Line


class Sample(OperationBody):
    """A sample of code put before a block, escaped."""

    operation: Literal["sample"]
    before: int
    code: Annotated[str, Field(max_length=200_000)]
