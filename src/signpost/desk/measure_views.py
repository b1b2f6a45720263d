"""What the screens show of a page as it is in a window."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

from signpost.core.landings.geometry import Window
from signpost.core.landings.landings import Verdict
from signpost.core.page.lengths import Beyond
from signpost.desk.finding_views import FindingView
from signpost.desk.stages import StageView


class MeasureState(StrEnum):
    """Where the lengths and landings of a page in a window come from."""

    ESTIMATED = "estimated"
    OUTDATED = "outdated"  # it was measured before the page, or what it loads, changed
    MEASURED = "measured"


@dataclass(frozen=True, slots=True)
class LandingView:
    """A jump link and where it lands."""

    page: str  # that the link is on
    start: int  # offset of its start tag
    line: int
    text: str
    href: str
    section: int  # that the link is in; -1 for the lead
    in_furniture: bool
    top: float | None  # of the link on its page; None where that is not known
    to_page: str
    fragment: str
    to_section: int | None  # -1 for the top or the lead; None for nowhere
    to_top: bool  # whether it leads to the top itself
    to_text: str  # the title of what it leads to
    verdict: Verdict
    scroll: float | None  # where the window's top ends
    begin: float  # where it was before
    short: float
    covered: float
    bar: str
    bar_bottom: float
    was_seen: bool
    cause: str | None  # what keeps a landing from being predicted
    trouble: bool  # whether it wants something done
    settled: bool  # whether the author leaves it as it is


@dataclass(frozen=True, slots=True)
class StretchView:
    """A section's length."""

    index: int  # -1 for the lead
    top: float  # CSS pixels from the page's top
    height: float  # sections within included
    words: int
    minutes: float
    windows: float
    share: float  # of the content's words, in percent
    beyond: Beyond  # which of the site's limits it passes


@dataclass(frozen=True, slots=True)
class PointView:
    """An identifier where it is on the page."""

    name: str
    top: float


@dataclass(frozen=True, slots=True)
class BarView:
    """Something that stays in the window."""

    label: str
    sticky: bool
    top: float
    bottom: float


@dataclass(frozen=True, slots=True)
class MeasureView:
    """A page as it is in a window."""

    path: str
    window: Window
    state: MeasureState
    digest: str  # digest of the page as it is now, and of all that it may load
    view_height: float
    height: float
    windows: float
    words: int
    minutes: float
    stretches: tuple[StretchView, ...]  # the lead's first
    longest: int | None  # among the sections of the level that the page is divided by
    shortest: int | None
    landings: tuple[LandingView, ...]  # of the page's own jump links
    incoming: tuple[LandingView, ...]  # of jump links on other pages that lead to this one
    points: tuple[PointView, ...]
    reach: float | None  # targets further down do not come up to where jumps land; None where all do
    bars: tuple[BarView, ...]
    exact: float  # within how many pixels a jump ends where it was expected to
    findings: tuple[FindingView, ...]  # landings of its own links on it that are not good
    stages: tuple[StageView, ...]  # where jumps land, parts, and the findings of this
