"""Operations on identifiers."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from signpost.web.operations.asked import OperationBody
from signpost.web.requests import Identifier, Level


class Identify(OperationBody):
    """Identifiers for the sections that have none; without levels, for those that the site's settings say."""

    operation: Literal["identify"]
    levels: list[Level] = Field([])


class SetIdentifiers(OperationBody):
    """Identifiers chosen by the author, by section index."""

    operation: Literal["set-identifiers"]
    identifiers: dict[int, Identifier] = Field(min_length=1)


class Rename(OperationBody):
    """Another name for an identifier; the old one may stay beside it."""

    operation: Literal["rename"]
    old: Identifier
    new: Identifier
    keep_old: bool = False


class MarkPlace(OperationBody):
    """An identifier for the element whose start tag begins at an offset, or for the top or bottom of the content."""

    operation: Literal["place"]
    start: int | Literal["top", "bottom"]
    identifier: Identifier


class Anchors(OperationBody):
    """Old anchors' names moved to identifiers."""

    operation: Literal["anchors"]
    keep: bool = False


class Apart(OperationBody):
    """New identifiers for the elements that links do not reach, where one is used twice."""

    operation: Literal["apart"]
    name: Identifier


class Relink(OperationBody):
    """A broken link led to another identifier of the page that it leads to."""

    operation: Literal["relink"]
    start: int
    identifier: Identifier
