"""The command `navigation`: menus, paths, links on and back, and lists over a whole site."""

from __future__ import annotations

from pathlib import Path
from typing import Annotated

import typer

from signpost.cli.folder import Folder, carry_out
from signpost.cli.options import WriteOption
from signpost.core.navigation.menus import MenuOptions
from signpost.core.navigation.planning import NavigationKind, NavigationOptions, plan_navigation
from signpost.core.text.errors import RequestError


def navigation(
    kind: Annotated[
        NavigationKind, typer.Argument(metavar="KIND", help="menu, path, steps, contents, index or skip.")
    ],
    folder: Annotated[Path, typer.Argument(metavar="DIR", help="The site's folder.")],
    pages: Annotated[
        str | None,
        typer.Option("--pages", metavar="PAGE,…", help="The pages, in their order; else all, as they are read."),
    ] = None,
    home: Annotated[
        str, typer.Option("--on", metavar="PAGE", help="The page that gets the list: for contents and index.")
    ] = "",
    block: Annotated[
        str | None, typer.Option("--block", metavar="NAME", help="The menu to change, as `signpost shared` names it.")
    ] = None,
    bar: Annotated[
        bool, typer.Option("--bar", help="A new menu as a bar with separators instead of a list.")
    ] = False,
    sections: Annotated[
        bool, typer.Option("--sections", help="The sections of each page below it in the menu.")
    ] = False,
    depth: Annotated[
        int, typer.Option("--depth", min=0, max=6, help="Levels of sections in a list of all pages.")
    ] = 1,
    remove: Annotated[bool, typer.Option("--remove", help="Take it out again.")] = False,
    write: WriteOption = False,
) -> None:
    """Make or renew menus, paths, links to the pages before and after, lists of all pages, links to the content."""
    found = Folder(folder)
    if kind in (NavigationKind.CONTENTS, NavigationKind.INDEX) and not home:
        raise RequestError(f"Say which page gets the list: --on all-pages.html. {kind} is a list on one page.")
    chosen = () if pages is None else tuple(one.strip() for one in pages.split(",") if one.strip())
    menu = MenuOptions(is_list=not bar, sections=sections)
    options = NavigationOptions(kind, chosen, home, block, menu, depth=depth, remove=remove)
    carry_out(found, plan_navigation(found.site(), options), write)
