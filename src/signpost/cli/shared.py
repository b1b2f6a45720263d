"""The command `shared`: copies of a block on several pages kept alike."""

from __future__ import annotations

from pathlib import Path
from typing import Annotated

import typer

from signpost.cli.folder import Folder, carry_out, tell
from signpost.cli.options import WriteOption
from signpost.core.references.shared import find_shared, plan_alike


def shared(
    folder: Annotated[Path, typer.Argument(metavar="DIR", help="The site's folder.")],
    name: Annotated[
        str | None, typer.Option("--block", metavar="NAME", help="Only this block, as “nav menu” or “header bar”.")
    ] = None,
    model: Annotated[
        str | None, typer.Option("--from", metavar="PAGE", help="The page whose copy the others become like.")
    ] = None,
    write: WriteOption = False,
) -> None:
    """Make copies of menus, headers and footers alike, each with its own paths and its own mark of the page."""
    found = Folder(folder)
    site = found.site()
    for block in find_shared(site):
        if name in (None, block.name):
            tell(f"“{block.name}” is on {len(block.copies)} pages; on {len(block.alike)} it is alike.")
    carry_out(found, plan_alike(site, name, model), write)
