"""A page in parts, before it is cut and after: its parts with their lengths, its sections, the places for cuts."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, replace
from uuid import UUID

from signpost.core.landings.geometry import Window
from signpost.core.landings.measured import page_extent
from signpost.core.page import Page
from signpost.core.page.blocks import read_blocks
from signpost.core.page.lengths import Beyond, Limits, Stretch, judge_length, minutes, windows
from signpost.core.page.outline import read_outline
from signpost.core.page.part_marks import PartMarks, read_part_marks
from signpost.core.parts.choosing import Proposal, Ruler, best_cuts, find_proposals, parts_for_length, word_ruler
from signpost.core.parts.cuts import Cut, cut_at, cuts_at_level, cuts_of_sections, find_places
from signpost.core.parts.lengths import PartLength, measure_parts, stretch_ruler
from signpost.core.parts.naming import name_parts
from signpost.core.parts.options import PartOptions
from signpost.core.parts.phrases import SUFFIX
from signpost.core.parts.planning import plan_refreshed_parts
from signpost.core.parts.series import marks_of
from signpost.core.parts.whole import ChosenCut, Whole, own_headings, read_whole
from signpost.core.text.errors import RequestError
from signpost.desk.deeds import change_settings
from signpost.desk.loading import LoadedSite, load_record
from signpost.desk.measures import Measures
from signpost.desk.opening import opened
from signpost.store import repositories as store
from signpost.store.database import Database

#: The most ways to cut a page that are compared at once.
MOST_PARTS = 200


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


@dataclass(frozen=True, slots=True)
class AskedCut:
    """A cut that the author has chosen so far."""

    at: int
    title: str = ""
    path: str = ""


def view_parts(
    database: Database,
    site_id: UUID,
    path: str,
    window: Window,
    cuts: Sequence[AskedCut] | None = None,
    pattern: str = "",
) -> PartsView:
    """Return the parts that a page has, or would have with these cuts; without any, those that it has."""
    with opened(database, site_id) as loaded:
        loaded.page(path)
        whole = read_whole(loaded.site, path)
        options = _options(whole, loaded, pattern)
        stretches, height, view_height = _extent(loaded, whole, window)
        ruler = stretch_ruler(whole.page, stretches, height)
        chosen = list(whole.cuts) if cuts is None else _chosen(whole, cuts)
        parts = name_parts(whole, chosen, options.pattern, draft=True)
        titles = {cut.at: cut.title for cut in chosen}
        limits = loaded.settings.part_limits
        views = tuple(
            _view_part(whole.page, one, titles, limits, view_height) for one in measure_parts(whole, parts, ruler)
        )
        as_it_is = whole.series is not None and cuts is None
        outdated = plan_refreshed_parts(loaded.site, path).count if as_it_is else 0
    page = whole.page
    moved = sum(target.start >= parts[1].start for target in page.targets) if len(parts) > 1 else 0
    return PartsView(
        home=page.path,
        title=SUFFIX.sub("", page.title or page.path),
        in_parts=whole.series is not None,
        paths=whole.paths,
        words=page.words,
        minutes=minutes(page.words),
        windows=windows(height, view_height),
        height=height,
        view_height=view_height,
        parts=views,
        sections=_view_sections(whole, stretches, loaded.settings.limits, height, view_height),
        places=_view_places(page, ruler),
        options=_view_options(options),
        limits=limits,
        outdated=outdated,
        moved=moved,
    )


def propose(
    database: Database,
    site_id: UUID,
    path: str,
    window: Window,
    *,
    by: str,
    value: float,
    fixed: Sequence[int] = (),
) -> list[ProposalView]:
    """Return ways to cut a page: into a number of parts, by words, minutes or windows a part, or before a level.

    `fixed` are offsets of cuts that stay.
    """
    with opened(database, site_id) as loaded:
        loaded.page(path)
        whole = read_whole(loaded.site, path)
        page, limits = whole.page, loaded.settings.part_limits
        ruler, least = word_ruler(page), float(limits.least_words)
        kept = [cut_at(page, at) for at in fixed]
        parts = round(value)
        if by == "level":
            cuts = cuts_of_sections(page, cuts_at_level(page, parts))
            return [] if not cuts else [ProposalView("level", len(cuts) + 1, tuple(cut.at for cut in cuts), 0, 0, 0)]
        if by == "windows":
            stretches, height, view_height = _extent(loaded, whole, window)
            ruler, least = stretch_ruler(page, stretches, height), 0.0
            parts = parts_for_length(ruler, value * view_height)
        elif by in ("words", "minutes"):
            words = value if by == "words" else value * page.words / max(minutes(page.words), 1e-9)
            parts = parts_for_length(ruler, words)
        if parts > MOST_PARTS:
            raise RequestError(
                f"That makes {parts:,} parts; at most {MOST_PARTS} can be proposed. Ask for longer ones."
            )
        best_cuts(page, parts, ruler=ruler, fixed=kept, least=least)  # says why where there is none
        found = find_proposals(page, parts, ruler=ruler, fixed=kept, least=least)
    return [_view_proposal(one) for one in found]


def save_part_settings(database: Database, site_id: UUID, names: str, limits: Limits) -> None:
    """Keep the pattern of file names and the limits for parts of a site."""
    change_settings(
        database,
        site_id,
        lambda kept: replace(kept, part_names=names, part_limits=limits),
        "changed how pages are cut into parts",
    )


def find_successor(database: Database, site_id: UUID, path: str) -> str | None:
    """Return the page that has what was on one which is not there any more; None where nobody knows.

    It was moved, or it was a part of a page whose parts are joined.
    """
    with database.transaction() as session:
        load_record(session, site_id)
        there = {file.path for file in store.load_files(session, site_id) if file.sha256 is not None}
        for change in store.load_changes(session, site_id):
            hashes = {file.path: file.before_sha256 or file.after_sha256 for file in change.files}
            if path not in hashes:
                continue
            moved = None if change.undone else change.parameters.get("moves", {}).get(path)
            if moved in there:
                return str(moved)
            blobs = store.load_blobs(session, site_id, {sha256 for sha256 in hashes.values() if sha256})
            marks = {name: _marks_in(blobs[sha256]) for name, sha256 in hashes.items() if sha256}
            own = marks.get(path)
            if own is not None:
                first = (name for name, found in marks.items() if found and found.series == own.series)
                return next((name for name in first if name in there), None)
    return None


def _marks_in(data: bytes) -> PartMarks | None:
    """Return what a file says of itself as a part; its remarks are ASCII, whatever else it is written in."""
    return read_part_marks(data.replace(b"\0", b"").decode("latin-1"))


# ---------------------------------------------------------------- how


def _options(whole: Whole, loaded: LoadedSite, pattern: str) -> PartOptions:
    usual = loaded.settings.part_names if whole.series is None else ""
    return replace(whole.options, pattern=pattern or usual or whole.options.pattern)


def _chosen(whole: Whole, cuts: Iterable[AskedCut]) -> list[ChosenCut]:
    known = {cut.at for cut in whole.cuts}
    found = {}
    for cut in cuts:
        at = cut.at if cut.at in known else cut_at(whole.page, cut.at).at
        found[at] = ChosenCut(at, cut.title, cut.path)
    return [found[at] for at in sorted(found)]


def _extent(loaded: LoadedSite, whole: Whole, window: Window) -> tuple[list[Stretch], float, float]:
    """Return where the lead and all sections of the whole page are, its height and the window's, in CSS pixels.

    Of a series, put together from the parts as they are measured.
    """
    measures = Measures(loaded, window)
    if whole.series is None:
        extent = page_extent(whole.page, measures.measured(whole.page.path), window)
        return extent.stretches, extent.height, extent.view_height
    tops: list[float] = []
    at, view_height = 0.0, float(window.height)
    for part in whole.series.parts:
        extent = page_extent(part, measures.measured(part.path), window)
        view_height = extent.view_height
        first = len(part.headings) - len(own_headings(part))
        own = extent.stretches[first + 1 :]
        begin = 0.0 if marks_of(part).number == 1 else (own[0].top if own else extent.height)
        if marks_of(part).number > 1 and first:
            begin = min(
                begin, extent.stretches[first].top + extent.stretches[first].height if not own else own[0].top
            )
        tops += [at + stretch.top - begin for stretch in own]
        bottom = max((stretch.top + stretch.height for stretch in own), default=begin)
        at += max(bottom - begin, 0.0)
    sections = read_outline(whole.page).flat()
    tops = (tops + [at] * len(sections))[: len(sections)]
    ends = {section.start: top for section, top in zip(sections, tops, strict=True)}
    stretches = [
        Stretch(section.index, top, max(ends.get(section.end, at) - top, 0.0))
        for section, top in zip(sections, tops, strict=True)
    ]
    return [Stretch(-1, 0.0, tops[0] if tops else at), *stretches], at, view_height


def _view_part(
    page: Page, one: PartLength, titles: Mapping[int, str], limits: Limits, view_height: float
) -> PartView:
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


def _view_sections(
    whole: Whole, stretches: Sequence[Stretch], limits: Limits, height: float, view_height: float
) -> tuple[WholeSectionView, ...]:
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


def _view_places(page: Page, ruler: Ruler) -> tuple[CutPlaceView, ...]:
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


def _view_options(options: PartOptions) -> PartOptionsView:
    return PartOptionsView(
        tuple(sorted(options.links)),
        options.contents.value,
        tuple(sorted(options.forward)),
        options.pattern,
        options.raise_levels,
    )


def _view_proposal(one: Proposal) -> ProposalView:
    cuts = tuple(cut.at for cut in one.cuts)
    return ProposalView(one.choice.value, len(cuts) + 1, cuts, one.unevenness, one.lower, one.cost)
