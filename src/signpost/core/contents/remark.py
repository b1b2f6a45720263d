"""The remark that a contents block carries: which sections it lists, and how they were headed when it was written.

It is a comment at the block's end, so that the page itself says how its contents are brought up to date: an entry
that no longer equals its heading was either left behind by the heading or shortened by the author, and the remark
tells which. A digest of three letters stands for a heading's words.

Of a list that its author made by hand, it also says that it is the author's, what was put around it, and which
entries were added, so that all of that can be removed again.
"""

from __future__ import annotations

import re
import zlib
from collections.abc import Collection, Iterable
from dataclasses import dataclass, replace
from enum import StrEnum
from urllib.parse import quote, unquote

from signpost.core.text.positions import Span

_REMARK = re.compile(r"<!--\s*levels\s+([0-9,\s-]+?)\s*((?:;(?!--)[^;>]*)*?)\s*-->")
_DIGITS = "0123456789abcdefghijklmnopqrstuvwxyz"
#: How long the digest of a heading's words is, and one of an identifier, which has to tell one from all others.
DIGEST_LETTERS = 3
IDENTIFIER_LETTERS = 6


class Adopted(StrEnum):
    """What was done to a list made by hand so that it counts as contents."""

    FRAMED = "framed"  # an element was put around it
    MARKED = "marked"  # the element around it got the class
    LABELLED = "labelled"  # and an accessible name as well
    FOUND = "found"  # it had the class already


@dataclass(frozen=True, slots=True)
class Remark:
    """What a block says of itself."""

    levels: tuple[int, ...]
    left_out: tuple[str, ...] = ()  # identifiers of sections that get no entry
    numbered: bool = False  # whether numbers like 2.3 are written before the entries
    here: bool = False  # whether it lists what is within the section that it is in
    digests: frozenset[str] = frozenset()
    adopted: Adopted | None = None  # None for contents that we made
    added: tuple[str, ...] = ()  # digests of the identifiers whose entries were added to a list made by hand

    def knows(self, words: str) -> bool:
        """Return whether a heading had these words when the block was written."""
        return word_digest(words) in self.digests

    def write(self, order: Iterable[str]) -> str:
        """Return the comment; `order` gives the digests in the order of the entries."""
        pieces = [f"levels {_write_levels(self.levels)}"]
        if self.here:
            pieces.append("of this section")
        if self.numbered:
            pieces.append("numbered")
        if self.adopted:
            pieces.append(f"by hand {self.adopted}")
        if self.added:
            pieces.append("added " + "".join(self.added))
        if self.left_out:
            pieces.append("without " + " ".join(write_name(name) for name in self.left_out))
        digests = "".join(dict.fromkeys(order))
        return f"<!-- {'; '.join([*pieces, f'as headed {digests}'])} -->"


def word_digest(words: str) -> str:
    """Return the digest of a heading's words."""
    return _letters(words, DIGEST_LETTERS)


def identifier_digest(name: str) -> str:
    """Return the digest of an identifier."""
    return _letters(name, IDENTIFIER_LETTERS)


def _letters(words: str, count: int) -> str:
    value = zlib.crc32(words.encode("utf-8", "surrogatepass"))
    letters = ""
    for _ in range(count):
        value, digit = divmod(value, len(_DIGITS))
        letters += _DIGITS[digit]
    return letters


def read_remark(text: str) -> tuple[Remark, Span] | None:
    """Return the remark in a block's markup and where it is; None where there is none."""
    found = _REMARK.search(text)
    if found is None:
        return None
    remark = Remark(_read_levels(found[1]))
    for piece in (piece.strip() for piece in found[2].split(";")):
        word, _, rest = piece.partition(" ")
        if word == "without":
            remark = replace(remark, left_out=tuple(unquote(name) for name in rest.split()))
        elif word == "numbered":
            remark = replace(remark, numbered=True)
        elif word == "of":
            remark = replace(remark, here=True)
        elif word == "by":
            remark = replace(remark, adopted=_read_adopted(rest.removeprefix("hand").strip()))
        elif word == "added":
            remark = replace(remark, added=split_digests(rest.strip(), IDENTIFIER_LETTERS))
        elif word == "as":
            remark = replace(remark, digests=frozenset(split_digests(rest.strip().removeprefix("headed").strip())))
    return remark, Span(found.start(), found.end())


def split_digests(letters: str, length: int = DIGEST_LETTERS) -> tuple[str, ...]:
    """Return the digests that are one after another."""
    return tuple(letters[at : at + length] for at in range(0, len(letters), length))


def _read_adopted(word: str) -> Adopted:
    return Adopted(word) if word in list(Adopted) else Adopted.FOUND


def without_remark(text: str) -> str:
    """Return a stretch of markup without a remark in it."""
    return _REMARK.sub("", text)


def write_name(name: str) -> str:
    """Return an identifier as a comment can contain it: no white space, no "--", no ">"."""
    return quote(name, safe="._~:").replace("-", "%2D") if "--" in name else quote(name, safe="-._~:")


def _write_levels(levels: Collection[int]) -> str:
    chosen = sorted(set(levels))
    runs: list[list[int]] = []
    for level in chosen:
        if runs and level == runs[-1][-1] + 1:
            runs[-1].append(level)
        else:
            runs.append([level])
    return ", ".join(str(run[0]) if len(run) == 1 else f"{run[0]}-{run[-1]}" for run in runs)


def _read_levels(written: str) -> tuple[int, ...]:
    levels: list[int] = []
    for first, last in re.findall(r"(\d)(?:\s*-\s*(\d))?", written):
        levels += range(int(first), int(last or first) + 1)
    return tuple(levels)
