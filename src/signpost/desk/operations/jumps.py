"""Operations on jump links."""

from __future__ import annotations

from signpost.core.headings.wording import plan_link_words
from signpost.core.jumps.planning import Goal, plan_jump, plan_no_jump
from signpost.core.text.positions import Span
from signpost.desk.operations.asked import Asked, Planned, Planner


def _jump(asked: Asked) -> Planned:
    goal = Goal(asked["to_page"] or asked.page.path, asked["section"], asked["identifier"] or None)
    plan = plan_jump(
        asked.site,
        asked.page.path,
        Span(asked["start"], asked["end"]),
        goal,
        title=asked["title"],
        button=asked["button"],
        beside=asked["beside"],
        rule=asked.settings.identifiers,
    )
    return Planned("Jump link", plan)


def _no_jump(asked: Asked) -> Planned:
    return Planned("Link taken away", plan_no_jump(asked.site, asked.page.path, asked["start"]))


def _link_words(asked: Asked) -> Planned:
    return Planned("Link words", plan_link_words(asked.site, asked.page.path, asked["start"], asked["words"]))


JUMP_OPERATIONS: dict[str, Planner] = {"jump": _jump, "no-jump": _no_jump, "link-words": _link_words}
