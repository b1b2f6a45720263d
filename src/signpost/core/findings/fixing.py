"""Findings fixed: one, all of a rule, or all that need no question, on some pages, as one plan."""

from __future__ import annotations

from bisect import bisect_left, insort
from collections.abc import Collection, Iterable, Iterator

from signpost.core.contents import find_outdated
from signpost.core.findings.catalogue import REFRESHED, Choice, Finding, Fix
from signpost.core.findings.check import USUAL, check_page
from signpost.core.findings.options import CheckOptions
from signpost.core.findings.sections import LOOKALIKE, plan_unmade
from signpost.core.findings.ways import CONTENTS, WAY_BACK, edits_for
from signpost.core.parts.planning import plan_refreshed_parts
from signpost.core.parts.series import series_of
from signpost.core.site.plans import SitePlan
from signpost.core.site.site import Site
from signpost.core.site.worked import WorkedSite
from signpost.core.text.edits import Edit, EditSet, edit_set
from signpost.core.text.errors import GoneError, SignpostError

_PARTS = "parts-out-of-date"
_CONTENTS = REFRESHED - {_PARTS}
#: Rules of the tags themselves, on which depends what else is found.
_TAGS = frozenset(
    "bracket-missing quote-missing equals-missing element-misspelt tag-space-missing end-tag-mistyped "
    "quote-typographic tag-unescaped element-self-closed end-tag-missing end-tag-stray elements-crossed link-in-link "
    "heading-tags-unequal".split()
)
#: How often fixes are looked for at most, each time on what those before have left.
_MOST_TURNS = 8
#: Rules whose fix makes what is missing.
MADE_ANEW = frozenset([CONTENTS, WAY_BACK])


def has_fix(finding: Finding) -> bool:
    """Return whether a finding is fixed by one press, without a question."""
    planned = finding.rule.code in REFRESHED | MADE_ANEW
    return bool(finding.edits) or _has_one_answer(finding) or planned


def _has_one_answer(finding: Finding) -> bool:
    """Return whether what is offered as a choice is the only one, of a rule that needs no question."""
    return finding.rule.fix is Fix.AUTO and not finding.edits and len(finding.choices) == 1


def plan_fixes(
    site: Site,
    paths: Iterable[str],
    codes: Collection[str] | None = None,
    start: int | None = None,
    choice: int | None = None,
    options: CheckOptions = USUAL,
    cause: str | None = None,
) -> SitePlan:
    """Return the plan that fixes findings of some pages: of the named rules, or of all that need no question.

    With `start`, only the finding of the rule at that offset; with `cause`, those of that cause. With `choice`,
    findings that have choices are fixed by that one, counted from 0, or by their last; else they are left. Raises
    GoneError where there is none at `start`. Else what is left, or comes up once others are right, is fixed as well:
    the same again would change nothing.
    """
    if start is not None:
        return _plan_round(site, paths, codes, start, choice, options, cause)
    worked = WorkedSite(site)
    notes: dict[str, None] = {}
    for _ in range(_MOST_TURNS):
        plan = _plan_round(worked.site, paths, codes, None, choice, options, cause)
        notes |= dict.fromkeys(plan.notes)
        if not plan:
            break
        worked.put_in(plan)
        paths = tuple(path for path in plan.edits if path in worked.site.pages)
    return worked.plan(notes, reason="findings fixed")


def _plan_round(
    site: Site,
    paths: Iterable[str],
    codes: Collection[str] | None,
    start: int | None,
    choice: int | None,
    options: CheckOptions,
    cause: str | None,
) -> SitePlan:
    """Return the plan that fixes what is found now, as far as one fix does not get in another's way."""
    merger = _Merger(site)
    asked = 0
    for path in paths:
        wanted = [
            one
            for one in check_page(site, path, options)
            if (one.rule.code in codes if codes is not None else one.fix is Fix.AUTO)
            and (start is None or one.span.start == start)
            and (cause is None or one.cause == cause)
        ]
        asked += len(wanted)
        for plan in _plans(site, path, wanted, choice, options, alone=start is not None):
            merger.add(plan)
    if start is not None and not asked:
        raise GoneError("The finding")
    return merger.plan()


def _plans(
    site: Site, path: str, findings: Collection[Finding], choice: int | None, options: CheckOptions, *, alone: bool
) -> Iterator[SitePlan]:
    """Yield what fixes each of the findings of a page; a fix is done whole, or not at all.

    Tags come first, and others once they are right: what a page consists of is known then. Look-alike headings come
    before what else is done to them, all together, so that their levels fit; `alone`, it is one that is fixed.
    """
    page = site.pages[path]
    if page.source.damage is not None:
        return
    tags = [one for one in findings if one.rule.code in _TAGS]
    if any(has_fix(one) or (one.choices and choice is not None) for one in tags):
        findings = tags
    codes = {one.rule.code for one in findings if not one.choices}
    if _PARTS in codes:
        series = series_of(site, path)
        yield plan_refreshed_parts(site, series.home if series else path)
    if not alone and any(one.rule.code == LOOKALIKE for one in findings):
        yield plan_unmade(page, options.refused.get(path, ()))
        findings = [one for one in findings if one.rule.code != LOOKALIKE]
    for one in findings:
        chosen = _chosen(one, choice)
        if chosen is not None and chosen.plan is not None:
            yield chosen.plan()
        else:
            edits = chosen.edits if chosen is not None else one.edits
            yield SitePlan({path: edit_set(page.source, edits)} if edits else {})
    if codes & _CONTENTS:
        for _, outdated in find_outdated(page):
            yield SitePlan({path: outdated})
    for code in sorted(MADE_ANEW & codes):
        yield SitePlan({path: edit_set(page.source, edits_for(page, code))})


def _chosen(finding: Finding, choice: int | None) -> Choice | None:
    if not finding.choices:
        return None
    if choice is None:  # of several, the author has to say which
        return finding.choices[0] if _has_one_answer(finding) else None
    return finding.choices[min(choice, len(finding.choices) - 1)]


class _Merger:
    """Puts plans together; of two that get in each other's way, the later one is left, and found again afterwards."""

    def __init__(self, site: Site) -> None:
        self.site = site
        self.edits: dict[str, list[Edit]] = {}
        self.taken: dict[str, list[tuple[int, int]]] = {}  # places of the edits, in order
        self.new_files: dict[str, bytes] = {}
        self.gone: set[str] = set()
        self.notes: dict[str, None] = {}

    def add(self, plan: SitePlan) -> None:
        """Add a plan, whole or not at all."""
        wanted = {
            path: [one for one in edits.edits if not self._is_there(path, one)] for path, edits in plan.edits.items()
        }
        if any(self._is_taken(path, one) for path, edits in wanted.items() for one in edits):
            return
        if any(self.new_files.get(path, data) != data for path, data in plan.new_files.items()):
            return
        for path, edits in wanted.items():
            for one in edits:
                self.edits.setdefault(path, []).append(one)
                insort(self.taken.setdefault(path, []), (one.start, one.end))
        self.new_files.update(plan.new_files)
        self.gone.update(plan.gone)
        self.notes.update(dict.fromkeys(plan.notes))

    def _is_there(self, path: str, edit: Edit) -> bool:
        """Return whether the same was planned already, as by two findings of one cause."""
        return (edit.start, edit.end) in self._near(path, edit) and edit in self.edits.get(path, ())

    def _is_taken(self, path: str, edit: Edit) -> bool:
        """Return whether an edit touches one that was planned already."""
        return any(start <= edit.end and edit.start <= end for start, end in self._near(path, edit))

    def _near(self, path: str, edit: Edit) -> Collection[tuple[int, int]]:
        taken = self.taken.get(path, [])
        at = bisect_left(taken, (edit.start, edit.end))
        return taken[max(0, at - 2) : at + 2]

    def plan(self) -> SitePlan:
        """Return all of them as one plan."""
        sets: dict[str, EditSet] = {}
        for path, edits in self.edits.items():
            try:
                sets[path] = edit_set(self.site.source(path), edits)
            except SignpostError:
                continue
        found = {path: edits for path, edits in sets.items() if edits}
        return SitePlan(found, self.new_files, tuple(self.gone), tuple(self.notes))
