"""The commands `parts` and `join`: a page in numbered parts, and in one piece again."""

from __future__ import annotations

import json
from collections.abc import Sequence
from dataclasses import replace
from enum import StrEnum
from pathlib import Path
from typing import Annotated, TypeVar

import typer

from signpost.cli.folder import Folder, carry_out
from signpost.cli.options import PageArgument, SiteOption, WriteOption, read_names
from signpost.cli.shapes import parts_json
from signpost.core.page import Page
from signpost.core.page.blocks import read_blocks
from signpost.core.parts.choosing import best_cuts, parts_for_length, word_ruler
from signpost.core.parts.cuts import Cut, cut_at, cuts_at_level, cuts_of_sections
from signpost.core.parts.naming import name_parts
from signpost.core.parts.options import Forwarding, LinkPiece, PartContents, PartOptions
from signpost.core.parts.planning import plan_join, plan_parts, plan_refreshed_parts
from signpost.core.parts.whole import ChosenCut, Whole, read_whole
from signpost.core.text.errors import RequestError

T = TypeVar("T", bound=StrEnum)

FrameOption = Annotated[
    str | None,
    typer.Option("--frame", metavar="FILE", help="Whose head, header and footer stay, where parts differ."),
]


def parts(
    page: PageArgument,
    into: Annotated[int | None, typer.Option("--into", metavar="N", min=1, help="How many parts.")] = None,
    words: Annotated[int | None, typer.Option("--words", metavar="N", min=1, help="Words a part, about.")] = None,
    at: Annotated[
        str | None, typer.Option("--at", metavar="ID,…", help="Sections or other blocks that begin a part.")
    ] = None,
    level: Annotated[int | None, typer.Option("--level", min=1, max=6, help="Cut before each of this level.")] = None,
    least: Annotated[int, typer.Option("--least", metavar="N", min=0, help="Fewest words a part.")] = 0,
    names: Annotated[
        str | None, typer.Option("--names", metavar="PATTERN", help="File names, as {page}-{number} or {title}.")
    ] = None,
    links: Annotated[
        str | None, typer.Option("--links", metavar="PIECE,…", help="numbers or titles, neighbours; top, bottom.")
    ] = None,
    contents: Annotated[
        PartContents | None, typer.Option("--contents", help="Contents in the first part alone, or in each.")
    ] = None,
    forward: Annotated[
        str | None, typer.Option("--forward", metavar="WAY,…", help="How old links lead on: script, note, list.")
    ] = None,
    no_forward: Annotated[bool, typer.Option("--no-forward", help="Old links are not led on.")] = False,
    raise_levels: Annotated[
        bool | None, typer.Option("--raise-levels/--keep-levels", help="Whether each part starts at level 2.")
    ] = None,
    frame: FrameOption = None,
    refresh: Annotated[bool, typer.Option("--refresh", help="Bring parts up to date; the cuts stay.")] = False,
    as_json: Annotated[
        bool, typer.Option("--json", help="Print the parts and their lengths; change nothing.")
    ] = False,
    out: Annotated[Path | None, typer.Option("--out", metavar="DIR", help="Where the files are written.")] = None,
    site: SiteOption = None,
    write: WriteOption = False,
) -> None:
    """Cut the page into numbered parts, cut it anew, or bring its parts up to date."""
    wishes = sum(choice is not None for choice in (into, words, at, level))
    if wishes > 1 or (refresh and wishes):
        raise typer.BadParameter("Say where to cut with one of --into, --words, --at or --level, or use --refresh.")
    folder = Folder.around(page, site)
    path = folder.page(page).path
    whole = read_whole(folder.site(), path)
    options = _options(whole.options, names, links, contents, forward, no_forward, raise_levels)
    if not wishes and not refresh and not as_json:
        raise typer.BadParameter("Say where to cut with --into, --words, --at or --level, or use --refresh.")
    cuts = _wanted(whole, into, words, at, level, least)
    if as_json:
        found = name_parts(whole, cuts, options.pattern, draft=True)
        print(json.dumps(parts_json(whole, found), ensure_ascii=False, indent=2))
        return
    folder.refuse_links_above()
    plan = (
        plan_parts(folder.site(), path, cuts, options, frame=frame)
        if wishes
        else plan_refreshed_parts(folder.site(), path, options)
    )
    carry_out(folder, plan, write, out)


def join(page: PageArgument, frame: FrameOption = None, site: SiteOption = None, write: WriteOption = False) -> None:
    """Join the parts of a page to one page again."""
    folder = Folder.around(page, site)
    folder.refuse_links_above()
    carry_out(folder, plan_join(folder.site(), folder.page(page).path, frame), write)


def _wanted(
    whole: Whole, into: int | None, words: int | None, at: str | None, level: int | None, least: int
) -> list[ChosenCut]:
    """Return the cuts that are asked for; those that there are where none is."""
    page = whole.page
    if into is None and words is None and at is None and level is None:
        return list(whole.cuts)
    if at is not None:
        chosen = [_cut_by_name(page, name) for name in read_names(at)]
    elif level is not None:
        chosen = cuts_of_sections(page, cuts_at_level(page, level))
    else:
        ruler = word_ruler(page)
        chosen = best_cuts(page, into or parts_for_length(ruler, float(words or 1)), ruler=ruler, least=least)
    said = {cut.at: cut.title for cut in whole.cuts}
    return [ChosenCut(cut.at, said.get(cut.at, "") or _title(page, cut)) for cut in chosen]


def _cut_by_name(page: Page, name: str) -> Cut:
    for index, heading in enumerate(page.headings):
        if heading.identifier == name:
            return cuts_of_sections(page, [index])[0]
    target = next((target for target in page.targets if target.name == name), None)
    if target is None:
        raise RequestError(f"Nothing on {page.path} has the identifier “{name}”.")
    return cut_at(page, target.start)


def _title(page: Page, cut: Cut) -> str:
    """Return the title of a part that begins with no heading: its first words."""
    if cut.section is not None:
        return ""
    block = next((block for block in read_blocks(page) if block.start >= cut.at), None)
    return block.text if block else ""


def _options(
    options: PartOptions,
    names: str | None,
    links: str | None,
    contents: PartContents | None,
    forward: str | None,
    no_forward: bool,
    raise_levels: bool | None,
) -> PartOptions:
    if names is not None:
        options = replace(options, pattern=names)
    if links is not None:
        options = replace(options, links=frozenset(_words(LinkPiece, "--links", links)))
    if contents is not None:
        options = replace(options, contents=contents)
    if no_forward:
        options = replace(options, forward=frozenset())
    elif forward is not None:
        options = replace(options, forward=frozenset(_words(Forwarding, "--forward", forward)))
    return options if raise_levels is None else replace(options, raise_levels=raise_levels)


def _words(kind: type[T], option: str, written: str) -> Sequence[T]:
    names = [name.strip() for name in written.split(",") if name.strip()]
    if any(name not in set(kind) for name in names):
        raise typer.BadParameter(f"{option} takes some of {', '.join(kind)}.")
    return [kind(name) for name in names]
