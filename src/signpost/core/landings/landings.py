"""Where the window is after a jump link was followed, and what a reader sees there.

The place is that of CSSOM View 6.1 ("scroll a target into view", block "start") with the margins of CSS Scroll Snap
1, 4.2 and 5.1: the target's upper edge, less its scroll margin and the page's scroll padding, as far as the page can
be scrolled.
"""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

from signpost.core.addresses.fragments import Top
from signpost.core.landings.geometry import Bar, Box, Geometry, Hold, Rect


class Verdict(StrEnum):
    """What a jump comes to."""

    LANDS = "lands"  # the target is at the window's top
    SHORT = "short"  # the page ends too soon: the target is lower down in the window
    COVERED = "covered"  # a bar lies over the target's first line
    IN_VIEW = "in-view"  # it cannot reach the top, and was in sight before the jump
    NOWHERE = "nowhere"  # there is no such target
    UNSEEN = "unseen"  # the target takes no room on the page, so that nothing moves
    UNSURE = "unsure"  # not predicted: `cause` says why
    UNMEASURED = "unmeasured"  # the page was not measured in this window


_BAD = frozenset([Verdict.SHORT, Verdict.COVERED, Verdict.NOWHERE, Verdict.UNSEEN])
#: How much of a line may be covered, in CSS pixels; browsers place to fractions of one.
SLACK = 1.0


@dataclass(frozen=True, slots=True)
class JumpLanding:
    """A landing."""

    verdict: Verdict
    scroll: float | None = None  # where the window's top is on the page; None where that is not known
    begin: float = 0.0  # where it was before the jump
    short: float = 0.0  # by how many pixels it does not come up; as much room below the target would fix it
    covered: float = 0.0  # how many pixels of the first line lie under a bar
    bar: str = ""  # the bar's label
    bar_bottom: float = 0.0  # its lower edge in the window
    was_seen: bool = False  # whether the target's first line was in sight before the jump
    cause: Hold | None = None  # why a landing is not predicted; NONE where the page snaps to places of its own

    @property
    def is_bad(self) -> bool:
        """Whether an author will want to do something about it."""
        return self.verdict in _BAD


def find_scroll(geometry: Geometry, box: Box) -> float:
    """Return where the window's top is on the page after a jump to `box`."""
    return min(max(0.0, _wish(geometry, box)), geometry.limit(box))


def find_landing(geometry: Geometry, target: Box | Top | None, link: Box | None = None) -> JumpLanding:
    """Return where a jump to `target` lands; None stands for nowhere.

    `link` is what was followed, on the same page; the reader has it in sight. Without it the page is opened there.
    """
    begin = _reading_place(geometry, link) if link is not None else 0.0
    if target is None:
        return JumpLanding(Verdict.NOWHERE, begin=begin)
    if isinstance(target, Top):
        return JumpLanding(Verdict.LANDS, 0.0, begin, was_seen=link is not None and begin == 0)
    if target.hold is Hold.NONE and not geometry.snaps:
        return _land(geometry, target, begin, link)
    return _held(geometry, target.hold, begin)


def _held(geometry: Geometry, hold: Hold, begin: float) -> JumpLanding:
    """Return where a jump lands that does not simply move the page."""
    if hold is Hold.HIDDEN:
        return JumpLanding(Verdict.UNSEEN, begin, begin)
    if hold is Hold.FIXED:
        return JumpLanding(Verdict.IN_VIEW, begin, begin, was_seen=True)
    return JumpLanding(Verdict.UNSURE, begin=begin, cause=Hold.NONE if geometry.snaps else hold)


def _land(geometry: Geometry, target: Box, begin: float, link: Box | None) -> JumpLanding:
    """Return where a jump lands that moves the page; without a link the page is opened there."""
    scroll = find_scroll(geometry, target)
    line = target.words or Rect(0.0, target.top, geometry.window.width, target.bottom)
    short = max(_wish(geometry, target) - scroll, 0.0)
    short = short if short > SLACK else 0.0
    was_seen = link is not None and target.height is None and _is_seen(geometry, line, begin)
    covering = _covering(geometry, line, scroll)
    if covering is not None:
        bar, covered, edge = covering
        return JumpLanding(Verdict.COVERED, scroll, begin, short, covered, bar.label, edge, was_seen)
    verdict = Verdict.LANDS
    if short and not _is_on_line(link, line):
        verdict = Verdict.IN_VIEW if was_seen else Verdict.SHORT
    return JumpLanding(verdict, scroll, begin, short, was_seen=was_seen)


def _is_on_line(link: Box | None, line: Rect) -> bool:
    """Return whether a link stands in the line that it leads to: its address is taken from it, nobody follows it."""
    return link is not None and link.top < line.bottom and line.top < link.bottom


def _wish(geometry: Geometry, box: Box) -> float:
    """Return where the window would be if the page were long enough."""
    return box.top - box.margin - geometry.padding


def _reading_place(geometry: Geometry, link: Box) -> float:
    """Return where the window is when a reader follows a link.

    It is the page's top if the link is in sight there; else the link is in the window's middle.
    """
    if link.hold in (Hold.FIXED, Hold.HIDDEN) or link.bottom <= geometry.view_height:
        return 0.0
    middle = (link.top + link.bottom - geometry.view_height) / 2
    return min(max(0.0, middle), geometry.limit())


def _is_seen(geometry: Geometry, line: Rect, scroll: float) -> bool:
    """Return whether a line is wholly in the window, and under no bar."""
    inside = line.top >= scroll - SLACK and line.bottom <= scroll + geometry.view_height + SLACK
    return inside and _covering(geometry, line, scroll) is None


def _covering(geometry: Geometry, line: Rect, scroll: float) -> tuple[Bar, float, float] | None:
    """Return the bar that covers most of a line, how much of it in pixels, and where the bar ends in the window."""
    found = None
    for bar in geometry.bars:
        if bar.rect.right <= line.left or line.right <= bar.rect.left:
            continue
        top, bottom = bar.at(scroll, geometry.view_height)
        covered = min(bottom, line.bottom - scroll) - max(top, line.top - scroll)
        if covered > SLACK and (found is None or covered > found[1]):
            found = bar, covered, bottom
    return found
