"""Lists that an author made by hand and that list the page's sections: found, and adopted as contents."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, replace

from signpost.core.contents.blocks import Block, Listed, State, entry_words, find_blocks, spread
from signpost.core.contents.listing import LISTS, Form, IsTitle, Listing, read_listing
from signpost.core.contents.matching import SURE, Matcher, Meaning
from signpost.core.contents.phrases import contents_label
from signpost.core.contents.remark import Remark
from signpost.core.edits import Edit
from signpost.core.errors import RequestError
from signpost.core.habits import Habits
from signpost.core.outline import Section, read_outline
from signpost.core.page import Element, Node, Nodes, Page, read_nodes
from signpost.core.placing import block_end
from signpost.core.positions import Span, after_line_end, indent_before, line_start
from signpost.core.tags import value_edit

#: Elements that authors put such lists into.
_HOLDERS = LISTS | frozenset("dl table td th p div center nav aside blockquote font small".split())
_HEADINGS = frozenset("h1 h2 h3 h4 h5 h6".split())
_FRAMES = frozenset("nav div".split())
#: What heads a list of sections, in an element of its own, in the languages that we have words for.
_LINES = frozenset("p div center b strong font".split())
_TITLE = re.compile(
    r"(?:table of )?contents?|[oi]n this (?:page|document|section)|jump to|quick links|overview|index|"
    r"inhalt(?:sverzeichnis)?|auf dieser seite|sommaire|sur cette page|table des matières|inhoud|op deze pagina|"
    r"innehåll|på denna sida|indhold|innhold|sisällys|contenido|en esta página|indice|conteúdo|spis treści|obsah",
    re.IGNORECASE,
)
#: What parts plain words that stand in a row.
_SEPARATED = re.compile(r"[|·•►▸→]|&(?:middot|bull|raquo|rarr|#183|#8226);|<br\b|</t[dh]>|<p\b|<div\b", re.IGNORECASE)
#: Words beside its entries that a row may have, such as "Jump to:".
_SPARE_WORDS = 4
#: Entries that a list of plain words must have in common with the page's titles.
_PLAIN_MATCHES = 3
#: What becomes of an entry that means no section.
KEEP = -1
DROP = -2


@dataclass(frozen=True, slots=True)
class Handmade:
    """A list made by hand."""

    element: Element
    listing: Listing  # its offsets begin at `span.start`
    span: Span
    guesses: tuple[Meaning, ...]  # what its entries mean, in their order
    levels: tuple[int, ...]  # that it lists
    home: int | None  # index of the section whose sections alone it lists


def find_handmade(page: Page, nodes: Nodes | None = None) -> list[Handmade]:
    """Return the lists of the page's sections that an author made by hand, in source order."""
    flat = read_outline(page).flat()
    if len(flat) < 2:  # noqa: PLR2004
        return []
    nodes = nodes or read_nodes(page)
    matcher = Matcher(page, flat)
    titles = {entry_words(section).casefold() for section in flat}
    is_title = title_test(flat, matcher)
    ours = [*page.made_blocks("back-to-top"), *page.made_blocks("part-links"), *page.made_blocks("letters")]
    made = [spread(page, block.element) for block in ours]
    made += [block.span for block in find_blocks(page)]
    found = []
    for node in nodes.all:
        if node.tag in _HOLDERS and not _is_unfit(nodes, node, made) and _may_list(nodes, node, titles):
            one = _read(page, flat, matcher, node, is_title)
            if one is not None:
                found.append(one)
    return _innermost(found)


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


def _is_unfit(nodes: Nodes, node: Node, made: Sequence[Span]) -> bool:
    """Return whether an element holds headings or blocks that we made, or stands in one of those."""
    element = node.element
    if any(span.start < element.end and element.open.start < span.end for span in made):
        return True
    return any(below.tag in _HEADINGS for below in nodes.below(node))


def _may_list(nodes: Nodes, node: Node, titles: set[str]) -> bool:
    """Return whether an element is worth a closer look: it holds links, or plain words that are titles."""
    below = nodes.below(node)
    links = sum(one.tag == "a" for one in below)
    if links > 1 or (links and node.tag in LISTS):
        return True
    if node.tag not in LISTS and not _SEPARATED.search(nodes.inner(node).of(nodes.page.text)):
        return False
    words = node.text.casefold()
    least = _PLAIN_MATCHES - (node.tag in LISTS)  # others may be shortened
    return len(words) < sum(map(len, titles)) * 3 + 200 and sum(title in words for title in titles) >= least


def _read(page: Page, flat: Sequence[Section], matcher: Matcher, node: Node, is_title: IsTitle) -> Handmade | None:
    element = node.element
    span = spread(page, element)
    if node.tag in ("td", "th"):
        span = Span(element.open.end, element.close.start if element.close else element.end)
    listing = read_listing(span.of(page.text), is_title)
    entries = listing.entries
    if len(entries) < 2 or (listing.form is Form.ROW and _is_prose(node, listing)):  # noqa: PLR2004
        return None
    guesses = tuple(matcher.meaning(entry) for entry in entries)
    sure = [guess.section for guess in guesses if guess.section is not None and guess.sure]
    sections = set(sure)
    linked = sum(entry.linked for entry in entries)
    least = 2 if linked else _PLAIN_MATCHES
    if len(sections) < least or 2 * len(sure) < len(entries):
        return None
    if not linked and node.tag not in LISTS | {"p", "div", "nav", "center", "td"}:
        return None
    home = _home(flat, sections, element.open.start)
    if home is None and not _comes_first(flat, sections, element.open.start):
        return None
    return Handmade(element, listing, span, guesses, _levels(flat, sections, home), home)


def _is_prose(node: Node, listing: Listing) -> bool:
    if node.tag in ("dl", "table"):
        return False
    return listing.prose > max(_SPARE_WORDS, len(listing.entries))


def _home(flat: Sequence[Section], sections: set[int], start: int) -> int | None:
    """Return the section that a list stands in where all that it lists stands within that section."""
    holding = [one for one in flat if one.heading.begin <= start < one.end]
    for section in reversed(holding):
        if section.level > 1 and all(section.start < flat[index].start < section.end for index in sections):
            return section.index
    return None


def _comes_first(flat: Sequence[Section], sections: set[int], start: int) -> bool:
    """Return whether a list stands before what it lists, or lists most of the page."""
    before = sum(flat[index].start > start for index in sections)
    return 2 * before > len(sections) or 2 * len(sections) > len(flat)


def _levels(flat: Sequence[Section], sections: set[int], home: int | None) -> tuple[int, ...]:
    """Return the levels of which a list has at least half the sections."""
    within = [one for one in flat if home is None or flat[home].start < one.start < flat[home].end]
    whole = Counter(section.level for section in within)
    listed = Counter(flat[index].level for index in sections)
    levels = tuple(sorted(level for level, count in listed.items() if 2 * count >= whole[level]))
    return levels or (listed.most_common(1)[0][0],)


def _innermost(found: Sequence[Handmade]) -> list[Handmade]:
    """Return the lists that hold most, and of several that hold the same the innermost."""
    chosen: list[Handmade] = []
    for one in sorted(found, key=lambda one: (-_sure_count(one), one.span.end - one.span.start)):
        if all(one.span.end <= other.span.start or other.span.end <= one.span.start for other in chosen):
            chosen.append(one)
    return sorted(chosen, key=lambda one: one.span.start)


def _sure_count(one: Handmade) -> int:
    return sum(guess.sure for guess in one.guesses)


def frame_edits(page: Page, habits: Habits, handmade: Handmade) -> list[Edit]:
    """Return the edits that make a list made by hand a block: an element around it, or a class on its own."""
    element = handmade.element
    frame = element if element.tag in _FRAMES and handmade.listing.form is Form.ROW else _nav_around(page, element)
    label = contents_label(page.language) if page.html5 else None
    if frame is not None:
        return list(_marked(page, habits, frame, label))
    tag = "nav" if page.html5 else "div"
    start, end = habits.start(tag, class_="contents", aria_label=label), habits.end(tag)
    inside = element.tag in ("td", "th")
    titled = _title_before(page, element)
    first, last = (handmade.span.start, handmade.span.end) if inside else (titled, block_end(element))
    indent = None if inside else indent_before(page.text, first)
    below = after_line_end(page.text, last)
    if indent is None or below is None:
        return [Edit(first, first, start, reason="contents"), Edit(last, last, end, rank=-1, reason="contents")]
    above = line_start(page.text, first)
    return [
        Edit(above, above, indent + start + habits.newline, reason="contents"),
        Edit(below, below, indent + end + habits.newline, rank=-1, reason="contents"),
    ]


def _title_before(page: Page, element: Element) -> int:
    """Return where a list begins with the line that only heads it, such as “On this page”."""
    nodes = read_nodes(page)
    node = nodes.of(element)
    around = next(nodes.above(node), None) if node is not None else None
    before = [one for one in nodes.children(around) if one.start < element.open.start] if around else []
    if before and before[-1].tag in _LINES and _TITLE.fullmatch(before[-1].text):
        gap = page.text[before[-1].element.end : element.open.start]
        if not gap.strip():
            return before[-1].start
    return element.open.start


def _nav_around(page: Page, element: Element) -> Element | None:
    """Return the `nav` that holds nothing beside the list but words that head it."""
    nodes = read_nodes(page)
    node = nodes.of(element)
    around = next(nodes.above(node), None) if node is not None else None
    if around is None or around.tag != "nav" or sum(below.tag in LISTS for below in nodes.children(around)) > 1:
        return None
    return around.element


def _marked(page: Page, habits: Habits, frame: Element, label: str | None) -> Iterator[Edit]:
    start = frame.open.start
    written = page.attribute_at(start, "class")
    at = start + 1 + len(frame.tag)
    named = page.attribute_at(start, "aria-label") or page.attribute_at(start, "aria-labelledby")
    added = "" if named or label is None or frame.tag != "nav" else " " + habits.attribute("aria-label", label)
    if written is not None:
        classes = f"{written.value} contents".strip()
        yield value_edit(page.text, written, classes, "contents")
    else:
        added = " " + habits.attribute("class", "contents") + added
    if added:
        yield Edit(at, at, added, reason="contents")


def adopted_block(block: Block, handmade: Handmade, is_title: IsTitle, choices: Mapping[int, int]) -> Block:
    """Return a block whose entries mean what the author chose, or else what we are sure of.

    `choices` has a section's index, KEEP or DROP by the entry's position.
    """
    listing = read_listing(block.listing.text, is_title)
    if len(listing.entries) != len(handmade.guesses):
        raise RequestError(
            "The list cannot be told from what stands around it. Put it into an element of its own first."
        )
    listed = []
    for position, (entry, guess) in enumerate(zip(listing.entries, handmade.guesses, strict=True)):
        default = guess.section if guess.sure and guess.section is not None else KEEP
        choice = choices.get(position, default)
        if choice == DROP:
            listed.append(Listed(entry, position, None, leads=False, state=State.GONE))
        elif choice == KEEP:
            listed.append(Listed(entry, position, None, leads=guess.leads, state=State.EXTRA))
        else:
            leads = guess.leads and choice == guess.section
            listed.append(Listed(entry, position, choice, leads=leads, state=State.RIGHT))
    numbered = 2 * sum(bool(entry.number) for entry in listing.entries) > len(listing.entries)
    remark = Remark(handmade.levels, numbered=numbered, here=handmade.home is not None)
    return replace(block, listing=listing, remark=remark, home=handmade.home, listed=tuple(listed))
