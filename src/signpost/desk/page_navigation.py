"""What the desk shows of a page's contents and jump links: what they list, what is offered, who points where."""

from __future__ import annotations

from dataclasses import dataclass
from uuid import UUID

from signpost.core.contents import ContentsBlock, Handmade, find_blocks, find_handmade, find_outdated
from signpost.core.jumps.offers import find_offers
from signpost.core.jumps.planning import find_pointers, find_words, read_origin
from signpost.core.page import Nodes, Page
from signpost.core.site.site import Site
from signpost.core.text.positions import Lines, Span, offset_at
from signpost.desk.new_links import LinkState, read_link
from signpost.desk.opening import opened
from signpost.store.database import Database


@dataclass(frozen=True, slots=True)
class EntryView:
    """An entry of contents."""

    section: int | None
    words: str
    state: str
    line: int


@dataclass(frozen=True, slots=True)
class ContentsView:
    """A contents block."""

    index: int
    line: int
    form: str
    ordered: bool
    numbered: bool
    beside: bool  # whether it is at the page's side
    adopted: bool  # whether it is a list that its author made by hand
    home: int | None  # the section whose sections alone it lists
    levels: tuple[int, ...]
    left_out: tuple[str, ...]  # identifiers
    entries: tuple[EntryView, ...]
    missing: tuple[int, ...]  # sections without an entry
    outdated: bool


@dataclass(frozen=True, slots=True)
class GuessView:
    """An entry of a list made by hand, and what it may mean."""

    words: str
    section: int | None
    sure: bool
    leads: bool  # whether its own address leads somewhere
    others: tuple[int, ...]


@dataclass(frozen=True, slots=True)
class HandmadeView:
    """A list made by hand that lists sections."""

    start: int
    line: int
    home: int | None
    levels: tuple[int, ...]
    missing: tuple[int, ...]  # sections of its levels that would get an entry
    guesses: tuple[GuessView, ...]


@dataclass(frozen=True, slots=True)
class OfferView:
    """Words that may want to be a jump link."""

    kind: str
    start: int
    end: int
    words: str
    line: int
    path: str  # of the page that they may lead to
    section: int
    title: str  # that section's
    home: int  # index of the section that the words are in; -1 for the lead
    sure: bool


@dataclass(frozen=True, slots=True)
class NavigationView:
    """A page's contents and what could become contents or jump links."""

    contents: tuple[ContentsView, ...]
    handmade: tuple[HandmadeView, ...]
    offers: tuple[OfferView, ...]


@dataclass(frozen=True, slots=True)
class OriginView:
    """What a jump link would be made of."""

    start: int
    end: int
    text: str
    link: int | None  # start of the link that it is already
    href: str | None
    button: bool  # whether it is a button
    state: LinkState | None  # what that link says now


@dataclass(frozen=True, slots=True)
class PointerView:
    """A link that leads to a section."""

    path: str
    line: int
    text: str
    in_furniture: bool


def view_navigation(site: Site, page: Page, lines: Lines, nodes: Nodes) -> NavigationView:
    """Return what there is to do about a page's contents and jump links."""
    blocks = find_blocks(page)
    outdated = {block.index for block, _ in find_outdated(page, blocks)}

    def offer_title(path: str, section: int) -> str:
        return site.pages[path].headings[section].text

    return NavigationView(
        contents=tuple(_view_block(block, lines, outdated=block.index in outdated) for block in blocks),
        handmade=tuple(_view_handmade(one, lines) for one in find_handmade(page, nodes)),
        offers=tuple(
            OfferView(
                offer.kind.value,
                offer.span.start,
                offer.span.end,
                offer.words,
                lines.line(offer.span.start),
                offer.path,
                offer.section,
                offer_title(offer.path, offer.section),
                page.section_at(offer.span.start),
                offer.sure,
            )
            for offer in find_offers(site, page.path, nodes)
        ),
    )


def _view_block(block: ContentsBlock, lines: Lines, *, outdated: bool) -> ContentsView:
    root = block.listing.root
    return ContentsView(
        index=block.index,
        line=lines.line(block.made.element.open.start),
        form=block.listing.form.value,
        ordered=root is not None and root.tag == "ol",
        numbered=block.remark.numbered,
        beside=block.is_beside,
        adopted=block.remark.adopted is not None,
        home=block.home,
        levels=block.remark.levels,
        left_out=block.remark.left_out,
        entries=tuple(
            EntryView(
                one.section, one.entry.words, one.state.value, lines.line(block.span.start + one.entry.label.start)
            )
            for one in block.listed
        ),
        missing=block.missing,
        outdated=outdated,
    )


def _view_handmade(one: Handmade, lines: Lines) -> HandmadeView:
    guesses = tuple(
        GuessView(entry.words, guess.section, guess.sure, guess.leads, guess.others)
        for entry, guess in zip(one.listing.entries, one.guesses, strict=True)
    )
    return HandmadeView(one.start, lines.line(one.start), one.home, one.levels, one.missing, guesses)


def origin_at(
    database: Database,
    site_id: UUID,
    path: str,
    *,
    element: int | None = None,
    words: str = "",
    occurrence: int = 0,
    place: tuple[int, int, int, int] | None = None,
) -> OriginView:
    """Return what a jump link would be made of.

    It is found by the words that an element shows, whose start tag begins at `element`; or by a line and a column to
    another line and column of the text as editors show it, all 1-based. Raises RequestError where no link can be.
    """
    with opened(database, site_id) as loaded:
        page = loaded.page(path)
        if element is not None:
            span = find_words(page, element, words, occurrence)
        else:
            line, column, end_line, end_column = place or (1, 1, 1, 1)
            span = Span(offset_at(page.text, line, column), offset_at(page.text, end_line, end_column))
        found = read_origin(page, span)
        button = found.button is not None
        state = None if found.link is None else read_link(loaded, page, found.link)
    return OriginView(found.span.start, found.span.end, found.text, found.link, found.href, button, state)


def pointers_of(database: Database, site_id: UUID, path: str, section: int) -> list[PointerView]:
    """Return the links of all pages that lead to a section, its own page's first; -1 stands for the top and lead."""
    with opened(database, site_id) as loaded:
        site = loaded.site
        loaded.pages.fetch(site.pages_linking_to(path))
        found = find_pointers(site, path).get(section, []) if path in site.pages else []
        found.sort(key=lambda one: (one.path != path, one.path, one.start))
        return [
            PointerView(one.path, site.pages[one.path].source.lines.line(one.start), one.text, one.in_furniture)
            for one in found
        ]
