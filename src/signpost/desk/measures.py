"""A site's pages in one window, as a browser measured them: lengths, landings, and whether that is still true."""

from __future__ import annotations

import hashlib
from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from typing import Any

from pydantic import TypeAdapter

from signpost.core.addresses.links import is_page_path
from signpost.core.findings.check import settle
from signpost.core.findings.landings import find_bad_landings, find_misfits
from signpost.core.findings.parts import part_faults
from signpost.core.landings.geometry import Geometry, Window
from signpost.core.landings.landings import SLACK, JumpLanding, Verdict
from signpost.core.landings.lengths import measured_stretches
from signpost.core.landings.measured import Extent, MeasuredPage, land_jump, link_keys, page_extent
from signpost.core.operations.parts import RefreshParts
from signpost.core.page import Link, Page
from signpost.core.page.lengths import Beyond, Stretch, find_extremes, judge_length, minutes, windows
from signpost.core.page.outline import read_outline
from signpost.core.site.site import Resolved
from signpost.desk.finding_views import FindingView, view_finding
from signpost.desk.loading import LoadedSite, load_revision
from signpost.desk.measure_views import BarView, LandingView, MeasureState, MeasureView, PointView, StretchView
from signpost.desk.measured_stages import PartState, view_measured_stages
from signpost.desk.stages import show_edits, view_findings_stage
from signpost.store import analyses
from signpost.store.records import GeometryRecord

GEOMETRY = TypeAdapter(Geometry)


@dataclass(frozen=True, slots=True)
class _LinkPlace:
    """Where a link is."""

    section: int
    line: int
    top: float | None
    in_furniture: bool  # our own contents are not


def rendering_digest(loaded: LoadedSite, path: str) -> str:
    """Return a digest of a page's bytes and of all files of its site that are not pages."""
    return _digest(loaded, path, _shared_digest(loaded))


def _shared_digest(loaded: LoadedSite) -> str:
    """Return a digest of what all pages of a site may load."""
    known = [(name, file.sha256) for name, file in sorted(loaded.files.items()) if not is_page_path(name)]
    return hashlib.sha256(repr(known).encode()).hexdigest()


def _digest(loaded: LoadedSite, path: str, shared: str) -> str:
    return hashlib.sha256(f"{loaded.files[path].sha256} {shared}".encode()).hexdigest()


class Measures:
    """The pages of a site in one window."""

    def __init__(self, loaded: LoadedSite, window: Window, trial: Mapping[str, Geometry] | None = None) -> None:
        """`trial` contains geometries that take precedence over what is kept, by path."""
        self.trial = trial or {}
        self.loaded = loaded
        self.site = loaded.site
        self.settings = loaded.settings
        self.window = window
        self._records: dict[str, GeometryRecord | None] = {}
        self._shared = _shared_digest(loaded)
        self._measured: dict[str, MeasuredPage | None] = {}

    def fetch_all(self) -> None:
        """Fetch at once what was measured of any page; of each it would else be asked for itself."""
        records = {path: record for path, record in self._load(None).items() if path in self.site.pages}
        self._records = {**dict.fromkeys(self.site.pages), **records}

    def _load(self, path: str | None) -> dict[str, GeometryRecord]:
        window = self.window
        found = analyses.load_geometries(
            self.loaded.session, self.loaded.record.site_id, window.width, window.height, window.text_size, path
        )
        return {record.path: record for record in found if _can_be(record.facts)}

    def _record(self, path: str) -> GeometryRecord | None:
        if path not in self._records:
            self._records[path] = self._load(path).get(path) if path in self.site.pages else None
        return self._records[path]

    def state(self, path: str) -> MeasureState:
        """Return what is known of a page."""
        record = self._record(path)
        if path in self.trial:
            return MeasureState.MEASURED
        if record is None:
            return MeasureState.ESTIMATED
        return MeasureState.MEASURED if record.digest == self.digest(path) else MeasureState.OUTDATED

    def digest(self, path: str) -> str:
        """Return the digest of a page as it is now."""
        return _digest(self.loaded, path, self._shared)

    def measured(self, path: str) -> MeasuredPage | None:
        """Return a page as it was measured; None where it never was."""
        if path not in self._measured:
            self._measured[path] = self._measure(path)
        return self._measured[path]

    def _measure(self, path: str) -> MeasuredPage | None:
        if path in self.trial:
            return MeasuredPage(self.site.pages[path], self.trial[path])
        record = self._record(path)
        if record is None:
            return None
        page: Page | None = self.site.pages[path]
        if record.sha256 != self.site.pages[path].source.sha256:
            page = load_revision(self.loaded, path, record.sha256)
        if page is None:
            return None
        return MeasuredPage(page, GEOMETRY.validate_python(record.facts))

    def view(self, path: str) -> MeasureView:
        """Return a page as it is in the window."""
        page = self.site.pages[path]
        measured = self.measured(path)
        extent = page_extent(page, measured, self.window)
        view_height, height = extent.view_height, extent.height
        own, incoming = self.landings(path), self._incoming(path)
        stretches = self._view_stretches(page, extent)
        length = windows(height, view_height)
        longest, shortest = find_extremes(read_outline(page), extent.stretches) or (None, None)
        findings = self._findings(page, own)
        return MeasureView(
            path=path,
            window=self.window,
            state=self.state(path),
            digest=self.digest(path),
            view_height=view_height,
            height=height,
            windows=length,
            words=page.words,
            minutes=minutes(page.words),
            stretches=stretches,
            longest=longest,
            shortest=shortest,
            landings=own,
            incoming=incoming,
            points=tuple(PointView(*point) for point in measured.points) if measured else (),
            reach=extent.reach,
            bars=tuple(
                BarView(bar.label, bar.sticky, *bar.at(height / 2, view_height))
                for bar in (measured.geometry.bars if measured else ())
            ),
            exact=SLACK,
            findings=findings,
            stages=(
                *view_measured_stages([*own, *incoming], stretches, length, self._part_state(page)),
                view_findings_stage(page.path, findings),
            ),
        )

    def _part_state(self, page: Page) -> PartState | None:
        """Return what a page is as a part of another one; None for a page in one piece."""
        if page.part_marks is None:
            return None
        refreshed = show_edits(page, RefreshParts())
        return PartState(page.part_marks.number, page.part_marks.count, part_faults(self.site, page), refreshed)

    def _findings(self, page: Page, landings: tuple[LandingView, ...]) -> tuple[FindingView, ...]:
        if self.state(page.path) is not MeasureState.MEASURED:
            return ()
        links = {link.start: link for link in page.links}
        bad = (
            (links[found.start], JumpLanding(found.verdict, short=found.short, covered=found.covered, bar=found.bar))
            for found in landings
            if (found.trouble or found.verdict is Verdict.IN_VIEW) and found.to_page == page.path
        )
        measured = self.measured(page.path)
        misfits = find_misfits(page, measured.geometry) if measured else ()
        settled = settle(page, [*find_bad_landings(page, bad), *misfits], self.settings.check_options)
        return tuple(view_finding(finding, page) for finding, aside in settled if not aside)

    def lengths(self, path: str) -> dict[int, float]:
        """Return the heights of a page's sections in windows, by index, if they were measured as the page is now."""
        measured = self.measured(path)
        if measured is None or self.state(path) is not MeasureState.MEASURED:
            return {}
        stretches = measured_stretches(measured.page, read_outline(measured.page), measured.geometry)
        return {found.index: windows(found.height, measured.geometry.view_height) for found in stretches}

    def _view_stretches(self, page: Page, extent: Extent) -> tuple[StretchView, ...]:
        view_height = extent.view_height
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
            for stretch, words in zip(extent.stretches, counts, strict=True)
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
        return tuple(
            found
            for other in sorted(self.site.pages_linking_to(path))
            if other != path
            for found in self._landings(other, path)
        )

    def _landings(self, path: str, to_page: str | None) -> Iterator[LandingView]:
        page = self.site.pages[path]
        lines = page.source.lines
        made = frozenset(link.start for block in page.made for link in block.links)
        own = self.measured(path)
        old_links = own.links if own else {}
        for link, key in zip(page.links, link_keys(page), strict=True):
            goal = self.site.jump_goal(path, link)
            if goal is None or (to_page is not None and goal[0] != to_page):
                continue
            was = old_links.get(key)
            box = own.geometry.by_start.get(was.start) if own and was else None
            section = page.section_at(link.start)
            furniture = link.in_furniture and link.start not in made
            place = _LinkPlace(section, lines.line(link.start), box.top if box else None, furniture)
            yield self._view(path, link, goal, place, was)

    def _view(self, path: str, link: Link, goal: tuple[str, str], place: _LinkPlace, was: Link | None) -> LandingView:
        to_page, fragment = goal
        outcome = self.site.follow(path, link.href)
        there = outcome if isinstance(outcome, Resolved) and outcome.path in self.site.pages else None
        landing = land_jump(self.site, path, link, self.measured, was)
        reached = self.site.reached(there) if there else None
        settled = fragment in self.settings.settled.get(to_page, ())
        return LandingView(
            page=path,
            start=link.start,
            line=place.line,
            text=link.text,
            href=link.href or "",
            section=place.section,
            in_furniture=place.in_furniture,
            top=place.top,
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
            trouble=landing.is_bad and not settled,
            settled=settled,
        )


def _can_be(facts: Mapping[str, Any]) -> bool:
    """Return whether a page that was kept as measured can be so; else it is measured again."""
    try:
        return bool(facts["view_height"] > 0 and facts["window"]["width"] > 0 and facts["window"]["height"] > 0)
    except (KeyError, TypeError):
        return False
