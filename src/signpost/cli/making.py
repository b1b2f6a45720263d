"""The commands that make something of a page: headings, identifiers, contents, ways back, entries, the style."""

from __future__ import annotations

from pathlib import Path
from typing import Annotated

import typer

from signpost.cli.folder import Folder, carry_out
from signpost.cli.options import PageArgument, RemoveOption, SiteOption, WriteOption, read_names
from signpost.core.back_to_top.destinations import Destination
from signpost.core.back_to_top.planning import BackLinkOptions, Corner, plan_back_links, plan_no_back_links
from signpost.core.contents import ContentsOptions, Form, Spot, note_contents, plan_contents, plan_no_contents
from signpost.core.entries.planning import Bar, EntriesOptions, plan_entries, plan_no_letters
from signpost.core.entries.terms import read_terms, rows_to_terms
from signpost.core.headings.levels import plan_closed_gaps
from signpost.core.headings.promotions import plan_sure
from signpost.core.identifiers.sections import plan_identifiers
from signpost.core.page import Page
from signpost.core.page.plans import plan_in_turn
from signpost.core.reading_style.style import (
    PartLook,
    ReadingStyle,
    StylePart,
    find_used_parts,
    plan_no_style,
    plan_style,
)
from signpost.core.references.renames import plan_rename
from signpost.core.site.plans import plan_for
from signpost.core.text.errors import RequestError
from signpost.core.text.source import read_source
from signpost.sheets import read_rows


def headings(
    page: PageArgument,
    lookalikes: Annotated[bool, typer.Option("--lookalikes", help="Make look-alike headings real.")] = False,
    close_gaps: Annotated[bool, typer.Option("--close-gaps", help="Close the gaps between levels.")] = False,
    site: SiteOption = None,
    write: WriteOption = False,
) -> None:
    """Make look-alike headings real, those scored as sure, and close gaps between levels; without an option, both."""
    folder = Folder.around(page, site)
    found = folder.page(page)
    both = lookalikes == close_gaps
    planners = [
        *([plan_sure] if lookalikes or both else []),
        *([plan_closed_gaps] if close_gaps or both else []),
    ]
    carry_out(folder, plan_for(found, plan_in_turn(found, *planners, reason="headings")), write)


def rename(
    page: PageArgument,
    old: Annotated[str, typer.Argument(metavar="OLD", help="The identifier as it is.")],
    new: Annotated[str, typer.Argument(metavar="NEW", help="The identifier as it shall be.")],
    keep_old: Annotated[bool, typer.Option("--keep-old", help="Leave the old one beside the new one.")] = False,
    site: SiteOption = None,
    write: WriteOption = False,
) -> None:
    """Rename an identifier, with all references to it in the site."""
    folder = Folder.around(page, site)
    path = folder.page(page).path
    folder.refuse_links_above()
    plan = plan_rename(folder.site(), path, old.removeprefix("#"), new.removeprefix("#"), keep_old=keep_old)
    carry_out(folder, plan, write)


def identify(
    page: PageArgument,
    levels: Annotated[
        str | None,
        typer.Option("--levels", metavar="A-B", help="Levels of headings; as the site's file says, or 2-6."),
    ] = None,
    site: SiteOption = None,
    write: WriteOption = False,
) -> None:
    """Give identifiers to the headings that have none."""
    folder = Folder.around(page, site)
    found = folder.page(page)
    wanted = read_levels(levels) if levels is not None else folder.site_file.levels or read_levels("2-6")
    carry_out(folder, plan_for(found, plan_identifiers(found, wanted)), write)


def contents(
    page: PageArgument,
    levels: Annotated[
        str | None, typer.Option("--levels", metavar="A-B", help="Levels of sections listed; as they are, else 2-3.")
    ] = None,
    form: Annotated[Form | None, typer.Option("--form", help="Nested lists, or one row.")] = None,
    without: Annotated[
        str | None, typer.Option("--without", metavar="ID,…", help="Sections that get no entry; “” for none.")
    ] = None,
    ordered: Annotated[bool | None, typer.Option("--ordered/--bullets", help="Which kind of list.")] = None,
    numbered: Annotated[bool | None, typer.Option("--numbered/--plain", help="Numbers like 2.3 written out.")] = None,
    separator: Annotated[str | None, typer.Option("--separator", help="Between the entries of a row.")] = None,
    prefix: Annotated[str | None, typer.Option("--prefix", help="Words before each entry of a list.")] = None,
    suffix: Annotated[str | None, typer.Option("--suffix", help="Words behind each entry of a list.")] = None,
    spot: Annotated[Spot, typer.Option("--at", help="Where new ones go.")] = Spot.LEAD,
    within: Annotated[
        str | None, typer.Option("--in", metavar="ID", help="List the sections within this one, below its heading.")
    ] = None,
    remove: RemoveOption = False,
    site: SiteOption = None,
    write: WriteOption = False,
) -> None:
    """Make or refresh the contents, or remove them; a list made by hand is adopted."""
    folder = Folder.around(page, site)
    found = folder.page(page)
    if remove:
        carry_out(folder, plan_for(found, plan_no_contents(found)), write)
        return
    options = ContentsOptions(
        levels=None if levels is None else read_levels(levels),
        form=form,
        left_out=None if without is None else read_names(without),
        ordered=ordered,
        numbered=numbered,
        separator=separator,
        prefix=prefix,
        suffix=suffix,
        spot=spot,
        home=None if within is None else _section_named(found, within),
    )
    edits = plan_contents(found, options)
    carry_out(folder, plan_for(found, edits, note_contents(found, edits)), write)


def returns(
    page: PageArgument,
    level: Annotated[str, typer.Option("--level", metavar="A-B", help="Levels of the sections.")] = "2",
    to: Annotated[Destination, typer.Option("--to", help="Where they lead.")] = Destination.TOP,
    min_words: Annotated[int, typer.Option("--min-words", min=0, help="Shorter sections get none.")] = 0,
    min_windows: Annotated[
        float, typer.Option("--min-windows", min=0, help="Lower sections, estimated, get none.")
    ] = 0,
    words: Annotated[str, typer.Option("--words", help="What they say.")] = "",
    at: Annotated[
        Corner, typer.Option("--at", help="At the section's end, or right after its heading.")
    ] = Corner.END,
    alike: Annotated[bool, typer.Option("--alike", help="Make those made by hand like the others.")] = False,
    remove: RemoveOption = False,
    site: SiteOption = None,
    write: WriteOption = False,
) -> None:
    """Make or refresh back-to-top links, or remove them; those made by hand count and stay."""
    folder = Folder.around(page, site)
    found = folder.page(page)
    options = BackLinkOptions(read_levels(level, lowest=6), to, min_words, min_windows, words, at, alike)
    edits = plan_no_back_links(found) if remove else plan_back_links(found, options)
    carry_out(folder, plan_for(found, edits), write)


def entries(
    page: PageArgument,
    source: Annotated[
        Path | None, typer.Option("--from", metavar="FILE", help="Terms: lines, CSV, TSV or XLSX.")
    ] = None,
    within: Annotated[str | None, typer.Option("--in", metavar="ID", help="The section for them.")] = None,
    bar: Annotated[Bar, typer.Option("--bar", help="What stands above them.")] = Bar.LETTERS,
    sort: Annotated[bool, typer.Option("--sort/--as-given", help="In the language's order, or at the end.")] = True,
    remove: Annotated[bool, typer.Option("--remove", help="Take the bar of letters out; entries stay.")] = False,
    site: SiteOption = None,
    write: WriteOption = False,
) -> None:
    """Make an entry for each term of a list, or bring those made earlier up to date, with a bar of letters above."""
    folder = Folder.around(page, site)
    found = folder.page(page)
    if remove:
        carry_out(folder, plan_for(found, plan_no_letters(found)), write)
        return
    if source is None:
        raise typer.BadParameter("Say which terms with --from FILE.")
    data = source.read_bytes()
    terms = rows_to_terms(read_rows(data)) if data[:2] == b"PK" else read_terms(read_source(data).text)
    home = None if within is None else _section_named(found, within)
    plan = plan_entries(found, terms, EntriesOptions(home, bar, sort))
    carry_out(folder, plan_for(found, plan.edits, [plan.note]), write)


def style(
    folder: Annotated[Path, typer.Argument(metavar="DIR", help="The site's folder.")],
    chosen_parts: Annotated[
        str | None, typer.Option("--parts", metavar="NAME,…", help="Which; those that the pages have a use for.")
    ] = None,
    accent: Annotated[str, typer.Option("--accent", help="Colour of links, rules and marks.")] = "#1d5c4a",
    wash: Annotated[str, typer.Option("--wash", help="Colour behind the section just reached.")] = "#fff3c4",
    bar: Annotated[float, typer.Option("--bar", help="Height of a bar fixed at the top, in rem.")] = 4.0,
    side: Annotated[float, typer.Option("--side", help="Width of contents at the side, in rem.")] = 16.0,
    below: Annotated[float, typer.Option("--below", help="Room at the end, in percent of the window.")] = 50.0,
    look: Annotated[PartLook, typer.Option("--look", help="Of links between parts.")] = PartLook.LINE,
    remove: RemoveOption = False,
    write: WriteOption = False,
) -> None:
    """Put the reading style into the site's style sheet, update it there, or remove it."""
    found = Folder(folder)
    site = found.site()
    if remove:
        carry_out(found, plan_no_style(site), write)
        return
    try:
        chosen = (
            find_used_parts(site) if chosen_parts is None else [StylePart(one) for one in read_names(chosen_parts)]
        )
    except ValueError:
        names = ", ".join(part.value for part in StylePart)
        raise typer.BadParameter(f"--parts takes some of {names}.") from None
    carry_out(
        found, plan_style(site, ReadingStyle(tuple(chosen), accent, wash, bar, side, below=below, look=look)), write
    )


def _section_named(page: Page, name: str) -> int:
    """Return the index of the section with an identifier. Raises RequestError where there is none."""
    wanted = name.lstrip("#")
    for index, heading in enumerate(page.headings):
        if heading.identifier == wanted:
            return index
    raise RequestError(f"No section of {page.path} has the identifier “{wanted}”.")


def read_levels(levels: str, lowest: int = 9) -> list[int]:
    """Return the levels that "2-6", "2" or "2,4" name. Raises RequestError for anything else, or below `lowest`."""
    found: list[int] = []
    for piece in levels.split(","):
        first, dash, last = piece.strip().partition("-")
        if not (first.isdigit() and (last.isdigit() or not dash)):
            raise RequestError(f"“{levels}” is not a list of levels. Write them as 2-6, 2 or 2,4.")
        found += range(int(first), int(last or first) + 1)
    if not found or min(found) < 1 or max(found) > lowest:
        raise RequestError(f"“{levels}” is not a list of levels from 1 to {lowest}. Write them as 2-6, 2 or 2,4.")
    return found
