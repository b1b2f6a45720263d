"""What two sequences of lines have in common, quickly whatever they hold.

Lines that both have exactly once are matched first, as far as they are in one order; what is between two of them is
compared in the same way. Only short stretches without such lines are compared line by line, which takes the cube of
their length where lines repeat.
"""

from __future__ import annotations

from bisect import bisect_left
from collections import Counter
from collections.abc import Iterator, Sequence
from difflib import SequenceMatcher
from itertools import chain
from typing import TypeVar

T = TypeVar("T", str, bytes)

#: A kind ("equal", "replace", "insert", "delete"), and the half-open stretches of both that it is about.
Opcode = tuple[str, int, int, int, int]
_Stretch = tuple[int, int, int, int]

#: Product of the lengths of two stretches beyond which they are not compared line by line.
_MOST_PAIRS = 40_000


def equal_ends(a: Sequence[object], b: Sequence[object]) -> tuple[int, int]:
    """Return how many items two sequences share at their beginnings, and how many of the others at their ends."""
    shortest = min(len(a), len(b))
    head = next((index for index in range(shortest) if a[index] != b[index]), shortest)
    rest = shortest - head
    return head, next((index for index in range(rest) if a[-1 - index] != b[-1 - index]), rest)


def line_opcodes(a: Sequence[T], b: Sequence[T]) -> list[Opcode]:
    """Return how `b` comes of `a`, in the order of both."""
    codes: list[Opcode] = []
    i = j = 0
    for at_a, at_b, count in chain(_joined(sorted(_matches(a, b))), [(len(a), len(b), 0)]):
        if i < at_a or j < at_b:
            kind = "replace" if i < at_a and j < at_b else "delete" if i < at_a else "insert"
            codes.append((kind, i, at_a, j, at_b))
        i, j = at_a + count, at_b + count
        if count:
            codes.append(("equal", at_a, i, at_b, j))
    return codes


def _joined(matches: Sequence[tuple[int, int, int]]) -> Iterator[tuple[int, int, int]]:
    """Yield matches, those that follow one another as one."""
    last: tuple[int, int, int] | None = None
    for a, b, count in matches:
        if last is not None and last[0] + last[2] == a and last[1] + last[2] == b:
            last = (last[0], last[1], last[2] + count)
            continue
        if last is not None:
            yield last
        last = (a, b, count)
    if last is not None:
        yield last


def _matches(a: Sequence[T], b: Sequence[T]) -> Iterator[tuple[int, int, int]]:
    """Yield stretches that are equal: where they begin in both, and their length."""
    pending: list[_Stretch] = [(0, len(a), 0, len(b))]
    while pending:
        a0, a1, b0, b1 = pending.pop()
        head, tail = equal_ends(a[a0:a1], b[b0:b1])
        if head:
            yield a0, b0, head
        if tail:
            yield a1 - tail, b1 - tail, tail
        a0, a1, b0, b1 = a0 + head, a1 - tail, b0 + head, b1 - tail
        if a0 == a1 or b0 == b1:
            continue
        anchors = _anchors(a, b, (a0, a1, b0, b1))
        if anchors:
            for i, j in anchors:
                yield i, j, 1
                pending.append((a0, i, b0, j))
                a0, b0 = i + 1, j + 1
            pending.append((a0, a1, b0, b1))
        elif (a1 - a0) * (b1 - b0) <= _MOST_PAIRS:
            for i, j, count in SequenceMatcher(None, a[a0:a1], b[b0:b1], autojunk=False).get_matching_blocks():
                if count:
                    yield a0 + i, b0 + j, count


def _anchors(a: Sequence[T], b: Sequence[T], stretch: _Stretch) -> list[tuple[int, int]]:
    """Return where the lines are that both stretches have once, the most of them that are in one order."""
    a0, a1, b0, b1 = stretch
    once_a, once_b = Counter(a[a0:a1]), Counter(b[b0:b1])
    where = {b[j]: j for j in range(b0, b1)}
    pairs = [(i, where[a[i]]) for i in range(a0, a1) if once_a[a[i]] == 1 and once_b.get(a[i]) == 1]
    return _in_order(pairs)


def _in_order(pairs: Sequence[tuple[int, int]]) -> list[tuple[int, int]]:
    """Return the longest row of pairs that rises in both; they rise in the first already."""
    ends: list[int] = []  # the least second number that a row of each length ends with
    last: list[int] = []  # the index of the pair that it ends with
    before: list[int] = []  # of each pair, the index of the one before it in its row
    for index, (_, j) in enumerate(pairs):
        at = bisect_left(ends, j)
        ends[at : at + 1] = [j]
        last[at : at + 1] = [index]
        before.append(last[at - 1] if at else -1)
    row: list[tuple[int, int]] = []
    index = last[-1] if last else -1
    while index >= 0:
        row.append(pairs[index])
        index = before[index]
    return row[::-1]
