"""The command `export`: outline, contents, lengths and site map of a site in open forms."""

from __future__ import annotations

from dataclasses import replace
from enum import StrEnum
from pathlib import Path
from typing import Annotated

import typer

from signpost.cli.folder import Folder
from signpost.core.forms.writing import FORMS

Form = StrEnum("Form", {name: name for name in FORMS})  # type: ignore[misc]


def export(
    form: Annotated[Form, typer.Argument(metavar="FORM", help=f"{', '.join(FORMS)}.")],
    path: Annotated[Path, typer.Argument(metavar="PATH", help="The site's folder, or one page.")],
    base: Annotated[str | None, typer.Option("--base", metavar="URL", help="The site's own address.")] = None,
) -> None:
    """Print the outline, contents, lengths or site map of a site, or of one page, in an open form."""
    folder = Folder.around(path, None) if path.is_file() else Folder(path)
    site = replace(folder.site(), base=base)
    pages = [path.resolve().relative_to(folder.root).as_posix()] if path.is_file() else []
    typer.echo(FORMS[form.value][0](site, pages), nl=False)
