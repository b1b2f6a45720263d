"""Two pages, or two revisions of one, side by side: what differs between their outlines, identifiers and links."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from difflib import SequenceMatcher
from enum import StrEnum

from signpost.core.page import Page
from signpost.core.page.outline import Section, read_outline
from signpost.core.text.diffs import FileDiff, unified_diff
from signpost.core.text.edits import shown_text

#: How much two headings' words are alike, from 0 to 1, to be taken for one heading in other words.
_ALIKE = 0.6


class Difference(StrEnum):
    """What may differ between a section and its counterpart."""

    WORDS = "words"  # of its heading
    LEVEL = "level"
    IDENTIFIER = "identifier"
    LENGTH = "length"  # in words, those of sections within left aside


@dataclass(frozen=True, slots=True)
class Pair:
    """A section beside its counterpart; None where it has none."""

    left: Section | None
    right: Section | None
    differences: tuple[Difference, ...]  # in the order of the class; () also where there is no counterpart


@dataclass(frozen=True, slots=True)
class Tally:
    """How many of something are on one side only."""

    left: int
    right: int


@dataclass(frozen=True, slots=True)
class Comparison:
    """What differs between two pages."""

    pairs: tuple[Pair, ...]  # in the order of both
    sections: Tally
    changed: int  # sections that have a counterpart and differ from it
    identifiers: Tally
    links: Tally  # by address and words
    lines: Tally  # of the source
    diff: str  # unified, of the texts with a line feed at every line end


def compare_pages(left: Page, right: Page) -> Comparison:
    """Return what differs between two pages."""
    pairs = pair_sections(read_outline(left).flat(), read_outline(right).flat())
    diff = unified_diff([FileDiff(left.path, shown_text(left.source).encode(), shown_text(right.source).encode())])
    text = diff.decode()
    lines = text.split("\n")[2:]
    return Comparison(
        pairs=tuple(pairs),
        sections=Tally(sum(pair.right is None for pair in pairs), sum(pair.left is None for pair in pairs)),
        changed=sum(bool(pair.differences) for pair in pairs),
        identifiers=_tally((one.name for one in left.targets), (one.name for one in right.targets)),
        links=_tally(((one.href, one.text) for one in left.links), ((one.href, one.text) for one in right.links)),
        lines=Tally(sum(line[:1] == "-" for line in lines), sum(line[:1] == "+" for line in lines)),
        diff=text,
    )


def pair_sections(left: Sequence[Section], right: Sequence[Section]) -> list[Pair]:
    """Return the sections of two pages side by side, in the order of both.

    Those with the same words belong together; between such, those with the same identifier or with words that are
    alike.
    """
    matcher = SequenceMatcher(None, [_key(one) for one in left], [_key(one) for one in right], autojunk=False)
    pairs: list[Pair] = []
    for kind, a1, a2, b1, b2 in matcher.get_opcodes():
        if kind == "equal":
            pairs += [_pair(one, other) for one, other in zip(left[a1:a2], right[b1:b2], strict=True)]
        else:
            pairs += _pair_run(left[a1:a2], right[b1:b2])
    return pairs


def _pair_run(left: Sequence[Section], right: Sequence[Section]) -> list[Pair]:
    """Return pairs of two runs that have no heading in common."""
    pairs: list[Pair] = []
    rest = list(right)
    for one in left:
        at = next((index for index, other in enumerate(rest) if _belong(one, other)), None)
        if at is None:
            pairs.append(Pair(one, None, ()))
            continue
        pairs += [Pair(None, other, ()) for other in rest[:at]]
        pairs.append(_pair(one, rest[at]))
        rest = rest[at + 1 :]
    return pairs + [Pair(None, other, ()) for other in rest]


def _key(section: Section) -> str:
    return section.text.casefold()


def _belong(one: Section, other: Section) -> bool:
    if one.identifier is not None and one.identifier == other.identifier:
        return True
    matcher = SequenceMatcher(None, _key(one), _key(other))
    return matcher.real_quick_ratio() >= _ALIKE and matcher.ratio() >= _ALIKE


def _pair(one: Section, other: Section) -> Pair:
    differs = {
        Difference.WORDS: one.text != other.text,
        Difference.LEVEL: one.level != other.level,
        Difference.IDENTIFIER: one.identifier != other.identifier,
        Difference.LENGTH: one.own_words != other.own_words and one.text == other.text,
    }
    return Pair(one, other, tuple(name for name, found in differs.items() if found))


def _tally(left: Iterable[object], right: Iterable[object]) -> Tally:
    ones, others = Counter(left), Counter(right)
    return Tally((ones - others).total(), (others - ones).total())
