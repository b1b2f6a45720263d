"""How far a page has come at each stage of the work: what the strip across its desk says."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import asdict, dataclass, replace
from enum import StrEnum
from typing import Any, Literal, Protocol

from signpost.core.addresses.links import LinkKind
from signpost.core.back_to_top.planning import BackLinkOptions, plan_back_links
from signpost.core.contents import Handmade
from signpost.core.contents.own import read_page_contents
from signpost.core.findings import Fix, Severity
from signpost.core.operations import Operation
from signpost.core.operations.contents import BackToTop, Contents
from signpost.core.operations.findings import FixFindings
from signpost.core.operations.headings import Promote
from signpost.core.operations.identifiers import Identify
from signpost.core.page import Page
from signpost.core.page.outline import read_outline
from signpost.core.text.errors import SignpostError
from signpost.core.text.words import count_of
from signpost.desk.finding_views import FindingView
from signpost.desk.page_navigation import ContentsView, NavigationView
from signpost.desk.structure import StructureView

#: The level whose sections are expected to have a link back to the top, and how many sections of it make a page long.
_BACK_LEVEL = 2
_LONG = 3


class StageProgress(StrEnum):
    """What a stage asks for."""

    DONE = "done"
    OPTIONAL = "optional"  # something could be done, and need not be
    TODO = "todo"  # something is left to do
    WRONG = "wrong"  # something is wrong


@dataclass(frozen=True, slots=True)
class StepView:
    """What comes next at a stage: edits that need no choice, a form that asks, or a place to look at."""

    edits: Mapping[str, Any] | None  # a request for an operation
    form: Literal["", "repair", "twice", "adopt", "landing-fixes"]
    code: str  # of the repair that the form is about
    start: int | None  # where it begins that this is about
    line: int


#: Where nothing comes next, or the stage itself says it.
NO_STEP = StepView(None, "", "", None, 0)


@dataclass(frozen=True, slots=True)
class StageView:
    """A stage of the work on a page."""

    stage: str
    progress: StageProgress
    words: str  # what is done or left, in a few words
    steps: tuple[StepView, ...]  # what is to be done or decided, one after another; at least one


def stage_with(stage: str, progress: StageProgress, words: str, *steps: StepView) -> StageView:
    """Return a stage."""
    return StageView(stage, progress, words, steps or (NO_STEP,))


class LinkPlace(Protocol):
    """A link, as far as its place is asked for."""

    @property
    def start(self) -> int:
        """Offset of its start tag."""

    @property
    def line(self) -> int:
        """Its line, 1-based."""

    @property
    def href(self) -> str | None:
        """Its address as written."""


def view_stages(
    page: Page,
    structure: StructureView,
    navigation: NavigationView,
    back_links: Iterable[bool],
    broken: Sequence[LinkPlace],
    findings: Sequence[FindingView],
    *,
    is_arriving: bool,
) -> tuple[StageView, ...]:
    """Return the stages that need no measuring.

    `back_links` says of each section whether it has one, `broken` the links that lead nowhere,
    `findings` what is wrong on it; `is_arriving`, other pages are not read yet.
    """
    return (
        _headings(page, structure),
        _identifiers(page, structure),
        _contents(page, navigation),
        _jumps(page, navigation, broken, findings),
        _back_to_top(page, list(back_links)),
        view_findings_stage(page.path, findings, is_arriving=is_arriving),
    )


def show_edits(page: Page, operation: Operation) -> StepView:
    """Return the step that shows what an operation would do."""
    return replace(NO_STEP, edits={"operation": operation.does, "page": page.path, **asdict(operation)})


def _place(start: int, line: int) -> StepView:
    """Return the step that shows a place."""
    return replace(NO_STEP, start=start, line=line)


def _form(form: Literal["repair", "twice", "adopt", "landing-fixes"]) -> StepView:
    """Return the step that opens a form."""
    return replace(NO_STEP, form=form)


def _headings(page: Page, structure: StructureView) -> StageView:
    count = len(page.headings)
    steps = [replace(_form("repair"), code=repair.code) for repair in structure.repairs]
    if structure.lookalikes:
        sure = [one for one in structure.lookalikes if one.sure]
        doubted = next((one for one in structure.lookalikes if not one.sure), None)
        steps = steps if doubted is None else [_place(doubted.start, doubted.line), *steps]
        if sure:
            edits = show_edits(page, Promote(levels={one.index: one.level for one in sure}))
            steps.insert(0, replace(edits, start=sure[0].start, line=sure[0].line))
        words = count_of(len(structure.lookalikes), "look-alike")
        return stage_with("headings", StageProgress.TODO, words, *steps)
    if structure.repairs:
        said = {"gaps": "levels skipped", "several-h1": "several h1", "chapters": "several h1", "no-h1": "no h1"}
        return stage_with("headings", StageProgress.WRONG, said[structure.repairs[0].code], *steps)
    if structure.missing:
        return stage_with("headings", StageProgress.OPTIONAL, f"{len(structure.missing)} may be missing")
    return stage_with("headings", StageProgress.DONE, count_of(count, "heading")) if count else _NO_HEADINGS


_NO_HEADINGS = stage_with("headings", StageProgress.TODO, "none")


def _identifiers(page: Page, structure: StructureView) -> StageView:
    below = [heading for heading in page.headings if heading.level > 1]
    missing = sum(heading.identifier is None for heading in below)
    twice = len(structure.twice)
    if missing:
        words = f"{missing:,} missing" + (f", {twice} twice" if twice else "")
        levels = tuple(sorted({heading.level for heading in below}))
        return stage_with("identifiers", StageProgress.TODO, words, show_edits(page, Identify(levels=levels)))
    if twice:
        return stage_with("identifiers", StageProgress.WRONG, f"{twice} used twice", _form("twice"))
    if structure.anchors:
        return stage_with("identifiers", StageProgress.OPTIONAL, count_of(structure.anchors, "old anchor"))
    return stage_with("identifiers", StageProgress.DONE, f"all {len(below):,}" if below else "no sections")


def _contents(page: Page, navigation: NavigationView) -> StageView:
    wrong = {block.index: _count_wrong(block) for block in navigation.contents}
    if any(wrong.values()):
        first = next(index for index, count in wrong.items() if count)
        words = f"{sum(wrong.values()):,} out of date"
        return stage_with("contents", StageProgress.WRONG, words, show_edits(page, Contents(block=first)))
    own = read_page_contents(page)
    if own.whole is not None:
        entries = sum(len(block.entries) for block in navigation.contents)
        return stage_with("contents", StageProgress.DONE, "1 entry" if entries == 1 else f"{entries:,} entries")
    if own.handmade is not None:
        return _own_list(own.handmade, page)
    long = sum(heading.level == _BACK_LEVEL for heading in page.headings) >= _LONG
    progress = StageProgress.TODO if long else StageProgress.OPTIONAL
    parts = len(navigation.contents)
    words = "none yet" if not parts else f"of {count_of(parts, 'section')}, none of the page"
    return stage_with("contents", progress, words, show_edits(page, Contents(block="new")))


def _own_list(one: Handmade, page: Page) -> StageView:
    """Return the stage of contents whose author made a list of the page by hand; one that is complete is done."""
    listed = len({guess.section for guess in one.guesses if guess.sure} - {None})
    line = page.source.lines.line(one.start)
    step = replace(_form("adopt"), start=one.start, line=line)
    if not one.missing and all(guess.leads for guess in one.guesses):
        return stage_with("contents", StageProgress.DONE, f"yours, {count_of(listed, 'section')}")
    return stage_with("contents", StageProgress.TODO, f"yours lists {listed} of {listed + len(one.missing)}", step)


def _count_wrong(block: ContentsView) -> int:
    """Return how many entries of a block are out of date or missing."""
    return sum(entry.state in ("stale", "gone", "doubted") for entry in block.entries) + len(block.missing)


def _jumps(
    page: Page, navigation: NavigationView, broken: Sequence[LinkPlace], findings: Sequence[FindingView]
) -> StageView:
    if broken:
        pressed = {one.start: one for one in findings if one.fixable and one.severity == Severity.ERROR}
        distinct = {one.href: one for one in reversed(broken)}  # one address that is dead is one thing to decide
        first = sorted(distinct.values(), key=lambda one: one.start)
        steps = [_led(page, one, pressed.get(one.start)) for one in first]
        return stage_with("jumps", StageProgress.WRONG, f"{len(broken)} broken", *steps)
    offers = len(navigation.offers)
    if offers:
        return stage_with("jumps", StageProgress.OPTIONAL, count_of(offers, "suggestion"))
    return stage_with("jumps", StageProgress.DONE, "none broken")


def _led(page: Page, link: LinkPlace, finding: FindingView | None) -> StepView:
    """Return the step to a link that leads nowhere, with the edits that lead it where it surely means to lead."""
    place = _place(link.start, link.line)
    if finding is None:
        return place
    return replace(place, edits=show_edits(page, FixFindings(rule=finding.rule, start=finding.start)).edits)


def _back_to_top(page: Page, has: Sequence[bool]) -> StageView:
    sections = read_outline(page).flat()
    wanted = [has[section.index] for section in sections if section.level == _BACK_LEVEL]
    if not wanted:
        return stage_with("back-to-top", StageProgress.OPTIONAL, "no sections")
    if all(wanted):
        return stage_with("back-to-top", StageProgress.DONE, f"{len(wanted)} of {len(wanted)}")
    if not _may_have_ways_back(page):
        done = sum(wanted)
        words = f"{done} of {done}" if done else "none needed"
        return stage_with("back-to-top", StageProgress.DONE if done else StageProgress.OPTIONAL, words)
    step = show_edits(page, BackToTop())
    if not any(wanted):
        progress = StageProgress.TODO if len(wanted) >= _LONG else StageProgress.OPTIONAL
        return stage_with("back-to-top", progress, "none yet", step)
    return stage_with("back-to-top", StageProgress.TODO, f"{sum(wanted)} of {len(wanted)}", step)


def _may_have_ways_back(page: Page) -> bool:
    """Return whether a section lacks a way back and can have one; where that is refused, its author is told why."""
    try:
        return bool(plan_back_links(page, BackLinkOptions()))
    except SignpostError:
        return True


def view_findings_stage(path: str, findings: Sequence[FindingView], *, is_arriving: bool = False) -> StageView:
    """Return the stage of some findings of a page, by how grave each is; `is_arriving`, there may be others.

    What needs no question is fixed first; then the first of each rule comes, the gravest before the others.
    """
    if not findings and is_arriving:
        return stage_with("findings", StageProgress.OPTIONAL, "not looked for yet")
    if not findings:
        return stage_with("findings", StageProgress.DONE, "none")
    worst = min((one.severity for one in findings), key=[*_BY_SEVERITY].index)
    steps = [] if not any(map(_asks_nothing, findings)) else [replace(NO_STEP, edits=_fix_all(path))]
    for severity in (Severity.ERROR, Severity.WARNING):
        those = [one for one in findings if one.severity == severity and not _asks_nothing(one)]
        steps += [_place(one.start, one.line) for one in {one.rule: one for one in reversed(those)}.values()]
    return stage_with("findings", _BY_SEVERITY[worst], count_of(len(findings), "finding"), *steps)


def _asks_nothing(finding: FindingView) -> bool:
    return finding.fixable and finding.fix == Fix.AUTO


def _fix_all(path: str) -> Mapping[str, Any]:
    """Return the request that fixes what needs no question on a page."""
    return {"operation": FixFindings.does, "page": path, **asdict(FixFindings())}


def describe_page(page: Page, navigation: NavigationView, back_links: int, broken: int) -> str:
    """Return a short account of what a page is now, for when nothing is left to do."""
    named = sum(heading.identifier is not None for heading in page.headings)
    own = read_page_contents(page)
    entries = sum(len(block.entries) for block in navigation.contents)
    entries += len(own.handmade.listing.entries) if own.handmade is not None else 0
    jumps = any(link.kind is LinkKind.FRAGMENT for link in page.links)
    lands = f"{count_of(broken, 'jump')} dead" if broken else "every jump leads somewhere" if jumps else "no jumps"
    return (
        f"{count_of(named, 'identifier')}, {'1 entry' if entries == 1 else f'{entries:,} entries'}, "
        f"{'1 way' if back_links == 1 else f'{back_links:,} ways'} back, {lands}"
    )


_BY_SEVERITY: Mapping[str, StageProgress] = {
    Severity.ERROR: StageProgress.WRONG,
    Severity.WARNING: StageProgress.TODO,
    Severity.ADVICE: StageProgress.OPTIONAL,
}
