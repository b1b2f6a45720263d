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
from signpost.desk.opening import opened
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
    with opened(database, site_id) as loaded:
        used = tuple(find_used_parts(loaded.site))
        style = read_style(loaded.site)
        sheet = find_sheet(loaded.site)
    return StyleView(style or replace(ReadingStyle(), parts=used), style is not None, sheet, used)


def style_text(style: ReadingStyle) -> str:
    """Return the rules of a reading style, for a look at what it does."""
    return write_style(style, None)
