"""What would fix the landings on a page, in all windows of its site."""

from __future__ import annotations

from dataclasses import dataclass, replace
from uuid import UUID

from signpost.core.landings.fixes import LandingFixes, find_landing_fixes
from signpost.core.landings.landings import JumpLanding
from signpost.core.reading_style.style import ReadingStyle, find_sheet, find_used_parts, reaches, read_style
from signpost.desk.measures import Measures
from signpost.desk.opening import opened
from signpost.store.database import Database


@dataclass(frozen=True, slots=True)
class LandingFixesView:
    """Lengths that would fix the landings on a page, and the style that they would go into."""

    fixes: LandingFixes
    style: ReadingStyle  # of the site, or the one that it would get, without the fixes
    sheet: str | None  # the style sheet that it is in, or would; None for a new one
    reaches: bool  # whether the page is read in it


def landing_fixes_of(database: Database, site_id: UUID, path: str) -> LandingFixesView:
    """Return what would fix the landings on a page."""
    with opened(database, site_id) as loaded:
        page = loaded.page(path)
        landings = []
        for named in loaded.settings.windows:
            view = Measures(loaded, named.window).view(path)
            landings += [
                (JumpLanding(found.verdict, short=found.short, bar_bottom=found.bar_bottom), view.view_height)
                for found in (*view.landings, *view.incoming)
                if found.trouble and found.to_page == path
            ]
        site = loaded.site
        style = read_style(site) or replace(ReadingStyle(), parts=tuple(find_used_parts(site)))
        return LandingFixesView(find_landing_fixes(landings), style, find_sheet(site), reaches(site, page))
