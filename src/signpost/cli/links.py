"""The command `links`: all links of a site, and their addresses changed by such a list."""

from __future__ import annotations

import json
import sys
from pathlib import Path
from typing import Annotated

import typer

from signpost.cli.folder import Folder, carry_out
from signpost.cli.options import WriteOption
from signpost.core.references.link_list import links_csv, links_json, list_links, plan_addresses
from signpost.core.text.errors import RequestError
from signpost.core.text.source import read_source


def links(
    folder: Annotated[Path, typer.Argument(metavar="DIR", help="The site's folder.")],
    as_csv: Annotated[bool, typer.Option("--csv", help="Print CSV.")] = False,
    as_json: Annotated[bool, typer.Option("--json", help="Print JSON.")] = False,
    source: Annotated[
        Path | None,
        typer.Option("--from", metavar="FILE", help="Such a list with new addresses, which the links get."),
    ] = None,
    write: WriteOption = False,
) -> None:
    """Print all links of a site, or give them the new addresses of a list."""
    found = Folder(folder)
    if source is not None:
        if not source.is_file():
            raise RequestError(f"{source} is not there.")
        carry_out(found, plan_addresses(found.site(), read_source(source.read_bytes()).text), write)
        return
    if as_csv and as_json:
        raise typer.BadParameter("Choose one of --csv and --json.")
    rows = list_links(found.site())
    if as_csv:
        sys.stdout.write(links_csv(rows))
    elif as_json:
        print(json.dumps(links_json(rows), ensure_ascii=False, indent=2))
    else:
        for row in rows:
            goal = {"found": row.leads_to, "outside": row.address}.get(row.state, f"{row.address}  ({row.state})")
            print(f"{row.page}:{row.line}: {row.words or '(no words)'} → {goal}")
