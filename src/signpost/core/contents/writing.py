"""Entries written as markup, in the style of the list that is there, or of the page where there is none."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass, field, replace
from itertools import pairwise

from signpost.core.contents.listing import Form, Listing
from signpost.core.page.habits import Habits
from signpost.core.text.positions import Span, indent_before, line_indent, line_start

_WORDS = re.compile(r"[^\W_]")
_TAG = re.compile(r"<[^>]*>|&\w+;")
#: Attributes of an item that are its own.
_OWN = re.compile(r"\s(?:id|value)\s*=", re.IGNORECASE)


@dataclass(frozen=True, slots=True)
class Item:
    """An entry as it should be written."""

    markup: str  # its label, with what its author wrote around it
    level: int  # of its section
    opening: str = ""  # its item's start tag; "" for the list's usual one
    ahead: str = ""  # comments before the item
    behind: str = ""  # what is behind the list within it
    was: int = -1  # position among the entries that were there; -1 for a new one


@dataclass(frozen=True, slots=True)
class ListStyle:
    """How a list is written."""

    newline: str  # "" where everything is on one line
    indent: str  # of the outermost list's line
    item_step: str  # by which items stand further in than their list
    list_step: str  # by which a list is further in than the item it is in
    root: str  # start tag of the outermost list
    nested: str  # start tag of a list within
    item: str  # start tag of an item
    item_end: str  # "" where items have no end tags
    list_end: str
    separator: str = " | "  # between the entries of a row


def new_list_style(habits: Habits, indent: str, tag: str, separator: str) -> ListStyle:
    """Return the style of a list that is written again inside a block, at an indent."""
    start = habits.start(tag)
    return ListStyle(
        habits.newline, indent, habits.indent, habits.indent, start, start,
        habits.start("li"), habits.end("li"), habits.end(tag), separator,
    )  # fmt: skip


def read_list_style(listing: Listing, usual: ListStyle) -> ListStyle:
    """Return the style in which a listing is written; `usual` says what it does not show."""
    if listing.form is Form.ROW:
        return replace(usual, separator=_usual_separator(listing) or usual.separator)
    text, root, entries = listing.text, listing.root, listing.entries
    if root is None or not entries:
        return usual
    indent = line_indent(text, root.open.start)
    first = next((entry for entry in entries if entry.depth == 0), entries[0])
    first_start = first.own.start - len(first.opening)
    item_indent = indent_before(text, first_start)
    broken = item_indent is not None and line_start(text, first_start) > root.open.start
    item_step = item_indent.removeprefix(indent) if broken and item_indent else usual.item_step
    list_step = usual.list_step
    if listing.nested is not None:
        nested_indent = indent_before(text, listing.nested.open.start)
        outer = indent + item_step
        list_step = nested_indent.removeprefix(outer) if nested_indent is not None else list_step
    tag = text[root.open.start + 1 : root.open.start + 1 + len(root.tag)]
    item = Counter(entry.opening for entry in entries if entry.opening).most_common(1)
    name = "LI" if tag.isupper() else "li"
    return ListStyle(
        newline=usual.newline if broken else "",
        indent=indent,
        item_step=item_step,
        list_step=list_step,
        root=root.open.of(text),
        nested=listing.nested.open.of(text) if listing.nested else f"<{tag}>",
        item=item[0][0] if item and not _OWN.search(item[0][0]) else f"<{name}>",
        item_end=f"</{name}>" if listing.closed else "",
        list_end=f"</{tag}>",
        separator=usual.separator,
    )


def _usual_separator(listing: Listing) -> str | None:
    """Return what most often is between two entries, without words."""
    between = Counter(listing.text[one.own.end : other.own.start] for one, other in pairwise(listing.entries))
    wordless = [gap for gap, _ in between.most_common() if not _WORDS.search(_TAG.sub("", gap))]
    return wordless[0] if wordless else None


@dataclass(slots=True)
class _Branch:
    item: Item
    inner: list[_Branch] = field(default_factory=list)


def _grow(items: Sequence[Item]) -> list[_Branch]:
    """Return items within one another by their levels. A level that is skipped opens one list, not two."""
    roots: list[_Branch] = []
    path: list[tuple[int, _Branch]] = []
    for item in items:
        while path and path[-1][0] >= item.level:
            path.pop()
        branch = _Branch(item)
        (path[-1][1].inner if path else roots).append(branch)
        path.append((item.level, branch))
    return roots


def number_items(items: Sequence[Item]) -> list[str]:
    """Return each item's number among those of its list, with its parents' before it: "2.3"."""
    numbers: dict[int, str] = {}
    order = {id(item): position for position, item in enumerate(items)}
    stack = [("", _grow(items))]
    while stack:
        before, branches = stack.pop()
        for count, branch in enumerate(branches, start=1):
            number = f"{before}{count}"
            numbers[order[id(branch.item)]] = number
            stack.append((number + ".", branch.inner))
    return [numbers[position] for position in range(len(items))]


def write_list(items: Sequence[Item], list_style: ListStyle) -> str:
    """Return nested lists; their first line carries no indent, for the caller knows where it goes."""
    return list_style.newline.join(
        _list_lines(_grow(items), list_style, list_style.indent, list_style.root)
    ).removeprefix(list_style.indent)


def _list_lines(branches: Sequence[_Branch], list_style: ListStyle, indent: str, start: str) -> list[str]:
    if not list_style.newline:
        indent = ""
    inside = indent + (list_style.item_step if list_style.newline else "")
    lines = [indent + start]
    for branch in branches:
        if branch.item.ahead:
            lines.append(inside + branch.item.ahead)
        line = inside + (branch.item.opening or list_style.item) + branch.item.markup
        if not branch.inner:
            behind = " " + branch.item.behind if branch.item.behind else ""
            lines.append(line + behind + list_style.item_end)
            continue
        deeper = inside + (list_style.list_step if list_style.newline else "")
        lines += [line, *_list_lines(branch.inner, list_style, deeper, list_style.nested)]
        if branch.item.behind:
            lines.append(deeper + branch.item.behind)
        if list_style.item_end:
            lines.append(inside + list_style.item_end)
    return [*lines, indent + list_style.list_end]


def write_row(items: Sequence[Item], list_style: ListStyle, listing: Listing | None = None) -> str:
    """Return a row; entries that were side by side keep what is between them."""
    pieces: list[str] = []
    for before, item in zip([None, *items], items, strict=False):
        if before is not None:
            pieces.append(_gap(before, item, list_style, listing))
        pieces.append(item.markup)
    return "".join(pieces)


def _gap(before: Item, item: Item, list_style: ListStyle, listing: Listing | None) -> str:
    if listing is not None and before.was >= 0 and item.was == before.was + 1:
        return Span(listing.entries[before.was].own.end, listing.entries[item.was].own.start).of(listing.text)
    return list_style.separator
