"""Where a heading is missing, and a heading put before a block."""

from __future__ import annotations

from collections.abc import Collection
from dataclasses import dataclass
from itertools import groupby, pairwise

from signpost.core.headings.levels import LOWEST, heading_before
from signpost.core.identifiers.sections import find_objection
from signpost.core.page import Nodes, Page, read_nodes
from signpost.core.page.blocks import Block, read_blocks
from signpost.core.text.edits import EditSet, edit_set
from signpost.core.text.errors import GoneError, RequestError

#: Words without a heading that are tolerable, unless the author says otherwise.
LONGEST_RUN = 400


@dataclass(frozen=True, slots=True)
class Missing:
    """A place where a heading seems to be missing."""

    block: Block  # that it would be before
    level: int  # that it would take
    reason: str  # in plain words


def find_missing(
    page: Page, longest: int = LONGEST_RUN, lookalikes: Collection[int] = (), nodes: Nodes | None = None
) -> list[Missing]:
    """Return the places where a heading seems to be missing: in runs of more than `longest` words, after rules.

    A long run is pointed out at the block before which half of its words are. Blocks that begin at `lookalikes`
    only look like headings; runs end there, for they are pointed out already.
    """
    nodes = nodes or read_nodes(page)
    blocks = read_blocks(page, nodes)
    found = []
    for section, group in groupby(blocks, key=lambda block: block.section):
        level = _level_below(page, section)
        for own in _runs(list(group), lookalikes):
            found += _after_rules(own, level)
            words = sum(block.words for block in own)
            if words > longest and (half := _half_way(own, words)) is not None:
                found.append(Missing(half, level, f"{words} words without a heading"))
    unique = {missing.block.start: missing for missing in reversed(found)}
    return sorted(unique.values(), key=lambda missing: missing.block.start)


def plan_heading(page: Page, before: int, level: int, words: str, identifier: str | None = None) -> EditSet:
    """Return the edits that put a heading before the block whose start tag begins at `before`.

    Raises RequestError where no such block is there, for no words, a level out of range, or an
    invalid identifier.
    """
    if before not in {block.start for block in read_blocks(page)}:
        raise GoneError("The block")
    if not 1 <= level <= LOWEST:
        raise RequestError(f"Headings have levels 1 to 6, not {level}.")
    if identifier and (objection := find_objection(identifier, {target.name for target in page.targets})):
        raise RequestError(objection)
    return edit_set(page.source, [heading_before(page, before, level, words, identifier or None)])


def _runs(own: list[Block], lookalikes: Collection[int]) -> list[list[Block]]:
    """Return a section's blocks, parted where one only looks like a heading; that one left out."""
    runs: list[list[Block]] = [[]]
    for block in own:
        if block.start in lookalikes:
            runs.append([])
        else:
            runs[-1].append(block)
    return runs


def _after_rules(own: list[Block], level: int) -> list[Missing]:
    """Return the blocks that a rule sets off from what is before them in the same section."""
    return [
        Missing(block, level, "set off by a rule")
        for before, block in pairwise(own)
        if before.tag == "hr" and block.tag != "hr" and block.words and before is not own[0]
    ]


def _half_way(own: list[Block], words: int) -> Block | None:
    behind = 0
    for row, block in enumerate(own):
        if row and behind * 2 >= words:
            return block
        behind += block.words
    return own[-1] if len(own) > 1 else None


def _level_below(page: Page, section: int) -> int:
    return 2 if section < 0 else min(page.headings[section].level + 1, LOWEST)
