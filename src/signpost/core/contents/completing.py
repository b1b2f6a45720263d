"""Entries added to a list in its author's style, and removed again; all else in it stays as it is, to the byte.

A list is read again after each change. Where the change did not come out as meant, because the list's markup does not
let it, it is not made.
"""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from itertools import pairwise

from signpost.core.contents.listing import LISTS, Form, ListEntry, Listing, read_listing
from signpost.core.contents.writing import Item, ListStyle, read_list_style, write_list
from signpost.core.page import Node, read_markup
from signpost.core.page.habits import Habits
from signpost.core.text.positions import Span, end_before, indent_before, line_indent
from signpost.core.text.tags import MARKUP, SPACE, scan_attributes, start_tag_end, without_markup

_WORDY = re.compile(r"&(?!#?\w+;)|&(?:amp|lt|gt|quot);|[^\W_]")
_REFERENCE = re.compile(r"&#?\w+;")
_DIGITS = re.compile(r"\d+(?=\D*$)")
#: Attributes of an entry that are its own and no other's.
_OWN = frozenset("id name title value aria-current accesskey tabindex onclick rel target".split())
#: Tags around all of an entry's words, at its beginning and at its end.
_DRESS = r"(?:span|font|b|strong|small|big|tt)"
_DRESSED = re.compile(rf"((?:<{_DRESS}\b[^>]*>)*)(.*?)((?:</{_DRESS}\s*>)*)", re.DOTALL | re.IGNORECASE)


@dataclass(frozen=True, slots=True)
class Filed:
    """A list, and which section each of its entries lists."""

    listing: Listing
    sections: tuple[int | None, ...]  # by the entries' positions

    @property
    def text(self) -> str:
        """The list's markup."""
        return self.listing.text


@dataclass(frozen=True, slots=True)
class NewEntry:
    """An entry to be added."""

    section: int  # index
    level: int
    parents: tuple[int, ...]  # the sections that it is in, outermost first
    address: str
    markup: str  # of its words


def add_entries(filed: Filed, new: Sequence[NewEntry], levels: Sequence[int], habits: Habits) -> Filed:
    """Return a list with entries added in the order of their sections; `levels` has each section's by its index.

    An entry that cannot be added without changing what is there is left out.
    """
    for entry in new:
        added = _add(filed, entry, levels, habits)
        filed = filed if added is None else added
    return filed


def remove_entry(filed: Filed, position: int) -> tuple[Filed, Span] | None:
    """Return a list without one of its entries, and what went; None where it cannot go without anything else."""
    listing = filed.listing
    found = (_out_of_row if listing.form is Form.ROW else _out_of_list)(listing, position)
    if found is None:
        return None
    after = read_listing(listing.text[: found.start] + listing.text[found.end :])
    kept = [*listing.entries[:position], *listing.entries[position + 1 :]]
    if [_told(one) for one in after.entries] != [_told(one) for one in kept]:
        return None
    return Filed(after, (*filed.sections[:position], *filed.sections[position + 1 :])), found


def _add(filed: Filed, entry: NewEntry, levels: Sequence[int], habits: Habits) -> Filed | None:
    place = _in_row if filed.listing.form is Form.ROW else _in_list
    for at, text in place(filed, entry, levels, habits):
        added = _checked(filed, entry, at, text)
        if added is not None:
            return added
    return None


def _checked(filed: Filed, entry: NewEntry, at: int, text: str) -> Filed | None:
    """Return a list with markup put in; None unless that adds just one entry and leaves the others alone."""
    before = filed.listing
    after = read_listing(before.text[:at] + text + before.text[at:])
    position = sum(one.own.start < at for one in before.entries)
    if after.form is not before.form or len(after.entries) != len(before.entries) + 1:
        return None
    if after.entries[position].href != entry.address:
        return None
    others = [*after.entries[:position], *after.entries[position + 1 :]]
    if [_told(one) for one in others] != [_told(one) for one in before.entries]:
        return None
    if not _same_tree(before.text, after.text, Span(at, at + len(text))):
        return None
    return Filed(after, (*filed.sections[:position], entry.section, *filed.sections[position:]))


def _told(entry: ListEntry) -> tuple[str, str | None, int]:
    return entry.words, entry.href, entry.depth


def _same_tree(before: str, after: str, added: Span) -> bool:
    """Return whether all elements but those of the added stretch stand in the same elements as before."""

    def shape(text: str, left_out: Span) -> list[tuple[str, int]] | None:
        nodes = read_markup(text)
        depths: list[int] = []
        found = []
        for node in nodes:
            own = left_out.start <= node.start < left_out.end
            above = depths[node.parent] if node.parent >= 0 else 0
            depths.append(above if own else above + 1)
            if not own:
                if node.parent >= 0 and left_out.start <= nodes[node.parent].start < left_out.end:
                    return None  # it has come into the new entry
                found.append((node.tag, depths[-1]))
        return found

    return shape(before, Span(0, 0)) == shape(after, added)


# ---------------------------------------------------------------------- lists


def _in_list(filed: Filed, new: NewEntry, levels: Sequence[int], habits: Habits) -> Iterator[tuple[int, str]]:
    """Yield where an entry may go in nested lists, and what it would be, the best place first."""
    listing = filed.listing
    items = _items(listing)
    before = _position_before(filed, new.section)
    if before is None:
        first = items[0]
        if first is not None:
            yield first.start, _item(listing, 0, first, new, filed) + _gap_before(listing.text, first)
        return
    chain = _chain(items, before)
    kinds = {levels[section] for section in filed.sections if section is not None}
    flat = max(entry.depth for entry in listing.entries) == 0 and len(kinds) > 1
    nearest = filed.sections[before]
    if not flat and nearest in new.parents:
        yield from _as_child(filed, before, items, new, habits)
    anchor = next((at for at in chain if _level(filed, at, levels) <= new.level), chain[-1])
    item = items[anchor]
    if item is not None:
        end = item.element.end if item.element.close is not None else end_before(listing.text, item.element.end)
        yield end, _gap_before(listing.text, item) + _item(listing, anchor, item, new, filed)


def _level(filed: Filed, position: int, levels: Sequence[int]) -> int:
    section = filed.sections[position]
    return 9 if section is None else levels[section]


def _position_before(filed: Filed, section: int) -> int | None:
    """Return the position of the entry that lists the nearest section above; None where there is none."""
    above = [(found, at) for at, found in enumerate(filed.sections) if found is not None and found < section]
    return max(above)[1] if above else None


def _items(listing: Listing) -> list[Node | None]:
    """Return each entry's item."""
    by_inside = {node.element.open.end: node for node in read_markup(listing.text) if node.tag == "li"}
    return [by_inside.get(entry.own.start) for entry in listing.entries]


def _chain(items: Sequence[Node | None], position: int) -> list[int]:
    """Return the position of an entry and of those whose items it is in, innermost first."""
    chain = [position]
    own = items[position]
    for at in range(position - 1, -1, -1):
        item, inner = items[at], items[chain[-1]]
        if own is not None and item is not None and inner is not None and item.until > inner.index > item.index:
            chain.append(at)
    return chain


def _gap_before(text: str, item: Node) -> str:
    """Return the white space that an item is behind."""
    return text[len(text[: item.start].rstrip(SPACE)) : item.start]


def _item(listing: Listing, model: int, item: Node, new: NewEntry, filed: Filed) -> str:
    """Return a new item like another one."""
    opening = _opening(listing, listing.entries[model])
    close = item.element.close.of(listing.text) if item.element.close else ""
    return opening + _own_markup(listing, model, new, is_last=_is_last(filed, new)) + close


def _opening(listing: Listing, like: ListEntry) -> str:
    """Return an item's start tag: one that several have, or else one without an identifier of its own."""
    usual = Counter(entry.opening for entry in listing.entries if entry.depth == like.depth).most_common(1)
    opening = usual[0][0] if usual and usual[0][1] > 1 else like.opening
    return _without_own(opening, also=frozenset(["class", "value"]) if not usual or usual[0][1] == 1 else frozenset())


def _is_last(filed: Filed, new: NewEntry) -> bool:
    return all(section is None or section < new.section for section in filed.sections)


def _own_markup(listing: Listing, model: int, new: NewEntry, *, is_last: bool) -> str:
    """Return what is in a new entry, dressed like another one; a number is written where it is the last."""
    text, like = listing.text, listing.entries[model]
    before, after = text[like.own.start : like.label.start], text[like.label.end : like.own.end]
    if like.number and is_last and model == len(listing.entries) - 1:
        before = _DIGITS.sub(lambda found: str(int(found[0]) + 1), before)
    else:
        before = _wordless(before)
    after = _wordless(after)
    if not like.linked:
        before, after = "", ""
    return before + _label(listing, model, new) + after


def _wordless(markup: str) -> str:
    """Return a stretch of markup without its words; tags that contain nothing then go as well."""
    if not _WORDY.search(without_markup(markup)):
        return markup if without_markup(markup).strip() or "<" in markup else markup.strip() and markup
    return "".join(found[0] for found in MARKUP.finditer(markup) if not found[0].startswith("<!--"))


def _label(listing: Listing, model: int, new: NewEntry) -> str:
    """Return a new link like another one: its attributes that are not its own, and what all links are dressed in."""
    text = listing.text
    linked = [entry for entry in listing.entries if entry.linked and entry.href is not None]
    like = listing.entries[model] if listing.entries[model].linked else next(iter(linked), None)
    if like is None or like.href is None:
        raise LookupError("a list without links has none to be like")
    tag_end = start_tag_end(text, like.label.start)
    start = _without_own(text[like.label.start : tag_end])
    href = next(found for found in scan_attributes(start, 0) if found.name == "href")
    span = href.value_span or Span(href.span.end, href.span.end)
    start = start[: span.start] + new.address.replace("&", "&amp;") + start[span.end :]
    opened, closed = _dress(listing, linked)
    end = re.search(r"</a\s*>\s*$", like.label.of(text), re.IGNORECASE)
    return start + opened + new.markup + closed + (end[0].strip() if end else "</a>")


def _dress(listing: Listing, linked: Sequence[ListEntry]) -> tuple[str, str]:
    """Return the tags that are around the words of all links alike."""
    found = set()
    for entry in linked:
        label = entry.label.of(listing.text)
        inner = label[start_tag_end(label, 0) :].rpartition("</")[0]
        dressed = _DRESSED.fullmatch(inner.strip())
        found.add((dressed[1], dressed[3]) if dressed else ("", ""))
    opened, closed = found.pop() if len(found) == 1 and len(linked) > 1 else ("", "")
    even = len(re.findall(r"<\w", opened)) == len(re.findall(r"</", closed))
    return (opened, closed) if even and "id=" not in opened.lower() else ("", "")


def _without_own(tag: str, also: frozenset[str] = frozenset()) -> str:
    """Return a start tag without the attributes that are one element's own."""
    pieces, at = [], 0
    for attribute in scan_attributes(tag, 0):
        if attribute.name in _OWN | also:
            pieces.append(tag[at : attribute.span.start].rstrip(SPACE))
            at = attribute.span.end
    return "".join([*pieces, tag[at:]])


def _as_child(
    filed: Filed, parent: int, items: Sequence[Node | None], new: NewEntry, habits: Habits
) -> Iterator[tuple[int, str]]:
    """Yield where an entry goes as the first one within another: into its list, or into a list of its own."""
    listing = filed.listing
    own = items[parent]
    if own is None:
        return
    below = [at for at, item in enumerate(items) if item is not None and own.index < item.index < own.until]
    first = items[below[0]] if below else None
    if first is not None:
        yield first.start, _item(listing, below[0], first, new, filed) + _gap_before(listing.text, first)
        return
    entry = listing.entries[parent]
    indent = indent_before(listing.text, own.start)
    list_style = read_list_style(listing, _usual_list_style(listing, habits))
    list_style = replace(
        list_style, indent=(indent or "") + list_style.list_step, root=_without_own(list_style.nested)
    )
    markup = _label(listing, parent, new)
    written = write_list([Item(markup, new.level)], list_style)
    if not list_style.newline:
        yield entry.own.end, written
        return
    close = listing.text[entry.own.end :].lstrip().lower().startswith("</li")
    tail = list_style.newline + (indent or "") if close and indent is not None else ""
    yield entry.own.end, list_style.newline + list_style.indent + written + tail


def _usual_list_style(listing: Listing, habits: Habits) -> ListStyle:
    root = listing.root
    tag = root.tag if root is not None else "ul"
    start = habits.start(tag)
    indent = line_indent(listing.text, root.open.start) if root is not None else ""
    return ListStyle(
        habits.newline, indent, habits.indent, habits.indent, start, start,
        habits.start("li"), habits.end("li"), habits.end(tag),
    )  # fmt: skip


def _out_of_list(listing: Listing, position: int) -> Span | None:
    """Return what goes with an item: itself and the white space before it, or a list that held nothing else."""
    items = _items(listing)
    own = items[position]
    if own is None:
        return None
    nodes = read_markup(listing.text)
    if any(node.tag == "li" for node in nodes[own.index + 1 : own.until]):
        return None  # it contains others
    element, text = own.element, listing.text
    holder = nodes[own.parent] if own.parent >= 0 else None
    if (
        holder is not None
        and _is_list_within(nodes, holder)
        and sum(one.parent == holder.index for one in nodes) == 1
    ):
        element = holder.element
    end = element.end if element.close is not None else end_before(text, element.end)
    start = len(text[: element.open.start].rstrip(SPACE))
    if element is not own.element:  # the end tag of the item around goes back to where it was
        tail = text[end:]
        closing = len(tail) - len(tail.lstrip(SPACE))
        if tail[closing:].lower().startswith("</li"):
            end += closing
    return Span(start, end)


def _is_list_within(nodes: Sequence[Node], node: Node) -> bool:
    return node.tag in LISTS and node.parent >= 0 and nodes[node.parent].tag == "li"


# ---------------------------------------------------------------------- rows


def _in_row(filed: Filed, new: NewEntry, levels: Sequence[int], _habits: Habits) -> Iterator[tuple[int, str]]:
    """Yield where an entry may go in a row, lines or cells, and what it would be, the best place first."""
    listing = filed.listing
    entries = listing.entries
    gaps = [_gap(listing.text, one, other) for one, other in pairwise(entries)]
    before = _position_before(filed, new.section)
    usual = [gap for gap, _ in Counter(gap for gap in gaps if gap is not None).most_common()]
    if before is None:
        markup = _own_markup(listing, 0, new, is_last=False)
        for gap in usual:
            yield entries[0].own.start, markup + gap
        return
    markup = _own_markup(listing, before, new, is_last=_is_last(filed, new))
    same = [
        gap for gap, at in zip(gaps, range(1, len(entries)), strict=True) if _level(filed, at, levels) == new.level
    ]
    near = [*gaps[before : before + 1], *gaps[max(before - 1, 0) : before], *same]
    for gap in dict.fromkeys(gap for gap in (*near, *usual) if gap is not None):
        yield entries[before].own.end, gap + markup


def _gap(text: str, one: ListEntry, other: ListEntry) -> str | None:
    """Return what is between two entries, an identifier left out; None where it contains words."""
    gap = text[one.own.end : other.own.start]
    if _WORDY.search(_REFERENCE.sub(_blank_reference, without_markup(gap))):
        return None
    if re.search(r"\sid\s*=|\sname\s*=", gap, re.IGNORECASE) or "<!--" in gap:
        return None
    return gap


def _blank_reference(found: re.Match[str]) -> str:
    return "x" if found[0] in ("&amp;", "&lt;", "&gt;", "&quot;") else " "


def _out_of_row(listing: Listing, position: int) -> Span | None:
    """Return what goes with an entry of a row: itself, with what is before it, or behind the first one."""
    entries = listing.entries
    own = entries[position].own
    if len(entries) == 1:
        return None
    if position:
        gap = _gap(listing.text, entries[position - 1], entries[position])
        return None if gap is None else Span(entries[position - 1].own.end, own.end)
    gap = _gap(listing.text, entries[0], entries[1])
    return None if gap is None else Span(own.start, entries[1].own.start)
