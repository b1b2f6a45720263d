"""Operations on jump links."""

from __future__ import annotations

from signpost.core.addresses.fragments import find_indicated
from signpost.core.headings.wording import plan_link_words
from signpost.core.jumps.linking import plan_link
from signpost.core.jumps.looks import LinkLook
from signpost.core.jumps.pairs import Spot, plan_pair
from signpost.core.jumps.planning import Edge, Goal, plan_jump, plan_no_jump
from signpost.core.page import Target
from signpost.core.page.outline import section_of_place
from signpost.core.site.plans import plan_both
from signpost.core.site.site import Site
from signpost.core.text.positions import Span
from signpost.desk.operations.asked import Asked, Planned, Planner


def _jump(asked: Asked) -> Planned:
    place = Edge(asked["edge"]) if asked["edge"] else asked["element"]
    goal = Goal(asked["to_page"] or asked.page.path, asked["section"], asked["identifier"] or None, place)
    plan = plan_jump(
        asked.site,
        asked.page.path,
        Span(asked["start"], asked["end"]),
        goal,
        look=_look(asked, "title", "new_window", "tells_window", "rel", "language", "insists"),
        words=asked["words"],
        button=asked["button"],
        beside=asked["beside"],
        rule=asked.settings.identifiers,
    )
    if asked["back"]:
        there = _spot(asked.site, goal)
        here = Spot(asked.page.path, asked.page.section_at(asked["start"]))
        back = plan_pair(asked.site, there, here, both=False, rule=asked.settings.identifiers)
        return Planned("Jump link, and one back", plan_both(asked.site, plan, back))
    return Planned("Jump link", plan)


def _look(asked: Asked, *names: str) -> LinkLook:
    return LinkLook(**{name: asked[name] for name in names})


def _spot(site: Site, goal: Goal) -> Spot:
    """Return the section that a goal is in."""
    if isinstance(goal.place, int) and not isinstance(goal.place, bool):
        return Spot(goal.path, section_of_place(site.pages[goal.path], goal.place))
    if goal.section is not None or goal.identifier is None or goal.path not in site.pages:
        return Spot(goal.path, -1 if goal.section is None else goal.section)
    target = find_indicated(goal.identifier, site.targets(goal.path))
    return Spot(
        goal.path, section_of_place(site.pages[goal.path], target.start) if isinstance(target, Target) else -1
    )


def _pair(asked: Asked) -> Planned:
    one = Spot(asked.page.path, asked["section"])
    other = Spot(asked["to_page"] or asked.page.path, -1 if asked["to_section"] is None else asked["to_section"])
    plan = plan_pair(asked.site, one, other, both=asked["both"], rule=asked.settings.identifiers)
    return Planned("See also, both ways" if asked["both"] else "See also", plan)


def _link(asked: Asked) -> Planned:
    look = _look(asked, "title", "new_window", "tells_window", "rel", "language", "download", "insists")
    span = Span(asked["start"], asked["end"])
    plan = plan_link(asked.site, asked.page.path, span, asked["address"], look)
    return Planned(f"Link to {asked['address'][:60]}", plan)


def _no_jump(asked: Asked) -> Planned:
    return Planned("Remove link", plan_no_jump(asked.site, asked.page.path, asked["start"]))


def _link_words(asked: Asked) -> Planned:
    return Planned("Link words", plan_link_words(asked.site, asked.page.path, asked["start"], asked["words"]))


JUMP_OPERATIONS: dict[str, Planner] = {
    "jump": _jump,
    "pair": _pair,
    "link": _link,
    "no-jump": _no_jump,
    "link-words": _link_words,
}
