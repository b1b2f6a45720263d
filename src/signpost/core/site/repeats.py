"""What repeats on the pages of a site, and so is furniture where the pages do not mark their content."""

from __future__ import annotations

from collections.abc import Collection, Iterable, Sequence

from signpost.core.page.outer_blocks import words_in

#: On how many pages a block is, at least, to be taken for furniture.
_PAGES_ALIKE = 3
#: The digests of the blocks that a page begins and ends with (`Page.outer`).
Outer = Sequence[str]


def find_repeated(outers: Iterable[Outer]) -> frozenset[str]:
    """Return the digests of outer blocks that repeat on pages which mark no content.

    On three pages at least, or on both where there are but two. Copies of a page (a backup, numbered steps) count as
    one, for what they share is not furniture.
    """
    unmarked = [outer for outer in outers if outer]
    least = max(min(len(unmarked), _PAGES_ALIKE), 2)
    holders: dict[str, list[Outer]] = {}
    for outer in unmarked:
        for digest in set(outer):
            if digest:
                holders.setdefault(digest, []).append(outer)
    return frozenset(digest for digest, found in holders.items() if _count_different(found, least) >= least)


def _count_different(outers: Sequence[Outer], most: int) -> int:
    """Return how many of the pages are not copies of one another, counting no further than `most`."""
    different: list[Outer] = []
    for outer in outers:
        if len(different) >= most:
            break
        if not any(_is_copy(outer, other) for other in different):
            different.append(outer)
    return len(different)


def _is_copy(outer: Outer, other: Outer) -> bool:
    """Return whether two pages share most of their words outside links."""
    one, two = set(outer), set(other)
    shared = sum(map(words_in, one & two))
    return 2 * shared > min(sum(map(words_in, one)), sum(map(words_in, two)))


def repeats_on(outer: Outer, repeated: Collection[str]) -> frozenset[str]:
    """Return those of the repeated blocks' digests that a page begins or ends with; what else repeats is its own."""
    if not outer or (outer[0] not in repeated and outer[-1] not in repeated):
        return frozenset()
    return frozenset(digest for digest in outer if digest in repeated)
