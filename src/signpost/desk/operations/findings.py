"""Operations that fix what was found."""

from __future__ import annotations

from dataclasses import replace

from signpost.core.findings.catalogue import RULES
from signpost.core.findings.fixing import plan_fixes
from signpost.core.findings.site_file import SiteFile, read_site_file, write_site_file
from signpost.core.site.plans import SitePlan
from signpost.core.site.site import SITE_FILE
from signpost.core.text.edits import edit_set, edits_between
from signpost.desk.operations.asked import Asked, Planned, Planner


def _fix(asked: Asked) -> Planned:
    rule = asked["rule"]
    paths = asked.faulty(rule) if asked["everywhere"] else [asked.page.path]
    codes = None if rule is None else [rule]
    plan = plan_fixes(
        asked.site, paths, codes, asked["start"], asked.parameters.get("choice"), asked.settings.check_options
    )
    title = "Findings fixed" if rule is None else f"Fixed: {RULES[rule].title}"
    return Planned(title, plan)


def _site_file(asked: Asked) -> Planned:
    """Write what is settled into the site's own file; what that says already is kept."""
    existing = asked.site.texts.get(SITE_FILE)
    said = SiteFile() if existing is None else read_site_file(existing.text.removeprefix("\ufeff"))
    text = write_site_file(replace(asked.settings.as_file(), levels=said.levels))
    if existing is None:
        return Planned(f"Write {SITE_FILE}", SitePlan(new_files={SITE_FILE: text.encode()}))
    edits = edit_set(existing, edits_between(existing.text, text, reason="as it is settled"))
    return Planned(f"Write {SITE_FILE}", SitePlan({SITE_FILE: edits} if edits else {}))


FINDING_OPERATIONS: dict[str, Planner] = {"fix": _fix, "site-file": _site_file}
