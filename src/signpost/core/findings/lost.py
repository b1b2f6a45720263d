"""Tags that have lost their “<”, and so are shown as text."""

from __future__ import annotations

import re
from bisect import bisect_left
from collections.abc import Iterator
from typing import NamedTuple

from signpost.core.findings.catalogue import Finding
from signpost.core.findings.page_check import Check
from signpost.core.page import Page
from signpost.core.page.kept import kept_with_page
from signpost.core.page.markup import ELEMENTS, OPTIONAL_END, VOID, tokens_of
from signpost.core.page.slips import Slip, Stray, Unclosed
from signpost.core.text.edits import Edit
from signpost.core.text.positions import Span

_START = re.compile(
    r"(?<![\w<&/#.:=\"'-])([a-zA-Z][a-zA-Z0-9]*)"
    r"((?:\s+[a-zA-Z-]+\s*=\s*(?:\"[^\"<>]*\"|'[^'<>]*'|[^\s\"'<>]+))*)\s*/?>"
)
_END = re.compile(r"(?<!<)/([a-zA-Z][a-zA-Z0-9]*)\s*>")
#: What shows code, in which a tag without its bracket may be meant.
_CODE = frozenset("code kbd pre samp tt var xmp".split())


class Lost(NamedTuple):
    """What would be a tag with a “<” before it."""

    start: int
    end: int
    name: str  # in lower case; of an end tag behind a slash
    has_attributes: bool


@kept_with_page
def find_lost(page: Page) -> list[Lost]:
    """Return what in a page's text would be tags with a “<” before them, in order."""
    tokens = tokens_of(page)
    found = [
        Lost(one.start(), one.end(), one[1].lower(), bool(one[2]))
        for one in _START.finditer(tokens.masked)
        if one[1].lower() in ELEMENTS and tokens.around(one.start()) is None
    ]
    found += [
        Lost(one.start(), one.end(), f"/{one[1].lower()}", has_attributes=False)
        for one in _END.finditer(tokens.masked)
        if one[1].lower() in ELEMENTS and tokens.around(one.start()) is None
    ]
    return sorted(found)


def _is_in_code(page: Page, offset: int) -> bool:
    tokens = tokens_of(page)
    names = tokens.names[: tokens.next(offset)]
    return any(names.count(name) > names.count(f"/{name}") for name in _CODE)


class Losses:
    """What a page has lost, matched with the tags that have no partner: the nearest one is it."""

    def __init__(self, check: Check) -> None:
        self.check = check
        self.left = find_lost(check.page)

    def explain(self, slip: Slip) -> Finding | None:
        """Return the tag without its “<” that a slip comes of; None where there is none."""
        if not self.left or not isinstance(slip, Stray | Unclosed):
            return None
        at = bisect_left(self.left, (slip.tag.start,))
        if isinstance(slip, Stray):
            fitting = [one for one in self.left[:at] if one.name == slip.tag.name]
            found = fitting[-1] if fitting else None
        else:
            until = slip.ended_by.start if slip.ended_by is not None else len(self.check.page.text)
            fitting = [one for one in self.left[at:] if one.name == f"/{slip.tag.name}" and one.start < until]
            found = fitting[0] if fitting else None
        if found is None:
            return None
        self.left = [one for one in self.left if one is not found]
        return self._finding(found)

    def rest(self) -> Iterator[Finding]:
        """Yield the others that surely are tags: without a partner they would be right."""
        for one in self.left:
            is_end = one.name[0] == "/"
            fits = one.name[1:] in OPTIONAL_END if is_end else one.has_attributes and one.name in VOID | OPTIONAL_END
            if fits and not _is_in_code(self.check.page, one.start):
                yield self._finding(one)

    def _finding(self, lost: Lost) -> Finding:
        text = self.check.page.text
        message = f"{text[lost.start : lost.end]} has no “<”, so it is shown as text."
        edit = Edit(lost.start, lost.start, "<", reason="the bracket that begins the tag")
        return self.check.find_at("bracket-missing", Span(lost.start, lost.end), message, [edit])
