"""How long a page is: words, minutes and, without a browser, an estimate of its height.

The estimate says that it is one wherever it is shown. It knows words and headings, not pictures or style sheets.
"""

from __future__ import annotations

from dataclasses import dataclass

from signpost.core.outline import Outline, Section

#: Words a reader takes in a minute, silently, of English non-fiction (Brysbaert 2019).
WORDS_A_MINUTE = 238
#: The window the estimate is for, in CSS pixels, and what fills it in a browser's own style.
WINDOW_WIDTH = 1280
WINDOW_HEIGHT = 800
_LINE_HEIGHT = 20.0
_WORDS_A_LINE = 26.0
_SPACE_A_PARAGRAPH = 16.0
_WORDS_A_PARAGRAPH = 60.0
_HEADING_HEIGHT = 62.0


@dataclass(frozen=True, slots=True)
class Stretch:
    """Where a section stands on the rendered page, estimated."""

    index: int  # of the section; -1 for the lead
    top: float  # CSS pixels from the page's top
    height: float  # CSS pixels, sections within included


def estimate_height(words: int, headings: int) -> float:
    """Return the height that `words` under `headings` take in the window, in CSS pixels."""
    lines = words / _WORDS_A_LINE
    paragraphs = words / _WORDS_A_PARAGRAPH
    return lines * _LINE_HEIGHT + paragraphs * _SPACE_A_PARAGRAPH + headings * _HEADING_HEIGHT


def estimate_stretches(outline: Outline) -> list[Stretch]:
    """Return where the lead and all sections stand, in source order."""
    top = estimate_height(outline.lead_words, 0)
    stretches = [Stretch(-1, 0.0, top)]
    for section in outline.flat():
        stretches.append(Stretch(section.index, top, _height(section)))
        top += estimate_height(section.own_words, 1)
    return stretches


def minutes(words: int) -> float:
    """Return how long a reader takes over `words`, in minutes."""
    return words / WORDS_A_MINUTE


def windows(height: float) -> float:
    """Return how many windows a height fills."""
    return height / WINDOW_HEIGHT


def _height(section: Section) -> float:
    own, stack = 0.0, [section]
    while stack:
        part = stack.pop()
        own += estimate_height(part.own_words, 1)
        stack += part.sections
    return own
