"""The command `outline`: a page as it is understood."""

from __future__ import annotations

import json
from typing import Annotated

import typer

from signpost.cli.folder import Folder
from signpost.cli.options import PageArgument, SiteOption
from signpost.core.page.lengths import WINDOW_HEIGHT, WINDOW_WIDTH, estimate_page, minutes, windows
from signpost.core.page.outline import read_outline


def outline(
    page: PageArgument,
    site: SiteOption = None,
    as_json: Annotated[bool, typer.Option("--json", help="Print JSON.")] = False,
) -> None:
    """Print the page as it is understood: sections, targets, links."""
    folder = Folder.around(page, site)
    found = folder.page(page)
    if as_json:
        from signpost.cli.shapes import outline_json  # noqa: PLC0415 - it reads more of a page than is printed else

        print(json.dumps(outline_json(folder.site(), found), ensure_ascii=False, indent=2))
        return
    lines = found.source.lines
    for section in read_outline(found).flat():
        mark = f"#{section.identifier}" if section.identifier else "(no identifier)"
        indent = "  " * (section.level - 1)
        print(f"{indent}{section.text}  {mark}  line {lines.line(section.start)}, {section.words} words")
    height = windows(estimate_page(found))
    print(
        f"{found.words} words, {minutes(found.words):.0f} minutes; about {height:.1f} windows of {WINDOW_WIDTH} × "
        f"{WINDOW_HEIGHT}, estimated without a browser"
    )
