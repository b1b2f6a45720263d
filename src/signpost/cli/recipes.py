"""The command `run`: a recipe carried out over a site."""

from __future__ import annotations

from pathlib import Path
from typing import Annotated

import typer

from signpost.cli.folder import Folder, carry_out
from signpost.cli.options import WriteOption
from signpost.core.operations.recipes import plan_recipe, read_recipe
from signpost.core.text.errors import InputError, RequestError


def run(
    recipe: Annotated[Path, typer.Argument(metavar="RECIPE", help="A file in TOML that says what is done.")],
    folder: Annotated[Path, typer.Argument(metavar="DIR", help="The site's folder.")],
    write: WriteOption = False,
) -> None:
    """Carry out a recipe over a site: operations with their settings, one after the other."""
    if not recipe.is_file():
        raise RequestError(f"{recipe} is not there.")
    try:
        said = read_recipe(recipe.read_bytes().decode("utf-8-sig"))
    except UnicodeDecodeError as error:
        raise InputError(f"{recipe} is not UTF-8. Save it as UTF-8.") from error
    found = Folder(folder)
    carry_out(found, plan_recipe(found.site(), said), write)
