"""How this author writes, so that what is added looks like the rest of the page."""

from __future__ import annotations

import re
from collections import Counter
from dataclasses import dataclass

from signpost.core.page import Page
from signpost.core.page.kept import kept_with_page
from signpost.core.page.placing import whole_block

_TAG = re.compile(r"<(/?)([A-Za-z][A-Za-z0-9]*)")
_QUOTE = re.compile(r"""<[A-Za-z][^<>]*?=\s*(["']|[^\s"'<>])""")
_VOID_SLASH = re.compile(r"<(?:br|hr|img|meta|link|input)\b[^<>]*?(/?)>", re.IGNORECASE)
_INDENT = re.compile(r"^([ \t]*)<", re.MULTILINE)
_LONG = 200_000  # characters that are enough to tell an author's habits


@dataclass(frozen=True, slots=True)
class Habits:
    """An author's habits, as the majority of the page shows them."""

    newline: str
    indent: str  # one step; "" where nested markup is not indented
    upper_case: bool  # tags in capitals
    quote: str  # around attribute values; "" where values that need none get none
    slash: bool  # void elements end in " />"

    def tag(self, name: str) -> str:
        """Return a tag's or an attribute's name in the author's case."""
        return name.upper() if self.upper_case else name

    def attribute(self, name: str, value: str) -> str:
        """Return an attribute as the author would write it, its value escaped as its quotes need it."""
        quote = self.quote
        if not quote and not re.fullmatch(r"#?[A-Za-z0-9._:\-]+", value):
            quote = '"'
        value = value.replace("&", "&amp;").replace(quote or '"', "&#39;" if quote == "'" else "&quot;")
        return f"{self.tag(name)}={quote}{value}{quote}"

    def start(self, tag: str, **attributes: str | None) -> str:
        """Return a start tag; a trailing "_" of a keyword is dropped, "_" stands for "-", None leaves one out."""
        written = [
            self.attribute(name.rstrip("_").replace("_", "-"), value)
            for name, value in attributes.items()
            if value is not None
        ]
        return f"<{' '.join([self.tag(tag), *written])}>"

    def end(self, tag: str) -> str:
        """Return an end tag."""
        return f"</{self.tag(tag)}>"

    def void(self, tag: str, **attributes: str | None) -> str:
        """Return a void element."""
        start = self.start(tag, **attributes)
        return start[:-1] + " />" if self.slash else start


@kept_with_page
def read_habits(page: Page) -> Habits:
    """Return the habits that a page shows; the least markup where it shows none."""
    text = _written_by_author(page)[:_LONG]
    cases = Counter(name.isupper() for _, name in _TAG.findall(text))
    quotes = Counter(mark if mark in "\"'" else "" for mark in _QUOTE.findall(text))
    slashes = Counter(bool(mark) for mark in _VOID_SLASH.findall(text))
    return Habits(
        newline=page.source.newline,
        indent=_read_indent(text),
        upper_case=cases[True] > cases[False],
        quote=quotes.most_common(1)[0][0] if quotes else '"',
        slash=slashes[True] > slashes[False],
    )


def _written_by_author(page: Page) -> str:
    """Return the page's text without the blocks that we made: what we added must not change what we add next."""
    pieces, at = [], 0
    for made in sorted(page.made, key=lambda made: made.element.open.start):
        span = whole_block(page.text, made.element)
        if span.start >= at:
            pieces.append(page.text[at : span.start])
            at = span.end
    return "".join([*pieces, page.text[at:]])


def _read_indent(text: str) -> str:
    """Return the step by which nested markup is indented: what an indented line most often adds to the one above."""
    steps: Counter[str] = Counter()
    before = ""
    for indent in _INDENT.findall(text):
        if len(indent) > len(before) and indent.startswith(before):
            steps[indent[len(before) :]] += 1
        before = indent
    return steps.most_common(1)[0][0] if steps else ""
