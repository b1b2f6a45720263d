"""Findings fixed: those that one right edit puts right, one at a time or all of a rule at once."""

from __future__ import annotations

from collections.abc import Collection, Iterable

from signpost.core.contents import find_outdated
from signpost.core.findings.catalogue import Finding, Fix
from signpost.core.findings.check import check_page
from signpost.core.findings.ways import CONTENTS, WAY_BACK, edits_for
from signpost.core.parts.planning import plan_refreshed_parts
from signpost.core.parts.series import series_of
from signpost.core.site.plans import SitePlan
from signpost.core.site.site import Site
from signpost.core.text.edits import Edit, EditSet, edit_set
from signpost.core.text.errors import GoneError, SignpostError

#: Rules whose fix is a refresh of all that they are about.
_CONTENTS = frozenset(["contents-out-of-date", "section-without-entry"])
_PARTS = "parts-out-of-date"
#: Rules whose fix makes what is missing.
_WAYS = frozenset([CONTENTS, WAY_BACK])


def has_fix(finding: Finding) -> bool:
    """Return whether a finding is fixed by one press, without a question."""
    planned = finding.rule.code in _CONTENTS | _WAYS or finding.rule.code == _PARTS
    return bool(finding.edits) or planned


def plan_fixes(
    site: Site, paths: Iterable[str], codes: Collection[str] | None = None, start: int | None = None
) -> SitePlan:
    """Return the plan that fixes what one press can, on some pages: of the named rules, or of all that need no look.

    With `start`, only the finding of the rule at that offset. Raises GoneError where it is not there any more.
    """
    edits: dict[str, EditSet] = {}
    parts: dict[str, SitePlan] = {}
    asked = 0
    for path in paths:
        wanted = [
            one
            for one in check_page(site, path)
            if (one.rule.code in codes if codes is not None else one.rule.fix is Fix.AUTO)
            and (start is None or one.span.start == start)
        ]
        asked += len(wanted)
        fixable = [one for one in wanted if has_fix(one)]
        if any(one.rule.code == _PARTS for one in fixable):
            series = series_of(site, path)
            home = series.home if series else path
            parts[home] = plan_refreshed_parts(site, home)
        found = _edits_on(site, path, fixable)
        if found:
            edits[path] = found
    if start is not None and not asked:
        raise GoneError("The finding")
    return _together(edits, parts.values())


def _edits_on(site: Site, path: str, findings: Collection[Finding]) -> EditSet | None:
    """Return the edits that fix findings of one page, without those that get in each other's way."""
    page = site.pages[path]
    if page.source.damage is not None:
        return None
    chosen: list[Edit] = []
    for edit in _all_edits(site, path, findings):
        try:
            edit_set(page.source, [*chosen, edit])
        except SignpostError:
            continue  # of two at one place the first; the other is found again afterwards
        chosen.append(edit)
    return edit_set(page.source, chosen) if chosen else None


def _all_edits(site: Site, path: str, findings: Collection[Finding]) -> Iterable[Edit]:
    for finding in findings:
        yield from finding.edits
    if any(finding.rule.code in _CONTENTS for finding in findings):
        for _, outdated in find_outdated(site.pages[path]):
            yield from outdated.edits
    for code in sorted(_WAYS & {finding.rule.code for finding in findings}):
        yield from edits_for(site.pages[path], code)


def _together(edits: dict[str, EditSet], plans: Iterable[SitePlan]) -> SitePlan:
    """Return one plan of several; a page that two of them edit is edited by the first, and found again after it."""
    merged, notes = dict(edits), list[str]()
    new_files: dict[str, bytes] = {}
    for plan in plans:
        for path, found in plan.edits.items():
            merged.setdefault(path, found)
        new_files.update(plan.new_files)
        notes += plan.notes
    return SitePlan(merged, new_files, notes=tuple(notes))
