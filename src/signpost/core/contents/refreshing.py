"""One block written again, or brought up to date in its own style."""

from __future__ import annotations

import re
from collections.abc import Collection, Mapping, Sequence
from dataclasses import replace
from html import escape

from signpost.core.contents.blocks import BESIDE, ContentsBlock, Listed, State, entry_words, judge_words
from signpost.core.contents.listing import Form
from signpost.core.contents.options import ContentsOptions, Spot, find_slot
from signpost.core.contents.phrases import contents_label
from signpost.core.contents.remark import Remark, word_digest
from signpost.core.contents.writing import (
    Item,
    ListStyle,
    new_list_style,
    number_items,
    read_list_style,
    write_list,
    write_row,
)
from signpost.core.page import Page
from signpost.core.page.habits import Habits
from signpost.core.page.outline import Section
from signpost.core.page.placing import follows_empty_line
from signpost.core.text.edits import Edit, splice
from signpost.core.text.positions import Span, line_indent
from signpost.core.text.tags import scan_attributes, start_tag_end, value_edit

_KEPT = re.compile(r"</?([a-z][a-z0-9]*)", re.IGNORECASE)
_NUMBER_BEFORE = re.compile(r"\(?\d\S*(?:\s|&nbsp;)*")


class Work:
    """The writing of one block."""

    def __init__(
        self, page: Page, habits: Habits, names: Mapping[int, str], remark: Remark, options: ContentsOptions
    ) -> None:
        self.page = page
        self.habits = habits
        self.names = names  # identifiers by section index
        self.remark = remark
        self.options = options

    def make(self, flat: Sequence[Section], sections: Sequence[Section]) -> Edit:
        """Return the edit that puts a new block in its place."""
        options, page, habits = self.options, self.page, self.habits
        slot = find_slot(page, flat, sections, options.spot, options.before, options.home)
        tag = "nav" if page.html5 else "div"
        label = options.label or contents_label(page.language)
        if options.label is None and options.home is not None:
            label = f"{label}: {flat[options.home].text}"
        classes = f"contents {BESIDE}" if options.spot is Spot.SIDE else "contents"
        start = habits.start(tag, class_=classes, aria_label=label if page.html5 else None)
        block = self._write_new(sections, slot.indent, start, habits.end(tag))
        gap = habits.newline if slot.own_line else ""
        if slot.own_line and follows_empty_line(page.text, slot.at):
            gap += habits.newline  # as its author parts blocks
        return Edit(slot.at, slot.at, slot.indent + block + gap, rank=1, reason="contents")

    def refresh(self, block: ContentsBlock, sections: Sequence[Section]) -> str:
        """Return the markup of a block brought up to date; what is right keeps the author's style."""
        listing = block.listing
        form = self.options.form or listing.form
        items, digests = self._items(block, sections)
        items = self._numbered(items)
        indent = listing.text[: len(listing.text) - len(listing.text.lstrip(" \t"))]
        if form is not listing.form or not listing.entries:
            return self._rewritten(block, items, form, indent, digests)
        remark = self.remark.write(digests)
        if form is Form.ROW:
            list_style = read_list_style(listing, self._usual(indent))
            if self.options.separator is not None and self.options.separator != list_style.separator:
                list_style, listing = (
                    replace(list_style, separator=self.options.separator),
                    replace(listing, entries=()),
                )
            body = Span(block.listing.entries[0].own.start, block.listing.entries[-1].own.end)
            text = write_row(items, list_style, listing if listing.entries else None)
        else:
            root = listing.root
            body = Span(root.open.start, root.end) if root else Span(0, 0)
            list_style = self._tagged(read_list_style(listing, self._usual(indent)))
            text = write_list(items, list_style)
            if root and block.span.start + root.open.start == block.made.element.open.start:
                return listing.text[: body.start] + _with_remark(text, list_style, remark) + listing.text[body.end :]
        edits = [Edit(body.start, body.end, text)]
        if block.remarked is not None:
            edits.append(Edit(block.remarked.start, block.remarked.end, remark))
        else:
            edits.append(self._new_remark(block, remark))
        return splice(block.listing.text, Span(0, len(block.listing.text)), edits)

    def _new_remark(self, block: ContentsBlock, remark: str) -> Edit:
        close = block.made.element.close
        text = block.listing.text
        if close is None:
            return Edit(len(text), len(text), remark, rank=9)
        at = close.start - block.span.start
        line = text[:at].rstrip(" \t")
        if line.endswith(("\n", "\r")):
            inside = line_indent(text, len(line.rstrip()))
            return Edit(len(line), len(line), inside + remark + self.habits.newline, rank=9)
        return Edit(at, at, remark, rank=9)

    def _usual(self, indent: str) -> ListStyle:
        tag = "ol" if self.options.ordered else "ul"
        separator = " | " if self.options.separator is None else self.options.separator
        return new_list_style(self.habits, indent + self.habits.indent, tag, escape(separator, quote=False))

    def _tagged(self, list_style: ListStyle) -> ListStyle:
        """Return a list's style with the kind of list that was asked for."""
        if self.options.ordered is None:
            return list_style
        tag = self.habits.tag("ol" if self.options.ordered else "ul")
        was = re.compile(r"^<\w+")
        return replace(
            list_style,
            root=was.sub(f"<{tag}", list_style.root),
            nested=was.sub(f"<{tag}", list_style.nested),
            list_end=f"</{tag}>",
        )

    def _write_new(self, sections: Sequence[Section], indent: str, start: str, end: str) -> str:
        items = self._numbered([self._new_item(section) for section in sections])
        digests = [word_digest(entry_words(section)) for section in sections]
        return self._framed(items, self.options.form or Form.LIST, indent, (start, end), digests)

    def _framed(
        self, items: Sequence[Item], form: Form, indent: str, frame: tuple[str, str], digests: Sequence[str]
    ) -> str:
        list_style = self._usual(indent)
        inner = write_row(items, list_style) if form is Form.ROW else write_list(items, list_style)
        lines = [
            frame[0],
            list_style.indent + inner,
            list_style.indent + self.remark.write(digests),
            indent + frame[1],
        ]
        return self.habits.newline.join(lines)

    def _rewritten(
        self, block: ContentsBlock, items: Sequence[Item], form: Form, indent: str, digests: Sequence[str]
    ) -> str:
        """Return a block whose entries are in another form; its own tags stay as they are."""
        element = block.made.element
        start = self.page.text[element.open.start : element.open.end]
        end = self.habits.end(element.tag) if element.close is None else element.close.of(self.page.text)
        return indent + self._framed(items, form, indent, (start, end), digests)

    def _numbered(self, items: Sequence[Item]) -> list[Item]:
        if not self.remark.numbered:
            return list(items)
        return [
            replace(item, markup=f"{number} {item.markup}")
            for item, number in zip(items, number_items(items), strict=True)
        ]

    def _items(self, block: ContentsBlock, sections: Sequence[Section]) -> tuple[list[Item], list[str]]:
        """Return the entries as they should be, and the digests of the headings that they are true to.

        An entry of the author's own, which leads elsewhere, stays behind the one that it was behind. One of ours
        leads elsewhere where its section went to another part of the page; its digest stays with it.
        """
        listed = {one.section: one for one in reversed(block.listed) if one.section is not None}
        followers = self._followers(block, {section.index for section in sections})
        digests: list[str] = []
        items = [self._item(block, one, sections[0].level) for one in followers.get(-1, [])]
        for section in sections:
            title = entry_words(section)
            one = listed.get(section.index)
            if one is None:
                digests.append(word_digest(title))
                items.append(self._new_item(section, self._usual_words(block)))
            else:
                state = judge_words(one.entry.words, title, block.remark)
                if state is not State.DOUBTED or section.index in self.options.kept:
                    digests.append(word_digest(title))
                items.append(self._kept(block, one, section, state))
            others = followers.get(section.index, [])
            items += [self._item(block, other, section.level) for other in others]
            digests += [word_digest(one.entry.words) for one in others if block.remark.knows(one.entry.words)]
        return items, digests

    def _followers(self, block: ContentsBlock, wanted: Collection[int]) -> dict[int, list[Listed]]:
        """Return the author's own entries, which lead elsewhere, by the section whose entry they are behind."""
        followers: dict[int, list[Listed]] = {}
        before = -1
        for one in block.listed:
            if one.state in (State.EXTRA, State.OPEN) and (one.section is None or one.section not in self.names):
                followers.setdefault(before, []).append(one)
            elif one.section is not None and one.section in wanted:
                before = one.section
        return followers

    def _kept(self, block: ContentsBlock, one: Listed, section: Section, state: State) -> Item:
        """Return an entry that is there, its address and words put right and its markup kept."""
        label = one.entry.label.of(block.listing.text)
        if not one.entry.linked:
            own = state is not State.STALE and not _tags(label) < _tags(entry_markup(self.habits, section))
            label = self._label(section, label if own else None)
            return self._item(block, one, section.level, label)
        if state is State.STALE or (state is State.RIGHT and _tags(label) < _tags(self._label(section))):
            label = relabelled(label, entry_markup(self.habits, section))
        if not one.leads:
            label = _led(label, self._address(section), self.habits)
        return self._item(block, one, section.level, label)

    def _item(self, block: ContentsBlock, one: Listed, level: int, label: str | None = None) -> Item:
        """Return an entry with what its author wrote around its label, but for a number."""
        text, entry = block.listing.text, one.entry
        before = text[entry.own.start : entry.label.start]
        if entry.number:
            before = _NUMBER_BEFORE.sub("", before, count=1)
        after = text[entry.label.end : entry.own.end]
        if one.section is not None and not self._is_row(block):
            before = before if self.options.prefix is None else escape(self.options.prefix, quote=False)
            after = after if self.options.suffix is None else escape(self.options.suffix, quote=False)
        markup = before + (entry.label.of(text) if label is None else label) + after
        return Item(markup, level, entry.opening, entry.ahead, entry.behind, one.position)

    def _new_item(self, section: Section, usual: tuple[str, str] = ("", "")) -> Item:
        """Return a new entry, with the fixed words around it that were asked for, or that the others have."""
        wished = (None, None) if self.options.form is Form.ROW else (self.options.prefix, self.options.suffix)
        prefix, suffix = (
            own if asked is None else escape(asked, quote=False) for own, asked in zip(usual, wished, strict=True)
        )
        return Item(prefix + self._label(section) + suffix, section.level)

    def _is_row(self, block: ContentsBlock) -> bool:
        return (self.options.form or block.listing.form) is Form.ROW

    def _usual_words(self, block: ContentsBlock) -> tuple[str, str]:
        """Return the words that are before and behind all entries alike; "" where they differ."""
        if self._is_row(block):
            return "", ""  # what is between the entries of a row is its separator
        text = block.listing.text
        entries = [one.entry for one in block.listed if one.section is not None]
        before = {
            _NUMBER_BEFORE.sub("", text[one.own.start : one.label.start], count=1)
            if one.number
            else text[one.own.start : one.label.start]
            for one in entries
        }
        after = {text[one.label.end : one.own.end] for one in entries}
        return (before.pop() if len(before) == 1 else ""), (after.pop() if len(after) == 1 else "")

    def _address(self, section: Section) -> str:
        return self.page.address_of(self.page.path, self.names[section.index])

    def _label(self, section: Section, words: str | None = None) -> str:
        """Return a new link to a section, saying what its heading says, or other words given as markup."""
        inner = entry_markup(self.habits, section) if words is None else words
        return f"{self.habits.start('a', href=self._address(section))}{inner}{self.habits.end('a')}"


def _with_remark(text: str, list_style: ListStyle, remark: str) -> str:
    """Return a list that is a block by itself with the remark as its last child."""
    at = len(text) - len(list_style.list_end)
    line = list_style.item_step + remark + list_style.newline + list_style.indent if list_style.newline else remark
    return text[:at] + line + text[at:]


def entry_markup(habits: Habits, section: Section) -> str:
    """Return a heading's entry with tags in the author's case; within it "<" only ever begins a tag."""
    markup = section.heading.entry
    return _KEPT.sub(lambda tag: tag[0].upper(), markup) if habits.upper_case else markup


def _tags(markup: str) -> set[str]:
    return {name.lower() for name in _KEPT.findall(markup)}


def relabelled(label: str, inner: str) -> str:
    """Return a link with other markup between its tags."""
    start = start_tag_end(label, 0)
    close = re.search(r"</a\s*>\s*$", label, re.IGNORECASE)
    return label[:start] + inner + (close[0] if close else "</a>")


def _led(label: str, address: str, habits: Habits) -> str:
    """Return a link with another address."""
    written = next((found for found in scan_attributes(label, 0) if found.name == "href"), None)
    if written is None:
        return label[:2] + " " + habits.attribute("href", address) + label[2:]
    return splice(label, Span(0, len(label)), [value_edit(label, written, address, "destination")])
