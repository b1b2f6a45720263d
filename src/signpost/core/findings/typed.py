"""Tags that were typed as words by mistake: readers see `<b>`, and nothing is bold."""

from __future__ import annotations

import re
from collections.abc import Iterator
from html import unescape

from signpost.core.findings.catalogue import Finding
from signpost.core.findings.lost import is_in_code
from signpost.core.findings.page_check import Check
from signpost.core.page.markup import ELEMENTS, tokens_of
from signpost.core.page.phrasing import PHRASING
from signpost.core.text.edits import Edit
from signpost.core.text.positions import Span

CODE = "tag-typed"
#: An element whose tags are words, with no tag of a block between them.
_TYPED = re.compile(
    r"&lt;([a-z][a-z0-9]{0,9})((?:\s(?:(?!&[lg]t;)[^<>])*)?)&gt;"
    r"((?:(?!&lt;|&gt;|</?(?:p|div|li|t[dhr]|table|[uod]l|h[1-6]|d[dt]|pre|blockquote|section|article)\b).){1,600}?)"
    r"&lt;/\1\s*&gt;",
    re.IGNORECASE | re.DOTALL,
)
_BLOCKS = frozenset("h1 h2 h3 h4 h5 h6 p blockquote div".split())
#: Who writes of markup says so.
_OF_MARKUP = re.compile(
    r"(?<![.\w/-])(?:html|xml|svg|markup|tags?|elements?|attributes?|css|template|syntax)\b", re.IGNORECASE
)
_CODE_TAGS = ("code", "pre", "tt", "samp", "kbd", "xmp", "listing", "textarea")
_FILLED = re.compile(r"<(p|div)\s*>\s*\Z", re.IGNORECASE)


def find_typed_tags(check: Check) -> Iterator[Finding]:
    """Yield the elements of a page whose tags are shown as words, where nobody writes of markup."""
    page = check.page
    if "&lt;/" not in page.text:
        return
    tokens = tokens_of(page)
    if any(tokens.count(name) for name in _CODE_TAGS) or _OF_MARKUP.search(_said(tokens.masked)):
        return
    for found in _TYPED.finditer(tokens.masked):
        name = found[1].lower()
        if name not in ELEMENTS or is_in_code(page, found.start()) or tokens.around(found.start()) is not None:
            continue
        message = f"“<{found[1]}>” and “</{found[1]}>” are shown to readers as words, and do nothing."
        yield check.find_at(CODE, Span(found.start(), found.end()), message, _made_real(tokens.masked, found))


def _said(text: str) -> str:
    """Return what a page says beside its tags, and beside those that are words."""
    return re.sub(r"<[^<>]*>|&lt;/?[a-z](?:(?!&[lg]t;)[^<>])*&gt;", " ", text, flags=re.IGNORECASE)


def _made_real(text: str, found: re.Match[str]) -> list[Edit]:
    """Return the edits that make tags of the words; none where a block would stand in a paragraph."""
    name = found[1].lower()
    opened, closed = Span(found.start(), found.start(3)), Span(found.end(3), found.end())
    tags = [unescape(span.of(text)) for span in (opened, closed)]
    if name in _BLOCKS:
        before = _FILLED.search(text, max(0, opened.start - 40), opened.start)
        behind = before and re.compile(rf"\s*</{before[1]}\s*>", re.IGNORECASE).match(text, closed.end)
        if not before or not behind:
            return []
        opened, closed = Span(before.start(), opened.end), Span(closed.start, behind.end())
    elif name not in PHRASING:
        return []
    return [
        Edit(span.start, span.end, tag, reason="a tag that is meant")
        for span, tag in zip((opened, closed), tags, strict=True)
    ]
