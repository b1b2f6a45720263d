"""A page in parts, before it is cut and after: its parts with their lengths, its sections, the places for cuts."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import replace
from uuid import UUID

from signpost.core.landings.geometry import Window
from signpost.core.landings.measured import page_extent
from signpost.core.page.lengths import Limits, Stretch, minutes, windows
from signpost.core.page.outline import read_outline
from signpost.core.page.part_marks import PartMarks, read_part_marks
from signpost.core.parts.choosing import best_cuts, find_proposals, parts_for_length, word_ruler
from signpost.core.parts.cuts import cut_at, cuts_at_level, cuts_of_sections
from signpost.core.parts.lengths import measure_parts, stretch_ruler
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
from signpost.desk.part_views import (
    PartsView,
    ProposalView,
    view_options,
    view_part,
    view_places,
    view_proposal,
    view_sections,
)
from signpost.store import repositories as store
from signpost.store.database import Database

#: The most ways to cut a page that are compared at once.
MOST_PARTS = 200


def view_parts(
    database: Database,
    site_id: UUID,
    path: str,
    window: Window,
    cuts: Sequence[ChosenCut] | None = None,
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
            view_part(whole.page, one, titles, limits, view_height) for one in measure_parts(whole, parts, ruler)
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
        sections=view_sections(whole, stretches, loaded.settings.limits, height, view_height),
        places=view_places(page, ruler),
        options=view_options(options),
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
    return [view_proposal(one) for one in found]


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


def _chosen(whole: Whole, cuts: Iterable[ChosenCut]) -> list[ChosenCut]:
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
