"""Lists that an author made by hand and that list the page's sections: recognised, and told from all that is none.

A list is contents only if nearly all its entries are a jump link and nothing but that, and most lead to sections of
the page: a number, a page number or a list within may be beside. Definition lists with text, glossaries, prose and
the site's navigation are not, whatever they link to; what is not recognised here is never touched.
"""

from __future__ import annotations

import re
from bisect import bisect_left, bisect_right
from collections import Counter
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass, replace
from itertools import accumulate, chain, pairwise

from signpost.core.addresses.links import LinkKind, classify_link
from signpost.core.contents.blocks import entry_words, find_blocks, wanted_sections, whole_block_span
from signpost.core.contents.listing import LISTS, Form, IsTitle, ListEntry, Listing, read_listing
from signpost.core.contents.matching import SURE, Matcher, Meaning
from signpost.core.contents.phrases import heads_contents
from signpost.core.page import Element, Node, Nodes, Page, read_nodes
from signpost.core.page.outline import Section, read_outline
from signpost.core.page.phrasing import PHRASING, words_of
from signpost.core.text.positions import Span

#: Elements that authors put such lists into.
_HOLDERS = LISTS | frozenset("dl table td th p div center nav aside blockquote".split())
#: Elements that contain rows which are in no element of their own.
_BOXES = frozenset("body div td th center section article main".split())
_INLINE = PHRASING | {"img", "br", "wbr"}
_HEADINGS = frozenset("h1 h2 h3 h4 h5 h6".split())
_WORD = re.compile(r"\w+")
_LETTERS = re.compile(r"[^\W\d_]")
#: What may be beside an entry: its number or letter, and the page that it is on in print.
_BESIDE = re.compile(
    r"""\W* (?:(?:chapter|section|part|appendix|kapitel|teil|abschnitt|chapitre|partie)\s+)?
    (?:[\divxlcIVXLC]+(?:\.[\divxlc]+)*|[a-zA-Z]|\d+(?:\.\d+)*[a-z]?)? \W*
    (?:(?:p|pp|page|s|seite)\.?\s*)? (?:\d+|[ivxlc]+)? \W*""",
    re.VERBOSE | re.IGNORECASE,
)
_BREAKS = re.compile(r"(?:\s|<br\b[^>]*>)*", re.IGNORECASE)
_BREAK = re.compile(r"<br\b[^>]*>", re.IGNORECASE)
#: What parts plain words that are in a row.
_SEPARATED = re.compile(
    r"[|·•►▸→]|(?<!<)/(?!>)|&(?:middot|bull|raquo|rarr|#183|#8226);|<br\b|</t[dh]>|<p\b|<div\b", re.IGNORECASE
)
#: Words before a row, such as "Jump to:".
_LABEL_WORDS = 5
#: Letters beside its links, beyond twice theirs, that an element may have to be looked at closely.
_SPARE_LETTERS = 300
#: Entries that a list of plain words must have in common with the page's titles.
_PLAIN_MATCHES = 3
#: Share of entries that must be nothing but a jump link; of short lists, all but one.
_NEARLY_ALL = 0.85
#: Share of entries that must be in the order of their sections.
_IN_ORDER = 0.6
_FEW = 5
#: Pieces of a row beyond which it is not a row of jump links.
_MOST_ENTRIES = 2000
#: Titles of boxes in the text.
_BOX_TITLES = frozenset("note notes tip tips hint warning caution important danger attention hinweis achtung".split())
_FEWEST_ENTRIES = 2


@dataclass(frozen=True, slots=True)
class Handmade:
    """A list made by hand."""

    element: (
        Element | None
    )  # that contains the list and nothing else; None for a row that is in no element of its own
    listing: Listing  # its offsets begin at `span.start`
    span: Span
    guesses: tuple[Meaning, ...]  # what its entries mean, in their order
    levels: tuple[int, ...]  # that it lists
    home: int | None  # index of the section whose sections alone it lists
    missing: tuple[int, ...]  # sections of its levels that have no entry in any list
    elsewhere: tuple[int, ...] = ()  # sections of its levels that another list has an entry for

    @property
    def start(self) -> int:
        """Where it begins: its element's start tag, or its first entry."""
        return (
            self.span.start + self.listing.entries[0].own.start if self.element is None else self.element.open.start
        )


def find_handmade(page: Page, nodes: Nodes | None = None) -> list[Handmade]:
    """Return the lists of the page's sections that an author made by hand, in source order."""
    flat = read_outline(page).flat()
    if len(flat) < 2:  # noqa: PLR2004
        return []
    return _Search(page, nodes or read_nodes(page), flat).find()


def find_main_handmade(page: Page, nodes: Nodes | None = None) -> Handmade | None:
    """Return the list that lists most of the whole page; None where there is none."""
    whole = [one for one in find_handmade(page, nodes) if one.home is None]
    return max(whole, key=_sure_count, default=None)


def title_test(flat: Sequence[Section], matcher: Matcher) -> IsTitle:
    """Return what tells whether plain words are the title of one of the page's sections."""
    titles = {entry_words(section).casefold() for section in flat}
    longest = 2 * max(map(len, titles), default=0)

    def is_title(words: str) -> bool:
        if len(words) > longest:
            return False
        return words.casefold() in titles or any(likeness >= SURE for _, likeness in matcher.by_words(words)[:1])

    return is_title


def _by_first_word(titles: Iterable[str]) -> dict[str, list[str]]:
    """Return titles by the word that they begin with."""
    found: dict[str, list[str]] = {}
    for title in titles:
        first = _WORD.search(title)
        if first is not None:
            found.setdefault(first[0], []).append(title)
    return found


class _Search:
    """The search of one page."""

    def __init__(self, page: Page, nodes: Nodes, flat: Sequence[Section]) -> None:
        self.page = page
        self.nodes = nodes
        self.flat = flat
        self.matcher = Matcher(page, flat)
        self.titles = _by_first_word({entry_words(section).casefold() for section in flat})
        self.room = sum(map(len, chain.from_iterable(self.titles.values()))) * 3 + 200
        self.is_title = title_test(flat, self.matcher)
        ours = [*page.made_blocks("back-to-top"), *page.made_blocks("part-links"), *page.made_blocks("letters")]
        self.made = [whole_block_span(page, block.element) for block in ours]
        self.made += [block.span for block in find_blocks(page)]
        self._jumps: dict[str | None, bool] = {}  # addresses that were asked about
        self.headings = [node.start for node in nodes.all if node.tag in _HEADINGS]
        self.links = [node.index for node in nodes.all if node.tag == "a"]
        links = [nodes.all[index] for index in self.links]
        #: Of the links up to each: how many are jumps, and how many letters they have.
        self.jumps_until = [0, *accumulate(self._is_jump(link.attributes.get("href")) for link in links)]
        self.letters_until = [0, *accumulate(len(link.text) for link in links)]
        self.blocks = [node.index for node in nodes.all if node.tag not in _INLINE]

    def find(self) -> list[Handmade]:
        found: list[Handmade] = []
        for node in self.nodes.all:
            if node.tag in _HOLDERS and not self._is_unfit(node) and self._may_list(node):
                found += self._within(node)
            if node.tag in _BOXES or (node.tag in PHRASING and not self._is_inline(node)):
                found += self._bare_rows(node)
        return _shared_out(_innermost(found))

    # ---------------------------------------------------------------- candidates

    def _is_unfit(self, node: Node) -> bool:
        """Return whether an element contains headings or blocks that we made, or is in one of those."""
        element = node.element
        at = bisect_left(self.headings, element.open.start)
        if at < len(self.headings) and self.headings[at] < element.end:
            return True
        return self._in_made(Span(element.open.start, element.end))

    def _in_made(self, span: Span) -> bool:
        return any(made.start < span.end and span.start < made.end for made in self.made)

    def _may_list(self, node: Node) -> bool:
        """Return whether an element is worth a closer look: it contains links, or plain words that are titles."""
        first, behind = self._links_within(node)
        if behind - first > 1 or (behind > first and node.tag in LISTS):
            if 2 * (self.jumps_until[behind] - self.jumps_until[first]) < behind - first:
                return False
            letters = self.letters_until[behind] - self.letters_until[first]
            return 2 * letters + _SPARE_LETTERS >= len(node.text)
        if node.tag not in LISTS:
            return self._names_titles(node, 3) and bool(_SEPARATED.search(self.nodes.inner(node).of(self.page.text)))
        return self._names_titles(node, 2)  # others may be shortened

    def _names_titles(self, node: Node, least: int) -> bool:
        if len(node.text) >= self.room:
            return False
        words = node.text.casefold()
        likely = (self.titles.get(word, ()) for word in set(_WORD.findall(words)))
        return sum(title in words for title in chain.from_iterable(likely)) >= least

    def _within(self, node: Node) -> Iterator[Handmade]:
        element = node.element
        if node.tag in LISTS and self._is_sublist(node):
            return
        span = whole_block_span(self.page, element)
        if node.tag in ("td", "th"):
            span = self.nodes.inner(node)
        yield from self._read(element, span)

    def _is_sublist(self, node: Node) -> bool:
        """Return whether a list is a piece of a larger list of jump links."""
        outer = next((above for above in reversed([*self.nodes.above(node)]) if above.tag in LISTS), None)
        if outer is None:
            return False
        links = [below for below in self._links_below(outer) if "href" in below.attributes]
        return 2 * sum(self._is_jump(link.attributes["href"]) for link in links) >= len(links)

    def _bare_rows(self, box: Node) -> Iterator[Handmade]:
        """Yield the rows that are right in a box, between its blocks."""
        inner = self.nodes.inner(box)
        start, end = max(inner.start, self.page.content.start if box.tag == "body" else 0), inner.end
        at, links = start, 0
        children = [child for child in self.nodes.children(box) if start <= child.start < end]
        before: Node | None = None
        for child in [*children, None]:
            parted = child is not None and self._parts_rows(child, before)
            before = child
            if child is not None and self._is_inline(child) and not parted:
                links += child.tag == "a" or _is_any_below(self.links, child)
                continue
            if links > 1:
                run = _without_breaks(self.page.text, Span(at, end if child is None else child.start))
                whole = box.tag in _HOLDERS and run == _without_breaks(self.page.text, inner)
                if not whole and not self._in_made(run):
                    yield from self._read(None, run)
            stop = end if child is None else child.start
            at, links = (stop if child is None else child.element.end), 0

    def _parts_rows(self, node: Node, before: Node | None) -> bool:
        """Return whether a row ends here: at an empty line, or at words in bold that head what follows."""
        if node.tag == "br" and before is not None and before.tag == "br":
            return not self.page.text[before.element.end : node.start].strip()
        heads = node.tag in ("b", "strong") and bool(node.text)
        return heads and not _is_any_below(self.links, node)

    def _is_inline(self, node: Node) -> bool:
        """Return whether an element is in a line with others, and contains nothing that does not."""
        return node.tag in _INLINE and not _is_any_below(self.blocks, node)

    def _links_within(self, node: Node) -> tuple[int, int]:
        """Return which of all links are within an element: the first one, and the one behind the last."""
        return bisect_right(self.links, node.index), bisect_left(self.links, node.until)

    def _links_below(self, node: Node) -> list[Node]:
        first, behind = self._links_within(node)
        return [self.nodes.all[index] for index in self.links[first:behind]]

    # ---------------------------------------------------------------- judging

    def _read(self, element: Element | None, span: Span) -> Iterator[Handmade]:
        listing = read_listing(span.of(self.page.text), self.is_title)
        entries = listing.entries
        if not _FEWEST_ENTRIES <= len(entries) <= _MOST_ENTRIES or not self._is_all_entries(listing):
            return
        if _words_outside(listing):
            return
        guesses = tuple(self.matcher.meaning(entry) for entry in entries)
        sure = [guess.section for guess in guesses if guess.section is not None and guess.sure]
        sections = set(sure)
        linked = sum(entry.linked for entry in entries)
        least = 2 if linked else _PLAIN_MATCHES
        if len(sections) < least or not _in_order(sure):
            return
        if 2 * len(sections) <= len(entries) and len(sections) < max(_NEARLY_ALL * len(self.flat), _FEW):
            return
        start = span.start if element is None else element.open.start
        home = _home(self.flat, sections, start)
        if home is None and not _comes_first(self.flat, sections, start):
            return
        levels = _levels(self.flat, sections, home)
        wanted = wanted_sections(self.page, self.flat, levels, (), home, element)
        first = start if all(self.flat[one].start > start for one in sections) else 0
        missing = tuple(one.index for one in wanted if one.index not in sections and _is_missed(one, first))
        yield Handmade(element, listing, span, guesses, levels, home, missing)

    def _is_all_entries(self, listing: Listing) -> bool:
        """Return whether nearly all entries are a jump link, or a title, and nothing but that."""
        other = sum(not self._is_plain_entry(listing, entry) for entry in listing.entries)
        return other <= max(1 if len(listing.entries) > 2 else 0, (1 - _NEARLY_ALL) * len(listing.entries))  # noqa: PLR2004

    def _is_plain_entry(self, listing: Listing, entry: ListEntry) -> bool:
        if not entry.linked:
            return self.is_title(entry.name)
        if listing.form is Form.LIST:
            around = (
                Span(entry.own.start, entry.label.start).of(listing.text),
                Span(entry.label.end, entry.own.end).of(listing.text),
                entry.behind,
            )
            if not all(_BESIDE.fullmatch(words_of(markup)) for markup in around):
                return False
        return self._is_jump(entry.href)

    def _is_jump(self, href: str | None) -> bool:
        """Return whether an address leads to a place on this page, or was meant to."""
        if href not in self._jumps:
            self._jumps[href] = self._leads_here(href)
        return self._jumps[href]

    def _leads_here(self, href: str | None) -> bool:
        if classify_link(href) in (LinkKind.FRAGMENT, LinkKind.PLACEHOLDER, LinkKind.NONE):
            return True
        found = self.page.resolve(href or "")
        meant = self.matcher.by_address(href)
        return (found is not None and found[0] == self.page.path) or meant.section is not None


def _is_any_below(indices: Sequence[int], node: Node) -> bool:
    """Return whether one of some nodes, by their sorted indices, is below a node."""
    at = bisect_right(indices, node.index)
    return at < len(indices) and indices[at] < node.until


def _words_outside(listing: Listing) -> bool:
    """Return whether words are between a row's entries or around a list, other than a short line that heads it."""
    text, entries = listing.text, listing.entries
    if listing.form is Form.LIST:
        inside = sum(len(words_of(Span(entry.own.start, entry.own.end).of(text)).split()) for entry in entries)
        outside = len(words_of(text).split()) - inside
        return outside > _LABEL_WORDS
    before = words_of(text[: entries[0].own.start])
    between = [words_of(text[one.own.end : other.own.start]) for one, other in pairwise(entries)]
    after = words_of(text[entries[-1].own.end :])
    heads = not _LETTERS.search(before) or heads_contents(before.rstrip(" :"))
    label = len(before.split()) <= _LABEL_WORDS and (before.endswith((":", "»", ">", "→")) or _numbers(before))
    commas = any("," in gap or ";" in gap for gap in between)
    sentence = after.startswith(".") and commas
    return not (heads or label) or sentence or not all(_numbers(gap) for gap in (*between, after))


def _numbers(words: str) -> bool:
    """Return whether a stretch contains nothing but separators, and the numbers of the entries beside it."""
    return _BESIDE.fullmatch(words) is not None


def _without_breaks(text: str, span: Span) -> Span:
    """Return a stretch without white space and line breaks at its ends."""
    first = _BREAKS.match(text, span.start, span.end)
    start, end = (first.end() if first else span.start), span.end
    while end > start:
        tag = text.rfind("<", start, end)
        if text[end - 1].isspace():
            end -= 1
        elif tag >= 0 and _BREAK.fullmatch(text, tag, end):
            end = tag
        else:
            break
    return Span(start, max(start, end))


def _in_order(sections: Sequence[int]) -> bool:
    """Return whether most entries are in the order of their sections; of a few, any order will do."""
    rising: list[int] = []  # ends of the longest rising runs, by their lengths
    for section in sections:
        at = bisect_left(rising, section)
        rising[at : at + 1] = [section]
    return len(sections) < _FEW or len(rising) >= _IN_ORDER * len(sections)


def _home(flat: Sequence[Section], sections: set[int], start: int) -> int | None:
    """Return the section that a list is in where all that it lists is within that section."""
    holding = [one for one in flat if one.heading.begin <= start < one.end]
    for section in reversed(holding):
        if section.level > 1 and all(section.start < flat[index].start < section.end for index in sections):
            return section.index
    return None


def _is_missed(section: Section, first: int) -> bool:
    """Return whether a section belongs in a list: not before it, where all others are behind; no box in the text."""
    return section.start >= first and not is_box(section.text)


def is_box(title: str) -> bool:
    """Return whether a title is that of a box in the text, which is no section that anybody looks for."""
    return title.casefold().strip(":! ") in _BOX_TITLES


def _comes_first(flat: Sequence[Section], sections: set[int], start: int) -> bool:
    """Return whether a list is before what it lists, or lists most of the page."""
    before = sum(flat[index].start > start for index in sections)
    return 2 * before > len(sections) or 2 * len(sections) > len(flat)


def _levels(flat: Sequence[Section], sections: set[int], home: int | None) -> tuple[int, ...]:
    """Return the levels of which a list has at least half the sections."""
    within = [one for one in flat if home is None or flat[home].start < one.start < flat[home].end]
    whole = Counter(section.level for section in within)
    listed = Counter(flat[index].level for index in sections)
    levels = tuple(sorted(level for level, count in listed.items() if 2 * count >= whole[level]))
    return levels or (listed.most_common(1)[0][0],)


def _shared_out(found: Sequence[Handmade]) -> list[Handmade]:
    """Return the lists, none of which lacks a section that another one has an entry for."""
    listed = {guess.section for one in found if one.home is None for guess in one.guesses if guess.sure}
    return [
        replace(
            one,
            missing=tuple(section for section in one.missing if section not in listed),
            elsewhere=tuple(section for section in one.missing if section in listed),
        )
        if one.home is None
        else one
        for one in found
    ]


def _innermost(found: Sequence[Handmade]) -> list[Handmade]:
    """Return the lists that contain most, and of several that contain the same the innermost."""
    chosen: list[Handmade] = []
    for one in sorted(found, key=lambda one: (-_sure_count(one), one.span.end - one.span.start)):
        if all(one.span.end <= other.span.start or other.span.end <= one.span.start for other in chosen):
            chosen.append(one)
    return sorted(chosen, key=lambda one: one.span.start)


def _sure_count(one: Handmade) -> int:
    return sum(guess.sure for guess in one.guesses)
