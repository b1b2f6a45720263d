"""What the desk shows of a page's headings and identifiers beside its sections: what could be better."""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Sequence
from dataclasses import dataclass
from functools import cache

from signpost.core.headings.levels import Repair, find_repairs
from signpost.core.headings.lookalikes import SURE, Lookalike, find_lookalikes
from signpost.core.headings.missing import Missing, find_missing
from signpost.core.headings.samples import find_raw_samples
from signpost.core.headings.wrapping import wrapped_sections
from signpost.core.identifiers.anchors import count_anchors, find_twice
from signpost.core.identifiers.places import worthy_nodes
from signpost.core.page import Nodes, Page
from signpost.core.page.outline import read_outline
from signpost.core.site.site import Site
from signpost.core.text.positions import Lines
from signpost.desk.settings import Settings


@dataclass(frozen=True, slots=True)
class LookalikeView:
    """A line that looks like a heading, as a row between those of the sections."""

    index: int  # among the page's look-alikes that are not refused
    text: str
    level: int
    score: int  # out of 100
    sure: bool
    reasons: tuple[str, ...]
    line: int
    start: int  # of the element that contains it
    before: int  # index of the section it is before; the count of sections for the end


@dataclass(frozen=True, slots=True)
class MissingView:
    """A place where a heading seems to be missing."""

    start: int  # of the block it would be before
    text: str  # the block's first words
    level: int
    reason: str
    line: int
    before: int  # as of a look-alike
    section: int  # that is without one so long; -1 for the lead


@dataclass(frozen=True, slots=True)
class RepairRow:
    """A heading before and after a repair."""

    text: str
    before: int  # level; 0 for a heading that is put in
    after: int


@dataclass(frozen=True, slots=True)
class RepairView:
    """A proposal for the page's levels."""

    code: str
    title: str
    does: str
    rows: tuple[RepairRow, ...]


@dataclass(frozen=True, slots=True)
class LinkPlace:
    """Where a link is."""

    page: str
    line: int


@dataclass(frozen=True, slots=True)
class TwiceView:
    """An identifier that several elements have."""

    name: str
    line: int  # of the one that links reach
    element: str
    others: tuple[int, ...]  # lines of the others
    links: tuple[LinkPlace, ...]  # that lead to it, from all pages


@dataclass(frozen=True, slots=True)
class StructureView:
    """What there is to do about a page's headings and identifiers."""

    lookalikes: tuple[LookalikeView, ...]
    sure_from: int  # the score, out of 100, from which on look-alikes count as sure
    refused: tuple[str, ...]  # keys of look-alikes that were refused
    missing: tuple[MissingView, ...]
    repairs: tuple[RepairView, ...]
    raw_samples: tuple[int, ...]  # lines
    wrapped: tuple[int, ...]  # indexes of sections in elements of their own
    anchors: int  # targets that are marked by the name of an anchor
    twice: tuple[TwiceView, ...]


def view_structure(site: Site, page: Page, settings: Settings, lines: Lines, nodes: Nodes) -> StructureView:
    """Return what there is to do about a page's headings and identifiers."""
    refused = settings.refused.get(page.path, ())
    lookalikes = find_lookalikes(page, refused, nodes)
    begun = {found.run.block.start for found in lookalikes}
    return StructureView(
        lookalikes=_view_lookalikes(page, lookalikes, lines, nodes),
        sure_from=SURE,
        refused=refused,
        missing=tuple(
            _view_missing(page, one, lines) for one in find_missing(page, settings.longest_run, begun, nodes)
        ),
        repairs=tuple(_view_repair(page, repair) for repair in find_repairs(page)),
        raw_samples=tuple(lines.line(sample.start) for sample in find_raw_samples(page, nodes)),
        wrapped=tuple(wrapped_sections(read_outline(page).flat())),
        anchors=count_anchors(page),
        twice=_view_twice(site, page, lines),
    )


def _following_section(page: Page, offset: int) -> int:
    """Return the index of the section that begins behind an offset; the count of sections where none does."""
    return bisect_right([heading.begin for heading in page.headings], offset)


def _view_lookalikes(
    page: Page, lookalikes: Sequence[Lookalike], lines: Lines, nodes: Nodes
) -> tuple[LookalikeView, ...]:
    worthy = {node.start for node in worthy_nodes(nodes)}
    return tuple(
        LookalikeView(
            index,
            one.text,
            one.level,
            one.score,
            one.sure,
            one.reasons,
            lines.line(one.start),
            one.start if one.start in worthy else one.run.block.start,
            _following_section(page, one.start),
        )
        for index, one in enumerate(lookalikes)
    )


def _view_missing(page: Page, one: Missing, lines: Lines) -> MissingView:
    block = one.block
    line = lines.line(block.start)
    following, section = _following_section(page, block.start), page.section_at(block.start)
    return MissingView(block.start, block.text, one.level, one.reason, line, following, section)


def _view_twice(site: Site, page: Page, lines: Lines) -> tuple[TwiceView, ...]:
    @cache
    def lines_of(path: str) -> Lines:
        return site.pages[path].source.lines

    return tuple(
        TwiceView(
            found.name,
            lines.line(found.indicated.start),
            found.indicated.element,
            tuple(lines.line(other.start) for other in found.others),
            tuple(LinkPlace(path, lines_of(path).line(start)) for path, start in found.links),
        )
        for found in find_twice(site, page.path)
    )


def _view_repair(page: Page, repair: Repair) -> RepairView:
    rows = [
        RepairRow(heading.text, heading.level, repair.levels.get(index, heading.level))
        for index, heading in enumerate(page.headings)
    ]
    if repair.words:
        rows.insert(0, RepairRow(repair.words, 0, 1))
    return RepairView(repair.code, repair.title, repair.does, tuple(rows))
