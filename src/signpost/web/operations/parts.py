"""Operations on parts, and on the reading style."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from signpost.core.parts.options import Forwarding, LinkPiece, PartContents
from signpost.core.reading_style.style import PartLook, StylePart
from signpost.web.operations.asked import OperationBody
from signpost.web.requests import CutBody, PagePath


class _PartOptions(OperationBody):
    """How a page is cut; what is not said is as it was, or as usual."""

    links: list[LinkPiece] | None = None
    contents: PartContents | None = None
    forward: list[Forwarding] | None = None
    pattern: Annotated[str, Field(max_length=200)] = ""
    raise_levels: bool | None = None


class Parts(_PartOptions):
    """A page cut, or its parts cut anew: before sections, by index, or at places of the whole page, by offset."""

    operation: Literal["parts"]
    sections: list[int] = Field([], max_length=500)
    cuts: list[CutBody] = Field([], max_length=500)
    frame: PagePath | None = None  # whose head, header and footer stay, where a part goes that has others


class RefreshParts(_PartOptions):
    """The parts of a page brought up to date."""

    operation: Literal["refresh-parts"]


class ReorderParts(OperationBody):
    """The parts of a page in another order, by their numbers now."""

    operation: Literal["reorder-parts"]
    order: list[int] = Field(min_length=2, max_length=500)


class JoinParts(OperationBody):
    """The parts of a page joined to one page."""

    operation: Literal["join"]
    frame: PagePath | None = None  # whose head, header and footer stay, where the parts' differ


class Style(OperationBody):
    """The reading style put into the site's style sheet, or renewed there."""

    operation: Literal["style"]
    parts: list[StylePart]
    accent: Annotated[str, Field(max_length=20)] = "#1d5c4a"
    wash: Annotated[str, Field(max_length=20)] = "#fff3c4"
    bar: float = 4.0
    side: float = 16.0
    narrow: float = 60.0
    below: float = 50.0
    look: PartLook = PartLook.LINE
