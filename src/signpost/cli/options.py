"""Arguments and options that several commands take."""

from __future__ import annotations

from pathlib import Path
from typing import Annotated

import typer

PageArgument = Annotated[Path, typer.Argument(metavar="PAGE", help="The page's file.")]
SiteOption = Annotated[
    Path | None,
    typer.Option("--site", metavar="DIR", help="The site's folder; else the one that the page is in."),
]
WriteOption = Annotated[bool, typer.Option("--write", help="Write the change; without it, only its diff is printed.")]
RemoveOption = Annotated[bool, typer.Option("--remove", help="Take out what was made earlier.")]


def read_names(names: str) -> list[str]:
    """Return the identifiers that a list with commas names."""
    return [name.strip().lstrip("#") for name in names.split(",") if name.strip()]
