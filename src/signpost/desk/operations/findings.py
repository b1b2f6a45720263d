"""Operations that fix what was found."""

from __future__ import annotations

from signpost.core.findings.catalogue import RULES
from signpost.core.findings.fixing import plan_fixes
from signpost.desk.operations.asked import Asked, Planned, Planner


def _fix(asked: Asked) -> Planned:
    rule = asked["rule"]
    paths = sorted(asked.site.pages) if asked["everywhere"] else [asked.page.path]
    plan = plan_fixes(asked.site, paths, None if rule is None else [rule], asked["start"])
    title = "Findings fixed" if rule is None else f"Fixed: {RULES[rule].title}"
    return Planned(title, plan)


FINDING_OPERATIONS: dict[str, Planner] = {"fix": _fix}
