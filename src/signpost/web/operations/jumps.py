"""Operations on links and back-to-top links."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from signpost.core.back_to_top.destinations import Destination
from signpost.core.back_to_top.planning import Corner
from signpost.core.jumps.planning import Edge
from signpost.web.operations.asked import OperationBody
from signpost.web.requests import Identifier, Level, Line, WindowBody


class _Look(OperationBody):
    """What a link says beside its address; what is null stays as it is."""

    title: Annotated[str, Field(max_length=200)] | None = None
    new_window: bool | None = None
    tells_window: bool = False  # in words behind the link's
    rel: Annotated[str, Field(max_length=200)] | None = None
    language: Annotated[str, Field(max_length=40)] | None = None
    insists: bool = False  # whether a jump on the same page may open a window


class Jump(_Look):
    """Words or a picture made a jump link, or a link led elsewhere; `to_page` is this page where it is empty."""

    operation: Literal["jump"]
    start: int
    end: int
    to_page: Annotated[str, Field(max_length=400)] = ""
    section: int | None = None
    identifier: Identifier = ""
    edge: Edge | None = None  # of the page's content
    element: int | None = None  # on the page, by its start tag; it gets an identifier where it has none
    words: Annotated[str, Field(max_length=300)] = ""  # of that page, for browsers to open it at
    button: bool = False
    beside: bool = True  # of words that are a button: whether that stays, with the link behind it
    back: bool = False  # whether the section that it leads to points back


class Pair(OperationBody):
    """A line “See also” at the end of a section, and at the end of the one that it leads to."""

    operation: Literal["pair"]
    section: int  # by index; -1 for the page
    to_page: Annotated[str, Field(max_length=400)] = ""
    to_section: int | None = None  # None for the page
    both: bool = True


class LinkTo(_Look):
    """Words or a picture made a link to any address, or a link led there; what is null of the rest stays as it is."""

    operation: Literal["link"]
    start: int
    end: int
    address: Annotated[str, Field(min_length=1, max_length=4000)]
    download: bool | None = None


class NoJump(OperationBody):
    """A link removed; its words stay."""

    operation: Literal["no-jump"]
    start: int


class LinkWords(OperationBody):
    """Other words for a link."""

    operation: Literal["link-words"]
    start: int
    words: Line


class BackToTop(OperationBody):
    """Back-to-top links made, refreshed and made alike; with `everywhere`, on all pages of the site."""

    operation: Literal["back-to-top"]
    levels: list[Level] = Field([2], min_length=1)
    to: Destination = Destination.TOP
    least_words: int = Field(0, ge=0)
    least_windows: float = Field(0, ge=0, le=1000)
    words: str = Field("", max_length=100)
    corner: Corner = Corner.END
    alike: bool = False
    everywhere: bool = False
    window: WindowBody | None = None  # that heights were measured in
