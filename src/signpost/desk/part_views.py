"""Parts, their sections and the places where they may be cut, as the desk shows them."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from signpost.core.page import Page
from signpost.core.page.blocks import read_blocks
from signpost.core.page.lengths import Beyond, Limits, Stretch, judge_length, minutes, windows
from signpost.core.page.outline import read_outline
from signpost.core.parts.choosing import Proposal, Ruler
from signpost.core.parts.cuts import Cut, find_places
from signpost.core.parts.lengths import PartLength
from signpost.core.parts.options import PartOptions
from signpost.core.parts.whole import Whole, own_headings


@dataclass(frozen=True, slots=True)
class PartView:
    """A part that there is, or that chosen cuts would make."""

    number: int
    at: int  # offset of the cut it begins with, into the whole page
    path: str
    title: str
    titled: str  # the title its author gave it; "" where its heading gives it
    untitled: bool  # whether it begins without a heading and has no title yet
    words: int
    minutes: float
    windows: float
    share: float  # of the page's words, 0 to 1
    first: int | None  # index of the first section that begins in it; None for none
    last: int | None
    crossing: int  # jump links that lead across the cut
    beyond: Beyond  # which of the author's limits for parts it passes


@dataclass(frozen=True, slots=True)
class WholeSectionView:
    """A section of the whole page."""

    index: int
    level: int
    text: str
    identifier: str | None
    words: int
    own_words: int
    parent: int | None
    top: float  # CSS pixels
    height: float
    minutes: float
    windows: float
    share: float  # of the page's height, in percent
    beyond: Beyond  # which of the author's limits for sections it passes
    at: int | None  # where it can be cut off; None where the page cannot be cut before it
    page: str  # the file that has it now
    section: int  # its index on that page


@dataclass(frozen=True, slots=True)
class CutPlaceView:
    """A place where the page can be cut."""

    at: int
    top: float  # CSS pixels
    section: int | None  # that begins there
    within: int  # index of the section that a place between blocks is in; -1 for the lead
    text: str  # the first words behind it


@dataclass(frozen=True, slots=True)
class PartOptionsView:
    """How the page is cut, or would be."""

    links: tuple[str, ...]
    contents: str
    forward: tuple[str, ...]
    pattern: str
    raise_levels: bool


@dataclass(frozen=True, slots=True)
class PartsView:
    """A page in parts."""

    home: str  # path of the first part
    title: str
    in_parts: bool
    paths: tuple[str, ...]  # of the files that have the page now
    words: int
    minutes: float
    windows: float
    height: float  # CSS pixels
    view_height: float
    parts: tuple[PartView, ...]
    sections: tuple[WholeSectionView, ...]
    places: tuple[CutPlaceView, ...]
    options: PartOptionsView
    limits: Limits  # for parts
    outdated: int  # edits that would bring the parts up to date; 0 while other cuts are tried out
    moved: int  # identifiers that links to the first part are led on from


@dataclass(frozen=True, slots=True)
class ProposalView:
    """A way to cut the page."""

    choice: str
    parts: int
    cuts: tuple[int, ...]
    unevenness: float
    lower: int
    cost: float


def view_part(page: Page, one: PartLength, titles: Mapping[int, str], limits: Limits, view_height: float) -> PartView:
    """Return a part with its length, in words, minutes and windows."""
    part = one.part
    high = windows(one.height, view_height)
    return PartView(
        number=part.number,
        at=part.start,
        path=part.path,
        title=part.title,
        titled=part.titled,
        untitled=one.in_section and not titles.get(part.start, "").strip(),
        words=one.words,
        minutes=minutes(one.words),
        windows=high,
        share=one.words / max(page.words, 1),
        first=one.first_section,
        last=one.last_section,
        crossing=one.crossing,
        beyond=judge_length(limits, one.words, high),
    )


def view_sections(
    whole: Whole, stretches: Sequence[Stretch], limits: Limits, height: float, view_height: float
) -> tuple[WholeSectionView, ...]:
    """Return the sections of a page that is cut, each with the part that it is in."""
    page = whole.page
    places = {cut.section: cut.at for cut in find_places(page)}
    holders = _holders(whole)
    views = []
    for section, stretch in zip(read_outline(page).flat(), stretches[1:], strict=True):
        holder, local = holders[section.index]
        high = windows(stretch.height, view_height)
        views.append(
            WholeSectionView(
                index=section.index,
                level=section.level,
                text=section.text,
                identifier=section.identifier,
                words=section.words,
                own_words=section.own_words,
                parent=section.parent,
                top=stretch.top,
                height=stretch.height,
                minutes=minutes(section.words),
                windows=high,
                share=100 * stretch.height / max(height, 1.0),
                beyond=judge_length(limits, section.words, high),
                at=places.get(section.index),
                page=holder,
                section=local,
            )
        )
    return tuple(views)


def _holders(whole: Whole) -> list[tuple[str, int]]:
    """Return for each section the file that has it now, and its index there."""
    if whole.series is None:
        return [(whole.page.path, index) for index in range(len(whole.page.headings))]
    found = []
    for part in whole.series.parts:
        own = own_headings(part)
        first = len(part.headings) - len(own)
        found += [(part.path, first + index) for index in range(len(own))]
    return (found + [(whole.page.path, -1)] * len(whole.page.headings))[: len(whole.page.headings)]


def view_places(page: Page, ruler: Ruler) -> tuple[CutPlaceView, ...]:
    """Return the places of a page where it can be cut."""
    blocks = read_blocks(page)
    words = {block.start: block.text for block in blocks}
    starts = sorted(words)

    def text(cut: Cut) -> str:
        if cut.section is not None:
            return page.headings[cut.section].text
        return words[next(start for start in starts if start >= cut.at)]

    return tuple(
        CutPlaceView(cut.at, ruler.before(cut), cut.section, page.section_at(cut.at), text(cut))
        for cut in find_places(page)
    )


def view_options(options: PartOptions) -> PartOptionsView:
    """Return what parts are made with."""
    return PartOptionsView(
        tuple(sorted(options.links)),
        options.contents.value,
        tuple(sorted(options.forward)),
        options.pattern,
        options.raise_levels,
    )


def view_proposal(one: Proposal) -> ProposalView:
    """Return a way to cut a page, with what it costs."""
    cuts = tuple(cut.at for cut in one.cuts)
    return ProposalView(one.choice.value, len(cuts) + 1, cuts, one.unevenness, one.lower, one.cost)
