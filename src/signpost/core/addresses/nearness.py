"""What a fragment that leads nowhere may have meant: the page's identifiers, nearest first."""

from __future__ import annotations

import re
from collections.abc import Iterable
from urllib.parse import unquote

from rapidfuzz.distance import DamerauLevenshtein, JaroWinkler
from slugify import slugify

#: How many suggestions are worth reading.
MOST = 5
#: Share of letters that two names have alike, in order, to be near; or how alike they begin.
_LEAST = 0.65
_SOUNDS_LIKE = 0.9
_ALIKE = 1.0  # distance up to which two names are the same in all that is said aloud
_NUMBERS = {
    word: str(number)
    for number, word in enumerate("zero one two three four five six seven eight nine ten eleven twelve".split())
}
_PIECE = re.compile(r"[^\W\d_]+|\d+")


def find_near(fragment: str, names: Iterable[str]) -> list[str]:
    """Return the names that a fragment (without "#") may have meant, nearest first; [] where none is near.

    Nearest are those that differ in letter case alone, then in joiners and in numbers written as words or digits,
    then in a letter or two.
    """
    wanted = unquote(fragment)
    ranked = []
    for name in dict.fromkeys(names):
        distance = _distance(wanted, name)
        if distance is not None:
            ranked.append((distance, name))
    ranked.sort(key=lambda pair: pair[0])
    return [name for _, name in ranked[:MOST]]


def sounds_alike(fragment: str, name: str) -> bool:
    """Return whether a fragment and a name differ in letter case, joiners, escapes and written numbers alone."""
    distance = _distance(unquote(fragment), name)
    return distance is not None and distance <= _ALIKE


def _distance(wanted: str, name: str) -> float | None:
    """Return how far a name is from what was wanted, 0 to 4; None for too far."""
    if name == wanted:
        return 0.0
    if name.casefold() == wanted.casefold():
        return 0.5
    mine, other = _key(wanted), _key(name)
    if mine == other:
        return 1.0
    if not mine or not other:
        return None
    same_numbers = re.findall(r"\d+", mine) == re.findall(r"\d+", other)
    edits = DamerauLevenshtein.normalized_similarity(mine, other) - (0 if same_numbers else 0.1)
    begins = min(len(mine), len(other)) >= _WORTH and (mine.startswith(other) or other.startswith(mine))
    alike = edits >= _LEAST or JaroWinkler.similarity(mine, other) >= _SOUNDS_LIKE
    return 2.0 + (1 - edits) if alike or begins else None


_WORTH = 4  # letters that two names must share for one to be taken for a beginning of the other


def _key(name: str) -> str:
    """Return a name as it sounds: letters and digits alone, numbers as digits."""
    pieces = _PIECE.findall(str(slugify(name)))
    return "".join(_NUMBERS.get(piece, piece.lstrip("0") or "0" if piece.isdigit() else piece) for piece in pieces)
