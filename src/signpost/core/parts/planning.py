"""A page cut into parts, its parts cut anew or brought up to date, and joined again.

All of it is one way there and back: the parts are joined in thought (`whole.read_whole`), the cuts are chosen on that
page, and the parts are written from it (`writing.PartWriter`). What did not change comes out to the byte.
"""

from __future__ import annotations

import posixpath
import re
from collections.abc import Callable, Iterable, Sequence
from dataclasses import replace
from itertools import pairwise

from signpost.core.contents import find_blocks, find_outdated
from signpost.core.contents.blocks import USUAL_LEVELS
from signpost.core.identifiers.sections import plan_identifiers
from signpost.core.page import Heading, Page, Target, read_edited, read_nodes
from signpost.core.parts.addressing import Goal, Rewriter
from signpost.core.parts.cuts import Cut, cut_at, cuts_of_sections
from signpost.core.parts.frames import Frame, merge_frames
from signpost.core.parts.naming import chosen_paths, frame_head_end, frame_tail_start, heading_at, name_parts
from signpost.core.parts.options import PartContents, PartOptions
from signpost.core.parts.series import Series, find_series, series_of
from signpost.core.parts.whole import ChosenCut, Whole, framed, read_whole
from signpost.core.parts.writing import PartWriter
from signpost.core.references.mentions import torn_references
from signpost.core.site.plans import SitePlan
from signpost.core.site.site import Site
from signpost.core.site.told import Kind, file_name_key
from signpost.core.text.edits import Edit, EditSet, edit_set, edits_between
from signpost.core.text.errors import RequestError
from signpost.core.text.positions import Span

__all__ = ["Series", "find_series", "plan_join", "plan_parts", "plan_refreshed_parts", "plan_reordered", "series_of"]


def plan_parts(
    site: Site,
    path: str,
    cuts: Sequence[int | Cut | ChosenCut],
    options: PartOptions | None = None,
    *,
    frame: str | None = None,
) -> SitePlan:
    """Return the plan that cuts a page before sections, by index, or at places of the whole page.

    A page that is in parts already is cut anew: the cuts are those of the whole page, and what is not said in
    `options` stays as it was. Links on all pages of the site follow the sections that moved. Where a part goes whose
    head, header or footer says something else, that of the file `frame` stays; without it the plan has a question.
    Raises RequestError for a place that the page cannot be cut at, a name that cannot be, or parts that are missing.
    """
    whole = read_whole(site, path)
    chosen = _chosen(whole, cuts)
    if not chosen:
        if whole.series is not None:
            return plan_join(site, path, frame)
        return SitePlan(notes=("No cut is chosen, so the page stays whole.",))
    return _plan(site, _without_frames(whole, chosen, frame), chosen, options or whole.options)


def plan_refreshed_parts(site: Site, path: str, options: PartOptions | None = None) -> SitePlan:
    """Return the plan that brings a series up to date: contents, titles, links between parts, links to sections.

    Headings that were renamed, added or removed in one part are followed in all. Raises RequestError for a page that
    is not a part, or where parts are missing.
    """
    whole = _with_contents(_read_series(site, path))
    return _plan(site, whole, chosen_paths(whole.page, whole.cuts, whole.options.pattern), options or whole.options)


def plan_join(site: Site, path: str, frame: str | None = None) -> SitePlan:
    """Return the plan that joins a page's parts to one page again, links of all pages following.

    What was added to any part's head, header or footer is kept; where they say different things, those of the file
    `frame` stay, and without it the plan has a question. Raises RequestError for a page that is not a part, a `frame`
    that is none of its parts, or where parts are missing.
    """
    whole = _read_series(site, path, for_good=True, frame=frame)
    first = whole.series.parts[0]  # type: ignore[union-attr]
    edits = {first.path: _edits_to(first, whole.page.text, "the parts joined")}

    def goal(old: str, target: Target | str | None) -> Goal | None:
        if target is not None or old == first.path:
            return Goal(first.path, where="the parts are joined")
        heading = _heading_from(whole.page, whole.begins(old))
        name = heading.identifier if heading else None
        return Goal(first.path, name, "the parts are joined")

    edits |= _edits_of_others(site, whole, goal)
    return SitePlan(
        {path: found for path, found in edits.items() if found},
        gone=tuple(sorted(whole.paths[1:])),
        notes=whole.notes,
        question=whole.question,
    )


def plan_reordered(site: Site, path: str, order: Sequence[int]) -> SitePlan:
    """Return the plan that puts a series' parts into another order, by their numbers now; part 1 stays the first.

    Raises RequestError for an order that is none, and where parts begin or end in the midst of an element, so that
    they cannot change places.
    """
    whole = _read_series(site, path)
    count = len(whole.paths)
    if sorted(order) != list(range(1, count + 1)) or order[0] != 1:
        raise RequestError(
            f"Name each of the parts 2 to {count} once, behind part 1, which keeps the page's beginning."
        )
    starts = [*whole.starts, frame_tail_start(whole.page)]
    slices = [whole.page.text[start:end] for start, end in pairwise(starts)]
    newline = whole.page.source.newline
    slices = [one if one.endswith(("\n", "\r")) else one + newline for one in slices[:-1]] + slices[-1:]
    moved = [slices[number - 1] for number in order]
    text = whole.page.text[: starts[0]] + "".join(moved) + whole.page.text[starts[-1] :]
    page = _reread(whole, text)
    if len({_open_at(whole.page, at) for at in starts[1:]}) > 1:
        raise RequestError(
            "The parts cannot change places, since an element begins in one and ends in another. Move the cuts to "
            "where that element begins or ends, and try again."
        )
    places, at = {}, starts[0]
    for number, piece in zip(order, moved, strict=True):
        places[number] = at
        at += len(piece)
    old = dict(enumerate(whole.cuts, start=2))
    usual = chosen_paths(whole.page, whole.cuts, whole.options.pattern)
    paths = {number: cut.path for number, cut in enumerate(usual, start=2)}
    cuts = [ChosenCut(places[number], old[number].title, paths[number]) for number in order[1:]]
    frames = tuple(whole.frames[number - 1] for number in order)
    own = tuple(replace(cut, path=old[number].path) for number, cut in zip(order[1:], cuts, strict=True))
    return _plan(site, _replaced(whole, page, own, frames), cuts, whole.options)


# ---------------------------------------------------------------- how


def _read_series(site: Site, path: str, *, for_good: bool = False, frame: str | None = None) -> Whole:
    whole = read_whole(site, path, for_good=for_good, frame=frame)
    if whole.series is None:
        raise RequestError(f"{path} is not a part of a page that was cut, or its remarks (<!-- part … -->) are gone.")
    return whole


def _chosen(whole: Whole, cuts: Sequence[int | Cut | ChosenCut]) -> list[ChosenCut]:
    page = whole.page
    found = {
        cut.at: ChosenCut(cut.at) for cut in cuts_of_sections(page, [one for one in cuts if isinstance(one, int)])
    }
    known = {cut.at for cut in whole.cuts}
    for one in cuts:
        if isinstance(one, Cut):
            found[one.at] = ChosenCut(one.at)
        elif isinstance(one, ChosenCut):
            at = one.at if one.at in known else cut_at(page, one.at).at
            found[at] = replace(one, at=at)
    return [found[at] for at in sorted(found)]


def _plan(site: Site, whole: Whole, cuts: Sequence[ChosenCut], options: PartOptions) -> SitePlan:
    if options.contents is not PartContents.FIRST:
        whole, cuts = _with_identifiers(whole, cuts)
    parts = name_parts(whole, cuts, options.pattern)
    writer = PartWriter(whole, parts, options, _series_name(site, whole))
    edits: dict[str, EditSet] = {}
    new_files: dict[str, bytes] = {}
    for part in parts:
        data = writer.bytes_of(part)
        existing = site.pages.get(part.path)
        if existing is None:
            new_files[part.path] = data
        else:
            edits[part.path] = _edits_to(existing, existing.source.again(data).text, f"part {part.number}")
    gone = tuple(sorted(set(whole.paths[1:]) - {part.path for part in parts}))
    edits |= _edits_of_others(site, whole, writer.goal)
    return SitePlan(
        {path: found for path, found in edits.items() if found},
        new_files,
        gone,
        notes=(*whole.notes, *torn_references(whole.page, writer.part_number), *_torn_maps(whole.page, writer)),
        question=whole.question,
    )


def _without_frames(whole: Whole, cuts: Sequence[ChosenCut], kept: str | None) -> Whole:
    """Return the whole page where what was added to the frames of parts that go is in those of the parts before."""
    stay = {whole.frame_index(at) for at in (whole.starts[0], *(cut.at for cut in cuts))}
    runs: list[list[int]] = []
    for index in range(len(whole.frames)):
        if index in stay:
            runs.append([])
        runs[-1].append(index)
    frames, notes, question = list(whole.frames), list(whole.notes), whole.question
    for run in runs:
        if all(whole.frames[index] is whole.frames[run[0]] for index in run):
            continue
        merged = merge_frames([_frame(whole, index) for index in run], kept)
        first = whole.frames[run[0]]
        content = first.text[frame_head_end(first) : frame_tail_start(first)]
        frames[run[0]] = framed(first, merged.frame.head, content, merged.frame.tail)
        notes += merged.notes
        question = question or merged.question
    return replace(whole, frames=tuple(frames), notes=tuple(notes), question=question)


def _frame(whole: Whole, index: int) -> Frame:
    page = whole.frames[index]
    return Frame(whole.paths[index], page.text[: frame_head_end(page)], page.text[frame_tail_start(page) :])


def _edits_to(page: Page, text: str, reason: str) -> EditSet:
    return edit_set(page.source, edits_between(page.text, text, reason=reason))


def _edits_of_others(
    site: Site, whole: Whole, goal: Callable[[str, Target | str | None], Goal | None]
) -> dict[str, EditSet]:
    """Return the edits of the pages that are not parts, by path: their links follow the sections."""
    files = frozenset(whole.paths)
    rewriter = Rewriter(site, whole.page.path, files, goal)
    names = {posixpath.basename(path) for path in files}
    is_index = any(name.startswith("index.") for name in names)
    naming = (path for name in set(map(file_name_key, names)) for path in site.index.ask(Kind.FILE_NAME, name))
    edits = {}
    for path in sorted(set(site.pages if is_index else naming) - files):
        other = site.pages[path]
        found = rewriter.edits(other, path)
        if found:
            edits[path] = edit_set(other.source, found)
    return edits


def _series_name(site: Site, whole: Whole) -> str:
    """Return what the remarks call the series: as they do now, or after the page's file, as no other is called."""
    if whole.series is not None:
        return whole.series.name
    stem = posixpath.splitext(whole.page.path)[0]
    name = re.sub(r"[^a-z0-9]+", "-", stem.lower()).strip("-") or "page"
    taken = site.index.ask_all(Kind.SERIES)
    number, free = 2, name
    while free in taken:
        free, number = f"{name}-{number}", number + 1
    return free


def _with_contents(whole: Whole) -> Whole:
    """Return the whole page with its contents brought up to date."""
    edits = [edit for _, found in find_outdated(whole.page) for edit in found.edits]
    once = list(dict.fromkeys(edits))  # two lists may want the same identifier for a section
    return _edited(whole, once, whole.cuts)[0]


def _with_identifiers(whole: Whole, cuts: Sequence[ChosenCut]) -> tuple[Whole, Sequence[ChosenCut]]:
    """Return the whole page with identifiers on the sections that contents list, and the cuts where they are then."""
    blocks = find_blocks(whole.page)
    levels = blocks[0].remark.levels if blocks else USUAL_LEVELS
    return _edited(whole, plan_identifiers(whole.page, levels).edits, cuts)


def _edited(whole: Whole, edits: Sequence[Edit], cuts: Sequence[ChosenCut]) -> tuple[Whole, Sequence[ChosenCut]]:
    """Return the whole page with edits of its content, and cuts where they are then."""
    page = whole.page
    if not edits:
        return whole, cuts
    made = edit_set(page.source, edits)
    after = read_edited(page, made)

    def moved(at: int) -> int:
        return at + sum(len(edit.text) - (edit.end - edit.start) for edit in made.edits if edit.end <= at)

    end = page.content.end + len(after.text) - len(page.text)
    after = replace(after, content=Span(page.content.start, end))
    frames = tuple(after if frame is page else frame for frame in whole.frames)
    own = tuple(replace(cut, at=moved(cut.at)) for cut in whole.cuts)
    return _replaced(whole, after, own, frames), [replace(cut, at=moved(cut.at)) for cut in cuts]


def _replaced(whole: Whole, page: Page, cuts: tuple[ChosenCut, ...], frames: tuple[Page, ...]) -> Whole:
    return replace(whole, page=page, site=whole.site.replaced({page.path: page}), cuts=cuts, frames=frames)


def _reread(whole: Whole, text: str) -> Page:
    """Return the whole page with another text of the same length before and behind its content."""
    page = whole.page
    made = edit_set(page.source, edits_between(page.text, text))
    after = read_edited(page, made)
    return replace(after, content=Span(page.content.start, page.content.end + len(text) - len(page.text)))


def _open_at(page: Page, at: int) -> tuple[int, ...]:
    """Return where the elements begin that are open at a place, as far as they have end tags."""
    elements = (node.element for node in read_nodes(page).all)
    return tuple(sorted(one.open.start for one in elements if one.close and one.open.end <= at <= one.close.start))


def _heading_from(page: Page, at: int) -> Heading | None:
    return heading_at(page, at) or next((one for one in page.headings if one.element.open.start >= at), None)


def _torn_maps(page: Page, writer: PartWriter) -> Iterable[str]:
    """Yield in words which pictures use an image map that a cut puts into another part."""
    nodes = read_nodes(page).all
    maps = {node.attributes["name"]: node for node in nodes if node.tag == "map" and "name" in node.attributes}
    for node in nodes:
        used = maps.get(node.attributes.get("usemap", "").removeprefix("#"))
        if used is None:
            continue
        own, other = writer.part_number(node.start), writer.part_number(used.start)
        if own and other and own != other:
            yield (
                f"Line {page.source.lines.line(node.start)}: usemap names “{used.attributes['name']}”, which goes to "
                f"part {other} while this stays in part {own}. Copy the map to part {own}."
            )
