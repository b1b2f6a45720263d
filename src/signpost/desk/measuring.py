"""Measuring pages, and what an author settles about it."""

from __future__ import annotations

from collections import Counter
from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import Any
from uuid import UUID

from signpost.core.landings.geometry import Window
from signpost.core.landings.landings import Verdict
from signpost.core.page import Page
from signpost.core.page.lengths import Limits
from signpost.desk.deeds import change_settings
from signpost.desk.errors import ConflictError
from signpost.desk.loading import LoadedSite, load_record
from signpost.desk.measure_views import LandingView, MeasureState, MeasureView
from signpost.desk.measures import GEOMETRY, Measures, rendering_digest
from signpost.desk.opening import opened
from signpost.desk.settings import NamedWindow, Settings, read_settings
from signpost.store import analyses
from signpost.store.database import Database
from signpost.store.records import GeometryRecord


@dataclass(frozen=True, slots=True)
class WindowSummary:
    """A page in one of the windows that are kept side by side."""

    name: str
    window: Window
    state: MeasureState
    windows: float
    short: int  # landings on it that are too low
    covered: int


@dataclass(frozen=True, slots=True)
class MeasurablePage:
    """A page that can be measured."""

    path: str
    digest: str
    state: MeasureState


@dataclass(frozen=True, slots=True)
class SiteWalk:
    """All jump links of a site, page by page, and where they land."""

    pages: tuple[MeasurablePage, ...]
    landings: tuple[LandingView, ...]


@dataclass(frozen=True, slots=True)
class Windows:
    """The windows and limits of a site."""

    windows: tuple[NamedWindow, ...]
    limits: Limits


def open_measure(database: Database, site_id: UUID, path: str, window: Window) -> MeasureView:
    """Return a page as it is in a window."""
    with opened(database, site_id) as loaded:
        loaded.page(path)
        return Measures(loaded, window).view(path)


def list_windows(database: Database, site_id: UUID, path: str) -> list[WindowSummary]:
    """Return a page in all windows of its site, side by side."""
    with opened(database, site_id) as loaded:
        loaded.page(path)
        return [_summarise(named, Measures(loaded, named.window).view(path)) for named in loaded.settings.windows]


def _summarise(named: NamedWindow, view: MeasureView) -> WindowSummary:
    landings = [found for found in (*view.landings, *view.incoming) if found.trouble and found.to_page == view.path]
    verdicts = Counter(landing.verdict for landing in landings)
    return WindowSummary(
        named.name, named.window, view.state, view.windows, verdicts[Verdict.SHORT], verdicts[Verdict.COVERED]
    )


def walk_site(database: Database, site_id: UUID, window: Window) -> SiteWalk:
    """Return all jump links of a site with where they land in a window."""
    with opened(database, site_id) as loaded:
        measures = Measures(loaded, window)
        measures.fetch_all()
        loaded.pages.fetch(loaded.pages)
        paths = sorted(loaded.site.pages)
        pages = tuple(MeasurablePage(path, measures.digest(path), measures.state(path)) for path in paths)
        return SiteWalk(pages, tuple(landing for path in paths for landing in measures.landings(path)))


def try_out(database: Database, site_id: UUID, path: str, digest: str, facts: Mapping[str, Any]) -> MeasureView:
    """Return a page as it would be in a window, from what was measured with something tried; nothing is kept.

    `facts` is a Geometry with its window. Raises ConflictError where the page, or what it loads, has changed since.
    """
    geometry = GEOMETRY.validate_python(facts)
    with opened(database, site_id) as loaded:
        _refuse_old(loaded, path, digest)
        return Measures(loaded, geometry.window, {path: geometry}).view(path)


def _refuse_old(loaded: LoadedSite, path: str, digest: str) -> Page:
    """Return the page at `path`. Raises ConflictError where it has changed since it was measured."""
    page = loaded.page(path)
    if rendering_digest(loaded, path) != digest:
        raise ConflictError(f"{path} has changed since it was measured. Measure it again.")
    return page


def keep_geometry(database: Database, site_id: UUID, path: str, digest: str, facts: Mapping[str, Any]) -> None:
    """Keep a page as it was measured. Raises ConflictError where it has changed since.

    `facts` is a Geometry with its window.
    """
    geometry = GEOMETRY.validate_python(facts)
    with opened(database, site_id) as loaded:
        page = _refuse_old(loaded, path, digest)
        kept = GeometryRecord(path, page.source.sha256, digest, GEOMETRY.dump_python(geometry, mode="json"))
        window = geometry.window
    with database.transaction() as session:
        analyses.save_geometry(session, site_id, kept, window.width, window.height, window.text_size)


def windows_of(database: Database, site_id: UUID) -> Windows:
    """Return the windows that a site's pages are measured in, and how long its sections may be."""
    with database.transaction() as session:
        settings = read_settings(load_record(session, site_id).settings)
        return Windows(settings.windows, settings.limits)


def save_windows(database: Database, site_id: UUID, said: Windows) -> Windows:
    """Keep the windows and limits of a site, and return them."""

    def change(kept: Settings) -> Settings:
        return replace(kept, windows=said.windows, limits=said.limits)

    change_settings(database, site_id, change, "changed the windows that pages are measured in")
    return said


def settle_landing(database: Database, site_id: UUID, path: str, fragment: str, *, settled: bool) -> None:
    """Remember that the landing at a fragment is accepted as it is, or that it no longer is."""

    def settle(kept: Settings) -> Settings:
        return kept.settle(path, fragment, settled=settled)

    change_settings(database, site_id, settle, f"decided on a landing on {path}", path)
