"""A list of entries as it is in the source: a list of items, or links in a row, however its author wrote it."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, replace
from enum import StrEnum

from signpost.core.contents.remark import read_remark, without_remark
from signpost.core.page import Element, Node, read_markup
from signpost.core.page.phrasing import count_words, words_of
from signpost.core.text.positions import Span
from signpost.core.text.tags import COMMENT, MARKUP

#: Whether plain words are the title of a section.
IsTitle = Callable[[str], bool]

#: Elements whose items are entries; `menu` and `dir` are the lists of old (HTML 4.4.7, 16.2).
LISTS = frozenset("ul ol menu dir".split())

_NUMBER = re.compile(r"\(?(\d{1,3}(?:\.\d{1,3})*)[.):]?(?=\s|&nbsp;|$)(?:\s|&nbsp;)*")
_NUMBER_BEFORE = re.compile(r"(?<![\w.])\(?(\d{1,3}(?:\.\d{1,3})*)[.):]?(?:\s|&nbsp;)*$")
_LEADERS = re.compile(r"\s*(?:(?:\.{2,}|…|_{2,}|(?:\.\s){2,}\.?)\s*\d+|\.{4,})$")
#: Words between separators, some of which are written as character references.
_PIECE = re.compile(r"(?:&(?!(?:middot|bull|raquo|rarr|#183|#8226);)#?\w+;|&(?!#?\w+;)|[^&|·•;/►▸→])+")


class Form(StrEnum):
    """How the entries are."""

    LIST = "list"  # nested lists
    ROW = "row"  # one after another with something between them: a row, lines, cells


@dataclass(frozen=True, slots=True)
class ListEntry:
    """An entry; its offsets are those of the listing's text."""

    words: str  # of its label, white space collapsed
    depth: int  # 0 for the outermost list, and in a row
    own: Span  # what is the entry's alone: between its item's tags, nested lists left out; in a row its label
    label: Span  # its link, tags included, or its words where it has no link
    href: str | None  # None where it is not a link, or one without an address
    linked: bool  # whether its label is an `a` element
    number: str  # typed before the label; "" for none
    opening: str  # its item's start tag as written; "" in a row
    ahead: str = ""  # comments that its author wrote before its item
    behind: str = ""  # what its author wrote behind the list within its item

    @property
    def name(self) -> str:
        """Its words without a number before them and without leaders to a page number."""
        return _without_number(self.words)[0]


@dataclass(frozen=True, slots=True)
class Listing:
    """Entries, and the markup that they are in."""

    text: str
    form: Form
    entries: tuple[ListEntry, ...]
    root: Element | None  # the outermost list; None in a row
    nested: Element | None  # the first list within it
    closed: bool  # whether items have end tags
    prose: int  # words that belong to no entry


def read_listing(text: str, is_title: IsTitle | None = None) -> Listing:
    """Return the entries of a stretch of markup.

    In a list every item is an entry. In a row links are, and, where `is_title` says so, plain words between
    separators.
    """
    nodes = read_markup(text)
    lists = [node for node in nodes if node.tag in LISTS]
    items = [node for node in nodes if node.tag == "li" and any(above.tag in LISTS for above in _above(nodes, node))]
    if items:
        entries = tuple(_read_items(text, nodes, items))
        nested = next((node.element for node in lists[1:] if node.start < lists[0].element.end), None)
        closed = 2 * sum(item.element.close is not None for item in items) >= len(items)
        own = sum(count_words(entry.words) for entry in entries)
        prose = count_words(words_of(text)) - own
        return Listing(text, Form.LIST, entries, lists[0].element, nested, closed, prose)
    entries = tuple(_read_row(text, nodes, is_title))
    prose = count_words(words_of(text)) - sum(count_words(entry.words) for entry in entries)
    return Listing(text, Form.ROW, entries, None, None, True, prose)


def _above(nodes: Sequence[Node], node: Node) -> Iterator[Node]:
    while node.parent >= 0:
        node = nodes[node.parent]
        yield node


def _read_items(text: str, nodes: Sequence[Node], items: Sequence[Node]) -> Iterator[ListEntry]:
    at = items[0].start
    kept: list[str] = []  # what is behind lists, and so is ahead of no item
    for item in items:
        entry = _read_item(text, nodes, item)
        between = without_remark(text[at : item.start])
        for behind in kept:
            between = between.replace(behind, "")
        ahead = " ".join(COMMENT.findall(between))
        if entry is not None:
            behind = _behind(text, nodes, item)
            kept += [behind] if behind else []
            yield replace(entry, ahead=ahead, behind=behind) if ahead or behind else entry
            at = entry.own.end


def _behind(text: str, nodes: Sequence[Node], item: Node) -> str:
    """Return the markup behind the last list within an item; "" for none."""
    inner = [node for node in nodes[item.index + 1 : item.until] if node.tag in LISTS and node.parent == item.index]
    if not inner:
        return ""
    element = item.element
    end = element.close.start if element.close else element.end
    return without_remark(text[inner[-1].element.end : end]).strip()


def _read_item(text: str, nodes: Sequence[Node], item: Node) -> ListEntry | None:
    """Return the entry that an item of a list is; None for one that only contains a list."""
    element = item.element
    end = element.close.start if element.close else element.end
    inner = next((node for node in nodes[item.index + 1 : item.until] if node.tag in LISTS), None)
    if inner is not None:
        end = inner.start
    start = element.open.end
    own = text[start:end]
    remarked = read_remark(own)  # falls into the last item where that has no end tag
    end = start + len((own[: remarked[1].start] if remarked else own).rstrip())
    depth = sum(above.tag in LISTS for above in _above(nodes, item)) - 1
    opening = element.open.of(text)
    link = next((node for node in nodes[item.index + 1 : item.until] if node.tag == "a" and node.start < end), None)
    if link is not None and ("href" in link.attributes or not _names(link)):
        label = Span(link.start, link.element.end)
        number = _NUMBER.match(words_of(text[start : link.start]).strip())
        href = link.attributes.get("href")
        return ListEntry(link.text, depth, Span(start, end), label, href, True, number[1] if number else "", opening)
    label, words, typed = _bare_label(text, Span(start, end))
    return ListEntry(words, depth, Span(start, end), label, None, False, typed, opening) if words else None


def _names(link: Node) -> bool:
    return bool(link.attributes.get("name") or link.attributes.get("id"))


def _read_row(text: str, nodes: Sequence[Node], is_title: IsTitle | None) -> Iterator[ListEntry]:
    """Yield the entries of a row: its links, and between them words that are titles."""
    links = [node for node in nodes if node.tag == "a" and ("href" in node.attributes or not _names(node))]
    at = 0
    for link in links:
        if link.start < at:
            continue
        if is_title is not None:
            yield from _read_words(text, Span(at, link.start), is_title)
        before, at = at, link.element.end
        label = Span(link.start, at)
        typed = _NUMBER_BEFORE.search(text, before, link.start)
        own = Span(typed.start(), at) if typed else label
        number = typed[1] if typed else ""
        yield ListEntry(link.text, 0, own, label, link.attributes.get("href"), True, number, "")
    if is_title is not None:
        yield from _read_words(text, Span(at, len(text)), is_title)


def _read_words(text: str, span: Span, is_title: Callable[[str], bool]) -> Iterator[ListEntry]:
    at = span.start
    for token in (*MARKUP.finditer(text, span.start, span.end), None):
        run_end = token.start() if token else span.end
        for piece in _PIECE.finditer(text, at, run_end):
            label, words, typed = _bare_label(text, Span(piece.start(), piece.end()))
            if words and is_title(words):
                start = piece.start() + len(piece[0]) - len(piece[0].lstrip())
                yield ListEntry(words, 0, Span(start, label.end), label, None, False, typed, "")
        at = token.end() if token else span.end


def _bare_label(text: str, span: Span) -> tuple[Span, str, str]:
    """Return where the words of an entry without a link stand, those words, and the number typed before them."""
    inner = span.of(text)
    start = span.start + len(inner) - len(inner.lstrip())
    end = max(start, span.start + len(inner.rstrip()))
    words, typed = _without_number(words_of(text[start:end]))
    written = _NUMBER.match(text, start) if typed else None
    start = written.end() if written else start
    return Span(start, end), words, typed


def _without_number(words: str) -> tuple[str, str]:
    """Return an entry's words without a number before them or leaders behind, and that number."""
    words = _LEADERS.sub("", words)
    number = _NUMBER.match(words)
    if number and number.end() < len(words) and not words[: number.end()].strip().isdigit():
        return words[number.end() :], number[1]
    return words, ""
