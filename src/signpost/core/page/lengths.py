"""How long a page is: words, minutes and, measured or estimated, heights.

The estimate says that it is one wherever it is shown. It knows words, blocks and headings,
not the sizes of pictures or the rules of style sheets.
"""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum

from signpost.core.page import Page
from signpost.core.page.outline import Outline, Section

#: Words a reader takes in a minute, silently, of English non-fiction (Brysbaert 2019).
WORDS_A_MINUTE = 238
#: The window that an estimate is for where no other is said, in CSS pixels.
WINDOW_WIDTH = 1280
WINDOW_HEIGHT = 800
# What fills a window, fitted to the measured heights of the demo's nine pages in four windows. The estimate of a page
# is 8 % off there on average, and 20 % at most; decision 12 says how that was found.
_AREA_A_WORD = 650.0  # square CSS pixels, the space between lines included
_WIDEST_TEXT = 740.0  # lines are seldom wider, however wide the window is
_TEXT_MARGIN = 40.0  # beside the lines
_BLOCK_HEIGHT = 20.0  # of a block's last line, half filled, and the space below it
_WORDS_A_BLOCK = 46.0  # where blocks are not counted
_HEADING_HEIGHT = 110.0
_PAGE_HEAD = 78.0  # above the content
_BLOCK = re.compile(r"<(?:p|li|tr|dt|dd|pre|hr|img|blockquote|table|ul|ol)(?=[\s>/])|<br\s*/?>\s*<br", re.IGNORECASE)


@dataclass(frozen=True, slots=True)
class Stretch:
    """Where a section is on the rendered page."""

    index: int  # of the section; -1 for the lead
    top: float  # CSS pixels from the page's top
    height: float  # CSS pixels, sections within included


def estimate_height(words: float, headings: int, blocks: float | None = None, width: float = WINDOW_WIDTH) -> float:
    """Return the height that `words` under `headings` take in a window of `width`, in CSS pixels.

    `blocks` are paragraphs, items, rows and the like that the words are in; None where they are not counted.
    """
    across = min(max(width - _TEXT_MARGIN, 1.0), _WIDEST_TEXT)
    blocks = words / _WORDS_A_BLOCK if blocks is None else blocks
    return words * _AREA_A_WORD / across + blocks * _BLOCK_HEIGHT + headings * _HEADING_HEIGHT


def estimate_page(page: Page, width: float = WINDOW_WIDTH) -> float:
    """Return the height of a page, estimated, in CSS pixels."""
    blocks = count_blocks(page, page.content.start, page.content.end)
    return _PAGE_HEAD + estimate_height(page.words, len(page.headings), blocks, width)


def count_blocks(page: Page, start: int, end: int) -> int:
    """Return how many paragraphs, items, rows and the like begin between two offsets."""
    return sum(1 for _ in _BLOCK.finditer(page.text, start, end))


def estimate_stretches(page: Page, outline: Outline, width: float = WINDOW_WIDTH) -> list[Stretch]:
    """Return where the lead and all sections are, estimated, in source order."""
    sections = outline.flat()
    begin = sections[0].start if sections else page.content.end
    top = _PAGE_HEAD + estimate_height(outline.lead_words, 0, count_blocks(page, page.content.start, begin), width)
    lead, tops = Stretch(-1, 0.0, top), []
    for section in sections:
        tops.append(top)
        inner = section.sections[0].start if section.sections else section.end
        top += estimate_height(section.own_words, 1, count_blocks(page, section.start, inner), width)
    return [lead, *stretch_out(sections, tops, top)]


def stretch_out(sections: Sequence[Section], tops: Sequence[float], bottom: float) -> list[Stretch]:
    """Return the stretches of sections that begin at `tops`, each as long as its section."""
    at = dict(zip([section.start for section in sections], tops, strict=True))
    return [
        Stretch(section.index, top, at.get(section.end, bottom) - top)
        for section, top in zip(sections, tops, strict=True)
    ]


@dataclass(frozen=True, slots=True)
class Limits:
    """How long sections may be; 0 stands for no limit."""

    least_words: int = 0
    most_words: int = 0
    most_windows: float = 0.0


class Beyond(StrEnum):
    """Which limit a section passes."""

    NONE = ""
    LONG = "long"
    SHORT = "short"


def judge_length(limits: Limits, words: int, height: float) -> Beyond:
    """Return which limit a section of so many words and windows passes."""
    if (limits.most_words and words > limits.most_words) or (limits.most_windows and height > limits.most_windows):
        return Beyond.LONG
    return Beyond.SHORT if words < limits.least_words else Beyond.NONE


def find_extremes(outline: Outline, stretches: Sequence[Stretch]) -> tuple[int, int] | None:
    """Return the longest and the shortest section of the highest level that several share; None where none do."""
    by_level: dict[int, list[Stretch]] = {}
    for section, stretch in zip(outline.flat(), stretches[1:], strict=True):
        by_level.setdefault(section.level, []).append(stretch)
    shared = next((by_level[level] for level in sorted(by_level) if len(by_level[level]) > 1), None)
    if shared is None:
        return None
    return max(shared, key=lambda one: one.height).index, min(shared, key=lambda one: one.height).index


def minutes(words: int) -> float:
    """Return how long a reader takes over `words`, in minutes."""
    return words / WORDS_A_MINUTE


def windows(height: float, window_height: float = WINDOW_HEIGHT) -> float:
    """Return how many windows a height fills."""
    return height / window_height
