"""Operations on a site's reading style."""

from __future__ import annotations

from signpost.core.reading_style.style import PartLook, ReadingStyle, StylePart, plan_no_style, plan_style
from signpost.desk.operations.asked import Asked, Planned, Planner


def _style(asked: Asked) -> Planned:
    parts = tuple(StylePart(name) for name in asked["parts"])
    lengths = (asked["bar"], asked["side"], asked["narrow"], asked["below"])
    style = ReadingStyle(parts, asked["accent"], asked["wash"], *lengths, look=PartLook(asked["look"]))
    return Planned("Reading style", plan_style(asked.site, style))


def _no_style(asked: Asked) -> Planned:
    return Planned("Reading style taken out", plan_no_style(asked.site))


STYLE_OPERATIONS: dict[str, Planner] = {"style": _style, "no-style": _no_style}
#: They look at the site's style sheets.
STYLE_NAMES = frozenset(STYLE_OPERATIONS)
