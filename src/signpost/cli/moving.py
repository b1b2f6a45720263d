"""The command `move`: a page, another file or a folder gets another name or place."""

from __future__ import annotations

from pathlib import Path
from typing import Annotated

import typer

from signpost.cli.folder import Folder, carry_out, find_root
from signpost.cli.options import SiteOption, WriteOption
from signpost.core.references.moves import folder_moves, plan_move
from signpost.core.text.errors import RequestError


def move(
    old: Annotated[Path, typer.Argument(metavar="FROM", help="A page, another file, or a folder.")],
    new: Annotated[Path, typer.Argument(metavar="TO", help="Its new name, or a folder to put it into.")],
    forward: Annotated[
        bool, typer.Option("--forward", help="Leave a small page at each old address that leads on.")
    ] = False,
    site: SiteOption = None,
    write: WriteOption = False,
) -> None:
    """Rename or move a page, a file or a folder, with all links of the site following."""
    if not old.exists():
        raise RequestError(f"{old} is not there.")
    folder = Folder(site or find_root(old), is_named=site is not None)
    if new.is_dir():
        new = new / old.resolve().name
    source, goal = (_within(folder, path) for path in (old, new))
    moves = folder_moves(folder.site(), source, goal) if old.is_dir() else {source: goal}
    folder.refuse_links_above()
    carry_out(folder, plan_move(folder.site(), moves, forward=forward), write)


def _within(folder: Folder, path: Path) -> str:
    """Return a path within the site. Raises RequestError for one outside."""
    place = path.parent.resolve() / path.name if path.name not in ("", "..") else path.resolve()
    if not place.is_relative_to(folder.root) or place == folder.root:
        raise RequestError(f"{path} is not in {folder.root}. Name the folder of the whole site with --site.")
    return place.relative_to(folder.root).as_posix()
