"""Tags that have lost their “<”, and so are shown as text."""

from __future__ import annotations

import re
from bisect import bisect_left
from collections.abc import Iterator
from itertools import chain
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
    r"(?<![\w<&/#.:=-])([a-zA-Z][a-zA-Z0-9]*)"
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
    if tokens.masked.count(">") == len(tokens) + tokens.masked.count("<!"):
        return []  # each ends a tag
    found = [
        Lost(one.start(), one.end(), one[1].lower(), bool(one[2]))
        for one in _START.finditer(tokens.masked)
        if one[1].lower() in ELEMENTS
        and tokens.around(one.start()) is None
        # behind a quotation mark it is one only if it is more than a name
        and (one[2] or tokens.masked[one.start() - 1 : one.start()] not in ("'", '"'))
    ]
    found += [
        Lost(one.start(), one.end(), f"/{one[1].lower()}", has_attributes=False)
        for one in _END.finditer(tokens.masked)
        if one[1].lower() in ELEMENTS and tokens.around(one.start()) is None
    ]
    return sorted(found)


@kept_with_page
def _code_begins(page: Page) -> tuple[list[int], list[int]]:
    """Return where tags of what shows code are, and how many such elements are open behind each."""
    places, depths, depth = [], [], 0
    for tag in tokens_of(page).named(*_CODE, *(f"/{name}" for name in _CODE)):
        depth = max(0, depth + (-1 if tag.is_end else 1))
        places.append(tag.start)
        depths.append(depth)
    return places, depths


def is_in_code(page: Page, offset: int) -> bool:
    """Return whether an offset is in what shows code, where words are there to be read as they are."""
    places, depths = _code_begins(page)
    before = bisect_left(places, offset) - 1
    return before >= 0 and depths[before] > 0


class Losses:
    """What a page has lost, matched with the tags that have no partner: the nearest one is it."""

    def __init__(self, check: Check) -> None:
        self.check = check
        self.left: dict[str, list[Lost]] = {}  # by name, in order
        for one in find_lost(check.page):
            self.left.setdefault(one.name, []).append(one)

    def explain(self, slip: Slip) -> Finding | None:
        """Return the tag without its “<” that a slip comes of; None where there is none."""
        if not self.left or not isinstance(slip, Stray | Unclosed):
            return None
        is_end = isinstance(slip, Unclosed)
        same = self.left.get(f"/{slip.tag.name}" if is_end else slip.tag.name, [])
        at = bisect_left(same, (slip.tag.start,)) - (not is_end)
        if not 0 <= at < len(same):
            return None
        by = slip.ended_by if isinstance(slip, Unclosed) else None
        return None if by is not None and same[at].start >= by.start else self._finding(same.pop(at))

    def rest(self) -> Iterator[Finding]:
        """Yield the others that surely are tags: without a partner they would be right."""
        for one in sorted(chain.from_iterable(self.left.values())):
            is_end = one.name[0] == "/"
            fits = one.name[1:] in OPTIONAL_END if is_end else one.has_attributes and one.name in VOID | OPTIONAL_END
            if fits and not is_in_code(self.check.page, one.start):
                yield self._finding(one)

    def _finding(self, lost: Lost) -> Finding:
        text = self.check.page.text
        message = f"{text[lost.start : lost.end]} has no “<”, so it is shown as text."
        edit = Edit(lost.start, lost.start, "<", reason="the bracket that begins the tag")
        return self.check.find_at("bracket-missing", Span(lost.start, lost.end), message, [edit])
