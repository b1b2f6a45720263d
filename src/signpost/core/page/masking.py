"""A page's markup without what is no markup: for rules that look for tags by their spelling."""

from __future__ import annotations

import re

from signpost.core.page.facts import Page
from signpost.core.page.kept import kept_for_last_pages

_PAGES_KEPT = 4


def any_case(word: str) -> str:
    """Return the pattern of a word in any case; quicker than a pattern whose case is ignored as a whole."""
    return "".join(f"[{letter}{letter.upper()}]" for letter in word)


#: Comments, and elements whose content is no markup (HTML 13.2.5.1: script, raw text and escapable raw text).
_RAW = "|".join(map(any_case, "script style textarea title xmp iframe noembed noframes".split()))
_UNREAD = re.compile(rf"<(?:!--.*?(?:-->|\Z)|({_RAW})\b[^>]*>)", re.DOTALL)


@kept_for_last_pages(_PAGES_KEPT)
def read_lowered(page: Page) -> str:
    """Return a page's markup as `read_markup_only` does, its letters A to Z in lower case, and most others."""
    text = read_markup_only(page)
    lowered = text.lower()
    return lowered if len(lowered) == len(text) else re.sub("[A-Z]+", lambda found: found[0].lower(), text)


@kept_for_last_pages(_PAGES_KEPT)
def read_markup_only(page: Page) -> str:
    """Return a page's text with comments and scripts blanked out; every other character is where it was."""
    text, pieces, at = page.text, [], 0
    while found := _UNREAD.search(text, at):
        end = found.end()
        shown = found.end() if found[1] else found.start()
        if found[1]:
            closed = re.compile(rf"</{any_case(found[1].lower())}\b").search(text, end)
            end = closed.start() if closed else len(text)
        pieces += [text[at:shown], " " * (end - shown)]
        at = max(end, found.end())
    return "".join([*pieces, text[at:]])
