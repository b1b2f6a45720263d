"""A site's pages in one window, as a browser measured them: lengths, landings, and whether that is still true."""

from __future__ import annotations

import hashlib
from collections import Counter
from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from functools import cached_property
from typing import Any

from pydantic import TypeAdapter
from sqlalchemy.orm import Session

from signpost.core.addresses.fragments import Targets, find_indicated
from signpost.core.addresses.links import is_page_path
from signpost.core.findings.landings import find_bad_landings
from signpost.core.landings.geometry import Geometry, Hold, Window
from signpost.core.landings.landings import TROUBLES, JumpLanding, Verdict, find_landing
from signpost.core.landings.lengths import carried_stretches, measured_stretches
from signpost.core.page import Link, Page, Target
from signpost.core.page.lengths import (
    Beyond,
    Stretch,
    estimate_page,
    estimate_stretches,
    find_extremes,
    judge_length,
    minutes,
    windows,
)
from signpost.core.page.outline import read_outline
from signpost.core.site.site import Resolved
from signpost.desk.loading import LoadedSite, load_revision
from signpost.desk.measure_views import BarView, LandingView, MeasureState, MeasureView, PointView, StretchView
from signpost.desk.views import FindingView, view_finding
from signpost.store import repositories as store

GEOMETRY = TypeAdapter(Geometry)


@dataclass(frozen=True)
class Measured:
    """A page with its geometry, both of one time."""

    page: Page
    geometry: Geometry

    @cached_property
    def targets(self) -> Targets[Target]:
        """What fragments could point to."""
        return self.page.index_targets()

    @cached_property
    def links(self) -> Mapping[tuple[str, str, int], Link]:
        """The page's links by what they are known again by."""
        return _links_by_key(self.page)


@dataclass(frozen=True, slots=True)
class _LinkPlace:
    """Where a link is."""

    section: int
    line: int
    top: float | None
    in_furniture: bool  # our own contents are not


def look_of(loaded: LoadedSite, path: str) -> str:
    """Return a digest of a page's bytes and of all files of its site that are not pages."""
    return _look(loaded, path, _shared_look(loaded))


def _shared_look(loaded: LoadedSite) -> str:
    """Return a digest of what all pages of a site may load."""
    known = [(name, file.sha256) for name, file in sorted(loaded.files.items()) if not is_page_path(name)]
    return hashlib.sha256(repr(known).encode()).hexdigest()


def _look(loaded: LoadedSite, path: str, shared: str) -> str:
    return hashlib.sha256(f"{loaded.files[path].sha256} {shared}".encode()).hexdigest()


class Measures:
    """The pages of a site in one window."""

    def __init__(
        self, session: Session, loaded: LoadedSite, window: Window, trial: Mapping[str, Geometry] | None = None
    ) -> None:
        """`trial` contains geometries that take precedence over what is kept, by path."""
        self.trial = trial or {}
        self.session = session
        self.loaded = loaded
        self.site = loaded.site
        self.settings = loaded.settings
        self.window = window
        site_id = loaded.record.site_id
        records = store.load_geometries(session, site_id, window.width, window.height, window.text_size)
        there = {record.path: record for record in records if record.path in self.site.pages}
        self.records = {path: record for path, record in there.items() if _can_be(record.facts)}
        self._shared = _shared_look(loaded)
        self._measured: dict[str, Measured | None] = {}

    def known(self, path: str) -> MeasureState:
        """Return what is known of a page."""
        record = self.records.get(path)
        if path in self.trial:
            return MeasureState.MEASURED
        if record is None:
            return MeasureState.NOTHING
        return MeasureState.MEASURED if record.look == self.look(path) else MeasureState.OLD

    def look(self, path: str) -> str:
        """Return the digest of a page as it is now."""
        return _look(self.loaded, path, self._shared)

    def measured(self, path: str) -> Measured | None:
        """Return a page as it was measured; None where it never was."""
        if path not in self._measured:
            self._measured[path] = self._measure(path)
        return self._measured[path]

    def _measure(self, path: str) -> Measured | None:
        if path in self.trial:
            return Measured(self.site.pages[path], self.trial[path])
        record = self.records.get(path)
        if record is None:
            return None
        page: Page | None = self.site.pages[path]
        if record.sha256 != self.site.pages[path].source.sha256:
            page = load_revision(self.session, self.loaded.record.site_id, path, record.sha256)
        if page is None:
            return None
        return Measured(page, GEOMETRY.validate_python(record.facts))

    def view(self, path: str) -> MeasureView:
        """Return a page as it is in the window."""
        page = self.site.pages[path]
        measured = self.measured(path)
        outline = read_outline(page)
        if measured is None:
            width = self.window.width
            stretches, height = estimate_stretches(page, outline, width), estimate_page(page, width)
            view_height = float(self.window.height)
        else:
            geometry = measured.geometry
            view_height, height = geometry.view_height, geometry.height
            before = read_outline(measured.page)
            stretches = measured_stretches(measured.page, before, geometry)
            if measured.page is not page:
                stretches = carried_stretches(before, stretches, outline)
        views = self._view_stretches(page, stretches, view_height)
        own = self.landings(path)
        longest, shortest = find_extremes(outline, stretches) or (None, None)
        return MeasureView(
            path=path,
            window=self.window,
            known=self.known(path),
            look=self.look(path),
            view_height=view_height,
            height=height,
            windows=windows(height, view_height),
            words=page.words,
            minutes=minutes(page.words),
            stretches=views,
            longest=longest,
            shortest=shortest,
            landings=own,
            incoming=self._incoming(path),
            points=_points(measured),
            bars=tuple(
                BarView(bar.label, bar.sticky, *bar.at(height / 2, view_height))
                for bar in (measured.geometry.bars if measured else ())
            ),
            findings=self._findings(page, own),
        )

    def _findings(self, page: Page, landings: tuple[LandingView, ...]) -> tuple[FindingView, ...]:
        if self.known(page.path) is not MeasureState.MEASURED:
            return ()
        links = {link.start: link for link in page.links}
        bad = (
            (links[found.start], JumpLanding(found.verdict, short=found.short, covered=found.covered, bar=found.bar))
            for found in landings
            if found.trouble and found.to_page == page.path
        )
        return tuple(view_finding(finding, page) for finding in find_bad_landings(page, bad))

    def lengths(self, path: str) -> dict[int, float]:
        """Return the heights of a page's sections in windows, by index, if they were measured as the page is now."""
        measured = self.measured(path)
        if measured is None or self.known(path) is not MeasureState.MEASURED:
            return {}
        stretches = measured_stretches(measured.page, read_outline(measured.page), measured.geometry)
        return {found.index: windows(found.height, measured.geometry.view_height) for found in stretches}

    def _view_stretches(self, page: Page, stretches: list[Stretch], view_height: float) -> tuple[StretchView, ...]:
        outline = read_outline(page)
        counts = [outline.lead_words, *(section.words for section in outline.flat())]
        return tuple(
            StretchView(
                index=stretch.index,
                top=stretch.top,
                height=stretch.height,
                words=words,
                minutes=minutes(words),
                windows=windows(stretch.height, view_height),
                share=100 * words / max(page.words, 1),
                beyond=self._beyond(stretch, words, view_height),
            )
            for stretch, words in zip(stretches, counts, strict=True)
        )

    def _beyond(self, stretch: Stretch, words: int, view_height: float) -> Beyond:
        if stretch.index < 0:
            return Beyond.NONE  # the lead has no limits
        return judge_length(self.settings.limits, words, windows(stretch.height, view_height))

    def landings(self, path: str) -> tuple[LandingView, ...]:
        """Return where all jump links of a page land."""
        return tuple(self._landings(path, None))

    def _incoming(self, path: str) -> tuple[LandingView, ...]:
        """Return where jump links on other pages land that lead to this one."""
        return tuple(found for other in self.site.pages if other != path for found in self._landings(other, path))

    def _landings(self, path: str, to_page: str | None) -> Iterator[LandingView]:
        page = self.site.pages[path]
        lines = page.source.lines
        made = frozenset(link.start for block in page.made for link in block.links)
        own = self.measured(path)
        old_links = own.links if own else {}
        counts: Counter[tuple[str, str]] = Counter()
        for link in page.links:
            key = (link.href or "", link.text)
            counts[key] += 1
            goal = self.site.jump_goal(path, link)
            if goal is None or (to_page is not None and goal[0] != to_page):
                continue
            was = old_links.get((*key, counts[key]))
            box = own.geometry.by_start.get(was.start) if own and was else None
            section = page.section_at(link.start)
            furniture = link.in_furniture and link.start not in made
            stand = _LinkPlace(section, lines.line(link.start), box.top if box else None, furniture)
            yield self._view(path, link, goal, stand, was)

    def _view(self, path: str, link: Link, goal: tuple[str, str], stand: _LinkPlace, was: Link | None) -> LandingView:
        to_page, fragment = goal
        outcome = self.site.follow(path, link.href)
        there = outcome if isinstance(outcome, Resolved) and outcome.path in self.site.pages else None
        landing = self._land(path, there, fragment, was)
        reached = self.site.reached(there) if there else None
        settled = fragment in self.settings.settled.get(to_page, ())
        return LandingView(
            page=path,
            start=link.start,
            line=stand.line,
            text=link.text,
            href=link.href or "",
            section=stand.section,
            in_furniture=stand.in_furniture,
            top=stand.top,
            to_page=to_page,
            fragment=fragment,
            to_section=reached.section if reached else None,
            to_top=reached is not None and reached.is_top,
            to_text=reached.title if reached else "",
            verdict=landing.verdict,
            scroll=landing.scroll,
            begin=landing.begin,
            short=landing.short,
            covered=landing.covered,
            bar=landing.bar,
            bar_bottom=landing.bar_bottom,
            was_seen=landing.was_seen,
            cause=None if landing.cause is None else landing.cause.value or "snaps",
            trouble=landing.verdict in TROUBLES and not settled,
            settled=settled,
        )

    def _land(self, path: str, there: Resolved | None, fragment: str, link: Link | None) -> JumpLanding:
        """Return where a link on the page at `path` lands; `link` is the same as it was measured."""
        if there is None:
            return JumpLanding(Verdict.NOWHERE)
        measured = self.measured(there.path)
        if measured is None or (there.path == path and link is None):
            return JumpLanding(Verdict.UNMEASURED)
        geometry = measured.geometry
        target = find_indicated(fragment, measured.targets)
        box = geometry.by_start.get(target.start) if isinstance(target, Target) else target
        if box is None:
            return JumpLanding(Verdict.UNMEASURED)
        from_box = geometry.by_start.get(link.start) if link is not None and there.path == path else None
        return find_landing(geometry, box, from_box)


def _can_be(facts: Mapping[str, Any]) -> bool:
    """Return whether a page that was kept as measured can be so; else it is measured again."""
    try:
        return bool(facts["view_height"] > 0 and facts["window"]["width"] > 0 and facts["window"]["height"] > 0)
    except (KeyError, TypeError):
        return False


def _links_by_key(page: Page) -> dict[tuple[str, str, int], Link]:
    """Return a page's links by what they are known again by: address, words, and how many before are the same."""
    counts: Counter[tuple[str, str]] = Counter()
    links = {}
    for link in page.links:
        key = (link.href or "", link.text)
        counts[key] += 1
        links[*key, counts[key]] = link
    return links


def _points(measured: Measured | None) -> tuple[PointView, ...]:
    if measured is None:
        return ()
    boxes = measured.geometry.by_start
    return tuple(
        PointView(target.name, box.top)
        for target in measured.page.targets
        if (box := boxes.get(target.start)) is not None and box.hold is Hold.NONE
    )
