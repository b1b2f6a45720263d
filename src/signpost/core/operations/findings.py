"""Operations that fix what was found, and that write down what is settled."""

from __future__ import annotations

from dataclasses import replace
from typing import Annotated, ClassVar

from annotated_types import Ge, Le, MaxLen

from signpost.core.findings.catalogue import RULES
from signpost.core.findings.fixing import plan_fixes
from signpost.core.findings.site_file import SiteFile, read_site_file, write_site_file
from signpost.core.operations.operation import ManyPages, Operation, Planned, RuleCode, Situation, Takes, declared
from signpost.core.site.plans import SitePlan
from signpost.core.site.site import SITE_FILE
from signpost.core.text.edits import edit_set, edits_between


@declared
class FixFindings(ManyPages):
    """Findings fixed: one, all of a rule, or all that take no choice; on the page or on all pages of the site."""

    does: ClassVar[str] = "fix"
    takes: ClassVar[Takes] = Takes.WRONG
    is_over_site: ClassVar[bool] = False

    rule: RuleCode | None = None
    start: int | None = None  # offset of the one finding
    choice: Annotated[int, Ge(0), Le(20)] | None = None  # of those that are offered, from 0 on
    everywhere: bool = False
    cause: Annotated[str, MaxLen(1000)] | None = None  # of the findings of the rule; None for any

    def plan_all(self, here: Situation) -> Planned:
        paths = here.faulty(self.rule) if self.everywhere else [here.path]
        codes = None if self.rule is None else [self.rule]
        plan = plan_fixes(here.site, paths, codes, self.start, self.choice, here.preferences.checks, self.cause)
        return Planned("Findings fixed" if self.rule is None else f"Fixed: {RULES[self.rule].title}", plan)


@declared
class WriteSiteFile(Operation):
    """What is settled for the site written into its own file; what that says already is kept."""

    does: ClassVar[str] = "site-file"
    is_over_site: ClassVar[bool] = True

    def plan(self, here: Situation) -> Planned:
        existing = here.site.texts.get(SITE_FILE)
        said = SiteFile() if existing is None else read_site_file(existing.text.removeprefix("\ufeff"))
        text = write_site_file(replace(here.preferences.settled, levels=said.levels))
        title = f"Write {SITE_FILE}"
        if existing is None:
            return Planned(title, SitePlan(new_files={SITE_FILE: text.encode()}))
        edits = edit_set(existing, edits_between(existing.text, text, reason="as it is settled"))
        return Planned(title, SitePlan({SITE_FILE: edits} if edits else {}))
