"""Tags that do not match: end tags missing or left over, elements that cross, items in no list."""

from __future__ import annotations

from collections.abc import Iterator

from signpost.core.findings.catalogue import Choice, Finding
from signpost.core.findings.lost import Losses
from signpost.core.findings.page_check import Check
from signpost.core.findings.spoken import find_spoken
from signpost.core.findings.tokens import end_of_glued_name
from signpost.core.findings.unclosed import Patience, find_unclosed, insertion, written
from signpost.core.findings.unclosed_words import WITHIN_LINES
from signpost.core.page.habits import read_habits
from signpost.core.page.markup import OPTIONAL_END, tokens_of
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

_LISTS = frozenset(["ul", "ol", "menu", "dl"])


def find_unmatched_tags(check: Check) -> Iterator[Finding]:
    """Yield where the tags of a page do not match."""
    losses, patience = Losses(check), Patience()
    spoken = find_spoken(check.page)
    homeless = False  # whether items before are in no list
    cut = -1  # where the last paragraph was cut off by a block whose end tag is missing, or that is meant to be read
    for slip in find_unmatched(check.page):
        homeless = homeless or isinstance(slip, Homeless)
        cause = losses.explain(slip)
        if cause is not None:
            yield cause
            continue
        is_cut = isinstance(slip, Unclosed) and slip.tag.name not in WITHIN_LINES
        if isinstance(slip, Unclosed | Stray | Homeless) and slip.tag.start in spoken:
            cut = slip.tag.start
            continue
        cut = slip.tag.start if isinstance(slip, Unclosed) and is_cut else cut
        if isinstance(slip, Stray) and slip.tag.name == "p" and _is_cut_off(check, slip.tag, cut):
            continue  # right once that is
        match slip:
            case Stray() | Unclosed() if _is_grown_together(check, slip.tag):
                yield from _grown_together(check, slip.tag)
            case Unclosed():
                yield find_unclosed(check, slip, patience)
            case Stray():
                yield _stray(check, slip.tag, was_early=homeless and slip.tag.name in _LISTS)
            case Nested():
                yield _nested(check, slip)
            case Crossed():
                yield _crossed(check, slip)
            case Homeless():
                yield _homeless(check, slip.tag)
    yield from losses.rest()


def _is_cut_off(check: Check, tag: Tag, cut: int) -> bool:
    """Return whether the paragraph that an end tag ends was cut off at an offset, so that it is right by itself."""
    return 0 <= cut < tag.start and 0 <= check.page.text.rfind("<p", 0, tag.start) < cut


def _line(check: Check, tag: Tag) -> int:
    return check.lines.line(tag.start)


def _span(tag: Tag) -> Span:
    return Span(tag.start, tag.end)


def _is_grown_together(check: Check, tag: Tag) -> bool:
    """Return whether a tag's name has grown together with words behind it, up to another tag."""
    text = check.page.text
    return "<" in text[tag.start + 1 : tag.end] and end_of_glued_name(text, tag.start, tag.end) is not None


def _grown_together(check: Check, tag: Tag) -> Iterator[Finding]:
    """Yield that a tag lacks its bracket; where the next tag is in its attributes, the parser noticed."""
    text = check.page.text
    at = end_of_glued_name(text, tag.start, tag.end)
    if at is None or "<" not in tag.name:
        return
    message = f"{written(check, tag)} has no “>” behind {text[tag.start : at]}, so what is behind it is part of it."
    edit = Edit(at, at, ">", reason="the bracket that ends the tag")
    yield check.find_at("bracket-missing", Span(tag.start, at), message, [edit])


def _leads(check: Check, tag: Tag) -> bool:
    return check.page.attribute_at(tag.start, "href") is not None


# ---------------------------------------------------------------- end tags left over


def _stray(check: Check, tag: Tag, *, was_early: bool) -> Finding:
    """Return that an end tag is left over; `was_early`, it is right, and one before it is not."""
    end_tag = f"</{tag.name}>"
    effect = "browsers pass it over"
    if tag.name == "p":
        effect = "the paragraph has ended already at a block within it, so browsers put in an empty one here"
    lines = whole_span(check.page.text, _span(tag))
    edits = [Edit(lines.start, lines.end, "", reason="an end tag without a start tag")]
    if tag.name == "br":
        edits = [Edit(tag.start, tag.end, read_habits(check.page).void("br"), reason="a line break as it is written")]
        effect = "browsers take it for a line break"
    if was_early:
        edits, effect = [], "the list that it should end has ended before"
    elif not _is_surely_left_over(check, tag):
        edits, effect = [], f"a <{tag.name}> before it may have been ended too early"
    return check.find_at("end-tag-stray", _span(tag), f"{end_tag} ends nothing that is open; {effect}.", edits)


def _is_surely_left_over(check: Check, tag: Tag) -> bool:
    """Return whether an end tag is the one that is too much, not one of its name before it.

    It is where it marks words, where no element of its name is there, and where it stands right behind the end tag of
    the only one.
    """
    if tag.name in WITHIN_LINES or tag.name == "p":
        return True
    tokens = tokens_of(check.page)
    before = tokens.at(tag.start) - 1
    is_behind = before >= 0 and tokens.names[before] == f"/{tag.name}"
    is_next = is_behind and not tokens.masked[tokens.ends[before] : tag.start].strip()
    return tokens.count(tag.name) <= int(is_next)


def _nested(check: Check, slip: Nested) -> Finding:
    outer, inner = slip.outer, slip.inner
    name = "link" if outer.name == "a" else outer.name
    message = (
        f"{written(check, inner)} is within {written(check, outer)} on line {_line(check, outer)}. No {name} "
        f"can contain another, so browsers end the first one here, and </{outer.name}> on line "
        f"{_line(check, slip.end)} ends nothing."
    )
    first = insertion(check, inner.start, outer)
    if outer.name == "a" and not _leads(check, outer):
        first = insertion(check, outer.end, outer)
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
    if {outer.name, inner.name} <= WITHIN_LINES and "<" not in between:
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
