"""A page together with its geometry: how long its sections are, and where its links land.

A geometry may be of the page as it was before some edits. Its links are recognised then by their address and words,
its sections by their headings; the rest of the page is estimated.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable, Mapping
from dataclasses import dataclass
from functools import cached_property

from signpost.core.addresses.fragments import Targets, find_indicated
from signpost.core.landings.geometry import Geometry, Hold, Window
from signpost.core.landings.landings import JumpLanding, Verdict, find_landing
from signpost.core.landings.lengths import carried_stretches, measured_stretches
from signpost.core.page import Link, Page, Target
from signpost.core.page.lengths import Stretch, estimate_page, estimate_stretches
from signpost.core.page.outline import read_outline
from signpost.core.site.site import Resolved, Site

#: What a link is recognised by: its address, its words, and how many before it, itself included, have both.
LinkKey = tuple[str, str, int]


@dataclass(frozen=True)
class MeasuredPage:
    """A page with its geometry, both of one time."""

    page: Page
    geometry: Geometry

    @cached_property
    def targets(self) -> Targets[Target]:
        """What fragments could point to."""
        return self.page.index_targets()

    @cached_property
    def links(self) -> Mapping[LinkKey, Link]:
        """The page's links by what they are recognised by."""
        return {key: link for link, key in zip(self.page.links, link_keys(self.page), strict=True)}

    @cached_property
    def points(self) -> tuple[tuple[str, float], ...]:
        """The names of the targets that take room on the page, and their distance from its top."""
        boxes = self.geometry.by_start
        return tuple(
            (target.name, box.top)
            for target in self.page.targets
            if (box := boxes.get(target.start)) is not None and box.hold is Hold.NONE
        )

    def land(self, fragment: str, followed: Link | None) -> JumpLanding:
        """Return where a jump to a fragment of this page lands; `followed` is the link, where it is on this page."""
        target = find_indicated(fragment, self.targets)
        box = self.geometry.by_start.get(target.start) if isinstance(target, Target) else target
        if box is None:
            return JumpLanding(Verdict.UNMEASURED)
        return find_landing(self.geometry, box, self.geometry.by_start.get(followed.start) if followed else None)


def land_jump(
    site: Site, path: str, link: Link, measured: Callable[[str], MeasuredPage | None], was: Link | None
) -> JumpLanding:
    """Return where a jump link on the page at `path` lands.

    `measured` gives pages as they were measured, None where they never were; `was` is the link as it was measured,
    None where it was not.
    """
    goal = site.jump_goal(path, link)
    there = site.follow(path, link.href)
    if goal is None or not isinstance(there, Resolved) or there.path not in site.pages:
        return JumpLanding(Verdict.NOWHERE)
    found = measured(there.path)
    if found is None or (there.path == path and was is None):
        return JumpLanding(Verdict.UNMEASURED)
    return found.land(goal[1], was if there.path == path else None)


def link_keys(page: Page) -> list[LinkKey]:
    """Return what each link of a page is recognised by after an edit, in the order of the links."""
    counts: Counter[tuple[str, str]] = Counter()
    keys: list[LinkKey] = []
    for link in page.links:
        key = (link.href or "", link.text)
        counts[key] += 1
        keys.append((*key, counts[key]))
    return keys


@dataclass(frozen=True, slots=True)
class Extent:
    """How much room a page takes in one window."""

    view_height: float  # of the window, in CSS pixels
    height: float  # of the page
    stretches: list[Stretch]  # the lead's first
    reach: float | None  # see `Geometry.reach`; None where nothing was measured


def page_extent(page: Page, measured: MeasuredPage | None, window: Window) -> Extent:
    """Return how much room a page takes: as measured, as measured before an edit, or else as estimated."""
    outline = read_outline(page)
    if measured is None:
        stretches = estimate_stretches(page, outline, window.width)
        return Extent(float(window.height), estimate_page(page, window.width), stretches, None)
    geometry = measured.geometry
    before = read_outline(measured.page)
    stretches = measured_stretches(measured.page, before, geometry)
    if measured.page is not page:
        stretches = carried_stretches(before, stretches, outline)
    return Extent(geometry.view_height, geometry.height, stretches, geometry.reach)
