"""End tags that are missing: whose they are, and where their author would have typed them.

Browsers close such an element late, often at the page's end. Its author meant it to end where its content does: a
list behind its last item, a heading with its line, words in bold with their word, their sentence or their block.
Where the source tells which of these it is, one press writes it; where several are possible, they are choices, the
likeliest first; where nothing tells, it is said and left.
"""

from __future__ import annotations

import re
from bisect import bisect_left
from collections.abc import Sequence
from dataclasses import dataclass
from itertools import islice

from signpost.core.findings.catalogue import Choice, Finding
from signpost.core.findings.page_check import Check
from signpost.core.findings.spoken import reading_choice
from signpost.core.findings.unclosed_lists import HOLDERS, find_list_end
from signpost.core.findings.unclosed_words import (
    MARKING,
    OF_WORDS,
    SHOWN,
    WITHIN_LINES,
    Ending,
    ends_of_heading,
    ends_of_words,
    last_words,
    wraps_words,
)
from signpost.core.page import Page
from signpost.core.page.habits import read_habits
from signpost.core.page.kept import kept_with_page
from signpost.core.page.markup import ELEMENTS, OPTIONAL_END, VOID, tokens_of
from signpost.core.page.slips import Unclosed
from signpost.core.page.tokens import Tag
from signpost.core.text.edits import Edit
from signpost.core.text.positions import Span, after_line_end, indent_before, line_start

#: Items and cells, at whose tags whatever is open within them ends.
_PIECES = OPTIONAL_END - frozenset("html head body p rt rp".split())
#: What is in the names of elements that authors and programs define themselves.
_OWN_NAME = re.compile(r"[-:]")
#: How many times the indentation of tags has to fit before it tells something.
_FITTING = 2


@dataclass(slots=True)
class Patience:
    """How many tags are looked at for all missing end tags of a page together; without it, more is only said."""

    left: int = 200_000

    def covers(self, tags: int) -> bool:
        """Return whether there is patience for so many tags, and use it up."""
        self.left -= tags
        return self.left >= 0


def find_unclosed(check: Check, slip: Unclosed, patience: Patience) -> Finding:
    """Return that an end tag is missing, with where it belongs as far as the source tells."""
    tag, by = slip.tag, _ended_by(check, slip)
    text = check.page.text
    where = "the page's end"
    if by is not None:
        where = f"{text[by.start : by.end][:SHOWN]} on line {check.lines.line(by.start)}"
    if tag.name == "a" and check.page.attribute_at(tag.start, "href") is None and not wraps_words(check.page):
        message = f"{written(check, tag)} has no </a>. It only marks a place, so it can end at once."
        return _found(check, tag, message, [Ending("", tag.end)])
    if tag.name in MARKING:
        message = f"{written(check, tag)} has no </{tag.name}>, so it goes on to {where}, and often beyond."
        return _found(check, tag, message, ends_of_words(check.page, tag, by))
    if tag.name in OF_WORDS:
        first = reading_choice(check, tag)
        return _found(check, tag, _closed_late(check, tag, where), ends_of_heading(check.page, tag, by), first)
    tokens = tokens_of(check.page)
    is_glued = tag.name not in ELEMENTS and not _OWN_NAME.search(tag.name)  # together with the words behind it
    if is_glued or not patience.covers(len(tokens) - tokens.at(tag.start)):
        return _found(check, tag, _closed_late(check, tag, where), [])
    if tag.name in HOLDERS:
        told = find_list_end(check.page, tag)
        ends = [] if told is None else [Ending("behind its last item", told.at)]
        first = None if told is not None else reading_choice(check, tag)
        tag = tag if told is None else told.tag
        return _found(check, tag, _closed_late(check, tag, where), ends, first)
    return _unclosed_box(check, tag, by, where)


def _closed_late(check: Check, tag: Tag, where: str) -> str:
    return f"{written(check, tag)} has no </{tag.name}>; browsers close it at {where}."


def _unclosed_box(check: Check, tag: Tag, by: Tag | None, where: str) -> Finding:
    indented = _end_by_indent(check, tag)
    if indented is not None:
        tag, at = indented
        edit = _on_its_line(check, at, tag)
        message = _closed_late(check, tag, where)
        return check.find_at("end-tag-missing", Span(tag.start, tag.end), message, [edit])
    edits: list[Edit] = []
    choices: list[Choice] = []
    if by is not None:
        first = _end_of_first_block(check, tag, by)
        if first is None:
            edits = [_closing(check, tag, by)]
        else:
            last = last_words(check.page.text[tag.end : first])
            choices = [
                Choice(f"End it behind “{last}”" if last else "End it at once", (insertion(check, first, tag),)),
                Choice(f"End it at {where}", (_closing(check, tag, by),)),
            ]
    message = _closed_late(check, tag, where)
    first_choice = reading_choice(check, tag)
    if first_choice is not None:
        choices = [first_choice, *(choices or [Choice(f"End it at {where}", tuple(edits))] if edits else choices)]
        edits = []
    return check.find_at("end-tag-missing", Span(tag.start, tag.end), message, edits, choices)


def _found(check: Check, tag: Tag, message: str, ends: Sequence[Ending], first: Choice | None = None) -> Finding:
    """Return a finding with the places where an element may end: one is written by a press, several are choices.

    `first` is what is likelier than all of them.
    """
    edits: list[Edit] = []
    choices: list[Choice] = []
    if len(ends) == 1 and first is None:
        edits = [_behind(check, ends[0].at, tag)]
    else:
        told = {one.words: one.at for one in reversed(ends)}  # of places that are told alike, the first
        choices = [
            Choice(f"End it {one.words}", (insertion(check, one.at, tag),))
            for one in ends
            if told[one.words] == one.at
        ]
        choices = choices if first is None else [first, *choices]
    return check.find_at("end-tag-missing", Span(tag.start, tag.end), message, edits, choices)


def written(check: Check, tag: Tag) -> str:
    """Return a start tag as a message shows it."""
    found = " ".join(check.page.text[tag.start : tag.end].split())
    return found if len(found) <= SHOWN else found[: SHOWN - 1] + "…"


def insertion(check: Check, at: int, tag: Tag) -> Edit:
    """Return the edit that puts the end tag of an element at an offset."""
    return Edit(at, at, read_habits(check.page).end(tag.name), reason=f"the end tag of {tag.name}")


def _behind(check: Check, at: int, tag: Tag) -> Edit:
    """Return the edit that puts an end tag behind what ends there, on a line of its own as the start tag is."""
    text, habits = check.page.text, read_habits(check.page)
    indent = indent_before(text, tag.start)
    if tag.name not in HOLDERS or indent is None or after_line_end(text, tag.end) is None:
        return insertion(check, at, tag)
    if after_line_end(text, at) is None and text[at:].strip():
        return insertion(check, at, tag)
    return Edit(at, at, habits.newline + indent + habits.end(tag.name), reason=f"the end tag of {tag.name}")


# ---------------------------------------------------------------- boxes


def _ended_by(check: Check, slip: Unclosed) -> Tag | None:
    """Return the tag at which browsers end an element: that of the cell or the item it is in, or what cut it off."""
    if slip.tag.name in HOLDERS:
        return slip.ended_by  # its own items do not end it
    depth = 0
    tags = _holding_tags(check.page)
    for tag in islice(tags, bisect_left(tags, slip.tag.end, key=lambda tag: tag.start), None):
        if slip.ended_by is not None and tag.start >= slip.ended_by.start:
            break
        if tag.name in HOLDERS:
            depth += -1 if tag.is_end else 1
        elif tag.name in _PIECES and depth <= 0:
            return tag
    return slip.ended_by


@kept_with_page
def _holding_tags(page: Page) -> Sequence[Tag]:
    """Return the tags of cells and items, and of what contains them."""
    return [tag for tag in tokens_of(page).tags() if tag.name in HOLDERS or tag.name in _PIECES]


def _end_of_first_block(check: Check, tag: Tag, by: Tag) -> int | None:
    """Return where the first block or run of words ends in an element that contains more; None for one alone."""
    tokens = tokens_of(check.page)
    depth = 0
    begins: list[int] = []  # where blocks and runs of words begin, right in the element
    between, in_paragraph = tag.end, False  # where the last block ends
    for index in range(tokens.at(tag.start) + 1, tokens.at(by.start) + 1):
        name, start = tokens.names[index], tokens.starts[index]
        if start < by.start and (name.lstrip("/") in WITHIN_LINES or name in VOID):
            continue
        if depth == 0:
            if not in_paragraph and tokens.masked[between:start].strip():
                begins.append(between)
            if start < by.start and name[0] != "/":
                begins.append(start)
            in_paragraph = name == "p"
        if name.lstrip("/") not in OPTIONAL_END:
            depth = max(0, depth + (-1 if name[0] == "/" else 1))
        between = tokens.ends[index]
    if len(begins) <= 1:
        return None
    return tag.end + len(check.page.text[tag.end : begins[1]].rstrip())


def _end_by_indent(check: Check, tag: Tag) -> tuple[Tag, int] | None:
    """Return which element has no end tag, and the end tag before whose line it belongs, as the indentation tells.

    Where tags on lines of their own are indented as their partners are, one that is not shows which one is missing.
    """
    tokens, text = tokens_of(check.page), check.page.text
    stack: list[tuple[int, str | None]] = []
    fitting = 0
    for index in range(tokens.at(tag.start), len(tokens.names)):
        name = tokens.names[index]
        if name.lstrip("/") != tag.name:
            continue
        indent = indent_before(text, tokens.starts[index])
        if name[0] != "/":
            stack.append((index, indent))
            continue
        if not stack:
            return None
        if stack[-1][1] == indent:
            stack.pop()
            fitting += indent is not None
        elif len(stack) > 1 and stack[-2][1] == indent and fitting >= _FITTING:
            return tokens.tag(stack[-1][0]), tokens.starts[index]
        else:
            return None
    return None


def _on_its_line(check: Check, at: int, tag: Tag) -> Edit:
    """Return the edit that puts an end tag on a line of its own, before the line that an offset is on."""
    text, habits = check.page.text, read_habits(check.page)
    indent = indent_before(text, tag.start) or ""
    start = line_start(text, at)
    return Edit(start, start, indent + habits.end(tag.name) + habits.newline, reason=f"the end tag of {tag.name}")


def _closing(check: Check, tag: Tag, by: Tag) -> Edit:
    """Return the edit that ends an element where browsers end it, laid out as its start tag is."""
    text = check.page.text
    indent = indent_before(text, tag.start)
    if indent is not None and after_line_end(text, tag.end) is not None and indent_before(text, by.start) is not None:
        return _on_its_line(check, by.start, tag)
    return insertion(check, by.start, tag)
