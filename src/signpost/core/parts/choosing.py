"""Where a page is cut best: for a number of parts or a wanted length, with the choices beside it."""

from __future__ import annotations

from collections.abc import Callable, Collection, Sequence
from dataclasses import dataclass
from enum import StrEnum
from itertools import pairwise

from signpost.core.page import Page
from signpost.core.parts.cuts import Cut, find_cuts
from signpost.core.text.errors import RequestError

#: What a cut above a lower heading costs for each level, as a share of a wanted part's length.
LEVEL_PENALTY = 0.25
_NEVER = float("inf")


@dataclass(frozen=True, slots=True)
class Ruler:
    """How length is measured: in words, or in pixels of a rendered page."""

    before: Callable[[Cut], float]  # the length of the content before a cut
    total: float  # of the whole content


def word_ruler(page: Page) -> Ruler:
    """Return the ruler that counts words."""
    return Ruler(lambda cut: cut.words_before, page.words)


class CutReason(StrEnum):
    """Why a way to cut a page is offered."""

    BEST = "best"  # for the wanted number of parts
    FEWER = "fewer"  # one part fewer
    MORE = "more"  # one part more
    EVENEST = "evenest"  # without regard to the headings' levels
    SECTIONS = "sections"  # before each section of the highest level


@dataclass(frozen=True, slots=True)
class Proposal:
    """A way to cut a page."""

    choice: CutReason
    cuts: tuple[Cut, ...]
    unevenness: float  # how far the parts' lengths are from their mean, as a share of it (standard deviation)
    lower: int  # how many cuts are before headings below the highest level
    cost: float  # what the optimum minimises: the squared deviations and the penalties


def best_cuts(
    page: Page, parts: int, *, ruler: Ruler | None = None, fixed: Collection[Cut] = (), least: float = 0.0
) -> list[Cut]:
    """Return the cuts by which the page is best cut into this many parts, in source order.

    The optimum: least sum of squared deviations in length, and a penalty for each cut above a lower heading, both as
    shares of a wanted part's length. Cuts that are `fixed` stay; no part is shorter than `least`, in the ruler's
    unit.
    Raises RequestError where the page cannot be cut so.
    """
    found = _optimum(page, parts, ruler or word_ruler(page), fixed, least, LEVEL_PENALTY)
    if found is None:
        raise RequestError(_refusal(page, parts, ruler or word_ruler(page), fixed, least))
    return found


def parts_for_length(ruler: Ruler, wanted: float) -> int:
    """Return into how many parts a page is cut so that each is about as long as wanted, in the ruler's unit."""
    return max(1, round(min(ruler.total / wanted, _COUNTLESS))) if wanted > 0 else 1


_COUNTLESS = 1_000_000  # parts, for a length that is next to nothing


def find_proposals(
    page: Page, parts: int, *, ruler: Ruler | None = None, fixed: Collection[Cut] = (), least: float = 0.0
) -> list[Proposal]:
    """Return the best way to cut a page into this many parts, and the choices beside it that differ from it."""
    ruler = ruler or word_ruler(page)
    places = _places(page, fixed)
    highest = min((cut.level for cut in places if cut.level is not None), default=None)
    ways: list[tuple[CutReason, list[Cut] | None]] = [
        (CutReason.BEST, _optimum(page, parts, ruler, fixed, least, LEVEL_PENALTY)),
        (CutReason.FEWER, _optimum(page, parts - 1, ruler, fixed, least, LEVEL_PENALTY)),
        (CutReason.MORE, _optimum(page, parts + 1, ruler, fixed, least, LEVEL_PENALTY)),
        (CutReason.EVENEST, _optimum(page, parts, ruler, fixed, least, 0.0)),
        (CutReason.SECTIONS, [cut for cut in places if cut in fixed or cut.level == highest]),
    ]
    found: dict[tuple[int, ...], Proposal] = {}
    for choice, cuts in ways:
        if cuts:
            found.setdefault(tuple(cut.at for cut in cuts), _weigh(choice, cuts, ruler, highest))
    return list(found.values())


def _weigh(choice: CutReason, cuts: Sequence[Cut], ruler: Ruler, highest: int | None) -> Proposal:
    at = [0.0, *map(ruler.before, cuts), ruler.total]
    wanted = max(ruler.total, 1.0) / (len(at) - 1)
    deviations = [((end - start - wanted) / wanted) ** 2 for start, end in pairwise(at)]
    steps = [cut.level - highest for cut in cuts if cut.level is not None and highest is not None]
    cost = sum(deviations) + LEVEL_PENALTY * sum(steps)
    return Proposal(choice, tuple(cuts), (sum(deviations) / len(deviations)) ** 0.5, sum(map(bool, steps)), cost)


def _places(page: Page, fixed: Collection[Cut]) -> list[Cut]:
    places = {cut.at: cut for cut in (*fixed, *find_cuts(page))}
    return [places[at] for at in sorted(places)]


def _refusal(page: Page, parts: int, ruler: Ruler, fixed: Collection[Cut], least: float) -> str:
    """Return why a page cannot be cut into so many parts, and how many there can be."""
    if parts < 1:
        return "A page has at least one part."
    places = _places(page, fixed)
    if len(places) < parts - 1:
        return (
            f"{page.path} can be cut at {len(places)} places, so into at most {len(places) + 1} parts. Ask for fewer."
        )
    if parts - 1 < len(fixed):
        return (
            f"{len(fixed)} cuts are kept, which make {len(fixed) + 1} parts already. Ask for more, or release a cut."
        )
    most = next(
        (n for n in range(parts - 1, 0, -1) if _optimum(page, n, ruler, fixed, least, LEVEL_PENALTY) is not None),
        None,
    )
    can = f"it can be cut into {most}" if most and most > 1 else "it cannot be cut at all"
    return (
        f"With the least length that is set for a part, {page.path} cannot be cut into {parts} parts; {can}. Ask for "
        "fewer, or lower the limit."
    )


def _optimum(
    page: Page, parts: int, ruler: Ruler, fixed: Collection[Cut], least: float, level_penalty: float
) -> list[Cut] | None:
    """Return the best cuts, by dynamic programming over places and parts; None where there are none."""
    cuts = _places(page, fixed)
    if parts < 1 or len(cuts) < parts - 1:
        return None
    highest = min((cut.level for cut in cuts if cut.level is not None), default=1)
    wanted = max(ruler.total, 1) / parts
    at = [0.0, *map(ruler.before, cuts), ruler.total]
    penalty = [0.0, *(level_penalty * ((cut.level or highest) - highest) for cut in cuts), 0.0]
    barrier = _last_fixed(cuts, fixed)
    cost = [0.0] + [_NEVER] * (len(at) - 1)
    came: list[list[int]] = []
    for part in range(parts):
        following = [_NEVER] * len(at)
        source = [0] * len(at)
        # the further back a part ends, the further back it begins: each half of the ends has its half of the starts
        pending = [(part + 1, len(at) - 1, part, len(at) - 2)]
        while pending:
            first, last, low, high = pending.pop()
            if first > last:
                continue
            end = (first + last) // 2
            for start in range(min(end - 1, high), max(low, barrier[end]) - 1, -1):
                length = at[end] - at[start]
                deviation = (length - wanted) / wanted
                if deviation > 0 and deviation * deviation > following[end]:
                    break  # still longer parts only cost more
                total = cost[start] + deviation * deviation + penalty[end]
                if total < following[end] and length >= least:
                    following[end], source[end] = total, start
            never = following[end] == _NEVER
            pending.append((first, end - 1, low, high if never else source[end]))
            pending.append((end + 1, last, low if never else source[end], high))
        cost = following
        came.append(source)
    if cost[-1] == _NEVER:
        return None
    places, end = [], len(at) - 1
    for source in reversed(came):
        end = source[end]
        places.append(end)
    return [cuts[place - 1] for place in sorted(places) if place > 0]


def _last_fixed(cuts: Sequence[Cut], fixed: Collection[Cut]) -> list[int]:
    """Return for each place the last fixed one before it, 0 for none: no part reaches across it."""
    kept = {cut.at for cut in fixed}
    barriers, last = [0], 0
    for place, cut in enumerate(cuts, start=1):
        barriers.append(last)
        if cut.at in kept:
            last = place
    return [*barriers, last]
