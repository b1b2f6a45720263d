"""Operations on the source, and fixes of what is found in it."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from signpost.web.operations.asked import ManyPages, OperationBody
from signpost.web.requests import RuleCode, Sha256


class FixFindings(ManyPages):
    """Findings fixed: one, all of a rule, or all that take no choice; on the page or on all pages of the site."""

    operation: Literal["fix"]
    rule: RuleCode | None = None
    start: int | None = None  # offset of the one finding
    choice: Annotated[int, Field(ge=0, le=20)] | None = None  # of those that are offered, from 0 on
    everywhere: bool = False


class WriteSiteFile(OperationBody):
    """What is settled for the site written into its own file."""

    operation: Literal["site-file"]


class Tidy(OperationBody):
    """The indentation of some lines, 1-based, made to follow their elements."""

    operation: Literal["tidy"]
    first_line: Annotated[int, Field(ge=1)]
    last_line: Annotated[int, Field(ge=1)]


class Type(OperationBody):
    """A page's source as its author typed it, with a line feed at every line end.

    `base` is the revision that it was typed on: what changed since stays, and is brought together with it.
    """

    operation: Literal["type"]
    text: str
    base: Sha256 | None = None
