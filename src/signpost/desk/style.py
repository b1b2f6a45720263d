"""The reading style of a site, as the screens ask for it."""

from __future__ import annotations

from dataclasses import dataclass, replace
from uuid import UUID

from signpost.core.reading_style.style import (
    ReadingStyle,
    StylePart,
    find_sheet,
    find_used_parts,
    read_style,
    write_style,
)
from signpost.desk.loading import load_site
from signpost.store.database import Database


@dataclass(frozen=True, slots=True)
class StyleView:
    """The reading style that a site has, or would get."""

    style: ReadingStyle
    written: bool  # whether the site has it
    sheet: str | None  # the style sheet that it is in, or would; None for a new one
    used: tuple[StylePart, ...]  # parts that the site's pages have a use for


def style_of(database: Database, site_id: UUID) -> StyleView:
    """Return a site's reading style; where it has none, the parts that its pages have a use for."""
    with database.transaction() as session:
        site = load_site(session, site_id, texts=True).site
    used = tuple(find_used_parts(site))
    style = read_style(site)
    return StyleView(style or replace(ReadingStyle(), parts=used), style is not None, find_sheet(site), used)


def style_text(style: ReadingStyle) -> str:
    """Return the rules of a reading style, for a look at what it does."""
    return write_style(style, None)
