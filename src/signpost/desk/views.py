"""What the screens show of a page, computed from the core."""

from __future__ import annotations

from collections import Counter
from dataclasses import dataclass

from signpost.core.addresses.fragments import find_indicated
from signpost.core.addresses.links import full_address
from signpost.core.back_to_top.links import find_back_links
from signpost.core.back_to_top.planning import has_back_link
from signpost.core.contents import listed_identifiers
from signpost.core.contents.own import has_contents
from signpost.core.identifiers.sections import judge_existing, propose_identifiers
from signpost.core.page import Link, Page, Target, read_nodes
from signpost.core.page.habits import read_habits
from signpost.core.page.lengths import WINDOW_HEIGHT, estimate_page, estimate_stretches, minutes, windows
from signpost.core.page.outline import Section, read_outline
from signpost.core.parts.cuts import find_cuts
from signpost.core.parts.phrases import SUFFIX
from signpost.core.parts.series import series_of
from signpost.core.site.site import Resolved, Site
from signpost.core.text.errors import EncodingError
from signpost.core.text.positions import Lines
from signpost.desk.finding_views import FindingView
from signpost.desk.page_navigation import NavigationView, view_navigation
from signpost.desk.settings import Settings
from signpost.desk.stages import StageView, describe_page, view_stages
from signpost.desk.structure import StructureView, view_structure


@dataclass(frozen=True, slots=True)
class SectionView:
    """A section as a row of the ledger and a stretch of the road."""

    index: int
    level: int
    text: str
    identifier: str | None
    proposed: str | None  # the identifier it would get; None where it has one
    weakness: str  # what makes its identifier hard to use; "" for nothing
    better: str | None  # an identifier that would be better than the one it has
    line: int  # of its heading, 1-based
    end_line: int  # its last one
    words: int  # sections within included
    own_words: int
    parent: int | None
    listed: bool  # in the page's contents
    back_link: bool
    can_cut: bool  # whether a part may begin here
    links_in: int  # jump links that lead to it, from all pages
    top: float  # CSS pixels from the page's top
    height: float  # CSS pixels, sections within included


@dataclass(frozen=True, slots=True)
class LinkView:
    """A link, and where it leads."""

    start: int  # offset of its start tag
    line: int
    text: str
    href: str | None
    kind: str
    resolves: bool | None  # None: it leads out of the site
    section: int  # that it is in; -1 for the lead
    in_furniture: bool
    made: bool  # whether it is in a block that we made
    to_page: str | None
    to_section: int | None  # -1 for the top or the lead; None where it leads to no page of the site
    to_top: bool  # whether it leads to a page's top itself
    to_text: str  # the title of the section or page that it leads to; "" for none of the site
    address: str  # in full, as far as the site's own address is known


@dataclass(frozen=True, slots=True)
class HandView:
    """How a page's author writes."""

    indent: str  # one step of nested markup; "" where that is not indented
    capitals: bool  # whether tags are in capitals


@dataclass(frozen=True, slots=True)
class PartOfView:
    """Which part of which page a page is."""

    number: int
    count: int
    home: str  # path of the first part
    title: str  # of the whole page
    missing: tuple[int, ...]  # parts that cannot be found


@dataclass(frozen=True, slots=True)
class PageView:
    """A page on its desk."""

    path: str
    title: str | None
    revision: str  # SHA-256 of its bytes
    encoding: str
    newline: str
    lines: int
    locked: str | None  # why it cannot be edited; None where it can
    hand: HandView
    words: int
    lead_words: int
    minutes: float
    windows: float  # an estimate, as all heights here are
    height: float  # CSS pixels
    window_height: int  # CSS pixels
    has_contents: bool
    back_links: int
    back_links_by_hand: int
    part: PartOfView | None  # of which page it is a part; None for a page in one piece
    sections: tuple[SectionView, ...]
    links: tuple[LinkView, ...]
    findings: tuple[FindingView, ...]
    structure: StructureView
    navigation: NavigationView
    stages: tuple[StageView, ...]  # those that a measured page tells are in its MeasureView
    account: str  # what the page is now, in a few words
    is_arriving: bool = (
        False  # whether the site is still being read, so that what needs other pages is not judged yet
    )


def view_page(
    site: Site, page: Page, settings: Settings, findings: tuple[FindingView, ...], *, is_arriving: bool = False
) -> PageView:
    """Return a page as its desk shows it, with what is wrong on it. `site` contains the page.

    `is_arriving`, the other pages are not read yet.
    """
    outline = read_outline(page)
    lines = page.source.lines
    nodes, habits = read_nodes(page), read_habits(page)
    height = estimate_page(page)
    made = frozenset(link.start for block in page.made for link in block.links)
    back_links = find_back_links(page)
    sections = _view_sections(site, page, settings, lines)
    links = tuple(_view_link(site, page, link, lines, made) for link in page.links)
    structure = view_structure(site, page, settings, lines, nodes)
    navigation = view_navigation(site, page, lines, nodes)
    broken = [link for link in links if _is_broken_in_text(link, page.path)]
    locked = None
    if page.source.damage is not None:
        locked = str(EncodingError(page.source.encoding, page.source.damage))
    return PageView(
        path=page.path,
        title=page.title,
        revision=page.source.sha256,
        encoding=page.source.encoding,
        newline=page.source.newline,
        lines=len(lines),
        locked=locked,
        hand=HandView(habits.indent, habits.upper_case),
        words=page.words,
        lead_words=outline.lead_words,
        minutes=minutes(page.words),
        windows=windows(height),
        height=height,
        window_height=WINDOW_HEIGHT,
        has_contents=has_contents(page),
        back_links=len(back_links),
        back_links_by_hand=sum(back_link.start not in made for back_link in back_links),
        part=_view_part_of(site, page),
        sections=sections,
        links=links,
        findings=findings,
        structure=structure,
        navigation=navigation,
        stages=view_stages(
            page,
            structure,
            navigation,
            (one.back_link for one in sections),
            broken,
            findings,
            is_arriving=is_arriving,
        ),
        account=describe_page(page, navigation, len(back_links), len(broken)),
        is_arriving=is_arriving,
    )


def _view_part_of(site: Site, page: Page) -> PartOfView | None:
    series = series_of(site, page.path)
    if series is None or page.part_marks is None:
        return None
    title = SUFFIX.sub("", series.parts[0].title or series.home)
    return PartOfView(page.part_marks.number, series.count, series.home, title, series.missing)


def _is_broken_in_text(link: LinkView, path: str) -> bool:
    """Return whether a link of the text leads nowhere; placeholders that only lead to the top do not count."""
    to_top = link.to_page == path and link.to_section == -1
    return link.resolves is False and not link.in_furniture and not link.made and not to_top


def _view_sections(site: Site, page: Page, settings: Settings, lines: Lines) -> tuple[SectionView, ...]:
    outline = read_outline(page)
    sections = outline.flat()
    stretches = {stretch.index: stretch for stretch in estimate_stretches(page, outline)}
    proposed = propose_identifiers(page, range(1, 7), settings.identifiers)
    weak = judge_existing(page, settings.identifiers)
    listed = set(listed_identifiers(page))
    back_links = find_back_links(page)
    cuts = {cut.section for cut in find_cuts(page)}
    incoming = _count_incoming(site, page, sections)

    def view(section: Section) -> SectionView:
        stretch = stretches[section.index]
        return SectionView(
            index=section.index,
            level=section.level,
            text=section.text,
            identifier=section.identifier,
            proposed=proposed.get(section.index),
            weakness=weak[section.index].message if section.index in weak else "",
            better=weak[section.index].suggestion if section.index in weak else None,
            line=lines.line(section.start),
            end_line=max(lines.line(section.start), lines.line(max(section.end - 1, section.start))),
            words=section.words,
            own_words=section.own_words,
            parent=section.parent,
            listed=section.identifier in listed,
            back_link=has_back_link(section, back_links),
            can_cut=section.index in cuts,
            links_in=incoming[section.index],
            top=stretch.top,
            height=stretch.height,
        )

    return tuple(view(section) for section in sections)


def _count_incoming(site: Site, page: Page, sections: list[Section]) -> Counter[int]:
    named = {section.identifier: section.index for section in sections if section.identifier}
    targets = page.index_targets()
    counts: Counter[int] = Counter()
    for led in site.pages_linking_to(page.path).values():
        for fragment, count in led:
            target = find_indicated(fragment, targets)
            if isinstance(target, Target) and target.name in named:
                counts[named[target.name]] += count
    return counts


def _view_link(site: Site, page: Page, link: Link, lines: Lines, made: frozenset[int]) -> LinkView:
    outcome = site.follow(page.path, link.href)
    there = outcome if isinstance(outcome, Resolved) and outcome.path in site.pages else None
    reached = site.reached(there) if there else None
    return LinkView(
        start=link.start,
        made=link.start in made,
        line=lines.line(link.start),
        text=link.text,
        href=link.href,
        kind=link.kind.value,
        resolves=site.resolves(page.path, link),
        section=page.section_at(link.start),
        in_furniture=link.in_furniture,
        to_page=there.path if there else None,
        to_section=reached.section if reached else None,
        to_top=reached is not None and reached.is_top,
        to_text=reached.title if reached else "",
        address=_address(site, page, link),
    )


def _address(site: Site, page: Page, link: Link) -> str:
    found = page.resolve(link.href, site.base) if link.href else None
    if found is None:
        return (link.href or "").strip()
    path, fragment = found
    if site.base:
        return full_address(site.base, path, fragment)
    return path + ("" if fragment is None else f"#{fragment}")
