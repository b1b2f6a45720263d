"""Where things are on a rendered page, as a browser measured it.

All lengths are CSS pixels. A place on the page is counted from its top, as it is before anything is scrolled; a place
in the window from the window's top.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from enum import StrEnum
from functools import cached_property


@dataclass(frozen=True, slots=True, order=True)
class Window:
    """The window of a reader."""

    width: int
    height: int
    text_size: int = 100  # percent of the usual size, as the reader has set it in the browser


class Hold(StrEnum):
    """What keeps an element from moving with the page, or from being seen."""

    NONE = ""
    HIDDEN = "hidden"  # it takes no room on the page
    FIXED = "fixed"  # it stays where it is in the window, alone or with what it is in
    STICKY = "sticky"  # it, or what it is in, sticks to the window's edge for a while
    BOXED = "boxed"  # it is in a box that scrolls by itself


@dataclass(frozen=True, slots=True)
class Rect:
    """A rectangle on the page."""

    left: float
    top: float
    right: float
    bottom: float


@dataclass(frozen=True, slots=True)
class Box:
    """An element as it is on the page."""

    start: int  # offset of its start tag in the page's text
    top: float
    bottom: float
    margin: float = 0.0  # its scroll-margin-top
    hold: Hold = Hold.NONE
    words: Rect | None = None  # the first line of its words, or of those that follow it; None where not measured
    height: float | None = None  # of the page once it is shown, where it is in a folded passage


@dataclass(frozen=True, slots=True)
class Bar:
    """An element that stays in the window while the page scrolls."""

    label: str  # its tag with its identifier or classes, as a selector
    rect: Rect  # fixed: in the window; sticky: on the page, where it would be if it did not stick
    sticky: bool
    stick_top: float | None = None  # the distance from the window's top that it keeps
    stick_bottom: float | None = None
    ceiling: float = 0.0  # it does not rise above this place on the page
    floor: float = 0.0  # its lower edge does not sink below this one

    def at(self, scroll: float, view_height: float) -> tuple[float, float]:
        """Return its upper and lower edge in the window at a scroll position of the page (CSS Position 3, 3.4)."""
        if not self.sticky:
            return self.rect.top, self.rect.bottom
        height = self.rect.bottom - self.rect.top
        top = self.rect.top - scroll
        if self.stick_bottom is not None:
            top = max(min(top, view_height - self.stick_bottom - height), min(self.ceiling - scroll, top))
        if self.stick_top is not None:
            top = min(max(top, self.stick_top), max(self.floor - scroll - height, top))
        return top, top + height


class Sized(StrEnum):
    """Why the size of an element is measured."""

    PICTURE = "picture"  # it could be larger than it is shown
    SAMPLE = "sample"  # its lines could be longer than it is wide
    SIDE = "side"  # it could stand beside the text, and lie over it


@dataclass(frozen=True, slots=True)
class Size:
    """The size of a picture, or of something that does not fit where it is."""

    start: int  # offset of its start tag in the page's text
    kind: Sized
    width: float  # as it is shown
    height: float
    own_width: float  # a picture's in its own pixels; that of the longest line of a sample or of a list at the side
    own_height: float = 0.0  # of a picture
    over: float = 0.0  # pixels of a line of text that it lies over


@dataclass(frozen=True)
class Geometry:
    """A page as it was rendered in one window."""

    window: Window
    view_height: float  # of the window, without a scroll bar
    height: float  # of the page
    padding: float  # the page's scroll-padding-top
    snaps: bool  # whether the page snaps to places of its own when it is scrolled
    boxes: tuple[Box, ...]  # headings, targets, links and furniture, in tree order
    bars: tuple[Bar, ...]
    content_bottom: float | None = None  # of the element that contains the content, where one is written
    sizes: tuple[Size, ...] = ()  # in tree order; what fits is left out, but for pictures

    @cached_property
    def by_start(self) -> Mapping[int, Box]:
        """The boxes by the offset of their start tags; where the parser made several of one, the first."""
        return {box.start: box for box in reversed(self.boxes)}

    @property
    def reach(self) -> float | None:
        """The lowest place on the page a jump can bring to the top; None where the page does not scroll."""
        limit = self.limit()
        return limit + self.padding if limit else None

    def limit(self, box: Box | None = None) -> float:
        """Return how far the page can be scrolled, once `box` is shown."""
        height = self.height if box is None or box.height is None else box.height
        return max(height - self.view_height, 0.0)
