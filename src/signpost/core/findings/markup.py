"""Slips in the markup that browsers put up with in a way nobody meant."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Iterator

from signpost.core.findings.catalogue import Finding
from signpost.core.findings.page_check import Check
from signpost.core.page.markup import tokens_of
from signpost.core.page.mistyped import find_mistyped
from signpost.core.page.slips import find_attributed
from signpost.core.text.edits import Edit
from signpost.core.text.positions import Span
from signpost.core.text.tags import start_tag_end

#: A start tag that is closed by "/>" though its element is not void (HTML 13.1.2.1: the slash means nothing).
_SELF_CLOSED = re.compile(r"<(a|b|div|em|i|p|span|strong)\b((?:[^<>]*[\"'\s])?)\s*/>", re.IGNORECASE)
_TAG_LENGTH = 2000  # characters in which a start tag's beginning is looked for
_TYPOGRAPHIC = re.compile(r"<[a-z][^<>]*?\s([\w:-]+)=([“”„‟«»‘’])([^<>“”„‟«»‘’\"']*)([“”„‟«»‘’])", re.IGNORECASE)
_CURLY = re.compile(r"=[“”„‟«»‘’]")
_RAW = re.compile(r"<(?=[\s\d=<])")  # no tag begins so (HTML 13.2.5.6)
_OBSOLETE = frozenset(
    "acronym applet basefont bgsound big blink center dir font frame frameset isindex marquee multicol nobr noframes "
    "plaintext spacer strike tt xmp".split()
)


#: Attributes that no element has any more, but for those in `_ALLOWED` (HTML 16.2).
_OBSOLETE_ATTRIBUTES = frozenset(
    "align alink bgcolor border cellpadding cellspacing compact face frameborder hspace marginheight marginwidth "
    "noshade nowrap rules scrolling valign vlink vspace".split()
)
_ALLOWED = {"align": frozenset(["applet"]), "rules": frozenset(["script"])}
_OBSOLETE_ON = {
    "body": frozenset(["text", "link", "background"]),
    "br": frozenset(["clear"]),
    "hr": frozenset(["color", "size", "width"]),
    "table": frozenset(["width", "height", "summary"]),
    "td": frozenset(["width", "height"]),
    "th": frozenset(["width", "height"]),
    "script": frozenset(["language"]),
    "ul": frozenset(["type"]),
    "li": frozenset(["type"]),
    "a": frozenset(["rev", "coords", "shape"]),
}
_NAMES = _OBSOLETE_ATTRIBUTES.union(*_OBSOLETE_ON.values())
_MOST_NAMED = 5


def find_slips(check: Check) -> Iterator[Finding]:
    """Yield slips of a page's markup."""
    text = tokens_of(check.page).masked
    is_xml = check.page.path.lower().endswith(".xhtml") or text.lstrip("\ufeff \r\n").startswith("<?xml")
    for found in () if is_xml else _self_closed_tags(text):
        yield _self_closed(check, found)
    for found in _TYPOGRAPHIC.finditer(text) if _CURLY.search(text) else ():
        span = Span(found.start(2), found.end(4))
        edits = [Edit(found.start(2), found.end(2), '"', reason="a quotation mark that counts")]
        edits.append(Edit(found.start(4), found.end(4), '"', reason="a quotation mark that counts"))
        yield check.find_at(
            "quote-typographic",
            span,
            f"The value of {found[1]} is in typographic quotation marks, which become part of it.",
            edits=edits,
        )
    meant = {one.tag.start for one in find_mistyped(check.page)}
    for found in _RAW.finditer(text):
        if found.start() in meant:
            continue
        edit = Edit(found.start(), found.end(), "&lt;", reason="a < that is text")
        yield check.find_at(
            "less-than-raw",
            Span(found.start(), found.end()),
            "This < is text, not the beginning of a tag. Written as &lt; it stays so whatever comes behind it.",
            edits=[edit],
        )
    yield from _obsolete(check)
    yield from _obsolete_attributes(check)


def _self_closed_tags(text: str) -> Iterator[re.Match[str]]:
    """Yield the start tags of elements that are not void and end in "/>"; most pages have few slashes there."""
    at = text.find("/>")
    while at >= 0:
        start = text.rfind("<", max(0, at - _TAG_LENGTH), at)
        found = _SELF_CLOSED.match(text, start) if start >= 0 else None
        if found and found.end() == at + 2:
            yield found
        at = text.find("/>", at + 2)


def _self_closed(check: Check, found: re.Match[str]) -> Finding:
    tag = found[1]
    start = found.end() - 2
    while check.page.text[start - 1] in " \t\r\n":
        start -= 1
    edit = Edit(start, found.end(), f"></{tag}>", reason=f"an end tag for {tag}")
    rest = "all text behind it becomes part of it" if tag.lower() != "a" else "all text behind it becomes a link"
    is_link = tag.lower() == "a" and re.search(r"\bhref\s*=", found[2], re.IGNORECASE)
    effect = rest if tag.lower() != "a" or is_link else "all text behind it is in it"
    return check.find_at(
        "element-self-closed",
        Span(found.start(), found.end()),
        f"<{tag} … /> is not closed: browsers ignore the slash here, so {effect}.",
        edits=[edit],
    )


def _obsolete(check: Check) -> Iterator[Finding]:
    tokens = tokens_of(check.page)
    for name in sorted(_OBSOLETE):
        first = next(tokens.named(name), None)
        if first is None:
            continue
        count = tokens.count(name)
        times = "once" if count == 1 else f"{count:,} times"
        yield check.find_at(
            "element-obsolete",
            Span(first.start, first.start + 1 + len(name)),
            f"The {name} element is obsolete, and is used {times} on this page. A style rule does the same.",
        )


def _obsolete_attributes(check: Check) -> Iterator[Finding]:
    """Yield the obsolete attributes of a page, all of them as one finding."""
    counts: Counter[str] = Counter()
    first: int | None = None
    for start, tag, used in find_attributed(check.page, _NAMES):
        old = {name for name in used & _OBSOLETE_ATTRIBUTES if tag not in _ALLOWED.get(name, ())}
        old |= used & _OBSOLETE_ON.get(tag, frozenset())
        if old and first is None:
            first = start
        counts.update(old)
    if first is None:
        return
    listed = ", ".join(
        f"{name} ({count:,})"
        for name, count in sorted(counts.items(), key=lambda one: (-one[1], one[0]))[:_MOST_NAMED]
    )
    more = f" and {len(counts) - _MOST_NAMED} more" if len(counts) > _MOST_NAMED else ""
    yield check.find_at(
        "attribute-obsolete",
        Span(first, start_tag_end(check.page.text, first)),
        f"Attributes that style rules have replaced: {listed}{more}. This is the first of them.",
    )
