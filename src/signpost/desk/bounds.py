"""How much a page may contain to be worked on; a page beyond is a page with a reason, and harms no other."""

from __future__ import annotations

import re
from itertools import accumulate

from signpost.core.page import Page
from signpost.core.text.errors import InputError
from signpost.core.text.source import Source

#: Tags of a page. The longest pages that people read have a few ten thousand.
MOST_TAGS = 400_000
MOST_LINES = 500_000
#: Elements within one another; browsers themselves nest no deeper than 512.
MOST_NESTED = 2_000
MOST_SECTIONS = 10_000
MOST_LINKS = 30_000
MOST_TARGETS = 100_000

#: Elements that only an end tag ends, or the end of what contains them (HTML 13.1.2.4).
_NESTING = re.compile(r"<(/?)(?:div|span|section|article|blockquote|center|ul|ol|table)(?=[\s/>])", re.IGNORECASE)


class ExcessError(InputError):
    """A page that contains more than can be worked on."""

    def __init__(self, count: int, noun: str, most: int) -> None:
        self.count = count
        self.most = most
        super().__init__(f"It has {count:,} {noun}; pages of up to {most:,} are worked on. Divide it first.")


def find_excess(source: Source) -> ExcessError | None:
    """Return why a page is too much to be parsed, or None where it is not."""
    text = source.text
    steps = (-1 if found[1] else 1 for found in _NESTING.finditer(text))
    return _first(
        (text.count("<"), "tags", MOST_TAGS),
        (text.count("\n") + text.count("\r"), "lines", MOST_LINES),
        (max(accumulate(steps), default=0), "elements within one another", MOST_NESTED),
    )


def find_page_excess(page: Page) -> ExcessError | None:
    """Return why a page that was parsed is too much to be worked on, or None where it is not."""
    return _first(
        (len(page.headings), "sections", MOST_SECTIONS),
        (len(page.links), "links", MOST_LINKS),
        (len(page.targets), "identifiers", MOST_TARGETS),
    )


def _first(*counts: tuple[int, str, int]) -> ExcessError | None:
    return next((ExcessError(count, noun, most) for count, noun, most in counts if count > most), None)
