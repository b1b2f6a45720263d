"""How far a page has come at each stage of the work: what the strip across its desk says."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from enum import StrEnum

from signpost.core.page import Page
from signpost.core.page.outline import read_outline
from signpost.core.text.words import count_of
from signpost.desk.page_navigation import NavigationView
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
class StageView:
    """A stage of the work on a page."""

    stage: str
    progress: StageProgress
    words: str  # what is done or left, in a few words


def view_stages(
    page: Page, structure: StructureView, navigation: NavigationView, back_links: Iterable[bool], broken: int
) -> tuple[StageView, ...]:
    """Return the stages that the page alone tells; `back_links` says of each section whether it has one."""
    return (
        _headings(page, structure),
        _identifiers(page, structure),
        _contents(page, navigation),
        _jumps(navigation, broken),
        _back_to_top(page, list(back_links)),
    )


def _headings(page: Page, structure: StructureView) -> StageView:
    count = len(page.headings)
    if structure.lookalikes:
        return StageView("headings", StageProgress.TODO, count_of(len(structure.lookalikes), "look-alike"))
    if structure.repairs:
        words = {"gaps": "levels skipped", "several-h1": "several h1", "no-h1": "no h1"}
        return StageView("headings", StageProgress.WRONG, words[structure.repairs[0].code])
    if structure.missing:
        return StageView("headings", StageProgress.OPTIONAL, f"{len(structure.missing)} may be missing")
    return StageView("headings", StageProgress.DONE, count_of(count, "heading")) if count else _NO_HEADINGS


_NO_HEADINGS = StageView("headings", StageProgress.TODO, "none")


def _identifiers(page: Page, structure: StructureView) -> StageView:
    below = [heading for heading in page.headings if heading.level > 1]
    missing = sum(heading.identifier is None for heading in below)
    twice = len(structure.twice)
    if missing:
        return StageView(
            "identifiers", StageProgress.TODO, f"{missing:,} missing" + (f", {twice} twice" if twice else "")
        )
    if twice:
        return StageView("identifiers", StageProgress.WRONG, f"{twice} used twice")
    if structure.anchors:
        return StageView("identifiers", StageProgress.OPTIONAL, count_of(structure.anchors, "old anchor"))
    return StageView("identifiers", StageProgress.DONE, f"all {len(below):,}" if below else "no sections")


def _contents(page: Page, navigation: NavigationView) -> StageView:
    wrong = sum(
        sum(entry.state in ("stale", "gone", "doubted") for entry in block.entries) + len(block.missing)
        for block in navigation.contents
    )
    if wrong:
        return StageView("contents", StageProgress.WRONG, f"{wrong:,} out of date")
    if navigation.contents:
        entries = sum(len(block.entries) for block in navigation.contents)
        return StageView("contents", StageProgress.DONE, "1 entry" if entries == 1 else f"{entries:,} entries")
    if navigation.handmade:
        listed = len({guess.section for guess in navigation.handmade[0].guesses if guess.sure} - {None})
        return StageView("contents", StageProgress.TODO, f"yours lists {listed} of {len(page.headings)}")
    long = sum(heading.level == _BACK_LEVEL for heading in page.headings) >= _LONG
    return StageView("contents", StageProgress.TODO if long else StageProgress.OPTIONAL, "none yet")


def _jumps(navigation: NavigationView, broken: int) -> StageView:
    if broken:
        return StageView("jumps", StageProgress.WRONG, f"{broken} broken")
    offers = len(navigation.offers)
    if offers:
        return StageView("jumps", StageProgress.OPTIONAL, count_of(offers, "suggestion"))
    return StageView("jumps", StageProgress.DONE, "none broken")


def _back_to_top(page: Page, has: Sequence[bool]) -> StageView:
    sections = read_outline(page).flat()
    wanted = [has[section.index] for section in sections if section.level == _BACK_LEVEL]
    if not wanted:
        return StageView("back-to-top", StageProgress.OPTIONAL, "no sections")
    if not any(wanted):
        progress = StageProgress.TODO if len(wanted) >= _LONG else StageProgress.OPTIONAL
        return StageView("back-to-top", progress, "none yet")
    progress = StageProgress.DONE if all(wanted) else StageProgress.TODO
    return StageView("back-to-top", progress, f"{sum(wanted)} of {len(wanted)}")
