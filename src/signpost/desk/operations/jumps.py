"""Operations on jump links."""

from __future__ import annotations

from signpost.core.headings.wording import plan_link_words
from signpost.core.jumps.linking import LinkLook, plan_link
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


def _link(asked: Asked) -> Planned:
    names = ("title", "new_window", "tells_window", "rel", "language", "download")
    look = LinkLook(**{name: asked[name] for name in names})
    span = Span(asked["start"], asked["end"])
    plan = plan_link(asked.site, asked.page.path, span, asked["address"], look)
    return Planned(f"Link to {asked['address'][:60]}", plan)


def _no_jump(asked: Asked) -> Planned:
    return Planned("Link taken away", plan_no_jump(asked.site, asked.page.path, asked["start"]))


def _link_words(asked: Asked) -> Planned:
    return Planned("Link words", plan_link_words(asked.site, asked.page.path, asked["start"], asked["words"]))


JUMP_OPERATIONS: dict[str, Planner] = {"jump": _jump, "link": _link, "no-jump": _no_jump, "link-words": _link_words}
