"""Lines that look like headings but are not: found, scored and given levels."""

from __future__ import annotations

from bisect import bisect_right
from collections import Counter
from collections.abc import Collection, Sequence
from dataclasses import dataclass

from signpost.core.headings.lookalike_lines import Run, find_runs, run_start
from signpost.core.headings.lookalike_scores import Appearance, anchors_of, judge_run
from signpost.core.page import Heading, Nodes, Page, read_nodes

#: From which score on a look-alike counts as sure; out of 100.
SURE = 70
#: Below which score a line is not worth a question.
LEAST = 40
_NEARLY_ALL = 0.8  # of the lines that look the same


@dataclass(frozen=True, slots=True)
class Lookalike:
    """A line that looks like a heading."""

    run: Run
    text: str
    level: int  # that it would take
    score: int  # out of 100
    reasons: tuple[str, ...]  # in plain words
    start: int  # where its block, or its line in it, begins
    identifier: str | None  # that a fragment reaches it by already; None where none does

    @property
    def key(self) -> str:
        """By what a refusal is remembered: its words, so that edits elsewhere do not matter."""
        return self.text.casefold()

    @property
    def sure(self) -> bool:
        """Whether it can be made a heading without a question."""
        return self.score >= SURE


@dataclass(frozen=True, slots=True)
class LookalikeSection:
    """What would be a section if a look-alike were a heading."""

    lookalike: Lookalike
    end: int  # where the next one of its level or a higher one begins
    sections: list[LookalikeSection]  # within it


def nest_lookalikes(found: Sequence[Lookalike], start: int, end: int) -> list[LookalikeSection]:
    """Return the look-alikes between two offsets as sections within one another, by their levels."""
    listed: list[LookalikeSection] = []
    open_: list[tuple[int, list[LookalikeSection]]] = [(0, listed)]
    within = [one for one in found if start <= one.start < end]
    for row, one in enumerate(within):
        after = next((other.start for other in within[row + 1 :] if other.level <= one.level), end)
        while open_[-1][0] >= one.level:
            open_.pop()
        section = LookalikeSection(one, after, [])
        open_[-1][1].append(section)
        open_.append((one.level, section.sections))
    return listed


def find_lookalikes(page: Page, refused: Collection[str] = (), nodes: Nodes | None = None) -> list[Lookalike]:
    """Return the look-alike headings of a page's content in source order; `refused` holds keys of those put aside."""
    nodes = nodes or read_nodes(page)
    looks = [(run, judge_run(nodes, run)) for run in find_runs(nodes)]
    shapes = Counter(look.size for _, look in looks if look.score >= LEAST)
    found = []
    for run, look in looks:
        score, reasons = look.score, look.reasons
        if score >= LEAST and shapes[look.size] > 1:
            more = shapes[look.size] - 1
            score, reasons = score + 10, (*reasons, f"{more} more {'looks' if more == 1 else 'look'} like it")
        found.append((run, Appearance(min(score, 100), look.size, reasons)))
    kept = [(run, look) for run, look in found if look.score >= LEAST and run.text.casefold() not in refused]
    levels = _propose_levels(page, kept)
    return [
        Lookalike(run, run.text, level, look.score, look.reasons, run_start(run), _identifier(nodes, run))
        for (run, look), level in zip(kept, levels, strict=True)
    ]


def _identifier(nodes: Nodes, run: Run) -> str | None:
    own = run.block.attributes.get("id") if run.whole and run.block.tag in ("p", "div", "table") else None
    marks = (anchor.attributes.get("id") or anchor.attributes.get("name") for anchor in anchors_of(nodes, run))
    return own or next(marks, None)


def _propose_levels(page: Page, kept: Sequence[tuple[Run, Appearance]]) -> list[int]:
    """Return a level for each: from its place where the page has headings below the first level, else by its size."""
    starts = [heading.element.open.start for heading in page.headings]
    if any(heading.level > 1 for heading in page.headings):
        by_place = [_level_by_place(page.headings, bisect_right(starts, run.span.start)) for run, _ in kept]
        return _alike([look.size for _, look in kept], by_place)
    sizes = sorted({look.size for _, look in kept}, reverse=True)
    titled = bool(page.headings)
    if not titled and kept:
        largest = [look for _, look in kept if look.size == sizes[0]]
        titled = not (len(largest) == 1 and kept[0][1] is largest[0] and len(kept) > 1)
    first = 2 if titled else 1
    levels: list[int] = []
    for _, look in kept:
        deepest = levels[-1] + 1 if levels else first
        levels.append(min(first + sizes.index(look.size), deepest, 6))
    return _alike([look.size for _, look in kept], levels)


def _alike(sizes: Sequence[float], by_place: Sequence[int]) -> list[int]:
    """Return levels that are the same for lines that look the same: the highest that one of them has by its place.

    Where nearly all have one level by their places, the few others keep theirs.
    """
    own: dict[float, Counter[int]] = {}
    for size, level in zip(sizes, by_place, strict=True):
        own.setdefault(size, Counter())[level] += 1
    levels = []
    for size, level in zip(sizes, by_place, strict=True):
        most = max(own[size].values())
        levels.append(level if most >= _NEARLY_ALL * own[size].total() else min(own[size]))
    return levels


def _level_by_place(headings: Sequence[Heading], following: int) -> int:
    """Return the level for a line before the heading with index `following`.

    It is one below the heading above; but the same where the headings that follow are the first ones below it, and so
    would be left without their own.
    """
    if following == 0:
        return max(2, headings[0].level)
    before = headings[following - 1].level
    after = headings[following].level if following < len(headings) else 0
    if after > before:
        return max(2, before)
    return min(before + 1, 6)
