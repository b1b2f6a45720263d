"""What the screens show of a page and of a site, computed from the core."""

from __future__ import annotations

from collections import Counter
from dataclasses import dataclass
from uuid import UUID

from signpost.core.addresses.links import full_address, is_page_path, relative_address
from signpost.core.back_to_top.links import find_back_links
from signpost.core.back_to_top.planning import has_back_link
from signpost.core.contents import find_contents, listed_identifiers
from signpost.core.findings import Finding, check_page
from signpost.core.findings.fixing import has_fix
from signpost.core.findings.lacking import find_lacks
from signpost.core.identifiers.sections import judge_existing, propose_identifiers
from signpost.core.page import Link, Page, Target, read_nodes
from signpost.core.page.lengths import WINDOW_HEIGHT, estimate_page, estimate_stretches, minutes, windows
from signpost.core.page.outline import Section, read_outline
from signpost.core.parts.cuts import find_cuts
from signpost.core.parts.phrases import SUFFIX
from signpost.core.parts.series import Series, find_series, marks_of, series_of
from signpost.core.parts.whole import own_headings
from signpost.core.site.site import Elsewhere, Resolved, Site
from signpost.core.text.errors import EncodingError
from signpost.core.text.positions import Lines
from signpost.desk.loading import LoadedSite
from signpost.desk.navigation import NavigationView, view_navigation
from signpost.desk.settings import Settings
from signpost.desk.stages import StageView, view_stages
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
class FindingView:
    """A finding."""

    rule: str
    title: str
    severity: str
    page: str
    line: int
    column: int  # 1-based, in code points
    section: int
    message: str
    fix: str
    reference: str
    start: int  # offset of the start tag it is about
    end_line: int  # of the stretch that it is about
    end_column: int
    choices: tuple[str, ...]  # ways to fix it, the likeliest first, as words of a button
    fixable: bool  # whether one press fixes it without a question


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


@dataclass(frozen=True, slots=True)
class PageSummary:
    """A page as a row of the site's desk."""

    path: str
    title: str | None
    words: int
    windows: float
    sections: int
    without_identifier: int
    has_contents: bool
    back_links: int
    errors: int
    warnings: int
    advice: int
    links_in: int  # from other pages
    links_out: int  # to other pages of the site
    changed: bool
    is_new: bool
    unreadable: str | None  # why it cannot be opened
    encoding: str | None  # that the author had it read in; None for what it declares
    lacks: tuple[str, ...]  # each in a few words


@dataclass(frozen=True, slots=True)
class FileView:
    """A file that is not a page."""

    path: str
    changed: bool


@dataclass(frozen=True, slots=True)
class PageLinks:
    """How many links lead from one page to another."""

    from_page: str
    to_page: str
    count: int


@dataclass(frozen=True, slots=True)
class SeriesPartView:
    """A part in the list of a site's series."""

    number: int
    path: str
    title: str
    words: int


@dataclass(frozen=True, slots=True)
class SeriesView:
    """A page in parts, on its site's desk."""

    home: str
    title: str
    words: int
    parts: tuple[SeriesPartView, ...]
    missing: tuple[int, ...]


@dataclass(frozen=True, slots=True)
class SiteView:
    """A site on its desk."""

    site_id: UUID
    name: str
    base: str | None
    pages: tuple[PageSummary, ...]
    files: tuple[FileView, ...]
    links: tuple[PageLinks, ...]
    series: tuple[SeriesView, ...]
    changed: int  # how many files differ from what was brought in


@dataclass(frozen=True, slots=True)
class PageIndex:
    """What an editor completes addresses with."""

    path: str
    address: str  # relative to the page that is being edited
    identifiers: tuple[str, ...]


def view_page(site: Site, page: Page, settings: Settings) -> PageView:
    """Return a page as its desk shows it. `site` contains the page."""
    outline = read_outline(page)
    lines = page.source.lines
    nodes = read_nodes(page)
    findings = check_page(site, page.path, settings.check_options)
    height = estimate_page(page)
    made = frozenset(link.start for block in page.made for link in block.links)
    back_links = find_back_links(page)
    sections = _view_sections(site, page, settings, lines)
    links = tuple(_view_link(site, page, link, lines, made) for link in page.links)
    structure = view_structure(site, page, settings, lines, nodes)
    navigation = view_navigation(site, page, lines, nodes)
    broken = sum(_is_broken_in_text(link, page.path) for link in links)
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
        words=page.words,
        lead_words=outline.lead_words,
        minutes=minutes(page.words),
        windows=windows(height),
        height=height,
        window_height=WINDOW_HEIGHT,
        has_contents=find_contents(page) is not None,
        back_links=len(back_links),
        back_links_by_hand=sum(back_link.start not in made for back_link in back_links),
        part=_view_part_of(site, page),
        sections=sections,
        links=links,
        findings=tuple(view_finding(finding, page) for finding in findings),
        structure=structure,
        navigation=navigation,
        stages=view_stages(page, structure, navigation, (one.back_link for one in sections), broken),
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
    counts: Counter[int] = Counter()
    for _, _, landing in site.links_to(page.path):
        if isinstance(landing.target, Target) and landing.target.name in named:
            counts[named[landing.target.name]] += 1
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


def view_finding(finding: Finding, page: Page) -> FindingView:
    """Return a finding on a page."""
    lines = page.source.lines if finding.span.end > finding.span.start else None
    end = finding.place if lines is None else lines.place(finding.span.end)
    return FindingView(
        rule=finding.rule.code,
        title=finding.rule.title,
        severity=finding.rule.severity.value,
        page=finding.page,
        line=finding.place.line,
        column=finding.place.column,
        section=page.section_at(finding.span.start),
        message=finding.message,
        fix=finding.rule.fix.value,
        reference=finding.rule.reference,
        start=finding.span.start,
        end_line=end.line,
        end_column=end.column,
        choices=tuple(choice.words for choice in finding.choices),
        fixable=has_fix(finding),
    )


def view_site(loaded: LoadedSite) -> SiteView:
    """Return a site as its desk shows it: its pages, the links between them, what is wrong."""
    site = loaded.site
    between: Counter[tuple[str, str]] = Counter()
    for page in site.pages.values():
        for link in page.links:
            outcome = site.follow(page.path, link.href)
            if not isinstance(outcome, Elsewhere) and outcome.path != page.path and outcome.path in site.pages:
                between[page.path, outcome.path] += 1
    into: Counter[str] = Counter()
    out_of: Counter[str] = Counter()
    for (from_page, to_page), count in between.items():
        out_of[from_page] += count
        into[to_page] += count
    pages = [_summarise(loaded, path, into, out_of) for path in loaded.files if is_page_path(path)]
    return SiteView(
        site_id=loaded.record.site_id,
        name=loaded.record.name,
        base=loaded.record.base,
        pages=tuple(pages),
        files=tuple(FileView(path, file.changed) for path, file in loaded.files.items() if not is_page_path(path)),
        links=tuple(PageLinks(*pair, count) for pair, count in sorted(between.items())),
        series=tuple(_view_series(series) for series in find_series(site)),
        changed=sum(file.changed for file in loaded.files.values()),
    )


def _view_series(series: Series) -> SeriesView:
    parts = []
    for part in series.parts:
        marks = marks_of(part)
        own = own_headings(part)
        heading = own[0].text if own and marks.number > 1 else SUFFIX.sub("", part.title or part.path)
        words = part.words - (own[0].words_before if own and marks.number > 1 else 0)
        parts.append(SeriesPartView(marks.number, part.path, marks.settings.get("titled") or heading, words))
    title = SUFFIX.sub("", series.parts[0].title or series.home)
    return SeriesView(series.home, title, sum(part.words for part in parts), tuple(parts), series.missing)


def _summarise(loaded: LoadedSite, path: str, into: Counter[str], out_of: Counter[str]) -> PageSummary:
    file = loaded.files[path]
    page = loaded.site.pages.get(path)
    findings = check_page(loaded.site, path, loaded.settings.check_options) if page else []
    severities = Counter(finding.rule.severity.value for finding in findings)
    headings = page.headings if page else ()
    words = page.words if page else 0
    return PageSummary(
        path=path,
        title=page.title if page else None,
        words=words,
        windows=windows(estimate_page(page)) if page else 0.0,
        sections=len(headings),
        without_identifier=sum(heading.identifier is None for heading in headings if heading.level > 1),
        has_contents=bool(page and find_contents(page)),
        back_links=len(find_back_links(page)) if page else 0,
        errors=severities["error"],
        warnings=severities["warning"],
        advice=severities["advice"],
        links_in=into[path],
        links_out=out_of[path],
        changed=file.changed,
        is_new=file.brought_sha256 is None,
        unreadable=loaded.unreadable.get(path),
        encoding=loaded.settings.encodings.get(path),
        lacks=find_lacks(page, loaded.settings.check_options.limits) if page else (),
    )


def view_findings(loaded: LoadedSite) -> list[FindingView]:
    """Return what is wrong on any page of a site, page by page."""
    views = []
    for path, page in sorted(loaded.site.pages.items()):
        found = check_page(loaded.site, path, loaded.settings.check_options)
        views += [view_finding(finding, page) for finding in found]
    return views


def index_site(loaded: LoadedSite, page: str) -> list[PageIndex]:
    """Return all paths of a site, with their addresses from `page` and the identifiers of its pages."""
    site = loaded.site
    return [
        PageIndex(
            path,
            relative_address(page, path),
            tuple(site.names(path)) if path in site.pages else (),
        )
        for path in sorted(site.files)
    ]
