"""Tags that do not match: end tags missing or left over, elements that cross, items in no list."""

from __future__ import annotations

import re
from bisect import bisect_left
from collections.abc import Iterator, Sequence
from itertools import islice

from signpost.core.findings.catalogue import Choice, Finding
from signpost.core.findings.page_check import Check
from signpost.core.page import Page
from signpost.core.page.habits import read_habits
from signpost.core.page.kept import kept_with_page
from signpost.core.page.markup import FORMATTING, OPTIONAL_END, tokens_of
from signpost.core.page.placing import whole_span
from signpost.core.page.slips import (
    Crossed,
    Homeless,
    Nested,
    Stray,
    Unclosed,
    find_unmatched,
)
from signpost.core.page.tokens import Tag
from signpost.core.text.edits import Edit
from signpost.core.text.positions import Span, after_line_end, indent_before, line_start

#: Elements at whose tags a run of words ends.
_WITHIN_LINES = FORMATTING | frozenset(
    "abbr acronym bdo bdi br cite data del dfn img ins kbd label mark q samp span sub sup time var wbr".split()
)
#: Elements that contain items or cells, and those, at whose tags whatever is open within them ends.
_HOLDERS = frozenset("table ul ol menu dl select".split())
_PIECES = OPTIONAL_END - frozenset("html head body p rt rp".split())
_SHOWN = 60  # characters of the source that a message shows
_LOOKED_AT = 2000  # characters in which as many are looked for
_BODY_END = re.compile(r"</(?:body|html)\s*>", re.IGNORECASE)


def find_unmatched_tags(check: Check) -> Iterator[Finding]:
    """Yield where the tags of a page do not match."""
    for slip in find_unmatched(check.page):
        match slip:
            case Unclosed():
                yield _unclosed(check, slip)
            case Stray():
                yield _stray(check, slip.tag)
            case Nested():
                yield _nested(check, slip)
            case Crossed():
                yield _crossed(check, slip)
            case Homeless():
                yield _homeless(check, slip.tag)


def _line(check: Check, tag: Tag) -> int:
    return check.lines.line(tag.start)


def _start_tag(check: Check, tag: Tag) -> str:
    written = " ".join(check.page.text[tag.start : tag.end].split())
    return written if len(written) <= _SHOWN else written[: _SHOWN - 1] + "…"


def _span(tag: Tag) -> Span:
    return Span(tag.start, tag.end)


# ---------------------------------------------------------------- end tags missing


def _unclosed(check: Check, slip: Unclosed) -> Finding:
    tag, by = slip.tag, _ended_by(check, slip)
    end = f"</{tag.name}>"
    where = (
        "the page's end"
        if by is None
        else f"{check.page.text[by.start : by.end][:_SHOWN]} on line {_line(check, by)}"
    )
    message = f"{_start_tag(check, tag)} has no {end}; browsers close it at {where}."
    edits: list[Edit] = []
    choices: list[Choice] = []
    if tag.name == "a" and not _leads(check, tag):
        edits = [_insertion(check, tag.end, tag)]
        message = f"{_start_tag(check, tag)} has no {end}. It only marks a place, so it can end at once."
    elif tag.name in FORMATTING:
        message = f"{_start_tag(check, tag)} has no {end}, so it goes on to {where}, and often beyond."
        for words, at in _ends(check, tag, by):
            choices.append(Choice(f"End it {words}", (_insertion(check, at, tag),)))
    else:
        edits = [_closing(check, tag, by)]
    return check.find_at("end-tag-missing", _span(tag), message, edits, choices)


def _ended_by(check: Check, slip: Unclosed) -> Tag | None:
    """Return the tag at which browsers end an element: that of the cell or the item it is in, or what cut it off."""
    depth = 0
    tags = _holding_tags(check.page)
    for tag in islice(tags, bisect_left(tags, slip.tag.end, key=lambda tag: tag.start), None):
        if slip.ended_by is not None and tag.start >= slip.ended_by.start:
            break
        if tag.name in _HOLDERS:
            depth += -1 if tag.is_end else 1
        elif tag.name in _PIECES and depth <= 0:
            return tag
    return slip.ended_by


@kept_with_page
def _holding_tags(page: Page) -> Sequence[Tag]:
    """Return the tags of cells and items, and of what contains them."""
    return [tag for tag in tokens_of(page).tags() if tag.name in _HOLDERS or tag.name in _PIECES]


def _leads(check: Check, tag: Tag) -> bool:
    return check.page.attribute_at(tag.start, "href") is not None


def _insertion(check: Check, at: int, tag: Tag) -> Edit:
    return Edit(at, at, read_habits(check.page).end(tag.name), reason=f"the end tag of {tag.name}")


def _closing(check: Check, tag: Tag, by: Tag | None) -> Edit:
    """Return the edit that ends an element where browsers end it, laid out as its start tag is."""
    text, habits = check.page.text, read_habits(check.page)
    closing = _BODY_END.search(tokens_of(check.page).masked, tag.end) if by is None else None
    at = by.start if by is not None else closing.start() if closing else len(text.rstrip())
    indent = indent_before(text, tag.start)
    if indent is not None and after_line_end(text, tag.end) is not None:
        if at == len(text.rstrip()):
            return Edit(at, at, habits.newline + indent + habits.end(tag.name), reason=f"the end tag of {tag.name}")
        if indent_before(text, at) is not None:
            at = line_start(text, at)
            written = indent + habits.end(tag.name) + habits.newline
            return Edit(at, at, written, reason=f"the end tag of {tag.name}")
    return _insertion(check, at, tag)


def _ends(check: Check, tag: Tag, by: Tag | None) -> Iterator[tuple[str, int]]:
    """Yield where words that are marked may end, in words and as an offset: with their block, with their sentence."""
    text = check.page.text
    block = _next_block(check.page, tag.end)
    if by is not None and by.start >= tag.end:
        block = min(block, by.start)
    words = text[tag.end : block].rstrip()
    if not words:
        yield "at once", tag.end
        return
    plain = words[: words.find("<")] if "<" in words else words
    stop = re.search(r"[.!?:](?=\s)", words[: len(plain) + 1])
    if stop is not None and stop.end() <= len(plain):
        yield f"behind “{_last_words(plain[: stop.end()])}”", tag.end + stop.end()
    yield f"behind “{_last_words(words)}”", tag.end + len(words)


def _last_words(text: str) -> str:
    """Return the last words of a piece of source, without its tags."""
    last = text[-_LOOKED_AT:]
    if len(last) < len(text) and -1 < last.find(">") < last.find("<") % len(text):
        last = last[last.index(">") + 1 :]  # of a tag that begins before it
    return " ".join(re.sub("<[^<>]*>", "", last).split())[-_SHOWN:]


def _next_block(page: Page, offset: int) -> int:
    """Return where the next tag begins, from an offset on, at which a run of words ends."""
    starts = _block_starts(page)
    at = bisect_left(starts, offset)
    return starts[at] if at < len(starts) else len(page.text)


@kept_with_page
def _block_starts(page: Page) -> Sequence[int]:
    tokens = tokens_of(page)
    named = zip(tokens.names, tokens.starts, strict=True)
    return [start for name, start in named if name.lstrip("/") not in _WITHIN_LINES]


# ---------------------------------------------------------------- end tags left over


def _stray(check: Check, tag: Tag) -> Finding:
    written = f"</{tag.name}>"
    effect = "browsers pass it over"
    if tag.name == "p":
        effect = "the paragraph has ended already at a block within it, so browsers put in an empty one here"
    lines = whole_span(check.page.text, _span(tag))
    edits = [Edit(lines.start, lines.end, "", reason="an end tag without a start tag")]
    if tag.name == "br":
        edits = [Edit(tag.start, tag.end, read_habits(check.page).void("br"), reason="a line break as it is written")]
        effect = "browsers take it for a line break"
    return check.find_at("end-tag-stray", _span(tag), f"{written} ends nothing that is open; {effect}.", edits)


def _nested(check: Check, slip: Nested) -> Finding:
    outer, inner = slip.outer, slip.inner
    name = "link" if outer.name == "a" else outer.name
    message = (
        f"{_start_tag(check, inner)} is within {_start_tag(check, outer)} on line {_line(check, outer)}. No {name} "
        f"can contain another, so browsers end the first one here, and </{outer.name}> on line "
        f"{_line(check, slip.end)} ends nothing."
    )
    first = _insertion(check, inner.start, outer)
    if outer.name == "a" and not _leads(check, outer):
        first = _insertion(check, outer.end, outer)
    edits = [first, Edit(slip.end.start, slip.end.end, "", reason="it ends nothing")]
    return check.find_at("link-in-link", _span(inner), message, edits)


def _crossed(check: Check, slip: Crossed) -> Finding:
    outer, inner = slip.outer, slip.inner
    text = check.page.text
    message = (
        f"<{inner.name}> begins within <{outer.name}> (line {_line(check, outer)}) and ends behind it, on line "
        f"{_line(check, slip.inner_end)}. Elements contain each other or stand side by side."
    )
    between = text[slip.outer_end.end : slip.inner_end.start]
    edits: list[Edit] = []
    if {outer.name, inner.name} <= _WITHIN_LINES and "<" not in between:
        reason = f"{inner.name} ends within {outer.name}"
        edits = [
            Edit(
                slip.outer_end.start,
                slip.outer_end.start,
                text[slip.inner_end.start : slip.inner_end.end],
                reason=reason,
            )
        ]
        if between.strip():
            again = text[inner.start : inner.end]
            if "id" in {one.name for one in check.page.attributes_at(inner.start)}:
                edits = []  # its identifier cannot be there twice
            else:
                at = slip.outer_end.end
                edits.append(Edit(at, at, again, reason=f"{inner.name} goes on behind {outer.name}"))
        else:
            edits.append(Edit(slip.inner_end.start, slip.inner_end.end, "", reason=reason))
    return check.find_at("elements-crossed", _span(inner), message, edits)


# ---------------------------------------------------------------- items


def _homeless(check: Check, tag: Tag) -> Finding:
    kind = "li" if tag.name == "li" else "dl"
    lists = "a ul or ol" if kind == "li" else "a dl"
    choices = []
    span = _run(check, tag)
    if span is not None:
        names = ("ul", "ol") if kind == "li" else ("dl",)
        choices = [Choice(f"Put a <{name}> around", _around(check, span, name)) for name in names]
    return check.find_at(
        "list-item-stray",
        _span(tag),
        f"<{tag.name}> is not within {lists}, so screen readers do not say how many there are.",
        choices=choices,
    )


def _run(check: Check, first: Tag) -> Span | None:
    """Return where the items are that stand together; None where end tags are left out, so that nobody can tell."""
    text = check.page.text
    names = {"li"} if first.name == "li" else {"dt", "dd"}
    depth, end = 0, None
    tokens = tokens_of(check.page)
    for tag in tokens.tags(tokens.next(first.start)):
        if depth == 0 and (
            tag.is_end or tag.name not in names or (end is not None and text[end : tag.start].strip())
        ):
            break
        if tag.name in names:
            if not tag.is_end and depth:
                return None
            depth = 0 if tag.is_end else 1
            end = tag.end if tag.is_end else end
        elif tag.name in OPTIONAL_END - {"p"} or tag.name in ("ul", "ol", "dl"):
            return None
    return None if depth or end is None else Span(first.start, end)


def _around(check: Check, span: Span, name: str) -> tuple[Edit, ...]:
    text, habits = check.page.text, read_habits(check.page)
    indent = indent_before(text, span.start)
    reason = f"a {name} around its items"
    start, end = habits.start(name), habits.end(name)
    if indent is None or after_line_end(text, span.end) is None:
        return (Edit(span.start, span.start, start, reason=reason), Edit(span.end, span.end, end, reason=reason))
    at = line_start(text, span.start)
    below = after_line_end(text, span.end) or span.end
    return (
        Edit(at, at, indent + start + habits.newline, reason=reason),
        Edit(below, below, indent + end + habits.newline, reason=reason),
    )
