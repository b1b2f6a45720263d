"""What a fragment that leads nowhere may have meant: the page's identifiers, nearest first."""

from __future__ import annotations

import re
from collections.abc import Iterable
from functools import lru_cache
from urllib.parse import unquote

from rapidfuzz import process
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


class NameIndex:
    """Names that fragments may have meant, prepared once and asked again and again."""

    def __init__(self, names: Iterable[str]) -> None:
        self._names = list(dict.fromkeys(names))
        self._keys = [_key(name) for name in self._names]
        self._known: dict[str, list[tuple[int, tuple[float, str]]]] = {}  # of fragments that were asked about
        self._by_case: dict[str, list[int]] = {}
        self._by_beginning: dict[str, list[int]] = {}
        for index, name in enumerate(self._names):
            self._by_case.setdefault(name.casefold(), []).append(index)
            self._by_beginning.setdefault(self._keys[index][:_WORTH], []).append(index)

    def near(self, fragment: str) -> list[str]:
        """Return the names that a fragment (without "#") may have meant, nearest first; [] where none is near.

        Nearest are those that differ in letter case alone, then in joiners and in numbers written as words or digits,
        then in a letter or two.
        """
        return [name for _, name in self._ranked(fragment)[:MOST]]

    def alike(self, fragment: str) -> list[str]:
        """Return the names that differ from a fragment in letter case, joiners, escapes and written numbers alone."""
        found = sorted((index, name) for index, (distance, name) in self._found(fragment) if distance <= _ALIKE)
        return [name for _, name in found]

    def _ranked(self, fragment: str) -> list[tuple[float, str]]:
        found = sorted(self._found(fragment), key=lambda one: (one[1][0], one[0]))
        return [pair for _, pair in found]

    def _found(self, fragment: str) -> list[tuple[int, tuple[float, str]]]:
        if fragment not in self._known:
            self._known[fragment] = self._measured(fragment)
        return self._known[fragment]

    def _measured(self, fragment: str) -> list[tuple[int, tuple[float, str]]]:
        wanted = unquote(fragment)
        measured = ((index, _distance(wanted, self._names[index])) for index in self._likely(wanted))
        return [(index, (distance, self._names[index])) for index, distance in measured if distance is not None]

    def _likely(self, wanted: str) -> set[int]:
        """Return all names that `_distance` may find to be near, and few others; the comparing is done in C."""
        mine = _key(wanted)
        found = set(self._by_case.get(wanted.casefold(), ()))
        if mine:
            for scorer, least in (
                (DamerauLevenshtein.normalized_similarity, _LEAST),
                (JaroWinkler.similarity, _SOUNDS_LIKE),
            ):
                near = process.extract(mine, self._keys, scorer=scorer, score_cutoff=least, limit=None)
                found.update(index for _, _, index in near)
            found.update(self._by_beginning.get(mine[:_WORTH], ()))
        return found


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


@lru_cache(maxsize=20_000)
def _key(name: str) -> str:
    """Return a name as it sounds: letters and digits alone, numbers as digits."""
    pieces = _PIECE.findall(str(slugify(name)))
    return "".join(_NUMBERS.get(piece, piece.lstrip("0") or "0" if piece.isdigit() else piece) for piece in pieces)
