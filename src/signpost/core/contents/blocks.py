"""The contents blocks of a page as they are, and what is right or wrong with each entry."""

from __future__ import annotations

from collections.abc import Collection, Sequence
from dataclasses import dataclass, replace
from enum import StrEnum
from html import unescape

from signpost.core.addresses.links import LinkKind, classify_link, read_address
from signpost.core.contents.listing import ListEntry, Listing, read_listing
from signpost.core.contents.matching import Matcher, Meaning, is_shortening
from signpost.core.contents.phrases import heads_contents
from signpost.core.contents.remark import Remark, read_remark
from signpost.core.page import Element, Made, Page
from signpost.core.page.outline import Section, read_outline
from signpost.core.page.phrasing import collapse
from signpost.core.page.placing import block_end
from signpost.core.text.positions import Span, indent_before, line_start
from signpost.core.text.tags import without_markup

#: Levels that contents list where nobody says otherwise.
USUAL_LEVELS = (2, 3)
_UNLED = frozenset([LinkKind.NONE, LinkKind.PLACEHOLDER])

#: The class of contents that are at the page's side and stay in sight.
BESIDE = "beside"


class State(StrEnum):
    """What an entry is to its section."""

    RIGHT = "right"
    STALE = "stale"  # says what the heading used to say
    SHORTENED = "shortened"  # by the author; it stays
    DOUBTED = "doubted"  # shortened, and its heading has changed since
    GONE = "gone"  # leads nowhere, or to a section that is not listed here
    EXTRA = "extra"  # leads to something else; it stays
    OPEN = "open"  # leads nowhere yet: plain words or a placeholder; it stays


@dataclass(frozen=True, slots=True)
class Listed:
    """An entry and its section."""

    entry: ListEntry
    position: int  # among the entries
    section: int | None  # index; None for an entry without one
    leads: bool  # whether its own address leads there
    state: State


@dataclass(frozen=True, slots=True)
class ContentsBlock:
    """A contents block."""

    index: int  # among the page's contents, in source order
    made: Made
    span: Span  # of the block with its line's indent
    listing: Listing  # its offsets begin at `span.start`
    remark: Remark
    remarked: Span | None  # where the remark is in the listing's text; None where the block has none
    home: int | None  # index of the section whose sections alone it lists; None for the whole page
    listed: tuple[Listed, ...]
    missing: tuple[int, ...]  # sections that should have an entry and have none

    @property
    def is_beside(self) -> bool:
        """Whether it is at the page's side."""
        return BESIDE in self.made.classes


def find_contents(page: Page) -> Made | None:
    """Return the contents of the whole page, or the first there are; None where the page has none.

    A list of the author's that is called so counts, where it leads to places of its own page.
    """
    blocks = [made for made in page.made_blocks("contents") if _lists_sections(page, made)]
    return next((made for made in blocks if not _is_here(page, made)), blocks[0] if blocks else None)


def listed_identifiers(page: Page) -> list[str]:
    """Return the identifiers that the page's contents point to, in their order; [] where there are none."""
    made = find_contents(page)
    if made is None:
        return []
    return [link.href[1:] for link in made.links if link.href and link.href.startswith("#")]


def find_blocks(page: Page) -> list[ContentsBlock]:
    """Return the contents of a page that we made or adopted, in source order: those that carry a remark."""
    chosen = [(index, made) for index, made in enumerate(page.made_blocks("contents")) if _remark_of(page, made)]
    if not chosen:
        return []
    flat = read_outline(page).flat()
    matcher = Matcher(page, flat)
    return [_read_block(page, flat, matcher, index, block) for index, block in chosen]


def _remark_of(page: Page, made: Made) -> Remark | None:
    found = read_remark(page.text[made.element.open.end : block_end(made.element)])
    return None if found is None else found[0]


def _lists_sections(page: Page, made: Made) -> bool:
    """Return whether a block is one of ours by its remark, or leads to places of its own page."""
    return any(link.kind is LinkKind.FRAGMENT for link in made.links) or _remark_of(page, made) is not None


def _is_here(page: Page, made: Made) -> bool:
    found = _remark_of(page, made)
    return found is not None and found.here


def _read_block(page: Page, flat: Sequence[Section], matcher: Matcher, index: int, made: Made) -> ContentsBlock:
    span = whole_block_span(page, made.element)
    listing = read_listing(span.of(page.text))
    written = read_remark(listing.text)
    meanings = [_meaning(matcher, entry) for entry in listing.entries]
    remark = written[0] if written else Remark(USUAL_LEVELS)
    home = home_of(flat, made.element.open.start) if remark.here else None
    wanted = wanted_sections(page, flat, remark.levels, remark.left_out, home, made.element)
    meanings = _shared_out(listing.entries, meanings, wanted)
    wanted_indexes = {section.index for section in wanted}
    if remark.adopted:  # it lists what its author chose to list
        wanted_indexes |= {found.section for found in meanings if found.section is not None}
    listed = tuple(
        Listed(entry, position, found.section, found.leads, _state(flat, entry, found, remark, wanted_indexes))
        for position, (entry, found) in enumerate(zip(listing.entries, meanings, strict=True))
    )
    there = {one.section for one in listed}
    missing = tuple(section.index for section in wanted if section.index not in there)
    return ContentsBlock(index, made, span, listing, remark, written[1] if written else None, home, listed, missing)


def _state(
    flat: Sequence[Section], entry: ListEntry, meaning: Meaning, remark: Remark, wanted: Collection[int]
) -> State:
    if meaning.section is None:
        if meaning.leads:
            return State.EXTRA
        return State.OPEN if classify_link(entry.href) in _UNLED else State.GONE
    if meaning.section not in wanted:
        return State.GONE if flat[meaning.section].level in remark.levels else State.EXTRA
    state = judge_words(entry.words, entry_words(flat[meaning.section]), remark)
    return State.STALE if state is State.RIGHT and not meaning.leads else state


def _shared_out(
    entries: Sequence[ListEntry], meanings: Sequence[Meaning], wanted: Sequence[Section]
) -> list[Meaning]:
    """Return the meanings, each of another section where several have one identifier, in their order."""
    alike: dict[str, list[int]] = {}
    for section in wanted:
        if section.identifier:
            alike.setdefault(section.identifier, []).append(section.index)
    shared = []
    for entry, found in zip(entries, meanings, strict=True):
        name = read_address(entry.href or "").fragment
        rest = alike.get(name) if name and found.section is not None else None
        shared.append(replace(found, section=rest.pop(0)) if rest and found.leads else found)
    return shared


def _meaning(matcher: Matcher, entry: ListEntry) -> Meaning:
    """Return what an entry of contents means; what we would have to ask about means nothing."""
    found = matcher.meaning(entry)
    return found if found.sure else Meaning(None, leads=False, sure=False)


def judge_words(words: str, title: str, remark: Remark) -> State:
    """Return what an entry's words are to the words that its heading gives an entry."""
    if words == title:
        return State.RIGHT
    if remark.adopted and remark.knows(title):
        return State.SHORTENED  # the heading is as it was, so the words are the author's
    if not remark.digests:
        return State.SHORTENED if is_shortening(words, title) else State.STALE
    if not words or remark.knows(words):
        return State.STALE
    return State.SHORTENED if remark.knows(title) else State.DOUBTED


def entry_words(section: Section) -> str:
    """Return the words of the entry that a section gets."""
    return collapse(unescape(without_markup(section.heading.entry)))


def whole_block_span(page: Page, element: Element) -> Span:
    """Return an element's span, with its line's indent where it begins its line."""
    start = element.open.start
    if indent_before(page.text, start) is not None:
        start = line_start(page.text, start)
    return Span(start, block_end(element))


def home_of(flat: Sequence[Section], offset: int) -> int | None:
    """Return the index of the section that contains an offset; None for the lead."""
    before = [section.index for section in flat if section.heading.begin <= offset]
    return before[-1] if before else None


def wanted_sections(
    page: Page,
    flat: Sequence[Section],
    levels: Collection[int],
    left_out: Collection[str] = (),
    home: int | None = None,
    element: Element | None = None,
) -> list[Section]:
    """Return the sections that contents list, in source order.

    `home` is the section whose sections alone are listed; `element` holds the block, whose own heading is no entry.
    """
    own = _own_heading(page, flat, element) if element is not None and home is None else None
    within = flat if home is None else [one for one in flat if flat[home].start < one.start < flat[home].end]
    return [
        section
        for section in within
        if section.level in levels
        and section.index != own
        and section.identifier not in left_out
        and entry_words(section)
        and not (element is not None and _heads(section, element))
        and not (element is not None and _swallows(section, element))
    ]


def _heads(section: Section, element: Element) -> bool:
    """Return whether a section is headed as contents are and contains the block."""
    return section.start < element.open.start < section.end and heads_contents(section.text) and not section.sections


def _swallows(section: Section, element: Element) -> bool:
    """Return whether a heading contains a block, as one without an end tag does."""
    heading = section.heading.element
    return heading.open.start < element.open.start < heading.end


def _own_heading(page: Page, flat: Sequence[Section], element: Element) -> int | None:
    """Return the section that only heads the block: nothing but the block is in it."""
    index = home_of(flat, element.open.start)
    if index is None:
        return None
    section = flat[index]
    end = flat[index + 1].heading.begin if index + 1 < len(flat) else page.content.end
    before = page.text[section.heading.element.end : element.open.start]
    after = page.text[block_end(element) : end]
    return index if not without_markup(before).strip() and not without_markup(after).strip() else None
